"""Gates of a start on the machine and its protection: heat, trip class, starts in succession, instantaneous trip."""

from __future__ import annotations

import math
from functools import partial
from typing import Final

from vinegate.core.gate import Gate, Verdict
from vinegate.core.protection.trip_class import trip_class
from vinegate.core.quantity import write
from vinegate.core.starting.asked import Asked, graded
from vinegate.core.starting.plant import Plant
from vinegate.core.starting.reclosure import offset_factor
from vinegate.core.starting.simulate import MethodRun
from vinegate.core.starting.trace import Course, Outcome

HEAT_TOLERANCE: Final = 1.6
_SLOWER: Final = ("20", "30")  # the classes above 10 that are commonly made


def stall_gate(run: MethodRun, asked: Asked) -> Gate:
    """Heat of the start against the safe stall time from hot: `∫(I/I_LR)² dt`."""
    key, name = "start.heat", "Heat of one start"
    if asked.stall_hot_s is None:
        text = "The safe stall time is not known."
        return Gate(
            key=key,
            name=name,
            verdict=Verdict.UNKNOWN,
            sentence=text,
            source="",
            needs=("safe stall time, hot",),
            remedy="Give the safe stall time from the maker's data.",
        )
    common = partial(
        Gate,
        key=key,
        name=name,
        unit="%",
        limit=100.0,
        estimated=True,
        source="∫(I/I_LR)² dt over safe stall time from hot; IEEE 620:1996",
    )
    if run.course.outcome is not Outcome.REACHES:
        return common(
            verdict=Verdict.SHUT, sentence="It never gets to speed: it would burn out.", remedy="Another way to start."
        )
    share = 100 * run.course.i2t_s / asked.stall_hot_s
    verdict = graded(100, share, worst=share * HEAT_TOLERANCE)
    text = f"One start uses {share:.0f} % of what the machine bears from hot."
    return common(
        verdict=verdict,
        sentence=text,
        value=share,
        margin=100 - share,
        remedy="" if verdict is Verdict.OPEN else "Get the thermal limit curve from the maker.",
    )


def overload_share(plant: Plant, course: Course, name: str = "10") -> float:
    """Heat of the quickest overload of a class after the start, from cold, of that at which it trips."""
    square_s = course.running("i2t_s") * (plant.locked_current_a / plant.rated_current_a) ** 2
    return float(trip_class(name).heat_along(course.all("time_s"), square_s)[-1])


def class_gate(plant: Plant, run: MethodRun) -> Gate | None:
    if run.course.outcome is not Outcome.REACHES:
        return None
    share = overload_share(plant, run.course)
    slower = (name for name in _SLOWER if overload_share(plant, run.course, name) <= 1)
    needed = "10" if share <= 1 else next(slower, None)
    common = partial(
        Gate,
        key="start.class",
        name="Overload holds the start",
        value=100 * share,
        unit="%",
        estimated=True,
        source="IEC 60947-4-1:2018 table 3, quickest relay of the class, from cold",
    )
    if needed is None:
        text = "No overload up to class 30 surely holds this start."
        return common(
            verdict=Verdict.SHUT, sentence=text, remedy="A quicker start, or protection by the maker's curve."
        )
    if needed == "10":
        if share * HEAT_TOLERANCE <= 1:
            return common(verdict=Verdict.OPEN, sentence="A class 10 overload holds.")
        text = "Class 10 holds by the estimate, but not with its tolerance."
        return common(verdict=Verdict.AJAR, sentence=text, remedy="Compare the overload's curve with the start.")
    text = f"Class 10 would trip: class {needed} holds."
    return common(verdict=Verdict.AJAR, sentence=text, remedy=f"Choose class {needed}.")


def succession_gate(run: MethodRun, asked: Asked) -> Gate | None:
    """Two starts from cold, one from hot: the standard's load inertia, and the machine's own heat. Not from a drive."""
    if run.course.outcome is not Outcome.REACHES or asked.load_inertia_limit is None or run.method == "drive":
        return None
    over = asked.load_inertia / asked.load_inertia_limit
    common = partial(
        Gate,
        key="start.succession",
        name="Two starts cold, one hot",
        value=asked.load_inertia,
        estimated=True,
        limit=asked.load_inertia_limit,
        margin=asked.load_inertia_limit - asked.load_inertia,
        unit="kg·m²",
        source=asked.inertia_source,
    )
    said = f"Load inertia {write(asked.load_inertia, 3)} of {write(asked.load_inertia_limit, 3)} kg·m²"
    if over <= 1:
        verdict = Verdict.AJAR if asked.inertia_soft else Verdict.OPEN
        return common(
            verdict=verdict,
            sentence=f"{said}: normal.",
            remedy="Give the load's inertia." if asked.inertia_soft else "",
        )
    cold = asked.stall_cold_s or asked.stall_hot_s
    holds = cold is not None and 2 * run.course.i2t_s <= cold and run.course.i2t_s <= (asked.stall_hot_s or 0)
    text = f"{said}: {write(over, 2)} × what the standard asks it to start."
    remedy = "Agree inertia and starts in succession with the motor's maker."
    return common(verdict=Verdict.AJAR if holds else Verdict.SHUT, sentence=text, remedy=remedy)


def per_hour_gate(course: Course, asked: Asked) -> Gate | None:
    """Mean loss of running and starting against the rated loss, which is what it can shed for ever."""
    if not asked.starts_per_hour or course.outcome is not Outcome.REACHES:
        return None
    mean = asked.running_loss_w + asked.starts_per_hour * course.heat_j / 3600
    share = 100 * mean / asked.rated_loss_w
    verdict = Verdict.SHUT if share > 115 else Verdict.AJAR if share > 100 else Verdict.OPEN
    text = f"{write(asked.starts_per_hour)} starts an hour bring the mean loss to {share:.0f} % of the rated loss."
    return Gate(
        key="start.per_hour",
        name="Starts an hour",
        verdict=verdict,
        sentence=text,
        value=share,
        limit=100.0,
        margin=100 - share,
        unit="%",
        estimated=True,
        source="mean loss over the hour (as duty S4, IEC 60034-1:2022 4.2.4)",
        remedy="" if verdict is Verdict.OPEN else "Fewer starts, a start with less heat, or a motor for this duty.",
    )


def trip_gate(plant: Plant, run: MethodRun, asked: Asked) -> Gate | None:
    """First-cycle or reclosing peak against an instantaneous trip set in rms amperes."""
    if asked.trip_a is None:
        return None
    first = math.sqrt(2) * float(run.course.all("line_a")[0]) * offset_factor(plant)
    if run.method in ("soft-starter", "soft-ramp", "drive"):
        first = math.sqrt(2) * float(run.course.all("line_a").max())
    peak = max(first, run.spike.peak_a if run.spike else 0.0)
    value = peak / math.sqrt(2)
    verdict = graded(asked.trip_a, value)
    what = "Reclosing" if run.spike and run.spike.peak_a > first else "First cycle"
    text = f"{what} peaks at {peak:.0f} A, {value:.0f} A as rms, of {write(asked.trip_a)} A."
    return Gate(
        key="start.trip",
        name="Instantaneous trip holds",
        verdict=verdict,
        sentence=text,
        value=value,
        limit=asked.trip_a,
        margin=asked.trip_a - value,
        unit="A",
        estimated=True,
        source="full offset, residual opposed",
        remedy="" if verdict is Verdict.OPEN else "A higher trip where the rules allow it, or closed transition.",
    )
