"""What every part of the drive's sheet is worked from: the facts, the motor as it is strapped, and its load."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.drive.facts import Drive
from vinegate.core.drive.flux import Turning, turning_of
from vinegate.core.drive.points import OperatingPoint, Speed
from vinegate.core.facts import Circuit, Job
from vinegate.core.load.stage import Asked
from vinegate.core.machine.describe import Machine
from vinegate.core.plate.rated import Rated
from vinegate.core.plate.stage import PLATE
from vinegate.core.plate.volts import Connection
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.tables import load
from vinegate.core.turning import Taken
from vinegate.core.work import Work
from vinegate.core.working import Figure, Said

_STRAP_CLOSE = 0.06
_LOWER = 1.2
"""Volts of one connection over those of another from which they are two, and not two names of one."""

_FALLS: Final = 0.4  # of full torque at half speed; with its square 0.25, linearly 0.5


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Need:
    """The circuit behind a drive. Volts and amperes are those of the connection in which the motor is strapped.

    `base_hz` is the plate's frequency, `top_hz` the one at which the line's volts are reached; `ratio` the volts of the
    plate's connection for this line over those of the one in use (√3 for delta in place of wye), 1 where they are one.
    """

    sheet: Sheet
    job: Job
    circuit: Circuit
    rules: RuleSet
    facts: Drive
    rated: Rated
    machine: Machine
    load: Asked
    turning: Turning
    line_v: float
    plate_v: float
    plate_a: float
    base_hz: float
    top_hz: float
    ratio: float
    rated_nm: float
    rated_rpm: float
    synchronous_rpm: float
    poles: int
    lead_ohm: float | None
    """None where no run is given: the machine is then worked as at its own terminals."""
    fault_a: float | None
    motors: int
    preset: dict[str, str]

    @property
    def slip(self) -> float:
        return 1 - self.rated_rpm / self.synchronous_rpm

    @property
    def power_w(self) -> float:
        return self.rated.power_w or 0.0

    @property
    def unit(self) -> str:
        return self.rules.words.speed_unit

    def rpm_of(self, speed: Speed) -> float:
        """Turns a minute of the shaft; at hertz with the slip's share at its plate."""
        if speed.unit == "%":
            return speed.value / 100 * self.load.full_speed_rpm
        return speed.value if speed.unit == "rpm" else speed.value / self.base_hz * self.rated_rpm

    @property
    def least_rpm(self) -> float | None:
        return self.rpm_of(self.facts.least) if self.facts.least else None

    @property
    def most_rpm(self) -> float | None:
        return self.rpm_of(self.facts.most) if self.facts.most else None

    @property
    def load_power(self) -> Taken:
        """The load's power with its band: torque goes with it."""
        return self.load.power

    @property
    def breakdown(self) -> tuple[Taken, ...]:
        """The machine's breakdown torque, where nobody gave it."""
        return self.machine.breakdown_not_given


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Plain:
    """What is shown of the circuit beside the results: numbers, not facts."""

    unit: str
    us_units: bool
    base_hz: float
    plate_v: float
    plate_a: float
    rated_nm: float
    rated_rpm: float
    power_w: float
    motors: int
    load: Asked
    typed: tuple[OperatingPoint, ...]
    heaviest: float
    lightest: float


def plain(need: Need) -> Plain:
    """The circuit without its facts."""
    return Plain(
        unit=need.unit,
        us_units=need.rules.practice.us_units,
        base_hz=need.base_hz,
        plate_v=need.plate_v,
        plate_a=need.plate_a,
        rated_nm=need.rated_nm,
        rated_rpm=need.rated_rpm,
        power_w=need.power_w,
        motors=need.motors,
        load=need.load,
        typed=need.facts.points.points if need.facts.points else (),
        heaviest=need.facts.heaviest_pu or 1.0,
        lightest=need.circuit.stop.light_pu or 1.0,
    )


