"""Every way to start, simulated with network, machine and load together."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.assumed import preset
from vinegate.core.start.changeover import ChangeOver, change_over
from vinegate.core.start.connection import (
    FULL,
    Connection,
    autotransformer,
    behave,
    in_series,
    part_winding,
    series_for,
    wye,
)
from vinegate.core.start.courses import Turn, in_turn
from vinegate.core.start.drive_course import drive_course
from vinegate.core.start.facts import Start
from vinegate.core.start.plant import Plant, before_pu, coarser
from vinegate.core.start.ramp import Ramp, ramped
from vinegate.core.start.reclosure import Spike, reclosure
from vinegate.core.start.run_up import RunUp, at_speed_place, run_up
from vinegate.core.start.trace import Course, Outcome

TAPS = (0.5, 0.65, 0.8)
_LIMITS = tuple(round(2 + 0.1 * n, 1) for n in range(46))
_EXCITING_SHARE = preset("exciting_share")
_DEAD_S = preset("dead_time")
_RESISTOR_ENDS = 0.85
NEAR_SPEED = 0.9  # the margin is read up to here: at the operating speed it is nothing by definition
_LONGEST_SOFT_S = 30.0
_COARSER = 4


@dataclass(frozen=True, slots=True, kw_only=True)
class MethodRun:
    """One method's course and what is peculiar to it. `setting` says in words what it was run with.

    `torque` is the machine's against speed, of synchronous, along the course, or over the whole speed range in the
    connection in which it hangs; None where electronics decide it. `held` says that electronics hold its current.
    """

    method: str
    course: Course
    setting: str = ""
    value: float | None = None
    change: ChangeOver | None = None
    changes_at_s: float | None = None
    spike: Spike | None = None
    margin_pu: float | None = None
    torque: tuple[Array, Array] | None = None
    held: bool = False
    starts_by_frequency: bool = False
    rated_torque_nm: float = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Settings:
    """A Start with its usual values filled in."""

    transition: str
    dead_s: float
    taps: tuple[float, ...]
    series: tuple[float, ...]
    steps: int
    part_current: float
    part_torque: float
    part_delay_s: float
    limits: tuple[float, ...]
    initial: float
    ramp_s: float
    ramp_of: str
    kick: float
    kick_s: float
    drive_ramp_s: float
    drive_limit: float
    drive_boost: bool
    changeover_s: float | None
    margin_pu: float
    most_i2t_s: float
    weakest: float

    @classmethod
    def of(cls, start: Start, margin_pu: float, most_i2t_s: float, weakest: float) -> Settings:
        """Usual values, stated beside each field, where a setting is empty."""
        return cls(
            transition=start.transition or "open",
            dead_s=_DEAD_S if start.dead_time_s is None else start.dead_time_s,
            taps=(int(start.tap) / 100,) if start.tap else TAPS,
            series=(start.series_volts_pu,) if start.series_volts_pu else TAPS,
            steps=start.resistor_steps or 1,
            part_current=start.part_current_pu or 0.65,
            part_torque=start.part_torque_pu or 0.45,
            part_delay_s=2.0 if start.part_delay_s is None else start.part_delay_s,
            limits=(start.soft_limit,) if start.soft_limit else _LIMITS,
            initial=start.soft_initial_pu or 0.4,
            ramp_s=max(10.0 if start.soft_ramp_s is None else start.soft_ramp_s, 0.2),
            ramp_of=start.soft_ramp_of or "volts",
            kick=start.kick_pu or 0.0,
            kick_s=start.kick_time_s or (0.3 if start.kick_pu else 0.0),
            drive_ramp_s=max(10.0 if start.drive_ramp_s is None else start.drive_ramp_s, 0.2),
            drive_limit=start.drive_limit or 1.5,
            drive_boost=start.drive_boost != "no",
            changeover_s=start.changeover_s,
            margin_pu=margin_pu,
            most_i2t_s=most_i2t_s,
            weakest=weakest,
        )


@dataclass(slots=True)
class Simulation:
    """All methods of one circuit on one source. `runs` holds the fixed connections."""

    plant: Plant
    settings: Settings
    dip_limit_pu: float | None
    loss_share: float
    before: Array
    runs: RunUp
    found: dict[str, MethodRun] = field(default_factory=dict)


def simulate(
    plant: Plant,
    start: Start,
    *,
    dip_limit_pu: float | None,
    margin_pu: float,
    most_i2t_s: float,
    loss_share: float,
    cage: bool,
    weakest: float = 1.0,
    brief: bool = False,
) -> Mapping[str, MethodRun]:
    """Run every method that a machine of this kind can be run by; a method not eligible is for the caller to mark.

    `cage` is false for machines that only start at full voltage; `most_i2t_s` is the heat a soft starter's limit may
    lead to, in seconds at rest; `weakest` the share of its torque that a machine may fall short to. A `brief` one
    leaves out the less usual methods. Full voltage comes first.
    """
    settings = Settings.of(start, margin_pu, most_i2t_s, weakest)
    shunt = -1j * _EXCITING_SHARE * plant.rated_current_pu
    fixed = [FULL]
    if cage:
        fixed += [wye(), *(autotransformer(f"tap {tap:g}", tap, shunt) for tap in settings.taps)]
    if cage and not brief:
        fixed.append(part_winding(settings.part_current, settings.part_torque))
        for k in settings.series:
            ohms = series_for(plant, k, reactor=False)
            left = [(settings.steps - step) / settings.steps for step in range(settings.steps)]
            fixed += [in_series(f"resistor {k:g} {step}", ohms * share) for step, share in enumerate(left)]
            fixed.append(in_series(f"reactor {k:g}", series_for(plant, k, reactor=True)))
    simulation = Simulation(
        plant=plant,
        settings=settings,
        dip_limit_pu=dip_limit_pu,
        loss_share=loss_share,
        before=before_pu(plant),
        runs=run_up(plant, behave(plant, fixed)),
    )
    _full(simulation)
    if cage:
        for method in (_wye_delta, _autotransformer, _soft_limit, _drive):
            method(simulation)
        for method in () if brief else (_resistor, _reactor, _part_winding, _soft_ramp):
            method(simulation)
    return simulation.found


def torque_along(course: Course) -> tuple[Array, Array]:
    """Speed and machine torque along a course, up to nine tenths of its final speed, and not while the line is open."""
    speeds, torques = [], []
    for piece in course.pieces:
        counted = piece.speed_pu <= NEAR_SPEED * course.final_speed_pu
        if piece.key != "dead" and counted.any():
            speeds.append(piece.speed_pu[counted])
            torques.append(piece.torque_nm[counted])
    if not speeds:
        return course.pieces[0].speed_pu[:1], course.pieces[0].torque_nm[:1]
    return np.concatenate(speeds), np.concatenate(torques)


def torque_throughout(runs: RunUp, row: int) -> tuple[Array, Array]:
    """Speed and machine torque of one connection over the whole range that counts."""
    counted = runs.plant.speed_pu <= NEAR_SPEED
    return runs.plant.speed_pu[counted], runs.behaviour.torque[row][counted]


def weaker_margin(plant: Plant, margin_pu: float, settings: Settings) -> float:
    """The least margin of the weakest machine that keeps its promise, per unit of rated torque."""
    load = float(plant.load_nm.max()) / plant.rated_torque_nm
    return margin_pu - (1 - settings.weakest) * (margin_pu + load)


def least_margin(plant: Plant, speed: Array, torque: Array) -> float:
    """Least of machine torque less load torque, per unit of rated torque."""
    load = np.interp(speed, plant.speed_pu, plant.load_nm)
    return float((torque - load).min()) / plant.rated_torque_nm


def _keep(
    simulation: Simulation,
    method: str,
    course: Course,
    *,
    runs: RunUp | None = None,
    torque: tuple[Array, Array] | None = None,
    **more: Any,
) -> None:
    """Keep a course. `runs` holds the connection in which it hangs, `torque` another than the course's own."""
    plant, runs = simulation.plant, runs or simulation.runs
    if torque is None:
        torque = torque_along(course)
        if course.outcome is not Outcome.REACHES:
            torque = torque_throughout(runs, runs.row(course.pieces[-1].key))
    margin = least_margin(plant, *torque) if course.outcome is Outcome.REACHES else None
    simulation.found[method] = MethodRun(
        method=method,
        course=course,
        margin_pu=margin,
        torque=torque,
        rated_torque_nm=plant.rated_torque_nm,
        **more,
    )


