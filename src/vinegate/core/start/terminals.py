"""Volts at the motor's terminals against the floor, and the size of run that holds it."""

from __future__ import annotations

from vinegate.core.grade import Gate, at_least, unknown
from vinegate.core.numbers import write
from vinegate.core.records import dataclass, replace
from vinegate.core.rules import RuleSet, RunFacts, RunImpedance
from vinegate.core.sheet import Sheet
from vinegate.core.start.first_moment import Moment
from vinegate.core.start.sag import Sag
from vinegate.core.tables import load
from vinegate.core.working import Figure

_SAME = 1.01  # the course and the first moment agree to less than that
_KEY, _NAME = "start.terminals", "Volts at the terminals"


@dataclass(frozen=True, slots=True, kw_only=True)
class Held:
    """What the terminals' gate is made from, for a way that draws a share of the locked-rotor current.

    A starter that lowers the motor's volts on purpose still needs these to work from: it does not cure a thin wire.
    `behind` where the run lies behind a bridge, that gives what it is told to.
    """

    wiring: RunFacts
    rules: RuleSet
    run: RunImpedance | None
    floor: Figure | None
    hertz: float | None
    moment: Moment
    behind: bool = False

    @property
    def known(self) -> bool:
        return not self.behind and self.run is not None and self.floor is not None and self.moment.sag is not None

    def share_of(self, amps: float, count: int = 1) -> float:
        """The share of one motor's locked-rotor current that a way which draws so many amperes at the motor, or at so
        many behind one drive, would draw at plate volts: its volts are lower here, and that is not counted twice.
        `known` must hold.
        """
        sag = self.moment.sag
        assert sag is not None
        taken = [one.value for one in sag.rests]
        if count == 1 and sag.draws(taken) <= _SAME * amps:
            return 1.0
        return sag.share_drawing(taken, amps, most=count)

    def drawing(self, amps: float, count: int = 1) -> Gate:
        """Judge a way that draws so many amperes at the motor, or motors. `known` must hold."""
        return self.gate(self.share_of(amps, count))

    def at_input(self, line_a: float) -> Gate:
        """Judge what a drive's input keeps while it draws so many line amperes; the run behind it does not count."""
        sag, floor = self.moment.sag, self.floor
        if sag is None or floor is None:
            wanted = (("the supply", sag), ("least volts at the terminals", floor))
            return unknown(_KEY, "Volts at the drive's input", tuple(label for label, value in wanted if value is None))
        taken, share = [one.value for one in sag.rests], line_a / sag.current.value
        value, least = 100 * sag.stays(taken, share), floor.value
        text = f"At its limit the drive's input keeps {value:.1f} % of its volts, {write(least, 3)} % asked."
        return at_least(
            _KEY, "Volts at the drive's input", value, least, sentence=text, source=floor.source, unit="%",
            rests=sag.rests, room=lambda *facts: 100 * sag.stays(facts, share) - least,
            remedy="A stiffer source, a larger feeder, or a lower limit.",
        )  # fmt: skip

    def gate(self, share: float, size: str | None = None) -> Gate:
        """Judge the share, with another `size` of run where one is named. `known` must hold."""
        sag, floor = self._with(size) if size else self.moment.sag, self.floor
        assert sag is not None
        assert floor is not None
        taken = [one.value for one in sag.rests]
        value, least = 100 * sag.stays(taken, share), floor.value
        text = f"Terminals keep {value:.1f} % of plate volts, {write(least, 3)} % asked."
        if share != 1:
            text = f"At what this start draws, t{text[1:]}"
        return at_least(
            _KEY, _NAME, value, least, sentence=text, source=floor.source, unit="%", rests=sag.rests,
            room=lambda *facts: 100 * sag.stays(facts, share) - least,
            remedy="" if size else self._remedy(share, value, least),
        )  # fmt: skip

    def _remedy(self, share: float, value: float, least: float) -> str:
        other = "A larger or shorter run, a stiffer source, or a motor that starts on less."
        if value >= least:
            return other
        found = self.size_that_holds(share)
        if found is None:
            return "No size of run alone holds it: a stiffer source, or a motor that starts on less."
        size, kept, steps = found
        count = {1: "one size up", 2: "two sizes up", 3: "three sizes up"}.get(steps, f"{steps} sizes up")
        return f"{size}, {count}, keeps {kept:.1f} %."

    def size_that_holds(self, share: float) -> tuple[str, float, int] | None:
        """The least larger size of run whose terminals keep the floor, what they keep in per cent, and how many up."""
        sag, floor, wiring = self.moment.sag, self.floor, self.wiring
        if sag is None or floor is None or wiring.size is None:
            return None
        table = load(self.rules.conductors)
        sizes = [row["size"] for row in table.rows]
        if wiring.size not in sizes:
            return None
        taken = [one.value for one in sag.rests]
        for steps, size in enumerate(sizes[sizes.index(wiring.size) + 1 :], start=1):
            other = self._with(size)
            if other is not None and (kept := 100 * other.stays(taken, share)) >= floor.value:
                return size, kept, steps
        return None

    def _with(self, size: str) -> Sag | None:
        """The same first moment with another size of run; None where that is not tabulated for its metal."""
        sag, run = self.moment.sag, self.run
        if sag is None or run is None or self.hertz is None:
            return None
        facts = replace(self.wiring, size=size)
        found = self.rules.conductor(Sheet("scratch", ""), facts, self.hertz)
        if found is None:
            return None
        now = complex(run.r.value, run.x.value) / 1000
        ways = 2.0 if sag.divisor == 1 else 1.0
        return replace(sag, run_ohm=sag.run_ohm + ways * (complex(found.r.value, found.x.value) / 1000 - now))