def stamped(figure: Figure | None) -> Said:
    """What stands here of a figure of the plate is as sure as it is there."""
    assert figure is not None  # a need is made with all of them
    return {"provenance": figure.provenance, "source": "the plate's sheet"}


def phases_of(need: Need) -> tuple[float, str]:
    """Of its input: what volts times amperes are multiplied by for power, and the same in a formula."""
    return (1.0, "") if need.facts.one_phase else (math.sqrt(3), "√3·")


def need_of(work: Work, sheet: Sheet, facts: Drive, machine: Machine, asked: Asked, fault_a: float | None,
            line_v: float, lead_ohm: float | None) -> Need:  # fmt: skip
    """The circuit as the drive sees it. Needs volts, current, speed, frequency and power of the plate."""
    rated = work.found(PLATE).rated
    assert rated.volts and rated.current and rated.speed and rated.frequency and rated.synchronous  # noqa: PT018
    ratio, top_hz = _strapped(work.circuit, rated, line_v, facts.base_hz)
    slip = 1 - rated.speed.value / rated.synchronous.value
    rated_nm = (rated.power_w or 0.0) / (rated.speed.value * math.pi / 30)
    most_nm = machine.promise.breakdown.value_pu * rated_nm if machine.promise else machine.most_nm
    turning = turning_of(
        machine.inside or machine.circuit, volts_v=machine.volts_v, rated_slip=max(slip, 1e-3),
        lead_ohm=(lead_ohm or 0.0) * ratio**2, most_nm=most_nm,
    ).strapped(ratio)  # fmt: skip
    row = load("drive_preset").find(kind=_usual_kind(asked))
    assert row is not None
    return Need(
        sheet=sheet,
        job=work.job,
        circuit=work.circuit,
        rules=work.rules,
        facts=facts,
        rated=rated,
        machine=machine,
        load=asked,
        turning=turning,
        line_v=line_v,
        plate_v=rated.volts.value / ratio,
        plate_a=rated.current.value * ratio,
        base_hz=rated.frequency.value,
        top_hz=top_hz,
        ratio=ratio,
        rated_nm=rated_nm,
        rated_rpm=rated.speed.value,
        synchronous_rpm=rated.synchronous.value,
        poles=round(120 * rated.frequency.value / rated.synchronous.value),
        lead_ohm=lead_ohm,
        fault_a=fault_a,
        motors=facts.motors or 1,
        preset=row,
    )


def lower_connection(circuit: Circuit, rated: Rated, line_v: float, base_hz: float | None) -> Connection | None:
    """The connection for fewer volts, where the drive's base frequency is set so much higher that it keeps its volts
    over frequency up to the line's volts (delta of 230Δ/400Y at 87 Hz). None: as on the line.
    """
    volts = circuit.plate.volts
    if base_hz is None or volts is None or rated.volts is None or rated.frequency is None:
        return None
    for connection in volts.connections:
        times = base_hz / rated.frequency.value / (line_v / connection.high_v)
        if rated.volts.value / connection.high_v > _LOWER and abs(times - 1) <= _STRAP_CLOSE:
            return connection
    return None


def _strapped(circuit: Circuit, rated: Rated, line_v: float, base_hz: float | None) -> tuple[float, float]:
    """Volts of the line's connection over those of the one in use, and the frequency at which the line's are reached.

    A base frequency below the plate's leaves the volts at the plate's frequency as they are.
    """
    assert rated.volts
    assert rated.frequency
    plate_hz, lower = rated.frequency.value, lower_connection(circuit, rated, line_v, base_hz)
    if base_hz is None or lower is None:
        return 1.0, max(base_hz or plate_hz, plate_hz)
    return rated.volts.value / lower.high_v, base_hz


def _usual_kind(asked: Asked) -> str:
    """Its kind; by points that fall with speed as those of fans and pumps do, as one of those."""
    if asked.kind != "points":
        return asked.kind
    half, full = asked.torque_at(np.array([0.5, 1.0]) * asked.full_speed_rpm)
    return "quadratic" if half <= _FALLS * full else asked.kind
