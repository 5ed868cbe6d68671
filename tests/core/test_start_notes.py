"""What the start's sheet says beside its numbers: each sentence where it applies, with figures worked by hand, and only there."""

import math

import pytest

from tests.conftest import whole
from tests.core.recordings import side

P11 = whole("harrowmere-lock.json", "P-11")


def notes(changes=None):
    return " ".join(P11(changes or {}).stage("start").notes)


def test_an_autotransformers_tap_counts_once_for_the_motor_and_twice_for_the_line():
    assert "tap of 65 % gives the motor 65 % of its current but the line only 42 % of it" in notes({"start.tap": "65"})


def test_what_one_start_adds_to_the_billed_demand():
    """Heat of the full-voltage start and kinetic energy at 98 % of synchronous, over a quarter of an hour."""
    plan, plant = P11(), side("P-11").plant
    kinetic_j = plant.inertia_kgm2 * (0.98 * 2 * math.pi * 20) ** 2 / 2  # six poles at 60 Hz: 20 turns a second
    kw = (plan.comparison.row("full-voltage").heat_j + kinetic_j) / 1000 / 900
    assert f"one start at full voltage adds about {kw:.2g} kW to it. A contract" in notes({"limits.demand_price": None})
    assert f"{kw:.2g} kW to it, {12 * kw:.2g} a month." in notes({"limits.demand_price": "12"})


def test_a_drive_that_only_starts_loses_three_per_cent_all_year():
    """0.03 · 75 hp · 0.7457 = 1.678 kW; 14,698 kWh in 8760 h, 2058 at 0.14."""
    assert "loses about 1.7 kW at full speed: 14698 kWh in a year of running." in notes({"limits.energy_price": None})
    assert "a year of running, 2058 a year." in notes({"limits.energy_price": "0.14"})
    assert "only to start loses" not in notes({"start.speed_control": "yes"})


@pytest.mark.parametrize(("load", "said"), [({}, False), ({"load.kind": "constant", "load.breakaway": "90 %"}, True)])
def test_a_third_of_the_torque_over_the_whole_speed_range(load, said):
    assert ("In wye the machine has a third of its torque" in notes(load)) is said


@pytest.mark.parametrize(("limit", "said"), [(None, False), ("3.5", False), ("2", True)])
def test_a_limit_that_does_not_carry_the_load_up(limit, said):
    text = notes({"start.soft_limit": limit})
    assert ("A limit of 2 × rated current does not carry this load up" in text) is said


@pytest.mark.parametrize(
    ("method", "said"), [("soft-starter", True), ("drive", True), ("full-voltage", False), ("autotransformer", False)]
)
def test_only_electronics_make_harmonics(method, said):
    assert ("It makes harmonics while it works" in notes({"start.method": method})) is said


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({}, ""),
        ({"start.reversing": "yes", "start.method": "full-voltage"}, "Reversing needs a second line contactor"),
        ({"start.reversing": "yes", "start.method": "drive"}, "Reversing: the drive turns the field itself"),
    ],
)
def test_reversing_by_contactors_or_by_the_field(changes, said):
    assert said in notes(changes)
    assert bool(said) is ("Reversing" in notes(changes))


def test_capacitors_resonate_where_the_root_of_short_circuit_over_kilovars_says():
    """500 kVA at 5 % alone would be 10 MVA; behind the utility it is what the sheet's fault makes of 480 V."""
    kva = math.sqrt(3) * 0.48 * 1000 * P11().figure("supply.fault_at_board").value
    for kvar in (100, 190):
        order = math.sqrt(kva / kvar)
        text = notes({"main_board.capacitor_power": f"{kvar} kvar"})
        assert f"With {kvar} kvar on " in text
        assert f"resonates at harmonic {order:.1f}: " in text
        near = min((5, 7, 11, 13), key=lambda one: abs(one - order))
        assert (f"close to the {near}th" in text) is (abs(near - order) < 0.6)


def test_the_soft_stop_is_held_against_coasting():
    stop = P11({"start.soft_stop": "yes", "start.soft_stop_ramp": "8 s"}).comparison.soft_stop
    text = notes({"start.soft_stop": "yes", "start.soft_stop_ramp": "8 s"})
    assert f"coasts to a tenth of its speed in about {stop.coasts_to_a_tenth_s:.2g} s." in text
    assert f"The soft stop over 8 s takes {stop.to_a_tenth_s:.2g} s and draws up to {stop.peak_a:.0f} A" in text
    assert "The soft stop" not in notes()
