"""What was found where the motor stands, held against the plan."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from typing import Final

from vinegate.core.answer import Piece
from vinegate.core.grade import Gate, Kind, Verdict, informs, worst, worst_judged, worst_of
from vinegate.core.measured import AtLeast
from vinegate.core.numbers import write
from vinegate.core.paper import PaperTable
from vinegate.core.record import carried, dead, live, running
from vinegate.core.record.causes import Cause
from vinegate.core.record.facts import DONE, FORMS, TITLES, VOLTS, Taken, steps_in, three
from vinegate.core.record.found import Forms, Side, filled, forms_of
from vinegate.core.record.likely import likely
from vinegate.core.record.rerun import Settled
from vinegate.core.record.unbalance import deviation_pct
from vinegate.core.records import dataclass, replace
from vinegate.core.sheet import AS_TYPED, Sheet, Stage
from vinegate.core.wording import inside
from vinegate.core.work import Specification, Work
from vinegate.core.working import Figure

KEY: Final = "record"
CAUTION: Final = (
    "Measuring live is for qualified persons, with meters of the category of the place, clothing by its arc-flash "
    "label. Insulation is tested dead, with any drive's leads off, and discharged for four times as long."
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """One reading as it stands on paper."""

    form: str
    label: str
    shown: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Recorded:
    """Its forms that are filled in, with when and by whom; every reading; what is said of it first."""

    forms: tuple[str, ...]
    taken: tuple[tuple[str, str], ...]
    simulated: tuple[str, ...]
    readings: tuple[Reading, ...]
    verdict: Verdict
    said: tuple[Piece, ...]
    likely: tuple[Cause, ...] = ()
    """What a difference in them most likely means, and what would tell."""


def _plan(work: Work) -> Recorded | None:
    keys = filled(work)
    if not keys:
        return None
    found = {key: _held(work, key, keys) for key in FORMS}
    sheet, own = work.sheet(KEY), [gate for one in found.values() for gate in one.gates]
    sheet.notes.append(CAUTION)
    simulated = tuple(key for key in keys if work.circuit.of(key, FORMS[key]).simulated == "yes")
    if simulated:
        names = ", ".join(TITLES[key].lower() for key in simulated)
        sheet.notes.append(f"From the simulated bench, and no measurement: {names}.")
    runs = Side(work).runs if "record_running" in keys else None
    verdicts = tuple((gate.key, gate.verdict) for gate in own)
    said = tuple(_said(forms_of(work), own, found["record_insulation"].figures, runs))
    return Recorded(
        forms=keys,
        taken=tuple((key, work.circuit.of(key, FORMS[key]).taken or "") for key in keys),
        simulated=simulated,
        readings=work.step("record: readings", lambda: tuple(_readings(work, keys)), keys),
        verdict=worst_judged(own, begun=_BEGUN not in said),
        said=said,
        likely=work.step("record: likely", lambda: likely(forms_of(work), Side(work), own), keys, verdicts),
    )


Keys = tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Held:
    """A form held against the plan."""

    gates: tuple[Gate, ...]
    figures: tuple[Figure, ...]


def _held(work: Work, key: str, keys: Keys) -> Held:
    """One form against the plan, as a step: it is held against it again where what it read has changed."""

    def held() -> Held:
        sheet = work.sheet(KEY)
        gates = _JUDGED[key](sheet, forms_of(work), Side(work), keys)
        sheet.gates += [_weighed(gate, work.circuit.of(key, FORMS[key])) for gate in gates]
        return Held(gates=tuple(sheet.gates), figures=tuple(sheet.figures))

    return work.step(f"record: {key}", held, keys)


def _ran(keys: Keys) -> bool:
    """Whether the motor has been run."""
    return "record_running" in keys or "record_start" in keys


def _insulation(sheet: Sheet, forms: Forms, plan: Side, keys: Keys) -> Iterator[Gate]:
    del keys
    yield from dead.insulation(sheet, forms.insulation, plan)
    yield from dead.winding(sheet, forms.insulation)


def _running(sheet: Sheet, forms: Forms, plan: Side, keys: Keys) -> Iterator[Gate]:
    del keys
    yield from running.volts(sheet, forms.running, plan)
    yield from running.hertz(forms.running, plan)
    yield from running.amperes(sheet, forms.running, plan)
    yield from carried.slip(sheet, forms.running, plan)
    yield from carried.power(sheet, forms.running, plan)


_JUDGED: Final[dict[str, Callable[[Sheet, Forms, Side, Keys], Iterable[Gate]]]] = {
    "record_install": lambda sheet, forms, plan, keys: dead.installed(forms.install),
    "record_before": lambda sheet, forms, plan, keys: dead.checklist(forms.before) if "record_before" in keys else (),
    "record_insulation": _insulation,
    "record_rotation": lambda sheet, forms, plan, keys: dead.rotation(
        forms.rotation, plan.plate.rotation or "", ran=_ran(keys)
    ),
    "record_set": lambda sheet, forms, plan, keys: dead.settings(forms.set_, plan, forms),
    "record_start": lambda sheet, forms, plan, keys: live.starting(sheet, forms.start, plan, plan.started),
    "record_running": _running,
    "record_condition": lambda sheet, forms, plan, keys: live.condition(sheet, forms.condition, plan),
}
"""Each form's gates, in the order in which they are filled in; `keys` are those in which anything stands."""


