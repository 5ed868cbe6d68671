"""The supply as a radial network of per-unit impedances, solved for complex volts at every bus.

Base: 1 MVA three-phase and each bus's own line volts, so that transformers are plain impedances.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
import numpy.typing as npt

from vinegate.core.records import dataclass

BASE_VA = 1e6
_ROUNDS = 40
_CLOSE = 1e-10
_MOST_EMF = 2.5
_LOWEST_FOR_POWER = 0.7  # below this share of its volts a constant-power load is taken to give way like an impedance

Complex = npt.NDArray[np.complexfloating[Any, Any]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Bus:
    """A bus: its series impedance from the parent (or the source), its loads per unit, its base volts.

    `parent` is the index of the bus that feeds it, −1 for the source. `y_pu` is the admittance of impedances and
    capacitors, `s_pu` the power of constant-power loads (both lagging positive imaginary for s, negative for y).
    """

    key: str
    name: str
    parent: int
    z_pu: complex
    volts_v: float
    y_pu: complex = 0j
    s_pu: complex = 0j


@dataclass(frozen=True, slots=True, kw_only=True)
class Network:
    """Buses with parents before children, and the source's electromotive force per unit."""

    buses: tuple[Bus, ...]
    emf_pu: float

    def index(self, key: str) -> int:
        """The bus of that key. Raises KeyError."""
        for place, bus in enumerate(self.buses):
            if bus.key == key:
                return place
        raise KeyError(key)

    @property
    def has_power_loads(self) -> bool:
        return any(bus.s_pu for bus in self.buses)


@dataclass(frozen=True, slots=True)
class Seen:
    """The network from one bus, loads made linear: `V_k = open_k − transfer_k·I` for a current I drawn there.

    First axis is the bus; further axes are those the loads were made linear on.
    """

    at: int
    open_pu: Complex
    transfer_pu: Complex

    def volts(self, current_pu: Complex) -> Complex:
        """Volts at every bus while this current is drawn: (buses, …)."""
        extra = np.ndim(current_pu) - (self.open_pu.ndim - 1)
        shape = self.open_pu.shape[:1] + (1,) * max(extra, 0) + self.open_pu.shape[1:]
        volts: Complex = self.open_pu.reshape(shape) - self.transfer_pu.reshape(shape) * current_pu
        return volts


def solve(network: Network, *, at: int | None = None, y_pu: npt.ArrayLike = 0.0) -> Complex:
    """Volts at every bus with the admittance `y_pu` (any shape) put on bus `at`: (buses, …).

    Admittances are summed from the ends inwards, then volts follow outwards; constant-power loads are met by
    repeating. A radial network needs no matrix (Kersting, Distribution System Modeling, 3rd ed., section 10.1).
    """
    extra = np.asarray(y_pu, dtype=complex)
    volts: Complex = np.ones((len(network.buses), *extra.shape), dtype=complex)
    for _ in range(_ROUNDS):
        new = _sweep(network, _loads(network, volts), at, extra)
        done = not network.has_power_loads or float(np.max(np.abs(new - volts))) < _CLOSE
        volts = new
        if done:
            break
    return volts


def _loads(network: Network, volts: Complex) -> list[Complex]:
    """Admittance of each bus's loads at these volts."""
    found = []
    for bus, v in zip(network.buses, volts, strict=True):
        held = np.maximum(np.abs(v), _LOWEST_FOR_POWER) ** 2
        found.append(bus.y_pu + np.conj(bus.s_pu) / held)
    return found


def _sweep(network: Network, loads: Sequence[Complex], at: int | None, extra: Complex) -> Complex:
    total = [load + (extra if place == at else 0) for place, load in enumerate(loads)]
    for place in range(len(network.buses) - 1, 0, -1):
        bus = network.buses[place]
        total[bus.parent] = total[bus.parent] + total[place] / (1 + bus.z_pu * total[place])
    volts = np.empty((len(network.buses), *extra.shape), dtype=complex)
    for place, bus in enumerate(network.buses):
        above = network.emf_pu if bus.parent < 0 else volts[bus.parent]
        volts[place] = above / (1 + bus.z_pu * total[place])
    return volts


def seen_from(network: Network, at: int, volts: Complex | None = None) -> Seen:
    """The network from bus `at`, its constant-power loads held at the admittance they have at `volts`.

    Without `volts`, at those before the start. Found by one solution open and one with unit admittance.
    """
    if volts is None:
        volts = solve(network)
    loads = _loads(network, volts)
    shape = volts.shape[1:]
    nothing, unit = np.zeros(shape, dtype=complex), np.ones(shape, dtype=complex)
    open_pu = _sweep(network, loads, at, nothing)
    probed = _sweep(network, loads, at, unit)
    transfer = (open_pu - probed) / probed[at]
    return Seen(at=at, open_pu=open_pu, transfer_pu=transfer)


def fault_currents_a(network: Network) -> list[float]:
    """Three-phase fault current at each bus, amperes at its volts; loads and motors left out (IEC 60909-0, c = 1)."""
    z = _from_source(network)
    return [BASE_VA / (3**0.5 * bus.volts_v * abs(z_bus)) for bus, z_bus in zip(network.buses, z, strict=True)]


def shares_in_fault(network: Network, at: int) -> list[float]:
    """Of what a small machine at each bus feeds into a fault at its own terminals, the share that reaches one at `at`.

    While that bus is shorted another keeps `1 − Z_a/Z_b` of its volts: `Z_a` from the source to where the ways part,
    `Z_b` to the fault. The machine gives less by that, and of it the same share reaches the fault (reciprocity); the
    ohms of its own way only lessen it.
    """
    z, way = _from_source(network), _ways(network, at)
    return [abs(z[next(bus for bus in _ways(network, own) if bus in way)] / z[at]) ** 2 if z[at] else 1.0
            for own in range(len(z))]  # fmt: skip


def _from_source(network: Network) -> list[complex]:
    z: list[complex] = []
    for bus in network.buses:
        z.append(bus.z_pu + (z[bus.parent] if bus.parent >= 0 else 0))
    return z


def _ways(network: Network, bus: int) -> list[int]:
    """From a bus to the root."""
    way = [bus]
    while network.buses[way[-1]].parent >= 0:
        way.append(network.buses[way[-1]].parent)
    return way


class NotHeld(ValueError):
    """The generator cannot hold its volts before the start; the text is a sentence for the sheet."""


def with_regulated_root(network: Network) -> Network:
    """The same network with the emf that brings its first bus to 1.0 before the start: a generator on its regulator.

    Raises NotHeld when that takes more than 2.5 per unit.
    """
    emf = 1.0
    for _ in range(_ROUNDS):
        root = float(abs(solve(Network(buses=network.buses, emf_pu=emf))[0]))
        emf /= root  # exact at once where loads are impedances
        if emf > _MOST_EMF:
            raise NotHeld("The generator cannot hold its volts with the load already running.")
        if abs(root - 1) < _CLOSE:
            break
    return Network(buses=network.buses, emf_pu=emf)
