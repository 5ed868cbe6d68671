"""Edges of figures that a standard states, on both sides: zones of volts, a service factor."""

import pytest

from tests.conftest import planner

H1, P11 = planner("skerry-sound.json", "H-1"), planner("harrowmere-lock.json", "P-11")


@pytest.mark.parametrize(
    ("volts", "verdict"),
    [("420 V", "passes"), ("421 V", "check"), ("440 V", "check"), ("441 V", "fails"),
     ("380 V", "passes"), ("379 V", "check"), ("360 V", "check"), ("359 V", "fails")],
)  # fmt: skip
def test_zones_a_and_b_of_400_volts(volts, verdict):
    """IEC 60034-1:2022 7.3: 5 % for ever, 10 % at times."""
    assert H1({"supply.volts": volts}).gate("plate.volts").verdict == verdict


@pytest.mark.parametrize(
    ("hp", "verdict"), [("75 hp", "passes"), ("76 hp", "check"), ("86 hp", "check"), ("87 hp", "fails")]
)
def test_within_and_past_its_service_factor(hp, verdict):
    gate = P11({"load.power": hp}).gate("load.power")
    assert gate.verdict == verdict
    if gate.turns is not None:
        assert P11({"load.power": gate.turns.passes_as}).gate("load.power").verdict == "passes"
        assert P11({"load.power": gate.turns.fails_as}).gate("load.power").verdict == "fails"
