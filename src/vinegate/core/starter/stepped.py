"""Resistors and reactors cut out in steps: in the line, or in a wound rotor's circuit."""

from __future__ import annotations

from itertools import pairwise
from typing import Final

from vinegate.core.records import replace
from vinegate.core.starter.direct import injected, reversing
from vinegate.core.starter.logic import Circuit, Coil, Device, Logic, Pole, broken, either, make, series
from vinegate.core.starter.wishes import (
    ACROSS,
    Wishes,
    begins_only,
    changes,
    inputs_of,
    permitted,
    run_by,
    with_selector,
)

_LEADS: Final = ("T1", "T2", "T3")
_RINGS: Final = ("M1", "M2", "M3")
_STAR: Final = "RS"
_MAKES_AC2: Final = 4.0
"""Times its AC-2 amperes that a contactor makes and breaks (IEC 60947-4-1:2018, slip-ring motors)."""


def _with_steps(wishes: Wishes, shorts: str) -> tuple[Circuit, tuple[str, ...]]:
    """`M = P·(START·/1A·/2A + M)`, `1A = M·T(M)`, `2A = 1A·T(1A)` and on; with the tags of the steps' contactors.

    Turned both ways F or R stands for M. It starts only while all of the resistor is in: a contactor that hangs in is
    found by the next start.
    """
    count = len(wishes.steps_s)
    tags = tuple(f"{step}A" if count > 1 else "A" for step in range(1, count + 1))
    plain = _main(wishes, tuple(broken(tag) for tag in tags))
    found, begun = [*plain.devices], either(*(make(tag) for tag, _ in plain.poles))
    for step, (tag, after_s) in enumerate(zip(tags, wishes.steps_s, strict=True), start=1):
        timer, of = ("TR", "step time") if count == 1 else (f"TR{step}", f"step {step} time")
        found.append(replace(changes(timer, of, "", after_s), logic=begun))
        found.append(Device(tag=tag, name=shorts.format(step), logic=series(begun, make(timer)), motor=step == count))
        begun = make(tag)
    timers = (one.tag for one in found if one.coil is Coil.TIMER)
    chain = tuple(zip(timers, tags, strict=True))
    return replace(plain, devices=tuple(found), chain=chain, wanted=(*plain.wanted, *tags[-1:])), tags


def _main(wishes: Wishes, all_in: tuple[Logic, ...]) -> Circuit:
    """What puts it on the line, where all of the resistor is in; by two wires `CR = P·AUTO`, `M = /A·CR + CR·M`."""
    if wishes.reverses:
        return reversing(wishes, all_in)
    permit, by_selector = permitted(wishes), wishes.hands and not wishes.two_wire
    main = Device(tag="M", name="main", logic=series(permit, run_by(wishes, make("M"))))
    devices: tuple[Device, ...] = (main,)
    if all_in and (wishes.two_wire or by_selector):
        told = Device(tag="CR", name="told to run", logic=series(permit, run_by(wishes, make("CR"))), coil=Coil.RELAY,
                      motor=False)  # fmt: skip
        devices = (told, replace(main, logic=either(series(*all_in, make("CR")), series(make("CR"), make("M")))))
    elif all_in:
        begun = either(series(begins_only(wishes), *all_in), make("M"))
        devices = (replace(main, logic=series(permit, begun)),)
    plain = Circuit(
        key="", name="", inputs=inputs_of(wishes), devices=devices, poles=(("M", ACROSS),),
        restarts=wishes.two_wire, wanted=("M",),
    )  # fmt: skip
    return with_selector(plain) if by_selector else plain


def series_element(wishes: Wishes) -> Circuit:
    """Resistor or reactor in the line, shorted by A when the timer has run; of several steps each by its own."""
    alone = len(wishes.steps_s) == 1
    plain, tags = _with_steps(wishes, "shorts it" if alone else "shorts up to {}")
    nets = [*(tuple(f"{letter}{phase}" for phase in (1, 2, 3)) for letter in "xyz"[-len(tags) :]), _LEADS]
    parts = [tuple(zip(one, other, strict=True)) for one, other in pairwise(nets)]
    shorted: list[tuple[Pole, ...]] = [tuple(zip(nets[0], net, strict=True)) for net in nets[1:]]
    names = ["impedance" if alone else f"impedance {step}" for step in range(1, len(tags) + 1)]
    into = dict(zip(_LEADS, nets[0], strict=True))
    mains = tuple((tag, tuple((phase, into[lead]) for phase, lead in poles)) for tag, poles in plain.poles)
    drawn = replace(
        plain, key="series", name=_named("impedance in the line", tags, wishes), steps=tuple(shorted),
        poles=(*mains, *zip(tags, shorted, strict=True)), between=tuple(zip(names, parts, strict=True)),
    )  # fmt: skip
    plainly = not (wishes.two_wire or wishes.hands or wishes.reverses)
    return injected(drawn, wishes) if wishes.braking == "dc" and plainly else drawn


def rotor_resistor(wishes: Wishes) -> Circuit:
    """The stator on the line with all of the resistor at the rings; its sections are shorted from the star on.

    The last contactor stays and carries the rotor's amperes for ever, those before it the start alone. Where none is
    needed links join the rings.
    """
    plain, tags = _with_steps(wishes, "shorts section {}")
    count = len(tags)
    nets = [_RINGS, *(tuple(f"R{place}{phase}" for phase in (1, 2, 3)) for place in range(1, count))]
    ends = [*nets[1:], (_STAR,) * 3]
    sections = {f"section {count - place}": tuple(zip(nets[place], ends[place], strict=True)) for place in range(count)}
    shorted: list[tuple[Pole, ...]] = [tuple(pairwise(net)) for net in reversed(nets)][:count]
    links = {"links": tuple(pairwise(_RINGS))}
    return replace(
        plain, key="rotor-resistor", name=_named("rotor resistor", tags, wishes),
        devices=tuple(_rated(one, tags, wishes) for one in plain.devices),
        poles=(*plain.poles, *zip(tags, shorted, strict=True)), between=tuple((sections or links).items()),
        fed_by="on the line, through its rotor resistor", steps=tuple(shorted), rings=_RINGS,
    )  # fmt: skip


def _rated(device: Device, tags: tuple[str, ...], wishes: Wishes) -> Device:
    if device.coil is not Coil.CONTACTOR:
        return device
    if device.tag not in tags:
        return replace(device, duty="AC-2")
    start = wishes.first_torque_pu / _MAKES_AC2
    last = device.tag == tags[-1]
    name = "shorts the rings" if last else device.name
    return replace(device, name=name, of_rings=max(1.0, start) if last else start, duty="AC-2", motor=False)


def _named(what: str, tags: tuple[str, ...], wishes: Wishes) -> str:
    steps = f", {len(tags)} steps" if len(tags) > 1 else ""
    told = ", reversing" if wishes.reverses else ", hand-off-auto" if wishes.hands and not wishes.two_wire else ""
    return f"{what}{steps}{told}"
