"""What a circuit shall meet, and what follows from the rated point alone: the losses, split by size."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.machine.circuit import breakdown_slip
from vinegate.core.records import dataclass, replace

# Losses by size: the rotor's follow from the slip, stray from the standard, friction and windage are a usual share of
# all, the rest is split between winding and core.
_FRICTION: Final = 0.10
_MOST_DRAG: Final = 0.60
_WINDING: Final = 0.65
_WINDING_ENDS: Final = (0.5, 0.8)
"""Between these the winding's share lies, assumed."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Target:
    """What the circuit shall meet. SI units; torques in newton metres, at the gap.

    A torque `is_least` where it is a standard's floor: a circuit above it meets it. `r1_ohm` is that of the winding,
    per phase of the wye, where it was measured.
    """

    volts_v: float
    frequency_hz: float
    poles: int
    power_w: float
    current_a: float
    speed_rpm: float
    efficiency_pu: float
    locked_rotor_current_a: float
    locked_rotor_torque_nm: float
    breakdown_torque_nm: float
    locked_rotor_torque_is_least: bool = False
    breakdown_torque_is_least: bool = False
    pull_up_torque_nm: float | None = None
    r1_ohm: float | None = None

    @property
    def slip(self) -> float:
        synchronous = 120 * self.frequency_hz / self.poles
        return (synchronous - self.speed_rpm) / synchronous

    @property
    def breakdown_slip(self) -> float:
        """Slip at the largest torque by Kloss's formula."""
        torque = self.power_w / (self.speed_rpm * math.pi / 30)
        return min(breakdown_slip(rated_slip=self.slip, breakdown_pu=max(self.breakdown_torque_nm / torque, 1.05)), 0.5)


@dataclass(frozen=True, slots=True, kw_only=True)
class NoFit:
    """No circuit meets the plate: `odd` names the figure whose change lets one in, `reason` says it in words."""

    odd: str
    reason: str


@dataclass(frozen=True, slots=True)
class RatedPoint:
    """What follows from the rated point alone."""

    phase_v: float
    slip: float
    r1: float
    core_w: float
    drag_w: float
    gap_w: float
    current: complex


def assigned_stray(power_w: float) -> float:
    """Stray load loss, of the input: 2.5 % to 1 kW, 0.5 % from 10 MW, between them with the logarithm.

    IEC 60034-2-1:2014 6.1.3.2.4, assigned allowance `0.025 − 0.005·lg(P/1 kW)`.

    >>> round(assigned_stray(100e3), 4)
    0.015
    """
    return min(max(0.025 - 0.005 * math.log10(power_w / 1000), 0.005), 0.025)


def winding_off(target: Target, losses: tuple[float, float]) -> tuple[float, float]:
    """How far below and above the winding's ohms may lie, by losses between `losses` times those taken and by how they
    are split: both ways apart, by the root of squares. Nought where it was measured.
    """
    if target.r1_ohm is not None:
        return 0.0, 0.0
    taken = _winding(target, 1.0)
    below, above = (
        math.hypot(taken - _winding(target, times), taken * (1 - share / _WINDING))
        for times, share in zip(losses, _WINDING_ENDS, strict=True)
    )
    return min(below, taken), above


def _winding(target: Target, losses: float) -> float:
    """Its ohms with so many times the losses; nought where slip and drag leave none."""
    efficiency_pu = 1 / (1 + losses * (1 / target.efficiency_pu - 1))
    found = rated_point(replace(target, efficiency_pu=efficiency_pu))
    return 0.0 if isinstance(found, NoFit) else found.r1


def rated_point(target: Target) -> RatedPoint | NoFit:
    """Split the losses; refuse what cannot be."""
    phase_v = target.volts_v / math.sqrt(3)
    input_w = target.power_w / target.efficiency_pu
    power_factor = input_w / (3 * phase_v * target.current_a)
    slip = target.slip
    if not 0 < slip < 0.3:
        return NoFit(odd="speed", reason="the speed is not just below a synchronous speed")
    if power_factor >= 0.995:
        text = f"power, amperes and efficiency together need a power factor of {power_factor:.2f}"
        return NoFit(odd="full_load_current", reason=text)
    loss_w = input_w - target.power_w
    k = slip / (1 - slip)
    left_w = (loss_w - k * target.power_w) / (1 + k)  # of losses, once the rotor has its own and that of the drag
    drag_w = min(assigned_stray(target.power_w) * input_w + _FRICTION * loss_w, _MOST_DRAG * left_w)
    if left_w <= 0:
        least = target.power_w * (1 + k)
        text = f"the slip alone costs {k * target.power_w:.0f} W of the {loss_w:.0f} W that the efficiency leaves"
        return NoFit(odd="efficiency" if least > input_w else "speed", reason=text)
    rotor_w = k * (target.power_w + drag_w)
    rest_w = loss_w - rotor_w - drag_w
    stator_w = rest_w * _WINDING if target.r1_ohm is None else 3 * target.current_a**2 * target.r1_ohm
    if stator_w >= rest_w:
        text = f"the winding's ohms alone cost {stator_w:.0f} W of the {rest_w:.0f} W that efficiency and slip leave"
        return NoFit(odd="dc_resistance", reason=text)
    current = target.current_a * complex(power_factor, -math.sqrt(1 - power_factor**2))
    return RatedPoint(
        phase_v=phase_v,
        slip=slip,
        r1=stator_w / (3 * target.current_a**2),
        core_w=rest_w - stator_w,
        drag_w=drag_w,
        gap_w=target.power_w + drag_w + rotor_w,
        current=current,
    )
