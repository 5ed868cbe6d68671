"""What a gate says would help does help, over all that is not said; and nothing is offered that is so already."""

from __future__ import annotations

import re

import pytest

from tests.conftest import planner
from tests.core.good import LOCK, SOUND
from vinegate.core.grade import Verdict

RUNS = [
    # what is not said, and a size that carries it as assumed
    (LOCK, "C-71", "protection.conductors", {"wiring.grouped": None}, "10 AWG"),
    (LOCK, "P-12", "protection.conductors", {"wiring.insulation": None, "wiring.ambient": None}, "1 AWG"),
    (SOUND, "H-1", "protection.conductors", {"wiring.insulation_iec": None, "wiring.grouped": None}, "35 mm²"),
    (SOUND, "P-4", "protection.drive_input", {"wiring.grouped": None}, "10 mm²"),
]


@pytest.mark.parametrize(("file", "tag", "key", "unsaid", "below"), RUNS)
def test_the_size_that_is_told_carries_it_however_it_is_laid(file, tag, key, unsaid, below):
    plan = planner(file, tag)
    gate = plan(unsaid | {"wiring.size": below}).gate(key)
    assert gate.verdict is Verdict.CHECK
    told = re.fullmatch(r"At least (.+), whatever is not said of it\.", gate.remedy)
    assert told
    assert told[1] != below
    assert plan(unsaid | {"wiring.size": told[1]}).gate(key).verdict is Verdict.PASSES


def test_a_run_that_fails_however_it_is_laid_is_told_the_least_as_assumed():
    gate = planner(LOCK, "C-71")({"wiring.grouped": None, "wiring.size": "14 AWG"}).gate("protection.conductors")
    assert (gate.verdict, gate.remedy) == (Verdict.FAILS, "At least 10 AWG.")


@pytest.mark.parametrize(("tag", "field"), [("P-4", "drive.rated"), ("D-6", "drive.heavy")])
def test_the_drive_that_is_told_is_enough_for_the_heaviest_load_that_it_may_have(tag, field):
    plan, unsaid = planner(SOUND, tag), {"load.power": None, "load.flow": None, "load.head": None}
    gate = plan(unsaid).gate("drive.current")
    assert gate.verdict is Verdict.CHECK
    told = re.fullmatch(r"A drive of ([\d.]+) A or more at (?:heavy|normal) duty\.", gate.remedy)
    assert told
    assert plan(unsaid | {field: f"{told[1]} A"}).gate("drive.current").verdict is Verdict.PASSES
    assert plan(unsaid | {field: f"{0.98 * float(told[1]):.4g} A"}).gate("drive.current").verdict is Verdict.CHECK


WEAK = {"load.breakaway": "300 %"}
OFFERED = [
    ({"load.kind": "constant"}, "Start it unloaded; a motor of design C; then a drive."),
    ({"load.kind": "hoist"}, "A motor of design C; then a drive."),
    ({"load.kind": "unloaded"}, "A motor of design C; then a drive."),
    ({"load.kind": "constant", "plate.design_letter": "C"}, "Start it unloaded; a larger motor; then a drive."),
    ({"load.kind": "hoist", "start.method": "autotransformer", "start.tap": "50 %"},
     "A higher tap; a motor of design C; then a drive."),
]  # fmt: skip


@pytest.mark.parametrize(("kind", "harder"), [("capacitor-start", False), ("split-phase", True)])
def test_a_start_capacitor_is_offered_to_what_has_none(kind, harder):
    facts = {"plate.kind": kind, "load.kind": "constant", "load.power": "5 hp", "load.breakaway": "300 %"}
    remedy = planner(LOCK, "C-71")(facts).gate("start.torque").remedy
    assert ("with a start capacitor" in remedy) is harder
    assert remedy.startswith("Start it unloaded; a")


@pytest.mark.parametrize(("changes", "remedy"), OFFERED)
def test_nothing_is_offered_that_is_so_already_or_cannot_be(changes, remedy):
    gate = planner(LOCK, "P-11")({"start.method": "full-voltage"} | WEAK | changes).gate("start.torque")
    assert (gate.verdict, gate.remedy) == (Verdict.FAILS, remedy)


