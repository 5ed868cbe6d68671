"""Gates of a start on the supply: dip, contactors, sensitive loads, the contract's limit, flicker."""

from __future__ import annotations

import math
from functools import partial
from typing import Final

import numpy as np

from vinegate.core.gate import Gate, Verdict
from vinegate.core.machine.circuit import Array
from vinegate.core.quantity import write
from vinegate.core.starting.asked import Asked, Sensitive, graded
from vinegate.core.starting.flicker import lamp_at, severity, shape_factor
from vinegate.core.starting.plant import Plant
from vinegate.core.starting.trace import Course

_LASTING: Final = 0.90  # of its volts a load may stay at for ever
_ITI: Final = ((0.70, 0.02), (0.80, 0.5), (0.90, 10.0))
_PULL_IN: Final = 0.85
FALL_TOLERANCE: Final = 0.2  # how much deeper than estimated a fall may be, before its estimate passes


def deepest_dip_pu(course: Course, before: Array, bus: int = 0) -> float:
    """Largest fall at a bus over the course, of its volts just before."""
    return 1 - float(course.all("bus_pu")[bus].min()) / float(before[bus])


def dip_gate(course: Course, asked: Asked, before: Array, firm_dip_pu: float | None) -> Gate:
    key, name = "start.dip", "Dip at the board"
    value = 100 * deepest_dip_pu(course, before)
    if asked.dip_pu is None:
        text = f"Dip {value:.1f} %; no limit is set."
        return Gate(
            key=key,
            name=name,
            verdict=Verdict.UNKNOWN,
            sentence=text,
            source="",
            value=value,
            unit="%",
            needs=("a dip limit",),
            remedy="Give a dip limit.",
        )
    limit = 100 * asked.dip_pu
    firm = firm_dip_pu is not None and 100 * firm_dip_pu <= limit
    verdict = graded(limit, value)
    if not (asked.angle_free or firm) and verdict is Verdict.OPEN:
        verdict = Verdict.AJAR
    sentence = f"Dip {value:.1f} % of {write(limit, 3)} %."
    if verdict is Verdict.AJAR and not firm and not asked.angle_free:
        sentence += " It rests on an assumption: see the working."
    elif firm and firm_dip_pu is not None and not asked.angle_free:
        sentence += f" Whatever the assumed angles, {100 * firm_dip_pu:.1f} %."
    remedy = (
        ""
        if verdict is Verdict.OPEN
        else "A start that draws less, a stiffer source, or a limit agreed with its owner."
    )
    return Gate(
        key=key,
        name=name,
        verdict=verdict,
        sentence=sentence,
        source=asked.dip_source,
        value=value,
        limit=limit,
        margin=limit - value,
        unit="%",
        remedy=remedy,
        estimated=not (firm or asked.angle_free),
    )


def contactor_gate(plant: Plant, course: Course, asked: Asked) -> Gate:
    least = float(course.all("bus_pu")[plant.at].min())
    worst, hold = _deeper(least, float(course.all("bus_pu")[plant.at].max())), asked.contactor_pu
    text = f"Its board keeps {100 * least:.0f} % of its volts: "
    if least < hold:
        verdict, text = Verdict.SHUT, text + f"contactors may drop out below {100 * hold:.0f} %."
    elif least < _PULL_IN:
        verdict, text = Verdict.AJAR, text + "contactors hold, but one closing just then may chatter."
    elif worst < _PULL_IN:
        text += (
            f"a fall a fifth deeper than estimated would pass {100 * _PULL_IN:.0f} %, where one closing may chatter."
        )
        verdict = Verdict.AJAR
    else:
        verdict, text = Verdict.OPEN, text + "contactors pull in and hold."
    return Gate(
        key="start.contactor",
        name="Contactors hold",
        verdict=verdict,
        sentence=text,
        value=100 * least,
        limit=100 * hold,
        margin=100 * (least - hold),
        unit="%",
        estimated=True,
        source="IEC 60947-4-1:2018 8.2.1.2: pull in from 85 %; drop-out usual between 60 and 70 %",
        remedy="" if verdict is Verdict.OPEN else "Feed the coils from a supply that does not dip.",
    )


def _deeper(least: float, most: float) -> float:
    """The lowest volts if the fall were a fifth deeper than estimated."""
    return least - FALL_TOLERANCE * (most - least)


def time_below(times: Array, volts: Array, level: float) -> float:
    """Seconds that a course spends below a level, crossings found on straight lines."""
    steps, before, after = np.diff(times), level - volts[:-1], level - volts[1:]
    whole = np.maximum(before, after) - np.minimum(before, after)
    part = np.maximum(before, after) / np.where(whole > 0, whole, 1.0)
    share = np.where((before > 0) & (after > 0), 1.0, np.where((before <= 0) & (after <= 0), 0.0, part))
    return float((steps * share).sum())


