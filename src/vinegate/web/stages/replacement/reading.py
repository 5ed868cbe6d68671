"""The new plate filled from another circuit of the job, or from text that was pasted."""

from __future__ import annotations

from collections.abc import Mapping

from vinegate.core.replacement.left import is_old_record
from vinegate.store import jobs
from vinegate.store.drafts import Change
from vinegate.store.jobs import Access, Raw
from vinegate.web.stages.page import Reading
from vinegate.web.stages.pasting import pasted


def reading(access: Access, circuit: Raw, form: Mapping[str, str]) -> Reading:
    """A whole plate from another circuit; of a pasted one the fields it names, the rest as they stand. As a plate is
    taken over, what was measured of the old motor leaves the circuit: its entries stay in the record's history.
    """
    if form.get("taken_over"):
        return Reading(changes=_records_gone(circuit))
    there, kept = form.get("from_circuit", ""), dict(circuit.get("new_plate") or {})
    if there:
        return _other(access, there, kept)
    return pasted(form, circuit, "new_plate", access.rules)


def _records_gone(circuit: Raw) -> dict[str, Change]:
    return {
        f"{part}.{name}": Change(was=str(text), now="")
        for part, texts in circuit.items() if is_old_record(part) for name, text in texts.items()
    }  # fmt: skip


def _other(access: Access, tag: str, kept: Mapping[str, object]) -> Reading:
    row = next((one for one in jobs.circuits(access) if one.tag == tag), None)
    if row is None:
        return Reading(wrong=f"There is no circuit {tag[:40]} in this job now.")
    plate = dict(jobs.loads(row.facts).get("plate") or {})
    names = [*plate, *(name for name in kept if name not in plate)]
    changes = {
        f"new_plate.{name}": Change(was=str(kept.get(name) or ""), now=str(plate.get(name) or "")) for name in names
    }
    return Reading(changes={path: one for path, one in changes.items() if one.was != one.now})


def others(access: Access | None, tag: str) -> list[tuple[str, str]]:
    """The job's other circuits with a plate: tag and what it drives."""
    if access is None or not access.may_edit:
        return []
    facts = ((row.tag, jobs.loads(row.facts)) for row in jobs.circuits(access) if row.tag != tag)
    return [(name, str((raw.get("start") or {}).get("driven") or "")) for name, raw in facts if raw.get("plate")]
