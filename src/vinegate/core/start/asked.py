"""What a start is held to, and the facts behind the comparison."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from typing import Final

from vinegate.core.load.stage import Asked as LoadAsked
from vinegate.core.machine.promise import Promise
from vinegate.core.records import dataclass
from vinegate.core.start.laden import Losing
from vinegate.core.start.sag import Sag
from vinegate.core.turning import Taken

UNLOADED: Final = "start it unloaded"


@dataclass(frozen=True, slots=True)
class Sensitive:
    """A bus with a load that minds its volts: by the ITI curve, or with a least share of its own."""

    bus: int
    name: str
    least_pu: float | None
    own: bool = False


@dataclass(frozen=True, kw_only=True)
class Asked:
    """What a start is held to. None: not asked, or (dip, stall) not known.

    `stall` is the safe stall time from hot with its band, `cold` that from cold; `sag` how a fall moves with the facts
    behind it, None where the first moment is not known. `relay_in_delta`: the overload stands within the delta, not in
    the line.
    """

    dip_pu: float | None
    dip_source: str
    hold: Taken
    start_va: float | None
    start_a: float | None
    flicker: float | None
    margin_pu: float
    stall: Taken | None
    cold: Taken | None
    load_inertia_limit: float | None
    inertia_source: str
    inertia_by_maker: bool
    inertia_by_standard: bool
    """Whether the machine is one of those whose inertia its standard has."""
    load: LoadAsked
    promise: Promise | None
    starts_per_hour: float | None
    starts_allowed: float | None
    start_capacitor: bool
    rated_loss_w: float
    losing: Losing
    trip_a: float | None
    sensitive: tuple[Sensitive, ...]
    recovery_s: float | None
    sag: Sag | None
    run_leaves: float | None = None
    """Of a run of which too little is given: the share of its volts that a motor at rest may keep behind it."""
    relay_in_delta: bool = False
    limit_assumed: bool = False
    """Whether a drive's limit is neither given nor follows from its amperes."""
    switching: str = "automatic"
    private: bool = False
    flicker_standard: str = ""
    large_change_s: float | None = None
    """How long a change above 3.3 % may last; None where the standard does not say."""
    helps: tuple[str, ...] = ()
    """What helps a start that lacks torque beside its way's own, by the kind of machine, the first first."""

    @property
    def stall_hot_s(self) -> float | None:
        return self.stall.value if self.stall else None

    @cached_property
    def running_w(self) -> Callable[[float], float]:
        """What the machine loses while it carries so many times its load, W."""
        power = self.load.power
        return self.losing.over(power.high / power.value if power.value else 1.0)

    def inertia_times(self, load: float, rotor: float) -> float:
        """Inertia on the shaft with these inertias of load, at its own shaft, and rotor, over that as taken."""
        return self.load.inertia_times(load, rotor)
