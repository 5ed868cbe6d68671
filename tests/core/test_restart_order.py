"""Many motors after an outage, in their order."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import whole
from tests.core.test_fed import planned
from tests.examples import examples
from vinegate.core.grade import Verdict
from vinegate.core.records import replace
from vinegate.core.start.restart import Source, loading_of, profile_of, restart_sequence, starter_of

P11 = whole("harrowmere-lock.json", "P-11")


def starters(*tags):
    plans = {tag: whole("harrowmere-lock.json", tag)() for tag in tags}
    source = Source.of(plans[tags[0]])
    return [starter_of(tag, profile_of(plan), source, None) for tag, plan in plans.items()]


def test_one_machine_alone_brings_back_its_own_dip():
    plan = P11({"start.method": "full-voltage"})
    one = starter_of("P-11", profile_of(plan), Source.of(plan), None)
    found = restart_sequence([one], dip_limit_pu=None)
    assert found.slots[0].dip_pct == pytest.approx(plan.comparison.row("full-voltage").dip_pct, rel=1e-3)


@pytest.mark.parametrize("system", ["208Y/120", "120/240", "240 V", "400/230"])
def test_one_phase_alone_brings_back_its_own_dip(system):
    """Between two lines the current passes the source twice, over the line volts: 2·Z/U, not √3·Z/U."""
    plan = planned(system, locked_rotor_current="100 A" if "Y" in system else "50 A")
    one = starter_of("one", profile_of(plan), Source.of(plan), None)
    found = restart_sequence([one], dip_limit_pu=None)
    assert found.slots[0].dip_pct == pytest.approx(plan.comparison.row("full-voltage").dip_pct, rel=2e-3)


def test_of_two_lines_the_loading_has_the_angle_of_its_impedances():
    """Ohm's law: what the source is of the loop behind it, at the first moment."""
    plan = planned("240 V", locked_rotor_current="50 A")
    one = starter_of("one", profile_of(plan), Source.of(plan), None)
    run, source = (
        complex(*(plan.figure(f"{key}").value for key in keys)) / 1000
        for keys in (("wiring.r", "wiring.x"), ("supply.source_r", "supply.source_x"))
    )
    motor = 230 / 50 * complex(0.6, 0.8)
    assert one.loading[0] == pytest.approx(2 * source / (2 * run + motor), rel=0.02)


@pytest.mark.parametrize("times", [0.7, 0.97, 1.02, 1.6])
@pytest.mark.parametrize(
    "facts",
    [
        {},
        {"start.method": "full-voltage"},
        {"start.method": "full-voltage", "supply.fault_level": ""},
        {"start.method": "full-voltage", "start.locked_rotor_power_factor": "0.3"},
    ],
)
def test_one_machine_alone_stands_as_its_own_gate_does(facts, times):
    """At limits inside and outside the band of what is estimated of it."""
    dip = P11(facts).comparison.row(P11(facts).comparison.chosen).dip_pct
    plan = P11(facts | {"limits.dip": f"{times * dip:.3f} %", "start.method": P11(facts).comparison.chosen})
    one = starter_of("P-11", profile_of(plan), Source.of(plan), None)
    found = restart_sequence([one], dip_limit_pu=times * dip / 100)
    assert found.slots[0].verdict is plan.gate("start.dip").verdict


@pytest.mark.parametrize("limit", [3.0, 3.4, 3.8, 4.6, 5.4, 6.4])
@pytest.mark.parametrize("said", ["5 %", "~5 %"])
def test_what_its_writer_assumes_of_the_supply_is_not_sure_of_a_restart_either(limit, said):
    """As planned with the least and the most that it may be, each stated: passes where both do, fails where both do."""
    facts = {"start.method": "full-voltage", "limits.dip": f"{limit} %"}
    ends = ("4 %", "6.25 %") if "~" in said else (said,)
    stated = {P11(facts | {"supply.transformer_impedance": end}).gate("start.dip").verdict for end in ends}
    plan = P11(facts | {"supply.transformer_impedance": said})
    one = starter_of("P-11", profile_of(plan), Source.of(plan), None)
    found = restart_sequence([one], dip_limit_pu=limit / 100)
    assert found.slots[0].verdict is (stated.pop() if len(stated) == 1 else Verdict.CHECK)


