"""Does the frame go with the power and the poles?"""

from __future__ import annotations

import re
from functools import partial
from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.gate import Gate, Verdict
from vinegate.core.plate.kind import Family
from vinegate.core.plate.rated import Rated
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.tables import Table, load

_NEAR: Final = 0.03
# Shaft-height families, in order: NEMA's first two digits of a T frame, IEC's millimetres.
_NEMA_STEPS: Final = ("14", "18", "21", "25", "28", "32", "36", "40", "44")
_IEC_STEPS: Final = ("71", "80", "90", "100", "112", "132", "160", "180", "200", "225", "250", "280", "315")


def frame_gate(circuit: Circuit, rated: Rated) -> Gate | None:
    """Frame against power and poles, for integral three-phase cage machines; None where nothing is tabulated.

    NEMA MG 13 for T frames, EN 50347 for IEC frames. Another frame is no error: the gate is ajar, never shut.
    """
    plate = circuit.plate
    if plate.family is not Family.CAGE or not plate.frame or plate.power_w is None or rated.synchronous is None:
        return None
    assert rated.frequency is not None
    poles = round(120 * rated.frequency.value / rated.synchronous.value)
    nema = re.match(r"\s*(\d{3})\s*[A-Z]*T", plate.frame, re.I)
    iec = re.match(r"\s*(\d{2,3})\s*(?:[SML]|$)", plate.frame, re.I)
    if nema:
        return _judge(plate.frame, nema[1][:2], poles, plate.power_w / WATT_PER_HP, load("frame_nema"), "hp")
    if iec:
        return _judge(plate.frame, iec[1], poles, plate.power_w / 1000, load("frame_iec"), "kW")
    return None


def _judge(frame: str, stamped: str, poles: int, power: float, table: Table, unit: str) -> Gate | None:
    steps, most_apart = (_NEMA_STEPS, 0) if unit == "hp" else (_IEC_STEPS, 1)
    row = min(table.rows, key=lambda candidate: abs(float(candidate[unit.lower()]) - power))
    usual = row.get(str(poles)) or ""
    step = usual[:2] if unit == "hp" else usual
    if abs(float(row[unit.lower()]) / power - 1) > _NEAR or not usual or stamped not in steps:
        return None
    apart = steps.index(stamped) - steps.index(step)
    said = f"{row[unit.lower()]} {unit} with {poles} poles"
    common = partial(Gate, key="plate.frame", name="Frame goes with power and poles", source=table.cite)
    if abs(apart) <= most_apart:
        return common(verdict=Verdict.OPEN, sentence=f"{frame}: usual for {said}.")
    at = [key for key in ("2", "4", "6", "8") if (row[key][:2] if unit == "hp" else row[key]) == stamped]
    other = f" {frame} would be usual with {' or '.join(at)} poles." if at else ""
    text = f"{said[0].upper()}{said[1:]} is usually frame {usual}: frame {frame} and the pole count disagree.{other}"
    return common(verdict=Verdict.AJAR, sentence=text, remedy="Read frame, speed and frequency again.")
