"""What covers what, entered a second time from the standards' own structure; every temperature code's boundary."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vinegate.core.grade import Kind, Verdict
from vinegate.core.numbers import QuantityError
from vinegate.core.place.covers import covers, group_covers, groups_of, lacking
from vinegate.core.place.ex_mark import ExMark
from vinegate.core.place.facts import Area
from vinegate.core.place.listing import Marking, read_marking
from vinegate.core.place.materials import find, library, read_materials
from vinegate.core.place.temperature import coolest_needed, hottest_c, limit_of, lowest, passes
from vinegate.core.rules.sets import RULE_SETS
from vinegate.core.tables import load

GAS, DUST = ("Ga", "Gb", "Gc"), ("Da", "Db", "Dc")

NEC, IEC = RULE_SETS["nec"], RULE_SETS["iec"]


def zone(number, group, **more):
    return Area.model_validate({"status": "zone", "zone": number, "group": group, **more})


def division(hazard_class, number, groups=""):
    facts = {"status": "division", "hazard_class": hazard_class, "division": number, "groups": groups}
    return Area.model_validate(facts)


def marked(level, group, *, american=False):
    return Marking(
        ex=(ExMark(american=american, types=("tb",) if level.startswith("D") else ("db",), group=group, level=level),)
    )


# IEC 60079-14:2013 table 2, a row a zone: levels that may stand in it.
ZONE_ROWS = {
    "0": "Ga",
    "1": "Ga Gb",
    "2": "Ga Gb Gc",
    "20": "Da",
    "21": "Da Db",
    "22": "Da Db Dc",
}


@pytest.mark.parametrize(("number", "level"), list(itertools.product(ZONE_ROWS, GAS + DUST)))
def test_levels_in_zones(number, level):
    group = "IIB" if len(number) == 1 else "IIIB"
    has = "IIB" if level[0] == "G" else "IIIB"
    found = covers(zone(number, group), marked(level, has), IEC).verdict
    assert (found is Verdict.PASSES) == (level in ZONE_ROWS[number].split())
    assert found in (Verdict.PASSES, Verdict.FAILS)


# IEC 60079-14:2013 table 3 and its dust counterpart, a column a group of the place: groups of equipment allowed.
GROUP_COLUMNS = {
    "IIA": "II IIA IIB IIB+H2 IIC",
    "IIB": "II IIB IIB+H2 IIC",
    "IIB+H2": "II IIB+H2 IIC",
    "IIC": "II IIC",
    "IIIA": "IIIA IIIB IIIC",
    "IIIB": "IIIB IIIC",
    "IIIC": "IIIC",
}


@pytest.mark.parametrize("asked", GROUP_COLUMNS)
@pytest.mark.parametrize("has", [*GROUP_COLUMNS, "II", "", "I"])
def test_groups(asked, has):
    assert group_covers(has, asked) == (has in GROUP_COLUMNS[asked].split())


# Class, division and groups of the place; the listing; whether NFPA 70 500.8 allows it.
LISTINGS = [
    (("I", "1", "D"), "CL I GP D", True),
    (("I", "1", "D"), "CL I DIV 1 GP D", True),
    (("I", "1", "D"), "CL I DIV 2 GP D", False),
    (("I", "2", "D"), "CL I DIV 2 GP D", True),
    (("I", "2", "D"), "CL I DIV 1 GP D", True),
    (("I", "1", "C"), "CL I GP D", False),
    (("I", "1", "D"), "CL I GP C", False),  # each group by name: none stands for another
    (("I", "1", "C, D"), "CL I GP D", False),
    (("I", "1", "C, D"), "CL I GP C & D", True),
    (("I", "1", "B"), "CL I GP C & D", False),
    (("II", "1", "G"), "CL I GP D", False),
    (("II", "1", "G"), "CL I GP D; CL II GP F G", True),
    (("II", "2", "E"), "CL II GP F G", False),
    (("III", "1", ""), "CL III DIV 1", True),
    (("III", "1", ""), "CL II GP G", False),
]


@pytest.mark.parametrize(("place", "text", "allowed"), LISTINGS)
def test_listings_in_divisions(place, text, allowed):
    found = covers(division(*place), read_marking(text), NEC).verdict
    assert found is (Verdict.PASSES if allowed else Verdict.FAILS)


def test_a_listing_without_a_group_is_read_again():
    assert covers(division("I", "1", "D"), read_marking("CL I"), NEC).verdict is Verdict.UNKNOWN
    assert covers(division("III", "1"), read_marking("CL III"), NEC).verdict is Verdict.PASSES
    assert covers(zone("1", "IIB"), read_marking("CL I"), NEC).verdict is Verdict.UNKNOWN


# Zone equipment in divisions: 501.5 and 502.6 of NFPA 70.
@pytest.mark.parametrize(("hazard_class", "group", "has"), [("I", "D", "IIA"), ("I", "C", "IIB"), ("II", "G", "IIIB")])
@pytest.mark.parametrize("number", ["1", "2"])
@pytest.mark.parametrize("level", ["a", "b", "c"])
def test_zone_equipment_in_divisions(hazard_class, group, has, number, level):
    letter = "G" if hazard_class == "I" else "D"
    found = covers(division(hazard_class, number, group), marked(letter + level, has, american=True), NEC).verdict
    assert found is (Verdict.PASSES if level == "a" or number == "2" else Verdict.FAILS)


# Equipment listed by division in zones: 505.20 and 506.20; a row a zone, divisions of the listing allowed there.
@pytest.mark.parametrize(
    ("number", "allowed"), [("0", ""), ("1", "1"), ("2", "12"), ("20", ""), ("21", "1"), ("22", "12")]
)
@pytest.mark.parametrize("listed", ["1", "2"])
def test_division_equipment_in_zones(number, allowed, listed):
    dust = len(number) == 2
    text = f"CL II DIV {listed} GP F G" if dust else f"CL I DIV {listed} GP C D"
    area = zone(number, "IIIB" if dust else "IIB")
    assert covers(area, read_marking(text), NEC).verdict is (Verdict.PASSES if listed in allowed else Verdict.FAILS)
    assert covers(area, read_marking(text), IEC).verdict is Verdict.FAILS


@pytest.mark.parametrize(
    ("asked", "groups"),
    [("IIA", "D"), ("IIB", "C"), ("IIB+H2", "B C"), ("IIC", "A B"), ("IIIB", "F G"), ("IIIC", "E")],
)
def test_the_two_systems_groups_are_not_equal(asked, groups):
    """A zone's group asks every division group it stands for; one missing is not enough."""
    dust = asked.startswith("III")
    area, kind = zone("21" if dust else "1", asked), "II" if dust else "I"
    assert covers(area, read_marking(f"CL {kind} DIV 1 GP {groups}"), NEC).verdict is Verdict.PASSES
    for left_out in groups.split():
        fewer = " ".join(group for group in groups.split() if group != left_out)
        named, wanted = (f"GP {fewer}", Verdict.FAILS) if fewer else ("", Verdict.UNKNOWN)
        assert covers(area, read_marking(f"CL {kind} DIV 1 {named}"), NEC).verdict is wanted


