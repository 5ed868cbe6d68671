"""What a drive is asked by a load whose power nobody gave: between the same power's ends, typed, and no other way."""

from __future__ import annotations

import pytest

from tests.conftest import planner
from tests.core.good import LOCK, SOUND
from vinegate.core.grade import Verdict

RAKE = {"start.method": "drive", "start.starts_per_hour": "20"}
FAR = {"wiring.length": "150 m", "load.flow": None, "load.head": None}
SLOW = {"start.method": "drive", "start.starts_per_hour": "2", "load.flow": None, "load.head": None,
        "load.inertia": "13 kg·m²", "machine.inertia": "0.02 kg·m²", "start.drive_ramp": "300 s",
        "protection.trip_class": "10"}  # fmt: skip
STIFF = {"start.method": "drive", "load.flow": None, "load.kind": "fan-open", "load.breakaway": "160 %"}
CASES = [
    # amperes of the ramp go with its torque: the relay has 71 % of its heat at half of the motor's power, 103 at 6 kW
    (SOUND, "P-4", SLOW, "protection.class", ("2.75 kW", "5.5 kW", "6 kW")),
    # what hangs at the power that is taken comes to speed at half of it
    (SOUND, "P-4", STIFF, "start.torque", ("2.75 kW", "4 kW", "5.5 kW")),
    # between overloads 76.1 A are left: at 60 hp 71.9 A are asked, at 69 hp 82.3 A
    (LOCK, "X-51", RAKE, "drive.rest", ("30 hp", "60 hp", "69 hp")),
    # at 5.5 kW it slips less: at 60.1 Hz, and not 65.5, it has flux enough for 54 N·m
    (SOUND, "F-5", FAR, "drive.power", ("5.5 kW", "8 kW", "11 kW")),
]


@pytest.mark.parametrize(("file", "tag", "facts", "key", "powers"), CASES)
def test_what_its_ends_tell_apart_is_to_check(file, tag, facts, key, powers):
    plan = planner(file, tag)
    typed = [plan(facts | {"load.power": power}).gate(key).verdict for power in powers]
    assert {Verdict.PASSES, Verdict.FAILS} <= set(typed)
    unsaid = plan(facts | {"load.power": None}).gate(key)
    assert (unsaid.verdict, unsaid.turns.path) == (Verdict.CHECK, "load.power")
    settled = plan(facts | {"load.power": unsaid.turns.passes_as})
    assert settled.gate(key).verdict is Verdict.PASSES


def test_what_both_ends_pass_passes():
    plan = planner(LOCK, "X-51")(RAKE | {"load.power": None, "drive.rated": "110 A"})
    assert plan.gate("drive.rest").verdict is Verdict.PASSES
