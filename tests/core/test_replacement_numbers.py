"""What the rows of a comparison say in numbers, worked by hand from both plates."""

import math
import re

import pytest

from tests.conftest import planner
from tests.core.test_replacement import COMPRESSOR, HYDRAULIC, PUMP, row
from vinegate.core.replacement.fits import Fits
from vinegate.core.replacement.frames import Frame, differences
from vinegate.core.replacement.stage import REPLACEMENT


def found(circuit, changes, key):
    plan, copied = circuit
    return row(plan(copied | changes), key)


def test_amperes_are_told_by_their_ratio():
    """92 A in the connection used; 101 is 10 % more, 83 is 10 % less."""
    more = found(PUMP, {"new_plate.full_load_current": "202/101"}, "amperes")
    less = found(PUMP, {"new_plate.full_load_current": "166/83"}, "amperes")
    assert more.text.startswith("10 % more")
    assert less.text.startswith("10 % less")
    assert "101 A" in more.task
    assert found(PUMP, {"new_plate.full_load_current": "186/93"}, "amperes").fits is Fits.SAME


def test_a_worse_efficiency_costs_the_difference_of_the_inputs():
    plan, copied = HYDRAULIC
    old = float(copied["new_plate.efficiency"].rstrip(" %").replace(",", ".")) / 100
    said = found(HYDRAULIC, {"new_plate.efficiency": "90 %"}, "efficiency").text
    load_w = plan().load.power.value * 1000 if plan().load else 0.0
    kw = float(re.search(r"Worse: ([\d.]+) kW", said).group(1))
    assert kw == pytest.approx(load_w * (1 / 0.90 - 1 / old) / 1000, rel=0.03)
    assert found(HYDRAULIC, {"new_plate.efficiency": f"{100 * old - 0.1:.1f} %"}, "efficiency").fits is Fits.SAME


def test_a_lower_service_factor_counts_where_the_load_is_above_the_rating():
    """69 hp of load on 75 hp stay within; on a plate of 68 hp they do not."""
    lower = {"new_plate.service_factor": "1.0"}
    assert found(PUMP, lower, "service").fits is Fits.WITH
    over = found(PUMP, {**lower, "new_plate.power": "68 hp"}, "service")
    assert over.fits is Fits.NOT
    assert "101 %" in over.text or "102 %" in over.text


@pytest.mark.parametrize(("leads", "fits"), [("3", Fits.NOT), ("6", Fits.SAME), ("12", Fits.WITH)])
def test_wye_delta_asks_for_six_leads(leads, fits):
    changes = {"start.method": "wye-delta", "plate.leads": "6", "new_plate.leads": leads}
    assert found(HYDRAULIC, changes, "leads").fits is fits


def frame(**more):
    sizes = {"height": 160.0, "across": 254.0, "along": 210.0, "shaft": 42.0, "length": 110.0}
    return Frame(name="", **sizes | more)


@pytest.mark.parametrize(
    ("new", "words"),
    [
        ({"height": 159.4}, ["shim it up 0.6 mm"]),
        ({"height": 159.6}, []),
        ({"height": 160.6}, ["lower its base"]),
        ({"height": 160.4}, []),
        ({"shaft": 42.6}, ["rebored to 42.6 mm from 42 mm"]),
        ({"shaft": 42.4}, []),
        ({"shaft": 41.4}, ["bushing from 42 mm to 41.4 mm"]),
        ({"shaft": 41.6}, []),
        ({"length": 113.0}, ["shaft 3 mm longer"]),
        ({"length": 107.0}, ["shaft 3 mm shorter"]),
        ({"length": 112.0}, []),
    ],
)
def test_half_a_millimetre_of_metal_is_the_same(new, words):
    said = differences(frame(), frame(**new), us=False)
    assert len(said) == len(words)
    assert all(word in text for word, text in zip(words, said, strict=True))


def test_what_a_closed_motor_bears_besides_is_named():
    """From drip-proof to totally enclosed: what it bears more is told, nothing that both bear."""
    told = found(PUMP, {"plate.enclosure": "ODP", "new_plate.enclosure": "TEFC"}, "enclosure")
    assert told.fits is Fits.WITH
    assert told.text.startswith("It bears ")
    same = found(PUMP, {"plate.enclosure": "TEFC", "new_plate.enclosure": "TENV"}, "enclosure")
    assert same.text == "It bears as much."
    worse = found(PUMP, {"plate.enclosure": "TEFC", "new_plate.enclosure": "ODP"}, "enclosure")
    assert worse.fits is Fits.NOT


