"""What is promised of the machine's torque: stated, else a standard's floor, else usual and said to be so."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core import quantity as q
from vinegate.core.arrays import Array
from vinegate.core.facts import Circuit
from vinegate.core.machine.design import ABOVE_A_FLOOR, Floor, least_torques, usual_locked_rotor
from vinegate.core.records import dataclass
from vinegate.core.sheet import Sheet
from vinegate.core.turning import Taken
from vinegate.core.working import Provenance

_USUAL_BREAKDOWN: Final = Floor(value_pu=2.0, source="usual of cage machines; no design letter or table says more")
_USUAL_BAND: Final = (0.6, 1.5)
# A machine for general use bears 1.6 times rated torque for a moment (IEC 60034-1:2022 9.4.1): 0.8 of the usual twice.
_USUAL_BREAKDOWN_BAND: Final = (0.8, 1.5)
_FITTED_ANEW: Final = 0.98
"""Of a torque typed where none was given: the circuit is fitted anew, and its curve moves by so much; ours."""
_SADDLE_PU: Final = (
    0.7  # of locked-rotor torque, where nothing is promised (NEMA MG 1 12.40, IEC 60034-12 in the middle)
)
_NAMES: Final = {
    "locked_rotor": ("Locked-rotor torque, of rated", "T_LR", "locked-rotor torque"),
    "pull_up": ("Pull-up torque, of rated", "T_u", "pull-up torque"),
    "breakdown": ("Breakdown torque, of rated", "T_bd", "breakdown torque"),
}
# Speeds, of synchronous, between which the promised least is drawn: the saddle may lie anywhere between them.
_SADDLE: Final = (0.1, 0.6)
_PEAK: Final = 0.88


_STRONGER: Final = 0.55
"""Time and heat of a start by a machine that gives more torque than it is promised to, of those as simulated."""
WEAKER: Final = 100.0
"""At most: of one that hardly gains speed."""


def strength(promise: Promise | None, heats: tuple[float, float] = (1.0, 1.0)) -> Taken:
    """The model's own band of a start's time and heat: no single fact settles it. None where the curve is given.

    `heats` are what the strongest and the weakest machine within its promise heat, of that as simulated
    (`Laden.stronger`): where the load takes nearly all of its torque, far less and far more than one that starts
    lightly.
    """
    low, high = (min(_STRONGER, heats[0]), min(max(1.0, heats[1]), WEAKER)) if promise is not None else (1.0, 1.0)
    return Taken(label="the machine's torque beside what is promised", value=1.0, low=low, high=high)


@dataclass(frozen=True, slots=True, kw_only=True)
class Promised:
    """One torque in per cent of rated, with its band; `is_least` where it is a floor."""

    taken: Taken
    is_least: bool

    @property
    def value_pu(self) -> float:
        return self.taken.value / 100


@dataclass(frozen=True, slots=True, kw_only=True)
class Promise:
    """The three torques that are promised on the way up."""

    locked_rotor: Promised
    pull_up: Promised
    breakdown: Promised

    def most_pu(self, speed_pu: Array) -> Array:
        """What the machine surely gives at most of these speeds, of rated torque: no curve is taken above it.

        Locked-rotor torque at rest, pull-up torque wherever the saddle may lie, breakdown torque from where it is
        reached.
        """
        speeds = (0.0, *_SADDLE, _PEAK)
        saddle = self.pull_up.value_pu
        torques = (self.locked_rotor.value_pu, saddle, saddle, max(self.breakdown.value_pu, saddle))
        return np.asarray(np.interp(speed_pu, speeds, torques))

    @property
    def weakest(self) -> float:
        """The share of its torques that a machine within its promise may fall short to."""
        parts = (self.locked_rotor.taken, self.pull_up.taken, self.breakdown.taken)
        return min(part.low / part.value for part in parts)

    @property
    def weakest_assumed(self) -> float:
        """The same of those torques alone that nobody gave, and no standard promises."""
        parts = (self.locked_rotor.taken, self.pull_up.taken, self.breakdown.taken)
        return min((part.low / part.value for part in parts if part.how == "assumed"), default=1.0)

    @property
    def is_least(self) -> bool:
        """Whether any of them is a floor, above which the machine's own lies."""
        return any(part.is_least for part in (self.locked_rotor, self.pull_up, self.breakdown))

    @property
    def breakdown_not_given(self) -> tuple[Taken, ...]:
        """The breakdown torque where nobody gave it: it may lie below what is taken, or above the standard's least."""
        taken = self.breakdown.taken
        return (taken.sensed(1),) if taken.how and taken.wide else ()

    @property
    def strongest(self) -> float:
        """How many times its torques a machine within its promise may give."""
        return max(part.taken.high / part.taken.value for part in (self.locked_rotor, self.pull_up, self.breakdown))

    def at(self, speed_pu: float) -> Promised:
        """The one that decides at a speed."""
        for one in (self.locked_rotor, self.pull_up):
            if speed_pu < self.reach(one.taken)[1]:
                return one
        return self.breakdown

    def reach(self, taken: Taken) -> tuple[float, float]:
        """Speeds, of synchronous, between which a promise decides."""
        if taken is self.locked_rotor.taken:
            return 0.0, _SADDLE[0] / 2
        middle = (_SADDLE[1] + _PEAK) / 2
        return (_SADDLE[0] / 2, middle) if taken is self.pull_up.taken else (middle, 2.0)


