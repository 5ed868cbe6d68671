"""How a soft starter holds the volts back behind it: by a limit of amperes or a ramp in time, after a kick."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.records import dataclass

if TYPE_CHECKING:
    from vinegate.core.start.ramp import Ramp


@dataclass(frozen=True, slots=True, kw_only=True)
class HeldBack:
    """Either `limit_a`, line amperes, or `ramp`; `kick` is the share of volts until `kick_s`."""

    limit_a: float | None = None
    ramp: Ramp | None = None
    kick: float = 0.0
    kick_s: float = 0.0

    def share(self, seconds: float, full_a: float) -> float:
        """Of the volts ahead of the starter, at a time from the onset; `full_a` is what they would drive unheld."""
        if seconds < self.kick_s:
            return self.kick
        if self.ramp is not None:
            return math.sqrt(self.ramp.squared(seconds)[0])
        return min(1.0, self.limit_a / full_a) if self.limit_a is not None and full_a > 0 else 1.0

    def limited(self, full_a: Array) -> Array:
        """The same of many speeds, of what has no ramp and whose kick is over."""
        return np.ones_like(full_a) if self.limit_a is None else np.minimum(1.0, self.limit_a / full_a)