def _weighed(gate: Gate, by: Taken) -> Gate:
    """What was found bad stands against the circuit; what differs from the plan, or is simulated, informs."""
    if by.simulated == "yes":
        return informs(replace(gate, sentence=f"Simulated: {gate.sentence}"))
    if gate.kind is Kind.CONFIRM or gate.verdict is Verdict.FAILS:
        return gate
    return informs(gate)


def _readings(work: Work, keys: tuple[str, ...]) -> Iterator[Reading]:
    us = work.rules.practice.us_units
    for key in keys:
        kind = FORMS[key]
        form = work.circuit.of(key, kind)
        for name, fact in zip(kind.model_fields, kind.fields().values(), strict=True):
            value = getattr(form, name)
            if value is None or name in ("taken", "simulated"):
                continue
            if name == "steps":
                yield from (
                    Reading(form=TITLES[key], label=step, shown=dict(DONE)[said]) for said, step in steps_in(value)
                )
                continue
            if fact.quantity is not None:
                shown = fact.quantity.show(value, us=us)
            else:
                shown = dict(fact.choices).get(value, value)
            yield Reading(form=TITLES[key], label=fact.label, shown=shown)


_ALARMS: Final = ("record.bearings", "record.winding_c", "record.vibration")
"""What is past its alarm is told to whoever has just measured it, though it does not fail yet."""


_BEGUN: Final = Piece("Begun: no readings of insulation, a start or running yet. ")


def record_verdict(found: Recorded, stage: Stage) -> Verdict:
    """Of all that was recorded: not known at best while a reading stands there that cannot be read."""
    return worst_of((found.verdict, worst(stage.unread)))


def record_said(found: Recorded, stage: Stage) -> tuple[Piece, ...]:
    """What is said of it, behind what of it cannot be read."""
    names = ", ".join(inside(gate.name.removesuffix(AS_TYPED)) for gate in stage.unread)
    return (*((Piece("Cannot be read: "), Piece(names, strong=True), Piece(". ")) if names else ()), *found.said)


def _said(forms: Forms, gates: list[Gate], figures: tuple[Figure, ...], runs: Settled | None) -> Iterator[Piece]:
    """What one would say on the phone: ran, took, insulation; what is bad first."""
    failing = [gate for gate in gates if gate.verdict is Verdict.FAILS]
    alarms = [gate for gate in gates if gate.key in _ALARMS and gate.verdict in (Verdict.CHECK, Verdict.FAILS)]
    for gate in (*failing[:1], *(gate for gate in alarms if gate not in failing[:1])):
        yield Piece(f"{gate.name}: ", strong=True)
        yield Piece(f"{gate.sentence} {gate.remedy} ".replace("  ", " "))
    amps = [one for one in (forms.running.i1_a, forms.running.i2_a, forms.running.i3_a) if one]
    volts = three(forms.running, VOLTS)
    if amps:
        yield Piece("Ran ")
        yield Piece(f"{write(max(amps), 3)} A", strong=True)
        if volts:
            yield Piece(f" at {write(sum(volts) / 3, 3)} V, {deviation_pct(*volts):.1f} % unbalanced")
        yield Piece(f", plan {write(runs.amps, 3)} A. " if runs is not None else ". ")
    took = next((gate for gate in gates if gate.key == "record.start_time"), None)
    if took is not None and forms.start.time_s is not None:
        yield Piece(f"It took {took.sentence} ")
    at_40 = next((figure for figure in figures if figure.key == "record.r40"), None)
    if at_40 is not None:
        over = "over " if isinstance(forms.insulation.r1_ohm, AtLeast) else ""
        yield Piece(f"Insulation {over}{write(at_40.value, 3)} MΩ at 40 °C. ")
    if not amps and took is None and at_40 is None:
        yield _BEGUN


def _paper(found: Recorded | None) -> tuple[PaperTable, ...]:
    if found is None:
        return ()
    rows = tuple((one.form, one.label, one.shown) for one in found.readings)
    by = tuple((TITLES[key], taken or "–", "simulated bench" if key in found.simulated else "measured")
               for key, taken in found.taken)  # fmt: skip
    return (
        PaperTable(stage=KEY, title="Record: when, by whom", head=("Form", "Taken", "Kind"), rows=by),
        PaperTable(stage=KEY, title="Record: readings", head=("Form", "What", "Found"), rows=rows),
    )


RECORD = Specification(
    key=KEY, plan=_plan, sheets={KEY: "Record"}, facts=dict(FORMS), paper=_paper, informs=True,
)  # fmt: skip
