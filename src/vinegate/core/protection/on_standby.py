"""The same circuit on the standby generator, where it is said to run on it too: started, fed and cleared there."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final

from vinegate.core.drive.stage import DRIVE
from vinegate.core.grade import Gate, confirm, unknown
from vinegate.core.records import replace
from vinegate.core.start.elsewhere import HANGS_ON_SOURCE
from vinegate.core.start.stage import START, way_in_use
from vinegate.core.supply.stage import SUPPLY
from vinegate.core.wiring.stage import WIRING
from vinegate.core.wording import inside
from vinegate.core.work import Specification, Work

_KEY, _NAME = "supply.standby", "Runs on the standby generator"
_ASKED: Final = (
    "protection.class", "protection.clears", "protection.holds", "protection.loop",
    "protection.protective_withstand", "protection.source", "protection.stall", "protection.withstand",
    *HANGS_ON_SOURCE,
)  # fmt: skip
_DRIVES: Final = "drive."
"""Of a drive's sheet what reads otherwise there: its volts, torque, harmonics and resonance hang on the source."""


def standby_gates(work: Work, protection: Specification[Any], fitted: Mapping[str, object]) -> list[Gate]:
    """None where there is no standby, or the circuit is planned on it anyway; not said, it is for the checklist.

    Device and class are those that are `fitted` here.
    """
    said = work.circuit.start.on_standby
    if said == "no" or work.job.on_standby:
        return []
    if not work.job.standby.known:
        return [unknown(_KEY, _NAME, ("the standby generator's kVA and X'd",))] if said == "yes" else []
    if said is None:
        text = "Judged on the utility alone: whether it runs on the standby generator too is not said."
        return [confirm(_KEY, _NAME, False, text, "said on the start's sheet")]
    now = {(gate.key, gate.verdict, gate.sentence) for gate in _weighing(work, (DRIVE,))}
    there = work.supposing(
        lambda other: _weighing(other, (SUPPLY, WIRING, DRIVE, START, protection)),
        protection=fitted, **as_there(work),
    )  # fmt: skip
    changed = [gate for gate in there if gate.key.startswith(_DRIVES)]
    changed = [gate for gate in changed if (gate.key, gate.verdict, gate.sentence) not in now]
    return [_there(gate) for gate in (*(one for one in there if one.key.startswith(_ASKED)), *changed)]


def runs_there(work: Work) -> bool:
    """Whether it is said to run on a standby of which enough is known."""
    return work.circuit.start.on_standby == "yes" and not work.job.on_standby and work.job.standby.known


def as_there(work: Work) -> dict[str, Any]:
    """What is supposed of it there: the way to start is the one in use here."""
    return {"on_job": {"supply": {"in_use": "standby"}}, "start": {"method": way_in_use(work)}}


def _weighing(work: Work, stages: tuple[Specification[Any], ...]) -> list[Gate]:
    for stage in stages:
        work.found(stage)
    gates = [gate for stage in stages for key in stage.sheets for sheet in work.written(key) for gate in sheet.gates]
    return [gate for gate in gates if gate.weighs]


def _there(gate: Gate) -> Gate:
    return replace(
        gate, key=f"supply.standby_{gate.key.replace('.', '_')}",
        name=f"On the standby: {inside(gate.name)}",
    )  # fmt: skip
