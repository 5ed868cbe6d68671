"""A drive that is not chosen: what a larger one does fails on no assumed amperes, and how large is said."""

import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict

FAN = planner("skerry-sound.json", "F-3")
NONE = {"drive.rated": None, "drive.overload": None}
PASSES, CHECK, FAILS = Verdict.PASSES, Verdict.CHECK, Verdict.FAILS


def verdict(facts, key):
    return FAN(facts).gate(key).verdict


@pytest.mark.parametrize(
    ("facts", "key"),
    [
        ({"load.breakaway": "140 %"}, "drive.breakaway"),
        ({"start.drive_ramp": "30 s"}, "drive.ramp_up"),
        ({"drive.heaviest": "150 %"}, "drive.torque"),
        ({"start.drive_ramp": "30 s", "area_1.altitude": "2000 m"}, "drive.ramp_up"),  # a tenth less is left of it
    ],
)
def test_how_large_a_drive_does_is_said_and_does(facts, key):
    gate = FAN(NONE | facts).gate(key)
    assert (gate.verdict, gate.turns.path) == (CHECK, "drive.rated")
    amps = float(gate.turns.passes_as.removesuffix(" A"))
    assert amps > 53  # those of the motor
    chosen, smaller = (NONE | facts | {"drive.rated": f"{k * amps:.4g} A"} for k in (1.0, 0.97))
    both = ("drive.ramp_up", "drive.overload") if key == "drive.ramp_up" else (key,)
    assert {verdict(chosen, one) for one in both} == {PASSES}
    assert FAILS in {verdict(smaller, one) for one in both}  # what is chosen is a fact


@pytest.mark.parametrize(
    ("facts", "key", "found"),
    [
        ({"start.drive_ramp": "180 s"}, "drive.ramp_up", PASSES),  # the motor's own amperes do it
        ({"start.drive_ramp": None}, "drive.ramp_up", CHECK),  # neither ramp nor drive is said
        ({"drive.heaviest": "220 %"}, "drive.torque", FAILS),  # more than the motor gives on any drive
        ({"start.drive_ramp": "10 s"}, "drive.ramp_up", FAILS),
        ({"start.drive_ramp": "30 s", "start.drive_limit": "110 %"}, "drive.ramp_up", FAILS),  # a limit that is set
    ],
)
def test_what_no_drive_does_fails_and_what_any_does_passes(facts, key, found):
    assert verdict(NONE | facts, key) is found
