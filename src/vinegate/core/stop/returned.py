"""What a drive gives back to a generator: its engine's drag and what else runs must take it, for it has no grid."""

from __future__ import annotations

from typing import Final

from vinegate.core.drive.facts import Drive
from vinegate.core.facts import Circuit, Job
from vinegate.core.grade import Gate, at_most, unknown
from vinegate.core.numbers import write
from vinegate.core.protection.feeder_parts import other_va
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.drive import peaks_w
from vinegate.core.stop.way import Way
from vinegate.core.supply.tree import ASSUMED_LOAD_PF
from vinegate.core.turning import Taken

_DRAG: Final = Taken(label="the engine's drag, of its rating", value=0.07, low=0.05, high=0.1, how="assumed")
_RUNS: Final = Taken(label="what of the load beside runs meanwhile", value=1.0, low=0.5, high=1.0, how="assumed")
_RATED_PF: Final = 0.8  # ISO 8528-1: sets are rated at it
_KEY, _NAME = "stop.to_generator", "A generator takes back what it returns"
_SOURCE: Final = "power in is power out; an engine's drag some 5 to 10 % of its rating, assumed"


def to_generator(job: Job, circuit: Circuit, asked: Asked, way: Way) -> list[Gate]:
    """Where its drive feeds back, and it runs on the standby generator, alone or too."""
    there = job.supply.in_use == "standby" or circuit.start.on_standby == "yes"
    if not (there and way.by_frequency and circuit.of("drive", Drive).feeds_back):
        return []
    rated_va, beside_w = job.standby.generator_power_va, other_va(job, "main") * ASSUMED_LOAD_PF
    if rated_va is None:
        return [unknown(_KEY, _NAME, ("the standby generator's kVA",))]
    powers = [one / 1000 for one in peaks_w(asked)]
    gives = Taken(label="power of the stop", value=powers[0], low=min(powers), high=max(powers), how="estimated")
    if gives.high <= 0:
        return []
    rated_kw, beside_kw = rated_va * _RATED_PF / 1000, beside_w / 1000

    def room(kw: float, drag: float, runs: float) -> float:
        return drag * rated_kw + runs * beside_kw - kw

    takes = _DRAG.value * rated_kw + beside_kw
    text = (
        f"It gives back up to {write(gives.high, 3)} kW; the engine's drag and {write(beside_kw, 3)} kW beside it take"
    )
    return [
        at_most(_KEY, _NAME, gives.value, takes, unit="kW", sentence=f"{text} about {write(takes, 3)} kW.",
                source=_SOURCE, rests=(gives, _DRAG, _RUNS), room=room,
                remedy="A resistor, a longer ramp, or load that surely runs beside it.")
    ]  # fmt: skip
