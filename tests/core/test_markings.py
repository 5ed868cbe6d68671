"""Markings for hazardous places: composed and read again, real forms read, each part explained."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vinegate.core.codes import decode
from vinegate.core.place.ex_mark import LEVELS, ExMark, compose_ex, parse_ex
from vinegate.core.place.explain import cabinet_types, explain
from vinegate.core.place.listing import Listed, Marking, compose, compose_listing, read_marking
from vinegate.core.shelf import shelf
from vinegate.core.tables import load

TYPES = [row["type"] for row in load("protection_type").rows]
CODES = [row["code"] for row in load("temperature_code").rows]
GAS_GROUPS = ["IIA", "IIB", "IIB+H2", "IIC", "II", "I"]

marks = st.builds(
    ExMark,
    american=st.booleans(),
    category=st.sampled_from(["", "II 2 G", "II 2 GD", "II 3 G", "I 2", "II 2 D"]),
    types=st.lists(st.sampled_from(TYPES), min_size=1, max_size=3, unique=True).map(tuple),
    associated=st.sampled_from(["", "ia Ga", "ib"]),
    group=st.sampled_from([*GAS_GROUPS, "IIIA", "IIIB", "IIIC"]),
    temperature=st.one_of(st.sampled_from(CODES), st.integers(60, 450).map(lambda degrees: f"T{degrees} °C")),
    level=st.sampled_from(["", *LEVELS]),
    ip=st.sampled_from(["", "IP54", "IP66", "IP6X"]),
    ambient_c=st.one_of(st.none(), st.tuples(st.integers(-60, 0), st.integers(30, 90))).map(
        lambda both: both and (float(both[0]), float(both[1]))
    ),
    condition=st.sampled_from(["", "X", "U"]),
)


@pytest.mark.slow
@given(mark=marks, zone=st.sampled_from(["", "1", "2"]))
def test_what_is_composed_is_read_again(mark, zone):
    whole = ExMark(**{name: getattr(mark, name) for name in ExMark.__slots__} | {"zone": zone if mark.american else ""})
    assert parse_ex(compose_ex(whole)) == ((whole,), ())


@pytest.mark.slow
@given(first=marks, second=marks)
def test_two_markings_on_one_plate(first, second):
    assert parse_ex(f"{compose_ex(first)} / {compose_ex(second)}") == ((first, second), ())


classes = st.builds(
    Listed,
    hazard_class=st.sampled_from(["I", "II", "III"]),
    division=st.sampled_from(["", "1", "2"]),
    groups=st.sets(st.sampled_from("ABCDEFG")).map(lambda letters: tuple(sorted(letters))),
)


@pytest.mark.slow
@given(listed=st.lists(classes, min_size=1, max_size=3).map(tuple), code=st.sampled_from(["", *CODES]))
def test_listings_too(listed, code):
    found = read_marking(compose_listing(listed, code))
    assert (found.listed, found.temperature, found.unread) == (listed, code, ())


@pytest.mark.slow
@given(listed=classes, mark=marks)
def test_and_both_together(listed, mark):
    whole = Marking(listed=(listed,), temperature="T3", ex=(mark,))
    assert read_marking(compose(whole)) == whole


@pytest.mark.parametrize(
    ("text", "types", "group", "temperature", "level"),
    [
        ("Ex db IIB T4 Gb", ("db",), "IIB", "T4", "Gb"),
        ("Ex d IIC T5", ("d",), "IIC", "T5", "Gb"),
        ("EEx de IIB T3", ("d", "e"), "IIB", "T3", "Gb"),
        ("II 2G Ex db eb IIC T6 Gb IP66", ("db", "eb"), "IIC", "T6", "Gb"),
        ("Ex nA IIC T3 Gc", ("nA",), "IIC", "T3", "Gc"),
        ("Ex ec IIC T3 Gc", ("ec",), "IIC", "T3", "Gc"),
        ("Ex e II T3", ("e",), "II", "T3", "Gb"),
        ("AEx db IIB + H2 T4", ("db",), "IIB+H2", "T4", "Gb"),
        ("Ex tb IIIC T135°C Db", ("tb",), "IIIC", "T135 °C", "Db"),
        ("Ex tD A22 IP55 T125 °C", ("tD",), "", "T125 °C", "Dc"),
        ("Ex ia IIC T4 Ga", ("ia",), "IIC", "T4", "Ga"),
        ("Ex db [ia Ga] IIC T4 Gb", ("db",), "IIC", "T4", "Gb"),
        ("II 3 G Ex nR II T4", ("nR",), "II", "T4", "Gc"),
        ("Ex db IIC T4 Gb -40 °C ≤ Ta ≤ +60 °C X", ("db",), "IIC", "T4", "Gb"),
    ],
)
def test_forms_met_on_plates(text, types, group, temperature, level):
    (mark,), unread = parse_ex(text)
    assert (mark.types, mark.group, mark.temperature, mark.protects) == (types, group, temperature, level)
    assert unread == ()


def test_the_ambient_and_the_condition_are_read():
    (mark,), _ = parse_ex("Ex db IIC T4 Gb −40 °C ≤ Tamb ≤ +60 °C X")
    assert mark.ambient_c == (-40.0, 60.0)
    assert mark.condition == "X"


def test_the_weakest_type_decides_where_no_level_is_marked():
    assert ExMark(types=("db", "ec"), group="IIC").protects == "Gc"
    assert ExMark(types=("ia", "db"), group="IIC").protects == "Gb"


@pytest.mark.parametrize(
    ("text", "listed", "code"),
    [
        ("CL I GP D", [("I", "", "D")], ""),
        ("CLASS I GROUPS C & D", [("I", "", "CD")], ""),
        ("Class I, Group D; Class II, Groups E, F, G; T3C", [("I", "", "D"), ("II", "", "EFG")], "T3C"),
        ("CL I DIV 2 GP A,B,C,D T3", [("I", "2", "ABCD")], "T3"),
        ("CL. II DIV. 1 GPS. F AND G TEMP CODE T3B", [("II", "1", "FG")], "T3B"),
        ("CLASS III DIV 1", [("III", "1", "")], ""),
        ("CL I DIV 1 & 2 GP CD", [("I", "", "CD")], ""),
        ("CL 1 GP D", [("I", "", "D")], ""),
    ],
)
def test_listings_met_on_plates(text, listed, code):
    found = read_marking(text)
    assert [(one.hazard_class, one.division, "".join(one.groups)) for one in found.listed] == listed
    assert found.temperature == code
    assert found.unread == ()


def test_what_is_not_understood_is_named():
    assert read_marking("CL I GP D SUITABLE").unread == ("SUITABLE",)
    assert read_marking("Ex db IIB T4 Gb frogs").unread == ("frogs",)
    assert any("not understood" in text for _, text, _ in explain("Ex db IIB T4 Gb frogs"))


@given(text=st.text(max_size=60))
def test_anything_typed_is_read_without_a_fall(text):
    explain(text)
    cabinet_types(text)


def test_each_part_is_explained_with_its_standard():
    found = {part: (text, standard) for part, text, standard in explain("II 2 G Ex db eb IIC T4 Gb")}
    assert "flameproof" in found["db"][0]
    assert found["db"][1] == "IEC 60079-1"
    assert "135 °C" in found["T4"][0]
    assert "zones 1 and 2" in found["Gb"][0]


def test_the_plate_and_the_shelf_decode_them_too():
    assert "propane" in decode("marking", "CL I GP D")[-1].text
    assert [meaning.part for meaning in shelf("what does Ex eb IIC T3 Gb mean?")][:2] == ["Ex", "eb"]
    assert "no IP code makes a type" in decode("cabinet", "type 4X")[0].text
    assert decode("cabinet", "IP65")[0].part == "IP6"


@pytest.mark.parametrize(
    ("text", "condition"),
    [
        ("IECEx ABC 12.0001X Ex db IIB T4 Gb", "X"),
        ("Ex db IIB T4 Gb ABC 12 ATEX 1234 X", "X"),
        ("Ex db IIB T4 Gb ABC 12 ATEX 1234 U", "U"),
        ("Ex db IIB T4 Gb ABC 12 ATEX 1234", ""),
        ("Ex tb IIIC T135 °C Db", ""),
    ],
)
def test_a_certificates_number_says_its_conditions(text, condition):
    """Behind the number as behind the marking: IEC 60079-0 29."""
    assert [mark.condition for mark in read_marking(text).ex] == [condition]


@pytest.mark.parametrize(
    ("short", "long"),
    [
        ("C1D1 GROUPS C D", "Class I Division 1 Groups C, D"),
        ("CII,D2 GP F-G", "Class II, Division 2, Groups F, G"),
        ("ExdeIICT4", "Ex de IIC T4"),
        ("Exd IIB T4", "Ex d IIB T4"),
        ("EExde IIBT4", "EEx de IIB T4"),
        ("II2G ExnA II T3", "II 2G Ex nA II T3"),
        ("EX DB EB IIC T4 GB", "Ex db eb IIC T4 Gb"),
        ("EXTB IIIC T135°C DB", "Ex tb IIIC T135 °C Db"),
        ("AEX DB IIB+H2 T4 GB", "AEx db IIB+H2 T4 Gb"),
        ("Class I, Div 2, Gr A-D, T3C", "Class I, Division 2, Groups A, B, C, D; T3C"),
    ],
)
def test_short_forms_say_the_same(short, long):
    assert read_marking(short) == read_marking(long)


@pytest.mark.parametrize(
    ("said", "air"),
    [
        ("Ta -40 °C to +55 °C", (-40, 55)), ("-20°C ≤ Ta ≤ +55°C", (-20, 55)), ("Tamb 60 °C", (-20, 60)),
        ("Ta ≤ 30 °C", (-20, 30)), ("Tamb max. 50 °C", (-20, 50)), ("", None),
    ],
)  # fmt: skip
def test_the_air_of_a_marking_however_it_is_written(said, air):
    (mark,), left = parse_ex(f"Ex db IIB T4 Gb {said}")
    assert (mark.ambient_c, mark.temperature, left) == (air, "T4", ())
