"""Gates of a start on the supply: dip, contactors, sensitive loads, the contract's limit."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.grade import Gate, at_least, at_most, unknown
from vinegate.core.numbers import write
from vinegate.core.start.asked import UNLOADED, Asked, Sensitive
from vinegate.core.start.plant import Plant
from vinegate.core.start.simulation import MethodRun
from vinegate.core.start.trace import Course, Outcome
from vinegate.core.start.ways import way_of
from vinegate.core.turning import Room, Taken, both_rooms

_LASTING: Final = 0.90  # of its volts a load may stay at for ever
_ITI: Final = ((0.70, 0.02), (0.80, 0.5), (0.90, 10.0))
_PULL_IN: Final = 0.85
_COILS: Final = "Contactors that hold lower, by their maker, in the job's limits; coils on a supply that does not dip."
_LESS: Final = "a start that draws less; a stiffer source; a limit agreed with its owner."


def deepest_dip_pu(course: Course, before: Array, bus: int = 0) -> float:
    """Largest fall at a bus over the course, of its volts just before; none where they rise throughout."""
    return max(1 - float(course.all("bus_pu")[bus].min()) / float(before[bus]), 0.0)


def share_drawn(plant: Plant, run: MethodRun) -> float:
    """Of the locked-rotor current that the way draws at most."""
    return max(float(run.course.all("line_a").max()) / plant.locked_current_a, 1e-3)


def moves(plant: Plant, run: MethodRun, asked: Asked) -> tuple[Sequence[Taken], Room]:
    """The facts behind a fall, and the fall with them over that with the facts as taken.

    A current that electronics hold does not move with the machine's: only the source's angles do.
    """
    sag = asked.sag
    if sag is None:
        return (), lambda *_: 1.0
    share = share_drawn(plant, run)
    if run.held:
        angles = sag.rests[2:]
        taken = [one.value for one in sag.rests[:2]]
        return angles, lambda *facts: sag.deeper_held((*taken, *facts), share)
    return sag.rests, lambda *facts: sag.deeper(facts, share)


def dips_of(plant: Plant, run: MethodRun, asked: Asked) -> tuple[float, float]:
    """Least and deepest fall over that with the facts as taken, over the corners of their bands."""
    rests, times = moves(plant, run, asked)
    return both_rooms(times, rests)


def _settles(asked: Asked, facts: Sequence[float]) -> float:
    """What is left of a fall once it runs, with these facts of `moves`, over that with the facts as taken."""
    sag = asked.sag
    if sag is None:
        return 1.0
    taken = [one.value for one in sag.rests]
    return sag.settles((*taken[: len(taken) - len(facts)], *facts))


def dip_gate(plant: Plant, run: MethodRun, asked: Asked, before: Array) -> Gate:
    key, name = "start.dip", "Dip at the board"
    value = 100 * deepest_dip_pu(run.course, before)
    if asked.dip_pu is None:
        return unknown(key, name, ("a dip limit",))
    limit = 100 * asked.dip_pu
    rests, times = moves(plant, run, asked)
    return at_most(
        key, name, value, limit, sentence=f"Dip {value:.1f} % of {write(limit, 3)} %.", source=asked.dip_source,
        unit="%", remedy=_gentler(run, asked), rests=rests, room=lambda *facts: limit - value * times(*facts),
    )  # fmt: skip


def _gentler(run: MethodRun, asked: Asked) -> str:
    """What helps: what its own way can do, which an unloaded start may need, then another."""
    own = way_of(run.method).gentler_than(run.value)
    unloaded = " with an unloaded start" if UNLOADED in asked.helps else ""
    text = f"{own}{unloaded}; {_LESS}" if own else _LESS
    return f"{text[:1].upper()}{text[1:]}"


def contactor_gate(plant: Plant, run: MethodRun, asked: Asked, before: Array) -> Gate:
    """Coils on the circuit's own board, against the volts that are promised to hold them. `before` the start."""
    volts = run.course.all("bus_pu")[plant.at]
    least, most, hold = 100 * float(volts.min()), 100 * _from(volts, before[plant.at]), asked.hold
    text = f"Its board keeps {least:.0f} % of its volts: "
    text += f"contactors hold down to {write(hold.value)} %."
    if hold.value <= least < 100 * _PULL_IN:
        text += f" One closing just then needs {100 * _PULL_IN:.0f} %: it may chatter."
    rests, times = moves(plant, run, asked)
    return at_least(
        "start.contactor", "Contactors hold", least, hold.value, sentence=text, unit="%",
        source="IEC 60947-4-1:2018 8.2.1.2: drop-out anywhere between 75 and 20 %, pull-in from 85 %",
        remedy=_COILS, rests=(hold, *rests),
        room=lambda held, *facts: most - (most - least) * times(*facts) - held,
    )  # fmt: skip