def _full(simulation: Simulation) -> None:
    _keep(simulation, "full-voltage", in_turn(simulation.runs, [Turn(key="full")], dead_s=0, before=None))


def _two_connections(
    simulation: Simulation, method: str, first: str, *, volts_before: float, setting: str, value: float | None
) -> MethodRun:
    """One connection, then full voltage, at the change-over entered or recommended."""
    runs, settings = simulation.runs, simulation.settings
    found = change_over(
        runs, first, "full", dip_limit_pu=simulation.dip_limit_pu, before_pu=float(simulation.before[0])
    )
    at = settings.changeover_s if settings.changeover_s is not None else found.recommended_s
    is_open = settings.transition == "open"
    dead = settings.dead_s if is_open else 0.0
    turns = [Turn(key=first, until_s=at), Turn(key="full")]
    course = in_turn(runs, turns, dead_s=dead, before=simulation.before)
    row = runs.row(first)
    spike = None
    if is_open and course.pieces:
        place = runs.place_of_time(row, at)
        spike = reclosure(simulation.plant, place, dead_s=dead, volts_before_pu=volts_before)
    if runs.stop[row] <= 0.5:
        course = in_turn(runs, [Turn(key=first)], dead_s=0, before=None)  # it never leaves its first connection
    _keep(simulation, method, course, setting=setting, value=value, change=found, changes_at_s=at, spike=spike)
    return simulation.found[method]


