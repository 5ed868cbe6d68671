"""The plate's duty against how long the load runs: a short-time machine is not for a continuous load."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, at_most, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet

_KEY, _NAME = "load.duty", "Duty of the plate and of the load"
_CYCLE_S: Final = 600.0
_REMEDY: Final = "A machine rated for how it runs: continuous duty does for every load."
_PERIODIC: Final = ("S3", "S4", "S5", "S6", "S7", "S8")
_RUNS_ON: Final = ("S6", "S7", "S8", "S9", "S10")  # it never stands still, but not at full load all the time


@dataclass(frozen=True, slots=True)
class Duty:
    """As the plate has it: `kind` S1 to S10 or empty, minutes of a short time, share of a cycle; None if not said."""

    text: str
    kind: str
    minutes: float | None
    share_pu: float | None

    @property
    def continuous(self) -> bool:
        return self.kind == "S1"


def read_duty(text: str | None) -> Duty | None:
    """None for an empty field, or one that names no duty.

    >>> read_duty("30 MIN").minutes, read_duty("S3 40 %").share_pu, read_duty("CONT").continuous
    (30.0, 0.4, True)
    """
    said = (text or "").strip().upper()
    if not said:
        return None
    kind = re.search(r"\bS\s?(10|[1-9])\b", said)
    minutes = re.search(r"(\d+(?:[.,]\d+)?)\s*(MIN|HR?S?\b|HOURS?)", said)
    share = re.search(r"(\d+(?:[.,]\d+)?)\s*%", said)
    name = f"S{kind.group(1)}" if kind else "S1" if said.startswith("CONT") else "S2" if minutes else ""
    if not name:
        return Duty(said, "S3" if said.startswith("INT") else "", None, None)
    length = None
    if minutes:
        length = float(minutes.group(1).replace(",", ".")) * (60 if minutes.group(2).startswith("H") else 1)
    part = float(share.group(1).replace(",", ".")) / 100 if share else None
    return Duty(said, name, length, part)


def duty_gate(circuit: Circuit, rules: RuleSet) -> Gate | None:
    """None where the plate names no duty or a continuous one, which does for every load."""
    duty = read_duty(circuit.plate.duty)
    if duty is None or duty.continuous or not duty.kind:
        return None
    runs, stretch = circuit.load.runs, circuit.load.stretch_s
    source = rules.papers.duty
    if runs is None and stretch is None:
        return unknown(_KEY, _NAME, ("how long the load runs",))
    if runs == "continuous":
        text = f"{duty.text}: not made to run on and on, as this load does."
        if duty.kind in _RUNS_ON:
            text = f"{duty.text}: it may run on, but not with this load all the time."
        return rule(_KEY, _NAME, False, text, source, remedy=_REMEDY)
    if duty.kind == "S2":
        return _short_time(duty, stretch, source)
    if duty.kind in _PERIODIC and runs == "short":
        return rule(_KEY, _NAME, True, f"{duty.text}: short runs with long rests are less than that.", source)
    return _periodic(circuit, duty, stretch, source)


def _short_time(duty: Duty, stretch_s: float | None, source: str) -> Gate:
    if duty.minutes is None:
        return unknown(_KEY, _NAME, ("the minutes of the plate's short-time rating",))
    if stretch_s is None:
        return unknown(_KEY, _NAME, ("how long the load runs at a stretch",))
    minutes = stretch_s / 60
    text = f"{write(minutes, 3)} min at a stretch, {write(duty.minutes)} min on the plate; cold again in between."
    return at_most(_KEY, _NAME, minutes, duty.minutes, sentence=text, source=source, unit="min", remedy=_REMEDY)


def _periodic(circuit: Circuit, duty: Duty, stretch_s: float | None, source: str) -> Gate:
    """Share of the cycle at load: of the hour between starts, else of the usual ten minutes."""
    if duty.share_pu is None:
        return unknown(_KEY, _NAME, (f"the share of its cycle that {duty.text} allows",))
    if stretch_s is None:
        return unknown(_KEY, _NAME, ("how long the load runs at a stretch",))
    starts = circuit.start.starts_per_hour
    cycle = 3600 / starts if starts else _CYCLE_S
    share = 100 * min(stretch_s / cycle, 1.0)
    text = (
        f"At load {share:.0f} % of a cycle of {write(cycle / 60, 3)} min, {write(100 * duty.share_pu)} % on the plate."
    )
    return at_most(_KEY, _NAME, share, 100 * duty.share_pu, sentence=text, source=source, unit="%", remedy=_REMEDY)
