"""Across the line: plain, turned both ways, jogged, by hand or by itself, braked by its contactors."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from vinegate.core.records import replace
from vinegate.core.starter.logic import Circuit, Coil, Contact, Device, Input, Kind, Logic, broken, either, make, series
from vinegate.core.starter.speeds import two_speeds
from vinegate.core.starter.wishes import (
    ACROSS,
    FORWARD,
    JOG,
    JOG_BACK,
    JOG_FORWARD,
    LIMIT,
    LIMIT_BACK,
    REVERSE,
    SPEED,
    SPEED_BACK,
    SWITCH,
    TURNED,
    Wishes,
    across,
    at_once,
    begins,
    duty_of,
    guarded,
    inputs_of,
    latched,
    permitted,
    run_by,
    stops_and_follows,
    tripping,
    with_selector,
)

TURNING: Final = 0.05
"""Of synchronous speed: where a plugging switch opens, before the motor turns back; usual, its maker's count."""
RECTIFIER: Final = ("rectifier", (("L1", "+"), ("L2", "-")))
DC_POLES: Final = ("DB", (("+", "T1"), ("-", "T2")))


def full_voltage(wishes: Wishes) -> Circuit:
    """`M = P·(START + M)`, or turned both ways."""
    if wishes.reverses and not wishes.single:
        if wishes.jog and not wishes.two_wire and wishes.braking not in BRAKED_BOTH_WAYS:
            return _reversing_jogged(wishes)
        turned = reversing if wishes.two_wire else BRAKED_BOTH_WAYS.get(wishes.braking, reversing)
        return turned(wishes)
    if wishes.braking in BRAKED and not wishes.two_wire and not wishes.single:
        return BRAKED[wishes.braking](wishes)
    if wishes.speeds and not wishes.single:
        return two_speeds(wishes)
    if wishes.hands and not wishes.two_wire:
        return _hand_off_auto(wishes)
    if wishes.jog and not wishes.two_wire:
        return _jogged(wishes)
    if wishes.ride_s and not wishes.two_wire and not wishes.follows:
        return _riding(wishes)
    if wishes.runs_on_s and not wishes.two_wire:
        return _runs_on(wishes)
    main = Device(tag="M", name="main", logic=series(permitted(wishes), begins(wishes, make("M"))))
    return Circuit(
        key="full-voltage", name="across the line", inputs=inputs_of(wishes), devices=(main,),
        poles=(("M", across(wishes)),), restarts=wishes.two_wire, wanted=("M",),
    )  # fmt: skip


def _riding(wishes: Wishes) -> Circuit:
    """`M = P·(START + M + CRu·TRu)`: TRu lasts through a short outage, CRu stays latched until something stops it.

    The timer alone would start it again after a tapped stop: the latch is let go by whatever stops it. What it follows
    could be out by an outage or by a stop, and is not told apart: it is not drawn to follow.
    """
    rides = series(make("CRu"), make("TRu"))
    guards = (one.tag for one in inputs_of(wishes) if one.stops)
    devices = (
        Device(tag="M", name="main", logic=series(permitted(wishes), begins(wishes, either(make("M"), rides)))),
        Device(tag="CRu", name="has run, latched", logic=make("M"), coil=Coil.RELAY, latched=True, motor=False),
        Device(tag="CRuU", name="unlatches CRu", logic=either(*(make(tag) for tag in guards)), coil=Coil.RELAY,
               unlatches="CRu", motor=False),
        Device(tag="TRu", name="rides an outage", logic=make("M"), coil=Coil.TIMER, delay_s=wishes.ride_s, lasts=True,
               motor=False),
    )  # fmt: skip
    return Circuit(
        key="riding", name="across the line, rides short outages", inputs=inputs_of(wishes), devices=devices,
        poles=(("M", across(wishes)),), wanted=("M",), rides="TRu", grants=("ride_s",),
    )  # fmt: skip


