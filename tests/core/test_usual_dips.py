"""Usual dip limits side by side: as the gate would stand, had one of them been set."""

import pytest

from vinegate.core.grade import Verdict, worst_of
from vinegate.core.plan import NOTHING, plan_raw
from vinegate.core.start.usual_dips import usual_dips

PLATE = {"power": "30 hp", "volts": "460", "full_load_current": "36", "frequency": "60", "speed": "1770",
         "design_letter": "B", "code_letter": "G", "service_factor": "1.15", "kind": "cage"}  # fmt: skip


def planned(plate=None, supply=None, dip=""):
    job = {"supply": {"volts": "480", "fault_level": "8 kA", "frequency": "60 Hz"} | (supply or {})}
    circuit = {"plate": PLATE | (plate or {}), "wiring": {"length": "120 ft"}}
    return plan_raw("nec", job | ({"limits": {"dip": dip}} if dip else {}), circuit, beside=NOTHING)


@pytest.mark.parametrize("plate", [{}, {"volts": "480Δ"}, {"code_letter": ""}, {"locked_rotor_current": "217 A"}])
@pytest.mark.parametrize("supply", [{}, {"fault_level": "4 kA"}, {"fault_x_over_r": "6"}])
def test_each_stands_as_its_gate_would(plate, supply):
    found = usual_dips(planned(plate, supply))
    assert [one.limit_pct for one in found] == [3, 5, 10, 15]
    for one in found:
        plan = planned(plate, supply, f"{one.limit_pct:g} %")
        assert one.full is plan.gate("start.dip_full").verdict
        keys = ["start.dip_full", *(["start.dip_wye", "wye_delta.eligible"] if one.wye is not None else [])]
        open_ones = [gate for gate in map(plan.gate, keys) if gate.verdict is Verdict.CHECK]
        assert one.checks == tuple(gate.sentence for gate in open_ones)
        if one.wye is not None:
            pair = [plan.gate(key).verdict for key in ("start.dip_wye", "wye_delta.eligible")]
            assert one.wye is worst_of(pair)


def test_an_estimate_across_the_limit_is_neither_within_nor_over():
    """Letter G is 5.6 to 6.3 kVA a horsepower: 210 to 237 A at 460 V, some 2.8 to 3.2 % where 7.2 kA stands behind it."""
    assert usual_dips(planned(supply={"fault_level": "7.2 kA"}))[0].full is Verdict.CHECK
    assert usual_dips(planned(supply={"fault_level": "14 kA"}))[0].full is Verdict.PASSES
    assert usual_dips(planned(supply={"fault_level": "4 kA"}))[0].full is Verdict.FAILS


def test_nothing_is_within_by_a_plate_that_cannot_be():
    assert planned({"full_load_current": "3.6"}).doubt is not None
    assert usual_dips(planned({"full_load_current": "3.6"}))[3].full is Verdict.CHECK
    assert usual_dips(planned())[3].full is Verdict.PASSES


def test_there_are_none_while_the_moment_is_not_known():
    assert usual_dips(planned(supply={"fault_level": ""})) == ()


# 237 A dip 2.9 % behind 8 kA and 5.6 behind 4; a third of it 1.9: in wye that is the least, and the change-over not known.
@pytest.mark.parametrize(
    ("fault", "found"), [("8 kA", Verdict.PASSES), ("4 kA", Verdict.CHECK), ("2 kA", Verdict.FAILS)]
)
def test_in_wye_it_passes_only_where_full_voltage_does(fault, found):
    first = usual_dips(planned({"volts": "460Δ/797Y", "leads": "6"}, {"fault_level": fault}))[0]
    assert (first.limit_pct, first.wye) == (3, found)


RINGS = {"kind": "wound", "rotor_volts": "320 V", "rotor_current": "85 A", "code_letter": ""}


@pytest.mark.parametrize(
    ("plate", "told"), [({}, True), ({"kind": "capacitor-start"}, True), (RINGS, False), ({"kind": "dc-shunt"}, False)]
)
def test_full_voltage_is_told_of_machines_that_may_start_so(plate, told):
    """A wound rotor starts on its resistor; without one its amperes at rest are not known, and none are asked for."""
    assert ("start.dip_full" in {gate.key for gate in planned(plate, dip="3 %").gates}) is told
