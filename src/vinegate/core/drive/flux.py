"""The machine at any frequency: torque, amperes and volts by rotor frequency, at rated flux or at what volts leave.

At a given gap flux torque and rotor current depend on the rotor's own frequency alone (Leonhard, Control of Electrical
Drives, 3rd ed., section 10.1; Bose, Modern Power Electronics and AC Drives, section 2.3). So a machine is kept as three
functions of rotor frequency; the stator's frequency adds its own drop of volts. A maker's curve is read the same way:
by rotor frequency, never by slip per unit.
"""

from __future__ import annotations

import math
from functools import cached_property, lru_cache
from typing import Final

import numpy as np
import numpy.typing as npt

from vinegate.core.arrays import Array
from vinegate.core.machine.circuit import ComplexArray, EquivalentCircuit, operate
from vinegate.core.machine.curves import Model
from vinegate.core.machine.tabulated import Tabulated, read_off
from vinegate.core.records import dataclass, replace

Index = npt.NDArray[np.intp]
_LEAST: Final = 1e-4
_MOST: Final = 2.0
_COUNT: Final = 112
_TINY: Final = 1e-9
_POWERS: Final = np.arange(5)
_SATURATED: Final = 1.2


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Turning:
    """A machine at rated flux, by rotor frequency `rotor_pu` of its own base frequency: arrays of one length.

    `gap_nm` torque of the gap. `amps2` and `volts2` are the squares of line amperes and of volts between lines as
    polynomials of the stator's frequency, lowest power first: arrays of (power, rotor frequency). `drag_nm` is friction
    at synchronous base speed; `idle_a` the magnetising current, `r_ohm` stator and lead.
    """

    rotor_pu: Array
    gap_nm: Array
    amps2: Array
    volts2: Array
    idle_a: float
    r_ohm: float
    base_hz: float
    base_rad_s: float
    drag_nm: float
    held: float = 1.0
    """Share of the largest torque that is promised, where the circuit has more."""

    def strapped(self, ratio: float) -> Turning:
        """The same winding joined for volts lower by `ratio`: amperes higher by it, torque the same."""
        if ratio == 1.0:
            return self
        return replace(
            self, amps2=self.amps2 * ratio**2, volts2=self.volts2 / ratio**2, idle_a=self.idle_a * ratio,
            r_ohm=self.r_ohm / ratio**2,
        )  # fmt: skip

    def at(self, k: Array) -> Unit:
        """Amperes and volts at rated flux at frequencies `k`, per unit of base: arrays of (k, rotor frequency)."""
        share = np.asarray(k, dtype=float)
        powers = np.asarray(share[:, None] ** _POWERS, dtype=float)
        return Unit(machine=self, k=share[:, None], powers=powers, volts=np.sqrt(powers @ self.volts2))


@dataclass(frozen=True, kw_only=True, eq=False)
class Unit:
    """At rated flux: line amperes and volts between lines for each frequency and rotor frequency."""

    machine: Turning
    k: Array
    powers: Array
    volts: Array

    @cached_property
    def amps(self) -> Array:
        of = self.machine.amps2
        return np.sqrt(self.powers[:, : of.shape[0]] @ of)

    def kept(self, most_v: float | Array) -> Fluxed:
        """Rated flux, as far as the volts reach: what a drive with vector control gives."""
        most = np.asarray(most_v, dtype=float)
        return Fluxed(unit=self, flux=np.minimum(1.0, (most[:, None] if most.ndim else most) / self.volts))

    def fed(self, volts_v: Array, *, most: float = _SATURATED) -> Fluxed:
        """Whatever flux these volts, one for each frequency, make: what a scalar drive gives.

        Above `most` of rated flux the iron takes the volts and gives no torque for them (estimated).
        """
        flux = np.asarray(volts_v, dtype=float)[:, None] / self.volts
        return Fluxed(unit=self, flux=np.minimum(flux, most))


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Settled:
    """What the machine does at asked torques: arrays. `reached` where it can."""

    rotor_pu: Array
    amps: Array
    volts: Array
    flux: Array
    reached: npt.NDArray[np.bool_]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Place:
    """One place between two rotor frequencies for each frequency: the last axis of its arrays."""

    low: Index
    high: Index
    part: Array

    def read(self, values: Array) -> Array:
        """These values there: an array of (frequency, rotor frequency) in, one value a place out."""
        rows = np.arange(len(values))
        at = values[rows, self.low]
        return np.asarray(at + self.part * (values[rows, self.high] - at))

    def along(self, values: Array) -> Array:
        """Of values that are the same for every frequency."""
        at = values[self.low]
        return np.asarray(at + self.part * (values[self.high] - at))


