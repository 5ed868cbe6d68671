"""Gate of a direct-current machine's start: what its commutator bears, and for how long."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.grade import Gate, at_most, check
from vinegate.core.numbers import write
from vinegate.core.start.asked import Asked
from vinegate.core.start.simulation import MethodRun
from vinegate.core.start.trace import Outcome
from vinegate.core.turning import Turns, less

_JUST_OVER: Final = 1.001
_COMMUTATES: Final = (1.5, 60.0)
"""Times rated amperes and seconds that every direct-current machine's commutator bears (IEC 60034-1:2022 9.3.4)."""


def commutator_gate(run: MethodRun, asked: Asked) -> Gate | None:
    """A direct-current machine never stands at its locked current: its commutator bears the limit, for a while."""
    if not run.commutator or run.course.outcome is not Outcome.REACHES:
        return None
    key, name, source = "start.commutator", "Commutator bears the start", "IEC 60034-1:2022 9.3.4: 1.5 times for 60 s"
    most, seconds = _COMMUTATES
    limit = run.value or most
    amps, time = run.course.all("motor_a"), run.course.all("time_s")
    remedy = "A lower limit or a shorter ramp; or its maker's word on what it commutates."
    if limit > most:
        turns = Turns(path="start.drive_limit", label="drive limit", passes=f"up to {most:g} × rated",
                      passes_as=f"{most:g}")  # fmt: skip
        text = f"Its drive lets {write(limit, 3)} × rated flow; every machine bears {most:g} ×, some more."
        text += f" Passes for any {turns.label} {turns.passes}."
        return check(key, name, turns, text, source, remedy=remedy)
    middle = (amps[1:] + amps[:-1]) / 2
    above = float(np.diff(time)[middle > _JUST_OVER * run.rated_current_a].sum())
    text = f"Over rated amperes for {write(above, 2)} s of {seconds:g} s, at {write(limit, 3)} × at most."
    load = asked.load
    return at_most(
        key, name, above, seconds, sentence=text, source=source, unit="s", remedy=remedy,
        rests=less(load.inertia, load.rotor),
        room=lambda inertia, rotor: seconds - above * asked.inertia_times(inertia, rotor),
    )  # fmt: skip
