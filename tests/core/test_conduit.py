"""Conduit of a run: tables by their geometry, counts as annex C of NFPA 70 prints them, and its gate on both sides."""

import math

import pytest

from tests.conftest import planner
from tests.core.good import GOOD
from vinegate.core.facts import RuleSetName
from vinegate.core.grade import Kind, Verdict
from vinegate.core.numbers import QuantityError
from vinegate.core.rules.nec.conduit import Wires
from vinegate.core.supply.conduit import CONDUITS, COVERINGS, fits, kinds_of, raceway_of, read_trade
from vinegate.core.tables import load

P11, C71 = planner("harrowmere-lock.json", "P-11"), planner("harrowmere-lock.json", "C-71")
SAID = {"wiring.conduit_kind": "emt", "wiring.covering": "thhn", "wiring.ground_size": "4 AWG"}

# Inside diameters of chapter 9 table 4, in.
INSIDE = {
    "emt": (0.622, 0.824, 1.049, 1.380, 1.610, 2.067, 2.731, 3.356, 3.834, 4.334),
    "imc": (0.660, 0.864, 1.105, 1.448, 1.683, 2.150, 2.557, 3.176, 3.671, 4.166),
    "rmc": (0.632, 0.836, 1.063, 1.394, 1.624, 2.083, 2.489, 3.090, 3.570, 4.050, 5.073, 6.093),
    "pvc-40": (0.602, 0.804, 1.029, 1.360, 1.590, 2.047, 2.445, 3.042, 3.521, 3.998, 5.016, 6.031),
    "pvc-80": (0.526, 0.722, 0.936, 1.255, 1.476, 1.913, 2.290, 2.864, 3.326, 3.786, 4.768, 5.709),
    "lfmc": (0.632, 0.830, 1.054, 1.395, 1.588, 2.033, 2.493, 3.085, 3.520, 4.020),
    "fmc": (0.635, 0.824, 1.020, 1.275, 1.538, 2.040, 2.500, 3.000, 3.500, 4.000),
}
# Bare conductors of chapter 9 table 8, in; insulation of UL 83 and UL 44, thousandths of an inch on each side.
BARE = (0.073, 0.092, 0.116, 0.146, 0.184, 0.232, 0.260, 0.292, 0.332, 0.372, 0.418, 0.470, 0.528, 0.575, 0.630, 0.681,
        0.728, 0.813, 0.893, 0.998, 1.152)  # fmt: skip
THICK = {
    "thhn": (19, 19, 24, 35, 35, *(46,) * 3, *(57,) * 5, *(68,) * 5, *(79,) * 3),
    "xhhw": (30, 30, 30, *(45,) * 5, *(55,) * 5, *(65,) * 5, *(80,) * 3),
    "thw": (30, 30, 30, 45, *(60,) * 4, *(80,) * 5, *(95,) * 5, *(110,) * 3),
    "rhw": (45, 45, 45, 60, *(60,) * 4, *(80,) * 5, *(95,) * 5, *(110,) * 3),
}


@pytest.mark.parametrize("kind", dict(CONDUITS))
def test_areas_are_those_of_the_inside_diameters(kind):
    cells = [load("conduit_nec").number(row, kind) for row in load("conduit_nec").rows]
    assert [one for one in cells if one is not None] == [
        pytest.approx(math.pi / 4 * d * d, abs=0.0012) for d in INSIDE[kind]
    ]


@pytest.mark.parametrize("covering", dict(COVERINGS))
def test_wires_are_as_thick_as_copper_and_insulation(covering):
    areas = [float(row[covering]) for row in load("wire_nec").rows]
    thick = [bare + 2 * mils / 1000 for bare, mils in zip(BARE, THICK[covering], strict=True)]
    assert areas == [pytest.approx(math.pi / 4 * d * d, rel=0.006) for d in thick]


def test_each_size_that_carries_has_its_area():
    assert [row["size"] for row in load("wire_nec").rows] == [row["size"] for row in load("ampacity_nec").rows]


# NFPA 70:2023 annex C table C.1, THHN in EMT.
COUNTS = {
    "1/2": {"14 AWG": 12, "12 AWG": 9, "10 AWG": 5, "8 AWG": 3},
    "3/4": {"14 AWG": 22, "12 AWG": 16, "10 AWG": 10, "8 AWG": 6, "6 AWG": 4},
    "1": {"12 AWG": 26, "8 AWG": 9, "6 AWG": 7, "4 AWG": 4, "3 AWG": 3},
    "1-1/4": {"10 AWG": 28, "6 AWG": 12, "4 AWG": 7, "2 AWG": 5, "1 AWG": 4, "1/0 AWG": 3},
    "2": {"8 AWG": 36, "4 AWG": 16, "1 AWG": 8, "1/0 AWG": 7, "2/0 AWG": 6, "4/0 AWG": 4},
}


