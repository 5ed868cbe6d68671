"""What goes in at the line for what comes out at the shaft: losses of motor and drive at any point."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.drive.duty import Row
from vinegate.core.drive.envelope import Laden
from vinegate.core.drive.made import LossPoints
from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, check
from vinegate.core.numbers import write
from vinegate.core.records import dataclass
from vinegate.core.tables import load
from vinegate.core.turning import Turns

HARMONIC_SHARE: Final = ((90e3, 0.15), (math.inf, 0.25))
_CORE_OF_FIXED: Final = 0.57
_DRIVE: Final = (0.25, 0.45, 0.30)
# Of the reference drive's loss, of which class IE2 stays below three quarters and IE0 is above five: assumed.
_LEAST_OF_REFERENCE: Final = 0.2
_MOST_OF_REFERENCE: Final = 2.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Losses:
    """Watts of one motor's share at rated load, from which those at other points follow.

    `fixed_w` are core, friction and stray at rated speed; `drive_w` the drive's at its rating, of the whole drive,
    `stated` by its maker or else the reference's.
    """

    fixed_w: float
    drive_w: float
    drive_a: float
    stated: bool
    points: LossPoints | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Input:
    """One point: watts at the shafts of all motors, lost in them and in the drive, and drawn from the line."""

    shaft_w: float
    motor_w: float
    drive_w: float

    @property
    def line_w(self) -> float:
        return self.shaft_w + self.motor_w + self.drive_w


def losses_of(supplied: Laden, efficiency: float, drive_a: float | None) -> Losses:
    """Fixed losses are what the rated point leaves beside copper; the drive's by its maker, else the reference's."""
    need = supplied.need
    whole = need.power_w * (1 / efficiency - 1)
    rated = supplied.need.turning
    synchronous = need.synchronous_rpm * math.pi / 30
    copper = 3 * need.plate_a**2 * (rated.r_ohm - (need.lead_ohm or 0.0)) + need.rated_nm * need.slip * synchronous
    amps = drive_a or need.plate_a * need.motors
    points = need.facts.loss_points
    given = points.watts(90.0, 100.0) if points and need.facts.loss_w is None else need.facts.loss_w
    watts = given if given is not None else reference_loss_w(math.sqrt(3) * need.line_v * amps / 1000)
    return Losses(
        fixed_w=max(whole - copper, 0.1 * whole), drive_w=watts, drive_a=amps, stated=given is not None, points=points
    )


def loss_gate(need: Need, losses: Losses) -> tuple[Gate, ...]:
    """A loss as its maker states it, that hardly a drive has: mostly read in another unit."""
    usual = reference_loss_w(math.sqrt(3) * need.line_v * losses.drive_a / 1000)
    low, high = _LEAST_OF_REFERENCE * usual, _MOST_OF_REFERENCE * usual
    if not losses.stated or low <= losses.drive_w <= high:
        return ()
    turns = Turns(
        path="drive.loss", label="the drive's loss",
        passes=f"between {write(low, 2)} and {write(high, 2)} W", passes_as=f"{write(usual, 3)} W",
    )  # fmt: skip
    text = f"{write(losses.drive_w, 3)} W at its rating; the reference drive of its size loses {write(usual, 3)} W. "
    text += f"Passes for {turns.label} {turns.passes}."
    remedy = "Read its maker's sheet again."
    return (check("drive.loss", "Loss as stated", turns, text, load("drive_loss").cite, remedy=remedy),)


def reference_loss_w(kva: float) -> float:
    """The reference drive's losses, between the rows by kVA; beyond them in proportion.

    >>> reference_loss_w(38.2), round(reference_loss_w(490))
    (1860.0, 20000)
    """
    rows = [(float(row["kva"]), float(row["watts"])) for row in load("drive_loss").rows]
    if kva >= rows[-1][0]:
        return rows[-1][1] * kva / rows[-1][0]
    below = (0.0, rows[0][1])
    for row in rows:
        if kva <= row[0]:
            return below[1] + (row[1] - below[1]) * (kva - below[0]) / (row[0] - below[0])
        below = row
    return below[1]


def input_of(need: Need, losses: Losses, row: Row) -> Input:
    """At a point: copper and rotor exact by the circuit, core with k^1.5, friction with k³, a share for harmonics."""
    k = row.hz / need.base_hz
    omega_rotor = row.rotor_hz * 4 * math.pi / need.poles
    copper = 3 * row.amps**2 * need.turning.r_ohm + row.point.nm * omega_rotor
    flux = min(1.0, row.volts / max(need.plate_v * k, 1e-9))
    fixed = losses.fixed_w * (_CORE_OF_FIXED * k**1.5 * flux**2 + (1 - _CORE_OF_FIXED) * k**3)
    harmonics = next(share for most, share in HARMONIC_SHARE if need.power_w <= most)
    motor = (copper + fixed) * (1 + harmonics)
    return Input(
        shaft_w=need.motors * row.point.nm * row.point.rpm * math.pi / 30,
        motor_w=need.motors * motor,
        drive_w=drive_loss_w(losses, need.motors * row.amps, 100 * k),
    )


def drive_loss_w(losses: Losses, amps: float, frequency_pct: float = 100.0) -> float:
    """By its maker's points (output current for torque current, a little less); else `p·(0.25 + 0.45·i + 0.30·i²)`.

    >>> whole = Losses(fixed_w=0, drive_w=1000, drive_a=60, stated=True)
    >>> drive_loss_w(whole, 60), drive_loss_w(whole, 0)
    (1000.0, 250.0)
    """
    i = amps / losses.drive_a
    if losses.points is not None:
        return losses.points.watts(min(frequency_pct, 100.0), 100 * i)
    constant, straight, square = _DRIVE
    return losses.drive_w * (constant + straight * i + square * i**2)