def test_the_other_systems_certificates_are_for_the_authority():
    for found in (
        covers(zone("1", "IIB"), marked("Gb", "IIB"), NEC),
        covers(zone("1", "IIB"), marked("Gb", "IIB", american=True), IEC),
    ):
        assert found.kind is Kind.CONFIRM
    assert covers(zone("1", "IIC"), marked("Gb", "IIB"), NEC).kind is Kind.ENGINEERING  # another group is no question


def test_a_document_may_ask_more_than_the_zone():
    assert covers(zone("2", "IIA", level="Gb"), marked("Gc", "IIA"), IEC).verdict is Verdict.FAILS


# Hottest surfaces by code, typed again from the other end.
AGAIN = "85 100 120 135 160 165 180 200 215 230 260 280 300 450"


def test_temperature_codes_entered_again():
    rows = load("temperature_code").rows
    assert [float(row["most_c"]) for row in reversed(rows)] == [float(word) for word in AGAIN.split()]
    assert [row["code"] for row in rows if row["iec"] == "yes"] == ["T1", "T2", "T3", "T4", "T5", "T6"]


@pytest.mark.parametrize("row", load("temperature_code").rows, ids=lambda row: row["code"])
def test_every_codes_boundary(row):
    """NEC: the code may equal the ignition temperature (500.8(D)(1)); IEC: it must lie below (60079-14 5.6.2)."""
    most = float(row["most_c"])
    for degrees, nec, iec in ((most - 1, False, False), (most, True, False), (most + 1, True, True)):
        (own,) = read_materials(f"gas of ours (IIA {degrees:g} °C)").items
        assert passes(hottest_c(row["code"]), limit_of(own, NEC)) is nec
        assert passes(hottest_c(row["code"]), limit_of(own, IEC)) is iec


