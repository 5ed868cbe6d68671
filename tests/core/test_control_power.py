"""What feeds the coils: sums by hand, each requirement on both sides, and what is not described is not judged."""

import math

import pytest

from tests.conftest import planner
from vinegate.core.drive.stage import DRIVE
from vinegate.core.grade import Kind, Verdict
from vinegate.core.rules.protocol import Allowed
from vinegate.core.rules.sets import rule_set
from vinegate.core.starter.burdens import burdens_of
from vinegate.core.starter.circuits import BY_WAY
from vinegate.core.starter.control import fuse_within
from vinegate.core.starter.stage import STARTER
from vinegate.core.starter.wishes import Wishes
from vinegate.core.tables import load

CENTRIFUGE, HYDRAULIC = planner("harrowmere-lock.json", "X-51"), planner("skerry-sound.json", "H-1")
PASSES, CHECK, FAILS, UNKNOWN = Verdict.PASSES, Verdict.CHECK, Verdict.FAILS, Verdict.UNKNOWN
MADE = {"starter.coil_pull": None, "starter.coil_hold": None}
CASES = [
    (HYDRAULIC, {}, "starter.coil_volts", PASSES),
    (HYDRAULIC, {"starter.transformer": "63 VA"}, "starter.coil_volts", FAILS),
    (HYDRAULIC, {"starter.transformer_z": None, "starter.transformer": "100 VA"}, "starter.coil_volts", CHECK),
    (HYDRAULIC, {"starter.transformer": "160 VA", "starter.transformer_z": "4 %"}, "starter.coil_volts", PASSES),
    (HYDRAULIC, {"starter.transformer": None}, "starter.coil_volts", UNKNOWN),
    (HYDRAULIC, {"protection.coil": None}, "starter.coil_volts", UNKNOWN),
    (HYDRAULIC, {"starter.run": "1500 m"}, "starter.coil_volts", FAILS),
    (HYDRAULIC, {"plate.full_load_current": None, "plate.power": None}, "starter.coil_volts", UNKNOWN),
    (HYDRAULIC, {"starter.run": "1500 m", "protection.coil": "24 V"}, "starter.coil_volts", FAILS),
    (HYDRAULIC, {"protection.coil": "24 VDC"}, "starter.coil_fits", FAILS),
    (HYDRAULIC, {"protection.coil": "24 VDC", "starter.control_from": "line"}, "starter.coil_fits", FAILS),
    (HYDRAULIC, {"starter.steady": "300 VA"}, "starter.control_size", FAILS),
    (HYDRAULIC, {"starter.steady": "150 VA"}, "starter.control_size", PASSES),
    (HYDRAULIC, {"starter.secondary_fuse": "1.25 A"}, "starter.secondary_fuse", FAILS),
    (HYDRAULIC, {"starter.secondary_fuse": "0.2 A"}, "starter.secondary_carries", FAILS),
    (HYDRAULIC, {"starter.run": "145 m"}, "starter.hold_in", PASSES),
    (HYDRAULIC, {"starter.run": "430 m"}, "starter.hold_in", FAILS),
    (HYDRAULIC, {"starter.run": "200 m", "starter.run_capacitance": None}, "starter.hold_in", CHECK),
    (HYDRAULIC, {"starter.grounded": "no"}, "starter.grounded", FAILS),
    (planner("harrowmere-lock.json", "B-42"), {"starter.grounded": "no"}, "starter.grounded", FAILS),
    (HYDRAULIC, {"starter.grounded": "monitored"}, "starter.grounded", PASSES),
    (HYDRAULIC, {"starter.grounded": None}, "starter.grounded", UNKNOWN),
    (HYDRAULIC, {"starter.control_from": "line", "starter.transformer": None}, "starter.control_direct", FAILS),
    (CENTRIFUGE, {"starter.primary_fuse": "8 A"}, "starter.primary_fuse", FAILS),
    (CENTRIFUGE, {"starter.primary_fuse": "7 A"}, "starter.primary_fuse", PASSES),
    # 250 VA at 400 V and 5 %: 12.5 A behind it, a sixth of which surely opens, two fifths hardly
    (HYDRAULIC, {"starter.primary_fuse": "2 A"}, "starter.primary_clears", PASSES),
    (HYDRAULIC, {"starter.primary_fuse": "2.2 A"}, "starter.primary_clears", CHECK),
    (HYDRAULIC, {"starter.primary_fuse": "4.9 A"}, "starter.primary_clears", CHECK),
    (HYDRAULIC, {"starter.primary_fuse": "5.1 A"}, "starter.primary_clears", FAILS),
    (HYDRAULIC, {"starter.primary_fuse": "2 A", "starter.transformer_z": None}, "starter.primary_clears", CHECK),
    # 750 VA at 480 V are 1.56 A; 112 VA are held
    (CENTRIFUGE, {"starter.primary_fuse": "1.6 A"}, "starter.primary_carries", PASSES),
    (CENTRIFUGE, {"starter.primary_fuse": "1.5 A"}, "starter.primary_carries", CHECK),
    (CENTRIFUGE, {"starter.primary_fuse": "0.2 A"}, "starter.primary_carries", FAILS),
    (CENTRIFUGE, {"starter.secondary_fuse": "12 A"}, "starter.secondary_fuse", FAILS),
    (CENTRIFUGE, {"starter.run_size": "16 AWG", "starter.secondary_fuse": "10 A"}, "starter.control_wire", PASSES),
    (CENTRIFUGE, {"starter.run_size": "18 AWG", "starter.secondary_fuse": "10 A"}, "starter.control_wire", FAILS),
]  # fmt: skip


