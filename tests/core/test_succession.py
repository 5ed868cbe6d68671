"""Starts in succession: by the standard's inertia for the machines that have one, by their heat for all others."""

from __future__ import annotations

import pytest

from tests.conftest import planner
from tests.core.good import LOCK, SOUND
from vinegate.core.grade import Verdict
from vinegate.core.working import Provenance

SINGLE = planner(LOCK, "C-71")
WOUND = {"plate.kind": "wound-rotor", "plate.rotor_volts": "240 V", "plate.rotor_current": "100 A"}


@pytest.mark.parametrize(
    ("plan", "ours"), [(SINGLE({}), False), (planner(LOCK, "P-11")(WOUND), False), (planner(SOUND, "W-2")({}), True)]
)
def test_the_standard_s_inertia_is_that_of_cage_machines_of_three_phases(plan, ours):
    """MG 1 12.54 and IEC 60034-12 say nothing of a capacitor start, or of a rotor with slip rings."""
    limit, gate = plan.figure("machine.load_inertia"), plan.gate("start.succession")
    assert limit.provenance == (Provenance.TABLE if ours else Provenance.ASSUMED)
    assert ("three phases" in limit.source) is not ours
    assert (gate.source == limit.source) is ours
    assert gate.verdict is Verdict.PASSES  # with what is stated of each


@pytest.mark.parametrize(
    ("inertia", "stall", "verdict"),
    [
        ("0.5 kg·m²", None, Verdict.PASSES),  # within all that a stall time may be
        ("2 kg·m²", "45 s", Verdict.PASSES),  # above the other machines' inertia, and its maker's time bears it
        ("2 kg·m²", None, Verdict.CHECK),
        ("40 kg·m²", None, Verdict.FAILS),
    ],
)
def test_a_single_phase_machine_is_judged_by_its_heat(inertia, stall, verdict):
    gate = SINGLE({"load.inertia": inertia, "machine.stall_hot": stall, "machine.stall_cold": None}).gate(
        "start.succession"
    )
    assert gate.verdict is verdict
    assert gate.turns is None or gate.turns.path == "machine.stall_hot"


def test_two_from_cold_weigh_where_its_maker_says_that_cold_bears_little_more():
    facts = {"load.inertia": "2 kg·m²", "machine.stall_hot": "20 s"}
    hot = SINGLE(facts).gate("start.heat").value
    for cold_s in (22.0, 80.0):
        share = SINGLE(facts | {"machine.stall_cold": f"{cold_s:g} s"}).gate("start.succession").value
        assert share == pytest.approx(max(hot, 2 * hot * 20 / cold_s))
