"""At reduced volts, through electronics or from a drive: each by its equations and poles."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from vinegate.core.records import replace
from vinegate.core.starter.direct import DC_POLES, RECTIFIER, ends_of_travel, injected, injection
from vinegate.core.starter.logic import (
    Circuit,
    Coil,
    Contact,
    Device,
    Input,
    Kind,
    Logic,
    Pole,
    broken,
    either,
    make,
    mapped,
    series,
)
from vinegate.core.starter.wishes import (
    ACROSS,
    BYPASS,
    DELTA,
    FORWARD,
    JOG,
    LIMIT,
    LIMIT_BACK,
    REVERSE,
    SPEED,
    Wishes,
    begins,
    blocked_s,
    by_switch,
    changes,
    guarded,
    inputs_of,
    latched,
    permitted,
    powered,
    proven,
    run_by,
    slowed,
    tripping,
    with_selector,
)

_STAR: Final[tuple[Pole, ...]] = (("T4", "T5"), ("T5", "T6"))
_DELTA: Final[tuple[Pole, ...]] = (("T1", "T6"), ("T2", "T4"), ("T3", "T5"))
_BEHIND: Final[tuple[Pole, ...]] = (("T1", "T5"), ("T2", "T6"), ("T3", "T4"))
_RESISTED: Final[tuple[Pole, ...]] = (("T1", "r1"), ("T2", "r2"), ("T3", "r3"))
_INTO: Final[tuple[Pole, ...]] = (("L1", "d1"), ("L2", "d2"), ("L3", "d3"))
_OUT_OF: Final[tuple[Pole, ...]] = (("d1", "T1"), ("d2", "T2"), ("d3", "T3"))


_UP_TO_SPEED: Final = 0.9  # of synchronous speed: where a fan's star hands over at the latest; to be set at the switch


def _delta(wishes: Wishes) -> tuple[Pole, ...]:
    """Which far end meets which lead: both turn the same way; behind, the winding's volts are 30° after the star's."""
    return _BEHIND if wishes.behind else _DELTA


def wye_delta(wishes: Wishes) -> Circuit:
    """Open: S, 1M in; the timer puts S out; after a pause 2M. 1M comes in only through S: the star is proven."""
    if wishes.braking in _BRAKED and not wishes.two_wire:
        return _BRAKED[wishes.braking](replace(wishes, braking=""))
    if wishes.closed:
        return _wye_delta_closed(wishes)
    if wishes.changes_by and not wishes.two_wire:
        return _changed_by_hand(wishes)
    permit = permitted(wishes)
    star = series(permit, begins(wishes, make("1M")), broken("TR"), broken("2M"))
    devices = (
        Device(tag="S", name="star point", logic=star, share=wishes.star_share),
        Device(tag="1M", name="line", logic=series(permit, proven(wishes, "S", "1M")), share=3**-0.5),
        changes("TR", "star time", "1M", wishes.after_s),
        Device(tag="TRp", name="pause", logic=make("TR"), coil=Coil.TIMER, delay_s=wishes.pause_s, motor=False),
        Device(tag="2M", name="delta", logic=series(permit, make("1M"), make("TRp"), broken("S")), share=3**-0.5),
    )
    return Circuit(
        key="wye-delta",
        name="wye-delta, open transition",
        inputs=inputs_of(wishes),
        devices=devices,
        poles=(("1M", ACROSS), ("S", _STAR), ("2M", _delta(wishes))),
        apart=(("S", "2M"),),
        restarts=wishes.two_wire,
        wanted=("1M", "2M"),
        pauses=(("S", "2M", wishes.pause_s),),
    )


def _changed_by_hand(wishes: Wishes) -> Circuit:
    """The star ends when a button is pressed, or a speed switch closes: `CRd = P·1M·(DELTA + CRd)`, sealed either way.

    By the operator it is as good as the operator; by speed it is right for every load, and hangs where it never gets
    there.
    """
    permit = permitted(wishes)
    by_speed = wishes.changes_by == "speed"
    tag = SPEED if by_speed else DELTA
    then = Input(tag=tag, name="up to speed" if by_speed else "delta", kind=Kind.HELD if by_speed else Kind.BUTTON,
                 location="field" if by_speed else "door", turns=_UP_TO_SPEED if by_speed else 0.0)  # fmt: skip
    plain = wye_delta(replace(wishes, changes_by=""))
    changed = Device(tag="CRd", name="to delta", coil=Coil.RELAY, motor=False,
                     logic=series(permit, make("1M"), either(make(tag), make("CRd"))))  # fmt: skip

    def by_relay(contact: Contact) -> Contact:
        return replace(contact, of=changed.tag) if contact.of == "TR" else contact

    def altered(device: Device) -> Device:
        if device.tag == "TR":
            return changed
        return replace(device, logic=mapped(device.logic, by_relay))

    return replace(
        plain, name=f"{plain.name}, by {'speed' if by_speed else 'its operator'}", inputs=(*plain.inputs, then),
        devices=tuple(altered(one) for one in plain.devices), then=(tag,), grants=(*plain.grants, "changes_by"),
    )  # fmt: skip


def _braked_in_star(wishes: Wishes) -> Circuit:
    """Direct current needs the star point: once 1M and 2M are out S comes in again, DB after the residual field."""
    plain = wye_delta(wishes)
    brake = injection(wishes, "1M")

    def altered(device: Device) -> Device:
        if device.tag == "S":
            again = series(guarded(wishes), make("CB"), broken("1M"), broken("2M"))
            return replace(device, logic=either(device.logic, again), braking=True)
        return replace(device, logic=series(device.logic, broken("DB"))) if device.tag == "1M" else device

    return replace(
        plain, name=f"{plain.name}, braked by direct current", grants=(*plain.grants, "dc"), brakes=("DB",),
        devices=(*(altered(one) for one in plain.devices), *brake), poles=(*plain.poles, DC_POLES),
        between=(*plain.between, RECTIFIER),
        apart=(*plain.apart, ("1M", "DB"), ("2M", "DB")),
        pauses=(*plain.pauses, *((tag, "DB", wishes.residual_s) for tag in ("1M", "2M"))),
    )  # fmt: skip


_BRAKED: Final[dict[str, Callable[[Wishes], Circuit]]] = {"dc": _braked_in_star}


def _wye_delta_closed(wishes: Wishes) -> Circuit:
    """The resistors carry the current over: A comes in with S still in, and 2M with A; late breaks where a race is."""
    permit = permitted(wishes)
    devices = (
        Device(tag="S", name="star point", share=wishes.star_share,
               logic=series(permit, begins(wishes, make("1M")), broken("A", late=True), broken("2M"))),
        Device(tag="1M", name="line", share=3**-0.5,
               logic=series(permit, proven(wishes, "S", "1M"))),
        changes("TR", "star time", "1M", wishes.after_s),
        Device(tag="A", name="resistors", share=3**-0.5, duty="AC-1",
               logic=series(permit, make("1M"), make("TR"), broken("2M", late=True))),
        Device(tag="2M", name="delta", share=3**-0.5,
               logic=series(permit, make("1M"), either(series(make("A"), broken("S")), make("2M")))),
    )  # fmt: skip
    return Circuit(
        key="wye-delta",
        name="wye-delta, closed transition",
        inputs=inputs_of(wishes),
        devices=devices,
        poles=(("1M", ACROSS), ("S", _STAR), ("A", _RESISTED), ("2M", _delta(wishes))),
        between=(("resistors", tuple((f"r{lead[1:]}", end) for lead, end in _delta(wishes))),),
        apart=(("S", "2M"),),
        wanted=("1M", "2M"),
        restarts=wishes.two_wire,
        grants=("closed",),
    )


def autotransformer(wishes: Wishes) -> Circuit:
    """Korndörfer: 1S makes the star point of the winding, 2S feeds it; 1S out, a reactor then; R; 2S out."""
    permit, held = permitted(wishes), by_switch(wishes) if wishes.two_wire else None
    devices = (
        Device(
            tag="1S",
            name="star point of the winding",
            of_start=wishes.tap * (1 - wishes.tap),
            logic=series(permit, begins(wishes, make("2S")), broken("TR"), broken("R")),
        ),
        Device(
            tag="2S",
            name="feeds the winding",
            of_start=wishes.tap**2,
            logic=series(permit, proven(wishes, "1S", "2S"), broken("R", late=True)),
        ),
        changes("TR", "tap time", "2S", wishes.after_s),
        Device(
            tag="R",
            name="run",
            logic=series(permit, held, either(series(make("TR"), make("2S")), make("R")), broken("1S")),
        ),
    )
    winding: tuple[Pole, ...] = (("L1", "a1"), ("L2", "a2"), ("L3", "a3"))
    plain = Circuit(
        key="autotransformer", name="autotransformer, closed transition",
        inputs=inputs_of(wishes), devices=devices,
        poles=(("2S", winding), ("1S", (("n1", "n2"), ("n2", "n3"))), ("R", ACROSS)),
        between=(
            ("winding to its tap", (("a1", "T1"), ("a2", "T2"), ("a3", "T3"))),
            ("tap to its star end", (("T1", "n1"), ("T2", "n2"), ("T3", "n3"))),
        ),
        apart=(("1S", "R"),),
        turns=(((("a1", "T1"), ("a2", "T2"), ("a3", "T3")), ("n1", "n2", "n3")),),
        wanted=("R",),
        restarts=wishes.two_wire,
        grants=("closed",),
    )  # fmt: skip
    return injected(plain, wishes) if wishes.braking == "dc" and not wishes.two_wire else plain


def part_winding(wishes: Wishes) -> Circuit:
    """`2M = P·T(1M)`: the second half of the winding after a second or so."""
    permit = permitted(wishes)
    devices = (
        Device(tag="1M", name="first half", logic=series(permit, begins(wishes, make("1M"))), share=0.5),
        changes("TR", "second half after", "1M", wishes.after_s),
        Device(tag="2M", name="second half", logic=series(permit, make("1M"), make("TR")), share=0.5),
    )
    second: tuple[Pole, ...] = (("L1", "T7"), ("L2", "T8"), ("L3", "T9"))
    return Circuit(
        key="part-winding", name="part winding", inputs=inputs_of(wishes), devices=devices,
        poles=(("1M", ACROSS), ("2M", second)), restarts=wishes.two_wire, wanted=("1M", "2M"),
    )  # fmt: skip


def soft_starter(wishes: Wishes) -> Circuit:
    """K isolates; the device runs while K is in; BP by-passes it at the top of its ramp, told by its relay.

    With a soft stop K stays in after the stop until the ramp has ended: else there is none.
    """
    straight = ("T2",) if wishes.two_poles else ()
    ahead = tuple(("L2", "T2") if pole == ("L2", "d2") and straight else pole for pole in _INTO)
    controlled = tuple(pole for pole in _OUT_OF if pole[1] not in straight)
    plain = Circuit(
        key="soft-starter",
        name=f"soft starter{' of two phases' if straight else ''} with by-pass",
        inputs=inputs_of(wishes),
        devices=_softly(wishes) if wishes.softly_s else _at_once(wishes),
        poles=(("K", ahead), ("BP", controlled)),
        between=(("soft starter", controlled),),
        fed_by="fed by its soft starter",
        straight=straight,
        grants=("bypass", *(("two_poles",) if straight else ())),
        restarts=wishes.two_wire,
        wanted=("K", "BP"),
    )
    if wishes.softly_s:
        plain = replace(plain, name=f"{plain.name}, soft stop", lasting="TS", grants=(*plain.grants, "softly_s"))
        return with_selector(plain) if wishes.hands and not wishes.two_wire else plain
    return injected(plain, wishes) if wishes.braking == "dc" and not wishes.two_wire else plain


def _at_once(wishes: Wishes) -> tuple[Device, ...]:
    permit = permitted(wishes)
    return (
        Device(tag="K", name="isolates", logic=series(permit, begins(wishes, make("K"))), duty="AC-1"),
        replace(changes("TOR", "top of the ramp, its relay", "K", wishes.after_s), own=True),
        Device(tag="BP", name="by-pass", logic=series(permit, make("K"), make("TOR"))),
    )


def _softly(wishes: Wishes) -> tuple[Device, ...]:
    """`CR = P·(START + CR)`, `K = OL·(CR + TS·K)`, `RUN = CR·K`, `BP = RUN·TOR`: stopped, RUN and BP go first.

    TS holds only what is in: after an outage, or an overload, nothing comes back. Guards put all of it out at once.
    """
    guards = series(tripping(wishes), latched(wishes))
    return (
        Device(tag="CR", name="run, sealed", logic=series(permitted(wishes), run_by(wishes, make("CR"))),
               coil=Coil.RELAY, motor=False),
        Device(tag="TS", name="its soft stop", logic=make("CR"), coil=Coil.TIMER, delay_s=wishes.softly_s, lasts=True,
               motor=False),
        Device(tag="K", name="isolates", logic=series(guards, either(make("CR"), series(make("TS"), make("K")))),
               duty="AC-1"),
        Device(tag="RUN", name="its run command", logic=series(make("CR"), make("K")), coil=Coil.RELAY),
        replace(changes("TOR", "top of the ramp, its relay", "RUN", wishes.after_s), own=True),
        Device(tag="BP", name="by-pass", logic=series(guards, make("RUN"), make("TOR"))),
    )  # fmt: skip


def drive(wishes: Wishes) -> Circuit:
    """K1 feeds the drive; CR is its run command, held by three wires; no contactor opens in its lead.

    Turned both ways it is told by two commands that exclude each other; it reverses by its own ramps.
    """
    both = wishes.reverses and not wishes.two_wire
    if wishes.bypass and not both and not wishes.two_wire:
        return _by_passed(wishes)
    wishes = replace(wishes, sensors=False)
    permit = permitted(wishes)
    feeds = Device(tag="K1", name="feeds the drive", logic=powered(wishes), duty="AC-1", of_input=True, motor=False)
    limits: tuple[tuple[str, str], ...] = ()
    if both:
        buttons = ((FORWARD, "forward"), (REVERSE, "reverse"))
        commands: tuple[Device, ...] = (
            _command(permit, ("CRf", "run forward"), "CRr", FORWARD, REVERSE, LIMIT if wishes.limits else None),
            _command(permit, ("CRr", "run in reverse"), "CRf", REVERSE, FORWARD, LIMIT_BACK if wishes.limits else None),
        )
        inputs = (*inputs_of(wishes, *buttons), *ends_of_travel(wishes))
        limits = ((LIMIT, "CRf"), (LIMIT_BACK, "CRr")) if wishes.limits else ()
    else:
        told = series(permit, make("K1"), run_by(wishes, make("CR")))
        commands = (Device(tag="CR", name="run command", logic=told, coil=Coil.RELAY),)
        inputs = inputs_of(wishes)
    plain = Circuit(
        key="drive", name="drive, run command held", inputs=inputs, devices=(feeds, *commands, *slowed(wishes)),
        poles=(("K1", _into(wishes)),), between=(("drive", _out_of(wishes, "T")),), fed_by="fed by its drive",
        restarts=wishes.two_wire, limits=limits,
        wanted=("K1", commands[0].tag), grants=("reverses", "limits") if both else (),
    )  # fmt: skip
    if both or wishes.two_wire:
        return plain
    if wishes.hands:
        return with_selector(plain)
    return _jogged(plain, permit) if wishes.jog else plain


def _into(wishes: Wishes) -> tuple[Pole, ...]:
    """The lines that feed the drive, to its terminals."""
    return tuple((line, f"d{place}") for place, line in enumerate(wishes.drive_lines, start=1))


def _out_of(wishes: Wishes, ends: str) -> tuple[Pole, ...]:
    """From the drive's terminals to three ends, from however many lines it makes them."""
    last = len(wishes.drive_lines)
    return tuple((f"d{min(place, last)}", f"{ends}{place}") for place in (1, 2, 3))