def test_a_smaller_motor_says_how_far_beyond_its_rating_it_works():
    """60 hp are 44.74 kW; at the speed where both curves meet the load asks more of it than that."""
    plan, copied = PUMP
    plan = plan(copied | {"new_plate.power": "60 hp", "new_plate.speed": "1190 rpm"})
    turns, said = plan.of(REPLACEMENT).turns, row(plan, "speed").text
    over = float(re.search(r"That is (\d+) % of its rating", said).group(1))
    assert over == pytest.approx(100 * turns.new_w / (60 * 745.699872), abs=0.5)
    assert f"{100 * (turns.new_w / turns.old_w - 1):+.1f} % power" in said
    # The load asks by the cube of the speed: a centrifugal pump on an open valve.
    assert turns.new_w / turns.old_w == pytest.approx((turns.new_rpm / turns.old_rpm) ** 3, rel=1e-3)


@pytest.mark.parametrize(
    ("eased", "whole"), [("pump-closed", "pump-open"), ("fan-closed", "fan-open"), ("unloaded", "constant")]
)
def test_how_it_starts_does_not_change_where_it_settles(eased, whole):
    """A valve that is closed for the start, and a load put on after it: at work both ask all of it."""
    plan, copied = PUMP
    one, other = (
        plan(copied | {"new_plate.power": "60 hp", "new_plate.speed": "1190 rpm", "load.kind": kind}).of(REPLACEMENT)
        for kind in (eased, whole)
    )
    assert (one.turns.new_rpm, one.turns.new_w) == pytest.approx((other.turns.new_rpm, other.turns.new_w), rel=1e-6)
    rows = [next(row for row in found.rows if row.key == "speed") for found in (one, other)]
    assert rows[0].fits is rows[1].fits
    assert "of its rating" in rows[0].text


def test_torque_is_shown_as_its_standard_promises_it():
    """Design B, 75 hp, 6 poles: 135 % asked by MG 1 table 12-2, 150 and 220 % are the maker's; no curve is above them."""
    plan, copied = PUMP
    found = plan(copied)
    assert row(found, "torque").old == "150 % at rest, 220 % at most"
    assert found.figure("machine.locked_rotor_torque").value == pytest.approx(150)
    assert found.figure("machine.top_torque").value == pytest.approx(220, rel=0.03)  # the circuit fitted to them


def test_what_a_new_plate_cannot_mean_is_told_with_what_is_to_be_read_again():
    """50 hp at 460 V and 62 A want an efficiency times power factor of 0.76, and not the 0.71 that stands there."""
    odd = {"new_plate.power": "50 hp", "new_plate.full_load_current": "124/62", "new_plate.efficiency": "89 %"}
    told = found(PUMP, odd | {"new_plate.power_factor": "0.8"}, "own_plate")
    assert told.fits is Fits.UNKNOWN
    assert told.why.endswith("To be known: the new plate, read again.")
    assert f"{50 * 745.7 / (math.sqrt(3) * 460 * 62):.3f} from power, volts and amperes" in told.gates[0].sentence


@pytest.mark.parametrize(
    ("breakaway", "fits"),
    [
        ("80 %", Fits.WITH),
        ("110 %", Fits.NOT),
        (None, Fits.NOT),
    ],  # a split-phase motor gives 100 % at least, a tenth to spare
)
def test_a_weaker_kind_will_do_where_the_load_is_said_to_break_away_lightly(breakaway, fits):
    plan, copied = COMPRESSOR
    light = {"new_plate.kind": "split-phase", "new_plate.start_capacitor": None, "load.kind": "constant"}
    found = plan(copied | light | {"load.power": "5 hp", "load.breakaway": breakaway})
    assert row(found, "single").fits is fits
    assert row(found, "start_capacitor").text == "A motor of its kind has none."


@pytest.mark.parametrize(
    ("file", "tag", "changes", "told"),
    [
        ("harrowmere-lock.json", "G-21", {}, {"hangs": True, "classified": False}),
        ("harrowmere-lock.json", "B-42", {"plate.listing": "Class I Group D"}, {"hangs": False, "classified": True}),
        ("harrowmere-lock.json", "P-11", {}, {"hangs": False, "classified": False}),
        ("harrowmere-lock.json", "P-11", {"stop.hold": "yes"}, {"hangs": True, "classified": False}),
    ],
)
def test_the_steps_say_what_can_hurt(file, tag, changes, told):
    facts = {"new_plate.power": "10 hp", "new_plate.volts": "460", "new_plate.speed": "1160 rpm"}
    steps = planner(file, tag)(facts | changes).of(REPLACEMENT).steps
    assert {word: any(word in step for step in steps) for word in told} == told
