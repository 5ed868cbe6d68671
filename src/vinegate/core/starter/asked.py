"""What the start, the stop and the starter's own facts ask of its circuit, and the shaft that the circuit runs."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.facts import Circuit as Facts
from vinegate.core.machine.slip_rings import first_torque
from vinegate.core.plate.kind import Family
from vinegate.core.records import replace
from vinegate.core.start.compare import MethodRow
from vinegate.core.start.first import first_connections
from vinegate.core.start.stage import StartStudy
from vinegate.core.start.way import star_share
from vinegate.core.start.ways import way_of
from vinegate.core.starter.armature import ON_RESISTOR
from vinegate.core.starter.circuits import braked_here
from vinegate.core.starter.facts import Starter
from vinegate.core.starter.heater import has_heater
from vinegate.core.starter.motor import Brakes, Shaft, Slow
from vinegate.core.starter.wishes import Wishes
from vinegate.core.stop.armature import speeds_of_stages
from vinegate.core.stop.stage import Stopping
from vinegate.core.stop.ways import way_of as stop_way_of

_USUAL_TAP: Final = 0.65
_USUAL_STEP_S: Final = 3.0
_USUAL_BRAKE_S, _USUAL_RESIDUAL_S = 3.0, 0.5
SPARE: Final = 1.2
"""Times its longest stop: what waits for a ramp waits a fifth longer."""
_HALF: Final = 0.5
"""Poles doubled: the one winding of two speeds."""


def wishes_of(
    circuit: Facts, facts: Starter, used: MethodRow | None, stopping: Stopping | None, line_a: float | None,
    steps: int = 1,
) -> Wishes:  # fmt: skip
    """All that is asked of the control, with what the start and the stop have found; `steps` of its resistor."""
    planned = changes_s(used) or circuit.start.changeover_s or circuit.start.part_delay_s or _USUAL_STEP_S
    wishes = Wishes(
        two_wire=facts.command == "two-wire",
        emergency=(facts.emergency or ("yes" if circuit.stop.emergency else "no")) == "yes",
        sensors=circuit.protection.thermistor == "yes",
        watches_phases=facts.phases == "yes",
        reverses=circuit.start.reversing == "yes",
        closed=circuit.start.transition == "closed", opened=circuit.start.transition == "open",
        after_s=round(facts.timer_s or planned, 3),
        steps_s=_steps_s(facts, used, steps),
        first_torque_pu=first_torque(circuit),
        pause_s=circuit.start.dead_time_s or 0.05,
        stations=facts.stations or 1,
        jog=facts.jog == "yes", repeats=circuit.protection.jogging == "yes",
        hands=facts.hands == "yes",
        single=circuit.plate.family is Family.SINGLE,
        changes_by=said if (said := ends_by(circuit, facts)) in ("operator", "speed") else "",
        star_share=star_share(circuit.start.starts_per_hour),
        behind=facts.links == "behind",
        limits=facts.limits == "yes",
        antiplug=facts.antiplug == "yes",
        follows=facts.follows == "yes",
        stands_by=bool(circuit.wiring.stands_by),
        lamps=facts.lamps if facts.lamps in ("green", "red") else "",
        heater=has_heater(circuit, facts),
        restart_s=restart_delay_s(circuit, facts),
        bypass=facts.bypass == "yes", no_bypass=facts.bypass == "no",
        ride_s=facts.ride_s or 0.0,
        tap=_tap(circuit, used),
        runs_on_s=facts.runs_on_s or 0.0, rests_s=facts.rests_s or 0.0, purges_s=facts.purges_s or 0.0,
        field_fed=circuit.plate.kind in ("dc-shunt", "dc-compound"),
        two_poles=facts.bypass_poles == "two",
    )  # fmt: skip
    wishes = _of_speeds(wishes, facts, line_a) if facts.speeds else wishes
    return _braking(wishes, circuit, stopping) if stopping is not None else wishes


def _of_speeds(wishes: Wishes, facts: Starter, line_a: float | None) -> Wishes:
    return replace(
        wishes, speeds=facts.speeds or "", five_poles=facts.high_closes == "five", compelling=facts.compelling == "yes",
        low_after_s=facts.low_after_s or 0.0, low_share=low_share(facts, line_a),
    )  # fmt: skip


def restart_delay_s(circuit: Facts, facts: Starter) -> float:
    """As said of the starter; else when the job's restart order has it, where it starts by itself."""
    by_itself = facts.command == "two-wire" or facts.hands == "yes"
    return facts.restart_s or (circuit.start.restart_at_s or 0.0 if by_itself else 0.0)


