"""Starts that went otherwise than planned: the planned one with one thing made wrong, as physics has it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.record.found import Against
from vinegate.core.record.planned import Envelope, envelope
from vinegate.core.record.rerun import Turn, Volts, again
from vinegate.core.start.connection import FULL, wye
from vinegate.core.start.plant import Plant


@dataclass(frozen=True, slots=True, kw_only=True)
class Wrong:
    """What a fault changes: the machine and load, its turns, and then the envelope or the waves."""

    plant: Callable[[Plant], Plant] = lambda plant: plant
    turns: Callable[[tuple[Turn, ...]], tuple[Turn, ...]] = lambda turns: turns
    volts: Callable[[Array], Array] = lambda volts: volts
    shape: Callable[[Envelope], Envelope] = lambda found: found
    phases: tuple[float, float, float] = (1.0, 1.0, 1.0)
    """Share of the current in each phase once it runs."""
    volts_phases: tuple[float, float, float] = (1.0, 1.0, 1.0)
    amps_times: float = 1.0
    clip_pu: float = 0.0
    needs_change: bool = False
    """Only where the way in use changes over."""


def _heavier(times: float) -> Callable[[Plant], Plant]:
    return lambda plant: replace(plant, load_nm=plant.load_nm * times)


def _inertia(times: float) -> Callable[[Plant], Plant]:
    return lambda plant: replace(plant, inertia_kgm2=plant.inertia_kgm2 * times)


def _scaled(scale: float, gain: float) -> Callable[[tuple[Turn, ...]], tuple[Turn, ...]]:
    def turn(one: Turn) -> Turn:
        c = one.connection
        return replace(one, connection=replace(c, scale=c.scale * scale, gain=c.gain * gain))

    return lambda turns: tuple(turn(one) for one in turns)


def _late(seconds: float) -> Callable[[tuple[Turn, ...]], tuple[Turn, ...]]:
    return lambda turns: (replace(turns[0], until_s=(turns[0].until_s or 0.0) + seconds), *turns[1:])


def _after(times: float, angle: float = 0.0) -> Callable[[Envelope], Envelope]:
    """Running otherwise than started: amperes times so much, the angle more by so much, once it has settled."""

    def change(found: Envelope) -> Envelope:
        running = found.line_a[-1]
        settled = found.line_a < 1.3 * running
        settled &= np.cumsum(~settled[::-1])[::-1] == 0
        return replace(
            found,
            line_a=np.where(settled, found.line_a * times, found.line_a),
            angle_rad=np.where(settled, np.minimum(found.angle_rad + angle, 1.5), found.angle_rad),
        )

    return change


def _hangs(found: Envelope) -> Envelope:
    """It stays at half speed with most of its current."""
    hung = found.speed_pu > 0.5
    at = float(found.line_a[int(np.argmax(hung))])
    time = found.time_s * 1.5
    return replace(
        found, time_s=time, line_a=np.where(hung, at, found.line_a), speed_pu=np.minimum(found.speed_pu, 0.5)
    )


def _letter(found: Envelope) -> Envelope:
    """Three tenths more amperes until it is up, which is sooner by as much squared of its torque."""
    running = float(found.line_a[-1])
    starting = found.line_a > 1.5 * running
    last = found.time_s.size - 1 - int(np.argmax(starting[::-1]))
    time = found.time_s.copy()
    time[: last + 1] *= 0.62
    time[last + 1 :] -= found.time_s[last] * 0.38
    return replace(found, time_s=time, line_a=np.where(starting, found.line_a * 1.3, found.line_a))


def _spike(found: Envelope) -> Envelope:
    """The largest step grows for a few cycles."""
    rise = int(np.argmax(np.diff(found.line_a[found.time_s > 0]))) + 1
    time = float(found.time_s[rise])
    extra = np.linspace(time - 0.05, time + 0.12, 30)
    every = np.unique(np.concatenate([found.time_s, extra]))
    on = {
        name: np.interp(every, found.time_s, getattr(found, name))
        for name in ("line_a", "line_v", "speed_pu", "angle_rad")
    }
    near = np.exp(-(((every - time - 0.03) / 0.03) ** 2))
    on["line_a"] = on["line_a"] + near * 2.2 * float(found.line_a.max())
    return replace(found, time_s=every, **on)


def _pulses(found: Envelope) -> Envelope:
    """Running current that swings at twice the slip."""
    running = float(found.line_a[-1])
    begins = (
        float(found.time_s[np.argmax(found.line_a < 1.2 * running)]) if (found.line_a < 1.2 * running).any() else 0.0
    )
    ends = float(found.time_s[-1]) + 8.0
    extra = np.arange(begins, ends, 0.02)
    every = np.unique(np.concatenate([found.time_s, extra]))
    on = {
        name: np.interp(every, found.time_s, getattr(found, name))
        for name in ("line_a", "line_v", "speed_pu", "angle_rad")
    }
    swing = np.where(every > begins + 0.3, 0.06 * np.sin(2 * np.pi * 1.6 * every), 0.0)
    on["line_a"] = on["line_a"] * (1 + swing)
    return replace(found, time_s=every, **on)


def _dips(found: Envelope) -> Envelope:
    """The volts fall twice as far at the same current; the current is kept by what then flows."""
    fall = found.before_v - found.line_v
    return replace(found, line_v=found.before_v - 2.2 * fall - 0.01 * found.before_v)


FAULTS: Final[dict[str, Wrong]] = {
    "none": Wrong(),
    "in_wye": Wrong(turns=lambda turns: (Turn(connection=wye()),)),
    "in_delta": Wrong(turns=lambda turns: (Turn(connection=FULL),), needs_change=True),
    "strapped_high": Wrong(turns=_scaled(4.0, 0.25)),
    "strapped_low": Wrong(turns=_scaled(0.25, 4.0)),
    "single_phase": Wrong(phases=(1.73, 1.73, 0.0)),
    "instrument": Wrong(amps_times=2.0),
    "clipped": Wrong(clip_pu=0.7),
    "heavy": Wrong(plant=_heavier(1.2)),
    "inertia": Wrong(plant=_inertia(1.6)),
    "unloaded": Wrong(plant=_heavier(0.03)),
    "hangs": Wrong(shape=_hangs),
    "letter": Wrong(shape=_letter),
    "timer": Wrong(turns=_late(1.4), needs_change=True),
    "spike": Wrong(shape=_spike, needs_change=True),
    "weak_source": Wrong(shape=_dips),
    "low_volts": Wrong(volts=lambda volts: volts * 0.91),
    "overload": Wrong(shape=_after(1.25)),
    "winding": Wrong(shape=_after(1.25, 0.35)),
    "unbalance": Wrong(phases=(1.12, 0.97, 0.91), volts_phases=(1.02, 1.0, 0.98)),
    "pulses": Wrong(shape=_pulses),
    "reversed": Wrong(plant=_heavier(0.55)),
}
"""By the key of the cause that should be ranked first."""


def made_wrong(plan: Against, wrong: Wrong) -> Envelope | None:
    """The start with that fault; None where the plan has no start that can be run again, or no change-over."""
    whole = envelope(plan)
    if whole is None or plan.plant is None or plan.turns is None:
        return None
    if wrong.needs_change and plan.turns[0].until_s is None:
        return None
    plant, turns = wrong.plant(plan.plant), wrong.turns(plan.turns)
    run = again(plant, turns, Volts(time_s=whole.time_s, line_v=wrong.volts(whole.line_v)))
    ends = max(float(run.time_s[-1]) * 1.4, float(run.time_s[-1]) + 3.0)
    last = run.running_a if run.duration_s is not None else float(run.line_a[-1])
    time = np.append(run.time_s, [run.time_s[-1] + 0.02, ends])
    line = np.append(run.line_a, [last, last])
    speed = np.append(run.speed_pu, [run.speed_pu[-1]] * 2)
    before = float(wrong.volts(np.array([whole.before_v]))[0])
    sags = _sagged(whole, line)
    found = replace(
        whole, time_s=time, line_a=line, speed_pu=speed, line_v=wrong.volts(sags), before_v=before,
        angle_rad=np.interp(speed, plan.plant.speed_pu, np.angle(plan.plant.z_motor + plan.plant.z_run)),
    )  # fmt: skip
    return wrong.shape(found)


def _sagged(whole: Envelope, line: Array) -> Array:
    """Volts as the same source gives them under these amperes: the planned fall an ampere."""
    fall = (whole.before_v - whole.line_v[0]) / max(float(whole.line_a[0]), 1e-9)
    return np.asarray(whole.before_v - fall * line)
