"""The most a motor and its drive give at every speed: for ever, for a short time, and before it breaks down."""

from __future__ import annotations

import math
from dataclasses import fields
from functools import cached_property
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.drive.cooling import Cooling
from vinegate.core.drive.flux import Fluxed, Settled, Turning
from vinegate.core.drive.need import Need
from vinegate.core.drive.volts import Volts
from vinegate.core.records import dataclass

_COUNT: Final = 24
_LEAST_K: Final = 0.02
_ROUNDS: Final = 3
_FROM_REST: Final = np.geomspace(0.005, 0.6, 25)
_MOVES: Final = 0.02
_SLOW: Final = np.array([0.0, 0.02, 0.04, 0.08, 0.12, 0.16])
_AT_REST: Final = 0.005
_BEYOND: Final = 0.2
_SLIPS: Final = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Law:
    """How the drive's volts go with frequency: flux kept by vector control, else straight or square from a boost."""

    vector: bool
    square: bool
    boost_v: float
    plate_v: float
    most_v: float

    def volts(self, k: Array) -> Array:
        """Volts at frequencies `k` of the plate's, scalar control."""
        share = np.asarray(k, dtype=float)
        risen = np.where(share > 1, share, share**2) if self.square else share
        return np.asarray(np.minimum(self.boost_v + (self.plate_v - self.boost_v) * risen, self.most_v))


@dataclass(frozen=True, kw_only=True)
class Supplied:
    """Motor, volts and law together: what it does at any speed. Equal where all that it can do is."""

    turning: Turning
    plate_a: float
    rated_nm: float
    slip: float
    law: Law
    cooling: Cooling
    limit_a: float
    breakdown_times: float
    highest_v: float
    top_k: float
    """Where the line's volts are reached, over the plate's frequency."""
    limit_assumed: bool = False
    """Whether neither the drive's amperes nor a limit are given: `limit_a` is then a usual drive's."""

    @property
    def synchronous_rpm(self) -> float:
        """At the plate's frequency."""
        return self.turning.base_rad_s * 30 / math.pi

    def fluxed(self, k: Array) -> Fluxed:
        unit = self.turning.at(k)
        return unit.kept(self.law.most_v) if self.law.vector else unit.fed(self.law.volts(k))

    def settle(
        self, speed_rpm: Array, nm: Array, rounds: int = _ROUNDS, first: Fluxed | None = None
    ) -> tuple[Array, Settled, Fluxed]:
        """Frequency, per unit of the plate's, and state that give these torques at these speeds; the machine there.

        `first` is what `near` finds of these speeds, for whoever asks for several torques.
        """
        speed = np.asarray(speed_rpm, dtype=float) / self.synchronous_rpm
        fluxed = first if first is not None else self.near(speed_rpm)
        for _ in range(rounds - 1):
            fluxed = self.fluxed(np.maximum(speed + fluxed.rotor_at(nm), _LEAST_K))
        found = fluxed.at_torque(nm)
        k = speed + found.rotor_pu
        return np.maximum(k, _LEAST_K), found, fluxed

    def near(self, speed_rpm: Array) -> Fluxed:
        """The machine at the frequencies that give these speeds at rated slip."""
        speed = np.asarray(speed_rpm, dtype=float) / self.synchronous_rpm
        return self.fluxed(np.maximum(speed + self.slip, _LEAST_K))

    def continuous_nm(self, k: Array, fluxed: Fluxed | None = None) -> Array:
        """For ever: by the cooling, never more than rated, nor than rated power above the corner.

        At rest one phase may stand at its crest, with twice the copper loss of its rms: 1/√2 of the amperes there.
        """
        speed = self.speed_of(k)
        current = self.cooling.current_pu(speed, np.asarray(k) * self.turning.base_hz) * self.plate_a
        current = np.where(speed <= _AT_REST, np.minimum(current, self.plate_a / math.sqrt(2)), current)
        corner = min(self.law.most_v / self.law.plate_v, self.top_k)
        flux = np.minimum(1.0, corner / np.asarray(k, dtype=float))
        found = fluxed if fluxed is not None else self.fluxed(k)
        return np.asarray(np.minimum(found.at_current(current), self.rated_nm * flux))

    def short_nm(self, k: Array) -> Array:
        """For a short time: by the drive's overload amperes, and short of breakdown."""
        return self.fluxed(k).bounded(self.limit_a, self.breakdown_times)[0]

    @property
    def from_rest(self) -> tuple[float, float]:
        """The most torque at rest, N·m, and the frequency that gives it, Hz."""
        return self._pulls[0]

    @cached_property
    def _pulls(self) -> tuple[tuple[float, float], ...]:
        """The same at each of the low speeds: whatever slip that takes, as it comes from rest, short of breakdown."""
        found = self.fluxed(_FROM_REST)
        every = zip(*found.turning(_SLOW), strict=True)
        rest, *slow = (self._most_of(amps, torque) for amps, torque in every)
        most = float(found.breakdown_nm().max()) / self.breakdown_times
        return rest, *((min(nm, most), hertz) for nm, hertz in slow)

    def _most_of(self, amps: Array, torque: Array) -> tuple[float, float]:
        """Torque and frequency of the most within the drive's amperes, of those at each low frequency."""
        amps, k = np.maximum.accumulate(amps), _FROM_REST
        count = int(amps.searchsorted(self.limit_a, side="right"))
        if not count:
            return 0.0, float(k[0]) * self.turning.base_hz
        best = int(torque[:count].argmax())
        # the frequency, between two of these, at which the amperes are reached, beside those within them
        last = float(np.interp(self.limit_a, amps, k))
        most, at = max((float(torque[best]), -float(k[best])), (float(np.interp(last, k, torque)), -last))
        return most, -at * self.turning.base_hz

    def short_at(self, speed_rpm: Array, breaks: float = 1.0) -> Array:
        """For a short time, by speed; at rest and near it at whatever frequency gives most. `breaks`: so many times the
        breakdown torque that is taken.
        """
        speed = np.asarray(speed_rpm, dtype=float) / self.synchronous_rpm
        k = np.linspace(_MOVES, float(speed.max()) + _BEYOND, _COUNT)
        torque, rotor = self.fluxed(k).bounded(self.limit_a, self.breakdown_times / breaks)
        turns = k - rotor
        moving = turns > _MOVES
        speeds = np.concatenate([[0.0], turns[moving]])
        pulls = np.array([nm for nm, _ in self._pulls]) * min(breaks, 1.0)
        steady = np.interp(speed, speeds, np.concatenate([pulls[:1], torque[moving]]))
        return np.asarray(np.maximum(steady, np.interp(speed, _SLOW, pulls, right=0.0)))

    def most_at(self, speed_rpm: Array, fluxed: Fluxed, breaks: float = 1.0) -> tuple[Array, Array]:
        """For a short time and at breakdown, N·m, at these speeds: at the frequencies of `fluxed`, or with vector
        control at whatever frequency keeps the speed, which rises with the slip that more torque takes.
        """
        short = fluxed.bounded(self.limit_a, self.breakdown_times / breaks)[0]
        if not self.law.vector:
            return short, fluxed.breakdown_nm()
        kept = np.maximum(fluxed.breakdown_nm(), self._breakdown_kept(speed_rpm))
        return np.maximum(short, self.short_at(speed_rpm, breaks)), kept

    def _breakdown_kept(self, speed_rpm: Array) -> Array:
        """The largest torque at speeds that are kept, no more than is promised."""
        speed = np.asarray(speed_rpm, dtype=float) / self.synchronous_rpm
        k = np.linspace(_MOVES, float(speed.max()) + _SLIPS, 2 * _COUNT)
        return np.asarray(self.fluxed(k).turning(speed)[1].max(axis=1) * self.turning.held)

    def speed_of(self, k: Array) -> Array:
        """Speed over rated, about: the rated slip taken off."""
        slip = self.slip
        return np.asarray(np.maximum(np.asarray(k, dtype=float) - slip, 0.0) / (1 - slip))