@pytest.mark.parametrize(("plan", "changes", "key", "verdict"), CASES, ids=[f"{c[2]}-{n}" for n, c in enumerate(CASES)])
def test_each_requirement_on_both_sides(plan, changes, key, verdict):
    gate = plan(changes).gate(key)
    assert gate.verdict is verdict, gate.sentence


@pytest.mark.parametrize("path", ["transformer", "coil_pull", "coil_hold"])
def test_a_rating_of_nothing_is_no_rating(path):
    """Nought is refused at its field, and nothing is divided by it."""
    plan = HYDRAULIC({f"starter.{path}": "0 VA"})
    assert [error.path for error in plan.errors] == [f"starter.{path}"]


def test_what_is_not_described_is_advised_and_not_judged():
    plan = planner("harrowmere-lock.json", "P-11")()
    keys = {gate.key for gate in plan.gates}
    assert not keys & {"starter.coil_volts", "starter.grounded", "starter.hold_in"}
    assert plan.figure("starter.size_va").value > 0


def test_volts_at_the_coil_by_ohms_law():
    """H-1 by hand: 250 VA, 5 % at 0.9; 210 VA at 0.6 pulls in through 20 m of 1 mm² beside 1M and two timers.

    2M is worked through STOP at the door; everything is in ohms at 230 V, the source at 90 % of its no-load volts.
    """
    base = 230**2 / 250
    own = 0.05 * base * complex(0.9, math.sqrt(1 - 0.81))
    coil = 230**2 / (210 * complex(0.6, -0.8))
    run = 2 * 0.020 * 19.5
    held = [230**2 / (20 * complex(0.3, -math.sqrt(1 - 0.09))), *[230**2 / (3 * complex(0.8, -0.6))] * 2, 230**2 / 10]
    no_load = 0.9 * 230 * abs(1 + own / base)
    across = 1 / (1 / (coil + run) + sum(1 / one for one in held))
    volts = abs(no_load * across / (across + own) * coil / (coil + run))
    text = HYDRAULIC().gate("starter.coil_volts").sentence
    assert f"{100 * volts / 230:.1f}".rstrip("0").rstrip(".") + " % at a coil" in text


def test_the_three_ways_to_add():
    """Phasors never exceed the arithmetic sum; the root of squares is the least of the three."""
    for plan in (HYDRAULIC(), CENTRIFUGE(), CENTRIFUGE(MADE)):
        exact, whole, root = (plan.figure(f"starter.{key}_va").value for key in ("exact", "sum", "root"))
        assert root < exact <= whole + 1e-9
    assert CENTRIFUGE().figure("starter.sum_va").value == pytest.approx(
        CENTRIFUGE().figure("starter.pulling_va").value + CENTRIFUGE().figure("starter.held_va").value
    )


def test_what_pulls_in_together_in_wye_delta():
    """S alone, then 1M beside S, then 2M beside 1M with its timers; 2M never beside S."""
    found = burdens_of(BY_WAY["wye-delta"](Wishes()))
    pulls = {(tuple(sorted(one.pulls)), tuple(sorted(one.held))) for one in found if one.pulls}
    assert pulls == {(("S",), ()), (("1M",), ("S",)), (("2M",), ("1M", "TR", "TRp"))}


def test_a_controllers_command_counts_as_a_start():
    found = burdens_of(BY_WAY["full-voltage"](Wishes(hands=True)))
    assert any(one.pulls == {"M"} for one in found)