def _runs_on(wishes: Wishes) -> Circuit:
    """`CR = P·(START + CR)`, `M = OL·(CR + TS·M)`: stopped, it runs on while TS lasts; what it serves is out first.

    TS holds only what is in: after an outage, or an overload, nothing comes back. Guards put it out at once.
    """
    guards = series(tripping(wishes), latched(wishes))
    devices = (
        Device(tag="CR", name="run, sealed", logic=series(permitted(wishes), begins(wishes, make("CR"))),
               coil=Coil.RELAY, motor=False),
        Device(tag="TS", name="runs on", logic=make("CR"), coil=Coil.TIMER, delay_s=wishes.runs_on_s, lasts=True,
               motor=False),
        Device(tag="M", name="main", logic=series(guards, either(make("CR"), series(make("TS"), make("M"))))),
    )  # fmt: skip
    return Circuit(
        key="runs-on", name="across the line, runs on after a stop", inputs=inputs_of(wishes), devices=devices,
        poles=(("M", across(wishes)),), wanted=("M",), lasting="TS", grants=("runs_on_s",),
    )  # fmt: skip


def reversing(wishes: Wishes, ready: tuple[Logic, ...] = ()) -> Circuit:
    """`F = P·/R·(FWD·/REV + F)`, R likewise: interlocked by contacts, by the buttons and by a lock.

    By two wires a selector holds `FWD` or `REV`, and nothing seals. A limit stands in its own direction; against
    plugging, a speed switch that still turns the other way does. `ready` must be closed as it starts, not after.
    """
    permit = permitted(wishes)

    def way(own: str, other: str, button: str, against: str, limit: str, turns: str) -> Device:
        pressed = series(make(button), broken(against))
        seals: Logic = make(own)
        if wishes.two_wire:
            seals = series(pressed, seals)
        return Device(
            tag=own, name="forward" if own == "F" else "reverse", duty=duty_of(wishes),
            logic=series(
                permit, broken(other), broken(limit) if wishes.limits else None,
                broken(turns) if wishes.antiplug else None,
                pressed if wishes.two_wire and not ready else either(series(pressed, *ready), seals),
            ),
        )  # fmt: skip

    buttons = ((FORWARD, "forward"), (REVERSE, "reverse"))
    inputs = inputs_of(wishes, *buttons)
    if wishes.two_wire:
        selected = (Input(tag=tag, name=f"selector {name}", kind=Kind.HELD, starts=True) for tag, name in buttons)
        inputs = (*selected, *(one for one in inputs if one.tag != SWITCH))
    limits = ((LIMIT, "F"), (LIMIT_BACK, "R")) if wishes.limits else ()
    turns = ((SPEED_BACK, "F"), (SPEED, "R")) if wishes.antiplug else ()
    return Circuit(
        key="reversing", name="reversing", inputs=(*inputs, *ends_of_travel(wishes), *_turning(wishes)),
        devices=(way("F", "R", FORWARD, REVERSE, LIMIT, SPEED_BACK),
                 way("R", "F", REVERSE, FORWARD, LIMIT_BACK, SPEED)),
        poles=(("F", ACROSS), ("R", TURNED)), apart=(("F", "R"),), limits=(*limits, *turns),
        speeds=(SPEED, SPEED_BACK) if wishes.antiplug else (), restarts=wishes.two_wire, wanted=("F",),
        grants=("reverses", "limits", "antiplug"),
    )  # fmt: skip


def _reversing_jogged(wishes: Wishes) -> Circuit:
    """`CRf = P·/R·/CRr·(FWD·/REV + CRf)`, `F = P·/R·(CRf + JOGf·/JOGr·/CRr)`: the relays seal, the jogs never do.

    A limit stands ahead of both: a relay that it left in would start it again once it is off the limit.
    """
    plain = reversing(replace(wishes, jog=False))

    def way(device: Device, own: str, other: str, button: str, against: str, jog: str, no_jog: str) -> list[Device]:
        ahead = tuple(part for part in series(device.logic).parts if isinstance(part, Contact))
        begun = either(series(make(button), broken(against)), make(own))
        jogged = series(make(jog), broken(no_jog), broken(other))
        relay = Device(tag=own, name=f"run {device.name}", logic=series(*ahead, broken(other), begun), coil=Coil.RELAY,
                       motor=False)  # fmt: skip
        return [relay, replace(device, logic=series(*ahead, either(make(own), jogged)))]

    forward, back = plain.devices
    buttons = ((JOG_FORWARD, "jog forward"), (JOG_BACK, "jog in reverse"))
    return replace(
        plain, key="reversing-jog", name="reversing, with jog", grants=(*plain.grants, "jog"),
        inputs=(*plain.inputs, *(Input(tag=tag, name=name) for tag, name in buttons)),
        devices=(*way(forward, "CRf", "CRr", FORWARD, REVERSE, JOG_FORWARD, JOG_BACK),
                 *way(back, "CRr", "CRf", REVERSE, FORWARD, JOG_BACK, JOG_FORWARD)),
        momentary=(JOG_FORWARD, JOG_BACK),
    )  # fmt: skip


