"""The overload's class against the start it has to hold and the stall it has to end."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.grade import Gate, Verdict, at_most, confirm, informs, resting, unknown, worst
from vinegate.core.machine.promise import strength
from vinegate.core.numbers import write
from vinegate.core.plate.protector import bears_a_stall
from vinegate.core.protection.need import Need
from vinegate.core.records import replace
from vinegate.core.remedy import either
from vinegate.core.start.trace import running
from vinegate.core.start.way import Windings
from vinegate.core.tables.trip_class import classes, trip_class
from vinegate.core.turning import Taken, Turns, less

_COMMON: Final = ("10A", "10", "20", "30", "40")
_QUICKEST: Final = "10"
_SURER: Final = "20"
_LONG_S: Final = 3600.0
_HANGS_PCT: Final = 1e6
_WHOLE_PCT: Final = 100.0
_ASK: Final = "Get the machine's safe stall time"


Along = tuple[Array, Array]
"""Times and amperes along a start."""


def heat_pct(need: Need, name: str, setting_a: float, along: Along | None = None) -> float | None:
    """Heat of the quickest relay of a class after the start, in percent of that at which it trips; `along` other times
    and amperes than are simulated.

    Warm from the starts before, as many an hour as are asked: each leaves `e^(−T/τ)` of its heat to the next.
    """
    detail, used = need.detail, need.used
    if detail is None or used is None or used.time_s is None:
        return None
    time, seen = along if along is not None else (np.array(detail.time_s), np.array(detail.motor_a))
    longer = float(time[-1]) / detail.time_s[-1] if detail.time_s[-1] else 1.0
    star_s = used.changes_at_s if need.way.windings is Windings.WYE else None
    if need.circuit.protection.overload_place == "delta" and star_s is not None:
        seen = np.where(time < longer * star_s, seen * 3**0.5, seen)
    square = np.asarray((seen / setting_a) ** 2)
    found = trip_class(name)
    cold = float(100 * found.heat_along(time, running(time, square)).max())
    starts = need.circuit.start.starts_per_hour
    left = found.left_pu(3600 / starts) if starts else 0.0
    return cold / (1 - left)


def advised_class(need: Need, setting_a: float) -> tuple[str, Gate]:
    """The quickest class from 10 on that holds the start, or while that is not known; the slowest where none does.

    Class 20, for which usual machines are made, where 10 holds it only as it is taken and 20 surely does, and ends a
    stall as well. The same relay holds the start past a drive and on the standby. With its gate.
    """
    name, gate = _class_for(need, setting_a)
    there = [(one, _class_for(one, setting_a)[0]) for one in need.everywhere[1:]]
    held = [one_class for one, one_class in there if (heat_pct(one, one_class, setting_a) or 0.0) <= _WHOLE_PCT]
    slower = max([name, *held], key=_COMMON.index)
    return (name, gate) if slower == name else (slower, class_gate(need, slower, setting_a))


def _class_for(need: Need, setting_a: float) -> tuple[str, Gate]:
    """For one start of its own."""
    name = _least_class(need, setting_a)
    gate = class_gate(need, name, setting_a)
    if name != _QUICKEST or gate.verdict is Verdict.PASSES:
        return name, gate
    surer = class_gate(need, _SURER, setting_a)
    stalls, later = (worst(_stalls(need, one, setting_a)) for one in (_QUICKEST, _SURER))
    better = surer.verdict.rank < gate.verdict.rank and later.rank <= stalls.rank
    return (_SURER, surer) if better else (name, gate)


def _least_class(need: Need, setting_a: float) -> str:
    for name in _COMMON[1:]:
        share = heat_pct(need, name, setting_a)
        if share is None or share <= _WHOLE_PCT:
            return name
    return _COMMON[-1]


def class_gate(need: Need, name: str, setting_a: float) -> Gate:
    key, title = "protection.class", "Trip class holds the start"
    share, load = heat_pct(need, name, setting_a), need.load
    if share is None or load is None:
        gate = unknown(key, title, need.course_lacks)
        return informs(gate) if need.impossible or need.fails_to_start else gate
    text = (
        f"Class {name}: the start uses {write(share, 2)} % of the quickest relay's heat, warm from the starts before."
    )
    used = need.used
    heats = used.heats if used is not None else (1.0, 1.0)
    ramps = used is not None and used.held_by_ramp
    asks = (load.inertia, load.rotor, load.power)
    rests = less(*asks) if ramps else less(*asks, strength(need.promise, heats))

    def room(inertia: float, rotor: float, power: float, times: float = 1.0) -> float:
        if ramps:
            along = _up_the_ramp(need, load.inertia_times(inertia, rotor), power)
            return -_HANGS_PCT if along is None else 100.0 - (heat_pct(need, name, setting_a, along) or 0.0)
        left = 1 - (used.load_share * (power / load.power.value - 1) if used and load.power.value else 0.0)
        if left <= 0:
            return -_HANGS_PCT
        longer = load.inertia_times(inertia, rotor) * times / left
        heat = share if longer == 1.0 else heat_pct(need, name, setting_a, _so_long(need, longer))
        return 100.0 - (heat if heat is not None else _HANGS_PCT)

    return at_most(
        key, title, share, 100.0, sentence=text, source="IEC 60947-4-1:2018 table 3", unit="%", rests=rests, room=room,
        remedy=either(slower_than(name), "a quicker start"),
    )  # fmt: skip


def _so_long(need: Need, longer: float) -> Along | None:
    """The same amperes for so many times as long."""
    detail = need.detail
    return None if detail is None else (longer * np.array(detail.time_s), np.array(detail.motor_a))


def _up_the_ramp(need: Need, heavier: float, power: float) -> Along | None:
    """A ramp with another inertia and load. Held by its rate it lasts as long, with torque `J·dω/dt + T_L` and amperes
    by `I² = I_0² + k²·T²`, the two constants as simulated; held by its limit longer than that its torque stays, and it
    gains what the load leaves. None where it hangs.
    """
    assert need.detail is not None
    assert need.load is not None
    detail, asked = need.detail, need.load.power.value
    torque, load, amps = (np.array(one) for one in (detail.torque_nm, detail.load_nm, detail.motor_a))
    turned, gained = load * (power / asked if asked else 1.0), np.maximum(torque - load, 0.0)
    if not _past_its_ramp(need):
        return np.array(detail.time_s), _amps_at(turned + heavier * gained, torque, amps)
    gains = torque - turned
    if float(gains.min()) <= 0:
        return None
    took = np.diff(detail.time_s) * heavier * ((gained[:-1] + gained[1:]) / (gains[:-1] + gains[1:]))
    return np.concatenate([[0.0], np.cumsum(took)]), amps


def _past_its_ramp(need: Need) -> bool:
    """Whether its limit makes it longer than the ramp that is asked."""
    assert need.detail is not None
    asked_s = need.circuit.start.up_s * need.detail.speed_pct[-1] / 100
    return need.detail.time_s[-1] > _LONGER * asked_s


def _amps_at(other: Array, torque: Array, amps: Array) -> Array:
    """Of other torques than those simulated."""
    most, least = int(np.argmax(torque)), int(np.argmin(torque))
    apart = float(torque[most] ** 2 - torque[least] ** 2)
    if apart < _ALIKE * float(torque[most] ** 2):
        return np.asarray(amps * other / np.maximum(torque, 1e-9))
    slope = float(amps[most] ** 2 - amps[least] ** 2) / apart
    return np.asarray(np.sqrt(np.maximum(amps**2 + slope * (other**2 - torque**2), 0.0)))


_ALIKE: Final = 0.01
"""Squares of torque no further apart tell no slope: amperes go with torque."""
_LONGER: Final = 1.1


def slower_than(name: str) -> str:
    """What holds a start for longer; empty behind the slowest."""
    return "a slower class, where the machine bears it" if name != classes()[-1].name else ""


def slow_class(need: Need, name: str) -> tuple[Gate, ...]:
    """Class 30 and slower on the motor maker's word alone: usual machines are made for class 20 (NEMA MG 1 12.44)."""
    if name not in ("30", "40"):
        return ()
    said = need.stalls.hot is not None and need.stalls.hot.given
    text = f"Class {name}: its maker's stall time is on the machine's sheet."
    if not said:
        text = f"Class {name} only where the motor's maker says it bears it: ask for its stall time."
    source = "a stalled motor must bear 20 s or more: its maker's thermal limit curve"
    return (confirm("protection.slow_class", "Slow class by its maker", said, text, source),)


