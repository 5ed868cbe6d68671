"""What a way to start is: its words, its traits, and how it is run. What comes after the start asks the traits."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from enum import StrEnum
from typing import TYPE_CHECKING, Final

from vinegate.core.grade import Answer, Gate, meets
from vinegate.core.records import dataclass

if TYPE_CHECKING:
    from vinegate.core.facts import Circuit, Job
    from vinegate.core.rules import Words
    from vinegate.core.start.connection import Connection
    from vinegate.core.start.held_back import HeldBack
    from vinegate.core.start.plant import Plant
    from vinegate.core.start.simulation import Settings, Simulation


class Windings(StrEnum):
    """How the windings lie while it starts."""

    WHOLE = "whole"
    WYE = "wye"
    HALF = "half"


@dataclass(frozen=True, slots=True, kw_only=True)
class Asking:
    """What eligibility is asked of: the circuit in its job, and wye-delta's own gate."""

    circuit: Circuit
    job: Job
    wye_delta: Gate


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """A way to start, in a module of its own.

    `label` names it in the field, `name` in texts, with "wye" as the dialect has it; `phrase` says it in a sentence,
    with its setting; `also` are other names that people write. `order` is by cost, `needs` what it takes beside the
    motor, `stronger` what gives it more torque and `gentler` what draws less, as long as its setting is within
    `reach`; `loss_share` what it turns into heat at full speed. `settings` are its own facts; `sought` the fields of
    those that are found where nobody sets them; `moment` the field of the moment that is dragged on its strip, `level`
    that of its current.

    Traits: `windings` while it starts; `electronic`: rated by its maker, holds the first peak, makes harmonics;
    `by_frequency`: it turns the field itself; `lowers_volts` at the motor's leads; `soft_stop` and `speed_control`:
    what it gives besides; `at_rings`: of a wound rotor, through its slip rings; `rectifies`: for direct current.

    `connections` are those it runs through, from its settings; `holds` is how it holds the volts back, run with a
    value of its row; `run` keeps its course. `steps`: in how many a resistor or reactor is cut out, with a rated slip;
    None while that is not known. `any_machine`: not for cages alone. `usual`: looked at on the other source too.
    """

    key: str
    label: str
    name: str
    order: int
    needs: str
    run: Callable[[Simulation], None]
    phrase: Callable[[str, Words], str]
    also: tuple[str, ...] = ()
    stronger: str = ""
    gentler: str = ""
    reach: tuple[float, float] = (0.0, math.inf)
    loss_share: float = 0.0
    settings: tuple[str, ...] = ()
    sought: tuple[str, ...] = ()
    moment: str = ""
    level: str = ""
    windings: Windings = Windings.WHOLE
    electronic: bool = False
    by_frequency: bool = False
    lowers_volts: bool = False
    soft_stop: bool = False
    speed_control: bool = False
    any_machine: bool = False
    at_rings: bool = False
    rectifies: bool = False
    usual: bool = False
    possible: Callable[[Asking], Answer] = lambda _: meets("")
    connections: Callable[[Plant, Settings], Sequence[Connection]] = lambda plant, settings: ()
    holds: Callable[[Plant, Settings, float], HeldBack] | None = None
    steps: Callable[[Circuit, float | None], int | None] | None = None

    def stronger_than(self, value: float | None) -> str:
        """What gives more torque than at this setting; empty where it has no more in hand."""
        return "" if value is not None and value >= self.reach[1] else self.stronger

    def gentler_than(self, value: float | None) -> str:
        """What draws less than at this setting; empty where it has nothing less."""
        return "" if value is not None and value <= self.reach[0] else self.gentler

    @property
    def converts(self) -> bool:
        """Whether power electronics stand between line and motor all the time: what flows in is not what flows out."""
        return self.by_frequency or self.rectifies


def star_share(starts_an_hour: float | None) -> float:
    """Of the rated current, what a star contactor is chosen for: a third, 0.4 where it starts often (usual).

    Often is more than the 12 an hour of the usual class of intermittent duty (IEC 60947-4-1:2018).

    >>> star_share(None), star_share(12), star_share(13)
    (0.3333333333333333, 0.3333333333333333, 0.4)
    """
    return _OFTEN_SHARE if (starts_an_hour or 0.0) > OFTEN else 1 / 3


OFTEN: Final = 12.0
_OFTEN_SHARE: Final = 0.4