def ends_of_travel(wishes: Wishes) -> tuple[Input, ...]:
    """A limit at the end of each direction."""
    if not wishes.limits:
        return ()
    named = ((LIMIT, "limit forward"), (LIMIT_BACK, "limit in reverse"))
    return tuple(Input(tag=tag, name=name, kind=Kind.HELD, location="field") for tag, name in named)


def _turning(wishes: Wishes) -> tuple[Input, ...]:
    return _SPEEDS if wishes.antiplug else ()


_SPEEDS: Final = tuple(
    Input(tag=tag, name=f"turns {way}", kind=Kind.HELD, location="field", turns=above)
    for tag, way, above in ((SPEED, "forwards", TURNING), (SPEED_BACK, "backwards", -TURNING))
)


def _jogged(wishes: Wishes) -> Circuit:
    """`CR = P·(START + CR)`, `M = P·(CR + JOG)`: the relay seals, the jog never does."""
    permit = permitted(wishes)
    devices = (
        Device(
            tag="CR",
            name="run, sealed",
            logic=series(permit, begins(wishes, make("CR"))),
            coil=Coil.RELAY,
            motor=False,
        ),
        Device(tag="M", name="main", logic=series(permit, either(make("CR"), make(JOG))), duty=duty_of(wishes)),
    )
    return Circuit(
        key="jog",
        grants=("jog",),
        momentary=(JOG,),
        name="across the line, with jog",
        inputs=(*inputs_of(wishes), Input(tag=JOG, name="jog")),
        devices=devices,
        poles=(("M", across(wishes)),),
        wanted=("M",),
    )


def _hand_off_auto(wishes: Wishes) -> Circuit:
    """`M = P·(HAND·(START + M) + AUTO·PERMIT)`: guards stand in P for both, off breaks both."""
    main = Device(tag="M", name="main", logic=series(permitted(wishes), run_by(wishes, make("M"))))
    plain = Circuit(
        key="hand-off-auto", name="across the line", inputs=inputs_of(wishes), devices=(main,),
        poles=(("M", across(wishes)),), wanted=("M",),
    )  # fmt: skip
    return with_selector(plain)


def injection(wishes: Wishes, *mains: str) -> tuple[Device, ...]:
    """What brakes by direct current once `mains` are out: wanted, a pause for the residual field, DB, its time."""
    out = tuple(broken(tag) for tag in mains)
    wanted = series(guarded(wishes), broken("TB"), either(*(make(tag) for tag in mains), make("CB")))
    field = series(make("CB"), *out)
    return (
        Device(tag="CB", name="brake wanted", coil=Coil.RELAY, motor=False, logic=wanted),
        Device(tag="TD", name="residual field", logic=field, coil=Coil.TIMER, delay_s=wishes.residual_s, motor=False),
        Device(tag="DB", name="direct current", logic=series(*out, make("CB"), make("TD")), motor=False,
               duty="DC-3", braking=True),
        Device(tag="TB", name="brake time", logic=make("DB"), coil=Coil.TIMER, delay_s=wishes.brake_s, motor=False),
    )  # fmt: skip


def injected(circuit: Circuit, wishes: Wishes) -> Circuit:
    """The same, stopped by direct current: whatever feeds the motor out, a pause, DB until its timer has run.

    Each of its contactors and DB lock each other out.
    """
    mains = circuit.feeds

    def locked(device: Device) -> Device:
        if device.tag not in mains:
            return device
        ahead, own = series(permitted(wishes)).parts, series(device.logic).parts
        shared = len(ahead) if own[: len(ahead)] == ahead else 0
        return replace(device, logic=series(*own[:shared], broken("DB"), *own[shared:]))

    return replace(
        circuit, name=f"{circuit.name}, braked by direct current", grants=(*circuit.grants, "dc"),
        devices=(*(locked(one) for one in circuit.devices), *injection(wishes, *mains)),
        poles=(*circuit.poles, DC_POLES), between=(*circuit.between, RECTIFIER),
        apart=(*circuit.apart, *((tag, "DB") for tag in mains)), brakes=("DB",),
        pauses=(*circuit.pauses, *((tag, "DB", wishes.residual_s) for tag in mains)),
    )  # fmt: skip


