"""The ohms of an armature, against what its plate loses in all; 25 hp of 240 V and 89 A lose 21 360 − 18 650 = 2 710 W."""

import pytest

from vinegate.core.grade import Verdict
from vinegate.core.plan import NOTHING, plan_raw

SUPPLY = {"supply": {"volts": "480", "fault_level": "14 kA", "frequency": "60 Hz"}}
DIRECT = {"kind": "dc-shunt", "power": "25 hp", "volts": "240", "full_load_current": "89", "speed": "1750"}


def planned(ohms, **plate):
    circuit = {"plate": DIRECT | plate, "machine": {"armature_resistance": ohms, "inertia": "0.2 kg·m²"},
               "load": {"kind": "constant", "power": "20 hp", "inertia": "1 kg·m²"},
               "stop": {"method": "armature"}}  # fmt: skip
    return plan_raw("nec", SUPPLY, circuit, beside=NOTHING)


def gate(plan):
    return next((one for one in plan.gates if one.key == "machine.armature"), None)


@pytest.mark.parametrize("kind", ["dc-shunt", "dc-series", "dc-compound", "dc-permanent"])
@pytest.mark.parametrize(
    ("ohms", "verdict"),
    [
        ("0.17 Ω", Verdict.PASSES),  # a half of the losses
        ("0.23 Ω", Verdict.PASSES),  # (2710 − 2 % of 21 360)/1.25/89²
        ("0.24 Ω", Verdict.CHECK),
        ("0.49 Ω", Verdict.CHECK),
        ("0.51 Ω", Verdict.FAILS),  # a quarter more than all of them, and what is rounded
        ("0.025 Ω", Verdict.PASSES),
        ("0.022 Ω", Verdict.CHECK),  # less than a twelfth
        ("0.00017 Ω", Verdict.CHECK),  # mΩ typed as Ω, or read so
    ],
)
def test_they_are_a_part_of_the_losses(kind, ohms, verdict):
    assert gate(planned(ohms, kind=kind)).verdict is verdict


def test_what_is_said_to_settle_it_does():
    turns = gate(planned("0.01 Ω")).turns
    assert gate(planned(turns.passes_as)).verdict is Verdict.PASSES


@pytest.mark.parametrize("ohms", ["2.7 Ω", "100 Ω"])
def test_no_machine_turns_on_an_armature_that_takes_all_volts(ohms):
    plan = planned(ohms)
    assert plan.machine is None
    assert gate(plan).verdict is Verdict.FAILS


def test_of_a_plate_that_does_not_add_up_nothing_is_made():
    """5 MW of 240 V and 89 A: an estimate of its armature would take more than all volts."""
    plan = planned("", power="5 MW")
    assert plan.machine is None
    assert plan.verdict is Verdict.FAILS


def test_nothing_is_asked_where_nothing_was_given_or_of_a_cage():
    assert gate(planned("")) is None
    assert gate(planned("5 Ω", kind="cage", frequency="60", full_load_current="62", design_letter="B")) is None


def test_a_stop_is_worked_with_the_ohms_that_were_given():
    """Rheostatic: more of its own ohms, less current through the resistor at the same speed, a longer stop."""
    given, usual, more = (planned(ohms).stopping for ohms in ("0.171 Ω", "", "0.27 Ω"))
    assert given.used.time_s == pytest.approx(usual.used.time_s, rel=0.01)
    assert more.used.time_s > 1.01 * usual.used.time_s
