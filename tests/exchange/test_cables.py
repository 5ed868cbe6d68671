"""Cables as schedules write them: a size alone is read, what else is said goes to fields of its own or is asked for there."""

import pytest

from vinegate.core.facts import RuleSetName
from vinegate.core.numbers import QuantityError
from vinegate.core.supply.cable import cable_of, read_size, read_size_us
from vinegate.exchange.circuit_file import TAG
from vinegate.exchange.columns import columns
from vinegate.exchange.spreadsheet import read_rows, read_table

IEC, NEC = RuleSetName.IEC, RuleSetName.NEC


@pytest.mark.parametrize(
    ("text", "size"),
    [
        ("3x35", "35 mm²"), ("5x2,5", "2.5 mm²"), ("4 x 16 mm²", "16 mm²"), ("3C x 25", "25 mm²"), ("4C x 6 sqmm", "6 mm²"),
        ("3C+E 25mm2", "25 mm²"), ("1x240", "240 mm²"), ("3 x 1c x 95", "95 mm²"), ("3x1x240", "240 mm²"), ("4G6", "6 mm²"),
        ("3G2.5", "2.5 mm²"),
    ],
)  # fmt: skip
def test_cores_of_one_cable_stand_beside_its_size(text, size):
    assert read_size(text) == size


@pytest.mark.parametrize(
    ("text", "size"),
    [
        ("3-#4 AWG", "4 AWG"), ("3#10", "10 AWG"), ("(3) #4 AWG", "4 AWG"), ("3/C #10", "10 AWG"), ("12-2", "12 AWG"),
        ("10/3", "10 AWG"), ("4G6", "6 mm²"), ("1/0", "1/0 AWG"), ("3/0 AWG", "3/0 AWG"), ("4/0", "4/0 AWG"),
    ],
)  # fmt: skip
def test_in_gauges_too_and_ciphers_are_no_cores(text, size):
    """3/0 is a size, 10/3 a gauge and its cores; squares are squares in any dialect where G says so."""
    assert read_size_us(text) == size


@pytest.mark.parametrize(
    ("text", "read", "asked"),
    [
        ("2x(3x95)", read_size, ["95 mm²", "2 under “Sets in parallel”"]),
        ("2x(3x95/50)", read_size, ["95 mm²", "2 under “Sets in parallel”", "50 mm² under “Protective conductor”"]),
        ("3x35+16", read_size, ["35 mm²", "16 mm² under “Protective conductor”"]),
        ("3x35/16", read_size, ["35 mm²", "16 mm² under “Protective conductor”"]),
        ("3#10 + 1#10G", read_size_us, ["10 AWG", "10 AWG under “Grounding conductor”"]),
        ("2/0 AL", read_size_us, ["2/0 AWG", "aluminum under “Metal”"]),
        ("4 AWG THHN", read_size_us, ["4 AWG", "THHN under “Insulation”"]),
        ("2x3/0", read_size_us, ["two cores, or two in parallel?"]),
        ("2 x 95", read_size, ["two cores, or two in parallel?"]),
        ("4 x 1C x 95", read_size, ["no whole sets of three"]),
        ("7x7", read_size, ["sets in parallel apart"]),
        ("3x36", read_size, ["“3x36” is not a tabulated size"]),
    ],
)
def test_what_else_is_said_is_asked_for_where_it_belongs(text, read, asked):
    """Aluminium read as copper, or two sets as one, would pass what must not."""
    with pytest.raises(QuantityError) as wrong:
        read(text)
    assert all(one in str(wrong.value) for one in asked)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ('3#4, 1#8G, 1"C', ("4 AWG", 1, "8 AWG", "1", "", "")),
        ('3 #4 THHN, 1 #8 THHN GND, 1-1/4" EMT', ("4 AWG", 1, "8 AWG", "1-1/4", "emt", "")),
        ("(3) 1/0, (1) #6 G in 2 in RMC", ("1/0 AWG", 1, "6 AWG", "2", "rmc", "")),
        ('2 sets of (3#4/0, 1#4G, 2 1/2"C)', ("4/0 AWG", 2, "4 AWG", "2-1/2", "", "")),
        ('3#1/0 & 1#6 EGC, 2" PVC', ("1/0 AWG", 1, "6 AWG", "2", "", "pvc")),
        ('3#500 MCM + #1/0 G 4"C', ("500 kcmil", 1, "1/0 AWG", "4", "", "")),
        ('2#10, 1#10G, 3/4"C', ("10 AWG", 1, "10 AWG", "3/4", "", "")),
        ("6-1/C #4 w/ #8 G", ("4 AWG", 2, "8 AWG", "", "", "")),
        ("3/C #4 + G", ("4 AWG", 1, "", "", "", "")),
    ],
)
def test_wires_with_their_ground_and_conduit(text, said):
    found = cable_of(text, read_size_us)
    lies = found.lies
    assert (found.size, found.sets, found.ground, lies.trade, lies.kind, lies.raceway) == said


