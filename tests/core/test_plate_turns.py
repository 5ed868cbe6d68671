"""Where a gate of the plate is to check: what it names settles it either way, and lies just past its edge."""

import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict

P11, W2, H1 = (
    planner("harrowmere-lock.json", "P-11"),
    planner("skerry-sound.json", "W-2"),
    planner("skerry-sound.json", "H-1"),
)
PER_HP = 75 / (3**0.5 * 0.46)  # amperes of one kVA a horsepower

LETTER_G = {"plate.code_letter": "G"}
ALONE = {"plate.efficiency": None, "plate.power_factor": None}


@pytest.mark.parametrize(
    ("plan", "changes", "key", "edge"),
    [
        # IEC 60034-1, zone A within 2 %, B within 5 % below and 3 % above
        (W2, {"supply.frequency": "48.7 Hz"}, "plate.frequency", 49.0),
        (W2, {"supply.frequency": "51.3 Hz"}, "plate.frequency", 51.0),
        # letter G: from 5.6 to 6.3 kVA a horsepower
        (P11, LETTER_G | {"plate.locked_rotor_current": "525 A"}, "plate.letter", 5.6 * PER_HP),
        (P11, LETTER_G | {"plate.locked_rotor_current": "595 A"}, "plate.letter", 6.3 * PER_HP),
        (P11, ALONE | {"plate.power_factor": "0.75"}, "plate.power", None),
        (P11, ALONE | {"plate.efficiency": "74 %"}, "plate.power", None),
    ],
)
def test_what_it_names_settles_it(plan, changes, key, edge):
    gate = plan(changes).gate(key)
    assert gate.verdict is Verdict.CHECK
    for text, verdict in ((gate.turns.passes_as, Verdict.PASSES), (gate.turns.fails_as, Verdict.FAILS)):
        assert plan(changes | {gate.turns.path: text}).gate(key).verdict is verdict, text
    if edge is not None:
        assert float(gate.turns.passes_as.split()[0]) == pytest.approx(edge, rel=0.003)


@pytest.mark.parametrize(("watts", "verdict"), [(750, Verdict.FAILS), (760, Verdict.PASSES)])
def test_a_machine_of_just_750_watts_is_judged_with_the_smaller_ones(watts, verdict):
    """Efficiency times power factor of 0.89: up to 750 W no machine passes 0.86, above 0.92."""
    plate = ALONE | {"plate.volts": "400Δ", "plate.power": f"{watts} W",
                     "plate.full_load_current": f"{watts / (3**0.5 * 400 * 0.89):.5g}"}  # fmt: skip
    assert H1(plate).gate("plate.power").verdict is verdict


@pytest.mark.parametrize(("factor", "missed"), [(None, True), ("1.0", True), ("1.05", False), ("1.15", False)])
def test_the_rise_of_a_service_factor_begins_above_one(factor, missed):
    """Class B bears 80 K, 90 K where the machine may be overloaded for ever (NEMA MG 1 12.43)."""
    plate = {"plate.insulation_class": "B", "plate.temperature_rise": "89 K", "plate.service_factor": factor}
    assert ("plate.rise" in {gate.key for gate in P11(plate).gates}) is missed
