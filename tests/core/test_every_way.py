"""Every way to start on every machine: planned with its record and its drawing, run again and run on the drawn circuit."""

import numpy as np
import pytest

from tests.core.on_direct_current import NEC as DIRECT
from vinegate.core.facts import read_circuit, read_job
from vinegate.core.plan import NOTHING, plan_raw
from vinegate.core.record.found import plan_side
from vinegate.core.record.rerun import Volts
from vinegate.core.rules.sets import rule_set
from vinegate.core.start.ways import WAYS, way_of
from vinegate.core.starter.hung import Hangs
from vinegate.core.starter.run import acts_from, ran
from vinegate.core.starter.stage import STARTER
from vinegate.demo import demo_job

FILES = ("harrowmere-lock.json", "skerry-sound.json")
CIRCUITS = {tag: (file, facts) for file in FILES for tag, facts in demo_job(file).circuits}
RINGS = {"plate.kind": "wound", "plate.rotor_volts": "240 V", "plate.rotor_current": "48 A"}


def changed(facts, changes):
    found = {key: dict(part) if isinstance(part, dict) else part for key, part in facts.items()}
    for path, text in changes.items():
        part, _, name = path.partition(".")
        found.setdefault(part, {})[name] = text
    return found


MACHINES = CIRCUITS | {
    "rings": (FILES[0], changed(CIRCUITS["D-61"][1], RINGS)),
    "armature": (FILES[0], changed(CIRCUITS["P-11"][1], DIRECT)),
}


def on(tag, way):
    """The job's facts, and the circuit's with this way and none of what was set for another."""
    file, facts = MACHINES[tag]
    demo = demo_job(file)
    kept = {key: text for key, text in facts.get("start", {}).items() if key not in ("changeover", "soft_limit")}
    job = changed(demo.facts, {"limits.tags": "ics19"})
    return demo.rules, job, facts | {"start": kept | {"method": way}}


@pytest.mark.slow
@pytest.mark.parametrize("tag", MACHINES)
def test_no_way_raises_whatever_machine_it_is_chosen_for(tag):
    for way in WAYS:
        rules, job, facts = on(tag, way.key)
        assert plan_raw(rules, job, facts, beside=NOTHING).comparison is None or way.label


ONCE = [(tag, way.key) for tag in ("P-11", "H-1", "B-42", "W-2", "C-71", "rings") for way in WAYS if not way.converts]


@pytest.mark.slow
@pytest.mark.parametrize(("tag", "way"), ONCE)
def test_what_is_run_again_and_what_is_drawn_go_as_it_is_planned(tag, way):
    """Against the start's study, where it gets to speed: the record's run on the same volts, the drawn circuit's motor."""
    rules, raw, facts = on(tag, way)
    job, circuit = read_job(raw, rules)[0], read_circuit(facts, rules)[0]
    plan, side = plan_raw(rules, raw, facts, beside=NOTHING), plan_side(job, circuit, rule_set(rules))
    row = side.row
    if row is None or row.method != way or row.time_s is None:
        return
    again = side.again(Volts(time_s=np.array(side.comparison.detail.time_s), line_v=side.own_v()))
    assert again.duration_s == pytest.approx(row.time_s, rel=0.03, abs=0.12)  # an open transition is passed over
    drawn = plan.of(STARTER)
    begins = next(one.tag for one in drawn.circuit.inputs if one.starts)
    run = ran(drawn.circuit, acts_from(f"{begins}+ {begins}- w{2 * row.time_s + 2:.1f}"), 1)
    turned = drawn.shaft.turned(run.hangs, run.until_ms / 1000)
    if turned is None:
        assert row.held_by_ramp or (way_of(way).level == "" and way_of(way).electronic)
        return
    closes = next(at for at, hung in run.hangs if hung.how is not Hangs.OFF)
    there = float(np.interp(0.98 * turned.speed_rpm[-1], turned.speed_rpm, turned.time_s)) - closes
    assert there == pytest.approx(row.time_s, rel=0.07, abs=0.3)
