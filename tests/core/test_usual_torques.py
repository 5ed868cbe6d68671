"""What a cage machine is taken to give at rest where its plate has no letter, or a power that no table has."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.good import GOOD
from vinegate.core.grade import Verdict
from vinegate.core.machine.design import least_torques, usual_locked_rotor
from vinegate.core.quantity import WATT_PER_HP

POLES = st.sampled_from((2, 4, 6, 8))
BIG = {
    "plate.power": "400 kW", "plate.full_load_current": "690", "plate.volts": "400Δ", "plate.speed": "1488", "plate.frame": None,
    "plate.efficiency": "96.2 %", "plate.power_factor": "0.87", "plate.starting_current_ratio": "6.5", "plate.design_letter": None,
    "machine.inertia": "9 kg·m²", "machine.locked_rotor_torque": None, "machine.pull_up_torque": None,
    "machine.breakdown_torque": None, "load.kind": "constant", "load.inertia": "5 kg·m²", "load.breakaway": None,
    "supply.transformer_power": "10000 kVA", "supply.fault_level": "1000 MVA", "wiring.size": "300 mm²", "wiring.sets": "4",
    "start.method": "full-voltage", "limits.dip": "20 %",
}  # fmt: skip


@given(kw=st.floats(0.41, 630), poles=POLES)
def test_the_least_of_what_is_usual_lies_below_what_designs_promise(kw, poles):
    """The low end of its band, 0.6 of it, is no more than design N's or B's least: a letter makes nothing worse."""
    usual = usual_locked_rotor(power_w=1000 * kw, poles=poles).value_pu
    for design in "NB":
        floor = least_torques(power_w=1000 * kw, poles=poles, design=design).locked_rotor
        assert floor is None or 0.6 * usual <= floor.value_pu
    assert 1.0 <= usual <= 1.5


@given(kw=st.floats(0.2, 2000), more=st.floats(1, 4), poles=POLES)
def test_a_larger_one_gives_no_more(kw, more, poles):
    small, large = (usual_locked_rotor(power_w=1000 * one, poles=poles).value_pu for one in (kw, kw * more))
    assert large <= small


@pytest.mark.parametrize(("kw", "poles", "usual"), [(90, 4, 1.5), (132, 2, 1.44), (315, 4, 1.2), (1200, 12, 1.04)])
def test_a_small_one_gives_what_is_usual_and_a_large_one_less(kw, poles, usual):
    """1.6 times IEC 60034-12's 0.9, 0.75 and 0.65, whose last row stands for what is larger yet."""
    found = usual_locked_rotor(power_w=1000 * kw, poles=poles)
    assert found.value_pu == pytest.approx(usual)
    assert ("1.6 times the least of its size by NEMA MG 1" in found.source and "IEC 60034-12" in found.source) is (
        usual < 1.5
    )


@pytest.mark.parametrize(
    ("hp", "design", "three"),
    [
        (30, "B", (1.5, 2.0, 1.05)),
        (35, "B", (1.4, 2.0, 1.0)),  # 150 and 140 %
        (4, "B", (1.85, 2.25, 1.295)),  # 215 and 185 %; 250 and 225 %
        (325, "A", (0.8, 1.75, 0.72)),
        (4, "C", (2.55, 2.0, 1.785)),  # its table begins at 3 hp: 270 and 255 %
        (0.6, "B", (None, None, None)),  # of 4 poles it begins at 1 hp
        (600, "B", (None, None, None)),
    ],
)
def test_a_power_between_two_rows_has_the_lesser_of_both(hp, design, three):
    found = least_torques(power_w=hp * WATT_PER_HP, poles=4, design=design)
    got = (found.locked_rotor, found.breakdown, found.pull_up)
    assert [one and one.value_pu for one in got] == pytest.approx(three)
    assert found.locked_rotor is None or (": the lesser of " in found.locked_rotor.source) is (hp != 30)


@pytest.mark.parametrize(("power", "unsaid", "letter"), [("160 kW", Verdict.CHECK, Verdict.CHECK),
                                                         ("100 kW", Verdict.PASSES, Verdict.PASSES)])  # fmt: skip
def test_saying_the_letter_of_a_large_machine_takes_no_approval_back(power, unsaid, letter):
    """400 kW: design N gives 60 % on the way up at least, of which 85 % are left at these volts."""
    plan = GOOD["IEC, direct"]
    assert plan(BIG | {"load.power": power}).gate("start.torque").verdict is unsaid
    assert plan(BIG | {"load.power": power, "plate.design_letter": "N"}).gate("start.torque").verdict is letter
