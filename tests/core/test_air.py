"""A starter's ratings hold in the air and up to the height that it is made for, a motor's down to some cold."""

import pytest

from tests.conftest import planner
from vinegate.core.facts import RuleSetName
from vinegate.core.grade import Kind, Verdict

PUMP = planner("harrowmere-lock.json", "P-11")
STARTER = {"place.starter": "area_2", "area_2.status": "unclassified", "area_2.sky": "indoor", "area_2.water": "dry",
           "area_2.dusty": "no", "area_2.corrosive": "no"}  # fmt: skip


def gate(changes):
    return PUMP(STARTER | changes).gate("place.starter")


@pytest.mark.parametrize(
    ("air", "made_for", "verdict"),
    [
        ("40 °C", None, Verdict.PASSES),
        ("41 °C", None, Verdict.CHECK),
        ("50 °C", "50 °C", Verdict.PASSES),
        ("50 °C", "49 °C", Verdict.FAILS),
        ("38 °C", "35 °C", Verdict.FAILS),
        (None, "35 °C", Verdict.PASSES),
    ],
)
def test_the_air_about_it(air, made_for, verdict):
    assert gate({"area_2.ambient_high": air, "place.starter_air": made_for}).verdict is verdict


def test_what_settles_it_does():
    turns = gate({"area_2.ambient_high": "48 °C"}).turns
    for text, verdict in ((turns.passes_as, Verdict.PASSES), (turns.fails_as, Verdict.FAILS)):
        assert gate({"area_2.ambient_high": "48 °C", turns.path: text}).verdict is verdict


@pytest.mark.parametrize(("height", "there"), [("2000 m", False), ("2001 m", True)])
def test_above_two_thousand_metres_it_is_its_makers_word(height, there):
    found = [one for one in PUMP(STARTER | {"area_2.altitude": height}).gates if one.key == "place.starter_height"]
    assert [one.kind for one in found] == [Kind.CONFIRM] * there


@pytest.mark.parametrize(("device", "least"), [("motor", -15), ("starter", -5), ("buttons", -5), ("drive", 0)], ids=str)
def test_colder_than_it_is_made_for_a_device_is_its_makers_word(device, least):
    placed = {f"place.{device}": "area_2"} | ({"start.method": "drive"} if device == "drive" else {})
    for coldest, there in ((f"{least} °C", False), (f"{least - 1} °C", True), (None, False)):
        plan = PUMP(STARTER | placed | {"area_2.ambient_low": coldest})
        found = [one for one in plan.gates if one.key == f"place.{device}_cold"]
        assert [one.kind for one in found] == [Kind.CONFIRM] * there


@pytest.mark.parametrize(
    ("changes", "there"),
    [
        ({}, False),
        ({"area_2.sky": "outdoor"}, True),
        ({"area_2.water": "hose"}, True),
        ({"area_2.water": "splash"}, False),
        ({"place.motor": None, "area_2.sky": "outdoor"}, False),
    ],
)
@pytest.mark.parametrize("rules", RuleSetName)
def test_a_run_that_lies_wet_is_seen_to_on_site(changes, there, rules):
    """By the paper of the set in use, and no other's: NFPA 70 300.9, IEC 60364-5-52 522.3."""
    plan = PUMP(STARTER | {"place.motor": "area_2", "area_1.sky": "indoor", "area_1.water": "dry"} | changes, rules)
    found = [one for one in plan.gates if one.key == "place.motor_wet_run"]
    assert [(one.kind, one.source.startswith("NFPA")) for one in found] == [
        (Kind.CONFIRM, rules is RuleSetName.NEC)
    ] * there
