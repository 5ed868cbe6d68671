"""Insulation past the end of an instrument's range: at least so much, never exactly."""

import pytest

from tests.core.test_record import gate, planned
from vinegate.core.grade import Verdict
from vinegate.core.measured import AtLeast
from vinegate.core.numbers import QuantityError
from vinegate.core.record.quantities import INSULATION

PASSES, FAILS, UNKNOWN = Verdict.PASSES, Verdict.FAILS, Verdict.UNKNOWN


@pytest.mark.parametrize(("r10", "verdict"), [("39 MΩ", Verdict.FAILS), ("41 MΩ", Verdict.PASSES)])
def test_polarization_index_of_class_f_is_two(r10, verdict):
    found = gate("P-11", "record.index", record_insulation={"r1": "20 MΩ", "r10": r10, "winding_at": "40 °C"})
    assert found.verdict is verdict


@pytest.mark.parametrize(("r1", "verdict"), [("4.9 GΩ", FAILS), ("5.1 GΩ", PASSES)])
def test_above_five_thousand_megohms_an_index_says_nothing(r1, verdict):
    """IEEE 43:2013 12.2.2: a winding so dry charges no more slowly after ten minutes than after one."""
    found = gate("P-11", "record.index", record_insulation={"r1": r1, "r10": r1, "winding_at": "40 °C"})
    assert found.verdict is verdict


@pytest.mark.parametrize("text", ["> 2 GΩ", ">2000 MΩ", "≥ 2000", "over 2 GOhm", ">= 2000000 kΩ"])
def test_the_end_of_a_range_is_another_fact_than_the_number(text):
    found = INSULATION.read(text)
    assert isinstance(found, AtLeast)
    assert float(found) == 2e9
    assert found != 2e9 != found  # what is kept of a plan is kept by equal facts
    assert found == INSULATION.read("> 2000 MΩ")
    assert INSULATION.show(found, us=False) == "> 2000 MΩ"


@pytest.mark.parametrize("text", ["OL", "over range", "∞", ">"])
def test_past_a_range_its_end_is_asked(text):
    with pytest.raises(QuantityError, match="write where that ends"):
        INSULATION.read(text)


@pytest.mark.parametrize(
    ("r1", "r10", "resistance", "index"),
    [
        ("> 2 GΩ", None, PASSES, None),
        ("> 3 MΩ", None, UNKNOWN, None),  # 5 MΩ are the least: its range ended below
        ("3 MΩ", None, FAILS, None),
        ("> 2 GΩ", "> 2 GΩ", PASSES, UNKNOWN),
        ("> 2 GΩ", "3 GΩ", PASSES, UNKNOWN),
        ("900 MΩ", "> 2 GΩ", PASSES, PASSES),  # 2.2 at least
        ("1.2 GΩ", "> 2 GΩ", PASSES, UNKNOWN),  # 1.7 at least, 2 asked
        ("1.2 GΩ", "2 GΩ", PASSES, FAILS),
        ("> 10 GΩ", "> 10 GΩ", PASSES, PASSES),  # above 5 GΩ it says nothing
    ],
)
def test_a_range_that_ends_is_judged_by_what_it_surely_says(r1, r10, resistance, index):
    found = planned("P-11", record_insulation={"r1": r1, "r10": r10 or "", "winding_at": "40 °C"})
    said = {gate.key: gate for gate in found.gates if gate.key in ("record.insulation", "record.index")}
    assert said["record.insulation"].verdict is resistance
    assert (said["record.index"].verdict if index else None) is index
    assert all(gate.weighs is (gate.verdict is FAILS) for gate in said.values())
