"""The chart of a machine's curves: its ends, whatever the machine."""

import pytest

from vinegate.core.machine.curves import curves
from vinegate.core.plan import NOTHING, plan_raw
from vinegate.drawing.machine_chart import HEIGHT, WIDTH, machine_chart
from vinegate.drawing.scene import Path, Text

SUPPLY = {"supply": {"volts": "480", "fault_level": "14 kA", "frequency": "60 Hz"}}
CAGE = {"power": "25 hp", "volts": "460", "full_load_current": "31", "speed": "1765", "frequency": "60",
        "design_letter": "B", "code_letter": "G"}  # fmt: skip
DIRECT = {"power": "25 hp", "volts": "240", "full_load_current": "89", "speed": "1750"}


def chart(plate, ohms=""):
    circuit = {"plate": plate, "machine": {"armature_resistance": ohms}}
    machine = plan_raw("nec", SUPPLY, circuit, beside=NOTHING).machine
    found = curves(machine.circuit, volts_v=machine.volts_v, frequency_hz=machine.circuit.frequency_hz)
    amps, speed = float(plate["full_load_current"]), float(plate["speed"])
    return machine_chart(found, rated_torque_nm=machine.rated_torque_nm, rated_current_a=amps, rated_speed_rpm=speed,
                         speed_unit="rpm")  # fmt: skip


@pytest.mark.parametrize("kind", ["dc-series", "dc-shunt"])
@pytest.mark.parametrize("ohms", ["0.0001 Ω", "0.15 Ω"])
def test_an_armature_of_next_to_no_ohms_is_cut_off_at_the_chart_s_end(kind, ohms):
    """Its torque at rest is past all bounds: ten times rated and twenty times its amperes are the most that is drawn."""
    found = chart(DIRECT | {"kind": kind}, ohms)
    assert len(found.shapes) < 60
    texts = [shape.text for shape in found.shapes if isinstance(shape, Text)]
    assert "1000 %" in texts or ohms != "0.0001 Ω"
    assert not any(text.startswith(("1200", "22 ")) for text in texts)
    for shape in found.shapes:
        for x, y in shape.points if isinstance(shape, Path) else ():
            assert 0 <= x <= WIDTH
            assert 0 <= y <= HEIGHT


def test_a_cage_is_drawn_whole():
    found = chart(CAGE | {"kind": "cage"})
    drawn = {shape.role: shape.points for shape in found.shapes if isinstance(shape, Path) and "curve" in shape.role}
    assert {"curve current", "curve torque", "curve pf"} == set(drawn)
    assert len({len(points) for points in drawn.values()}) == 1
    left = min(shape.points[0][0] for shape in found.shapes if isinstance(shape, Path) and shape.role == "grid")
    assert all(points[0][0] == pytest.approx(left) for points in drawn.values())