def test_the_makers_coil_rules_over_the_usual():
    usual, made = CENTRIFUGE(MADE), CENTRIFUGE({"starter.coil_pull": "300 VA"})
    assert made.figure("starter.exact_va").value < usual.figure("starter.exact_va").value
    loads = made.of(STARTER).control.loads
    assert {one.tag for one in loads if one.pull.given} == {"S", "DB"}  # both are as large


@pytest.mark.parametrize("series", ["nec", "iec"])
@pytest.mark.parametrize("most", [0.5, 1.0, 1.67, 2.0, 3.1, 6.0, 9.9, 15.0])
def test_the_fuse_taken_is_the_largest_made_that_is_allowed(series, most):
    rules = rule_set(series)
    made = sorted(float(row["amps"]) for row in load("control_fuse").rows if row["set"] == rules.control.series)
    found = fuse_within(rules, Allowed(amps=most, cite=""))
    fitting = [one for one in made if one <= most]
    assert found == (fitting[-1] if fitting else None)


def test_nothing_allowed_is_no_fuse():
    assert fuse_within(rule_set("nec"), None) is None
    assert fuse_within(rule_set("nec"), Allowed(amps=None, cite="")) is None


@pytest.mark.parametrize(
    ("fed", "run", "asked"),
    [
        ("transformer", None, True),
        ("line", None, False),
        ("line", "40 m", True),
        ("dc", "40 m", False),
        ("dc", None, False),
    ],
)
def test_volts_at_the_coils_are_asked_where_something_takes_them(fed, run, asked):
    """A transformer's own drop, or that of a run whose length is known; coils on direct current take no inrush."""
    keys = {gate.key for gate in HYDRAULIC({"starter.control_from": fed, "starter.run": run}).gates}
    assert ("starter.coil_volts" in keys) is asked


def test_of_two_motors_on_a_drive_each_has_half_of_it():
    """P-4's drive feeds two: its rating is shared before a ramp's amperes are held against it."""
    plan = planner("skerry-sound.json", "P-4")
    rated = plan().of(DRIVE).driven.rating.rated_a
    peak = plan().of(DRIVE).driven.ramps.peak_a
    assert peak < rated / 2
    small = plan({"drive.rated": f"{1.6 * peak:.2f} A"}).of(DRIVE).driven.ramps
    assert small.peak_for_s > 0
    assert plan().of(DRIVE).driven.ramps.peak_for_s == 0


@pytest.mark.parametrize(
    ("facts", "says"),
    [
        ({"starter.follows": "yes"}, "the circuit that it follows"),
        ({"starter.control_from": "dc"}, "its direct current"),
        ({"starter.control_from": "transformer"}, ""),
        ({"starter.follows": "no"}, ""),
    ],
)
def test_what_stays_live_behind_an_open_disconnect_is_for_the_site(facts, says):
    found = [gate for gate in HYDRAULIC(facts).gates if gate.key == "starter.live"]
    assert bool(found) == bool(says)
    assert all(gate.kind is Kind.CONFIRM and says in gate.sentence for gate in found)


@pytest.mark.parametrize(
    "facts", [{"protection.coil": "24 V"}, {"protection.coil": "24 VDC", "starter.control_from": "dc"}]
)
def test_coils_that_go_with_their_supply_are_not_judged(facts):
    assert all(gate.key != "starter.coil_fits" for gate in HYDRAULIC(facts).gates)


def test_coils_said_to_be_of_direct_current_are_fed_so():
    """Nothing else being said no transformer is advised for them, and their supply stays live."""
    nothing = dict.fromkeys(("control_from", "transformer", "transformer_z", "secondary_fuse", "run"))
    facts = {f"starter.{name}": None for name in nothing}
    direct, alternating = (HYDRAULIC(facts | {"protection.coil": volts}) for volts in ("110 VDC", "110 V"))
    assert direct.figure("starter.size_va") is None
    assert alternating.figure("starter.size_va") is not None
    live = [any(gate.key == "starter.live" for gate in plan.gates) for plan in (direct, alternating)]
    assert live == [True, False]


@pytest.mark.parametrize(("fed", "words"), [("line", "the line's"), ("transformer", "the transformer's volts")])
def test_what_alternates_is_named(fed, words):
    gate = HYDRAULIC({"protection.coil": "24 VDC", "starter.control_from": fed}).gate("starter.coil_fits")
    assert f"fed by {words}" in gate.sentence
