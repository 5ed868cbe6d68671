"""How often a start capacitor bears being switched in, beside what the machine's winding bears."""

from __future__ import annotations

import numpy as np

from vinegate.core.grade import Gate, check, rule
from vinegate.core.machine.simple import SWITCH_SLIP
from vinegate.core.numbers import counted, write
from vinegate.core.start.asked import Asked
from vinegate.core.start.judge_heat import heat_facts, heat_times
from vinegate.core.start.laden import Laden
from vinegate.core.start.simulation import MethodRun
from vinegate.core.start.trace import Outcome
from vinegate.core.turning import Turns, both_rooms

_STARTS, _EACH_S = 20.0, 3.0  # an hour, as electrolytic start capacitors are usually made; assumed
_KEY, _NAME, _SOURCE = "start.capacitor", "Start capacitor", "usual of start capacitors: 20 starts of 3 s an hour"


def capacitor_gate(laden: Laden, run: MethodRun, asked: Asked) -> Gate | None:
    """Until its switch opens, as many times an hour as it starts. None where its maker says how often it may start:
    that is judged elsewhere, and is more than what is usual.
    """
    starts = asked.starts_per_hour
    if not asked.start_capacitor or not starts or asked.starts_allowed is not None:
        return None
    if run.course.outcome is not Outcome.REACHES:
        return None
    time_s, speed = run.course.all("time_s"), run.course.all("speed_pu")
    each_s = float(np.interp(1 - SWITCH_SLIP, speed, time_s))
    text = (
        f"{counted(starts, 'start')} an hour, each with its start capacitor in for {write(each_s, 2)} s; "
        f"usual ones are made for {_STARTS:.0f} of {_EACH_S:.0f} s."
    )

    def room(*facts: float) -> float:
        longer = each_s * heat_times(laden, run, asked, *facts)
        return 1 - starts / _STARTS * max(1.0, longer / _EACH_S)

    if both_rooms(room, heat_facts(laden, run, asked))[0] >= 0:
        return rule(_KEY, _NAME, True, text, _SOURCE)
    turns = Turns(path="machine.starts_per_hour", label="starts an hour by its maker", passes_as=write(starts),
                  passes=f"{write(starts)} or more")  # fmt: skip
    text += f" Passes with {turns.label} {turns.passes}."
    return check(_KEY, _NAME, turns, text, _SOURCE, remedy="Fewer starts, or the word of its maker.")
