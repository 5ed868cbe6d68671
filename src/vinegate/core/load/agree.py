"""A load's power said twice: as such, by its torque, its points, its flow or its pull."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Final, NamedTuple

from vinegate.core.grade import Gate, check, rule
from vinegate.core.load.bands import WATER, points_nm
from vinegate.core.load.facts import Load
from vinegate.core.numbers import write
from vinegate.core.plate.rated import Rated
from vinegate.core.quantity import GRAVITY, POWER, WATT_PER_HP
from vinegate.core.turning import Turns

_SAME: Final = 0.10  # of two figures of one thing, rounded; assumed
_EFFICIENCY: Final = (0.25, 0.95)  # of pumps, fans and winches, where it is not given; assumed


def agree_gates(facts: Load, rated: Rated) -> Iterator[Gate]:
    """Each other figure that does not go with the power that is given, or with the torque where that is not."""
    if rated.speed is None or (facts.power_w is None and facts.torque_nm is None):
        return
    omega = rated.speed.value / (facts.gear_ratio or 1.0) * math.pi / 30
    by_torque = facts.torque_nm * omega if facts.torque_nm is not None else None
    given = _of_power(facts.power_w, rated) if facts.power_w is not None else _of_torque(facts.torque_nm or 0.0, omega)
    if facts.power_w is not None and by_torque is not None:
        yield from _twice(given, f"{write(facts.torque_nm or 0.0, 3)} N·m at its speed are", (by_torque, by_torque))
    full_nm = points_nm(facts, rated.speed.value)
    if full_nm is not None:
        watts = full_nm * omega
        yield from _twice(given, f"{write(full_nm, 3)} N·m of its points at full speed are", (watts, watts))
    for said, watts in _moved(facts):
        least, most = _EFFICIENCY
        if facts.machine_efficiency_pu:
            least = most = facts.machine_efficiency_pu
        yield from _twice(given, said, (watts / most, watts / least))


class _Given(NamedTuple):
    """What the sheet works with: its field, its watts, how many a unit of it is."""

    path: str
    label: str
    watts: float
    unit: str
    per: float


def _of_power(watts: float, rated: Rated) -> _Given:
    unit, per = ("hp", WATT_PER_HP) if rated.power is not None and rated.power.unit == "hp" else ("kW", 1000.0)
    return _Given("load.power", "shaft power asked", watts, unit, per)


def _of_torque(torque_nm: float, omega: float) -> _Given:
    return _Given("load.torque", "torque asked", torque_nm * omega, "N·m", omega)


def _moved(facts: Load) -> Iterator[tuple[str, float]]:
    """What leaves the driven machine, W, in words."""
    if facts.flow_m3s is not None and facts.head_m is not None:
        yield "flow and head ask", (facts.density or WATER) * GRAVITY * facts.flow_m3s * facts.head_m
    elif facts.flow_m3s is not None and facts.pressure is not None:
        yield "flow and pressure ask", facts.flow_m3s * facts.pressure
    if facts.force_n is not None and facts.line_speed_ms is not None:
        yield "pull and speed ask", facts.force_n * facts.line_speed_ms


def _twice(given: _Given, said: str, band_w: tuple[float, float]) -> Iterator[Gate]:
    low, high = band_w
    if low / (1 + _SAME) <= given.watts <= high * (1 + _SAME):
        return
    near, unit, per = low if given.watts < low else high, given.unit, given.per
    text = f"{write(given.watts / per, 3)} {unit} given; {said} {write(near / per, 3)} {unit}"
    text += "." if low == high else f" at {'least' if given.watts < low else 'most'}."
    key, name, source = "load.twice", "Power said twice agrees", "P = T·ω; ρ·g·Q·H; F·v"
    remedy = f"Read both again; the {given.label} is what is used."
    if not POWER.least <= near <= POWER.most:
        yield rule(key, name, False, f"{text} No such machine is planned here.", source, remedy=remedy)
        return
    turns = Turns(path=given.path, label=given.label, passes=f"near {write(near / per, 3)} {unit}",
                  passes_as=f"{write(near / per, 4)} {unit}")  # fmt: skip
    yield check(key, name, turns, f"{text} Passes for {turns.label} {turns.passes}.", source, remedy=remedy)
