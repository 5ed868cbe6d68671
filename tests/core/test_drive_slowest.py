"""The least speed that the motor itself asks on a drive: oil that is thrown, water past it, films in its bearings."""

import pytest

from tests.conftest import planner
from vinegate.core.grade import Kind, Verdict

PUMPS = planner("skerry-sound.json", "P-4")
PASSES, CHECK, FAILS, UNKNOWN = Verdict.PASSES, Verdict.CHECK, Verdict.FAILS, Verdict.UNKNOWN
ALONE = {"drive.points": None, "drive.most": "50 Hz", "plate.cooling": None}


def slowest(facts, key):
    return PUMPS(ALONE | facts).gate(key)


@pytest.mark.parametrize(
    ("least", "said", "verdict"),
    [
        ("7 Hz", None, FAILS),  # 15 % of 50 Hz are 7.5
        ("8 Hz", None, CHECK),
        ("14 Hz", None, CHECK),  # 30 % are 15
        ("16 Hz", None, PASSES),
        ("8 Hz", "7 Hz", PASSES),
        ("16 Hz", "17 Hz", FAILS),
    ],
)
def test_oil_is_thrown_from_about_a_fifth_or_its_makers_word(least, said, verdict):
    gate = slowest({"drive.cooling": "oil", "drive.least": least, "drive.full_torque": said}, "drive.oil")
    assert gate.verdict is verdict


def test_above_its_speed_a_drum_is_asked_how_far_it_may_go():
    facts = {"drive.cooling": "oil", "drive.least": "20 Hz", "drive.most": "52 Hz"}
    assert slowest(facts, "drive.oil").verdict is UNKNOWN
    assert slowest(facts | {"drive.mechanical": "3200 rpm"}, "drive.oil").verdict is PASSES


@pytest.mark.parametrize(
    ("least", "said", "verdict"),
    [("24 Hz", None, FAILS), ("26 Hz", None, CHECK), ("39 Hz", None, CHECK), ("42 Hz", None, PASSES),
     ("24 Hz", "20 Hz", PASSES), ("42 Hz", "45 Hz", FAILS)],
)  # fmt: skip
def test_a_submersibles_thrust_bearing_asks_its_film(least, said, verdict):
    facts = {"drive.cooling": "submersible", "drive.least": least, "drive.full_torque": said}
    assert slowest(facts, "drive.thrust").verdict is verdict
    assert slowest(facts, "drive.jacket").kind is Kind.CONFIRM


@pytest.mark.parametrize(
    ("bearings", "least", "asks"),
    [("sleeve / sleeve", "20 Hz", True), ("Plain bearings", "20 Hz", True), ("sleeve", "50 Hz", False),
     ("6313 / 6212", "20 Hz", False), (None, "20 Hz", False)],
)  # fmt: skip
def test_sleeves_ask_their_makers_least_speed_below_full_speed(bearings, least, asks):
    found = {gate.key for gate in PUMPS(ALONE | {"plate.bearings": bearings, "drive.least": least}).gates}
    assert ("drive.film" in found) is asks


def test_a_usual_motor_has_none_of_them():
    assert not {"drive.oil", "drive.thrust", "drive.jacket", "drive.film"} & {gate.key for gate in PUMPS(ALONE).gates}
