"""The record's sheet: what was found, held against the plan; the forms, their history, captures, what is due."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

from markupsafe import Markup

from vinegate.core.answer import Piece
from vinegate.core.facts import read_circuit
from vinegate.core.grade import Verdict, worst_judged
from vinegate.core.plan import Plan
from vinegate.core.record.duty import starts_gate
from vinegate.core.record.facts import ASKED, FORMS, INSTALL, RETEST_DAYS, TITLES
from vinegate.core.record.stage import RECORD, record_said, record_verdict
from vinegate.core.replacement.stage import REPLACEMENT
from vinegate.drawing.history import histories
from vinegate.drawing.scene import Scene, svg
from vinegate.store import captures, entries, jobs
from vinegate.store.models import Entry
from vinegate.web.form import worded
from vinegate.web.stages.page import InHand, Page


@dataclass(frozen=True, slots=True, kw_only=True)
class Kept:
    """One entry in the history: its readings as they were typed, and its photos."""

    title: str
    at: datetime
    by: str
    revision: str
    simulated: bool
    readings: tuple[tuple[str, str], ...]
    photos: tuple[int, ...]
    run: str
    """Of the control circuit: to be replayed on its sheet."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Form:
    """One form on the sheet: whether it was filled in, when it is due again."""

    key: str
    title: str
    last: datetime | None
    by: str
    due: datetime | None

    @property
    def overdue(self) -> bool:
        return self.due is not None and self.due < datetime.now(UTC).replace(tzinfo=None)


def _answer(plan: Plan) -> tuple[Piece, ...]:
    found = plan.of(RECORD)
    if found is None:
        return (Piece("Nothing was recorded yet: begin with the checks before it is energised."),)
    return record_said(found, plan.stage("record"))


def _headline(plan: Plan) -> Verdict:
    found = plan.of(RECORD)
    return record_verdict(found, plan.stage("record")) if found is not None else worst_judged(())


def _context(hand: InHand) -> dict[str, Any]:
    access, circuit = hand.access, hand.kept
    assert access is not None
    assert circuit is not None
    rows, photos = entries.entries(circuit), entries.photo_ids(circuit)
    kept = [_kept(row, photos, access.rules.value) for row in rows]
    return {
        "recorded": hand.plan.of(RECORD),
        "forms": [_form(key, rows) for key in offered(hand.plan)],
        "history": kept,
        "starts": starts_gate(started(rows), hand.planned.circuit.start.starts_per_hour),
        "curves": [(title, _drawn(drawing)) for title, drawing in histories(_points(rows, hand))],
        "captures": captures.listed(circuit),
    }


def started(rows: list[Entry]) -> list[float]:
    """When each start was recorded, s; the bench's are none."""
    return [
        row.taken_at.replace(tzinfo=UTC).timestamp() for row in rows if row.form == "record_start" and not row.simulated
    ]


def offered(plan: Plan) -> tuple[str, ...]:
    """Keys of the forms for this circuit: the installing only where a motor is, or was, replaced."""
    recorded = plan.of(RECORD)
    replaced = plan.of(REPLACEMENT) is not None or (recorded is not None and INSTALL in recorded.forms)
    return tuple(FORMS) if replaced else ASKED


def _drawn(drawing: Scene) -> Markup:
    return Markup(svg(drawing, "circuit-drawing"))  # noqa: S704 - our own drawing


def _form(key: str, rows: list[Entry]) -> Form:
    newest = next((row for row in rows if row.form == key), None)
    last = newest.taken_at if newest is not None else None
    days = RETEST_DAYS.get(key)
    due = last + timedelta(days=days) if last is not None and days is not None else None
    return Form(key=key, title=TITLES[key], last=last, by=newest.user.name if newest else "", due=due)


def _kept(row: Entry, photos: dict[int, list[int]], rules: str) -> Kept:
    fields, said = FORMS[row.form].fields(), jobs.loads(row.readings)
    run = said.pop("run", "")
    facts = {name: worded(fields[name], rules) for name in said}
    readings = tuple((fact.label, dict(fact.choices).get(said[name]) or said[name]) for name, fact in facts.items())
    return Kept(
        title=TITLES[row.form], at=row.taken_at, by=row.user.name, simulated=row.simulated, readings=readings,
        revision=str(row.revision or ""), photos=tuple(photos.get(row.id, ())), run=run,
    )  # fmt: skip


def _points(rows: list[Entry], hand: InHand) -> list[tuple[datetime, dict[str, float]]]:
    """Each entry's readings as numbers in core's units, the oldest first; from the bench none."""
    found = []
    for row in reversed(rows):
        if row.simulated:
            continue
        circuit, _ = read_circuit({row.form: jobs.loads(row.readings)}, hand.plan.rules)
        form = circuit.part(row.form)
        values = {f"{row.form}.{name}": value for name in FORMS[row.form].model_fields
                  if isinstance(value := getattr(form, name), float)}  # fmt: skip
        found.append((row.taken_at, values))
    return found


PAGE = Page(key="record", asks=(), context=_context, answer=_answer, headline=_headline)