def test_a_column_of_conduits_has_size_and_kind():
    found, bad = rows_of(NEC, "Tag,Conduit", '"1-1/4"" EMT"', "EMT", "2", "35", "1 PVC", "9 in")
    assert found[:5] == [
        {"wiring.conduit": "1-1/4", "wiring.conduit_kind": "emt"}, {"wiring.conduit_kind": "emt"},
        {"wiring.conduit": "2"}, {"wiring.conduit": "1-1/4"}, {"wiring.conduit": "1", "wiring.raceway": "pvc"},
    ]  # fmt: skip
    assert bad == [False] * 5 + [True]


def test_a_column_of_raceways_is_still_one():
    found, bad = rows_of(NEC, "Tag,Raceway", "steel", "aluminum conduit", '"3/4"" C"', "RMC")
    assert [dict(one) for one in found] == [
        {"wiring.raceway": "steel"}, {"wiring.raceway": "aluminium"}, {"wiring.conduit": "3/4"}, {"wiring.conduit_kind": "rmc"},
    ]  # fmt: skip
    assert not any(bad)


def test_a_schedules_run_is_taken_apart():
    found, bad = rows_of(NEC, "Tag,Wire and conduit", '"3#4 THHN, 1#8G, 1"" EMT"')
    assert found == [{
        "wiring.size": "4 AWG", "wiring.ground_size": "8 AWG", "wiring.insulation": "90", "wiring.covering": "thhn",
        "wiring.conduit": "1", "wiring.conduit_kind": "emt",
    }]  # fmt: skip
    assert bad == [False]


@pytest.mark.parametrize(("many", "sets"), [("3", 1), ("6", 2), ("9", 3)])
def test_single_cores_make_sets_of_three(many, sets):
    assert cable_of(f"{many} x 1C x 150", read_size).sets == sets


def rows_of(rules, head, *cells):
    table = read_table("t.csv", "\n".join([head, *(f"M{at},{cell}" for at, cell in enumerate(cells))]).encode())
    rows = read_rows(table, columns(table, {}), rules=rules, job={}, tag_rule=TAG)
    return [{cell.path: cell.text for cell in row.cells} for row in rows], [row.bad for row in rows]


def test_a_table_takes_a_cable_apart():
    found, bad = rows_of(IEC, "Tag,Cable size", "2x(3x95) Cu XLPE", "3x35/16", "4G6", "2 x 95")
    assert found[0] == {
        "wiring.size": "95 mm²",
        "wiring.sets": "2",
        "wiring.metal": "copper",
        "wiring.insulation_iec": "xlpe",
    }
    assert found[1] == {"wiring.size": "35 mm²", "wiring.ground_size": "16 mm²"}
    assert found[2] == {"wiring.size": "4G6"}
    assert bad == [False, False, False, True]


def test_a_column_of_its_own_has_the_word():
    found, _ = rows_of(NEC, "Tag,Wire size,Metal", "3#10 + 1#10G AL,copper")
    assert found == [{"wiring.size": "10 AWG", "wiring.ground_size": "10 AWG", "wiring.metal": "copper"}]


@pytest.mark.parametrize(
    ("text", "turns"),
    [
        ("FVR", True),
        ("Combination FVR", True),
        ("D.O.L.", False),
        ("DOL reversing", True),
        ("FVNR", False),
        ("DOL", False),
    ],
)
def test_a_starter_that_reverses(text, turns):
    found, bad = rows_of(NEC, "Tag,Starter type", text)
    assert found == [{"start.method": "full-voltage", **({"start.reversing": "yes"} if turns else {})}]
    assert bad == [False]


@pytest.mark.parametrize(
    ("head", "path"),
    [("U [V]", "plate.volts"), ("Motor Rating (kW)", "plate.power"), ("Motor size (HP)", "plate.power"),
     ("I [A]", "plate.full_load_current"), ("Ie [A]", "plate.full_load_current")],
)  # fmt: skip
def test_heads_of_one_letter_and_of_the_trade(head, path):
    assert columns([["Tag", head], ["M1", "1"]], {})[1] == path


def test_nothing_of_it_is_a_pattern_of_backtracking():
    """A long text is turned away at once."""
    for text in ("3x" * 100, "(" * 150, "3C+" * 60):
        with pytest.raises(QuantityError):
            read_size(text)


@pytest.mark.parametrize(
    ("rules", "text", "facts"),
    [
        (NEC, "100A MCCB", {"protection.rating": "100 A", "protection.device_nec": "inverse-time"}),
        (NEC, "TD 30A", {"protection.rating": "30 A", "protection.device_nec": "time-delay"}),
        (IEC, "63 A gG", {"protection.rating": "63 A", "protection.device_iec": "gg"}),
        (NEC, "175A fuses", {"protection.rating": "175 A"}),
        (NEC, "100 AT/125 AF", {"protection.rating": "100 A", "protection.device_nec": "inverse-time"}),
    ],
)
def test_a_device_of_its_kind(rules, text, facts):
    found, bad = rows_of(rules, "Tag,Breaker", text)
    assert (found, bad) == ([facts], [False])


@pytest.mark.parametrize(("rules", "text"), [(IEC, "20 A MCB"), (NEC, "63 A gG"), (NEC, "200A frame"), (NEC, "LPS 60")])
def test_a_device_that_may_be_several_or_none_is_asked(rules, text):
    """A miniature breaker may be for motors or of type D; a gG fuse is none of the other country's; a frame no rating."""
    assert rows_of(rules, "Tag,Breaker", text)[1] == [True]