def stall_gate(need: Need, name: str, setting_a: float) -> tuple[Gate, ...]:
    """The slowest relay of the class, from cold, trips a stalled rotor before the machine has had what it bears hot.

    Of a class that nobody chose what fails is to check where the start as it is taken asks for it, and a quicker one
    may hold the start and would have opened.
    """
    found = _stalls(need, name, setting_a)
    if need.circuit.protection.trip_class is not None or not any(gate.fails for gate in found):
        return found
    for quicker in _COMMON[1 : _COMMON.index(name)]:
        holds, opens = class_gate(need, quicker, setting_a), worst(_stalls(need, quicker, setting_a))
        if holds.verdict is Verdict.CHECK and opens.usable:
            surely = opens is Verdict.PASSES
            why = f"how long it starts: class {quicker}, which {'would' if surely else 'may'} open in time, may hold it"
            return tuple(replace(resting(gate, why), turns=holds.turns if surely else None) for gate in found)
    return found


def _stalls(need: Need, name: str, setting_a: float) -> tuple[Gate, ...]:
    """By one class. Both at the current of the way in use: what holds one stalls at it; a timer leaves the first
    connection.
    """
    key, title = "protection.stall", "Trips on a stalled rotor"
    if need.way.converts:
        return ()
    if need.way.at_rings:
        return (_on_its_resistor(need, key, title),)
    stall, current = need.stalls.hot, need.current
    if stall is None or current is None or need.plate is None:
        return (unknown(key, title, ("safe stall time, hot",)),)
    found, held, first = trip_class(name), _held_a(need), _first_stage(need)
    stays = _stays_in_first(need)
    in_line = need.way.windings is Windings.WYE and need.circuit.protection.overload_place != "delta"
    seen = stays**2 if in_line else stays

    def heats(amps: float, slow: float) -> float:
        """Seconds at locked-rotor current that heat as much as the stall until the relay opens: quickest to slowest."""
        sees = min(held, amps) if held is not None else amps * seen
        if sees <= 0:
            return _LONG_S
        quickest, slowest = found.earliest_s(sees / setting_a), found.latest_s(sees / setting_a)
        opens = min(quickest, _LONG_S) + slow * (min(slowest, _LONG_S) - min(quickest, _LONG_S))
        return min(opens * (sees / amps if held is not None else stays) ** 2 + first, _LONG_S)

    at, relay = heats(current.value, 1.0), Taken(label="the relay within its class", value=1.0, low=0.0, high=1.0)
    text = f"Stalled, class {name} from cold has opened before it heats as {write(at, 2)} s at rest"
    if at >= _LONG_S:
        text = f"Stalled at what this start lets through, class {name} is not sure to open"
    text += f"; from hot it bears {write(stall.value)} s."
    gate = at_most(
        key, title, at, stall.value, sentence=text, unit="s", rests=(stall, current, relay),
        source="IEC 60947-4-1:2018 table 3; IEEE 620:1996",
        room=lambda bears, amps, slow: bears - heats(amps, slow),
        remedy=_opened_by(name, asks=not stall.given),
    )  # fmt: skip
    gate = _by_its_load(need, gate) if first and heats(current.high, 0.0) - first <= stall.high else gate
    return (gate if gate.verdict is Verdict.PASSES else _or_by_another(need, gate, text),)


