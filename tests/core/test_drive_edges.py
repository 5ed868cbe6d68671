"""Edges of the drive's rules, each worked by hand from its standard: what a winding bears, when it must be watched."""

import math

import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict

FAN = planner("skerry-sound.json", "F-3")
DRUM = planner("skerry-sound.json", "D-6")


@pytest.mark.parametrize(
    ("winding", "peak"),
    [
        ("mg1-31", 3.1 * 400),  # MG 1 31.4.4.2, up to 600 V: 3.1 times rated
        ("ivic-a", 1.1 * 1.1 * math.sqrt(2) * 400),  # IEC 60034-18-41: the class' factor on the bus at 10 % high line
        ("ivic-b", 1.5 * 1.1 * math.sqrt(2) * 400),
        ("ivic-c", 2.0 * 1.1 * math.sqrt(2) * 400),
        ("ivic-d", 2.5 * 1.1 * math.sqrt(2) * 400),
        ("general", 1000.0),
    ],
)
def test_what_a_winding_bears_is_its_class_times_the_volts(winding, peak):
    assert FAN({"drive.winding": winding}).figure("drive.winding_v").value == pytest.approx(peak, rel=1e-6)


def test_above_six_hundred_volts_part_31_bears_two_times_and_a_little():
    """MG 1 31.4.4.2: 2.04 times rated above 600 V."""
    high = {"plate.volts": "690Δ", "supply.volts": "690 V", "drive.winding": "mg1-31"}
    assert FAN(high).figure("drive.winding_v").value == pytest.approx(2.04 * 690, rel=1e-6)


def thermal(**changes):
    found = DRUM({"protection.thermistor": "no", "drive.speed_aware": "no"} | changes)
    return next((gate.verdict for gate in found.gates if gate.key == "drive.thermal"), None)


def test_a_winding_is_watched_below_half_speed_at_more_than_half_its_torque():
    rated = DRUM().figure("plate.speed")
    assert rated is not None
    assert thermal(**{"drive.points": "100 %\n45 %"}) is Verdict.FAILS
    assert thermal(**{"drive.points": "100 %\n60 %"}) is None
    assert thermal(**{"drive.points": "100 %\n45 %; 20 %"}) is None


def test_one_that_knows_the_speed_watches_one_motor_and_no_more():
    slow = {"drive.points": "100 %\n45 %", "drive.speed_aware": "yes"}
    assert thermal(**slow) is Verdict.PASSES
    assert thermal(**slow, **{"drive.motors": "2"}) is not Verdict.PASSES
