"""What carries a drive over an outage: its bus's capacitors, and what turns."""

import math

import pytest
from scipy.integrate import quad

from tests.conftest import planner

F3, P4 = planner("skerry-sound.json", "F-3"), planner("skerry-sound.json", "P-4")


def test_the_bus_carries_from_its_volts_to_seven_tenths_of_them():
    """3 mF at √2 · 400 V down to 0.7 of it, with what 27 kW of fan takes of the line: ½·C·(U_1² − U_2²)/P."""
    plan = F3({"drive.capacity": "3000 µF"})
    kw = plan.figure("drive.carried_kw").value
    assert 27 / 0.96 < kw < 27 / 0.82  # through motor and drive
    seconds = 0.5 * 3e-3 * (math.sqrt(2) * 400) ** 2 * (1 - 0.7**2) / (1000 * kw)
    assert plan.figure("drive.carries").value == pytest.approx(seconds, rel=1e-6)


@pytest.mark.parametrize(("plan", "motors"), [(F3, 1), (P4, 3)])
def test_what_turns_feeds_load_and_losses_down_to_six_tenths_of_its_speed(plan, motors):
    """`∫J·ω·dω/(T_L·ω + P_v)` by another quadrature; several motors feed one bus with all that turns."""
    found = plan({"drive.capacity": "3000 µF"})
    load, line_w = found.load, 1000 * found.figure("drive.carried_kw").value
    fastest = max(row.point.rpm for row in found.found["drive"].driven.rows) * math.pi / 30

    def shaft_w(omega):
        return motors * float(load.torque_at(omega * 30 / math.pi)) * omega

    lost = line_w - shaft_w(fastest)
    seconds, _ = quad(lambda w: motors * load.inertia_kgm2 * w / (shaft_w(w) + lost), 0.6 * fastest, fastest)
    assert found.figure("drive.kinetic").value == pytest.approx(seconds, rel=5e-3)