def _opened_by(name: str, *, asks: bool) -> str:
    """What ends a stall in time: a quicker class where there is one."""
    text = either("a quicker class" if name != classes()[0].name else "", "thermistors that trip a stall")
    return f"{_ASK}; {text[:1].lower()}{text[1:]}" if asks else text


def _by_its_load(need: Need, gate: Gate) -> Gate:
    """What fails by how long its first connection lasts, and that by a load which nobody gave, is to check; its timer,
    where that is set, lasts as long as it is set.
    """
    power = need.load.power if need.load is not None else None
    if power is None or power.given or not power.wide or not gate.fails or need.circuit.start.changeover_s is not None:
        return gate
    turns = Turns(path=power.path, label=power.label, passes="given")
    return replace(resting(gate, f"the {power.label}, not given: it tells when the first connection ends"), turns=turns)


def _or_by_another(need: Need, gate: Gate, text: str) -> Gate:
    """What the relay does not catch, sensors or the motor's own protector may."""
    if need.circuit.protection.thermistor == "yes":
        return _by_sensors(gate.key, gate.name, text)
    if bears_a_stall(need.circuit.plate.thermal_protection):
        return _by_protector(need, gate.key, gate.name, text)
    return gate


def _by_sensors(key: str, title: str, text: str) -> Gate:
    """What the relay leaves is seen by sensors, where a stall harms the winding first: by its maker's code."""
    text += " Its thermistors trip it, by its maker's code TP 111 or 211; one whose rotor heats first asks for more."
    return confirm(key, title, False, text, "IEC 60034-11:2020: codes of thermal protection")


