"""How a circuit is fed: between lines, or from line to neutral."""

from __future__ import annotations

from typing import Final

from vinegate.core.drive.count import fed_to_neutral
from vinegate.core.facts import Circuit, Job
from vinegate.core.notebook import noted
from vinegate.core.plate.kind import Family
from vinegate.core.plate.volts import VoltsDesignation
from vinegate.core.records import dataclass
from vinegate.core.system_volts import SystemVolts, two_wires

_ROOT_3: Final = 3**0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Fed:
    """Volts of the board between lines, and those the motor gets; `neutral` where they are from line to neutral."""

    line_v: float
    volts_v: float
    neutral: bool

    @property
    def ways(self) -> float:
        """Lengths of run in the loop, as multiples of one conductor: the neutral comes back beside the line."""
        return 2.0 if self.neutral else 1.0


@noted
def fed(job: Job, circuit: Circuit) -> Fed | None:
    """What the motor's plate picks at its board. None without system volts.

    Three-phase machines stand between lines, unless the drive that feeds them takes a line and neutral. A single-phase
    one goes between two lines or from one to neutral, as it is said to where its plate has volts within 10 % of those;
    else where one of its plate's voltages is nearer: 115 V on 208Y/120 and 230 V on 400/230 from line to neutral, 230 V
    on 120/240 between lines.
    """
    if circuit.from_drive and fed_to_neutral(circuit):
        return fed_drive(job, circuit) or _between(job, circuit)
    between, to_neutral, plate = _between(job, circuit), _to_neutral(job, circuit), circuit.plate
    if plate.family is not Family.SINGLE or plate.volts is None or between is None or to_neutral is None:
        return between
    said = _SAID.get(len(circuit.wiring.lines or ""))
    if said is not None:
        asked = to_neutral if said else between
        if _off(plate.volts, asked.volts_v) <= _FITS:
            return asked
    nearer = _off(plate.volts, to_neutral.volts_v) < _off(plate.volts, between.volts_v)
    return to_neutral if nearer else between


def fed_drive(job: Job, circuit: Circuit) -> Fed | None:
    """What a drive in the circuit gets, whether or not it is in use. None without system volts, or without the neutral
    that it asks for."""
    return _to_neutral(job, circuit) if fed_to_neutral(circuit) else _between(job, circuit)


def _between(job: Job, circuit: Circuit) -> Fed | None:
    board_v = job.volts_at(circuit.wiring.board)
    return None if board_v is None else Fed(line_v=float(board_v), volts_v=float(board_v), neutral=False)


def _to_neutral(job: Job, circuit: Circuit) -> Fed | None:
    """None where its board has no neutral; one whose volts alone are given may have one."""
    board_v = job.volts_at(circuit.wiring.board)
    if board_v is None:
        return None
    neutral_v = board_v.neutral_v if isinstance(board_v, SystemVolts) else board_v / _ROOT_3
    return None if neutral_v is None else Fed(line_v=float(board_v), volts_v=neutral_v, neutral=True)


def _off(plate: VoltsDesignation, volts: float) -> float:
    """How far the nearest of a plate's voltages is from these, as a share."""
    return min(abs(connection.deviation_pu(volts)) for connection in plate.connections)


_SAID: Final = {1: True, 2: False}
"""Whether a machine that hangs on so many lines stands to neutral."""
_FITS: Final = 0.10
"""NEMA MG 1:2021 12.44, IEC 60034-1:2022 7.3 (zone B)."""


def two_lines(job: Job, circuit: Circuit) -> bool:
    """Whether the circuit's board has two lines and a neutral: one phase."""
    return two_wires(job.volts_at(circuit.wiring.board))


def volts_of(job: Job, circuit: Circuit) -> float | None:
    """The volts the motor gets at its board."""
    found = fed(job, circuit)
    return found.volts_v if found else None
