"""What a way to stop is: its words, its traits, how its row is made. What judges or draws it asks the traits."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from vinegate.core.records import dataclass

if TYPE_CHECKING:
    from vinegate.core.facts import Circuit
    from vinegate.core.grade import Gate
    from vinegate.core.stop.asked import Asked
    from vinegate.core.stop.row import StopRow


@dataclass(frozen=True, slots=True, kw_only=True)
class Handle:
    """A moment of its strip that is dragged: the field it fills, and where it lies; None where it never comes."""

    field: str
    label: str
    at: Callable[[StopRow], float | None]


@dataclass(frozen=True, slots=True, kw_only=True)
class Level:
    """A current of its strip that is dragged: the field it fills, the figure it is, and the figure that is drawn."""

    field: str
    label: str
    figure: str
    drawn: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Sizes:
    """What its parts must be: a name, and the keys of the stage's figures."""

    name: str
    figures: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """A way to stop, in a module of its own.

    `name` is its word in the field and in texts, `also` are other names that people write; `phases` of the machines
    that have it, 0 for direct current. `settings` are its own facts, `lacks` what it cannot be worked without. `make`
    works its row, `gates` are its own.

    Traits: `slows_first`, and power is cut afterwards; `by_frequency`: a drive does it, and holds at rest while it has
    power; `reverses`: the field turns backwards while it slows, so that starter and rotor bear more than a start;
    `direct`: direct current stands in the stator; `by_circuit`: its torque is what the machine's circuit gives.
    `window` names its own setting, if it has one, that may be too early as well as too late.
    `closes` is for a way with a spring-set brake: joules of one stop in its lining, and where they come from. A way
    with one holds at rest and without power; one that does not slow first brakes from full speed.
    """

    key: str
    name: str
    phases: tuple[int, ...]
    make: Callable[[Asked], StopRow]
    also: tuple[str, ...] = ()
    settings: tuple[str, ...] = ()
    lacks: str = "the machine's circuit"
    slows_first: bool = False
    by_frequency: bool = False
    reverses: bool = False
    direct: bool = False
    by_circuit: bool = False
    window: str = ""
    closes: Callable[[Asked, StopRow], tuple[float, str]] | None = None
    gates: Callable[[Circuit, Asked, StopRow], list[Gate]] = lambda circuit, asked, row: []
    handle: Handle | None = None
    level: Level | None = None
    sizes: tuple[Sizes, ...] = ()

    @property
    def holds(self) -> bool:
        """Whether a spring-set brake holds it, with power and without."""
        return self.closes is not None

    @property
    def powered(self) -> bool:
        """Whether it slows by power alone: without it, the load coasts."""
        return self.slows_first and not self.holds

    @property
    def brakes_from_speed(self) -> bool:
        """Whether its brake closes at full speed, in every stop."""
        return self.holds and not self.slows_first
