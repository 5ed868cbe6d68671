"""Which of the starter's facts are asked: what this way to start, and this command, can make use of."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from vinegate.core.start.stage import START
from vinegate.core.start.way import Way, Windings
from vinegate.core.start.ways import USUAL, way_of
from vinegate.core.starter.stage import STARTER
from vinegate.web.stages.page import InHand, Planned

_OF_LOW: Final = ("low_current", "low_speed", "high_closes", "compelling", "low_after")
"""Asked once there are two speeds."""
_FIRST: Final = (
    "command", "stations", "emergency", "jog", "hands", "changes_by", "links", "timer", "lock", "limits", "antiplug",
    "speeds", *_OF_LOW, "follows", "phases", "runs_on", "rests", "purges", "bypass", "bypass_poles",
    "ride", "restart", "lamps", "heater", "elsewhere", "bridged",
)  # fmt: skip
CONTROL: Final = (
    "control_from", "transformer", "transformer_z", "primary_fuse", "secondary_fuse", "coil_pull", "coil_hold",
    "steady", "grounded", "run", "run_size", "run_capacitance",
)  # fmt: skip

Test = Callable[[Planned, Way], bool]


def _star(planned: Planned, way: Way) -> bool:
    return way.windings is Windings.WYE


def _both_ways(planned: Planned, way: Way) -> bool:
    return planned.circuit.start.reversing == "yes" or planned.circuit.load.kind == "hoist"


def _by_itself(planned: Planned, way: Way) -> bool:
    drawn = planned.plan.of(STARTER)
    return drawn is not None and (drawn.circuit.restarts or bool(drawn.circuit.automatic))


def _met(planned: Planned, way: Way) -> bool:
    drawn = planned.plan.of(STARTER)
    return drawn is not None and bool(drawn.circuit.apart)


def _timed(planned: Planned, way: Way) -> bool:
    drawn = planned.plan.of(STARTER)
    return drawn is not None and any(one.transition for one in drawn.circuit.devices)


def _across(planned: Planned, way: Way) -> bool:
    return way is USUAL


def _electronic(planned: Planned, way: Way) -> bool:
    return way.electronic and not way.rectifies


def _softly(planned: Planned, way: Way) -> bool:
    return way.electronic and not way.converts


def _wished(planned: Planned, way: Way) -> bool:
    return any(gate.key == "starter.wished" for gate in planned.plan.stage("starter").gates)


_WHERE: Final[dict[str, Test]] = {
    "changes_by": _star, "links": _star, "limits": _both_ways, "antiplug": _both_ways, "restart": _by_itself,
    "lock": _met, "timer": _timed, "runs_on": _across, "ride": _across, "bypass": _electronic,
    "bypass_poles": _softly, "elsewhere": _wished,
}  # fmt: skip
"""Facts that are asked only there."""


def asked_first(hand: InHand) -> list[str]:
    """Keys of the facts on the sheet, in their order; what is typed is always among them."""
    planned, speeds = hand.planned, hand.fields["starter.speeds"].text
    study = planned.plan.of(START)
    way = way_of(study.chosen) if study is not None else USUAL

    def asked(key: str) -> bool:
        if hand.fields[f"starter.{key}"].text:
            return True
        if key in _OF_LOW:
            return bool(speeds)
        return key not in _WHERE or _WHERE[key](planned, way)

    return [key for key in _FIRST if asked(key)]