def _wye_delta(simulation: Simulation) -> None:
    _two_connections(
        simulation, "wye-delta", "wye", volts_before=3**-0.5, setting=simulation.settings.transition, value=None
    )


def _autotransformer(simulation: Simulation) -> None:
    """The lowest tap that starts with margin; the highest when none does."""
    for tap in simulation.settings.taps:
        run = _two_connections(
            simulation, "autotransformer", f"tap {tap:g}", volts_before=tap, setting=f"{100 * tap:.0f} %", value=tap
        )
        if _starts_with_margin(simulation, run, f"tap {tap:g}"):
            break


def _starts_with_margin(simulation: Simulation, run: MethodRun, first: str) -> bool:
    """Brings the machine near speed in its first connection, with the margin asked for."""
    runs = simulation.runs
    settled = runs.speed_pu_at(float(runs.stop[runs.row(first)]))
    reached = run.course.outcome is Outcome.REACHES and settled >= NEAR_SPEED
    if not reached or run.margin_pu is None:
        return False
    return weaker_margin(simulation.plant, run.margin_pu, simulation.settings) >= simulation.settings.margin_pu


def _resistor(simulation: Simulation) -> None:
    """Steps cut out at even speeds up to 85 % of synchronous; the lowest volts that start with margin."""
    settings, runs = simulation.settings, simulation.runs
    for k in settings.series:
        keys = [f"resistor {k:g} {step}" for step in range(settings.steps)]
        ends = np.linspace(0.5, _RESISTOR_ENDS, settings.steps) if settings.steps > 1 else [_RESISTOR_ENDS]
        turns = [Turn(key=key, until_speed_pu=float(end)) for key, end in zip(keys, ends, strict=True)]
        if settings.steps == 1 and settings.changeover_s is not None:
            turns = [Turn(key=keys[0], until_s=settings.changeover_s)]
        stalls = runs.stop[runs.row(keys[0])] <= 0.5
        course = in_turn(runs, turns[:1] if stalls else [*turns, Turn(key="full")], dead_s=0, before=None)
        text = f"{100 * k:.0f} % volts" + (f", {settings.steps} steps" if settings.steps > 1 else "")
        _keep(simulation, "resistor", course, setting=text, value=k)
        if _starts_with_margin(simulation, simulation.found["resistor"], keys[-1]):
            break


