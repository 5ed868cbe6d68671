"""The comparison on the start sheet: one row a method."""

from __future__ import annotations

from dataclasses import dataclass, replace

from vinegate.core.gate import Gate, Verdict
from vinegate.core.plan import Plan
from vinegate.core.rules import rule_set
from vinegate.core.working import Figure

_BAR_WIDTH = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class Bar:
    """A small bar with its limit as a tick, in drawing units."""

    length: float
    tick: float
    over: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Method:
    """One way to start, as a row."""

    name: str
    current: Figure | None
    times_rated: float | None
    dip: Figure | None
    bar: Bar | None
    terminals: Figure | None
    gate: Gate
    why: str
    chosen: bool = False


def methods(plan: Plan) -> tuple[Method, ...]:
    """Full voltage and wye-delta at the first moment; the chosen one is the one whose gates weigh."""
    words = rule_set(plan.rules).words
    by_wye = plan.gate("wye_delta.eligible").weighs
    return (
        replace(_row(plan, "full voltage", "full", plan.gate("start.dip_full"), ""), chosen=not by_wye),
        replace(_wye_delta(plan, f"{words.wye}-delta"), chosen=by_wye),
    )


def _wye_delta(plan: Plan, name: str) -> Method:
    eligible = plan.gate("wye_delta.eligible")
    if eligible.verdict in (Verdict.SHUT, Verdict.UNKNOWN) or not _has(plan, "start.dip_wye"):
        return _row(plan, name, "wye", eligible, eligible.sentence)
    dip_gate = plan.gate("start.dip_wye")
    worse = max((eligible, dip_gate), key=lambda gate: gate.verdict.rank)
    torque = plan.figure("start.wye.torque")
    share = f"about {torque.value:.0f} % of the torque" if torque else "a third of the torque"
    doubt = f" {eligible.remedy}" if eligible.remedy else ""
    return _row(plan, name, "wye", worse, f"Starts on {share}.{doubt}")


def _row(plan: Plan, name: str, prefix: str, gate: Gate, why: str) -> Method:
    current, rated = plan.figure(f"start.{prefix}.current"), plan.figure("plate.current")
    dip = plan.figure(f"start.{prefix}.dip_board")
    return Method(
        name=name,
        current=current,
        times_rated=current.value / rated.value if current and rated else None,
        dip=dip,
        bar=_bar(dip, plan.figure("start.dip_limit"), plan.figure("start.full.dip_board")),
        terminals=plan.figure(f"start.{prefix}.terminals"),
        gate=gate,
        why=why or gate.sentence,
    )


def _bar(value: Figure | None, limit: Figure | None, largest: Figure | None) -> Bar | None:
    if value is None or limit is None:
        return None
    scale = _BAR_WIDTH / max(limit.value * 1.25, value.value, largest.value if largest else 0)
    return Bar(length=value.value * scale, tick=limit.value * scale, over=value.value > limit.value)


def _has(plan: Plan, key: str) -> bool:
    return any(gate.key == key for gate in plan.gates)
