"""A COMTRADE configuration file, line by line: 1991, 1999 and 2013 (IEEE C37.111, IEC 60255-24).

The order of fields is to be held against the print of each edition.
"""

from __future__ import annotations

import math
import re
from typing import Final

from vinegate.core.capture.recording import CaptureError, bounded
from vinegate.core.records import dataclass

EDITIONS: Final = ("1991", "1999", "2013")
KINDS: Final = ("ASCII", "BINARY", "BINARY32", "FLOAT32")
_PART: Final = ".CFG"
_MOST_LINES: Final = 4000


@dataclass(frozen=True, slots=True, kw_only=True)
class Analog:
    """Value = a·x + b in `unit`; `skew_us` after the sample's time; `times` from what is written to primary."""

    name: str
    phase: str
    unit: str
    a: float
    b: float
    skew_us: float
    times: float
    ask_ratio: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Configuration:
    station: str
    edition: str
    analogs: tuple[Analog, ...]
    digitals: tuple[str, ...]
    hertz: float | None
    rates: tuple[tuple[float, int], ...]
    """Rate and the number of its last sample; a rate of 0 where time stamps count."""
    samples: int
    started: str
    trigger: str
    kind: str
    time_times: float

    @property
    def stamp_s(self) -> float:
        """Seconds of one step of the time stamps: µs, or ns where the date has nine digits of a second."""
        fine = bool(re.search(r"\.\d{9}$", self.started))
        return (1e-9 if fine else 1e-6) * self.time_times


class _Lines:
    """The file's lines, taken one by one, with fields that know where they stand."""

    def __init__(self, text: str) -> None:
        self.lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
        if len(self.lines) > _MOST_LINES:
            raise CaptureError("more lines than a configuration has.", part=_PART)
        self.at = 0

    def next(self, what: str, least: int = 1) -> list[str]:
        if self.at >= len(self.lines) or (not self.lines[self.at].strip() and self.at == len(self.lines) - 1):
            raise CaptureError(f"it ends before {what}.", part=_PART, line=self.at + 1)
        fields = [one.strip() for one in self.lines[self.at].split(",")]
        self.at += 1
        if len(fields) < least:
            raise CaptureError(f"{what} has {len(fields)} fields where {least} belong.", part=_PART, line=self.at)
        return fields

    def left(self) -> bool:
        return any(line.strip() for line in self.lines[self.at :])

    def number(self, fields: list[str], place: int, what: str) -> float:
        text = fields[place] if place < len(fields) else ""
        column = 1 + sum(len(one) + 1 for one in fields[:place])
        try:
            value = float(text)
        except ValueError:
            raise CaptureError(
                f"{what} is “{text[:40]}”, no number.", part=_PART, line=self.at, column=column
            ) from None
        if not math.isfinite(value):
            raise CaptureError(f"{what} is {text}.", part=_PART, line=self.at, column=column)
        return value

    def whole(self, fields: list[str], place: int, what: str, ending: str = "") -> int:
        text = fields[place] if place < len(fields) else ""
        column = 1 + sum(len(one) + 1 for one in fields[:place])
        plain = text.upper().removesuffix(ending) if ending else text
        if not re.fullmatch(r"\d{1,10}", plain) or (ending and not text.upper().endswith(ending)):
            raise CaptureError(f"{what} is “{text[:40]}”, not a count{' and ' + ending if ending else ''}.", part=_PART,
                               line=self.at, column=column)  # fmt: skip
        return int(plain)


