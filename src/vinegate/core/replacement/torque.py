"""Torque against speed, old and new, from rest to where either has its most: as promised, and against the load."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.machine.curves import run_at
from vinegate.core.machine.describe import Machine
from vinegate.core.numbers import write
from vinegate.core.plate.kind import Family
from vinegate.core.records import dataclass
from vinegate.core.replacement.electric import synchronous_rpm
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import Pair

_COUNT: Final = 121
_SAME_PU: Final = 0.98
_SAME_POLES: Final = 0.02
_SOURCE: Final = "each machine's curve at the volts here, held to what its design or maker promises (decision 0025)"


@dataclass(frozen=True, slots=True, kw_only=True)
class Range:
    """Torques in N·m at the same speeds, from rest to the breakdown of the one that has its own first.

    `load` is what the driven machine asks, `most` the upper end of its band; None while it is not known.
    """

    speed_rpm: Array
    old: Array
    new: Array
    load: Array | None
    most: Array | None

    @property
    def weakest(self) -> tuple[float, float]:
        """The least of new over old, and the speed of it."""
        shares = self.new / self.old
        place = int(np.argmin(shares))
        return float(shares[place]), float(self.speed_rpm[place])

    def spare(self, asked: Array) -> tuple[float, float]:
        """The least of the new one's torque over what is asked, and the speed of it."""
        shares = self.new / np.maximum(asked, 1e-9)
        place = int(np.argmin(shares))
        return float(shares[place]), float(self.speed_rpm[place])


def torque_row(pair: Pair, old: Machine | None, new: Machine | None) -> Row | None:
    """None where either is no cage machine: its kind or its rings are compared instead."""
    if {pair.old.plate.family, pair.new.plate.family} != {Family.CAGE}:
        return None
    row = Said("torque", "Torque from rest to speed", _shown(old), _shown(new))
    if old is None or new is None:
        return row.lacking("power, volts, amperes, speed and amperes at rest")
    if not _same_poles(pair):
        return row.put(fits=Fits.UNKNOWN, text="", needs=("the load's torque at the new motor's shaft",))
    unsure = [side for side, machine in (("old", old), ("new", new)) if not _promised(machine)]
    if unsure:
        needs = tuple(f"the {side} plate's design letter or torques" for side in unsure)
        return row.put(fits=Fits.UNKNOWN, text="", needs=needs)
    return _judged(pair, row, range_of(pair, old, new))


def _shown(machine: Machine | None) -> str:
    if machine is None:
        return ""
    top = _held(machine, np.linspace(0.0, 0.999, 400), machine.volts_v) / machine.rated_torque_nm
    return f"{write(100 * float(top[0]), 3)} % at rest, {write(100 * float(top.max()), 3)} % at most"


def _same_poles(pair: Pair) -> bool:
    old, new = synchronous_rpm(pair.old), synchronous_rpm(pair.new)
    return old is not None and new is not None and abs(old / new - 1) <= _SAME_POLES


def _promised(machine: Machine) -> bool:
    """Whether its torques rest on a curve, a statement or a standard's least, not on what is usual."""
    if machine.promise is None:
        return machine.origin != "simple"
    parts = (machine.promise.locked_rotor, machine.promise.breakdown)
    return all(part.taken.how != "assumed" for part in parts)


def _held(machine: Machine, speed_pu: Array, volts_v: float) -> Array:
    """Torque at these shares of synchronous speed: no curve above what is promised; with the square of the volts."""
    slip = np.maximum(1 - speed_pu, 1e-6)
    torque = run_at(machine.circuit, slip, volts_v=machine.volts_v).torque_nm
    if machine.promise is not None:
        torque = np.minimum(torque, machine.promise.most_pu(speed_pu) * machine.rated_torque_nm)
    return np.asarray(torque * (volts_v / machine.volts_v) ** 2)


def range_of(pair: Pair, old: Machine, new: Machine) -> Range:
    """Both at the volts of the supply; one whose plate is of another frequency as it is used here."""
    speed_pu = np.linspace(0.0, 0.999, _COUNT)
    here = pair.supply.volts_v if pair.supply is not None else old.volts_v
    torques = [_held(machine, speed_pu, here) for machine in (old, new)]
    until = 1 + min(int(np.argmax(torque)) for torque in torques)
    synchronous = synchronous_rpm(pair.old) or 0.0
    rpm = speed_pu[:until] * synchronous
    load, most = None, None
    if pair.load is not None:
        asked = pair.load.along(rpm)
        load = pair.load_times * asked(pair.load.breakaway_pu)
        band = 1.0 if pair.measured else pair.load.power.high / pair.load.power.value
        most = band * pair.load_times * asked(pair.load.breakaway.high / 100)
    return Range(speed_rpm=rpm, old=torques[0][:until], new=torques[1][:until], load=load, most=most)


def _judged(pair: Pair, row: Said, found: Range) -> Row:
    share, rpm = found.weakest
    unit = pair.rules.words.speed_unit
    if share >= _SAME_PU:
        return row.put(fits=Fits.SAME, text="At every speed on the way up at least the old one's.", source=_SOURCE)
    text = f"At {write(rpm, 3)} {unit} it gives {100 * share:.0f} % of the old one's torque."
    if found.load is None or found.most is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("what the load asks on the way up",))
    (sure, at), (usual, worst) = found.spare(found.most), found.spare(found.load)
    if usual < 1:
        return row.put(
            fits=Fits.NOT,
            text=f"{text} At {write(worst, 3)} {unit} that is {100 * usual:.0f} % of what the load asks.",
            source=_SOURCE,
            task="A stronger motor, or a load that starts lighter.",
        )
    if sure < 1:
        return row.put(fits=Fits.UNKNOWN, text="", needs=(_decider(pair, at),))
    return row.put(
        fits=Fits.WITH,
        text=f"{text} It leaves {sure:.2f} × what the load asks at most, across the line.",
        source=_SOURCE,
        task="Look at its start below; try the heaviest start.",
    )


def _decider(pair: Pair, rpm: float) -> str:
    assert pair.load is not None
    slow = rpm < pair.load.full_speed_rpm * 0.1
    return "the load's breakaway torque" if slow else "the load's power at full speed"