@dataclass(frozen=True, kw_only=True, eq=False)
class Fluxed:
    """The machine with its flux known, per unit of rated."""

    unit: Unit
    flux: Array

    @cached_property
    def shaft_nm(self) -> Array:
        """Torque at the shaft, N·m, for each frequency and rotor frequency: friction goes with the square of speed."""
        machine = self.unit.machine
        speed = self.unit.k - machine.rotor_pu
        return np.asarray(machine.gap_nm * self.flux**2 - machine.drag_nm * speed * np.abs(speed))

    @cached_property
    def tops(self) -> Index:
        """Where each frequency's largest torque is, with the rotor at rest or turning forwards."""
        forwards = self.unit.machine.rotor_pu <= self.unit.k * (1 + _TINY)
        return np.asarray(np.where(forwards, self.shaft_nm, -np.inf).argmax(axis=1))

    @cached_property
    def _before(self) -> npt.NDArray[np.bool_]:
        """Rotor frequencies up to each frequency's largest torque."""
        return np.asarray(np.arange(self.flux.shape[1]) <= self.tops[:, None])

    @cached_property
    def amps(self) -> Array:
        return np.asarray(self.unit.amps * self.flux)

    def breakdown_nm(self) -> Array:
        """Largest torque at the shaft at each frequency, no more than is promised."""
        return np.asarray(self.shaft_nm[np.arange(len(self.tops)), self.tops] * self.unit.machine.held)

    def at_torque(self, nm: Array) -> Settled:
        """Where the shaft gives these torques, one for each frequency, on the rising side."""
        wanted = np.asarray(nm, dtype=float)
        place = self._place(self.shaft_nm, wanted)
        flux = place.read(self.flux)
        return Settled(
            rotor_pu=place.along(self.unit.machine.rotor_pu),
            amps=place.read(self.amps),
            volts=flux * place.read(self.unit.volts),
            flux=flux,
            reached=wanted <= self.breakdown_nm(),
        )

    def rotor_at(self, nm: Array) -> Array:
        """The rotor's frequency alone at these torques."""
        return self._place(self.shaft_nm, nm).along(self.unit.machine.rotor_pu)

    def at_current(self, amps_a: float | Array) -> Array:
        """Torque at the shaft at these line amperes, at most the largest: one for each frequency.

        Nought where not even the magnetising current is left.
        """
        limits = np.full(len(self.tops), amps_a, dtype=float)
        found = self._place(self.amps, limits).read(self.shaft_nm)
        return np.where(limits < self.amps[:, 0], 0.0, found)

    def bounded(self, amps_a: float | Array, breakdown_times: float) -> tuple[Array, Array]:
        """Torque within these amperes and short of breakdown by so many times, and the rotor's frequency."""
        torque = np.minimum(self.at_current(amps_a), self.breakdown_nm() / breakdown_times)
        return torque, self.rotor_at(torque)

    def turning(self, speeds: Array) -> tuple[Array, Array]:
        """Line amperes and shaft torque, N·m, at each frequency while it turns at these speeds, per unit: arrays of
        (speed, frequency); without slip where the frequency is lower.
        """
        rotor = self.unit.machine.rotor_pu
        slips = np.maximum(self.unit.k[:, 0] - speeds[:, None], rotor[0])
        high = np.minimum(np.maximum(rotor.searchsorted(slips), 1), rotor.size - 1)
        place = Place(low=high - 1, high=high, part=(slips - rotor[high - 1]) / (rotor[high] - rotor[high - 1]))
        return place.read(self.amps), place.read(self.shaft_nm)

    def _place(self, rising: Array, wanted: Array) -> Place:
        """Where quantities that rise with the rotor's frequency, up to the largest torque, reach what is wanted."""
        rows = np.arange(len(self.tops))
        below = (rising < wanted[:, None]) & self._before
        high = np.minimum(np.maximum(np.count_nonzero(below, axis=1), 1), np.maximum(self.tops, 1))
        low = high - 1
        from_, to = rising[rows, low], rising[rows, high]
        part = np.minimum(np.maximum((wanted - from_) / np.where(to > from_, to - from_, 1.0), 0.0), 1.0)
        return Place(low=low, high=high, part=part)


