"""A plan in one row: what the schedule shows of a circuit."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import asdict
from functools import lru_cache
from hashlib import sha256
from typing import Any

from vinegate.core.answer import failing, to_settle
from vinegate.core.facts import JOB_STAGES, RuleSetName, kind_of, listed_keys, read_circuit, read_job
from vinegate.core.field import file_name
from vinegate.core.grade import Verdict, unknown, worst
from vinegate.core.located import located_reads
from vinegate.core.numbers import write
from vinegate.core.place.devices import DeviceRow
from vinegate.core.plan import NOTHING, Plan, plan_raw
from vinegate.core.protection.members import Member
from vinegate.core.record.stage import RECORD, record_said, record_verdict
from vinegate.core.replacement.stage import REPLACEMENT
from vinegate.core.start.restart import Profile, Source, profile_of
from vinegate.core.watch import KEYS
from vinegate.core.work import Kept

Raw = dict[str, Any]

# Column key to the figure it shows.
COLUMNS = {
    "power": "plate.power",
    "current": "plate.current",
    "start": "start.used.current",
    "dip": "start.used.dip",
    "time": "start.used.time",
    "overload": "overload.normal",
}


_OF_JOB = ("boards", "areas")


def row_of(rules: RuleSetName, job_raw: Mapping[str, Any], circuit_raw: Mapping[str, Any]) -> tuple[Raw, list[str]]:
    """A circuit's row, and the job's facts that it rests on: `["boards", "limits.dip", "supply.volts", …]`."""
    kept = Kept()
    plan = plan_raw(rules, job_raw, circuit_raw, beside=NOTHING, kept=kept)
    circuit, _ = read_circuit(circuit_raw, rules)
    reads = located_reads(circuit).union(*(step.reads for step in kept.steps.values()))
    lists = {name for part, name in reads if part == KEYS}
    fields = {path for one in reads if (path := _in_job(*one))}
    return summarise(plan) | {"driven": circuit.start.driven or ""}, sorted(lists | fields)


@lru_cache(maxsize=10_000)
def _in_job(part: str, name: str) -> str:
    """A fact's path in its job's file; empty where it is a circuit's."""
    return f"{part}.{file_name(name)}" if part in JOB_STAGES or kind_of(part) else ""


def holds_for(reads: Iterable[str], job_raw: Mapping[str, Any], rules: RuleSetName) -> str:
    """A mark of these facts of a job as they are typed, of where its facts came from and of what cannot be read: the
    same while none of that is changed.
    """
    errors = read_job(job_raw, rules)[1]
    found: list[Any] = [job_raw.get("sources"), [(error.path, error.text) for error in errors]]
    for path in reads:
        part, _, name = path.partition(".")
        found.append((job_raw.get(part) or {}).get(name) if name else listed_keys(job_raw, part.removesuffix("s")))
    return sha256(json.dumps(found, ensure_ascii=False).encode()).hexdigest()[:24]


# What stands there while the start cannot be simulated: full voltage at the first moment.
_FIRST_MOMENT = {"start": "start.full.current", "dip": "start.full.dip_board"}


def summarise(plan: Plan) -> dict[str, Any]:
    """Values with units and provenance, and how many gates stand how: plain JSON values."""
    cells = {}
    for column, key in COLUMNS.items():
        figure = plan.figure(key) or plan.figure(_FIRST_MOMENT.get(column, key))
        if figure is not None:
            cells[column] = {
                "value": figure.value,
                "shown": f"{write(figure.value, 2 if column == 'time' else 3 if figure.soft else 4)} {figure.unit}",
                "provenance": figure.provenance.value,
            }
    counts = {verdict.mark: count for verdict, count in plan.tally.items()}
    return {
        "cells": cells,
        "gates": counts,
        "verdict": plan.verdict.value,
        "dip_verdict": plan.gate("start.dip").verdict.value,
        "why": why(plan),
        "to_confirm": sum(gate.verdict is not Verdict.PASSES for gate in plan.to_confirm),
        "missing": [missing.label for missing in plan.missing],
        "errors": len(plan.errors),
        "method": method_of(plan),
        "starts": plan.comparison.row(plan.comparison.chosen).name if plan.comparison else "",
        "stages": stages_of(plan),
        "board": plan.protected.board if plan.protected else "",
        "words": words_of(plan),
        # As text within the text: who shows the schedule need not read them.
        "restart": json.dumps(restart_of(plan)),
        "placed": json.dumps(placed_of(plan), ensure_ascii=False),
        "used": asdict(plan.placed.used) if plan.placed and plan.placed.used else {},
        "guard": guard_of(plan),
        "record": record_of(plan),
        "replacement": fits_of(plan),
    }


def stages_of(plan: Plan) -> dict[str, list[str]]:
    """Verdict to the titles of the sheets on which something stands so; what passes is left out."""
    found: dict[str, list[str]] = {}
    for stage in plan.stages:
        for verdict in dict.fromkeys(gate.verdict for gate in stage.gates if gate.weighs):
            if verdict is not Verdict.PASSES:
                found.setdefault(verdict.value, []).append(stage.title)
    return found


def words_of(plan: Plan) -> dict[str, str]:
    """Columns of the schedule that are no figure: what is in use of each."""
    devices = {device.key: device.chosen for device in plan.protected.devices} if plan.protected else {}
    stop = plan.stopping.used if plan.stopping else None
    found = {
        "wire": devices.get("conductors", ""),
        "device": devices.get("device", ""),
        "ground": devices.get("grounding", ""),
        "stop": f"{stop.name}, {write(stop.time_s, 3)} s" if stop and stop.time_s is not None else "",
    }
    speed, volts = plan.figure("plate.speed"), plan.figure("plate.volts")
    return found | {"speed": speed.shown if speed else "", "volts": volts.shown if volts else ""}