@pytest.mark.parametrize(("trade", "size", "most"), [(t, s, n) for t, row in COUNTS.items() for s, n in row.items()])
def test_as_many_alike_as_annex_c_prints(trade, size, most):
    full, over = (Wires(size=size, ground=size, own=count - 1, others=0) for count in (most, most + 1))
    assert full.fills(trade, "emt", "thhn")
    assert not over.fills(trade, "emt", "thhn")


def gate(changes, plan=P11):
    return plan(changes).gate("protection.conduit")


def row(changes, plan=P11):
    return plan(changes).protected.device("conduit")


def test_three_and_a_ground_by_hand():
    """3 × 0.1855 + 0.0824 are 0.6389 in²: over the 0.598 of 1 1/4 in, within the 0.814 of 1 1/2 in."""
    plan = P11(SAID)
    assert plan.figure("wiring.wires_area").value == pytest.approx(0.6389)
    assert plan.figure("wiring.conduit_fill").value == pytest.approx(100 * 0.6389 / 2.036)
    assert row(SAID).advised == "1 1/2 in"
    tight = gate(SAID | {"wiring.conduit": "1-1/4"})
    assert (tight.verdict, tight.remedy) == (Verdict.FAILS, "At least 1 1/2 in.")
    assert gate(SAID | {"wiring.conduit": "1-1/2"}).verdict is Verdict.PASSES


@pytest.mark.parametrize("kind", [None, *dict(CONDUITS)])
@pytest.mark.parametrize("covering", [None, *dict(COVERINGS)])
def test_what_is_advised_stands_once_it_is_typed_and_none_smaller_surely_does(kind, covering):
    said = {"wiring.raceway": None, "wiring.conduit_kind": kind, "wiring.covering": covering}
    said |= {"wiring.raceway": "steel"} if kind is None else {}
    advised = row(said).take
    trades = [one["trade"] for one in load("conduit_nec").rows]
    smaller = trades[trades.index(read_trade(advised)) - 1]
    assert gate(said | {"wiring.conduit": advised}).verdict is Verdict.PASSES
    assert gate(said | {"wiring.conduit": smaller}).verdict is not Verdict.PASSES


def test_the_wires_type_decides_where_it_matters_and_only_there():
    """1 AWG: 0.5193 in² of THHN, 0.6429 of RHW-2, where 1 1/4 in of EMT takes 0.598."""
    said = {
        "wiring.conduit_kind": "emt",
        "wiring.size": "1 AWG",
        "wiring.ground_size": "6 AWG",
        "wiring.conduit": "1-1/4",
    }
    open_one = gate(said)
    assert (open_one.verdict, open_one.turns.path) == (Verdict.CHECK, "wiring.covering")
    assert gate(said | {"wiring.covering": open_one.turns.passes_as}).verdict is Verdict.PASSES
    assert gate(said | {"wiring.covering": "rhw"}).verdict is Verdict.FAILS
    assert gate(said | {"wiring.conduit": "1-1/2"}).verdict is Verdict.PASSES


def test_a_kind_that_settles_it_whatever_the_wire_is_named():
    """0.40 of 1.647 in² of IMC takes 1 AWG of any type, EMT and RMC not of RHW-2."""
    open_one = gate({"wiring.size": "1 AWG", "wiring.ground_size": "6 AWG", "wiring.conduit": "1-1/4"})
    assert (open_one.turns.path, open_one.turns.passes) == ("wiring.conduit_kind", "IMC")


def test_what_else_may_lie_there_is_asked_only_where_it_would_not_fit():
    tight, wide = (
        {**SAID, "wiring.grouped": None, "wiring.conduit": trade} for trade in ("1-1/2", "2")
    )  # 6 wires fill 35.6 % of it
    assert gate(tight).turns.path == "wiring.grouped"
    assert gate(wide).verdict is Verdict.PASSES


def test_wires_of_others_are_confirmed_and_ones_own_must_fit():
    beside = SAID | {"wiring.grouped": "6", "wiring.conduit": "2"}
    assert (gate(beside).kind, gate(beside).verdict) == (Kind.CONFIRM, Verdict.UNKNOWN)
    assert gate(beside | {"wiring.conduit": "1-1/4"}).verdict is Verdict.FAILS
    assert "protection.conduit" not in {one.key for one in P11(SAID | {"wiring.grouped": "6"}).gates}


def test_sets_lie_each_in_its_own_conduit_or_together():
    two = SAID | {"wiring.sets": "2"}
    assert P11(two).figure("wiring.conduit_count").value == 3
    assert P11(two | {"wiring.grouped": "6"}).figure("wiring.conduit_count").value == 6
    assert row(two | {"wiring.grouped": "6"}).advised == "2 in"  # 1.1954 in² of 1.342


def test_fewer_together_than_a_set_has_are_its_own_all_the_same():
    assert P11(SAID | {"wiring.grouped": "1"}).figure("wiring.conduit_count").value == 3


