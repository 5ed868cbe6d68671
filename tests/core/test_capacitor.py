"""Capacitors at the motor: behind what they may be, and how large."""

import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict

LOCK, SOUND = "harrowmere-lock.json", "skerry-sound.json"
B42 = planner(LOCK, "B-42")
PASSES, CHECK, FAILS = Verdict.PASSES, Verdict.CHECK, Verdict.FAILS


def gates(plan):
    return {gate.key: gate.verdict for gate in plan.gates}


@pytest.mark.parametrize(("kvar", "verdict"), [("4.3", PASSES), ("5.2", FAILS), ("5", CHECK)])
def test_at_most_nine_tenths_of_what_it_idles_with_as_measured(kvar, verdict):
    """6.7 A at 460 V are 5.34 kvar, of which 4.80; the reading is good to a twentieth."""
    found = B42({"protection.motor_capacitor": f"{kvar} kvar", "machine.no_load_current": "6.7 A"})
    gate = found.gate("protection.capacitor_size")
    assert (gate.verdict, gate.limit) == (verdict, pytest.approx(0.9 * 3**0.5 * 0.46 * 6.7))
    assert gate.sentence.startswith(f"{kvar} kvar; 90 % of what it idles with are 4.8 kvar.")


def test_a_fitted_circuit_says_it_to_a_quarter():
    assert B42({"protection.motor_capacitor": "5 kvar"}).gate("protection.capacitor_size").verdict is CHECK
    assert B42({"protection.motor_capacitor": "2 kvar"}).gate("protection.capacitor_size").verdict is PASSES
    assert B42({"protection.motor_capacitor": "8 kvar"}).gate("protection.capacitor_size").verdict is FAILS


@pytest.mark.parametrize(
    ("file", "tag", "changes", "verdict"),
    [
        (LOCK, "B-42", {}, PASSES),
        (LOCK, "B-42", {"start.reversing": "yes"}, FAILS),
        (LOCK, "B-42", {"protection.jogging": "yes"}, FAILS),
        (LOCK, "D-61", {"start.method": "full-voltage"}, PASSES),
        (LOCK, "D-61", {"start.method": "full-voltage", "starter.speeds": "constant"}, FAILS),
        (LOCK, "P-11", {}, FAILS),  # by a soft starter, as advised
        (LOCK, "P-11", {"start.method": "full-voltage"}, PASSES),
        (LOCK, "X-51", {"start.transition": "closed", "stop.method": "coast"}, PASSES),
        (LOCK, "X-51", {"stop.method": "coast"}, FAILS),  # open
        (SOUND, "F-3", {}, FAILS),  # by a drive
    ],
)
def test_not_behind_electronics_nor_where_it_is_closed_on_its_own_volts(file, tag, changes, verdict):
    plan = planner(file, tag)(changes | {"protection.motor_capacitor": "1 kvar"})
    assert gates(plan)["protection.capacitor"] is verdict


def test_a_stop_against_its_own_volts_fails():
    """Direct current, plugging and a load that drives it; coasting and a brake may be."""
    few = {"protection.motor_capacitor": "1 kvar"}
    x51, g21 = planner(LOCK, "X-51"), planner(LOCK, "G-21")
    for way, fails in (("dc", True), ("plugging", True), ("coast", False), ("brake", False)):
        assert ("stop.capacitor" in gates(x51(few | {"stop.method": way}))) is fails, way
    assert gates(g21(few))["stop.capacitor"] is FAILS


def test_without_capacitors_nothing_is_asked():
    for tag in ("B-42", "X-51", "G-21"):
        assert not {key for key in gates(planner(LOCK, tag)()) if "capacitor" in key}


@pytest.mark.parametrize(
    ("method", "verdict"), [(None, Verdict.UNKNOWN), ("full-voltage", PASSES), ("soft-starter", FAILS)]
)
def test_what_starts_it_decides_and_is_asked_while_nothing_says_it(method, verdict):
    """Without a load no way is advised."""
    plan = B42({"load.kind": None, "start.method": method, "protection.motor_capacitor": "2 kvar"})
    assert plan.gate("protection.capacitor").verdict is verdict
