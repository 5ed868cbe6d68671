"""A plan taken up from the last one is the plan made anew, whatever was changed; and little is done again."""

from random import Random
from types import MethodType

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.random_facts import change_one, circuit, jobs
from tests.examples import examples, some
from vinegate.core.facts import Circuit, Job, read_circuit, read_job
from vinegate.core.plan import NOTHING, Beside, plan_raw
from vinegate.core.stages import STAGES
from vinegate.core.start.simulate import Runs
from vinegate.core.start.ways import WAYS, way_of
from vinegate.core.summary import summarise
from vinegate.core.watch import Watched
from vinegate.core.work import Kept
from vinegate.demo import demo_job
from vinegate.exchange.circuit_file import plan_document

BASES = jobs()


def planned(rules, job, facts, kept=None, **more):
    return plan_document(plan_raw(rules, job, facts, kept=kept, **more))


@given(seed=st.integers(0, 10**6))
@examples(15)
@pytest.mark.slow
def test_kept_equals_fresh_on_random_circuits(seed):
    """A walk of changes, one field at a time, all on one `Kept`: each plan is the one made from nothing."""
    rules, job, facts = circuit(seed, BASES)
    kept, random = Kept(), Random(seed)
    planned(rules, job, facts, kept)
    for _ in range(4):
        job, facts = change_one(random, job, facts)
        beside = random.choice((NOTHING, Beside.STARTS | Beside.SOURCE, Beside.STOPS, Beside.ALL))
        assert planned(rules, job, facts, kept, beside=beside) == planned(rules, job, facts, beside=beside)


def test_a_neutral_is_a_change_where_the_line_volts_stay():
    """C-71's motor stands between two lines of 240 V: 6 kVA beside it load these, or three."""
    job = demo_job("harrowmere-lock.json")
    facts = dict(job.circuits)["C-71"] | {"wiring": dict(job.circuits)["C-71"]["wiring"] | {"board": "board_3"}}
    behind = {"fed_from": "board_2", "size": "6 AWG", "length": "40 m", "metal": "copper", "load_power": "6 kVA"}
    kept = Kept()
    for volts in ("240 V", "120/240 V", "240Δ/120 V", "240 V"):
        boards = job.facts | {"board_2": job.facts["board_2"] | {"volts": volts}, "board_3": behind}
        assert planned(job.rules, boards, facts, kept) == planned(job.rules, boards, facts), volts


def test_what_was_supposed_before_is_not_taken_for_what_is_supposed_now():
    """F-3 past its drive: the device's size changes there and here, its start neither there nor here."""
    job = demo_job("skerry-sound.json")
    facts, kept = dict(job.circuits)["F-3"], Kept()
    for rating in ("63 A", "160 A", "63 A"):
        sized = facts | {"protection": facts["protection"] | {"rating": rating}}
        assert planned(job.rules, job.facts, sized, kept) == planned(job.rules, job.facts, sized), rating


@given(seed=st.integers(0, 10**6))
@examples(20)
@pytest.mark.slow
def test_what_stands_beside_changes_nothing_of_what_is_in_use(seed):
    """Whoever shows neither the other ways nor the other source is told the same of the circuit."""
    rules, job, facts = circuit(seed, BASES)
    whole, used = (plan_raw(rules, job, facts, beside=beside) for beside in (Beside.ALL, NOTHING))
    assert used.answer == whole.answer
    assert summarise(used) == summarise(whole)
    for one, other in zip(used.stages, whole.stages, strict=True):
        assert (one.figures, one.gates, one.missing) == (other.figures, other.gates, other.missing), one.key
    assert (used.protected, used.placed, used.stations) == (whole.protected, whole.placed, whole.stations)
    if used.comparison is not None:
        assert used.comparison.detail == whole.comparison.detail
        assert used.comparison.recommended == whole.comparison.recommended
        assert all(row == whole.comparison.row(row.method) for row in used.comparison.rows)
    if used.stopping is not None:
        assert used.stopping.used == whole.stopping.used


def test_only_as_many_ways_are_run_as_tell_which_is_used():
    """P-11 has a soft starter recommended, so the dearer ways are not run; asked for a dearer one, that is run too."""
    demo = demo_job("harrowmere-lock.json")
    facts = dict(demo.circuits)["P-11"]

    def run(**start):
        own = facts | {"start": facts["start"] | start}
        found = plan_raw(demo.rules, demo.facts, own, beside=NOTHING).comparison
        return {row.method for row in found.rows}, found.recommended, found.chosen

    best = run()[1]
    dearest = max(way_of(method).order for method in run()[0])
    assert dearest == way_of(best).order
    assert run(method="drive") == (run()[0] | {"drive"}, best, "drive")
    every = {row.method for row in plan_raw(demo.rules, demo.facts, facts).comparison.rows}
    assert every == {way.key for way in WAYS if not (way.at_rings or way.rectifies)}


@pytest.mark.slow
def test_kept_equals_fresh_for_every_field():
    """Each field of a demo circuit taken away and given back; in `./test` every fourth of them."""
    demo = demo_job("harrowmere-lock.json")
    facts = dict(demo.circuits)["P-11"]
    whole = planned(demo.rules, demo.facts, facts)
    kept = Kept()
    paths = [(owner, part, name) for owner in ("job", "circuit") for part, fields in
             (demo.facts if owner == "job" else facts).items() if part != "sources" for name in fields]  # fmt: skip
    assert len(paths) > 60
    for owner, part, name in some(paths, 4):
        job, own = demo.facts, facts
        less = {key: value for key, value in (job if owner == "job" else own)[part].items() if key != name}
        if owner == "job":
            job = job | {part: less}
        else:
            own = own | {part: less}
        assert planned(demo.rules, job, own, kept) == planned(demo.rules, job, own), (part, name)
        assert planned(demo.rules, demo.facts, facts, kept) == whole, (part, name)