AFTER = "start that draws less; a stiffer source; a limit agreed with its owner."
GENTLER = [
    ({"start.method": "full-voltage"}, f"A {AFTER}"),
    ({"start.method": "autotransformer", "start.tap": "80 %"}, f"A lower tap with an unloaded start; a {AFTER}"),
    ({"start.method": "autotransformer", "start.tap": "50 %"}, f"A {AFTER}"),
    ({"start.method": "autotransformer", "start.tap": "80 %", "load.kind": "hoist"}, f"A lower tap; a {AFTER}"),
    ({"start.method": "soft-starter", "start.soft_limit": "4"}, f"A lower limit with an unloaded start; a {AFTER}"),
]  # fmt: skip


@pytest.mark.parametrize(("changes", "remedy"), GENTLER)
def test_a_dip_is_cured_by_what_its_way_has_left(changes, remedy):
    gate = planner(LOCK, "P-11")({"limits.dip": "0.5 %"} | changes).gate("start.dip")
    assert (gate.verdict, gate.remedy) == (Verdict.FAILS, remedy)


@pytest.mark.parametrize(("tap", "own"), [("65 %", True), ("80 %", False)])
def test_no_higher_tap_is_offered_above_the_highest(tap, own):
    facts = {"start.method": "autotransformer", "start.tap": tap, "load.kind": "constant"} | WEAK
    assert ("a higher tap" in planner(LOCK, "P-11")(facts).gate("start.torque").remedy) is own


SLOW = {"drive.points": "100 %\n30 %; 150 %"}
ACROSS = {"start.method": "full-voltage"}
LONG = {"stop.method": "coast", "drive.filter": "none"}
SMALL = {"supply.transformer_power": "25 kVA"}
SO_ALREADY = [
    (LOCK, "P-11", "protection.stall", {"protection.trip_class": "10", "machine.stall_hot": "2 s"},
     "A quicker class, or thermistors that trip a stall."),
    (LOCK, "P-11", "protection.stall", {"protection.trip_class": "5", "machine.stall_hot": "2 s"},
     "Thermistors that trip a stall."),
    (LOCK, "P-11", "protection.class", {"protection.trip_class": "30", "load.inertia": "150 kg·m²"} | ACROSS,
     "A slower class, where the machine bears it, or a quicker start."),
    (LOCK, "P-11", "protection.class", {"protection.trip_class": "40", "load.inertia": "150 kg·m²"} | ACROSS,
     "A quicker start."),
    (SOUND, "D-6", "drive.heat_slow", SLOW | {"drive.cooling": "fan"},
     "A blower of its own, a larger motor, or less at that speed."),
    (SOUND, "D-6", "drive.heat_slow", SLOW | {"drive.cooling": "blower"}, "A larger motor, or less at that speed."),
    (SOUND, "F-3", "drive.insulation", LONG | {"drive.winding": "general"},
     "A dv/dt filter to its reach, then a sine filter or a terminator; or a motor made for drives."),
    (SOUND, "F-3", "drive.insulation", LONG | {"drive.winding": "general", "drive.filter": "dvdt"},
     "A sine filter or a terminator; or a motor made for drives."),
    (SOUND, "F-3", "drive.insulation", LONG | {"drive.winding": "ivic-b", "drive.filter": "dvdt"},
     "A sine filter or a terminator; or a motor made for more volts."),
    (SOUND, "F-3", "drive.harmonic_volts", SMALL | {"drive.choke": "none", "drive.front_end": "6"},
     "A choke, a front end of more pulses, or a filter."),
    (SOUND, "F-3", "drive.harmonic_volts", SMALL | {"drive.choke": "dc", "drive.front_end": "6"},
     "A larger choke, a front end of more pulses, or a filter."),
    (SOUND, "H-1", "start.trip", {"start.method": "full-voltage", "start.instantaneous_trip": "300 A"},
     "A higher trip where the rules allow it, or a start that draws less."),
    (SOUND, "H-1", "start.trip", {"start.instantaneous_trip": "300 A"},
     "A higher trip where the rules allow it, or closed transition."),
    (SOUND, "D-6", "drive.breakaway", {"drive.control": "scalar", "load.breakaway": "290 %"},
     "More boost, vector control, or a drive of more amperes."),
    (SOUND, "D-6", "drive.breakaway", {"drive.control": "sensorless", "load.breakaway": "290 %"},
     "A drive of more amperes."),
]  # fmt: skip


@pytest.mark.parametrize(("file", "tag", "key", "changes", "remedy"), SO_ALREADY)
def test_what_is_there_already_is_not_told_to_help(file, tag, key, changes, remedy):
    gate = planner(file, tag)(changes).gate(key)
    assert gate.verdict is not Verdict.PASSES
    assert gate.remedy == remedy