def fits_of(plan: Plan) -> str:
    """How a new motor that is compared here fits; empty where none is."""
    found = plan.of(REPLACEMENT)
    return found.fits.value if found is not None else ""


def record_of(plan: Plan) -> dict[str, Any]:
    """What the job's record shows of this circuit; empty while nothing was recorded."""
    found = plan.of(RECORD)
    if found is None:
        return {}
    return {
        "verdict": record_verdict(found, plan.stage("record")).value,
        "said": "".join(piece.text for piece in record_said(found, plan.stage("record"))).strip(),
        "taken": dict(found.taken),
        "simulated": list(found.simulated),
    }


def waiting() -> dict[str, Any]:
    """The row of a circuit that is being planned: nothing of it is known yet."""
    return unplanned() | {
        "why": "Being planned.",
        "waits": True,
        "restart": json.dumps({"reason": "it is being planned"}),
    }


def unplanned() -> dict[str, Any]:
    """The row of a circuit that could not be planned: it says so, and takes no part in any sum."""
    verdict = unknown("plan", "Plan", ()).verdict
    return {
        "driven": "",
        "cells": {},
        "gates": {word.mark: int(word is verdict) for word in Verdict},
        "verdict": verdict.value,
        "dip_verdict": verdict.value,
        "why": "It could not be planned: a fault in the program. Nothing here is judged; its facts are kept.",
        "to_confirm": 0,
        "missing": [],
        "errors": 0,
        "method": "",
        "starts": "",
        "stages": {},
        "board": "",
        "words": {},
        "restart": json.dumps({"reason": "it could not be planned"}),
        "placed": "[]",
        "used": {},
        "guard": {"devices": {}},
        "record": {},
        "replacement": "",
    }


def why(plan: Plan) -> str:
    """What fails first, or the fact that settles most; empty where everything passes."""
    found = failing(plan.gates) or to_settle(plan.gates)
    text = "".join(piece.text for piece in found[1:])  # the row's verdict stands beside it
    return text[:1].upper() + text[1:]


def guard_of(plan: Plan) -> dict[str, Any]:
    """What the protection schedule shows of this circuit, and what its feeder has to carry."""
    protected = plan.protected
    if protected is None:
        return {"devices": {}}
    devices = {
        device.key: {"name": device.name, "chosen": device.chosen, "verdict": worst(device.gates).value}
        for device in protected.devices
    }
    return {
        "devices": devices,
        "trip": protected.overload.trip,
        "board": protected.board,
        "volts_v": protected.volts_v,
        "sizing_a": protected.sizing_a,
        "ways": protected.ways,
        "lines": protected.lines or "",
        "got_v": protected.got_v,
        "stands_by": list(protected.stands_by),
        "device_a": protected.band.rating_a if protected.band else None,
    }


def member_from(tag: str, kept: dict[str, Any]) -> Member | None:
    """What `guard_of` kept, as its feeder sees it; None while it is not sized."""
    if not all(kept.get(name) for name in ("volts_v", "sizing_a", "device_a")):
        return None
    return Member(
        tag=tag,
        board=kept["board"],
        volts_v=kept["volts_v"],
        sizing_a=kept["sizing_a"],
        device_a=kept["device_a"],
        ways=kept.get("ways", 3),
        lines=kept.get("lines", ""),
        got_v=kept.get("got_v"),
        stands_by=tuple(kept.get("stands_by", ())),
    )


def method_of(plan: Plan) -> str:
    """The way to start that is used, in words; empty while nothing could be simulated."""
    found = plan.comparison
    if found is None:
        return ""
    row = found.row(found.chosen)
    return f"{row.name} {row.setting}".strip()


def restart_of(plan: Plan) -> dict[str, Any]:
    """What the restart after an outage needs of this circuit, or why it cannot be part of one."""
    profile, source = profile_of(plan), Source.of(plan)
    if isinstance(profile, str):
        return {"reason": profile}
    if source is None:
        return {"reason": "the supply is not known yet"}
    return {**asdict(profile), "source": [source.per_ampere.real, source.per_ampere.imag]}


def placed_of(plan: Plan) -> list[dict[str, Any]]:
    """What the schedule of hazardous areas shows of this circuit's devices."""
    if plan.placed is None:
        return []
    return [{name: getattr(row, name) for name in _OF_DEVICE} for row in plan.placed.devices]


_OF_DEVICE = ("key", "name", "area", "area_name", "asked", "enclosure_asked", "has", "verdict", "why")


def placed_from(text: str) -> tuple[DeviceRow, ...]:
    """What `placed_of` kept; the checks behind each verdict are not kept."""
    return tuple(DeviceRow(**row | {"verdict": Verdict(row["verdict"]), "checks": ()}) for row in json.loads(text))


def profile_from(text: str) -> tuple[Profile, Source] | str:
    """What `restart_of` kept."""
    kept = json.loads(text)
    if "reason" in kept:
        return str(kept["reason"])
    listed = {name: tuple(kept[name]) for name in ("time_s", "line_a", "volts_pu", "dips")}
    return Profile(method=kept["method"], rated_a=kept["rated_a"], **listed), Source(complex(*kept["source"]))