@lru_cache(maxsize=128)
def turning_of(
    model: Model, *, volts_v: float, rated_slip: float, lead_ohm: float = 0.0, most_nm: float | None = None
) -> Turning:
    """The machine by rotor frequency, its flux that of the rated point at plate volts. `lead_ohm` joins the stator's.

    `most_nm` is the breakdown torque that is promised at plate volts, where there is a promise. Cached by its facts.
    """
    rotor = np.geomspace(_LEAST, _MOST, _COUNT)
    if isinstance(model, Tabulated):
        found = _of_curve(model, rotor, volts_v=volts_v, lead_ohm=lead_ohm)
    else:
        found = _of_circuit(model, rotor, volts_v=volts_v, rated_slip=rated_slip, lead_ohm=lead_ohm)
    if most_nm is None:
        return found
    top = float(found.at(np.ones(1)).fed(np.array([volts_v])).breakdown_nm()[0])
    return replace(found, held=min(most_nm / top, 1.0))


def _of_circuit(
    model: EquivalentCircuit, rotor: Array, *, volts_v: float, rated_slip: float, lead_ohm: float
) -> Turning:
    run = operate(model, rated_slip, volts_v=volts_v)
    phase = volts_v / math.sqrt(3)
    current = float(run.line_current_a) * complex(
        float(run.power_factor), -math.sqrt(max(1 - float(run.power_factor) ** 2, 0.0))
    )
    leak = float(model.changed(rated_slip)[0])
    gap_v = abs(phase - current * complex(model.r1_ohm, leak * model.x1_ohm))
    left, warmth = model.changed(rotor)
    drawn = gap_v * model.rotor_with(rotor, left, warmth)
    base = model.synchronous_rad_s()
    return _turning(
        rotor, np.asarray(3 * gap_v * drawn.real / base, dtype=float), drawn + gap_v / (1j * model.xm_ohm),
        core_a=gap_v / model.rfe_ohm if model.rfe_ohm else 0.0, gap_v=gap_v, r_ohm=model.r1_ohm + lead_ohm,
        x_ohm=np.asarray(left * model.x1_ohm, dtype=float), base_hz=model.frequency_hz, base_rad_s=base,
        drag_nm=model.drag_w / base,
    )  # fmt: skip


def _of_curve(model: Tabulated, rotor: Array, *, volts_v: float, lead_ohm: float) -> Turning:
    """A maker's curve: torque and amperes at plate volts by rotor frequency; beyond rest they stay as at rest.

    Its stator's drop is not known: volts are taken in proportion to frequency.
    """
    run = read_off(model, np.minimum(rotor, 1.0), volts_v=volts_v)
    idle = float(read_off(model, 0.0, volts_v=volts_v).line_current_a)
    working = np.sqrt(np.maximum(run.line_current_a**2 - idle**2, 0.0))
    return _turning(
        rotor, run.torque_nm, working - 1j * idle, core_a=0.0, gap_v=volts_v / math.sqrt(3), r_ohm=lead_ohm,
        x_ohm=np.zeros_like(rotor), base_hz=model.frequency_hz, base_rad_s=model.synchronous_rad_s(), drag_nm=0.0,
    )  # fmt: skip


def _turning(
    rotor: Array,
    gap_nm: Array,
    current: ComplexArray,
    *,
    core_a: float,
    gap_v: float,
    r_ohm: float,
    x_ohm: Array,
    base_hz: float,
    base_rad_s: float,
    drag_nm: float,
) -> Turning:
    """Squares of amperes and volts as polynomials of frequency: `I = I_0 + k·I_c`, `U = I·R + k·(E + jX·I)`."""
    volts = (current * r_ohm, core_a * r_ohm + gap_v + 1j * x_ohm * current, 1j * x_ohm * core_a)
    amps2 = np.array([np.abs(current) ** 2, 2 * core_a * current.real, np.full_like(rotor, core_a**2)])
    volts2 = np.zeros((5, rotor.size))
    for one, first in enumerate(volts):
        for two, second in enumerate(volts):
            volts2[one + two] += 3 * (first * np.conj(second)).real
    return Turning(
        rotor_pu=rotor,
        gap_nm=gap_nm,
        amps2=amps2,
        volts2=volts2,
        idle_a=abs(float(current[0].imag)),
        r_ohm=r_ohm,
        base_hz=base_hz,
        base_rad_s=base_rad_s,
        drag_nm=drag_nm,
    )