def _reactor(simulation: Simulation) -> None:
    settings, runs = simulation.settings, simulation.runs
    for k in settings.series:
        key = f"reactor {k:g}"
        until = settings.changeover_s
        turn = Turn(key=key, until_s=until) if until is not None else Turn(key=key, until_speed_pu=_RESISTOR_ENDS)
        stalls = runs.stop[runs.row(key)] <= 0.5
        course = in_turn(runs, [turn] if stalls else [turn, Turn(key="full")], dead_s=0, before=None)
        _keep(simulation, "reactor", course, setting=f"{100 * k:.0f} % volts", value=k)
        if _starts_with_margin(simulation, simulation.found["reactor"], key):
            break


def _part_winding(simulation: Simulation) -> None:
    delay = simulation.settings.part_delay_s
    turns = [Turn(key="part", until_s=delay), Turn(key="full")]
    course = in_turn(simulation.runs, turns, dead_s=0, before=None)
    _keep(simulation, "part-winding", course, setting=f"second half after {delay:g} s", changes_at_s=delay)


def _soft_limit(simulation: Simulation) -> None:
    """The least current limit that starts with the margin asked for, in half a minute and within the heat allowed."""
    settings, plant = simulation.settings, simulation.plant
    best = _least_limit(simulation) if len(settings.limits) > 1 else settings.limits[0]
    chosen = [Connection(key="limit", limit_pu=best * plant.rated_current_pu)]
    turns = [Turn(key="limit")]
    if settings.kick:
        chosen.append(Connection(key="kick", hold=settings.kick))
        turns = [Turn(key="kick", until_s=settings.kick_s), *turns]
    runs = run_up(plant, behave(plant, chosen))
    course = in_turn(runs, turns, dead_s=0, before=None)
    _keep(simulation, "soft-starter", course, runs=runs, setting=f"{best:.1f} ×", value=best, held=True)


def _least_limit(simulation: Simulation) -> float:
    settings, plant = simulation.settings, coarser(simulation.plant, _COARSER)
    limits = [Connection(key=f"{k:g}", limit_pu=k * plant.rated_current_pu) for k in settings.limits]
    soft = run_up(plant, behave(plant, limits))
    for row, k in enumerate(settings.limits):
        stop = float(soft.stop[row])
        settled = soft.speed_pu_at(stop)
        near = int(at_speed_place(soft, stop))
        too_long = soft.time_s[row, near] > _LONGEST_SOFT_S or soft.i2t_s[row, near] > settings.most_i2t_s
        if settled < NEAR_SPEED or too_long:
            continue
        counted = plant.speed_pu <= NEAR_SPEED * settled
        spare = float(soft.spare_nm[row][counted].min()) / plant.rated_torque_nm
        if weaker_margin(plant, spare, settings) >= settings.margin_pu:
            return k
    return settings.limits[-1]


def _soft_ramp(simulation: Simulation) -> None:
    s = simulation.settings
    ramp = Ramp(initial=s.initial, ramp_s=s.ramp_s, of_torque=s.ramp_of == "torque", kick=s.kick, kick_s=s.kick_s)
    course = ramped(simulation.plant, simulation.runs, ramp)
    text = f"{100 * s.initial:.0f} %, {s.ramp_s:g} s"
    full = simulation.found["full-voltage"].torque  # it goes on to full volts: what it needs in the end is there
    _keep(simulation, "soft-ramp", course, torque=full, setting=text, value=s.initial)


def _drive(simulation: Simulation) -> None:
    s = simulation.settings
    course, margin = drive_course(
        simulation.plant,
        simulation.runs,
        ramp_s=s.drive_ramp_s,
        limit=s.drive_limit,
        boost=s.drive_boost,
        loss_share=simulation.loss_share,
    )
    simulation.found["drive"] = MethodRun(
        method="drive",
        course=course,
        margin_pu=margin if course.outcome is Outcome.REACHES else None,
        setting=f"{s.drive_ramp_s:g} s ramp, {s.drive_limit:g} ×",
        value=s.drive_limit,
        held=True,
        starts_by_frequency=True,
        rated_torque_nm=simulation.plant.rated_torque_nm,
    )