def _from(volts: Array, before: float) -> float:
    """The volts that they fall from: those just before, or what they rise to."""
    return max(float(volts.max()), float(before))


def time_below(times: Array, volts: Array, level: float) -> float:
    """Seconds that a course spends below a level, crossings found on straight lines."""
    if volts.min() >= level:
        return 0.0
    steps, before, after = times[1:] - times[:-1], level - volts[:-1], level - volts[1:]
    whole = np.maximum(before, after) - np.minimum(before, after)
    part = np.maximum(before, after) / np.where(whole > 0, whole, 1.0)
    share = np.where((before > 0) & (after > 0), 1.0, np.where((before <= 0) & (after <= 0), 0.0, part))
    return float((steps * share).sum())


def sensitive_gate(plant: Plant, run: MethodRun, asked: Asked, load: Sensitive, before: Array) -> Gate:
    """A load's own limit, or the ITI curve: how long the volts may stay below each level. `before` the start."""
    key, name = "start.sensitive", f"Sensitive load at {load.name}"
    times_s, volts = run.course.all("time_s"), run.course.all("bus_pu")[load.bus]
    least, most = float(volts.min()), _from(volts, before[load.bus])
    after = float(run.course.settled_pu[load.bus])
    rests, times = moves(plant, run, asked)
    reaches = run.course.outcome is Outcome.REACHES
    if load.own and load.least_pu is None:
        return unknown(key, name, (f"what the sensitive load at {load.name} needs at least",))
    if load.least_pu is not None:
        asks = load.least_pu
        text = f"{load.name} falls to {100 * least:.0f} %, {100 * asks:.0f} % asked."
        return at_least(
            key, name, 100 * least, 100 * asks, sentence=text, source="entered", unit="%",
            remedy="Feed it from another board.", rests=rests,
            room=lambda *facts: most - (most - least) * times(*facts) - asks,
        )  # fmt: skip
    cut = asked.recovery_s if asked.recovery_s is not None else math.inf

    def slack(*facts: float) -> float:
        """The least of what the curve leaves, as shares of the time it allows; lasting low volts leave nothing."""
        deeper = times(*facts)
        ends = most - (most - after) * (max(deeper, _settles(asked, facts)) if reaches else deeper)
        if most - (most - least) * deeper >= _LASTING:  # nowhere below the highest level
            return min(1.0, (ends - _LASTING) / _LASTING)
        there = most - (most - volts) * deeper
        left = min(1 - min(time_below(times_s, there, level), cut) / allowed for level, allowed in _ITI)
        return min(left, (ends - _LASTING) / _LASTING)

    stays_s = {level: min(time_below(times_s, volts, level), cut) for level, _ in _ITI}
    text = _by_curve(load.name, stays_s, least, after, "when the start is over" if reaches else "while it hangs")
    return at_least(
        key, name, slack(*(one.value for one in rests)), 0.0, sentence=text, rests=rests, room=slack,
        source="ITI (CBEMA) curve, 2000: 70 % for 0.02 s, 80 % for 0.5 s, 90 % for 10 s",
        remedy="Ride through on a stored supply, or a start that draws less.",
    )  # fmt: skip


def _by_curve(name: str, stays_s: dict[float, float], least: float, after: float, lasting: str) -> str:
    """The first level of the curve that it stays below for too long; what lasts where none is."""
    for level, allowed in _ITI:
        if (stays := stays_s[level]) > allowed:
            return f"{name} stays below {100 * level:.0f} % for {write(stays, 2)} s; {write(allowed)} s is allowed."
    if after < _LASTING:
        return f"{name} stays at {100 * after:.0f} % {lasting}."
    return f"{name} falls to {100 * least:.0f} %, within the curve."


def utility_gate(plant: Plant, run: MethodRun, asked: Asked) -> Gate | None:
    """The supply contract's own limit, in kVA or amperes at the main board's volts."""
    if asked.start_va is None and asked.start_a is None:
        return None
    main_v = plant.network.buses[0].volts_v
    here_a = float(run.course.all("line_a").max())
    limit, value, unit = asked.start_a or 0.0, here_a * plant.board_v / main_v, "A"
    if asked.start_va is not None:
        limit, value, unit = asked.start_va / 1000, plant.volt_amperes(here_a) / 1000, "kVA"
    sag, share = asked.sag, share_drawn(plant, run)
    rests: tuple[Taken, ...] = ()
    if sag is not None and not run.held:
        rests = sag.rests

    def room(*facts: float) -> float:
        return limit - value * (sag.more(facts, share) if sag is not None and facts else 1.0)

    return at_most(
        "start.utility", "Supply contract's starting limit", value, limit, unit=unit, source="supply contract",
        sentence=f"It starts with {value:.0f} {unit} of {write(limit)} {unit}.", remedy="A start that draws less.",
        rests=rests, room=room,
    )  # fmt: skip
