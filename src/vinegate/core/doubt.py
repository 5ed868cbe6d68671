"""A plate that cannot be, or not on this supply: what follows from it is then better than to check in nothing."""

from __future__ import annotations

from typing import Final

from vinegate.core.records import dataclass, replace
from vinegate.core.turning import Turns


@dataclass(frozen=True, slots=True)
class Doubt:
    """Why nothing that follows from a plate is better than to check: how it is said, ahead of it all and behind each
    gate, and what ends it; whether what fails is to check as well, as it may pass then.
    """

    ahead: str
    behind: str
    turns: Turns
    lifts: bool = False

    def turned(self, *, failing: bool) -> Turns:
        """What ends it: for a gate that fails, the other of the two."""
        turns = self.turns
        return replace(turns, passes=turns.fails, fails=turns.passes) if failing else turns


NO_PLATE: Final = Doubt(
    "The plate does not add up: ",
    "From a plate that does not add up.",
    Turns(path="plate.power", label="the plate", passes="as it can be", fails="as it stands"),
)
NO_KIND: Final = Doubt(
    "",
    "As a three-phase cage, which nobody has said it is.",
    Turns(path="plate.kind", label="the kind of machine", passes="a three-phase cage", fails="another"),
    lifts=True,
)
NO_SUPPLY: Final = Doubt(
    "The motor does not fit its supply: ",
    "Of a motor that does not fit its supply.",
    Turns(path="plate.volts", label="plate and supply", passes="as they fit", fails="as they stand"),
)
