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
    told = re.fullmatch(r"At least (.+), however it is laid\.", gate.remedy)
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
