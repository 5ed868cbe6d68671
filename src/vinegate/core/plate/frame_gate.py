"""Does the frame go with the power and the poles?"""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, Verdict, check, rule
from vinegate.core.plate.enclosed import enclosure_row
from vinegate.core.plate.kind import Family
from vinegate.core.plate.rated import Rated
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.tables import Table, load
from vinegate.core.turning import Turns

_NEAR: Final = 0.03
# Shaft-height families, in order: NEMA's first two digits of a T frame, IEC's millimetres.
_SMALL_FRAMES: Final = ("42", "48", "56")
_SMALL_FRAME_W: Final = 2.3e3  # the largest ratings made in frame 56 are about 3 hp
_TOO_SMALL: Final = 3  # steps below the usual frame that no machine of the power fits
_NEMA_STEPS: Final = ("14", "18", "21", "25", "28", "32", "36", "40", "44")
_IEC_STEPS: Final = ("71", "80", "90", "100", "112", "132", "160", "180", "200", "225", "250", "280", "315")


def plain(frame: str) -> str:
    """A designation without blanks and its words.

    >>> plain("Frame 256-T"), plain("NEMA 405T"), plain("IEC 132 S")
    ('256T', '405T', '132S')
    """
    return re.sub(r"^(?:NEMA|IEC)?(?:FRAME|FR)?(?:SIZE)?", "", re.sub(r"[\s.:-]", "", frame.upper()))


def frame_gate(circuit: Circuit, rated: Rated) -> Gate | None:
    """Frame against power and poles, for integral three-phase cage machines; None where nothing is tabulated.

    NEMA MG 13 for T frames, EN 50347 for IEC frames. A larger frame is no error, nor one a little smaller; one
    much too small is.
    """
    plate = circuit.plate
    if plate.family is not Family.CAGE or not plate.frame or plate.power_w is None or rated.synchronous is None:
        return None
    assert rated.frequency is not None
    poles = round(120 * rated.frequency.value / rated.synchronous.value)
    said = plain(plate.frame)
    nema = re.match(r"(\d{3})[A-Z]*T", said)
    iec = re.match(r"(\d{2,3})(?:[SML]|$)", said)
    small = re.match(r"(\d{2})(?!\d)", said)
    if small and small[1] in _SMALL_FRAMES:
        return _small(plate.frame, plate.power_w)
    if nema:
        found = [_judge(plate.frame, nema[1][:2], poles, plate.power_w / WATT_PER_HP, load(table), "hp")
                 for table in _nema_tables(plate.enclosure)]  # fmt: skip
        return next((gate for gate in found if gate is None or gate.verdict is Verdict.PASSES), found[0])
    if iec:
        return _judge(plate.frame, iec[1], poles, plate.power_w / 1000, load("frame_iec"), "kW")
    return None


def _nema_tables(enclosure: str | None) -> tuple[str, ...]:
    """Open machines of two poles and of large ratings stand a frame lower; one of which nothing is said may be either.

    >>> _nema_tables("ODP"), _nema_tables("TEFC"), len(_nema_tables(None))
    (('frame_nema_open',), ('frame_nema',), 2)
    """
    row = enclosure_row(enclosure)
    if row is None:
        return "frame_nema", "frame_nema_open"
    return ("frame_nema_open",) if row["open"] == "yes" else ("frame_nema",)


_KEY: Final = "plate.frame"
_NAME: Final = "Frame goes with power and poles"
_REMEDY: Final = "Read frame, speed and frequency again."


def _small(frame: str, power_w: float) -> Gate | None:
    """Frames 42 to 56 hold fractional machines, up to about 3 hp."""
    if power_w <= _SMALL_FRAME_W:
        return None
    text = f"Frame {frame} is of machines up to about 3 hp: {power_w / WATT_PER_HP:.0f} hp does not fit it."
    return rule(
        _KEY, _NAME, False, text, "NEMA MG 1:2021 4.2: shaft height is the frame number over 16", remedy=_REMEDY
    )


def _judge(frame: str, stamped: str, poles: int, power: float, table: Table, unit: str) -> Gate | None:
    steps, most_apart = (_NEMA_STEPS, 0) if unit == "hp" else (_IEC_STEPS, 1)
    row = min(table.rows, key=lambda candidate: abs(float(candidate[unit.lower()]) - power))
    usual = row.get(str(poles)) or ""
    step = usual[:2] if unit == "hp" else usual
    if abs(float(row[unit.lower()]) / power - 1) > _NEAR or not usual or stamped not in steps:
        return None
    apart = steps.index(stamped) - steps.index(step)
    said = f"{row[unit.lower()]} {unit} with {poles} poles"
    if abs(apart) <= most_apart:
        return rule(_KEY, _NAME, True, f"{frame}: usual for {said}.", table.cite)
    at = [key for key in ("2", "4", "6", "8") if (row[key][:2] if unit == "hp" else row[key]) == stamped]
    other = f" {frame} would be usual with {' or '.join(at)} poles." if at else ""
    text = f"{said[0].upper()}{said[1:]} is usually frame {usual}: frame {frame} and the pole count disagree.{other}"
    if apart <= -_TOO_SMALL:
        return rule(_KEY, _NAME, False, text, table.cite, remedy=_REMEDY)
    smallest = steps[max(steps.index(step) - _TOO_SMALL, 0)]
    too_small = smallest if steps.index(step) >= _TOO_SMALL else ""
    as_typed = f"{too_small}4T" if unit == "hp" and too_small else too_small
    turns = Turns(
        path="plate.frame", label="frame", passes=usual, fails=f"{too_small} or smaller" if too_small else "",
        passes_as=usual, fails_as=as_typed,
    )  # fmt: skip
    return check(_KEY, _NAME, turns, f"{text} Passes for frame {usual}; {frame} given.", table.cite, remedy=_REMEDY)
