"""What a drive's ramp, or a load that drives, gives back to a generator, which has no grid to take it."""

from __future__ import annotations

from typing import Final

from vinegate.core.drive.facts import Drive
from vinegate.core.drive.given_back import taken_by_generator
from vinegate.core.facts import Circuit, Job
from vinegate.core.grade import Gate
from vinegate.core.plate.kind import Family
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.drive import lowered_w, peaks_w
from vinegate.core.stop.way import Way
from vinegate.core.turning import Taken, less

_KEY, _NAME = "stop.to_generator", "A generator takes back what it returns"
_HELD: Final = "Load that surely runs beside it, or a drive with a resistor."
_REMEDY: Final = "A resistor, a longer ramp, or load that surely runs beside it."


def to_generator(job: Job, circuit: Circuit, asked: Asked, way: Way) -> list[Gate]:
    """Where it runs on the standby generator, alone or too: by its drive that feeds back, and across the line from a
    load that drives it. What a drive's load gives back while it lowers stands on the drive's sheet.
    """
    if not (job.on_standby or circuit.start.on_standby == "yes"):
        return []
    if not circuit.from_drive:
        return _across_the_line(job, circuit, asked)
    if not (way.by_frequency and circuit.of("drive", Drive).feeds_back):
        return []
    powers = [one / 1000 for one in peaks_w(asked)]
    gives = Taken(label="power of the stop", value=powers[0], low=min(powers), high=max(powers), how="estimated")
    if gives.high <= 0:
        return []
    kw = (gives.value, gives.high)
    return [taken_by_generator(_KEY, _NAME, job, kw, (gives,), lambda back: back, _REMEDY)]


def _across_the_line(job: Job, circuit: Circuit, asked: Asked) -> list[Gate]:
    """A machine of three phases that is driven past synchronous speed feeds the line it hangs on."""
    kw, power = lowered_w(asked) / 1000, asked.load.power
    if kw <= 0 or circuit.plate.family not in (Family.CAGE, Family.WOUND):
        return []
    return [taken_by_generator(_KEY, _NAME, job, (kw, kw), less(power), lambda asks: kw * asks / power.value, _HELD)]
