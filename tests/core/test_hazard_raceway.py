"""Conduit in classified locations: PVC does not pass where the code has conditions for it, and passes where it has none."""

import pytest

from tests.conftest import planner
from vinegate.core.facts import RuleSetName
from vinegate.core.grade import Kind, Verdict

STIRRER = planner("harrowmere-lock.json", "M-41")
AREA = "area_2"
DIVISIONS = {
    ("I", "1"): Verdict.CHECK, ("I", "2"): Verdict.CHECK, ("II", "1"): Verdict.FAILS, ("II", "2"): Verdict.CHECK,
    ("III", "1"): None, ("III", "2"): None,
}  # fmt: skip


def found(changes, rules=RuleSetName.NEC):
    gates = [gate for gate in STIRRER(changes, rules).gates if gate.key == "place.raceway"]
    return (gates[0].kind, gates[0].verdict) if gates else None


@pytest.mark.parametrize(("where", "verdict"), DIVISIONS.items())
def test_pvc_by_class_and_division(where, verdict):
    said = {f"{AREA}.hazard_class": where[0], f"{AREA}.division": where[1], "wiring.raceway": "pvc"}
    assert found(said) == (verdict and (Kind.ENGINEERING, verdict))


@pytest.mark.parametrize(
    ("zone", "verdict"),
    [("0", "fails"), ("1", "check"), ("2", "check"), ("20", "fails"), ("21", "fails"), ("22", "check")],
)
def test_pvc_by_zone(zone, verdict):
    said = {f"{AREA}.status": "zone", f"{AREA}.zone": zone, "wiring.raceway": "pvc"}
    assert found(said) == (Kind.ENGINEERING, Verdict(verdict))


def test_what_settles_it_does_and_metal_is_confirmed_where_its_kind_matters():
    pvc = STIRRER({"wiring.raceway": "pvc"})
    assert pvc.verdict is Verdict.CHECK
    assert STIRRER({"wiring.raceway": pvc.gate("place.raceway").turns.passes_as}).verdict is Verdict.PASSES
    assert found({"wiring.raceway": "steel"}) == (Kind.CONFIRM, Verdict.UNKNOWN)
    assert found({"wiring.raceway": "steel", f"{AREA}.hazard_class": "II", f"{AREA}.division": "2"}) is None


def test_the_stricter_end_of_the_run_counts_and_ordinary_places_ask_nothing():
    motor, starter = STIRRER({"wiring.raceway": "pvc"}), {"place.motor": "area_1", "wiring.raceway": "pvc"}
    assert motor.gate("place.raceway").sentence.startswith("In digester house")
    assert found(starter | {"place.starter": AREA}) == (Kind.ENGINEERING, Verdict.CHECK)
    assert found(starter | {"place.drive": AREA}) == (Kind.ENGINEERING, Verdict.CHECK)
    assert found(starter | {"place.starter": "area_1"}) is None
    assert found({"wiring.raceway": "pvc"}, RuleSetName.IEC) is None


# Tubing, rigid and flexible conduit, thin and thick PVC by area (501.10, 502.10, 503.10, 505.15, 506.15).
KINDS = {
    ("I", "1"): {"emt": "fails", "fmc": "fails", "lfmc": "fails", "rmc": None, "pvc-40": "check", "pvc-80": "check"},
    ("I", "2"): {"emt": "fails", "lfmc": "check", "imc": None, "pvc-40": "fails", "pvc-80": "check"},
    ("II", "1"): {"emt": "fails", "lfmc": "check", "pvc-80": "fails"},
    ("II", "2"): {"emt": None, "lfmc": "check", "pvc-40": "fails", "pvc-80": "check"},
    ("III", "1"): {"emt": None, "pvc-40": None, "fmc": "check"},
}


@pytest.mark.parametrize(("where", "kind", "verdict"), [(w, k, v) for w, row in KINDS.items() for k, v in row.items()])
def test_each_kind_of_conduit_by_class_and_division(where, kind, verdict):
    said = {
        f"{AREA}.hazard_class": where[0],
        f"{AREA}.division": where[1],
        "wiring.raceway": None,
        "wiring.conduit_kind": kind,
    }
    gate = found(said)
    assert (gate[1] if gate and gate[0] is Kind.ENGINEERING else None) == (verdict and Verdict(verdict))


@pytest.mark.parametrize(("zone", "tubing"), [("1", "fails"), ("2", "fails"), ("21", "fails"), ("22", None)])
def test_tubing_by_zone(zone, tubing):
    gate = found({f"{AREA}.status": "zone", f"{AREA}.zone": zone, "wiring.conduit_kind": "emt"})
    assert gate == (tubing and (Kind.ENGINEERING, Verdict(tubing)))


def test_what_settles_a_flexible_one_does():
    flexible = STIRRER({f"{AREA}.division": "2", "wiring.conduit_kind": "lfmc"}).gate("place.raceway")
    assert flexible.turns.path == "wiring.conduit_kind"
    assert "flexible conduit only" in flexible.sentence
    assert "tubing is none" in STIRRER({"wiring.conduit_kind": "emt"}).gate("place.raceway").sentence
    assert found({f"{AREA}.division": "2", "wiring.conduit_kind": flexible.turns.passes_as}) == (
        Kind.CONFIRM,
        Verdict.UNKNOWN,
    )
