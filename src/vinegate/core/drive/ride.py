"""An outage that the drive rides through: what its bus and its turning carry, and whether its control power holds."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, at_least, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.records import dataclass
from vinegate.core.turning import less
from vinegate.core.working import Provenance

_KINETIC: Final = 0.6
_POINTS: Final = 48
_OMEGA: Final = math.pi / 30
_TRIP_PU: Final = 0.7
_KEY: Final = ("drive.ride", "Outage ridden through")
_KINETIC_SOURCE: Final = "∫J·ω·dω/(T_L·ω + P_v), down to 60 % of speed"


@dataclass(frozen=True, slots=True, kw_only=True)
class Ride:
    """Seconds for which its turning feeds the bus, and for which the bus's own capacitors do; watts that are drawn."""

    kinetic_s: float
    carries_s: float | None
    line_w: float


def ride_of(need: Need, fastest_rpm: float, line_w: float) -> Ride:
    """Put it on the sheet."""
    kinetic = kinetic_s(need, fastest_rpm, line_w)
    need.sheet.given("kinetic", "Its own turning feeds the bus", "t_k", kinetic, "s",
                     provenance=Provenance.ESTIMATED, source=_KINETIC_SOURCE)  # fmt: skip
    return Ride(kinetic_s=kinetic, carries_s=_carries(need, line_w), line_w=line_w)


def kinetic_s(need: Need, fastest_rpm: float, line_w: float, *, inertia: float = 1.0, load: float = 1.0) -> float:
    """How long what turns feeds load and losses, slowed by both, down to 60 % of speed, s: `∫J·ω·dω/(T_L·ω + P_v)`."""
    omega = np.geomspace(1.0, _KINETIC, _POINTS) * fastest_rpm * _OMEGA
    shaft = need.motors * need.load.running_at(omega / _OMEGA) * omega
    lost = max(line_w - float(shaft[0]), 0.0)
    inverse = need.motors * need.load.inertia_kgm2 * inertia * omega / np.maximum(shaft * load + lost, 1e-6)
    return float(-np.trapezoid(inverse, omega))


def _carries(need: Need, line_w: float) -> float | None:
    """`t = C·(U_1² − U_2²)/(2·P)`: what the bus's own capacitors carry, to about 0.7 of its volts."""
    farad = need.facts.capacity
    if farad is None or line_w <= 0:
        return None
    sheet = need.sheet
    capacity = sheet.given("capacity", "Bus capacitance", "C", 1e6 * farad, "µF",
                           provenance=Provenance.STAMPED, source="the drive's plate")  # fmt: skip
    watts = sheet.given("carried_kw", "Power it feeds", "P", line_w / 1000, "kW",
                        provenance=Provenance.ESTIMATED, source="most at an operating point")  # fmt: skip
    bus = sheet.given("bus_rated", "Bus at rated volts", "U_1", math.sqrt(2) * need.line_v, "V", source="√2·U")
    return sheet.work(
        "carries", "Its bus carries", "t_C",
        farad * bus.value**2 * (1 - _TRIP_PU**2) / (2 * line_w), "s",
        formula=f"C·U_1²·(1−{_TRIP_PU:g}²)/(2000000000·P)", inputs=(capacity, bus, watts),
        source="energy of a capacitor; its undervoltage trip assumed",
    ).value  # fmt: skip


def ride_gates(need: Need, ride: Ride, fastest_rpm: float) -> list[Gate]:
    """Asked where the bus is to be fed by what turns: long enough, and the control power held as long.

    The bus of a drive that brakes on purpose outlasts its contactors, which let go within 20 ms of a line that is gone:
    then the run command falls and the drive stops however full its bus is.
    """
    facts = need.facts
    if facts.kinetic != "yes":
        return []
    if facts.outage_s is None:
        return [unknown(*_KEY, need.sheet.needs([("drive.outage", "the outage to ride")], "the ride"))]
    outage = facts.outage_s
    return [_turning(need, ride, fastest_rpm, outage), _held(need, outage)]


def _turning(need: Need, ride: Ride, fastest_rpm: float, outage: float) -> Gate:
    inertia, rotor, power = need.load.inertia, need.load.rotor, need.load_power

    def room(mass: float, own: float, asked: float) -> float:
        times = need.load.inertia_times(mass, own)
        return kinetic_s(need, fastest_rpm, ride.line_w, inertia=times, load=asked / power.value) - outage

    return at_least(
        *_KEY, ride.kinetic_s, outage, unit="s", source=_KINETIC_SOURCE, rests=(*less(inertia, rotor), power),
        room=room,
        sentence=f"What turns feeds the bus for {write(ride.kinetic_s, 2)} s, down to 60 % of speed; "
                 f"the outage lasts {write(outage, 2)} s.",
        remedy="A shorter outage, more inertia, or a drive that catches it turning afterwards.",
    )  # fmt: skip


def _held(need: Need, outage: float) -> Gate:
    key, name = "drive.ride_control", "Control power through the outage"
    held = need.facts.control_held
    if held is None:
        lacks = need.sheet.needs([("drive.control_held", "what its control power is fed by meanwhile")], "the ride")
        return unknown(key, name, lacks)
    gone = "ac contactors let go in 5 to 20 ms, usual; IEC 60947-4-1:2018 8.2.1.2 lets them below 75 %"
    text = f"Contactors and run command are held for {write(outage, 2)} s by a source of their own, as stated."
    if held != "held":
        text = "Its contactors and run command let go with the line within 5 to 20 ms, however full its bus is."
    return rule(key, name, held == "held", text, gone,
                remedy="Control power from a battery, from the bus, or contactors with an off-delay.")  # fmt: skip
