"""A maker's curve as pasted or loaded from a CSV: speed, torque, current and, where given, power factor."""

from __future__ import annotations

import itertools
import math
import re
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.heads import PERCENT, RPM, TIMES, TORQUES, columns, unit_of
from vinegate.core.machine.simple import RatedPoint
from vinegate.core.machine.tabulated import Tabulated, tabulate
from vinegate.core.numbers import QuantityError, read_rows
from vinegate.core.records import dataclass, replace

LEAST_POINTS: Final = 5
_PERCENT_FROM: Final = 1.5
_WINDING: Final = 0.5
_WINDING_ENDS: Final = (0.35, 0.7)
"""Of that rest: what goes with the square of the amperes, and between what it lies; assumed."""
_LEAST_REST: Final = 0.2  # of the rated loss, beside the slip's; assumed
_MARKS: Final = (";", "\t", ",")
_HEADS: Final = (
    ("power_factor", re.compile(r"power.?factor|cos|^pf\b", re.I)),
    ("speed", re.compile(r"speed|rpm|r/min|1/min|min-1|drehzahl|syn|^%?\s*n(?:\b|_|/)", re.I)),
    ("torque", re.compile(r"torque|moment|^%?\s*[tm](?:\b|_|/)|\bk?n[·.* -]?m\b|"
                          r"\b(?:lb|ft)[a-z]*[·.* -]{0,2}(?:lb|ft)|flt", re.I)),
    ("current", re.compile(r"current|amp|strom|^%?\s*i(?:\b|_|/)|^k?a$|fl[ac]\b", re.I)),
)  # fmt: skip
_SLIP: Final = re.compile(r"slip|schlupf|^s\b", re.I)


@dataclass(frozen=True, slots=True)
class Column:
    """Values as written, and the unit its head names: `rpm`, `N·m`, `kN·m`, `lb-ft`, `A`, `kA`, `×` or `%`."""

    values: tuple[float, ...]
    unit: str


@dataclass(frozen=True, slots=True)
class MakerCurve:
    """A curve with its units as the file has them; `power_factor` is None where it has no such column."""

    text: str
    speed: Column
    torque: Column
    current: Column
    power_factor: Column | None


def read_curve(text: str) -> MakerCurve:
    """Read a table: a head naming the columns with their units, then rows along the speed. Raises QuantityError.

    Separated by commas, semicolons, tabs or blanks; a decimal comma is understood beside all but commas. Slip stands
    for speed, and the rows may begin at the top.

    >>> c = read_curve("speed_rpm;torque_%;current_A\\n0;150;480\\n4;130;47\\n8;140;44\\n11;230;30\\n12;1;9,2")
    >>> c.torque.unit, c.current.values[0]
    ('%', 480.0)
    """
    rows = [line for line in re.split(r"[\r\n]+", text.strip()) if line.strip()]
    mark = next((sign for sign in _MARKS if rows and sign in rows[0]), None)
    heads = [head.strip() for head in (rows[0].split(mark) if mark else columns(rows[0]))] if rows else []
    places = _places(heads)
    if not places:
        raise QuantityError("A curve is a table: a head like speed (rpm), torque (N·m), current (A), then its rows.")
    absent = [name for name in ("speed", "torque", "current") if name not in places]
    if absent:
        raise QuantityError(f"The curve's head does not name {' and '.join(absent)}: write it like current (A).")
    if len(rows) - 1 < LEAST_POINTS:
        raise QuantityError(f"{len(rows) - 1} rows are too few for a curve: {LEAST_POINTS} at least.")
    texts = [_row(line, mark, number, len(heads)) for number, line in enumerate(rows[1:], start=2)]
    cells = read_rows(texts, "the curve", first=2)
    found = {
        name: Column(tuple(row[place] for row in cells), unit_of(heads[place], _UNITS[name], f"the curve's {name}"))
        for name, place in places.items()
    }
    if _SLIP.search(heads[places["speed"]]):
        found["speed"] = _of_slip(found["speed"])
    if found["speed"].values[0] > found["speed"].values[-1]:
        found = {name: Column(one.values[::-1], one.unit) for name, one in found.items()}
    if any(later <= earlier for earlier, later in itertools.pairwise(found["speed"].values)):
        raise QuantityError("The curve's speeds do not rise from row to row.")
    if min(found["torque"].values) < 0 or min(found["current"].values) < 0:
        raise QuantityError("Torque and current of the curve are not below zero.")
    return MakerCurve(text, found["speed"], found["torque"], found["current"], found.get("power_factor"))


def _places(heads: list[str]) -> dict[str, int]:
    """Of each column the first head that names it, slip where none names a speed."""
    found: dict[str, int] = {}
    for name, pattern in (*_HEADS, ("speed", _SLIP)):
        free = (at for at, head in enumerate(heads) if at not in found.values() and pattern.search(head))
        if name not in found and (at := next(free, None)) is not None:
            found[name] = at
    return found


