"""The size of run that holds everything asked of it: ampacity, drop, terminals, fault and loop."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from functools import partial
from itertools import islice
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
_CARRIES: Final = "protection.conductors"
_LARGER: Final = 2
"""So many sizes up at most, for what is estimated: past it the fact that settles the gate is worth more; ours."""


@dataclass(frozen=True, slots=True, kw_only=True)
class RunAsked:
    """What is asked of a run of one size: its drop while running; ampacity, temperature and the grounding conductor."""

    drops: Iterable[Gate]
    others: Iterable[Gate]


@dataclass(frozen=True, slots=True, kw_only=True)
class Looked:
    """Of one size the first gate that does not hold with the facts as taken, and the first of its own start that may
    not.
    """

    fails: Gate | None = None
    unsure: Gate | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Least:
    """The least size that serves, None where none does; what the one below it fails by; what of it is not sure."""

    size: str | None = None
    reason: str = ""
    unsure: Gate | None = None


Look = Callable[[str, Need], Looked]


def advise(
    runs: Device,
    need: Need,
    rules: RuleSet,
    band: Band | None,
    overload_a: Figure | None,
    laid: RunAsked,
) -> Device:
    """The row with the least size at which nothing asked of the run fails, from the one that carries the current up;
    a little larger where all that was computed of it then holds over what is estimated.

    Where none does it keeps the one of its ampacity: no size alone is the answer then. What is asked of the
    size that is laid is known by then.
    """
    sizes = [row["size"] for row in load(rules.conductors).rows]
    if runs.advised not in sizes or need.frequency_hz is None:
        return runs

    def look(size: str, tried: Need, *, elsewhere: bool) -> Looked:
        here = laid if size == need.circuit.wiring.size else _if_laid(tried, rules, band, overload_a, size)
        found = _looked_at(_asked_of(tried, band, size, here))
        for one in tried.everywhere[1:] if elsewhere and found.fails is None else ():
            there = _looked_at(_asked_of(one, band, size, _if_laid(one, rules, band, overload_a, size)))
            found = Looked(fails=found.fails or there.fails, unsure=found.unsure)
        return found

    larger = [size for size in sizes[sizes.index(runs.advised) :] if rules.may_be(size, need)]
    found = _least(_tried(need, rules, larger), partial(look, elsewhere=False))
    if found.size is None:
        reason = found.reason
        return replace(runs, asked=f"{runs.asked}; no single size serves {reason}") if reason else runs
    found = _serving(found, need, lambda size: _tried(need, rules, larger[larger.index(size) :]), look)
    asked = f"{runs.asked}, and for {found.reason}" if found.reason else runs.asked
    take = "" if found.size == need.circuit.wiring.size else found.size or ""
    return replace(runs, asked=asked, advised=found.size or "", take=take)


def _serving(
    own: Least, need: Need, tried: Callable[[str], Iterable[tuple[str, Need]]], look: Callable[..., Looked]
) -> Least:
    """From the least size for its own start on: past a drive and on the standby too, where one serves there; then as
    much larger as what is estimated asks.
    """
    assert own.size is not None
    found, everywhere = own, False
    if need.elsewhere:
        there = _least(tried(own.size), partial(look, elsewhere=True))
        if there.size is not None:
            everywhere = True
            found = replace(there, reason=f"{there.reason} {need.there}" if there.reason else own.reason)
    if found.unsure is None or found.size is None:
        return found
    for size, with_it in islice(tried(found.size), 1, 1 + _LARGER):
        now = look(size, with_it, elsewhere=everywhere)
        if now.fails is None and now.unsure is None:
            return Least(size=size, reason=f"{_SAID[found.unsure.key]} over all that is estimated")
    return found


def _tried(need: Need, rules: RuleSet, sizes: Iterable[str]) -> Iterator[tuple[str, Need]]:
    """Each size with the need as it is with it, as far as the run is known."""
    for size in sizes:
        there = _with(need, rules, size)
        if there is None:
            return
        yield size, there


def _least(sizes: Iterable[tuple[str, Need]], look: Look) -> Least:
    """The least size at which nothing fails."""
    reason = ""
    for size, tried in sizes:
        found = look(size, tried)
        if found.fails is None:
            return Least(size=size, reason=reason, unsure=found.unsure)
        reason = _SAID.get(found.fails.key, reason)
    return Least(reason=reason)


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


def _looked_at(gates: Iterable[Gate]) -> Looked:
    """As far as the first that does not hold; what is not known asks nothing, but whether a table has the size."""
    unsure = None
    for gate in gates:
        untabled = gate.verdict is Verdict.UNKNOWN and gate.key == _CARRIES
        if gate.verdict is Verdict.FAILS or untabled:
            return Looked(fails=gate)
        if gate.verdict is Verdict.CHECK and gate.margin is not None and gate.margin < 0:
            return Looked(fails=gate)
        if unsure is None and gate.verdict is Verdict.CHECK and gate.key in _SAID:
            unsure = gate
    return Looked(unsure=unsure)