def promise_of(
    sheet: Sheet,
    circuit: Circuit,
    power_w: float,
    poles: int,
    tolerance: tuple[float, float],
    *,
    may_be_d: bool = False,
) -> Promise:
    """The three torques on the sheet. `tolerance` is the rule set's on a stated torque, as multiples; what nobody gave
    of a machine that may be of design D may be as much as that gives.
    """
    floors = least_torques(power_w=power_w, poles=poles, design=circuit.plate.design_letter or "")
    open_d = may_be_d and circuit.machine.locked_rotor_torque_pu is None  # which would tell
    strong = least_torques(power_w=power_w, poles=poles, design="D" if open_d else "").locked_rotor
    up_to = ABOVE_A_FLOOR * strong.value_pu if strong is not None else 0.0

    def promised(which: str, floor: Floor | None, usual: Floor) -> Promised:
        band = (1.0, ABOVE_A_FLOOR) if floor else _band(which, usual, up_to)
        return _promised(sheet, circuit, which, floor or usual, tolerance, band, usual=not floor)

    usual_at_rest = usual_locked_rotor(power_w=power_w, poles=poles)
    at_rest = promised("locked_rotor", floors.locked_rotor, usual_at_rest)
    most = promised("breakdown", floors.breakdown, _USUAL_BREAKDOWN)
    saddle = floors.pull_up or (floors.locked_rotor if circuit.plate.design_letter == "D" else None)
    usual = Floor(value_pu=_SADDLE_PU * at_rest.value_pu, source="usual: 70 % of locked-rotor torque")
    return Promise(locked_rotor=at_rest, breakdown=most, pull_up=promised("pull_up", saddle, usual))


def _band(which: str, usual: Floor, up_to: float) -> tuple[float, float]:
    """Of a torque that is only usual, in times of it: at its most `up_to` so much of rated, where that is more."""
    low, high = _USUAL_BREAKDOWN_BAND if which == "breakdown" else _USUAL_BAND
    return low, max(high, up_to / usual.value_pu)


def stated(which: str, value_pu: float, low: float = 1.0, high: float = 1.0) -> Promised:
    """A torque, per unit of rated, that may be so many times that; given where it has no band."""
    how = "assumed" if high > low else ""
    label, path = _NAMES[which][2], f"machine.{which}_torque"
    taken = _taken(path, label, 100 * value_pu, low, high, typed=(1.0, 1.0), how=how)
    return Promised(taken=taken, is_least=False)


def _promised(
    sheet: Sheet,
    circuit: Circuit,
    which: str,
    floor: Floor,
    tolerance: tuple[float, float],
    band: tuple[float, float],
    *,
    usual: bool,
) -> Promised:
    name, symbol, label = _NAMES[which]
    key, path = f"{which}_torque", f"machine.{which}_torque"
    stated = getattr(circuit.machine, f"{which}_torque_pu")
    if stated is not None:
        sheet.given(key, name, symbol, 100 * stated, "%", provenance=circuit.source_of(path))
        low, high = tolerance
        return Promised(taken=_taken(path, label, 100 * stated, low, high, typed=tolerance), is_least=False)
    low, high = band
    provenance = Provenance.ASSUMED if usual else Provenance.TABLE
    source = floor.source
    sheet.given(key, f"{name}, at least", symbol, 100 * floor.value_pu, "%", provenance=provenance, source=source)
    how = "assumed" if usual else "the standard's least"
    typed = _FITTED_ANEW * tolerance[0], tolerance[1]
    taken = _taken(path, label, 100 * floor.value_pu, low, high, typed=typed, how=how)
    return Promised(taken=taken, is_least=True)


def _taken(
    path: str, label: str, value: float, low: float, high: float, *, typed: tuple[float, float], how: str = ""
) -> Taken:
    return Taken(
        path=path, label=label, unit="%", value=value, low=low * value, high=high * value, how=how, typed=typed,
        given=not how, possible=(100 * q.TORQUE_RATIO.least, 100 * q.TORQUE_RATIO.most),
    )  # fmt: skip
