"""What a device's checks ask of the plan: the overload's class, and the ways to start and to stop that are in use."""

from __future__ import annotations

from vinegate.core.facts import Circuit
from vinegate.core.records import dataclass
from vinegate.core.start.eligible import said_or_usual
from vinegate.core.start.ways import way_of as start_way
from vinegate.core.stop.ways import way_of as stop_way


@dataclass(frozen=True, slots=True, kw_only=True)
class Used:
    """The overload's trip class and the keys of both ways; `stop` is empty while none is known to serve."""

    trip: str = "10"
    start: str
    stop: str = ""

    @staticmethod
    def said(circuit: Circuit) -> Used:
        """As far as the facts alone tell."""
        return Used(
            trip=circuit.protection.trip_class or "10",
            start=said_or_usual(circuit).key,
            stop=circuit.stop.method or "",
        )

    @property
    def electronic(self) -> bool:
        """Whether electronics start it."""
        return start_way(self.start).electronic

    @property
    def reverses(self) -> bool:
        """Whether its own field turns it back to stop it."""
        return bool(self.stop) and stop_way(self.stop).reverses

    @property
    def holds(self) -> bool:
        """Whether a brake stops it."""
        return bool(self.stop) and stop_way(self.stop).holds