@given(degrees=st.integers(85, 700))
def test_the_code_asked_passes_and_the_one_before_does_not(degrees):
    (own,) = read_materials(f"gas of ours (IIA {degrees} °C)").items
    codes = [row["code"] for row in load("temperature_code").rows]
    code = coolest_needed(limit_of(own, NEC), NEC)
    assert passes(hottest_c(code), limit_of(own, NEC))
    if code != "T1":
        assert not passes(hottest_c(codes[codes.index(code) - 1]), limit_of(own, NEC))


def test_the_lowest_of_all_materials_decides():
    found = lowest(read_materials("petrol, diesel, diethyl ether").items, IEC)
    assert (found.material, found.most_c) == ("diethyl ether", 160.0)
    assert coolest_needed(found, IEC) == "T4"
    assert coolest_needed(lowest(read_materials("petrol, diesel").items, IEC), IEC) == "T3"
    assert coolest_needed(lowest(read_materials("carbon disulfide").items, IEC), IEC) == "T6"


def test_dusts_by_both_rules():
    """Wood: cloud 470, layer 260. NEC 165 as it carbonises; IEC the lower of 470·2/3 = 313 and 260 − 75 = 185."""
    wood = find("wood dust")
    assert limit_of(wood, NEC).most_c == 165
    assert limit_of(wood, IEC).most_c == 185
    (own,) = read_materials("husks (IIIB cloud 240 °C layer 300 °C)").items
    assert limit_of(own, IEC).most_c == pytest.approx(160)
    assert limit_of(find("aluminium dust"), NEC).most_c == 550  # metal: no 165; the figure of NFPA 499
    assert limit_of(find("coal dust"), NEC).most_c == 165


def test_the_library_holds_together():
    for material in library():
        assert material.ignites_c is not None or "by test" in material.note
        if material.kind == "gas":
            assert material.iec_group in ("IIA", "IIB", "IIC")
            assert material.nec_group in ("A", "B", "C", "D", "")
        else:
            assert material.iec_group.startswith("III")
        if material.limits:
            low, high = (float(word) for word in material.limits.removesuffix(" %").split(" to "))
            assert 0 < low < high <= 100
    assert {one.nec_group for one in library() if one.iec_group == "IIC"} == {"A", "B", ""}


# Groups and the lower ignition temperature of the commonest, typed again: name, NEC, IEC, °C.
COMMON = """
acetylene A IIC 305
hydrogen B IIC 500
ethylene C IIB 440
propane D IIA 450
methane D IIA 537
ammonia D IIA 498
petrol D IIA 250
ethanol D IIB 363
diethyl-ether C IIB 160
hydrogen-sulfide C IIB 260
acetaldehyde C IIA 155
carbon-disulfide - IIC 90
"""


@pytest.mark.parametrize("line", COMMON.split("\n")[1:-1])
def test_common_gases_entered_again(line):
    name, nec, iec, degrees = line.split()
    found = find(name.replace("-", " "))
    assert (found.nec_group or "-", found.iec_group, found.ignites_c) == (nec, iec, float(degrees))


