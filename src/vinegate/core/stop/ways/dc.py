"""DC injection: the rotor takes all that was turning."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Answer, Gate, at_least, breaks, confirm
from vinegate.core.numbers import write
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.courses import Slowing, Turning, cut, staying
from vinegate.core.stop.direct import (
    TIME_CONSTANTS,
    TIMER_TIMES,
    dc_course,
    delay_s,
    direct_a,
    field_dies_s,
    path,
    peak_pu,
    slowest_of,
)
from vinegate.core.stop.row import Acting, Doing, StopRow, row_of, unknown_row
from vinegate.core.stop.way import Handle, Level, Sizes, Way
from vinegate.core.turning import Taken, point

_WARMER: Final = (1.0, 1.2)  # a winding's ohms from cold to hot
_ESTIMATED_OHMS: Final = (0.6, 1.6)  # of a winding that was not measured
_GUESSED_OHMS: Final = (0.4, 2.5)  # of one that is only held to be as its rotor
_BORNE_TIMES: Final = 2.5
_CAUTION: Final = (
    "It does nothing when power fails, and does not hold at rest. Never with the motor's contactor closed; its own "
    "volts are dangerous to touch."
)


def _make(asked: Asked) -> StopRow:
    """The rotor takes all that was turning."""
    if asked.machine is None:
        return unknown_row(asked, WAY, "The machine's circuit is not known.", _CAUTION)
    amps, _ = direct_a(asked)
    waits, timer = delay_s(asked), asked.stop.dc_time_s
    wholes = {id(turning): dc_course(asked, turning, amps) for turning in asked.corners}
    slowest = slowest_of(wholes.values())
    until = timer if timer is not None else waits + TIMER_TIMES * (slowest - waits)

    def course(turning: Turning) -> Slowing:
        whole = wholes[id(turning)]
        if timer is not None and timer > waits and (whole.stops_s is None or whole.stops_s > timer):
            return cut(turning, whole, timer)
        return staying(whole, until if math.isfinite(until) else 0.0)

    shown = write(until, 3) if math.isfinite(until) else "–"
    return row_of(
        asked,
        WAY,
        Doing(
            setting=f"{write(amps, 3)} A",
            course=course,
            caution=_CAUTION,
            steps=(
                *asked.resistor_in,
                "The motor's contactor opens; the DC contactor is locked out by its lever and by its contact.",
                f"After {write(waits, 3)} s, when the rotor's own field has died, the DC contactor closes.",
                f"It opens {shown} s after the stop: current left on at rest only heats. No start until then.",
            ),
            acting=lambda found: (Acting(name="direct current", from_s=waits, to_s=float(found.time_s[-1])),),
            special=lambda courses: _timed(asked, courses, slowest),
        ),
    )


def _timed(asked: Asked, courses: tuple[Slowing, ...], slowest: float) -> Answer | None:
    if not any(course.line_a.any() for course in courses):
        idle = "It stands before the delay is over: direct current is of no use here."
        return None if asked.idle_serves else breaks(idle)
    timer = asked.stop.dc_time_s
    if timer is None or timer >= slowest:
        return None
    return breaks(f"The timer opens at {write(timer, 3)} s, before it stands at {write(slowest, 3)} s.")


def _gates(_: Circuit, asked: Asked, __: StopRow) -> list[Gate]:
    if asked.machine is None:
        return []
    supply = [_direct_supply(asked)] if asked.stop.dc_supply_v is not None else []
    early = [_after_field(asked, asked.stop.dc_delay_s)] if asked.stop.dc_delay_s is not None else []
    return [*supply, *early, _direct_times(asked)]


def _after_field(asked: Asked, delay: float) -> Gate:
    """A delay that was set against the rotor's own field: before one of its time constants it surely stands."""
    dies = field_dies_s(asked)
    fact = point(delay, path="stop.dc_delay", label="delay before it", unit="s")
    dead = Taken(label="when the field is low enough", value=dies, low=dies / TIME_CONSTANTS, high=dies)
    return at_least(
        "stop.dc_delay", "Direct current after the rotor's field", delay, dies, unit="s", rests=(fact, dead),
        sentence=f"It closes {write(delay, 3)} s after the contactor opens; the field is gone at {write(dies, 3)} s.",
        source="e^(−t/T_r): a twentieth after three time constants", room=lambda waits, gone: waits - gone,
        remedy="A longer delay: volts that still stand drive a surge through both contactors.",
    )  # fmt: skip


def _direct_supply(asked: Asked) -> Gate:
    """Whether the transformer's volts drive the current."""
    amps, _ = direct_a(asked)
    assert asked.machine is not None
    asks = path(asked)[1] * asked.machine.r1_ohm * amps
    volts = asked.stop.dc_supply_v or 0.0
    gives = 0.9 * volts
    fact = point(volts, path="stop.dc_supply", label="secondary volts", unit="V")
    ohms = 2 * asked.machine.r1_ohm
    low, high = _WARMER if asked.measured else _GUESSED_OHMS if asked.guessed else _ESTIMATED_OHMS
    warm = Taken(
        path="machine.dc_resistance", label="the winding's ohms between two leads", unit="Ω", value=ohms,
        low=low * ohms, high=high * ohms, how="cold to hot" if asked.measured else "estimated", typed=_WARMER,
        given=False,
    )  # fmt: skip
    return at_least(
        "stop.direct", "Direct current's supply", gives, asks, unit="V", source="0.9·U_2 ≥ R·I_dc",
        sentence=f"The bridge gives {write(gives, 3)} V, the winding asks {write(asks, 3)} V for {write(amps, 3)} A.",
        rests=(fact, warm), room=lambda secondary, measured: 0.9 * secondary - asks * measured / ohms,
        remedy="A transformer of more volts, or less current.",
    )  # fmt: skip


def _direct_times(asked: Asked) -> Gate:
    """Multiples of rated current and torque that winding, shaft and driven machine have to bear: its maker's word."""
    amps, peak = direct_a(asked)[0], peak_pu(asked) or 0.0
    times = amps / asked.rated_a
    text = f"{write(times, 2)} × rated current, up to {write(peak, 2)} × rated torque at the shaft."
    met = times <= _BORNE_TIMES
    if not met:
        text += " Above 2.5 × ask its maker, and the driven machine's."
    return confirm("stop.direct_times", "Winding and shaft bear it", met, text, "usual bound of braking currents")


WAY = Way(
    key="dc",
    name="DC injection",
    also=("DC injection braking", "DC braking", "DC brake"),
    phases=(3,),
    make=_make,
    settings=("stop.dc_current", "stop.dc_leads", "stop.dc_delay", "stop.dc_time", "stop.dc_supply"),
    slows_first=True,
    direct=True,
    by_circuit=True,
    gates=_gates,
    handle=Handle(
        field="stop-dc_time",
        label="DC timer",
        at=lambda row: row.acting[0].to_s if row.acting else None,
    ),
    level=Level(
        field="stop-dc_current",
        label="Direct current",
        figure="stop.direct",
        drawn="stop.equivalent",
    ),
    sizes=(
        Sizes(
            name="Direct current",
            figures=(
                "direct",
                "equivalent",
                "delay",
                "direct_volts",
                "transformer",
                "bridge_amps",
                "limiting",
                "limiting_watts",
            ),
        ),
    ),
)
