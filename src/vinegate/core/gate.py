"""A requirement and its verdict."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from vinegate.core.working import Figure


class Verdict(StrEnum):
    """`open` passes; `ajar` passes, look again; `unknown` lacks a fact; `shut` does not pass."""

    OPEN = "open"
    AJAR = "ajar"
    UNKNOWN = "unknown"
    SHUT = "shut"

    @property
    def rank(self) -> int:
        return _RANKS[self]


_RANKS = {verdict: rank for rank, verdict in enumerate(Verdict)}


@dataclass(frozen=True, slots=True, kw_only=True)
class Gate:
    """One requirement: what was asked, what came out, what to do about it.

    `value`, `limit` and `margin` are in `unit`; margin is positive on the passing side and None where
    the requirement is not a number. `needs` names the facts an `unknown` gate lacks. A gate of a method that was
    not chosen does not weigh: it informs, and leaves the circuit's verdict alone.
    """

    key: str
    name: str
    verdict: Verdict
    sentence: str
    source: str
    value: float | None = None
    limit: float | None = None
    margin: float | None = None
    unit: str = ""
    remedy: str = ""
    needs: tuple[str, ...] = ()
    estimated: bool = False
    weighs: bool = True


def at_most(
    key: str,
    name: str,
    value: Figure | None,
    limit: Figure | None,
    *,
    sentence: str,
    remedy: str,
    needs: tuple[str, ...] = (),
    bound: Figure | None = None,
    near: float = 0.1,
) -> Gate:
    """`value` must not exceed `limit`; within `near` of it, or resting on an assumption, it is ajar.

    `bound` is a figure that `value` cannot pass whatever the assumptions; if it holds the limit on firm facts,
    so does the gate. `near` is a share of the limit (0.1 = the last tenth).
    """
    return _compare(key, name, value, limit, sentence, remedy, needs, bound, near, sign=1)


def at_least(
    key: str,
    name: str,
    value: Figure | None,
    limit: Figure | None,
    *,
    sentence: str,
    remedy: str,
    needs: tuple[str, ...] = (),
    bound: Figure | None = None,
    near: float = 0.02,
) -> Gate:
    """`value` must reach `limit`; within `near` (a share of the limit) above it, it is ajar. `bound` as above."""
    return _compare(key, name, value, limit, sentence, remedy, needs, bound, near, sign=-1)


def _compare(
    key: str,
    name: str,
    value: Figure | None,
    limit: Figure | None,
    sentence: str,
    remedy: str,
    needs: tuple[str, ...],
    bound: Figure | None,
    near: float,
    sign: int,
) -> Gate:
    if value is None or limit is None:
        return unknown(key, name, needs)
    margin = sign * (limit.value - value.value)
    firm = bound is not None and not bound.soft and sign * (limit.value - bound.value) >= 0
    estimated = not firm and (value.soft or limit.soft)
    if margin < 0:
        verdict = Verdict.SHUT
    elif margin < near * abs(limit.value) or estimated:
        verdict = Verdict.AJAR
    else:
        verdict = Verdict.OPEN
    if verdict is Verdict.AJAR and estimated:
        sentence += " It rests on an assumption: see the working."
    if firm and value.soft and bound is not None:
        sentence += f" Whatever the assumed angles, {bound.shown}."
    return Gate(
        key=key,
        name=name,
        verdict=verdict,
        sentence=sentence,
        source=limit.source,
        value=value.value,
        limit=limit.value,
        margin=margin,
        unit=value.unit,
        remedy="" if verdict is Verdict.OPEN else remedy,
        estimated=estimated,
    )


def unknown(key: str, name: str, needs: tuple[str, ...]) -> Gate:
    """A gate that cannot be judged: it names the facts it lacks."""
    listed = ", ".join(needs) if needs else "facts"
    return Gate(
        key=key,
        name=name,
        verdict=Verdict.UNKNOWN,
        sentence=f"Not known yet: {listed}.",
        source="",
        needs=needs,
        remedy=f"Give {listed}.",
    )


def worst(gates: tuple[Gate, ...]) -> Verdict:
    """The verdict that stands for several gates: the worst of those that weigh."""
    return max(
        (gate.verdict for gate in gates if gate.weighs), key=lambda verdict: verdict.rank, default=Verdict.UNKNOWN
    )