def read_configuration(text: str) -> Configuration:
    """Raises CaptureError with line and column; nothing is guessed silently."""
    lines = _Lines(text.lstrip("\ufeff"))
    head = lines.next("the station", 2)
    edition = head[2] if len(head) > 2 and head[2] else "1991"
    if edition not in EDITIONS:
        raise CaptureError(f"revision “{edition[:20]}” is none of {', '.join(EDITIONS)}.", part=_PART, line=1)
    counts = lines.next("the counts of channels", 3)
    total, analog, digital = (lines.whole(counts, place, what, ending) for place, what, ending in (
        (0, "the number of channels", ""), (1, "the number of analog channels", "A"),
        (2, "the number of status channels", "D")))  # fmt: skip
    if total != analog + digital:
        raise CaptureError(f"{total} channels are said, {analog} and {digital} listed.", part=_PART, line=2)
    bounded(0, total)
    analogs = tuple(_analog(lines, number, edition) for number in range(1, analog + 1))
    digitals = tuple(_digital(lines, number, edition) for number in range(1, digital + 1))
    twice = {one.name for one in analogs if [other.name for other in analogs].count(one.name) > 1} - {""}
    if twice:
        raise CaptureError(f"two channels are called “{min(twice)}”.", part=_PART)
    line_hz = lines.next("the line frequency")
    hertz = lines.number(line_hz, 0, "the line frequency") if line_hz[0] else None
    rates, samples = _rates(lines)
    bounded(samples, total)
    started, trigger = ",".join(lines.next("the first sample's time")), ",".join(lines.next("the trigger's time"))
    kind = lines.next("the kind of data")[0].upper()
    if kind not in KINDS or (kind in KINDS[2:] and edition != "2013"):
        raise CaptureError(f"data are “{kind[:20]}”, which edition {edition} does not have.", part=_PART, line=lines.at)
    times = 1.0
    if edition != "1991" and lines.left():
        times = lines.number(lines.next("the time multiplier"), 0, "the time multiplier")
        if times <= 0:
            raise CaptureError("the time multiplier is not above nought.", part=_PART, line=lines.at)
    return Configuration(
        station=head[0], edition=edition, analogs=analogs, digitals=digitals, hertz=hertz or None, rates=rates,
        samples=samples, started=started, trigger=trigger, kind=kind, time_times=times,
    )  # fmt: skip


def _analog(lines: _Lines, number: int, edition: str) -> Analog:
    least = 10 if edition == "1991" else 13
    fields = lines.next(f"analog channel {number}", least)
    if len(fields) > 13:
        raise CaptureError(f"analog channel {number} has {len(fields)} fields: a comma in a name, or a decimal comma.",
                           part=_PART, line=lines.at)  # fmt: skip
    if lines.whole(fields, 0, "its number") != number:
        raise CaptureError(f"channel {fields[0]} stands where {number} belongs.", part=_PART, line=lines.at)
    a, b = lines.number(fields, 5, "a"), lines.number(fields, 6, "b")
    if a == 0:
        raise CaptureError("a is nought: every sample would be the same.", part=_PART, line=lines.at)
    skew = lines.number(fields, 7, "the skew") if fields[7] else 0.0
    times, ask = 1.0, True
    if len(fields) >= 13:
        primary, secondary = lines.number(fields, 10, "the primary"), lines.number(fields, 11, "the secondary")
        side = fields[12].upper()
        if side not in ("P", "S"):
            raise CaptureError(f"“{fields[12][:10]}” is neither P nor S.", part=_PART, line=lines.at)
        if secondary == 0:
            raise CaptureError("the secondary is nought.", part=_PART, line=lines.at)
        times = primary / secondary if side == "S" else 1.0
        ask = primary == secondary
    return Analog(name=fields[1], phase=fields[2], unit=fields[4], a=a, b=b, skew_us=skew, times=times, ask_ratio=ask)


def _digital(lines: _Lines, number: int, edition: str) -> str:
    fields = lines.next(f"status channel {number}", 3 if edition == "1991" else 5)
    if lines.whole(fields, 0, "its number") != number:
        raise CaptureError(f"channel {fields[0]} stands where {number} belongs.", part=_PART, line=lines.at)
    return fields[1]


def _rates(lines: _Lines) -> tuple[tuple[tuple[float, int], ...], int]:
    count = lines.whole(lines.next("the number of rates"), 0, "the number of rates")
    if count > 100:
        raise CaptureError(f"{count} rates are more than 100.", part=_PART, line=lines.at)
    found, last = [], 0
    for _ in range(max(count, 1)):
        fields = lines.next("a rate and its last sample", 2)
        rate, ends = lines.number(fields, 0, "the rate"), lines.whole(fields, 1, "the last sample")
        if rate < 0 or ends < last or (count and rate == 0):
            raise CaptureError("rates rise to their last samples, and are above nought.", part=_PART, line=lines.at)
        found.append((rate, ends))
        last = ends
    return tuple(found), last
