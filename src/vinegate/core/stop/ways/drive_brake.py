"""A drive's ramp nearly to rest, then the brake: the lining hardly wears."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.facts import Circuit
from vinegate.core.grade import Answer, Gate, breaks
from vinegate.core.numbers import write
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.bands import rests
from vinegate.core.stop.courses import Slowing, Turning, slow, with_steps
from vinegate.core.stop.drive import (
    RAMP_SETTINGS,
    RAMP_SIZES,
    RESISTOR_SETTINGS,
    asks_nm,
    closes_pu,
    closing_j,
    drive_gives_nm,
    ramp_s,
)
from vinegate.core.stop.friction import SETTINGS, SIZES, brake_course, brake_torque
from vinegate.core.stop.resistor import taken_gates
from vinegate.core.stop.row import Acting, Doing, StopRow, row_of
from vinegate.core.stop.way import Handle, Way

_CAUTION: Final = (
    "When power fails the brake alone stops it, from full speed: it must be able to. Its coil is released by the "
    "drive's own contact on running, never from the motor's leads."
)


def _make(asked: Asked) -> StopRow:
    """The drive slows it nearly to rest, the brake closes on what is left and holds: the lining hardly wears."""
    seconds, torque_nm, share = ramp_s(asked), brake_torque(asked), closes_pu(asked)
    marked = torque_nm * (asked.stop.lining_pu or 1.0)

    def course(turning: Turning) -> Slowing:
        finer = turning.at(with_steps(turning.omega, (share * float(turning.omega[0]),)))
        torque = np.where(finer.omega > share * finer.omega[0], asks_nm(asked, finer), marked)
        nothing = np.zeros(torque.size)
        taken = np.maximum(torque, 0.0) * finer.omega
        return slow(finer, torque, line_a=nothing, rotor_w=nothing, outside_w=taken)

    closes = (1 - share) * seconds
    return row_of(
        asked,
        WAY,
        Doing(
            setting=f"{write(seconds, 3)} s, {write(torque_nm, 3)} N·m",
            course=course,
            caution=_CAUTION,
            steps=(
                "Stop: the drive lowers frequency and volts along its ramp, the brake's coil stays live.",
                f"After {write(closes, 3)} s, at {write(100 * share, 2)} % of speed, the drive's contact on running "
                "opens the coil's circuit.",
                "The brake closes on what is left, and holds; the drive lets go only then.",
            ),
            acting=lambda found: (
                Acting(name="ramp", from_s=0.0, to_s=closes),
                Acting(name="brake", from_s=closes, to_s=float(found.time_s[-1])),
            ),
            special=lambda _: _too_steep_before(asked, share) or _alone(asked),
        ),
    )


def _too_steep_before(asked: Asked, share: float) -> Answer | None:
    """The ramp's own torque, not the brake's."""
    before = [asks_nm(asked, turning)[turning.omega > share * turning.omega[0]] for turning in asked.corners]
    most = max((float(torque.max()) for torque in before if torque.size), default=0.0)
    rated, gives = asked.heavy.rated_nm, drive_gives_nm(asked)
    if most <= gives:
        return None
    text = f"The ramp asks {100 * most / rated:.0f} % of rated torque; the drive gives {100 * gives / rated:.0f} %."
    return breaks(f"{text} It would stretch the ramp, or trip.")


def _alone(asked: Asked) -> Answer | None:
    """When power fails the brake must do it from full speed."""
    if all(brake_course(asked, turning).stops_s is not None for turning in asked.corners):
        return None
    return breaks("When power fails the brake alone cannot stop it from full speed.")


def _closes(asked: Asked, _: StopRow) -> tuple[float, str]:
    """The ramp leaves little."""
    return closing_j(asked), f"what is left at {write(100 * closes_pu(asked), 3)} % of speed"


def _gates(circuit: Circuit, asked: Asked, _: StopRow) -> list[Gate]:
    return taken_gates(circuit, asked, rests(asked, WAY))


WAY = Way(
    key="drive-brake",
    name="drive ramp, then brake",
    phases=(3,),
    make=_make,
    settings=(*RAMP_SETTINGS, "stop.brake_at", *RESISTOR_SETTINGS, *SETTINGS),
    slows_first=True,
    by_frequency=True,
    closes=_closes,
    gates=_gates,
    handle=Handle(
        field="stop-brake_at",
        label="Brake closes at",
        at=lambda row: row.acting[1].from_s if len(row.acting) > 1 else None,
    ),
    sizes=(SIZES, RAMP_SIZES),
)
