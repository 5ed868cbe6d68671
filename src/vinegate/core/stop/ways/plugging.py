"""Plugging: two leads exchanged until it stands, by a timer inside its window or a zero-speed switch."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Answer, Gate, breaks, check, meets, rule
from vinegate.core.numbers import write
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.courses import Slowing, Turning, plugging, slow
from vinegate.core.stop.row import Acting, Doing, StopRow, row_of, unknown_row
from vinegate.core.stop.way import Handle, Way
from vinegate.core.turning import Turns

NEARLY_PCT: Final = 5.0
_CAUTION: Final = "Left in, it runs backwards. It does nothing when power fails, and strains gear and coupling."


def _make(asked: Asked) -> StopRow:
    """Two leads exchanged until it stands."""
    if asked.machine is None:
        return unknown_row(asked, WAY, "The machine's circuit is not known.", _CAUTION)

    def course(turning: Turning) -> Slowing:
        assert asked.machine
        torque, amps, watts = plugging(asked.machine, turning.omega, asked.volts_v)
        inside, outside = watts * (1 - asked.outside), watts * asked.outside
        return slow(turning, torque * asked.strength, line_a=amps, rotor_w=inside, outside_w=outside)

    timer = asked.stop.plug_timer_s
    by = f"The timer opens it after {write(timer, 3)} s" if timer is not None else "A zero-speed switch opens it"
    return row_of(
        asked,
        WAY,
        Doing(
            setting="" if timer is None else f"{write(timer, 3)} s timer",
            course=course,
            caution=_CAUTION,
            steps=(
                *asked.resistor_in,
                "The forward contactor opens; forward and reverse are interlocked by lever and by contacts.",
                "The reverse contactor closes, through a contact that is closed only while it turns forwards.",
                f"{by}, nearly at rest.",
                "A start either way is locked out until it stands: a reversal at speed is one more plug.",
            ),
            acting=lambda found: (
                Acting(name="reversed", from_s=0.0, to_s=timer if timer is not None else found.at_speed_s(NEARLY_PCT)),
            ),
            special=lambda courses: _windowed(asked, courses),
        ),
    )


def plug_window(courses: tuple[Slowing, ...]) -> tuple[float, float]:
    """Earliest and latest moment to open: every load below a twentieth of speed, none back at it in reverse."""
    near = [course.at_speed_s(NEARLY_PCT) for course in courses]
    back = [2 * (course.stops_s or 0.0) - at for course, at in zip(courses, near, strict=True)]
    return max(near), min(back)


def _windowed(asked: Asked, courses: tuple[Slowing, ...]) -> Answer:
    """A timer is offered only if one setting serves every load."""
    first, last = plug_window(courses)
    timer = asked.stop.plug_timer_s
    if first > last:
        text = "No one setting of a timer serves the lightest and the heaviest load: a zero-speed switch is needed."
        return meets(text) if timer is None else breaks(text)
    window = f"{write(first, 3)} to {write(last, 3)} s"
    if timer is not None and not first <= timer <= last:
        return breaks(f"The timer at {write(timer, 3)} s lies outside its window, {window}.")
    return meets(f"A timer between {window} serves every load; a zero-speed switch is surer.")


def _duty(circuit: Circuit) -> Gate:
    """The starter breaks a plug at every stop: it is sized for that only where its sheet says so."""
    said, key, name = circuit.protection.jogging, "stop.duty", "Starter's duty"
    text = "Sized for plugging on the protection's sheet."
    if said != "yes":
        text = "It breaks its plugging current at every stop."
    source = "NEMA ICS 2 plugging ratings; IEC 60947-4-1:2018 AC-4"
    remedy = "Say “jogs or plugs” on the protection's sheet: the starter grows."
    if said is not None:
        return rule(key, name, said == "yes", text, source, remedy=remedy)
    turns = Turns(path="protection.jogging", label="jogs or plugs", passes="yes", passes_as="yes", fails="no",
                  fails_as="no")  # fmt: skip
    return check(key, name, turns, f"{text} Passes where its starter is said to jog or plug.", source, remedy=remedy)


WAY = Way(
    key="plugging",
    name="plugging",
    also=("counter-current braking", "plug braking", "plug"),
    phases=(3,),
    make=_make,
    settings=("stop.plug_timer",),
    slows_first=True,
    reverses=True,
    by_circuit=True,
    window="plug_timer_s",
    gates=lambda circuit, asked, row: [_duty(circuit)],
    handle=Handle(
        field="stop-plug_timer",
        label="Plugging timer",
        at=lambda row: row.acting[0].to_s if row.acting else None,
    ),
)