def _of_slip(slip: Column) -> Column:
    """Speed as a share of the synchronous one."""
    whole = 100.0 if slip.unit == "%" else 1.0
    if max(slip.values) > 2 * whole:
        raise QuantityError(f"A slip of {max(slip.values):g} is past standstill: in percent, name its head slip_%.")
    return Column(tuple(1 - one / whole for one in slip.values), "×")


def _row(line: str, mark: str | None, number: int, count: int) -> list[str]:
    cells = line.split(mark)
    if len(cells) < count:
        raise QuantityError(f"Row {number} of the curve has {len(cells)} cells, its head {count}.")
    return cells[:count]


_SHARE: Final = (PERCENT, ("×", r"×|x|pu|p\.u\.?|times|per unit|[mtin]_?[ns]"))
_UNITS: Final = {
    "speed": ((RPM[0], rf"|{RPM[1]}|speed|n|drehzahl"), *_SHARE, ("slip", "s|slip|schlupf")),
    "torque": ((TORQUES[0][0], rf"|{TORQUES[0][1]}|torque|moment|drehmoment|t|m"), *TORQUES[1:], *_SHARE),
    "current": (("A", r"|a|amps?|amperes?|arms|current|strom|i"), ("kA", r"ka"), *_SHARE),
    "power_factor": (("", r"|-|1|cos|cosφ|cosphi|φ|phi|pf|power factor|factor"), *_SHARE),
}  # fmt: skip
"""Of each column, the first where none is written."""


def _scaled(column: Column, rated: float) -> Array:
    """In rpm, N·m or A, of a share of what is rated."""
    shares = {"%": rated / 100, "×": rated}
    return np.array(column.values) * shares.get(column.unit, TIMES.get(column.unit, 1.0))


def to_machine(curve: MakerCurve, rated: RatedPoint, *, top_rpm: float, slips: bool, phase_factor: float) -> Tabulated:
    """The curve as a machine: closed at the speed where torque ends. `slips` where that is its synchronous speed."""
    speed = _scaled(curve.speed, top_rpm)
    torque, current = _scaled(curve.torque, rated.torque_nm), _scaled(curve.current, rated.current_a)
    if speed[-1] < top_rpm * 0.9999:
        speed, torque = np.append(speed, top_rpm), np.append(torque, 0.0)
        current = np.append(current, 0.4 * current[-1])
    if curve.power_factor is not None:
        values = np.array(curve.power_factor.values)
        factor = np.append(values / (100 if values.max() > _PERCENT_FROM else 1), 0.1)[: speed.size]
    elif slips:
        takes = phase_factor * rated.volts_v * np.maximum(current, 1e-9)
        factor = _asked_w(rated, torque, current, top_rpm) / takes
    else:
        factor = np.full_like(speed, rated.power_factor)
    return tabulate(
        speed=speed,
        torque=torque,
        current=current,
        power_factor=np.clip(factor, 0.02, 1),
        volts_v=rated.volts_v,
        frequency_hz=rated.frequency_hz,
        top_rpm=top_rpm,
        phase_factor=phase_factor,
        rated_loss_w=rated.loss_w,
    )


def factor_between(
    curve: MakerCurve, rated: RatedPoint, *, top_rpm: float, phase_factor: float, losses: tuple[float, float]
) -> tuple[float, float]:
    """Ends of its power factor at rest where it has none: by losses between so many times those taken and by what of
    them is the winding's, apart, by the root of squares.
    """
    torque, current = _scaled(curve.torque, rated.torque_nm)[:1], _scaled(curve.current, rated.current_a)[:1]

    def factor(times: float = 1.0, winding: float = _WINDING) -> float:
        lost = replace(rated, loss_w=times * rated.loss_w)
        asked_w = float(_asked_w(lost, torque, current, top_rpm, winding)[0])
        return asked_w / (phase_factor * rated.volts_v * max(float(current[0]), 1e-9))

    taken = factor()
    below, above = (
        math.hypot(factor(times) - taken, factor(winding=winding) - taken)
        for times, winding in zip(losses, _WINDING_ENDS, strict=True)
    )
    return max(taken - below, 0.02), min(taken + above, 1.0)


def _asked_w(rated: RatedPoint, torque: Array, current: Array, top_rpm: float, winding: float = _WINDING) -> Array:
    """Input by torque and amperes, W: what crosses the gap, `T·ω_s`, and the stator's loss. Of the rated loss that slip
    does not explain, `winding` goes with the square of the amperes and the rest is constant.
    """
    slipping_w = rated.power_w * (top_rpm / rated.speed_rpm - 1)
    rest_w = max(rated.loss_w - slipping_w, _LEAST_REST * rated.loss_w)
    grows = 1 - winding + winding * (current / rated.current_a) ** 2
    return np.asarray(torque * top_rpm * math.pi / 30 + rest_w * grows)