def _dc_injection(wishes: Wishes) -> Circuit:
    main = Device(tag="M", name="main", logic=series(permitted(wishes), begins(wishes, make("M"))))
    return injected(
        Circuit(key="dc", name="across the line", inputs=inputs_of(wishes), devices=(main,), poles=(("M", ACROSS),),
                wanted=("M",)),
        wishes,
    )  # fmt: skip


def _reversing_injected(wishes: Wishes) -> Circuit:
    return injected(reversing(wishes), wishes)


def _plugged(wishes: Wishes) -> Circuit:
    """On every stop R comes in while the shaft turns forwards; turned by hand or after an outage it does nothing."""
    guards, off = guarded(wishes), at_once(wishes)
    stops = stops_and_follows(wishes)
    devices = (
        Device(
            tag="F",
            name="forward",
            logic=series(guards, off, stops, broken("R"), begins(wishes, make("F"))),
            duty=duty_of(wishes, plugs=True),
        ),
        Device(
            tag="CRp",
            name="has run",
            coil=Coil.RELAY,
            motor=False,
            logic=series(guards, either(make("F"), series(make("CRp"), make(SPEED)))),
        ),
        Device(
            tag="R",
            name="plugging",
            logic=series(guards, broken("F"), make("CRp"), make(SPEED)),
            duty=duty_of(wishes, plugs=True),
        ),
    )
    speed = Input(tag=SPEED, name="turns forwards", kind=Kind.HELD, location="field", turns=TURNING)
    return Circuit(
        key="plugging",
        grants=("plugging",),
        name="across the line, plugged to rest",
        inputs=(*inputs_of(wishes), speed),
        devices=devices,
        poles=(("F", ACROSS), ("R", TURNED)),
        apart=(("F", "R"),),
        wanted=("F",),
        brakes=("R",),
        speeds=(SPEED,),
    )


def _reversing_plugged(wishes: Wishes) -> Circuit:
    """Run commands CRf and CRr; each way, once it has run, is braked by the other contactor while the shaft turns."""
    held, off = guarded(wishes), at_once(wishes)
    stops = stops_and_follows(wishes)

    def command(own: str, other: str, button: str, against: str, name: str) -> Device:
        begins_by = either(series(make(button), broken(against)), make(own))
        return Device(tag=own, name=name, coil=Coil.RELAY, logic=series(held, off, stops, broken(other), begins_by))

    def has_run(own: str, other: str, command: str, speed: str, name: str) -> Device:
        kept = either(make(command), series(make(own), make(speed)))
        return Device(tag=own, name=name, coil=Coil.RELAY, motor=False, logic=series(held, broken(other), kept))

    def way(own: str, other: str, command: str, braked: str, speed: str, against: str, name: str) -> Device:
        plugs = series(make(braked), make(speed), broken(against))
        logic = series(held, broken(other), either(make(command), plugs))
        return Device(tag=own, name=name, duty=duty_of(wishes, plugs=True), logic=logic)

    devices = (
        command("CRf", "CRr", FORWARD, REVERSE, "run forward"),
        command("CRr", "CRf", REVERSE, FORWARD, "run in reverse"),
        has_run("PLf", "PLr", "CRf", SPEED, "has run forward"),
        has_run("PLr", "PLf", "CRr", SPEED_BACK, "has run in reverse"),
        way("F", "R", "CRf", "PLr", SPEED_BACK, "CRr", "forward"),
        way("R", "F", "CRr", "PLf", SPEED, "CRf", "reverse"),
    )
    return Circuit(
        key="reversing-plugged", name="reversing, plugged to rest", grants=("reverses", "plugging"),
        inputs=(*inputs_of(wishes, (FORWARD, "forward"), (REVERSE, "reverse")), *_SPEEDS), devices=devices,
        poles=(("F", ACROSS), ("R", TURNED)), apart=(("F", "R"),),
        wanted=("F",), brakes=("F", "R"), speeds=(SPEED, SPEED_BACK),
    )  # fmt: skip


BRAKED: Final[dict[str, Callable[[Wishes], Circuit]]] = {"dc": _dc_injection, "plugging": _plugged}
BRAKED_BOTH_WAYS: Final[dict[str, Callable[[Wishes], Circuit]]] = {
    "dc": _reversing_injected,
    "plugging": _reversing_plugged,
}