@pytest.mark.parametrize(("text", "name"), [
    ("cotton", "cotton fibres"), ("Cotton fibers", "cotton fibres"), ("hemp", "jute fibres"), ("sisal", "textile fibres"),
    ("excelsior", "wood shavings"), ("our yarn (fibers)", "our yarn"), ("our yarn (fibres and flyings)", "our yarn"),
])  # fmt: skip
def test_fibres_by_their_names_are_held_to_the_rules_own_degrees(text, name):
    """NFPA 70 503.5: 165 °C, 120 for motors, whatever the fibre; IEC goes by the fibre's own, known or not."""
    (found,) = read_materials(text).items
    assert (found.name, found.kind, found.iec_group) == (name, "fibre", "IIIA")
    assert (limit_of(found, NEC).most_c, limit_of(found, NEC, overloads=True).most_c) == (165, 120)
    assert (limit_of(found, IEC) is None) is (found.ignites_c is None)


def test_what_is_not_in_the_library_asks_for_its_facts():
    with pytest.raises(QuantityError, match="Did you mean methane"):
        read_materials("methan")
    with pytest.raises(QuantityError, match="group and ignition"):
        read_materials("thinner (hot)")
    with pytest.raises(QuantityError, match="a shorter name"):
        read_materials(f"{'solvent ' * 8}(IIB T3)")
    with pytest.raises(QuantityError, match="layer"):
        read_materials("husks (IIIB 300 °C)")


@pytest.mark.parametrize(
    ("said", "groups"),
    [("C and D", ("C", "D")), ("Groups C, D", ("C", "D")), ("A-D", ("A", "B", "C", "D")), ("see the drawing", ())],
)
def test_groups_are_letters_by_themselves_and_none_is_not_known(said, groups):
    """Words that nobody can read as a group ask for one: without it every listing would do."""
    one = division("I", "1", said)
    assert groups_of(one) == groups
    assert lacking(one) == (() if groups else ("groups",))


@pytest.mark.parametrize(
    ("said", "group", "ignites", "layer"),
    [
        ("IIB 240 °C", "IIB", 240, None), ("IIB 464 °F", "IIB", 240, None), ("464F, C", "IIB", 240, None),
        ("240 °C IIA", "IIA", 240, None), ("G cloud 806 °F layer 572 °F", "IIIB", 430, 300),
        ("IIIB cloud 430 layer 300", "IIIB", 430, 300),
    ],
)  # fmt: skip
def test_a_material_of_ones_own_in_either_degrees(said, group, ignites, layer):
    """464 °F are 240 °C: taken for Celsius, a surface of 300 °C would have passed."""
    (one,) = read_materials(f"solvent ({said})").items
    assert (one.iec_group, one.ignites_c, one.layer_c) == (group, ignites, layer)


@pytest.mark.parametrize(
    ("text", "group", "nec_code", "iec_code"),
    [
        ("IIB T3", "IIB", "T3", "T3"), ("IIC T6", "IIC", "T6", "T6"), ("Group D T2B", "IIA", "T2B", "T3"),
        ("solvent (IIB T4)", "IIB", "T4", "T4"), ("solvent (T4, IIB)", "IIB", "T4", "T4"), ("iib t3", "IIB", "T3", "T3"), ("methane and IIB T3", "IIB", "T3", "T3"),
    ],
)  # fmt: skip
def test_a_gas_known_by_its_class_alone_asks_that_class(text, group, nec_code, iec_code):
    """A class T3 has gases that ignite above 200 °C: what stays at 200 °C may stand there, what reaches 215 may not."""
    found = read_materials(text).items
    assert found[-1].iec_group == group
    assert [coolest_needed(lowest(found, rules), rules) for rules in (NEC, IEC)] == [nec_code, iec_code]


@pytest.mark.parametrize(
    ("text", "names"),
    [
        ("H2", ["hydrogen"]), ("CH4 & H2S", ["methane", "hydrogen sulfide"]), ("propane / butane", ["propane", "butane"]),
        ("sawdust", ["wood dust"]), ("oil and fumes (IIA 300 °C)", ["oil and fumes"]),
        ("methane and solvent (IIB 240 °C)", ["methane", "solvent"]), ("petrol and diesel", ["petrol", "diesel"]),
    ],
)  # fmt: skip
def test_materials_as_people_list_them(text, names):
    assert [one.name for one in read_materials(text).items] == names
