"""Whatever is not given: what plainly passes still passes with it given, anywhere in the band in which it may lie."""

import pytest

from vinegate.core import grade
from vinegate.core.facts import circuit_parts, read_circuit
from vinegate.core.machine.stall import stall_times
from vinegate.core.plan import NOTHING, plan_raw
from vinegate.core.sheet import Sheet
from vinegate.core.work import Kept
from vinegate.demo import demo_job

LOCK, SKERRY = "harrowmere-lock.json", "skerry-sound.json"
# What is taken away of a demo circuit: all but these facts of a part, or the part itself.
LEFT = {"machine": (), "load": ("kind",), "wiring": ("size", "length")}
# A start without a setting, and a class that is advised, are chosen anew for what is given: the gate of torque, of class
# is then to check already.
CHOSEN_ANEW = {("start.dip", "load.power"), ("protection.stall", "load.inertia")}


def given(job, circuit, path, text):
    """The facts of job and circuit with one more."""
    part, _, name = path.partition(".")
    mine = circuit if part in circuit_parts() else job
    changed = mine | {part: {**mine.get(part, {}), name: text}}
    return (job, changed) if mine is circuit else (changed, circuit)


def collected(monkeypatch):
    """The facts behind every comparison that were not given, by path, as plans are made."""
    found, real = {}, grade._compare

    def seen(*args):
        found.update({one.path: one for one in args[9] if one.path and one.wide and one.how})
        return real(*args)

    monkeypatch.setattr(grade, "_compare", seen)
    return found


@pytest.mark.slow
@pytest.mark.parametrize("part", LEFT)
@pytest.mark.parametrize(
    ("file", "tag"), [(LOCK, "P-11"), (LOCK, "G-21"), (LOCK, "D-61"), (SKERRY, "W-2"), (SKERRY, "F-3"), (SKERRY, "K-5")]
)
def test_what_passes_rests_on_no_estimate_alone(monkeypatch, file, tag, part):
    found, job = collected(monkeypatch), demo_job(file)
    circuit = dict(job.circuits)[tag]
    circuit = circuit | {part: {name: text for name, text in circuit.get(part, {}).items() if name in LEFT[part]}}
    kept = Kept()
    plan = plan_raw(job.rules, job.facts, circuit, beside=NOTHING, kept=kept)
    passing = {gate.key for gate in plan.gates if gate.weighs and gate.verdict is grade.Verdict.PASSES}
    assert passing
    bands = dict(found)
    assert bands
    for path, one in bands.items():
        for share in (0.002, 0.998):
            value = one.low + share * (one.high - one.low)
            text = f"{round(value) if one.whole else value:.6g} {one.unit}".strip()
            there = plan_raw(job.rules, *given(job.facts, circuit, path, text), beside=NOTHING, kept=kept)
            assert len(there.errors) == len(plan.errors), (path, text)
            failing = {gate.key for gate in there.gates if gate.fails}
            assert {key for key in passing & failing if (key, path) not in CHOSEN_ANEW} == set(), (path, text)


@pytest.mark.parametrize(("cold", "most"), [("8 s", 8.0), ("14 s", 14.0), ("60 s", None), (None, None)])
def test_hot_it_bears_no_longer_than_it_does_cold(cold, most):
    """Stated from cold alone, that bounds what is held of it from hot; without either, the band is the usual one."""
    demo = demo_job("harrowmere-lock.json")
    facts = dict(demo.circuits)["P-11"]

    def hot_of(text):
        machine = {"stall_cold": text} if text else {}
        return stall_times(Sheet("machine", "Machine"), read_circuit(facts | {"machine": machine}, demo.rules)[0]).hot

    hot, usual = hot_of(cold), hot_of(None)
    assert hot.high == (most or usual.high)
    assert hot.low <= hot.value <= hot.high
    assert hot.low == min(usual.low, hot.high)
