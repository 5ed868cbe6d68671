"""What stands in a classified area is judged by the ways in use, said or advised, and nothing of it stands nowhere."""

import pytest

from tests.conftest import planner
from vinegate.core.facts import read_circuit, read_job
from vinegate.core.grade import Kind, Verdict
from vinegate.core.place.materials import find
from vinegate.core.place.used import Used
from vinegate.core.place.what_if import standings
from vinegate.demo import demo_job

ZONE = {
    "area_1.status": "zone", "area_1.zone": "1", "area_1.group": "IIA", "area_1.materials": "propane",
    "plate.ex_marking": "Class I Zone 1 AEx eb IIA T3 Gb", "plate.temperature_code": "T3", "place.te": "25 s",
    "plate.starting_current_ratio": "5.9", "plate.service_factor": "1.0",
}  # fmt: skip
BRAKE = {
    "stop.within": "1 s", "stop.brake_torque": "800 N·m", "stop.brake_power": "900 W", "stop.release": "480 V",
    "stop.release_from": "contactor",
}  # fmt: skip
P11 = planner("harrowmere-lock.json", "P-11")


@pytest.mark.parametrize(
    ("changes", "verdict"),
    [
        ({}, Verdict.UNKNOWN),  # a dip of 4.8 % of 4 %: a soft starter is advised
        ({"start.method": "soft-starter"}, Verdict.UNKNOWN),
        ({"place.drive_duty": "no"}, Verdict.FAILS),
        ({"place.drive_duty": "yes"}, Verdict.PASSES),
        ({"limits.dip": "6 %"}, Verdict.PASSES),  # across the line
        ({"limits.dip": "6 %", "protection.trip_class": "30"}, Verdict.FAILS),
        ({"plate.ex_marking": "Class I Zone 1 AEx db IIA T3 Gb"}, Verdict.PASSES),
    ],
)
def test_increased_safety_asks_about_the_start_that_is_advised_too(changes, verdict):
    assert P11(ZONE | changes).gate("place.motor").verdict is verdict


@pytest.mark.parametrize(
    ("changes", "remedy"),
    [
        ({"place.drive_duty": "no"}, "A start without electronics, or a motor certified for it."),
        ({"limits.dip": "6 %", "protection.trip_class": "30"}, "An overload of a quicker class, or a motor of a longer t_E."),
        ({"plate.ex_marking": "Class I Zone 1 AEx db IIA T3 X Gb", "place.conditions": "no"}, "Meet its certificate's conditions, or take a device that has none."),
        ({"plate.ex_marking": "", "plate.temperature_code": "T3"}, "Asked here: "),
        ({"plate.ex_marking": "Class I Zone 1 AEx db IIA T3 Gb", "plate.enclosure": "ODP", "area_1.water": "hose"}, "Asked: IP25; or another place."),
        ({"plate.ex_marking": "Class I Zone 1 AEx db IIA T3 Gb", "area_1.ambient_high": "55 °C"}, "One certified for the air that is here."),
    ],
)  # fmt: skip
def test_what_helps_is_of_what_fails(changes, remedy):
    gate = P11(ZONE | changes).gate("place.motor")
    assert gate.verdict is Verdict.FAILS
    assert gate.remedy.startswith(remedy)


@pytest.mark.parametrize(
    ("changes", "remedy"),
    [
        ({"place.starter_air": "25 °C"}, "One whose ratings its maker gives for that air, or a cooler place."),
        ({"place.starter_enclosure": "type 1", "area_1.water": "hose"}, "Asked: type 4 (meets IP56); or another place."),
        ({"place.starter_air": "25 °C", "place.starter_enclosure": "type 1", "area_1.water": "hose"},
         "Asked: type 4 (meets IP56); or another place. One whose ratings its maker gives for that air, or a cooler place."),
    ],
)  # fmt: skip
def test_what_helps_a_starter_in_its_air_and_in_its_water(changes, remedy):
    gate = P11(changes).gate("place.starter")
    assert (gate.verdict, gate.remedy) == (Verdict.FAILS, remedy)


def test_a_brake_that_is_advised_stands_somewhere():
    unclassified = P11(BRAKE).gate("place.area")
    assert (unclassified.kind, unclassified.sentence[:15]) == (Kind.CONFIRM, "Where the brake")
    classified = P11(ZONE | BRAKE).gate("place.area")
    assert classified.weighs
    assert classified.needs == ("where the brake stands",)
    unmarked = P11(ZONE | BRAKE | {"place.brake": "area_1"}).gate("place.brake")
    assert unmarked.verdict is Verdict.UNKNOWN
    coasts = P11(ZONE | BRAKE | {"stop.within": "20 s"})
    assert not [gate for gate in coasts.gates if gate.key in ("place.area", "place.brake")]


@pytest.mark.parametrize(("trip", "shuts"), [("10", True), ("30", False)])
def test_a_material_gained_is_judged_with_the_class_of_the_plan(trip, shuts):
    """Class 30 opens too late for t_E whatever is present: what fails before is not shut by the gain."""
    file = demo_job("harrowmere-lock.json")
    job_facts, facts = dict(file.facts), dict(dict(file.circuits)["P-11"])
    for path, text in ZONE.items():
        part, _, name = path.partition(".")
        raw = job_facts if part == "area_1" else facts
        raw[part] = {**raw[part], name: text}
    job, circuit = read_job(job_facts, file.rules)[0], read_circuit(facts, file.rules)[0]
    rows = standings(job, [("P-11", circuit, Used(trip=trip, start="full-voltage"))], find("carbon disulfide"))
    assert [row.fails for row in rows if row.device.key == "motor"] == [shuts]