def _braking(wishes: Wishes, circuit: Facts, stopping: Stopping) -> Wishes:
    """The same with its way to stop: how long it brakes and waits before, as the stop's sheet has it, else as usual."""
    row = stopping.used if braked_here(stopping.chosen) else None
    acts = row.acting[0] if row and row.acting else None
    brake_s, residual_s = circuit.stop.dc_time_s or _USUAL_BRAKE_S, _USUAL_RESIDUAL_S
    if acts is not None:
        brake_s, residual_s = round(acts.to_s - acts.from_s, 1), round(acts.from_s, 3) or residual_s
    stages_s = _stages_s(circuit, stopping)
    if stop_way_of(stopping.chosen).slows_first:
        slows_s = round(SPARE * (stopping.used.time_s or _USUAL_BRAKE_S), 1)
        first = wishes.emergency and circuit.stop.emergency == "1"
        wishes = replace(wishes, slows_s=slows_s if first else 0.0, ramp_s=0.0 if row else slows_s)
    return replace(wishes, braking=stopping.chosen, brake_s=brake_s, residual_s=residual_s, stages_s=stages_s)


def _stages_s(circuit: Facts, stopping: Stopping) -> tuple[float, ...]:
    """How long each stage of a resistor across an armature stays in, by the slowest stop: at half the speed, and half
    of that again.
    """
    if stopping.chosen != ON_RESISTOR:
        return ()
    speeds = speeds_of_stages(circuit.stop.armature_stages)
    seconds, pct = stopping.used.strip_s, stopping.used.strip_pct
    if not seconds:
        return (_USUAL_STEP_S,) * len(speeds)
    ends = [float(np.interp(-100 * share, [-one for one in pct], seconds)) for share in speeds]
    return tuple(round(end - begun, 3) for begun, end in zip([0.0, *ends], ends, strict=False))


def _steps_s(facts: Starter, used: MethodRow | None, steps: int) -> tuple[float, ...]:
    """How long each step stays in, as the study has it; a timer that is given is the last one's, the others with it."""
    ends = [until_s for _, until_s in used.stages] if used is not None else []
    if len(ends) != steps:
        ends = [_USUAL_STEP_S * step for step in range(1, steps + 1)]
    times = facts.timer_s / ends[-1] if facts.timer_s and ends and ends[-1] else 1.0
    return tuple(round(times * (end - begun), 3) for begun, end in zip([0.0, *ends], ends, strict=False))


def ends_by(circuit: Facts, facts: Starter) -> str:
    """What ends the star: as said here, else as on the start's sheet; its timer where neither says."""
    return facts.changes_by or circuit.start.changeover_by or "timer"


def changes_s(used: MethodRow | None) -> float | None:
    """When its last connection begins; electronics are by-passed once it is at speed."""
    if used is None:
        return None
    if way_of(used.method).electronic:
        return used.time_s
    return used.last_change_s


def _tap(circuit: Facts, used: MethodRow | None) -> float:
    """What is chosen, what the study settled on, or the usual middle one."""
    if circuit.start.tap:
        return int(circuit.start.tap) / 100
    return used.value if used is not None and used.value is not None and used.value < 1 else _USUAL_TAP


def low_share(facts: Starter, line_a: float | None) -> float:
    """Amperes of low speed over the plate's; nought while either is not known."""
    return facts.low_current_a / line_a if facts.low_current_a and line_a else 0.0


def _slow(circuit: Facts, facts: Starter, line_a: float | None) -> Slow | None:
    """The low speed beside the plate's: poles doubled unless its speed is given; torque by the kind of winding.

    Variable torque goes with speed, power with its square; constant power has so much more torque (NEMA MG 1:2021,
    part 1: multispeed motors).
    """
    if not facts.speeds:
        return None
    plate, ratio = circuit.plate, _HALF
    if facts.speeds == "separate" and facts.low_speed_rpm and plate.speed_rpm:
        ratio = facts.low_speed_rpm / plate.speed_rpm
    torque = {"variable": ratio, "power": 1 / ratio}.get(facts.speeds, 1.0)
    return Slow(speed=ratio, torque=torque, amps=low_share(facts, line_a) or torque * ratio)


def _brakes(stopping: Stopping | None, running_pu: float) -> Brakes:
    """Of the way to stop in use, as its own sheet has it."""
    if stopping is None:
        return Brakes()
    used, way = stopping.used, stop_way_of(stopping.chosen)
    if way.direct:
        acts = [(running_pu * pct / 100, nm) for pct, nm in zip(used.strip_pct, used.strip_nm, strict=False) if nm > 0]
        ordered = sorted(dict(acts).items())
        return Brakes(speed_pu=tuple(s for s, _ in ordered), direct_nm=tuple(nm for _, nm in ordered))
    return Brakes(spring_nm=used.peak_nm if way.brakes_from_speed else 0.0)


def shaft_of(
    circuit: Facts, study: StartStudy, stopping: Stopping | None, facts: Starter, line_a: float | None
) -> Shaft | None:
    """The plan's machine in motion; None while a part of the start's study is missing."""
    if study.plant is None or study.comparison is None:
        return None
    return Shaft(
        plant=study.plant,
        firsts=first_connections(study.plant, circuit.start, study.comparison.row(study.chosen)),
        by_frequency=way_of(study.chosen).by_frequency,
        slow=_slow(circuit, facts, line_a),
        brakes=_brakes(stopping, float(study.plant.speed_pu[-1])),
    )
