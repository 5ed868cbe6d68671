"""What a capture itself gives: current and power factor at rest, the source's impedance, the load's torque and inertia.

Offered as measured facts with their bands; taking one plans the circuit anew. Nothing is applied silently.
"""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.capture.features import Features
from vinegate.core.capture.process import Course
from vinegate.core.load.stage import Asked
from vinegate.core.numbers import write
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.record.found import Against
from vinegate.core.record.rerun import Turn
from vinegate.core.records import dataclass
from vinegate.core.start.connection import behave

_SATURATES: Final = 1.05
"""Power of the volts by which the current at rest goes: 1.0 to 1.1, for leakage that saturates."""
_READ: Final = 0.03
"""Band of a recorder with its clamps, a share."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Offer:
    """A fact as measured: where it would be typed, the text, its band in words; `path` empty where none takes it."""

    path: str
    label: str
    text: str
    band: str
    how: str


def offers(course: Course, found: Features, plan: Against) -> tuple[Offer, ...]:
    """What can be read from this capture, the most telling first."""
    every = (
        _at_rest(found, plan),
        _factor(found),
        _inertia(course, found, plan),
        _load(found, plan),
        _source(found, plan),
        _change(found, plan),
    )
    return tuple(one for one in every if one is not None)


def _at_rest(found: Features, plan: Against) -> Offer | None:
    """Brought to plate volts and full voltage: `I·s·(U_N/U)^1.05`."""
    if plan.turns is None or plan.volts_v is None or found.least_v is None or found.plateau_a <= 0:
        return None
    first = plan.turns[0].connection
    if first.series or first.rotor != 1.0:
        return None  # it stands behind ohms: what it draws without them is not measured
    scale = first.scale
    amps = found.plateau_a * scale * (plan.volts_v / found.least_v) ** _SATURATES
    low, high = (
        amps * (1 - _READ) * (plan.volts_v / found.least_v) ** -0.05,
        amps * (1 + _READ) * (plan.volts_v / found.least_v) ** 0.05,
    )
    return Offer(path="plate.locked_rotor_current", label=f"{plan.rules.words.locked_rotor.capitalize()} current",
                 text=f"{write(amps, 3)} A", band=f"{write(low, 3)} to {write(high, 3)} A",
                 how="held while starting, brought to plate volts" + (" and delta" if scale > 1.5 else ""))  # fmt: skip


def _factor(found: Features) -> Offer | None:
    if found.factor_rest is None or not 0.05 < found.factor_rest < 0.9:
        return None
    return Offer(path="", label="Power factor at rest", text=f"{found.factor_rest:.2f}", band="± 0.03",
                 how="from volts and amperes of the fundamental")  # fmt: skip


def _torque(course: Course, found: Features, plan: Against, turns: tuple[Turn, ...]):  # type: ignore[no-untyped-def]
    """Motor torque, acceleration and load torque along the start, N·m and rad/s²; None without speed or volts."""
    if course.speed_rpm is None or plan.plant is None or not course.volts or found.time_s is None:
        return None
    since = course.time_s - found.onset_s
    part = (since > 0.05) & (since < found.time_s * 0.97)
    if part.sum() < 12:
        return None
    time, omega = since[part], course.speed_rpm[part] * math.pi / 30
    smooth = np.polyval(np.polyfit(time, omega, 7), time)
    rate = np.gradient(smooth, time)
    behaviour = behave(plan.plant, [turn.connection for turn in turns])
    board = np.abs(behaviour.seen.volts(behaviour.line))[plan.plant.at] * plan.plant.board_v
    gap = (behaviour.torque + plan.plant.drag_nm) / board**2
    changes = np.array([turn.until_s or 0.0 for turn in turns[:-1]])
    if changes.size == 1 and found.change_s is not None:
        changes = np.array([found.change_s])
    row = np.searchsorted(changes, time)
    if changes.size:
        keep = np.abs(time[:, None] - changes).min(axis=1) > 0.15
        time, smooth, rate, row = time[keep], smooth[keep], rate[keep], row[keep]
        part = np.flatnonzero(part)[keep]
    if time.size < 8:
        return None
    volts = course.mean_v()[part]
    motor = np.array([np.interp(w, plan.plant.omega, gap[r]) for w, r in zip(smooth, row, strict=True)]) * volts**2
    load = np.interp(smooth, plan.plant.omega, plan.plant.load_nm + plan.plant.drag_nm)
    return motor, rate, load


def _inertia(course: Course, found: Features, plan: Against) -> Offer | None:
    """Least squares over the start: `T_M = J·dω/dt + c·T_L`; what is of load is what the rotor leaves."""
    if plan.turns is None or plan.load is None:
        return None
    rows = _torque(course, found, plan, plan.turns)
    if rows is None:
        return None
    motor, rate, load = rows
    table = np.column_stack([rate, load])
    answer, _, rank, _ = np.linalg.lstsq(table, motor, rcond=None)
    if rank < 2 or answer[0] <= 0:
        return None
    left = motor - table @ answer
    spread = float(np.sqrt(np.sum(left**2) / max(motor.size - 2, 1) * np.linalg.inv(table.T @ table)[0, 0]))
    outside = (float(answer[0]) - plan.load.rotor.value - plan.load.hung_kgm2) * _square(plan.load)
    if outside <= 0:
        return None
    share = max(2 * spread / float(answer[0]), 0.1)
    return Offer(path="load.inertia", label="Load inertia, at its own shaft", text=f"{write(outside, 3)} kg·m²",
                 band=f"± {100 * share:.0f} %, load × {write(float(answer[1]), 2)} with it",
                 how="least squares on the speed, with the machine's own torque at the measured volts")  # fmt: skip


def _square(load: Asked) -> float:
    """Inertia at the load's own shaft over the same at the motor's: the square of its gear."""
    here = load.load_inertia_kgm2 - load.hung_kgm2
    return load.inertia.value / here if here > 0 and load.inertia.value > 0 else 1.0


def _through(load: Asked) -> float:
    """Power at the load's own shaft over that at the motor's: what its gear leaves."""
    asked_w = load.torque_nm * load.full_speed_rpm * math.pi / 30
    own_w = load.power.value * (WATT_PER_HP if load.power.unit == "hp" else 1000.0)
    return own_w / asked_w if asked_w > 0 else 1.0


def _load(found: Features, plan: Against) -> Offer | None:
    """Shaft power from the running current, along the machine's own curve at the measured volts."""
    if plan.plant is None or found.running_a is None or found.running_v is None or plan.turns is None:
        return None
    if plan.load is None:
        return None
    plant, behaviour = plan.plant, behave(plan.plant, [plan.turns[-1].connection])
    board = np.abs(behaviour.seen.volts(behaviour.line))[plant.at] * plant.board_v
    amps = (np.abs(behaviour.line) * plant.amps_per_pu / board)[0] * found.running_v
    gap = ((behaviour.torque + plant.drag_nm) / board**2)[0] * found.running_v**2 - plant.drag_nm
    high = slice(int(np.argmax(gap)), None)
    if not amps[high].min() < found.running_a < amps[high].max():
        return None
    place = float(np.interp(-found.running_a, -amps[high], plant.axis[high]))
    torque, omega = float(np.interp(place, plant.axis, gap)), float(np.interp(place, plant.axis, plant.omega))
    doubt = ""
    if found.running_a < 1.3 * float(amps[-1]):
        doubt = "hardly known: the current is mostly magnetising"
    elif torque < (1 + plan.load.full_pu) / 2 * plan.load.torque_nm and plan.load.full_pu < 1:
        doubt = "as it starts: the rest of its load is not on yet"
    return Offer(
        path="" if doubt else "load.power",
        label="Shaft power at work, at the load's shaft",
        text=f"{write(torque * omega * _through(plan.load) / 1000, 3)} kW",
        band=doubt or "± 8 %",
        how="running amperes along the machine's curve",
    )


