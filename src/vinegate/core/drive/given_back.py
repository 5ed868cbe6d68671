"""What comes back to a generator: its engine's drag and what else runs must take it, for it has no grid."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Job
from vinegate.core.grade import Gate, at_most, unknown
from vinegate.core.numbers import write
from vinegate.core.supply.beside import other_w
from vinegate.core.turning import Room, Taken

_DRAG: Final = Taken(label="the engine's drag, of its rating", value=0.07, low=0.05, high=0.1, how="assumed")
_RUNS: Final = Taken(label="what of the load beside runs meanwhile", value=1.0, low=0.5, high=1.0, how="assumed")
_RATED_PF: Final = 0.8  # ISO 8528-1: sets are rated at it
_SOURCE: Final = "power in is power out; an engine's drag some 5 to 10 % of its rating, assumed"


def taken_by_generator(
    key: str, name: str, job: Job, kw: tuple[float, float], rests: tuple[Taken, ...], back: Room, remedy: str
) -> Gate:  # fmt: skip
    """Of `kw`, as taken and at most; `back` are the kW as a function of the facts it `rests` on."""
    rated_va, beside_kw = job.standby.generator_power_va, other_w(job, "main") / 1000
    if rated_va is None:
        return unknown(key, name, ("the standby generator's kVA",))
    rated_kw = rated_va * _RATED_PF / 1000

    def room(drag: float, runs: float, *facts: float) -> float:
        return drag * rated_kw + runs * beside_kw - back(*facts)

    now, most = kw
    takes = _DRAG.value * rated_kw + beside_kw
    text = f"It gives back up to {write(most, 3)} kW; the engine's drag and {write(beside_kw, 3)} kW beside it take"
    return at_most(
        key, name, now, takes, unit="kW", sentence=f"{text} about {write(takes, 3)} kW.", source=_SOURCE,
        rests=(_DRAG, _RUNS, *rests), room=room, remedy=remedy,
    )  # fmt: skip
