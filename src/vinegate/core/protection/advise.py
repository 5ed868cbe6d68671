"""The size of run that holds everything asked of it: ampacity, drop, terminals, fault and loop."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Final

from vinegate.core.grade import Gate, Verdict
from vinegate.core.protection.bands import Band
from vinegate.core.protection.need import Device, Need
from vinegate.core.protection.running import running_drop
from vinegate.core.protection.short_circuit import far_fault
from vinegate.core.protection.sizing import clears_gate
from vinegate.core.records import dataclass, replace
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.start.terminals import Held
from vinegate.core.tables import load
from vinegate.core.wiring.run import run_of
from vinegate.core.working import Figure

_SAID: Final = {
    "protection.drop": "drop while running",
    "start.terminals": "volts at the terminals",
    "protection.loop": "the earth-fault loop",
    "protection.clears": "clearing a fault",
    "protection.withstand": "bearing a fault",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Terminals:
    """The terminals' volts of the way in use: what they are held to, and the share of locked-rotor current drawn."""

    held: Held
    share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class RunAsked:
    """What is asked of a run of one size: its drop while running; ampacity, temperature and the grounding conductor."""

    drops: Iterable[Gate]
    others: Iterable[Gate]


def advise(
    runs: Device,
    need: Need,
    rules: RuleSet,
    band: Band | None,
    overload_a: Figure | None,
    at: Terminals,
    laid: RunAsked,
) -> Device:
    """The row with the least size at which nothing asked of the run fails, from the one that carries the current up.

    Where none does it keeps the one of its ampacity: no size alone is the answer then. What is asked of the
    size that is laid is known by then.
    """
    sizes = [row["size"] for row in load(rules.conductors).rows]
    if runs.advised not in sizes or need.frequency_hz is None:
        return runs
    reason = ""
    for size in sizes[sizes.index(runs.advised) :]:
        tried = _with(need, rules, size)
        if tried is None:
            return runs
        if not rules.may_be(size, need):
            continue
        here = laid if size == need.circuit.wiring.size else _if_laid(tried, rules, band, overload_a, size)
        failing = _first_failing(_asked_of(tried, band, at, size, here))
        if failing is None:
            asked = f"{runs.asked}, and for {reason}" if reason else runs.asked
            return replace(runs, asked=asked, advised=size, take="" if size == need.circuit.wiring.size else size)
        reason = _SAID.get(failing.key, reason)
    return replace(runs, asked=f"{runs.asked}; no single size serves {reason}") if reason else runs


def _with(need: Need, rules: RuleSet, size: str) -> Need | None:
    """The same need with another size of run; None while its length or metal is missing."""
    wiring = need.circuit.wiring
    assert need.frequency_hz is not None
    run = rules.conductor(Sheet("scratch", ""), replace(run_of(wiring), size=size), need.frequency_hz)
    if run is None:
        return None
    circuit = need.circuit.with_parts(wiring=need.circuit.wiring.model_copy(update={"size": size}))
    least = need.faults.least_factor if need.faults else 1.0
    far = far_fault(Sheet("scratch", ""), need.source, need.feed, run, least, neutral=need.neutral)
    return replace(need, circuit=circuit, run=run, far=far)


def _if_laid(need: Need, rules: RuleSet, band: Band | None, overload_a: Figure | None, size: str) -> RunAsked:
    """What is asked of a run of this size, worked as far as it is looked at."""

    def others() -> Iterator[Gate]:
        yield from rules.conductors_row(Sheet("wiring", ""), need, overload_a).gates
        yield from rules.grounding(Sheet("wiring", ""), need, band, size).gates

    return RunAsked(drops=running_drop(Sheet("wiring", ""), need, rules, remedy=False), others=others())


def _asked_of(need: Need, band: Band | None, at: Terminals, size: str, laid: RunAsked) -> Iterator[Gate]:
    """Everything the run is asked, cheapest first."""
    yield from laid.drops
    if at.held.known:
        yield at.held.gate(at.share, size)
    yield from laid.others
    if band is not None and not need.way.converts:
        yield clears_gate(need, band, 5.0, "")


def _first_failing(gates: Iterable[Gate]) -> Gate | None:
    """The first that does not hold with the facts as taken; what is not known asks nothing."""
    for gate in gates:
        if gate.verdict is Verdict.FAILS:
            return gate
        if gate.verdict is Verdict.CHECK and gate.margin is not None and gate.margin < 0:
            return gate
    return None
