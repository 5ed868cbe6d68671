"""The starters by the way to start, in the usual form of NEMA ICS 2 and IEC 60947-4-1."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from vinegate.core.records import replace
from vinegate.core.starter.armature import ON_RESISTOR, dc_drive
from vinegate.core.starter.commanded import commanded
from vinegate.core.starter.direct import BRAKED, full_voltage
from vinegate.core.starter.logic import Circuit, Coil, Device, Kind, broken, either, make, series
from vinegate.core.starter.reduced import autotransformer, drive, part_winding, soft_starter, wye_delta
from vinegate.core.starter.stepped import rotor_resistor, series_element
from vinegate.core.starter.waits import with_purge, with_rest
from vinegate.core.starter.wishes import DELAY, FOLLOWS, HAND, SENSORS, SWITCH, Wishes, permitted


def drawn_to(way: str, wishes: Wishes) -> Circuit:
    """The starter of a way to start with all that is wished beside it. Raises KeyError for a way that is not drawn."""
    circuit = BY_WAY[way](wishes)
    if wishes.rests_s:
        circuit = with_rest(circuit, wishes)
    if wishes.restart_s and any(one.tag == SWITCH for one in circuit.inputs):
        circuit = _with_delay(circuit, wishes)
    if wishes.follows:
        circuit = replace(circuit, setup=(*circuit.setup, FOLLOWS))
    if wishes.purges_s:
        circuit = with_purge(circuit, wishes)
    if wishes.heater:
        circuit = _with_heater(circuit)
    return _with_lamps(circuit, wishes.lamps) if wishes.lamps else circuit


def _with_delay(circuit: Circuit, wishes: Wishes) -> Circuit:
    """After an outage it waits its turn: its own place in the job's restart order."""
    watched = any(one.tag == SENSORS for one in circuit.inputs)
    permit = permitted(replace(wishes, sensors=watched))
    told = series(permit, broken(HAND) if circuit.automatic else None, make(SWITCH))
    delay = Device(tag=DELAY, name="restart delay", logic=told, coil=Coil.TIMER, delay_s=wishes.restart_s, motor=False)
    return replace(circuit, devices=(*circuit.devices, delay), grants=(*circuit.grants, "restart_s"))


def _with_heater(circuit: Circuit) -> Circuit:
    """Warm while nothing feeds the motor."""
    out = series(*(broken(tag) for tag in circuit.feeds))
    heater = Device(tag="SH", name="space heater", logic=out, coil=Coil.HEATER, motor=False)
    return replace(circuit, devices=(*circuit.devices, heater))


_COLORS: Final = {"green": ("green", "white", "yellow"), "red": ("red", "green", "amber")}


def _with_lamps(circuit: Circuit, habit: str) -> Circuit:
    """Runs, stopped, tripped: by the contacts of what feeds the motor and of what trips."""
    runs, stopped, tripped = _COLORS[habit]
    fed = either(*(make(tag) for tag in circuit.feeds))
    trips = [one.tag for one in circuit.inputs if one.kind is Kind.GUARD and one.location == "panel"]
    logics = ((f"runs, {runs}", fed), (f"stopped, {stopped}", series(*(broken(tag) for tag in circuit.feeds))),
              (f"tripped, {tripped}", either(*(make(tag) for tag in trips))))  # fmt: skip
    lamps = tuple(
        Device(tag=f"PL{place}", name=name, logic=logic, coil=Coil.LAMP, motor=False)
        for place, (name, logic) in enumerate(logics, start=1)
    )
    return replace(circuit, devices=(*circuit.devices, *lamps))


def with_brake(circuit: Circuit) -> Circuit:
    """A spring-set brake is let go while the motor is fed, by a relay of its own: never from a drive's output."""
    fed = either(*(make(tag) for tag in circuit.feeds))
    release = Device(tag="BR", name="brake release", logic=fed, coil=Coil.RELAY, motor=False)
    return replace(circuit, devices=(*circuit.devices, release), release="BR")


def braked_here(stops_by: str) -> bool:
    """Whether a way to stop is a circuit of contactors that could be drawn."""
    return stops_by in BRAKED or stops_by == ON_RESISTOR


BY_WAY: Final[dict[str, Callable[[Wishes], Circuit]]] = {
    "full-voltage": full_voltage,
    "wye-delta": commanded(wye_delta),
    "autotransformer": commanded(autotransformer),
    "resistor": series_element,
    "reactor": series_element,
    "rotor-resistor": rotor_resistor,
    "part-winding": commanded(part_winding),
    "soft-starter": commanded(soft_starter),
    "soft-ramp": commanded(soft_starter),
    "drive": drive,
    "dc-drive": dc_drive,
}
