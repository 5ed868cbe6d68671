"""Increased safety `eb`: the motor's t_E and I_A/I_N against its overload, its duty and the way it starts and stops."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import breaks, lacks, meets, on_site, ruled
from vinegate.core.numbers import write
from vinegate.core.place.checks import Check
from vinegate.core.place.listing import Marking
from vinegate.core.place.used import Used
from vinegate.core.plate.duty import read_duty
from vinegate.core.tables.trip_class import trip_class

_TYPES: Final = ("e", "eb")
_NAME: Final = "Increased safety"
_LEAST_S: Final = 5.0
_RULE: Final = "IEC 60079-14:2013 11.3; IEC 60079-7:2015 5.2"


def increased_safety(marking: Marking) -> bool:
    """Whether the motor is protected by `e` or `eb`: not `ec`, whose temperature is that of running."""
    return any(one in _TYPES for mark in marking.ex for one in mark.types if not mark.dust)


def _of_its_box(circuit: Circuit, marking: Marking) -> bool:
    """Behind `d` or `p` it is its terminal box's, as long as no t_E says that it is the winding's."""
    mixed = [mark.types for mark in marking.ex if any(one in _TYPES for one in mark.types)]
    return circuit.place.te_s is None and all(types[0][0] in "dp" for types in mixed)


def safety_checks(circuit: Circuit, used: Used, marking: Marking) -> list[Check]:
    """The relay trips a stalled motor within t_E, from cold, at I_A/I_N; nothing heats it in ways not certified."""
    if _of_its_box(circuit, marking):
        text = "Taken for its terminal box's, as another type stands before it. A winding so protected has t_E stamped."
        return [Check.of(_NAME, on_site(text, "IEC 60079-0:2017 29.4; IEC 60079-7:2015 9.1"))]
    return [_trips_in_time(circuit, used.trip), *_duty(circuit), *_starts(circuit, used), *_plugs(circuit, used)]


def _trips_in_time(circuit: Circuit, trip: str) -> Check:
    t_e, ratio = circuit.place.te_s, circuit.plate.starting_current_ratio
    missing = [label for label, value in (("t_E", t_e), ("I_A/I_N", ratio)) if value is None]
    if t_e is None or ratio is None:
        text = f"Ex eb: {' and '.join(missing)} of its plate {'are' if len(missing) > 1 else 'is'} not given."
        return Check.of(_NAME, lacks(f"{text} Its overload is chosen by them.", _RULE))
    if t_e < _LEAST_S:
        return Check.of(_NAME, breaks(f"t_E {write(t_e)} s is below the {write(_LEAST_S)} s it must have.", _RULE))
    opens = trip_class(trip).latest_s(ratio)
    text = f"Class {trip} opens within {write(opens, 2)} s at {write(ratio)} × rated current, t_E {write(t_e)} s"
    if opens > t_e:
        return Check.of(_NAME, breaks(f"{text}: too late. A quicker class, by its own curve.", _RULE))
    return Check.of(_NAME, meets(f"{text}.", _RULE))


def _duty(circuit: Circuit) -> list[Check]:
    duty = read_duty(circuit.plate.duty)
    if duty is None or duty.continuous:
        return []
    if not duty.kind:
        return [
            Check.of(
                "Duty", lacks(f"{duty.text}: which duty that is, is not known. t_E is for continuous duty.", _RULE)
            )
        ]
    return [Check.of("Duty", breaks(f"{duty.text}: t_E protects continuous duty with rare starts alone.", _RULE))]


def _starts(circuit: Circuit, used: Used) -> list[Check]:
    if not used.electronic and not circuit.from_drive:
        return []
    said = circuit.place.drive_duty
    if said is None:
        text = "Started by electronics its t_E no longer says all: whether its certificate covers that is not known."
        return [Check.of("Electronic start", lacks(text, _RULE))]
    text = "Its certificate covers the electronic starter." if said == "yes" else "Its certificate does not cover it."
    return [Check.of("Electronic start", ruled(said == "yes", text, _RULE))]


def _plugs(circuit: Circuit, used: Used) -> list[Check]:
    if not used.reverses and circuit.protection.jogging != "yes":
        return []
    return [Check.of("Plugging", breaks("Plugging or jogging heats the rotor again and again: not with Ex eb.", _RULE))]
