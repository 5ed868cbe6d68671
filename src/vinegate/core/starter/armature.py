"""A direct-current machine behind its own drive: line and armature contactor, the field watched."""

from __future__ import annotations

from itertools import pairwise
from typing import Final

from vinegate.core.records import replace
from vinegate.core.starter.logic import (
    PHASES,
    Circuit,
    Coil,
    Device,
    Input,
    Kind,
    Logic,
    Pole,
    broken,
    either,
    make,
    series,
)
from vinegate.core.starter.wishes import (
    Wishes,
    at_once,
    begins,
    blocked_s,
    inputs_of,
    powered,
    slowed,
    stops_and_follows,
)

FIELD_LOST: Final = "FL"
ON_RESISTOR: Final = "armature"
"""The way to stop."""


def dc_drive(wishes: Wishes) -> Circuit:
    """`RUN = CR·K1·MA`: MA closes before the drive is told to run and opens after it is blocked.

    Guards open K1 and MA at once. Where a field is fed its loss is one of them: unloaded the machine would run away
    (NFPA 70:2023 430.89; IEC 60204-1:2016 7.6). Its braking resistor hangs on a rest pole of MA.
    """
    lost = (Input(tag=FIELD_LOST, name="field current lost", kind=Kind.GUARD, stops=True, location="panel"),)
    watched = broken(FIELD_LOST) if wishes.field_fed else None
    guards = series(powered(wishes), watched)
    run = series(guards, at_once(wishes), stops_and_follows(wishes), begins(wishes, make("CR")))
    devices = (
        Device(tag="CR", name="run, sealed", logic=run, coil=Coil.RELAY, motor=False),
        Device(tag="K1", name="feeds the drive", logic=guards, duty="AC-1", of_input=True, motor=False),
        Device(tag="TB", name="blocked before it opens", logic=make("CR"), coil=Coil.TIMER, delay_s=blocked_s(wishes),
               lasts=True, motor=False),
        Device(tag="MA", name="armature", logic=series(guards, make("TB")), duty="DC-1", of_armature=True, motor=False),
        Device(tag="RUN", name="drive's run command", logic=series(make("CR"), make("K1"), make("MA")),
               coil=Coil.RELAY),
        *slowed(wishes),
    )  # fmt: skip
    lines = PHASES if wishes.bridge_lines > 2 else PHASES[:2]
    into: tuple[Pole, ...] = tuple((line, f"d{line[1:]}") for line in lines)
    bridge: tuple[Pole, ...] = (("d1", "e1"), ("d2", "e2"), ("d3", "e2"))[: len(lines)]
    field: tuple[tuple[str, tuple[Pole, ...]], ...] = (("field supply", (("d1", "F1"), ("d2", "F2"))),)
    plain = Circuit(
        key="dc-drive", name="DC drive, run command held", inputs=(*inputs_of(wishes), *(lost if watched else ())),
        devices=devices, poles=(("K1", into), ("MA", (("e1", "A1"), ("e2", "A2")))),
        between=(("DC drive", bridge), *(field if wishes.field_fed else ())), fed_by="fed by its drive",
        restarts=wishes.two_wire, wanted=("K1", "MA", "RUN"),
    )  # fmt: skip
    return _on_resistor(plain, wishes, guards) if wishes.braking == ON_RESISTOR else plain


def _on_resistor(plain: Circuit, wishes: Wishes, guards: Logic) -> Circuit:
    """The armature's rest pole puts the resistor across it, power or none; its stages are cut out by timers.

    `CB = P·/TE·(MA + CB)`, `1B = /MA·CB·T1`, `2B = 1B·T2`: they come in only after a run, and go when TE has run.
    """
    count = len(wishes.stages_s)
    nets = ["r1", *(f"r{place}" for place in range(2, count + 2)), "A2"]
    found, poles, chain = list[Device](), list[tuple[str, tuple[Pole, ...]]](), list[tuple[str, str]]()
    slowing = series(broken("MA"), make("CB"))
    if count:
        wanted = series(guards, broken("TE"), either(make("MA"), make("CB")))
        found.append(Device(tag="CB", name="brake wanted", logic=wanted, coil=Coil.RELAY, motor=False))
        found.append(Device(tag="TE", name="brake time", logic=slowing, coil=Coil.TIMER, delay_s=wishes.brake_s,
                            motor=False))  # fmt: skip
    begun: Logic = slowing
    for stage, after_s in enumerate(wishes.stages_s, start=1):
        timer, tag = f"T{stage}", f"{stage}B"
        found.append(Device(tag=timer, name=f"stage {stage} time", logic=begun, coil=Coil.TIMER, delay_s=after_s,
                            motor=False))  # fmt: skip
        found.append(Device(tag=tag, name=f"cuts out stage {stage}", logic=series(begun, make(timer)), duty="DC-1",
                            braking=True, motor=False))  # fmt: skip
        poles.append((tag, ((nets[stage - 1], nets[stage]),)))
        chain.append((timer, tag))
        begun = make(tag)
    stages = [f"braking resistor {place}" if count else "braking resistor" for place in range(1, count + 2)]
    parts = zip(stages, pairwise(nets), strict=True)
    return replace(
        plain, name=f"{plain.name}, braked on a resistor", devices=(*plain.devices, *found),
        poles=(*plain.poles, *poles), rests=(("MA", (("A1", nets[0]),)),), chain=tuple(chain),
        between=(*plain.between, *((name, (pair,)) for name, pair in parts)), grants=(*plain.grants, ON_RESISTOR),
    )  # fmt: skip
