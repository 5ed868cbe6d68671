"""Past its drive it starts across the line: what start, protection and stop then say, beside what they say now."""

from __future__ import annotations

from typing import Any, Final

from vinegate.core.drive.count import motors_on
from vinegate.core.grade import Gate, breaks, from_answer, unknown
from vinegate.core.place.stage import PLACE
from vinegate.core.protection.across import ACROSS, barred
from vinegate.core.protection.stage import PROTECTION
from vinegate.core.records import replace
from vinegate.core.start.stage import START
from vinegate.core.stop.stage import STOP
from vinegate.core.stop.ways import ALONE
from vinegate.core.stop.ways import USUAL as BY_BRAKE
from vinegate.core.stop.ways import way_of as stop_way_of
from vinegate.core.supply.stage import SUPPLY
from vinegate.core.wiring.stage import WIRING
from vinegate.core.wording import inside
from vinegate.core.work import Specification, Work

_SELDOM: Final = ("start.per_hour", "start.succession", "stop.per_hour", "stop.stop_heat")
"""How often is not asked of what is done seldom."""
_PAST: Final = ("starter.bypass", "Past the drive it starts across the line")
_AHEAD: Final[tuple[Specification[Any], ...]] = (SUPPLY, WIRING, START, PROTECTION, STOP, PLACE)


def past_gates(work: Work) -> list[Gate]:
    """Why it may not hang on the line; else what is said of it there that is not said of it on the drive."""
    motors = motors_on(work.circuit)
    if (why := barred(work)) is not None:
        return [from_answer(*_PAST, breaks(*why), remedy="No by-pass.")]
    if motors > 1:
        return [unknown(*_PAST, (f"the start of all {motors} motors across the line",))]
    if work.found(START).comparison is None:
        return [unknown(*_PAST, ("its start across the line",))]
    now = {gate.key: (gate.verdict, gate.sentence) for gate in _weighing(work)}
    there = work.supposing(
        _weighing,
        start=ACROSS,
        protection=work.found(PROTECTION).fitted(work.rules.device_fact),
        stop=_stops(work),
    )
    return [_as_past(gate) for gate in there if now.get(gate.key) != (gate.verdict, gate.sentence)]


def _stops(work: Work) -> dict[str, str]:
    """What stops it there where its drive does now: its brake, if it has one."""
    said = work.circuit.stop.method
    way = stop_way_of(said) if said is not None else None
    if way is None or not way.by_frequency:
        return {}
    return {"method": BY_BRAKE.key if way.holds else ALONE.key}


def _weighing(work: Work) -> tuple[Gate, ...]:
    for stage in _AHEAD:
        work.found(stage)
    sheets = (sheet for stage in _AHEAD for key in stage.sheets for sheet in work.written(key))
    return tuple(gate for sheet in sheets for gate in sheet.gates if gate.weighs and gate.key not in _SELDOM)


def _as_past(gate: Gate) -> Gate:
    stage, _, tail = gate.key.partition(".")
    key = f"starter.bypass_{tail}" if stage == START.key else f"starter.bypass_{stage}_{tail}"
    return replace(gate, key=key, name=f"Past the drive: {inside(gate.name)}")
