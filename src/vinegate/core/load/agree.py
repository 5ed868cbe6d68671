"""A load's power said twice: as such, and by its torque, its flow or its pull."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Final

from vinegate.core.grade import Gate, check, rule
from vinegate.core.load.bands import WATER
from vinegate.core.load.facts import Load
from vinegate.core.numbers import write
from vinegate.core.plate.rated import Rated
from vinegate.core.quantity import GRAVITY, POWER, WATT_PER_HP
from vinegate.core.turning import Turns

_SAME: Final = 0.10  # of two figures of one thing, rounded; assumed
_EFFICIENCY: Final = (0.25, 0.95)  # of pumps, fans and winches, where it is not given; assumed


def agree_gates(facts: Load, rated: Rated) -> Iterator[Gate]:
    """Each other figure that does not go with the power that is given."""
    if facts.power_w is None or rated.speed is None:
        return
    if facts.torque_nm is not None:
        omega = rated.speed.value / (facts.gear_ratio or 1.0) * math.pi / 30
        watts = facts.torque_nm * omega
        yield from _twice(facts, rated, f"{write(facts.torque_nm, 3)} N·m at its speed are", (watts, watts))
    for said, watts in _moved(facts):
        least, most = _EFFICIENCY
        if facts.machine_efficiency_pu:
            least = most = facts.machine_efficiency_pu
        yield from _twice(facts, rated, said, (watts / most, watts / least))


def _moved(facts: Load) -> Iterator[tuple[str, float]]:
    """What leaves the driven machine, W, in words."""
    if facts.flow_m3s is not None and facts.head_m is not None:
        yield "flow and head ask", (facts.density or WATER) * GRAVITY * facts.flow_m3s * facts.head_m
    elif facts.flow_m3s is not None and facts.pressure is not None:
        yield "flow and pressure ask", facts.flow_m3s * facts.pressure
    if facts.force_n is not None and facts.line_speed_ms is not None:
        yield "pull and speed ask", facts.force_n * facts.line_speed_ms


def _twice(facts: Load, rated: Rated, said: str, band_w: tuple[float, float]) -> Iterator[Gate]:
    given, (low, high) = facts.power_w or 0.0, band_w
    if low / (1 + _SAME) <= given <= high * (1 + _SAME):
        return
    unit, per = ("hp", WATT_PER_HP) if rated.power is not None and rated.power.unit == "hp" else ("kW", 1000.0)
    near = low if given < low else high
    text = f"{write(given / per, 3)} {unit} given; {said} {write(near / per, 3)} {unit}"
    text += "." if low == high else f" at {'least' if given < low else 'most'}."
    key, name, source = "load.twice", "Power said twice agrees", "P = T·ω; ρ·g·Q·H; F·v"
    remedy = "Read both again; the shaft power is the one that is used."
    if not POWER.least <= near <= POWER.most:
        yield rule(key, name, False, f"{text} No such machine is planned here.", source, remedy=remedy)
        return
    turns = Turns(path="load.power", label="shaft power asked", passes=f"near {write(near / per, 3)} {unit}",
                  passes_as=f"{write(near / per, 4)} {unit}")  # fmt: skip
    yield check(key, name, turns, f"{text} Passes for {turns.label} {turns.passes}.", source, remedy=remedy)