@dataclass(frozen=True, kw_only=True, eq=False)
class Laden(Supplied):
    """The same with the circuit it is worked for: only while it is being planned."""

    need: Need

    @property
    def bare(self) -> Supplied:
        """Without the circuit's facts: what other stages keep."""
        return Supplied(**{one.name: getattr(self, one.name) for one in fields(Supplied)})


@dataclass(frozen=True, kw_only=True, eq=False)
class Envelope:
    """Over frequency, per unit of the plate's: speed, turns a minute, and torques, N·m, of one motor."""

    k: Array
    speed_rpm: Array
    continuous_nm: Array
    short_nm: Array
    breakdown_nm: Array
    volts_v: Array
    idle_a: Array


def envelope_of(supplied: Supplied, most_k: float) -> Envelope:
    """From near rest to beyond the fastest point."""
    k = np.linspace(_LEAST_K, max(most_k, 1.0) * 1.08, _COUNT)
    found = supplied.fluxed(k)
    speed_rpm = np.maximum(k - supplied.slip * np.minimum(1, k), 0.0) * supplied.synchronous_rpm
    short, breakdown = supplied.most_at(speed_rpm, found)
    return Envelope(
        k=k,
        speed_rpm=speed_rpm,
        continuous_nm=supplied.continuous_nm(k),
        short_nm=short,
        breakdown_nm=breakdown,
        volts_v=found.unit.volts[:, 0] * found.flux[:, 0],
        idle_a=found.amps[:, 0],
    )


def law_of(need: Need, volts: Volts, control: str) -> Law:
    """The drive's law of volts as it is set; a boost that is not said makes up the stator's drop at rated current."""
    facts = need.facts
    square = facts.curve == "square"
    vector = control != "scalar"
    drop = math.sqrt(3) * need.plate_a * need.turning.r_ohm
    usual = 0.0 if need.circuit.start.drive_boost == "no" else drop
    boost = facts.boost_pu * need.plate_v if facts.boost_pu is not None else usual
    return Law(vector=vector, square=square and not vector, boost_v=boost, plate_v=need.plate_v, most_v=volts.most_v)
