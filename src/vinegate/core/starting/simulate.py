"""Every way to start, simulated with network, machine and load together."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from vinegate.core.machine.circuit import Array
from vinegate.core.starting.changeover import ChangeOver, change_over
from vinegate.core.starting.connection import (
    FULL,
    Connection,
    autotransformer,
    behave,
    in_series,
    part_winding,
    series_for,
    wye,
)
from vinegate.core.starting.courses import Turn, in_turn
from vinegate.core.starting.drive_course import drive_course
from vinegate.core.starting.facts import Start
from vinegate.core.starting.plant import Plant, before_pu, coarser
from vinegate.core.starting.ramp import Ramp, ramped
from vinegate.core.starting.reclosure import Spike, reclosure
from vinegate.core.starting.run_up import RunUp, at_speed_place, run_up
from vinegate.core.starting.trace import Course, Outcome

TAPS = (0.5, 0.65, 0.8)
_LIMITS = tuple(round(2 + 0.1 * n, 1) for n in range(46))
_EXCITING_SHARE = 0.25
_RESISTOR_ENDS = 0.85
_NEAR_SPEED = 0.9  # the margin is read up to here: at the operating speed it is nothing by definition
_LONGEST_SOFT_S = 30.0
_COARSER = 4
# An estimate passes only where its stated tolerance could not fail it (docs/decisions/0007).
TORQUE_TOLERANCE = 0.20


@dataclass(frozen=True, slots=True, kw_only=True)
class MethodRun:
    """One method's course and what is peculiar to it. `setting` says in words what it was run with."""

    method: str
    course: Course
    setting: str = ""
    value: float | None = None
    change: ChangeOver | None = None
    changes_at_s: float | None = None
    spike: Spike | None = None
    margin_pu: float | None = None


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

    @classmethod
    def of(cls, start: Start, margin_pu: float, most_i2t_s: float) -> Settings:
        """Usual values, stated beside each field, where a setting is empty."""
        return cls(
            transition=start.transition or "open",
            dead_s=0.05 if start.dead_time_s is None else start.dead_time_s,
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
    brief: bool = False,
) -> Mapping[str, MethodRun]:
    """Run every method that a machine of this kind can be run by; a method not eligible is for the caller to mark.

    `cage` is false for machines that only start at full voltage; `most_i2t_s` is the heat a soft starter's limit may
    lead to, in seconds at rest. A `brief` one leaves out the less usual methods. Full voltage comes first.
    """
    settings = Settings.of(start, margin_pu, most_i2t_s)
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


def weaker_margin(plant: Plant, margin_pu: float) -> float:
    """The least margin of a machine a fifth weaker than estimated, per unit of rated torque; never better than so."""
    load = float(plant.load_nm.max()) / plant.rated_torque_nm
    return margin_pu - TORQUE_TOLERANCE * (margin_pu + load)


def least_margin(plant: Plant, course: Course) -> float:
    """Least of machine torque less load torque along a course, per unit of rated torque.

    Read up to nine tenths of the final speed, and not while the line is open.
    """
    least = np.inf
    for piece in course.pieces:
        if piece.key == "dead":
            continue
        load = np.interp(piece.speed_pu, plant.speed_pu, plant.load_nm)
        counted = piece.speed_pu <= _NEAR_SPEED * course.final_speed_pu
        if counted.any():
            least = min(least, float((piece.torque_nm - load)[counted].min()))
    return least / plant.rated_torque_nm if np.isfinite(least) else 0.0


def _keep(simulation: Simulation, method: str, course: Course, *, margin: float | None = None, **more: object) -> None:
    if course.outcome is not Outcome.REACHES:
        margin = None
    elif margin is None:
        margin = least_margin(simulation.plant, course)
    simulation.found[method] = MethodRun(method=method, course=course, margin_pu=margin, **more)  # type: ignore[arg-type]


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
    """Brings the machine near speed in its first connection, with the margin asked for; one a fifth weaker, too."""
    runs = simulation.runs
    settled = runs.speed_pu_at(float(runs.stop[runs.row(first)]))
    reached = run.course.outcome is Outcome.REACHES and settled >= _NEAR_SPEED
    if not reached or run.margin_pu is None or run.margin_pu < simulation.settings.margin_pu:
        return False
    return weaker_margin(simulation.plant, run.margin_pu) >= 0


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
    course = in_turn(run_up(plant, behave(plant, chosen)), turns, dead_s=0, before=None)
    _keep(simulation, "soft-starter", course, setting=f"{best:.1f} ×", value=best)


def _least_limit(simulation: Simulation) -> float:
    settings, plant = simulation.settings, coarser(simulation.plant, _COARSER)
    limits = [Connection(key=f"{k:g}", limit_pu=k * plant.rated_current_pu) for k in settings.limits]
    soft = run_up(plant, behave(plant, limits))
    for row, k in enumerate(settings.limits):
        stop = float(soft.stop[row])
        settled = soft.speed_pu_at(stop)
        near = int(at_speed_place(soft, stop))
        too_long = soft.time_s[row, near] > _LONGEST_SOFT_S or soft.i2t_s[row, near] > settings.most_i2t_s
        if settled < _NEAR_SPEED or too_long:
            continue
        counted = plant.speed_pu <= _NEAR_SPEED * settled
        spare = float(soft.spare_nm[row][counted].min()) / plant.rated_torque_nm
        if spare >= settings.margin_pu and weaker_margin(plant, spare) >= 0:
            return k
    return settings.limits[-1]


def _soft_ramp(simulation: Simulation) -> None:
    s = simulation.settings
    ramp = Ramp(initial=s.initial, ramp_s=s.ramp_s, of_torque=s.ramp_of == "torque", kick=s.kick, kick_s=s.kick_s)
    course = ramped(simulation.plant, simulation.runs, ramp)
    text = f"{100 * s.initial:.0f} %, {s.ramp_s:g} s"
    margin = simulation.found["full-voltage"].margin_pu  # it goes on to full volts: what it needs in the end is there
    _keep(simulation, "soft-ramp", course, margin=margin, setting=text, value=s.initial)


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
    _keep(
        simulation,
        "drive",
        course,
        margin=margin,
        setting=f"{s.drive_ramp_s:g} s ramp, {s.drive_limit:g} ×",
        value=s.drive_limit,
    )
