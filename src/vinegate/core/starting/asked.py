"""What a start is held to, and how a value grades against a limit."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from vinegate.core.gate import Verdict

_NEAR: Final = 0.1


@dataclass(frozen=True, slots=True)
class Sensitive:
    """A bus with a load that minds its volts: by the ITI curve, or with a least share of its own."""

    bus: int
    name: str
    least_pu: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """What a start is held to. None: not asked, or (dip, stall) not known."""

    dip_pu: float | None
    dip_source: str
    contactor_pu: float
    start_va: float | None
    start_a: float | None
    flicker: float
    margin_pu: float
    stall_hot_s: float | None
    stall_cold_s: float | None
    load_inertia_limit: float | None
    inertia_source: str
    load_inertia: float
    starts_per_hour: float | None
    rated_loss_w: float
    running_loss_w: float
    trip_a: float | None
    sensitive: tuple[Sensitive, ...]
    recovery_s: float | None
    torque_soft: bool
    inertia_soft: bool
    angle_free: bool
    """Whether dips rest on measured or entered impedances only, or on bounds that hold whatever the angles."""


def graded(limit: float, value: float, *, worst: float | None = None, near: float = _NEAR) -> Verdict:
    """Shut above the limit; open when even `worst` holds it and the last tenth is clear; else ajar."""
    if value > limit:
        return Verdict.SHUT
    end = value if worst is None else worst
    return Verdict.OPEN if end <= limit and value <= limit * (1 - near) else Verdict.AJAR