def sensitive_gate(course: Course, asked: Asked, load: Sensitive) -> Gate:
    """A load's own limit, or the ITI curve: how long the volts may stay below each level."""
    times, volts, after = course.all("time_s"), course.all("bus_pu")[load.bus], float(course.settled_pu[load.bus])
    least = float(volts.min())
    common = partial(Gate, key="start.sensitive", name=f"Sensitive load at {load.name}", unit="%", estimated=True)
    if load.least_pu is not None:
        verdict = graded(-load.least_pu, -least, near=-0.02)
        text = f"{load.name} falls to {100 * least:.0f} %, {100 * load.least_pu:.0f} % asked."
        return common(
            verdict=verdict,
            sentence=text,
            value=100 * least,
            limit=100 * load.least_pu,
            source="entered",
            margin=100 * (least - load.least_pu),
            remedy="" if verdict is Verdict.OPEN else "Feed it from another board.",
        )
    source = "ITI (CBEMA) curve, 2000: 70 % for 0.02 s, 80 % for 0.5 s, 90 % for 10 s"
    cut = asked.recovery_s if asked.recovery_s is not None else math.inf
    for level, most in _ITI:
        stays = min(time_below(times, volts, level), cut)
        if stays > most or (level == _LASTING and after < level):
            text = f"{load.name} stays below {100 * level:.0f} % for {stays:.2g} s; {write(most)} s is allowed."
            if stays <= most:
                text = f"{load.name} stays at {100 * after:.0f} % when the start is over."
            return common(
                verdict=Verdict.SHUT,
                sentence=text,
                value=100 * least,
                limit=100 * level,
                source=source,
                remedy="Ride through on a stored supply, or a start that draws less.",
            )
    worst = float(volts.max()) - (1 + FALL_TOLERANCE) * (volts.max() - volts)
    near = any(min(time_below(times, worst, level), cut) > most for level, most in _ITI)
    text = f"{load.name} falls to {100 * least:.0f} %, within the curve"
    text += ", but not if it falls a fifth deeper than estimated." if near else "."
    return common(
        verdict=Verdict.AJAR if near else Verdict.OPEN,
        sentence=text,
        value=100 * least,
        limit=90.0,
        source=source,
        remedy="Measure a start, or ride through on a stored supply." if near else "",
    )


def utility_gate(plant: Plant, course: Course, asked: Asked) -> Gate | None:
    """The supply contract's own limit, in kVA or amperes at the main board's volts."""
    if asked.start_va is None and asked.start_a is None:
        return None
    main_v = plant.network.buses[0].volts_v
    amps = float(course.all("line_a").max()) * plant.board_v / main_v
    kva = 3**0.5 * main_v * amps / 1000
    common = partial(
        Gate, key="start.utility", name="Supply contract's starting limit", source="supply contract", estimated=True
    )
    if asked.start_va is not None:
        limit = asked.start_va / 1000
        verdict = graded(limit, kva)
        text = f"It starts with {kva:.0f} kVA of {write(limit)} kVA."
        return common(
            verdict=verdict,
            sentence=text,
            value=kva,
            limit=limit,
            margin=limit - kva,
            unit="kVA",
            remedy=_less(verdict),
        )
    assert asked.start_a is not None
    verdict = graded(asked.start_a, amps)
    text = f"It starts with {amps:.0f} A of {write(asked.start_a)} A."
    return common(
        verdict=verdict,
        sentence=text,
        value=amps,
        limit=asked.start_a,
        margin=asked.start_a - amps,
        unit="A",
        remedy=_less(verdict),
    )


def _less(verdict: Verdict) -> str:
    return "" if verdict is Verdict.OPEN else "A start that draws less."


def flicker_gate(course: Course, asked: Asked, before: Array, frequency_hz: float) -> Gate | None:
    """Each start counted by the shape of its dip at the main board, from before until the machine is at speed."""
    if not asked.starts_per_hour:
        return None
    dip = 100 * deepest_dip_pu(course, before)
    change = 1 - course.all("bus_pu")[0] / before[0]
    shape = shape_factor(course.all("time_s"), change, lamp_at(frequency_hz))
    found = severity(dip_pct=dip, changes_in_ten_minutes=asked.starts_per_hour / 6, shape=shape)
    verdict = graded(asked.flicker, found)
    text = (
        f"Pst {found:.2f} of {write(asked.flicker)}: {write(asked.starts_per_hour)} starts an hour at {dip:.1f} %, "
        f"seen as {shape:.2f} of a step."
    )
    return Gate(
        key="start.flicker",
        name="Flicker",
        verdict=verdict,
        sentence=text,
        value=found,
        limit=asked.flicker,
        margin=asked.flicker - found,
        unit="",
        source="IEC 61000-3-3:2013 4.2.3.3, F by the flickermeter of IEC 61000-4-15:2010",
        estimated=True,
        remedy="" if verdict is Verdict.OPEN else "Fewer starts, or a start that draws less.",
    )
