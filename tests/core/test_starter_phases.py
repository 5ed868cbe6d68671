"""A relay that watches the line's phases stands beside the overload: whatever trips the one does what the other does."""

from __future__ import annotations

import pytest

from tests.conftest import planner
from tests.core.good import LOCK, SOUND
from tests.core.starters import PLAIN, broken_by, drawn_to
from vinegate.core.records import replace
from vinegate.core.starter.circuits import BY_WAY
from vinegate.core.starter.logic import contacts_of
from vinegate.core.starter.stage import STARTER
from vinegate.core.starter.wishes import OL, PHASES_LOST, Wishes

ASKED = {"starter.phases": "yes"}


@pytest.mark.parametrize("way", sorted(BY_WAY))
def test_it_stands_wherever_the_overload_does(way):
    circuit = drawn_to(way, Wishes(watches_phases=True))
    for device in circuit.devices:
        read = [contact.of for contact in contacts_of(device.logic)]
        assert read.count(PHASES_LOST) == read.count(OL), device.tag


def test_one_whose_contact_is_not_wired_is_not_proved():
    watched = drawn_to("full-voltage", Wishes(watches_phases=True))
    assert broken_by(watched) == {}
    assert broken_by(replace(watched, devices=PLAIN.devices)) != {}


@pytest.mark.parametrize(("file", "tag"), [(LOCK, "P-11"), (SOUND, "H-1"), (SOUND, "F-3")])
def test_it_is_drawn_where_it_is_asked_for(file, tag):
    plan = planner(file, tag)
    without, found = plan({}).of(STARTER), plan(ASKED)
    drawn = found.of(STARTER)
    names = [one.name for one in drawn.circuit.inputs]
    assert names.count("a phase lost or exchanged") == 1
    assert len(drawn.circuit.inputs) == len(without.circuit.inputs) + 1
    assert found.gate("starter.proof").verdict == "passes"


def test_of_one_phase_it_is_left_out_and_that_is_said():
    plan = planner(LOCK, "C-71")(ASKED)
    assert all(one.name != "a phase lost or exchanged" for one in plan.of(STARTER).circuit.inputs)
    assert plan.gate("starter.wished").verdict == "not known"
    assert "a phase relay" in plan.gate("starter.wished").sentence
    assert all(gate.key != "starter.wished" for gate in planner(LOCK, "C-71")({}).gates)