def _source(found: Features, plan: Against) -> Offer | None:
    """`|Z| = ΔU/(√3·I·cos(θ_z − φ))`, its angle as planned; as a fault level at the point of measurement."""
    if (
        found.dip_pct is None
        or found.dip_pct < 0.5
        or found.before_v is None
        or found.least_v is None
        or plan.plant is None
    ):
        return None
    if found.factor_rest is None or found.largest_a <= 0:
        return None
    z = complex(plan.plant.seen.transfer_pu[plan.plant.at])
    angle = math.atan2(z.imag, z.real) - math.acos(min(found.factor_rest, 1.0))
    ohms = (found.before_v - found.least_v) / (math.sqrt(3) * found.largest_a * math.cos(angle))
    if ohms <= 0:
        return None
    amps, planned = (
        found.before_v / (math.sqrt(3) * ohms),
        plan.plant.board_v / (math.sqrt(3) * abs(z) * plan.plant.board_v**2 / 1e6),
    )
    return Offer(path="", label="Fault level where it was measured", text=f"{write(amps / 1000, 2)} kA",
                 band=f"± 15 %; plan {write(planned / 1000, 2)} kA there",
                 how="fall of the volts an ampere; compare it on the supply's sheet")  # fmt: skip


def _change(found: Features, plan: Against) -> Offer | None:
    if found.change_s is None or plan.row is None or plan.row.changes_at_s is None:
        return None
    return Offer(
        path="start.changeover",
        label="Change-over as it was",
        text=f"{write(found.change_s, 3)} s",
        band="± 0.02 s",
        how="the step in the current",
    )
