"""Two plans of one circuit held against each other: what of them is not the same, and nothing else."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from vinegate.core.plan import Plan
from vinegate.core.records import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Difference:
    """One thing in both, by its key and name; empty where one has it not."""

    key: str
    name: str
    was: str
    now: str


def facts_changed(was: Mapping[str, Any], now: Mapping[str, Any]) -> list[Difference]:
    """Facts as typed, by path; `was` and `now` are `{"job": ..., "circuit": ...}`."""
    before, after = _paths(was), _paths(now)
    return [
        Difference(key=path, name=path, was=before.get(path, ""), now=after.get(path, ""))
        for path in sorted({*before, *after})
        if before.get(path, "") != after.get(path, "")
    ]


def _paths(facts: Mapping[str, Any]) -> dict[str, str]:
    found = {}
    for owner in ("job", "circuit"):
        for part, fields in (facts.get(owner) or {}).items():
            for name, text in (fields or {}).items():
                if str(text):
                    found[f"{part}.{name}"] = str(text)
    return found


def verdicts_changed(was: Plan, now: Plan) -> list[Difference]:
    """Gates that weigh, whose verdict turned."""
    before, after = ({gate.key: gate for gate in plan.weighing} for plan in (was, now))
    found = []
    for key in dict.fromkeys([*before, *after]):
        pair = (before.get(key), after.get(key))
        words = [gate.verdict.value if gate else "" for gate in pair]
        if words[0] != words[1]:
            name = next(gate.name for gate in pair if gate)
            found.append(Difference(key=key, name=name, was=words[0], now=words[1]))
    return found


def answers_changed(was: Plan, now: Plan) -> list[Difference]:
    """What devices, start, stop and verdict are said to be."""
    found = [Difference(key="verdict", name="Verdict", was=was.verdict.value, now=now.verdict.value)]
    before, after = ({d.key: d for d in plan.protected.devices} if plan.protected else {} for plan in (was, now))
    for key in dict.fromkeys([*before, *after]):
        pair = (before.get(key), after.get(key))
        name = next(device.name for device in pair if device)
        found.append(
            Difference(key=key, name=name, was=pair[0].chosen if pair[0] else "", now=pair[1].chosen if pair[1] else "")
        )
    for key in ("start.used.current", "start.used.dip", "start.used.time", "overload.normal", "wiring.drop"):
        figures = [plan.figure(key) for plan in (was, now)]
        name = next((figure.name for figure in figures if figure), key)
        found.append(
            Difference(
                key=key,
                name=name,
                was=figures[0].shown if figures[0] else "",
                now=figures[1].shown if figures[1] else "",
            )
        )
    return [one for one in found if one.was != one.now]