def _by_protector(need: Need, key: str, title: str, text: str) -> Gate:
    """What the relay leaves is opened from inside, as listed with the motor."""
    said = need.circuit.plate.thermal_protection
    text += (
        f" Its own protection, {said}, is listed with it for a failed start: in its line, or in its contactor's coil."
    )
    return confirm(key, title, False, text, "NFPA 70:2023 430.32(A)(2), (B)(2), (B)(4); IEC 60034-11:2020")


def _on_its_resistor(need: Need, key: str, title: str) -> Gate:
    """A wound rotor that does not turn draws what the first step lets through, and heats its resistor."""
    amps = f", {write(need.used.peak_a, 3)} A" if need.used is not None and need.used.peak_a else ""
    text = (
        f"Stalled in the first step of its resistor it draws no more than while it starts{amps}, and the "
        "resistor takes the heat: a limit on the starting time opens the line, and the resistor bears that long."
    )
    source = "NFPA 70:2023 table 430.23(C): by time on and off; IEC 60947-4-1:2018: rheostatic rotor starters"
    return confirm(key, title, False, text, source)


def _held_a(need: Need) -> float | None:
    """Line amperes at which the starter holds a stalled machine; None where it sees its own locked-rotor current."""
    used = need.used
    return used.peak_a if used is not None and used.held_by_limit else None


def _stays_in_first(need: Need) -> float:
    """Share of a winding's locked-rotor current that a stall keeps drawing: all, unless a speed switch changes over.

    In the line a wye draws the square of that share.
    """
    used, by_speed = need.used, need.circuit.start.changeover_by == "speed"
    if used is None or used.changes_at_s is None or not used.motor_share or not by_speed:
        return 1.0
    return used.motor_share


def _first_stage(need: Need) -> float:
    """Heat of a stall until its timers have left all but the last connection, in seconds at locked-rotor current.

    What comes after the first counts as the last: a little more than it is.
    """
    used = need.used
    if used is None or not used.motor_share or _stays_in_first(need) < 1:
        return 0.0
    ends = [until_s for _, until_s in used.stages] or [used.changes_at_s or 0.0]
    return ends[0] * used.motor_share**2 + ends[-1] - ends[0]
