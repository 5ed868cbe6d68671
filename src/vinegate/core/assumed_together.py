"""Several facts that their writer assumed, moved at once: each the way that leaves a gate the less.

What turns nothing alone may turn a gate with others. Each has been planned at both ends of its band; of a gate with a
margin each end has taken its share, and together they take about the sum. Where that comes to a quarter of it or more,
the circuit is planned with all of them so.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any, Final

from vinegate.core.grade import Verdict
from vinegate.core.records import dataclass

_MOST: Final = 6
"""Plans at once: the gates that are left the least, of as many directions."""
_NEAR: Final = 0.25
"""Of a gate's margin the share from which it is planned: shares add up only about."""
_LITTLE: Final = 0.02
"""Of a gate's margin what a fact must take to be named."""
_TINY: Final = 1e-9


@dataclass(frozen=True, slots=True)
class Seen:
    """Of a gate that weighs: its verdict, its name, its margin where it is a number."""

    verdict: Verdict
    name: str
    margin: float | None


@dataclass(frozen=True, slots=True, eq=False)
class Moved:
    """A fact at one end of its band: so many times its value, what is supposed for that, and the gates there."""

    times: float
    supposed: dict[str, Any]
    there: dict[str, Seen]


@dataclass(slots=True)
class Together:
    """Gates that all of some facts at their ends leave less of: the most that they take of one, of its margin."""

    gates: set[str]
    share: float = 0.0


Ways = tuple[Moved | None, ...]
"""Of each fact its end, or None where it does nothing."""


def worst_of_all(facts: Sequence[Sequence[Moved]], now: dict[str, Seen]) -> list[tuple[Ways, Together]]:
    """The ends that leave gates the less, and those gates: what takes most first. One set for each direction."""
    found: dict[Ways, Together] = {}
    for key, seen in now.items():
        if seen.margin is None or abs(seen.margin) < _TINY or seen.verdict not in (Verdict.PASSES, Verdict.FAILS):
            continue
        picked = [_end(ends, key, seen.margin) for ends in facts]
        share = sum(taken for _, taken in picked) / abs(seen.margin)
        ways = tuple(way for way, _ in picked)
        if share >= _NEAR and sum(way is not None for way in ways) > 1:
            together = found.setdefault(ways, Together(set()))
            together.gates.add(key)
            together.share = max(together.share, share)
    return sorted(found.items(), key=lambda one: -one[1].share)[:_MOST]


def _end(ends: Sequence[Moved], key: str, margin: float) -> tuple[Moved | None, float]:
    """The end that takes most of a gate's margin, or of what it fails by, and how much."""
    best: tuple[Moved | None, float] = (None, _LITTLE * abs(margin))
    for one in ends:
        seen = one.there.get(key)
        if seen is None or seen.margin is None:
            continue
        taken = (margin - seen.margin) if margin > 0 else (seen.margin - margin)
        if taken > best[1]:
            best = one, taken
    return best if best[0] is not None else (None, 0.0)


def merged(supposed: Iterable[dict[str, Any]]) -> dict[str, Any]:
    """What is supposed of several facts, as one: by part, and those of the job by theirs."""
    found: dict[str, Any] = {}
    for one in supposed:
        for part, values in one.items():
            found[part] = merged([found.get(part, {}), values]) if part == "on_job" else found.get(part, {}) | values
    return found