def test_several_that_are_assumed_deepen_a_dip_together():
    """As planned with both at their worst, and both at their best: 500 kVA as 400 or 625, 5 % as 6.25 or 4."""

    def planned_with(percent, kva):
        facts = {"supply.transformer_impedance": percent, "supply.transformer_power": kva}
        return P11({"start.method": "full-voltage"} | facts)

    stated, rough = planned_with("5 %", "500 kVA"), planned_with("~5 %", "~500 kVA")
    for end, sizes in enumerate((("4 %", "625 kVA"), ("6.25 %", "400 kVA"))):
        times = planned_with(*sizes).gate("start.dip_full").value / stated.gate("start.dip_full").value
        assert profile_of(rough).dips[end] == pytest.approx(times * profile_of(stated).dips[end], rel=0.01)


def test_of_several_what_is_estimated_adds_up():
    """Two together pass where they do at their most, fail where they do at their least, and are to check between."""
    many = [replace(one, wanted_s=5.0, least=0.8, most=1.25) for one in starters("P-11", "P-12")]
    dip = restart_sequence(many, dip_limit_pu=None).slots[0].dip_pct / 100
    verdicts = {times: restart_sequence(many, dip_limit_pu=times * dip).verdict for times in (0.75, 0.9, 1.1, 1.3)}
    assert verdicts == {0.75: Verdict.FAILS, 0.9: Verdict.CHECK, 1.1: Verdict.CHECK, 1.3: Verdict.PASSES}


def test_a_sequence_is_sought_at_the_most_of_what_is_estimated():
    """So that it surely keeps the limit, though it takes longer."""
    many = starters("B-42", "P-11", "D-61", "R-31")
    wide = [replace(one, most=1.3) for one in many]
    found, longer = (restart_sequence(some, dip_limit_pu=0.045) for some in (many, wide))
    assert longer.verdict is Verdict.PASSES
    assert longer.ends_s > found.ends_s


def test_loading_gives_the_volts_it_came_from():
    volts, drop = np.array([0.95, 0.8, 0.99]), np.array([0.055, 0.22, 0.02])
    assert np.abs(1 / (1 + loading_of(drop, volts))) == pytest.approx(volts, rel=1e-9)


def test_sequence_keeps_the_limit_and_puts_the_largest_last():
    found = restart_sequence(starters("B-42", "P-11", "D-61", "R-31"), dip_limit_pu=0.04)
    assert found.verdict is Verdict.PASSES
    assert max(slot.dip_pct for slot in found.slots) <= 4.0
    by_size = sorted(found.slots, key=lambda slot: slot.peak_a)
    assert [slot.tag for slot in found.slots] == [slot.tag for slot in by_size]
    assert min(found.volts_pct) >= 96.0
    assert found.all_at_once_pct > 4.0


def test_a_moment_given_stands_and_is_judged():
    many = starters("P-11", "P-12")
    pinned = [replace(one, wanted_s=5.0) for one in many]
    found = restart_sequence(pinned, dip_limit_pu=0.03)
    assert [slot.at_s for slot in found.slots] == [5.0, 5.0]
    assert found.verdict is Verdict.FAILS
    assert all(slot.moved for slot in found.slots)


@examples(8)
@given(limit=st.floats(0.045, 0.10))
@pytest.mark.slow
def test_a_tighter_limit_never_ends_sooner(limit):
    many = starters("B-42", "P-11", "D-61")
    loose, tight = restart_sequence(many, dip_limit_pu=limit), restart_sequence(many, dip_limit_pu=limit * 0.85)
    assert tight.ends_s >= loose.ends_s - 1e-9


def test_what_cannot_restart_says_why():
    assert "cannot be simulated" in profile_of(P11({"load.kind": None}))
    stuck = P11({"load.kind": "constant", "load.breakaway": "120 %", "start.method": "wye-delta"})
    assert "does not bring it to speed" in profile_of(stuck)