@pytest.mark.parametrize(
    ("path", "text", "again"),
    [
        ("stop.method", "coast", {"stop"}),
        ("place.starter", "area_2", {"place"}),
        ("protection.overload", "95 A", {"protection", "record"}),  # the record holds the dial against it
        ("plate.mounting", "IM B5", set()),
        ("start.driven", "another pump", {"load"}),  # a fire pump has rules of its own
    ],
)
def test_what_reads_nothing_that_changed_is_not_planned_again(path, text, again):
    """`plate.mounting` is read by no stage; what the machine drives by the load, a device's place by the place alone."""
    demo = demo_job("harrowmere-lock.json")
    facts = dict(demo.circuits)["P-11"]
    kept = Kept()
    plan_raw(demo.rules, demo.facts, facts, kept=kept)
    before = dict(kept.steps)
    part, _, name = path.partition(".")
    plan_raw(demo.rules, demo.facts, facts | {part: facts.get(part, {}) | {name: text}}, kept=kept)
    stages = {stage.key for stage in STAGES}
    found = {key for key, step in kept.steps.items() if key in stages and step is not before[key]}
    assert found - {"place"} == again - {"place"}
    assert "place" in found or "place" not in again


@pytest.mark.slow
def test_no_finding_holds_facts():
    """What a stage found may outlive the facts it was found from: none of them may be reached from it."""
    demo = demo_job("harrowmere-lock.json")
    for tag, facts in demo.circuits:
        kept = Kept()
        plan_raw(demo.rules, demo.facts, facts, kept=kept)
        for key, step in kept.steps.items():
            assert not list(facts_in(step.found)), (tag, key)


def facts_in(value, seen=None):
    """Every watched part, job or circuit that hangs on a value."""
    seen = set() if seen is None else seen
    if id(value) in seen:
        return
    seen.add(id(value))
    if isinstance(value, Watched | Job | Circuit):
        yield value
    elif isinstance(value, dict):
        for item in value.values():
            yield from facts_in(item, seen)
    elif isinstance(value, tuple | list):
        for item in value:
            yield from facts_in(item, seen)
    elif isinstance(value, MethodType):
        yield from facts_in(value.__self__, seen)
    elif isinstance(value, Runs):
        yield from facts_in(vars(value), seen)
    elif callable(value) and getattr(value, "__closure__", None):
        for cell in value.__closure__:
            yield from facts_in(cell.cell_contents, seen)
    elif hasattr(type(value), "__dataclass_fields__"):
        for name in type(value).__dataclass_fields__:
            yield from facts_in(getattr(value, name), seen)


def test_every_read_is_noted():
    """The facts a plan rests on are named: a change of any other leaves it as it was."""
    demo = demo_job("skerry-sound.json")
    facts = dict(demo.circuits)["H-1"]
    kept = Kept()
    plan_raw(demo.rules, demo.facts, facts, kept=kept)
    reads = {path for step in kept.steps.values() for path in step.reads}
    assert {("plate", "power_w"), ("supply", "volts_v"), ("limits", "dip_pu"), ("wiring", "size")} <= reads
    assert ("plate", "mounting") not in reads


def test_facts_with_a_neutral_are_told_apart():
    """480 V with and without a neutral are the same number and not the same fact."""
    demo = demo_job("harrowmere-lock.json")
    facts = dict(demo.circuits)["P-11"]
    kept = Kept()
    for volts in ("480", "480Y/277", "480"):
        job = demo.facts | {"supply": demo.facts["supply"] | {"volts": volts}}
        assert planned(demo.rules, job, facts, kept) == planned(demo.rules, job, facts)


def test_a_gate_that_is_in_nobodys_findings_is_judged_again():
    """What the load finds is the same with either duty; its gate is read off the sheet by what compares both motors."""
    demo, kept = demo_job("skerry-sound.json"), Kept()
    facts = dict(demo.circuits)["H-1"]
    for duty in ("S3 40 %", "S1", "S3 40 %"):
        plate = facts["plate"] | {"duty": duty}
        both = facts | {"plate": plate, "new_plate": plate, "new_machine": facts["machine"]}
        assert planned(demo.rules, demo.facts, both, kept) == planned(demo.rules, demo.facts, both)


def test_readers_take_watched_facts_for_facts():
    job, _ = read_job(demo_job("skerry-sound.json").facts, "iec")
    circuit_, _ = read_circuit({"plate": {"kind": "cage"}}, "iec")
    assert job.board("board_7").used is False
    assert circuit_.plate.family.value == "cage"


@pytest.mark.parametrize(
    ("path", "text", "again", "as_they_were"),
    [
        ("protection.overload", "95 A", {"protection", "record: record_set"}, {"record: record_start", "record: readings"}),
        ("stop.method", "brake", {"stop: sizes", "place: brake"}, {"stop: direct current", "place: motor"}),
        ("record_set.overload", "95 A", {"record: as set", "record: record_set"}, {"protection", "record: record_start"}),
    ],
)  # fmt: skip
def test_a_change_leaves_what_did_not_read_it(path, text, again, as_they_were):
    demo = demo_job("harrowmere-lock.json")
    facts, kept = dict(demo.circuits)["P-11"], Kept()
    part, _, name = path.partition(".")
    plan_raw(demo.rules, demo.facts, facts, kept=kept)
    before = kept.steps
    plan_raw(demo.rules, demo.facts, facts | {part: facts.get(part, {}) | {name: text}}, kept=kept)
    assert [key for key in again if kept.steps[key] is before.get(key)] == []
    assert [key for key in as_they_were if kept.steps[key] is not before[key]] == []
