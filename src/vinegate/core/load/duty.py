"""The plate's duty against how long the load runs: a short-time machine is not for a continuous load.

What a rating in minutes or in a share of a cycle bears in another cycle follows from the heat of one body (IEC 60034-1
4.2, figures 2 and 3): it warms with `τ` while it runs and cools with `τ/h` while it stands.
"""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, at_most, rule, unknown
from vinegate.core.numbers import counted, write
from vinegate.core.plate.duty import CYCLE_S, Duty, read_duty
from vinegate.core.plate.enclosed import cooling_code, enclosure_row
from vinegate.core.plate.facts import Plate
from vinegate.core.rules import RuleSet
from vinegate.core.turning import Taken, less, more, point

_KEY, _NAME = "load.duty", "Duty of the plate and of the load"
_REMEDY: Final = "A machine rated for how it runs: continuous duty does for every load."
_RUNS_ON: Final = ("S6", "S7", "S8", "S9", "S10")  # it never stands still, but not at full load all the time
_BODY: Final = Taken(label="its thermal time constant", value=30.0, low=20.0, high=60.0, how="assumed")  # min
_AT_REST: Final = Taken(label="its cooling at rest", value=0.4, low=0.2, high=1.0, how="assumed")  # of that running
_SAME_AT_REST: Final = ("IC410", "IC416")  # no fan to lose, or one of its own
_COLD_PCT: Final = 102.5
"""Short-time duty begins within 2 K of the coolant, of some 80 K: IEC 60034-1:2022 4.2.2."""
_HOUR_MIN: Final = 60.0


def duty_gate(circuit: Circuit, rules: RuleSet) -> Gate | None:
    """None where the plate names no duty or a continuous one, which does for every load."""
    duty = read_duty(circuit.plate.duty)
    if duty is None or duty.continuous:
        return None
    runs, source = circuit.load.runs, rules.papers.duty
    if not duty.kind:
        return unknown(_KEY, _NAME, ("a duty on its plate that can be read",))
    if runs == "continuous":
        text = f"{duty.text}: not made to run on and on, as this load does."
        if duty.kind in _RUNS_ON:
            text = f"{duty.text}: it may run on, but not with this load all the time."
        return rule(_KEY, _NAME, False, text, source, remedy=_REMEDY)
    minutes = circuit.load.stretch_s / 60 if circuit.load.stretch_s is not None else None
    too_long = minutes is not None and duty.minutes is not None and minutes > duty.minutes
    lacks = None if duty.kind == "S2" and too_long else _lacks(circuit, duty)
    if lacks is not None or minutes is None:
        return unknown(_KEY, _NAME, (lacks or "how long the load runs at a stretch",))
    if duty.kind == "S2" and duty.minutes is not None and (too_long or _cold(circuit)):
        return _from_cold(duty, minutes, duty.minutes, source)
    return _by_heat(circuit, duty, minutes, source)


def _lacks(circuit: Circuit, duty: Duty) -> str | None:
    """The first fact that is asked for."""
    load = circuit.load
    if load.runs is None:
        return "how long the load runs" if load.stretch_s is None else "how the load runs"
    if duty.kind == "S2" and duty.minutes is None:
        return "the minutes of the plate's short-time rating"
    if duty.kind != "S2" and duty.share_pu is None:
        return f"the share of its cycle that {duty.text} allows"
    if load.stretch_s is None:
        return "how long the load runs at a stretch"
    return None if _cold(circuit) or circuit.start.starts_per_hour else "starts an hour"


def _cold(circuit: Circuit) -> bool:
    """Whether it is cold again before it runs: said so, and not started again within the hour."""
    start = circuit.start
    again = (start.starts_per_hour or 0.0) > 1.0 and start.switching != "rare"
    return circuit.load.runs == "short" and not again


def _from_cold(duty: Duty, minutes: float, most: float, source: str) -> Gate:
    text = f"{write(minutes, 3)} min at a stretch, {write(most)} min on the plate; cold again in between."
    return at_most(_KEY, _NAME, minutes, most, sentence=text, source=source, unit="min", remedy=_REMEDY)


def _by_heat(circuit: Circuit, duty: Duty, minutes: float, source: str) -> Gate:
    """How warm it gets in its cycle, of what it gets in the duty that it is rated for."""
    cold, starts = _cold(circuit), circuit.start.starts_per_hour or 1.0
    often = () if cold else less(point(starts, path="start.starts_per_hour", label="starts an hour"))
    stretch = less(point(minutes, path="load.stretch", label="longest at a stretch", unit="min"))
    most, cools = _COLD_PCT if duty.kind == "S2" else 100.0, _cooling_at_rest(circuit.plate)

    def warm(*facts: float) -> float:
        *per_hour, runs, tau, at_rest = facts
        rests = max(_HOUR_MIN / per_hour[0] - runs, 0.0) if per_hour else math.inf
        return 100 * _borne(duty, tau, at_rest) * _warmest(runs, rests, tau, at_rest)

    given = (*(one.value for one in often), minutes)
    value = warm(*given, _BODY.value, cools.value)
    between = "cold in between" if cold else f"{counted(starts, 'start')} an hour"
    return at_most(
        _KEY, _NAME, value, most, unit="%", remedy=_REMEDY, source=f"{source}; heat of one body, estimated",
        sentence=f"{write(minutes, 3)} min at a stretch, {between}: {value:.0f} % as warm as {duty.text} lets it get.",
        rests=(*often, *stretch, _BODY, *more(cools)), room=lambda *facts: most - warm(*facts),
    )  # fmt: skip


def _cooling_at_rest(plate: Plate) -> Taken:
    """By its IC code, else by what its enclosure has."""
    code = cooling_code(plate.cooling) or (enclosure_row(plate.enclosure) or {}).get("ic", "")
    return point(1.0) if code in _SAME_AT_REST else _AT_REST


def _borne(duty: Duty, tau: float, at_rest: float) -> float:
    """The warmth that running for ever at its rating would bring, of what the rating itself reaches."""
    if duty.kind == "S2":
        return 1 / -math.expm1(-(duty.minutes or 0.0) / tau)
    share, cycle = min(duty.share_pu or 1.0, 1.0), CYCLE_S / 60
    return 1 / _warmest(share * cycle, (1 - share) * cycle, tau, at_rest)


def _warmest(runs: float, rests: float, tau: float, at_rest: float) -> float:
    """At the end of a run in a cycle that goes on, of running for ever: `(1 − e^(−t/τ))/(1 − e^(−t/τ − h·t_0/τ))`.

    >>> round(_warmest(10, math.inf, 30, 0.2), 3), round(_warmest(10, 0, 30, 0.2), 3)
    (0.283, 1.0)
    """
    return math.expm1(-runs / tau) / math.expm1(-(runs + at_rest * rests) / tau)
