"""Figures and words of small print that nothing else holds: each by hand, or from the table that it repeats."""

import cmath
import math

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.conftest import planner
from tests.core.good import GOOD
from vinegate.core.answer import failing
from vinegate.core.grade import Verdict, rule
from vinegate.core.machine.circuit import operate
from vinegate.core.plate.sizes import HORSEPOWERS
from vinegate.core.record.unbalance import negative_pct
from vinegate.core.tables import load

P11, X51, F3 = (
    planner("harrowmere-lock.json", "P-11"),
    planner("harrowmere-lock.json", "X-51"),
    planner("skerry-sound.json", "F-3"),
)
DC = GOOD["NEC, direct current"]
LEFT_TO_ITSELF = {"plate.field_volts": None, "plate.field_current": None}


@given(st.floats(400, 500), st.floats(400, 500), st.floats(400, 500))
def test_negative_over_positive_sequence_by_its_phasors(first, second, third):
    """A triangle of three volts, its sequences by the turning operator."""
    cosine = (first**2 + third**2 - second**2) / (2 * first * third)
    assume(abs(cosine) < 1)
    u12, u31 = complex(first), cmath.rect(third, math.pi - math.acos(cosine))
    u23 = -u12 - u31
    turn = cmath.rect(1, 2 * math.pi / 3)
    ends = sorted(abs(u12 + a * u23 + b * u31) for a, b in ((turn, turn**2), (turn**2, turn)))
    assert negative_pct(first, second, third) == pytest.approx(100 * ends[0] / ends[1], abs=1e-4)


def test_horsepowers_are_those_of_the_table():
    table = [float(row["hp"]) for row in load("full_load_current_3ph").rows if float(row["hp"]) >= 1]
    assert list(HORSEPOWERS) == table


@pytest.mark.parametrize(("count", "says"), [(1, ""), (3, " Also: g1, g2."), (5, " Also: g1, g2, g3 and 1 more.")])
def test_what_fails_besides_is_named_three_times_and_counted_then(count, says):
    gates = [rule(f"a.{place}", f"G{place}", False, "It does not.", "a standard") for place in range(count)]
    assert "".join(piece.text for piece in failing(gates)).endswith(f"It does not.{says}")


def test_a_load_with_a_limit_of_its_own_is_told_in_per_cent():
    gate = next(one for one in P11({"main_board.sensitive": "own", "main_board.sensitive_least": "90 %"}).gates
                if one.key == "start.sensitive")  # fmt: skip
    assert gate.limit == 90
    assert gate.sentence == f"MSB falls to {gate.value:.0f} %, 90 % asked."
    assert 90 < gate.value < 100


@pytest.mark.parametrize(
    ("facts", "watched"), [({}, True), ({"plate.kind": "dc-compound"}, True),
                           ({"plate.kind": "dc-permanent", **LEFT_TO_ITSELF}, False),
                           ({"plate.kind": "dc-series", **LEFT_TO_ITSELF}, False)],
)  # fmt: skip
def test_a_field_that_is_fed_is_watched(facts, watched):
    """Its loss opens the armature: unloaded the machine would run away (NFPA 70:2023 430.89)."""
    drawn = DC(facts).found["starter"]
    assert ("FL" in {one.tag for one in drawn.circuit.inputs}) is watched
    assert all(("FL" in str(one.logic)) is watched for one in drawn.circuit.devices if one.tag == "MA")


def test_a_drive_that_does_not_look_meets_a_rotor_ahead_of_its_field():
    """Begun at its slowest frequency, with the volts of that, on a rotor that still turns."""
    plan = F3({})
    driven, machine = plan.found["drive"].driven, plan.machine
    hertz = max(driven.rows[-1].hz, 2.5)
    rpm = driven.coast.share * driven.rows[0].point.rpm
    run = operate(
        machine.circuit, 1 - rpm / (3000 * hertz / 50), volts_v=machine.volts_v * hertz / 50, frequency_hz=hertz
    )
    assert driven.coast.uncaught_a == pytest.approx(float(run.line_current_a), rel=0.02)


def test_a_slower_rise_leaves_less_at_the_end_of_a_lead():
    facts = {"drive.filter": "none", "drive.lead": "20 m"}
    peaks = [F3(facts | {"drive.rise": f"{rise} µs"}).gate("drive.insulation").value for rise in (0.1, 0.4, 1.0, 3.0)]
    assert peaks == sorted(peaks, reverse=True)
    assert peaks[0] > 1.3 * peaks[-1]


@pytest.mark.parametrize(("times", "passes"), [(1.02, True), (0.97, False)])
def test_the_rise_that_settles_a_winding_does(times, passes):
    facts = {"drive.filter": "none", "drive.lead": "20 m"}
    named = float(F3(facts).gate("drive.insulation").sentence.split("rise time is ")[1].split()[0])
    gate = F3(facts | {"drive.rise": f"{times * named:.4f} µs"}).gate("drive.insulation")
    assert (gate.verdict is Verdict.PASSES) is passes


def test_a_ramp_that_is_too_steep_is_told_of_rated_torque():
    """`J·Δω/t` in one second over the drive's own: what turns is 18 kg·m² and the rotor's."""
    plan = X51({"stop.method": "drive-brake", "stop.drive_ramp": "1 s", "stop.within": "60 s"})
    sentence = plan.gate("stop.stop").sentence
    asked, gives = (
        float(part.split()[-1]) for part in sentence.split(" % of rated torque")[0:1] + sentence.split(" %.")[0:1]
    )
    rated = 60 * 745.7 / (1780 * math.pi / 30)
    by_hand = 100 * plan.figure("load.inertia_total").value * 1780 * math.pi / 30 / rated
    assert asked == pytest.approx(by_hand, rel=0.1)
    assert gives == 100


def test_computers_on_a_weak_supply_are_told_below_which_level_and_for_how_long():
    """The curve bears 10 s below 90 %."""
    facts = {"start.method": "full-voltage", "main_board.sensitive": "iti", "supply.transformer_power": "150 kVA"}
    short, long = (next(one for one in P11(facts | {"load.inertia": inertia}).gates if one.key == "start.sensitive")
                   for inertia in ("4 kg·m²", "40 kg·m²"))  # fmt: skip
    assert short.verdict is Verdict.PASSES
    assert short.sentence == "MSB falls to 85 %, within the curve."
    assert long.verdict is Verdict.FAILS
    assert long.sentence == "MSB stays below 90 % for 12 s; 10 s is allowed."


def test_past_its_drive_a_circuit_is_judged_by_keys_of_its_own():
    keys = {gate.key for gate in F3({}).gates if gate.key.startswith("starter.bypass_")}
    assert {"starter.bypass_dip", "starter.bypass_torque", "starter.bypass_heat"} <= keys
    assert {"starter.bypass_protection_class", "starter.bypass_stop_stop"} <= keys
    assert not any(key.startswith(("starter.bypass_start_", "starter.bypass_class")) for key in keys)
