"""One circuit on one source: what every way to start is simulated with."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import field
from typing import Any, TypeVar

import numpy as np
import numpy.typing as npt

from vinegate.core.arrays import Array
from vinegate.core.assumed import preset
from vinegate.core.records import dataclass
from vinegate.core.start.changeover import ChangeOver, change_over
from vinegate.core.start.courses import Turn, in_turn
from vinegate.core.start.facts import Start
from vinegate.core.start.plant import Plant
from vinegate.core.start.reclosure import Spike, reclosure
from vinegate.core.start.run_up import RunUp
from vinegate.core.start.trace import Course, Outcome

Share = TypeVar("Share", float, Array)
TAPS = (0.5, 0.65, 0.8)
_LIMITS = tuple(round(2 + 0.1 * n, 1) for n in range(46))
USUAL_LIMIT = 1.5  # of a drive, times rated; assumed
_DEAD_S = preset("dead_time")
NEAR_SPEED = 0.9  # the margin is read up to here: at the operating speed it is nothing by definition


@dataclass(frozen=True, slots=True, kw_only=True)
class MethodRun:
    """One method's course and what is peculiar to it. `setting` says in words what it was run with.

    `torque` is the machine's against speed, of synchronous, along the course, or over the whole speed range in the
    connection in which it hangs; None where electronics decide it. `held` says that electronics hold its current,
    `ramped` that they bring it up a ramp; `commutator`: it is a commutator that has to bear the current.
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
    ramped: bool = False
    commutator: bool = False
    count: int = 1
    """Motors that start together: all that one drive feeds."""
    rated_torque_nm: float = 1.0
    rated_current_a: float = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Settings:
    """A Start with its usual values filled in."""

    transition: str
    dead_s: float
    taps: tuple[float, ...]
    series: tuple[float, ...]
    steps: int
    rotor_steps: int | None
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
            rotor_steps=start.rotor_steps,
            part_current=start.part_current_pu or 0.65,
            part_torque=start.part_torque_pu or 0.45,
            part_delay_s=2.0 if start.part_delay_s is None else start.part_delay_s,
            limits=(start.soft_limit,) if start.soft_limit else _LIMITS,
            initial=start.soft_initial_pu or 0.4,
            ramp_s=max(10.0 if start.soft_ramp_s is None else start.soft_ramp_s, 0.2),
            ramp_of=start.soft_ramp_of or "volts",
            kick=start.kick_pu or 0.0,
            kick_s=start.kick_time_s or (0.3 if start.kick_pu else 0.0),
            drive_ramp_s=max(start.up_s, 0.2),
            drive_limit=start.drive_limit or USUAL_LIMIT,
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


def weaker_margin(plant: Plant, margin_pu: Share, settings: Settings) -> Share:
    """The least margin of the weakest machine that keeps its promise, per unit of rated torque."""
    load = float(plant.load_nm.max()) / plant.rated_torque_nm
    return margin_pu - (1 - settings.weakest) * (margin_pu + load)


def least_margin(plant: Plant, speed: Array, torque: Array) -> float:
    """Least of machine torque less load torque, per unit of rated torque."""
    load = np.interp(speed, plant.speed_pu, plant.load_nm)
    return float((torque - load).min()) / plant.rated_torque_nm


def keep(
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


def two_connections(
    simulation: Simulation, method: str, first: str, *, volts_before: float, setting: str, value: float | None
) -> MethodRun:
    """One connection, then full voltage, at the change-over entered or recommended."""
    runs, settings = simulation.runs, simulation.settings
    found = change_over(
        runs, first, "full", dip_limit_pu=simulation.dip_limit_pu, before_pu=float(simulation.before[0]),
        enough=lambda: _enough(simulation, first),
    )  # fmt: skip
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
    keep(simulation, method, course, setting=setting, value=value, change=found, changes_at_s=at, spike=spike)
    return simulation.found[method]


def _enough(simulation: Simulation, first: str) -> npt.NDArray[np.bool_]:
    """Where a connection leaves the torque asked for; near full speed none is asked."""
    runs, plant, settings = simulation.runs, simulation.plant, simulation.settings
    near = plant.speed_pu > NEAR_SPEED * runs.speed_pu_at(float(runs.stop[runs.row("full")]))
    spare = runs.spare_nm[runs.row(first)] / plant.rated_torque_nm
    return np.asarray(near | (weaker_margin(plant, spare, settings) >= settings.margin_pu))


def starts_with_margin(simulation: Simulation, run: MethodRun, first: str, *, surely: bool = True) -> bool:
    """Brings the machine near speed in its first connection, with the margin asked for: `surely` the weakest that keeps
    its promises too.
    """
    runs = simulation.runs
    settled = runs.speed_pu_at(float(runs.stop[runs.row(first)]))
    reached = run.course.outcome is Outcome.REACHES and settled >= NEAR_SPEED
    return reached and margin_left(simulation, run, surely=surely)


def margin_left(simulation: Simulation, run: MethodRun, *, surely: bool) -> bool:
    """Whether it leaves the margin asked for, as the machine is taken or `surely`."""
    if run.margin_pu is None:
        return False
    margin = weaker_margin(simulation.plant, run.margin_pu, simulation.settings) if surely else run.margin_pu
    return margin >= simulation.settings.margin_pu


def seek(
    simulation: Simulation, method: str, options: Sequence[float], keeps: Callable[[float], object],
    starts: Callable[[float, bool], bool], begin: int = 0,
) -> None:  # fmt: skip
    """The least of a way's settings that surely starts, its largest where none does; `keeps` keeps the start with one.

    Where that sags the board past its limit, the most below it that does not, if it starts as the machine is taken:
    then whether it keeps its promises decides, and not the source.
    """
    place = begin
    keeps(options[place])
    while not starts(options[place], True) and place + 1 < len(options):
        place += 1
        keeps(options[place])
    if not _sags(simulation, method):
        return
    surely = simulation.found[method]
    for option in reversed(options[:place]):
        keeps(option)
        if not starts(option, False):
            break
        if not _sags(simulation, method):
            return
    simulation.found[method] = surely


def _sags(simulation: Simulation, method: str) -> bool:
    """Whether the start that is kept sags the main board past its limit."""
    course, before = simulation.found[method].course, float(simulation.before[0])
    if simulation.dip_limit_pu is None or not course.pieces:
        return False
    return 1 - float(course.all("bus_pu")[0].min()) / before > simulation.dip_limit_pu
