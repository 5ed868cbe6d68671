"""Which lines of a board a circuit loads: single-phase circuits add only where they meet on one."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final, NamedTuple

from vinegate.core.grade import Gate, rule
from vinegate.core.plate.kind import Family
from vinegate.core.protection.need import Need
from vinegate.core.records import dataclass
from vinegate.core.system_volts import SystemVolts, two_wires
from vinegate.core.turning import Taken, less

LABEL: Final = "how its single-phase circuits are spread over the lines"
HIGH: Final = "2"
_SAID: Final = {1: "one line", 2: "two lines"}


class Seen(NamedTuple):
    """A circuit's amperes at a feeder's volts, and the lines they flow in; `lines` is empty where that is not known of
    the `ways` it takes.
    """

    sizing_a: float
    device_a: float
    lines: str = "123"
    ways: int = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class Spread:
    """Of the fullest line's amperes, beside the largest, what may flow in another, and what share surely stays."""

    floats_a: float = 0.0
    least: float = 1.0

    @property
    def taken(self) -> tuple[Taken, ...]:
        """As a fact behind a comparison; none where all lines are known, or it makes no difference."""
        if self.floats_a <= 0 or self.least >= 1:
            return ()
        return less(Taken(label=LABEL, value=1.0, low=self.least, high=1.0))

    def off(self, share: float = 1.0) -> float:
        """Amperes that are not on the fullest line where only this share of them is."""
        return (1 - share) * self.floats_a


ALL_KNOWN: Final = Spread()


def fullest(circuits: Sequence[Seen], volts: float) -> tuple[list[Seen], Spread]:
    """The circuits on the line that carries most, largest first; those whose lines are not known are all counted there.

    However these are spread, no line carries less than the mean, than the fullest without them, and than one of them
    beside the emptiest.
    """
    lines = lines_of(volts)
    known = [one for one in circuits if one.lines or one.ways >= len(lines)]
    floating = [one for one in circuits if one not in known]
    on = {line: [one for one in known if line in one.lines or one.ways >= len(lines)] for line in lines}
    sums = {line: sum(one.sizing_a for one in on[line]) for line in lines}
    full = max(lines, key=lambda line: sums[line])
    here = sorted([*on[full], *floating], reverse=True)
    rest = sum(one.sizing_a for one in floating if one is not here[0])
    if rest <= 0:
        return here, ALL_KNOWN
    amps = [one.sizing_a for one in floating]
    mean = (sum(sums.values()) + sum(one.ways * one.sizing_a for one in floating)) / len(lines)
    least = max(mean, sums[full], min(sums.values()) + max(amps))
    whole = sums[full] + sum(amps)
    return here, Spread(floats_a=rest, least=max(0.0, 1 - (whole - least) / rest))


def lines_of(volts: float) -> str:
    """The lines that a supply of these volts has."""
    return "12" if two_wires(volts) else "123"


def ways_of(need: Need) -> int:
    """Conductors of its board's lines that it takes."""
    if need.fed_by_one:
        return 1 if need.neutral else 2
    if need.circuit.plate.family is not Family.SINGLE:
        return 3
    return 1 if need.neutral else 2


def lines_gate(need: Need) -> tuple[Gate, ...]:
    """As many lines as it hangs between, that its board has; and never the high leg alone."""
    said, ways = need.circuit.wiring.lines, ways_of(need)
    volts = need.job.volts_at(need.circuit.wiring.board)
    if said is None or ways == 3 or volts is None:
        return ()
    source, text = "the board's volts and the plate's", ""
    if len(said) != ways:
        text = f"It takes {_SAID[ways]} of its board; {_SAID[len(said)]} {'is' if len(said) == 1 else 'are'} given."
    elif not set(said) <= set(lines_of(volts)):
        text = "Its board has L1 and L2 and a neutral, no L3."
    elif said == HIGH and isinstance(volts, SystemVolts) and volts.kind == "high-leg":
        text = f"L2 is the high leg: {volts * 3**0.5 / 2:.0f} V to neutral."
        source = "NFPA 70:2023 408.3(E): the high leg is phase B"
    if not text:
        return ()
    return (
        rule("protection.lines", "Lines that it hangs on", False, text, source,
             remedy="Read again where it is connected."),
    )  # fmt: skip
