"""The circuits of a board as its feeder counts them: those that run together."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from vinegate.core.grade import Gate, confirm, informs, unknown
from vinegate.core.records import dataclass

Pair = tuple[str, str]
"""What stands by, and what it stands by for."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Member:
    """A circuit as its feeder sees it: the current that sizes it and its short-circuit device, in amperes.

    `volts_v` are its board's, between lines; `got_v` what the motor gets, where that differs. It takes `ways` lines,
    and `lines` says which. It never runs beside those that it `stands_by` for.
    """

    tag: str
    board: str
    volts_v: float
    sizing_a: float
    device_a: float
    ways: int = 3
    lines: str = ""
    got_v: float | None = None
    stands_by: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Unsized:
    """A circuit whose current or device is not known: its board's sums are without it."""

    tag: str
    board: str


def together(members: Sequence[Member]) -> tuple[list[Member], list[Pair]]:
    """Those that add up to the most at one time, and the pairs of which one is left out.

    Of interlocked motors those count that make the largest sum (NFPA 70:2023 430.24, exception 3). What stands by for
    several takes the place of the least of them, and counts where it takes more than that.
    """
    running, pairs = list(members), list[Pair]()
    for one in members:
        served = [other for other in running if other.tag in one.stands_by and other is not one]
        if one not in running or not served:
            continue
        least = min(served, key=_takes)
        running.remove(one if _takes(one) <= _takes(least) else least)
        pairs.append((one.tag, least.tag))
    return running, pairs


def _takes(member: Member) -> float:
    return member.sizing_a * (member.got_v or member.volts_v)


def interlock_gate(pairs: Sequence[Pair]) -> tuple[Gate, ...]:
    """What is counted once must not run twice: tried where it stands."""
    if not pairs:
        return ()
    listed = "; ".join(f"{one} never runs beside {other}" for one, other in pairs)
    text = f"{listed}, as stated: one of them is counted. Their interlock is tried, by hand and on automatic."
    source = "NFPA 70:2023 430.24, exception 3; IEC 60204-1:2016 9.3.4"
    return (confirm("protection.feeder_interlock", "Standby kept from running beside it", False, text, source),)


def nameless_gate(members: Sequence[Member], known: Collection[str]) -> tuple[Gate, ...]:
    """Standbys of a circuit that the job has not, mistyped perhaps: nothing is left out for them, which is safe."""
    lost = [(one.tag, tag) for one in members for tag in one.stands_by if tag not in known or tag == one.tag]
    if not lost:
        return ()
    needs = tuple(f"another circuit {tag} here, which {one} stands by for: {one} counts in full" for one, tag in lost)
    return (informs(unknown("protection.feeder_standby", "Standby's duty is in this job", needs)),)
