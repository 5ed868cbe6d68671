"""The size of run that holds everything asked of it: ampacity, drop, terminals, fault and loop."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from functools import partial
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
    laid: RunAsked,
) -> Device:
    """The row with the least size at which nothing asked of the run fails, from the one that carries the current up.

    Where none does it keeps the one of its ampacity: no size alone is the answer then. What is asked of the
    size that is laid is known by then.
    """
    sizes = [row["size"] for row in load(rules.conductors).rows]
    if runs.advised not in sizes or need.frequency_hz is None:
        return runs

    def failing(size: str, tried: Need, *, elsewhere: bool) -> Gate | None:
        here = laid if size == need.circuit.wiring.size else _if_laid(tried, rules, band, overload_a, size)
        gate = _first_failing(_asked_of(tried, band, size, here))
        for one in tried.everywhere[1:] if elsewhere and gate is None else ():
            there = _if_laid(one, rules, band, overload_a, size)
            gate = gate or _first_failing(_asked_of(one, band, size, there))
        return gate

    larger = [size for size in sizes[sizes.index(runs.advised) :] if rules.may_be(size, need)]
    own, reason = _least(_tried(need, rules, larger), partial(failing, elsewhere=False))
    if own is None:
        return replace(runs, asked=f"{runs.asked}; no single size serves {reason}") if reason else runs
    if need.elsewhere:
        tried = _tried(need, rules, larger[larger.index(own) :])
        everywhere, other = _least(tried, partial(failing, elsewhere=True))
        if everywhere is not None:
            own, reason = everywhere, f"{other} {need.there}" if other else reason
    asked = f"{runs.asked}, and for {reason}" if reason else runs.asked
    return replace(runs, asked=asked, advised=own, take="" if own == need.circuit.wiring.size else own)


def _tried(need: Need, rules: RuleSet, sizes: Iterable[str]) -> Iterator[tuple[str, Need]]:
    """Each size with the need as it is with it, as far as the run is known."""
    for size in sizes:
        there = _with(need, rules, size)
        if there is None:
            return
        yield size, there


def _least(sizes: Iterable[tuple[str, Need]], failing: Callable[[str, Need], Gate | None]) -> tuple[str | None, str]:
    """The least size at which nothing fails, None where there is none; and what the one below it fails by."""
    reason = ""
    for size, tried in sizes:
        gate = failing(size, tried)
        if gate is None:
            return size, reason
        reason = _SAID.get(gate.key, reason)
    return None, reason


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
    elsewhere = tuple(there for one in need.elsewhere if (there := _with(one, rules, size)) is not None)
    return replace(need, circuit=circuit, run=run, far=far, elsewhere=elsewhere)


def _if_laid(need: Need, rules: RuleSet, band: Band | None, overload_a: Figure | None, size: str) -> RunAsked:
    """What is asked of a run of this size, worked as far as it is looked at."""

    def others() -> Iterator[Gate]:
        yield from rules.conductors_row(Sheet("wiring", ""), need, overload_a).gates
        yield from rules.grounding(Sheet("wiring", ""), need, band, size).gates

    return RunAsked(drops=running_drop(Sheet("wiring", ""), need, rules, remedy=False), others=others())


def _asked_of(need: Need, band: Band | None, size: str, laid: RunAsked) -> Iterator[Gate]:
    """Everything the run is asked, cheapest first."""
    yield from laid.drops
    if need.terminals.held.known:
        yield need.terminals.held.gate(need.terminals.share, size)
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