def _jogged(plain: Circuit, permit: Logic) -> Circuit:
    """`CRj = P·K1·/CR·JOG`: a command of its own, that nothing seals; how fast is set in the drive."""
    jogs = series(permit, make("K1"), broken("CR"), make(JOG))
    told = Device(tag="CRj", name="jog command", logic=jogs, coil=Coil.RELAY)
    return replace(
        plain, name=f"{plain.name}, with jog", inputs=(*plain.inputs, Input(tag=JOG, name="jog")),
        devices=(*plain.devices, told), momentary=(JOG,), grants=(*plain.grants, "jog"),
    )  # fmt: skip


def _by_passed(wishes: Wishes) -> Circuit:
    """Through the drive by K1 and K2, or past it by K3, as the selector stands; K2 and K3 never together.

    K2 closes before the drive is told to run and opens after it is blocked; K3 waits until the motor's own field has
    died. The overload stands in both ways; only its motor, not the drive, is left in by-pass.
    """
    permit, guards = permitted(wishes), powered(wishes)
    by_drive = series(make("CR"), broken(BYPASS))
    devices = (
        Device(tag="CR", name="run, sealed", logic=series(permit, run_by(wishes, make("CR"))), coil=Coil.RELAY,
               motor=False),
        Device(tag="K1", name="feeds the drive", logic=series(guards, broken(BYPASS)), duty="AC-1", of_input=True,
               motor=False),
        Device(tag="TB", name="blocked before it opens", logic=by_drive, coil=Coil.TIMER,
               delay_s=blocked_s(wishes), lasts=True, motor=False),
        Device(tag="K2", name="drive to motor", logic=series(guards, make("TB"), broken("K3")), duty="AC-1",
               motor=False),
        Device(tag="RUN", name="drive's run command", logic=series(by_drive, make("K1"), make("K2")), coil=Coil.RELAY),
        Device(tag="TF", name="residual field", logic=series(make("CR"), make(BYPASS), broken("K2")), coil=Coil.TIMER,
               delay_s=wishes.residual_wait_s, motor=False),
        Device(tag="K3", name="past the drive",
               logic=series(guards, make("CR"), make(BYPASS), make("TF"), broken("K2"))),
        *slowed(wishes),
    )  # fmt: skip
    selector = Input(tag=BYPASS, name="selector in by-pass", kind=Kind.HELD)
    plain = Circuit(
        key="drive-bypass", name="drive with by-pass", inputs=(*inputs_of(wishes), selector), devices=devices,
        poles=(("K1", _into(wishes)), ("K2", (("e1", "T1"), ("e2", "T2"), ("e3", "T3"))), ("K3", ACROSS)),
        between=(("drive", _out_of(wishes, "e")),), fed_by="fed by its drive",
        apart=(("K2", "K3"),),
        wanted=("K1", "K2", "RUN"), modes=((BYPASS, ("K3",)),), grants=("bypass",),
        pauses=(("K2", "K3", wishes.residual_wait_s),),
    )  # fmt: skip
    return with_selector(plain) if wishes.hands else plain


def _command(permit: Logic, own: tuple[str, str], other: str, button: str, against: str, limit: str | None) -> Device:
    tag, name = own
    begun = either(series(make(button), broken(against)), make(tag))
    ends = broken(limit) if limit else None
    return Device(tag=tag, name=name, coil=Coil.RELAY, logic=series(permit, make("K1"), broken(other), ends, begun))
