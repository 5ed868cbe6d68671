"""Enclosures, insulation and heat: a machine's plate in its place."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

import vinegate.core
from vinegate.core.grade import Verdict
from vinegate.core.place.derating import share_left
from vinegate.core.place.enclosure import asked_text, cabinet, ip_asked, machine, type_asked
from vinegate.core.place.ex_mark import parse_ex
from vinegate.core.place.facts import Area
from vinegate.core.place.materials import find
from vinegate.core.place.temperature import limit_of
from vinegate.core.rules.sets import RULE_SETS
from vinegate.core.tables import load

NEC, IEC = RULE_SETS["nec"], RULE_SETS["iec"]


def ordinary(**facts):
    return Area.model_validate({"status": "unclassified", "sky": "indoor", "water": "dry", "dusty": "no"} | facts)


@pytest.mark.parametrize(
    ("facts", "kind", "ip"),
    [
        ({}, "1", (2, 0)),
        ({"water": "drops"}, "2", (2, 2)),
        ({"dusty": "yes"}, "12", (5, 0)),
        ({"sky": "outdoor"}, "3R", (4, 4)),
        ({"sky": "outdoor", "dusty": "yes"}, "3", (5, 4)),
        ({"water": "hose"}, "4", (2, 5)),
        ({"water": "hose", "corrosive": "yes"}, "4X", (2, 5)),
        ({"water": "under"}, "6", (2, 7)),
        ({"water": "under", "corrosive": "yes"}, "6P", (2, 7)),
    ],
)
def test_enclosure_asked(facts, kind, ip):
    assert type_asked(ordinary(**facts)) == kind
    assert ip_asked(ordinary(**facts)) == ip


def test_a_type_implies_an_ip_code_and_not_the_reverse():
    wet = ordinary(sky="outdoor", water="hose")
    assert cabinet(wet, "type 4X", NEC).verdict is Verdict.PASSES
    assert cabinet(wet, "IP66", IEC).verdict is Verdict.PASSES
    assert cabinet(wet, "IP66", NEC).verdict is Verdict.CHECK
    assert cabinet(wet, "type 12", NEC).verdict is Verdict.FAILS
    assert cabinet(ordinary(water="hose"), "IP67", IEC).verdict is Verdict.FAILS  # immersion is not a jet
    assert cabinet(wet, None, NEC).verdict is Verdict.UNKNOWN


def test_a_type_stands_beside_its_ip_code_and_never_the_other_way():
    """A type meets an IP code; an IP code meets no type, and an IEC sheet names none."""
    dusty = ordinary(dusty="yes")
    assert asked_text(dusty, NEC) == "type 12 (meets IP52)"
    assert asked_text(dusty, IEC) == "IP50"


def test_every_type_that_serves_has_an_ip_that_serves_too():
    """The mapping's direction, over every surrounding: what a type keeps out, its least IP code keeps out of solids."""
    for row in load("nema_type").rows:
        if row["ip"] and row["dust"] == "yes":
            assert int(row["ip"][2]) >= 5
        if row["hose"] == "yes":
            assert int(row["ip"][3]) >= 6
        if row["under_water"] == "yes":
            assert int(row["ip"][3]) >= 7


@pytest.mark.parametrize(
    ("facts", "enclosure", "verdict"),
    [
        ({}, "ODP", Verdict.PASSES),
        ({"dusty": "yes"}, "ODP", Verdict.FAILS),
        ({"sky": "outdoor"}, "ODP", Verdict.FAILS),
        ({"sky": "outdoor"}, "WPII", Verdict.PASSES),
        ({"sky": "outdoor", "dusty": "yes"}, "TEFC", Verdict.PASSES),
        ({"water": "hose"}, "TEFC", Verdict.FAILS),
        ({"water": "drops"}, "ODP", Verdict.PASSES),
        ({"water": "splash"}, "ODP", Verdict.FAILS),  # drip-proof is not splash-proof
        ({"water": "splash"}, "WPI", Verdict.FAILS),
        ({"water": "splash"}, "WPII", Verdict.PASSES),
        ({"water": "splash"}, "TEFC", Verdict.PASSES),
        ({"corrosive": "yes"}, "TEFC", Verdict.UNKNOWN),
        ({}, "TEAO", Verdict.FAILS),
        ({}, None, Verdict.UNKNOWN),
    ],
)
def test_motor_enclosures(facts, enclosure, verdict):
    assert machine(ordinary(**facts), enclosure, None, in_air_stream=False).verdict is verdict


@pytest.mark.parametrize(
    ("ip", "verdict"), [("IP22", Verdict.FAILS), ("IP23", Verdict.FAILS), ("IP24", Verdict.PASSES)]
)
def test_the_plates_own_code_is_held_against_splashes(ip, verdict):
    assert machine(ordinary(water="splash"), "ODP", ip, in_air_stream=False).verdict is verdict


def test_insulation_rises_entered_again():
    """The class limit of IEC 60085 less 40 °C of ambient and the hot spot's allowance: 5 K, 10 K in B and F, 15 K in H."""
    limits = {"A": (105, 5), "E": (120, 5), "B": (130, 10), "F": (155, 10), "H": (180, 15)}
    rises = {row["class"]: float(row["rise_k"]) for row in load("insulation_rise").rows}
    assert rises == {letter: top - 40 - spot for letter, (top, spot) in limits.items()}


def test_load_left_by_hand():
    """Class F at 50 °C: rise 95 of 105 K; losses a third constant: (0.905·1.5 − 0.5)^½ = 0.926. All left at 1, none at ⅓."""
    assert share_left(95 / 105) == pytest.approx(0.926, abs=5e-4)
    assert share_left(1.0) == 1.0
    assert share_left(1 / 3) == pytest.approx(0.0, abs=1e-6)


@given(low=st.floats(0.0, 1.2), more=st.floats(0.0, 0.5))
def test_more_rise_never_leaves_less_load(low, more):
    assert share_left(low) <= share_left(low + more) <= 1.0


def test_class_iii_holds_motors_to_120_degrees():
    """NFPA 70 503.5: 165 °C, and 120 °C for what may be overloaded."""
    cotton = find("cotton fibres")
    assert limit_of(cotton, NEC).most_c == 165
    assert limit_of(cotton, NEC, overloads=True).most_c == 120


@pytest.mark.parametrize(("enclosure", "ip", "verdict"), [
    ("TENV", None, "fails"), ("TEFC", None, "fails"), ("TENV", "IP56", "passes"), ("TEFC", "IP55", "passes"),
    ("TENV", "IP54", "fails"),
])  # fmt: skip
def test_hoses_ask_an_ip_code_whatever_the_cooling(enclosure, ip, verdict):
    area = Area.model_validate({"sky": "indoor", "water": "hose", "dusty": "no", "corrosive": "no"})
    assert machine(area, enclosure, ip, in_air_stream=False).verdict == verdict


def test_a_dust_housing_without_its_letter_is_the_lowest():
    (mark,), unread = parse_ex("Ex t IIIC T135 °C")
    assert (mark.protects, unread) == ("Dc", ())
    (mark,), _ = parse_ex("Ex tb IIIC T135 °C")
    assert mark.protects == "Db"


def test_every_preset_is_read():
    """A row nobody reads is an assumption nobody makes."""
    code = "".join(path.read_text() for path in Path(vinegate.core.__file__).parent.rglob("*.py"))
    for row in load("preset").rows:
        assert row["key"] in code or row["key"].rpartition("_")[0] + "_{end}" in code, row["key"]
