"""An overload that is set without saying where it stands, or what its amperes are: judged over what they may be."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import Final

from vinegate.core.grade import Gate
from vinegate.core.protection.facts import HABITS, PLACES
from vinegate.core.protection.need import Device, Need, with_protection
from vinegate.core.protection.unsaid_kind import gates_over
from vinegate.core.rules import RuleSet
from vinegate.core.start.way import Windings

_ELEMENTS_FROM: Final = 1.1  # elements are chosen at 115 or 125 % of the rated current (430.32(A)(1))
_SHARES: Final = {"delta": 1 / math.sqrt(3), "half": 0.5}
_PLACES: Final = dict(PLACES)
_HABITS: Final = dict(HABITS)


def over_unsaid(
    gates: Sequence[Gate], need: Need, rules: RuleSet, row_of: Callable[[Need], Device]
) -> tuple[Gate, ...]:
    """Over its place, each over what its amperes are; the `gates` are those of a dial in the line. As they stand where
    both are said, or its amperes can be nothing else: elements are more than the rated current, and a setting or a
    band nearer to all of it than to a winding's share is the line's.
    """
    facts, rated = need.circuit.protection, need.plate.value if need.plate else 0.0
    amps, given = facts.overload_a or 0.0, (facts.overload_a, facts.element_high_a)
    least = min((one for one in given if one is not None), default=rated)
    place = _other_place(need) if facts.overload_place is None else ""
    here = rated * _SHARES.get(facts.overload_place or "line", 1.0)
    if rules.practice.by_trip_current and facts.overload_habit is None and amps >= _ELEMENTS_FROM * here:
        said = with_protection(need, overload_habit="element", overload_place=facts.overload_place or "line")
        there = {_HABITS["element"]: row_of(said).gates}
        gates = gates_over(gates, "protection.overload_habit", "setting as", _HABITS["dial"], there)
    if place and least < (1 + _SHARES[place]) / 2 * rated:
        there = {_PLACES[place]: row_of(with_protection(need, overload_place=place)).gates}
        gates = gates_over(gates, "protection.overload_place", "overload", _PLACES["line"], there)
    return tuple(gates)


def _other_place(need: Need) -> str:
    """Where else it may stand in this circuit; empty where it is in the line alone."""
    if need.runs_in_delta and need.way.windings is Windings.WYE:
        return "delta"
    return "half" if need.way.windings is Windings.HALF else ""