def test_its_row_says_of_what_kind_it_is_and_how_far_it_goes():
    assert (row(SAID).chosen, row({}).chosen) == ("1 1/2 in EMT", "1 1/2 in")
    assert row(SAID).rule == "NFPA 70:2023 chapter 9 table 1"
    assert row(SAID | {"wiring.sets": "2"}).rule.endswith(", each")
    assert row({}, planner("harrowmere-lock.json", "X-51")).rule.endswith(", board to starter")


def test_where_the_wire_alone_decides_in_every_kind_it_is_told():
    said = {
        "wiring.raceway": "aluminium",
        "wiring.size": "1 AWG",
        "wiring.ground_size": "6 AWG",
        "wiring.conduit": "1-1/4",
    }
    assert kinds_of("aluminium") == ("emt", "rmc")
    assert "Passes with wire type THHN/THWN-2 or XHHW-2" in gate(said).sentence


def test_from_line_to_neutral_there_are_two():
    found = GOOD["NEC, line to neutral"]({"wiring.grouped": "2", "wiring.raceway": "steel"})
    assert found.figure("wiring.conduit_count").value == 2


def test_one_phase_has_two_wires_and_its_ground():
    assert C71({"wiring.grouped": "2"}).figure("wiring.conduit_count").value == 2


def test_a_size_that_is_not_made_and_a_kind_that_is_none_of_its_material():
    assert "not made" in gate(SAID | {"wiring.conduit": "5"}).sentence
    wrong = P11(SAID | {"wiring.raceway": "pvc"})
    assert wrong.gate("protection.conduit_kind").fails
    assert "protection.conduit_kind" not in {one.key for one in P11(SAID | {"wiring.raceway": "steel"}).gates}
    assert fits("aluminium", "rmc")
    assert not fits("aluminium", "imc")
    assert fits("steel", "lfmc")
    assert not fits("pvc", "fmc")


def test_the_kind_says_the_material_where_nothing_else_does():
    assert [raceway_of(None, kind) for kind in dict(CONDUITS)] == ["steel"] * 3 + ["pvc"] * 2 + ["steel"] * 2
    unsaid, steel = P11({"wiring.raceway": None, "wiring.conduit_kind": "rmc"}), P11()
    assert unsaid.figure("wiring.x").value == steel.figure("wiring.x").value
    worth = [[note for note in plan.stage("wiring").notes if "Next size" in note] for plan in (unsaid, steel)]
    assert worth[0] == worth[1] != []


def test_nothing_is_said_of_a_conduit_that_is_not_there_nor_by_iec():
    none = {"wiring.raceway": None}
    assert "conduit" not in {one.key for one in P11(none).protected.devices}
    assert "conduit" not in {one.key for one in P11(SAID, RuleSetName.IEC).protected.devices}


@pytest.mark.parametrize("text", ["7", "1-1/3", "0.9", "1/4 mile", "C", "54"])
def test_what_is_no_trade_size_is_told(text):
    with pytest.raises(QuantityError, match="trade size"):
        read_trade(text)


@pytest.mark.parametrize("row", load("conduit_nec").rows, ids=lambda row: row["trade"])
def test_each_size_is_read_from_its_designator_and_its_decimals(row):
    whole, _, part = row["trade"].rpartition("-")
    upper, _, lower = part.partition("/")
    inches = int(whole or 0) + int(upper) / int(lower or 1)
    assert {read_trade(text) for text in (row["trade"], row["metric"], f"{row['metric']} mm", f"{inches:g} in")} == {
        row["trade"]
    }


@pytest.mark.parametrize(
    ("size", "trade", "kind", "most", "verdict"),
    [
        ("12 AWG", "1/2", "emt", 40, Verdict.PASSES),
        ("4 AWG", "1", "fmc", 42.06, Verdict.PASSES),  # 0.3296 in² of 0.327, and of 0.3435 by note 7
        ("8 AWG", "1/2", "rmc", 40, Verdict.FAILS),  # 0.1464 in² of 0.1333 by note 7
    ],
)
def test_the_share_that_is_said_is_the_tables_unless_another_is_needed(size, trade, kind, most, verdict):
    said = {"wiring.conduit_kind": kind, "wiring.conduit": trade, "wiring.covering": "thhn", "wiring.size": size}
    found = gate(said | {"wiring.raceway": "steel", "wiring.ground_size": size})
    assert (found.limit, found.verdict) == (pytest.approx(most, abs=0.02), verdict)


def test_the_least_that_some_wire_takes_is_told_beside_the_advice():
    """3 + 1 of 10 AWG: 0.1332 in² of RHW-2 take 3/4 in, 0.0844 of THHN 1/2 in."""
    said = {"wiring.size": "10 AWG", "wiring.ground_size": "10 AWG"}
    assert row(said).advised == "3/4 in"
    assert "1/2 in will do of THHN/THWN-2 in EMT" in gate(said).sentence
    assert row(said | {"wiring.covering": "thhn"}).advised == "1/2 in"
