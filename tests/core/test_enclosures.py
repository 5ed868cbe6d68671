"""Enclosures against their surroundings, each judged by hand from IEC 60529, NEMA 250 and MG 1."""

import pytest

from vinegate.core.facts import read_job
from vinegate.core.grade import Kind, Verdict
from vinegate.core.place.devices import level_or_division
from vinegate.core.place.enclosure import cabinet, machine, machine_asked
from vinegate.core.rules.sets import rule_set

PASSES, FAILS, UNKNOWN, CHECK = Verdict.PASSES, Verdict.FAILS, Verdict.UNKNOWN, Verdict.CHECK
BASE = {"sky": "indoor", "water": "dry", "dusty": "no", "corrosive": "no"}


def area(**said):
    job, errors = read_job({"area_1": BASE | said}, "nec")
    assert not errors
    return job.area("area_1")


@pytest.mark.parametrize(
    ("said", "enclosure", "ip", "verdict"),
    [
        ({}, "ODP", None, PASSES),
        ({"water": "drops"}, "ODP", None, PASSES),
        ({"water": "splash"}, "ODP", None, FAILS),
        ({"water": "splash"}, "WPI", None, FAILS),  # usually IP23: the digit for splashes is 4
        ({"water": "splash"}, "WPII", None, PASSES),
        ({"water": "splash"}, "TEFC", None, PASSES),
        ({"water": "hose"}, "TEFC", None, FAILS),  # usually IP54: jets ask for 5
        ({"water": "hose"}, "TEFC", "IP55", PASSES),
        ({"water": "hose"}, "TEFC", "IP54", FAILS),
        ({"water": "hose"}, None, "IP67", FAILS),  # held under water is not borne as jets, unless both are marked
        ({"water": "hose"}, None, "IP56", PASSES),
        ({"water": "under"}, "TEFC", "IP67", PASSES),
        ({"water": "under"}, "TEFC", "IP66", FAILS),
        ({"sky": "outdoor"}, "ODP", None, FAILS),
        ({"sky": "outdoor"}, "WPI", None, PASSES),
        ({"dusty": "yes"}, "WPI", None, FAILS),
        ({"dusty": "yes"}, "TEFC", None, PASSES),
        ({"dusty": "yes"}, "TENV", "IP44", PASSES),  # MG 1 1.26 takes a closed machine for dusty air
        ({"dusty": "yes"}, None, "IP44", FAILS),
        ({"dusty": "yes"}, None, "IP54", PASSES),
        ({"dusty": "yes"}, "IP44", None, FAILS),  # its code where the enclosure stands
        ({"water": "hose"}, "IP55", None, PASSES),
        ({"water": "hose"}, "TEFC (IP 55)", None, PASSES),
        ({}, None, None, UNKNOWN),
        ({}, "TEAO", None, FAILS),
    ],
)
def test_a_motors_enclosure_in_its_place(said, enclosure, ip, verdict):
    assert machine(area(**said), enclosure, ip, in_air_stream=False).verdict is verdict


def test_one_cooled_by_the_air_it_drives_stands_in_it():
    assert machine(area(), "TEAO", None, in_air_stream=True).verdict is PASSES


def test_corrosion_is_its_makers_to_confirm():
    assert machine(area(corrosive="yes"), "TEFC", None, in_air_stream=False).kind is Kind.CONFIRM
    assert machine(area(corrosive="yes"), "TEFC", "IP55", in_air_stream=False).kind is Kind.CONFIRM
    assert machine(area(corrosive="no"), "TEFC", "IP55", in_air_stream=False).verdict is PASSES


@pytest.mark.parametrize(
    ("mark", "verdict"), [("IP67", FAILS), ("IP66", PASSES), ("IP66/IP68", PASSES), ("IP66/68", PASSES)]
)
def test_immersion_does_not_stand_for_jets_unless_both_are_marked(mark, verdict):
    assert machine(area(water="hose"), None, mark, in_air_stream=False).verdict is verdict


@pytest.mark.parametrize(
    ("said", "asked"),
    [
        ({}, "ODP (IC01, IP22)"),
        ({"water": "splash"}, "TEFC (IC411, IP54)"),
        ({"dusty": "yes"}, "TEFC (IC411, IP54)"),
    ],
)
def test_the_plainest_enclosure_that_serves(said, asked):
    assert machine_asked(area(**said)) == asked


@pytest.mark.parametrize(
    ("said", "typed", "nec", "iec"),
    [
        ({}, "type 1", PASSES, PASSES),
        ({"water": "drops"}, "type 1", FAILS, FAILS),
        ({"water": "drops"}, "type 12", PASSES, PASSES),
        ({"water": "hose"}, "type 12", FAILS, FAILS),
        ({"water": "hose"}, "type 4", PASSES, PASSES),
        ({"water": "hose", "corrosive": "yes"}, "type 4", FAILS, FAILS),
        ({"water": "hose", "corrosive": "yes"}, "type 4X", PASSES, PASSES),
        ({"sky": "outdoor", "water": "drops"}, "type 3R", PASSES, PASSES),
        ({"sky": "outdoor", "water": "drops"}, "type 12", FAILS, FAILS),
        ({"water": "splash"}, "IP54", CHECK, PASSES),  # an IP code makes no type
        ({"water": "splash"}, "IP43", FAILS, FAILS),
        ({}, "a box", UNKNOWN, UNKNOWN),
        ({}, None, UNKNOWN, UNKNOWN),
    ],
)
def test_a_cabinets_type_or_code(said, typed, nec, iec):
    for rules, verdict in (("nec", nec), ("iec", iec)):
        assert cabinet(area(**said), typed, rule_set(rules), "place.starter_enclosure").verdict is verdict, rules


@pytest.mark.parametrize(
    ("said", "level"),
    [
        ({"status": "division", "division": "1", "hazard_class": "I"}, "1"),
        ({"status": "division", "division": "2", "hazard_class": "II"}, "2"),
        ({"status": "division", "hazard_class": "I"}, ""),
        ({"status": "zone", "zone": "0"}, "0"),
        ({"status": "zone", "zone": "1"}, "1"),
        ({"status": "zone", "zone": "22"}, "2"),
        ({"status": "zone"}, ""),
        ({"status": "unclassified", "division": "1"}, ""),
        ({}, ""),
    ],
)
def test_how_dangerous_an_area_is_drawn(said, level):
    assert level_or_division(area(**said)) == level


@pytest.mark.parametrize(
    ("text", "verdict"),
    [
        ("NEMA 3R/12", PASSES),
        ("type 12 & 3R", PASSES),
        ("Type 4X stainless", PASSES),
        ("NEMA 1/12", FAILS),
        ("IP65 / NEMA 4", PASSES),
    ],
)
def test_of_several_types_one_that_serves_is_enough(text, verdict):
    assert cabinet(area(sky="outdoor"), text, rule_set("nec")).verdict is verdict
