"""The ways to start, simulated with network, machine and load together: each when it is asked for."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Mapping
from threading import Lock

from vinegate.core.start import ways
from vinegate.core.start.connection import behave
from vinegate.core.start.facts import Start
from vinegate.core.start.plant import Plant, before_pu
from vinegate.core.start.run_up import run_up
from vinegate.core.start.simulation import MethodRun, Settings, Simulation
from vinegate.core.start.way import Way


class Runs(Mapping[str, MethodRun]):
    """Every method with its run. Full voltage is run at once, as others look at it; each other when it is asked for.

    Two requests may ask at once: a way tries settings in turn, so one of them waits.
    """

    def __init__(self, make: Callable[[dict[str, MethodRun]], Simulation], tried: Collection[Way]) -> None:
        self._make, self._tried = make, {way.key: way for way in tried}
        self._found: dict[str, MethodRun] = {}
        self._simulation: Simulation | None = None
        self._lock = Lock()
        self[ways.USUAL.key]

    def __getitem__(self, method: str) -> MethodRun:
        with self._lock:
            if method not in self._found:
                simulation = self._simulation = self._simulation or self._make(self._found)
                self._tried[method].run(simulation)
            return self._found[method]

    def release(self) -> None:
        """Let go of what every connection does at every speed, half a megabyte: it is made again if it is asked for."""
        self._simulation = None

    def __contains__(self, method: object) -> bool:
        return method in self._tried

    def __iter__(self) -> Iterator[str]:
        return iter(self._tried)

    def __len__(self) -> int:
        return len(self._tried)


def _runs(way: Way, plant: Plant, *, three_phase: bool) -> bool:
    """Whether a machine of this kind can be run by it at all."""
    return (
        (three_phase or way.any_machine)
        and (plant.first_torque_pu > 0 or not way.at_rings)
        and (plant.armature is not None or not way.rectifies)
    )


def simulate(
    plant: Plant,
    start: Start,
    *,
    dip_limit_pu: float | None,
    margin_pu: float,
    most_i2t_s: float,
    loss_share: float,
    three_phase: bool,
    weakest: float = 1.0,
    brief: bool = False,
    possible: Collection[str] | None = None,
) -> Runs:
    """Every method that a machine of this kind can be run by; where `possible` names some, those and full voltage.

    `three_phase` is false for machines that only start at full voltage; `most_i2t_s` is the heat a soft starter's
    limit may lead to, in seconds at rest; `weakest` the share of its torque that a machine may fall short to. A `brief`
    one leaves out the less usual methods. Full voltage comes first.
    """
    settings = Settings.of(start, margin_pu, most_i2t_s, weakest)
    tried = [
        way
        for way in ways.WAYS
        if _runs(way, plant, three_phase=three_phase)
        and (way.usual or not brief)
        and (possible is None or way is ways.USUAL or way.key in possible)
    ]

    def make(found: dict[str, MethodRun]) -> Simulation:
        return Simulation(
            plant=plant,
            settings=settings,
            dip_limit_pu=dip_limit_pu,
            loss_share=loss_share,
            before=before_pu(plant),
            runs=run_up(plant, behave(plant, [one for way in tried for one in way.connections(plant, settings)])),
            found=found,
        )

    return Runs(make, tried)
