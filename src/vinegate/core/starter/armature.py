"""A direct-current machine behind its own drive: line and armature contactor, the field watched."""

from __future__ import annotations

from typing import Final

from vinegate.core.starter.logic import PHASES, Circuit, Coil, Device, Input, Kind, Pole, broken, make, series
from vinegate.core.starter.wishes import OL, Wishes, begins, inputs_of, latched, stops_and_follows

FIELD_LOST: Final = "FL"
_BLOCKED_S: Final = 0.5


def dc_drive(wishes: Wishes) -> Circuit:
    """`RUN = CR·K1·MA`: MA closes before the drive is told to run and opens after it is blocked.

    Guards open K1 and MA at once. Where a field is fed its loss is one of them: unloaded the machine would run away
    (NFPA 70:2023 430.89; IEC 60204-1:2016 7.6).
    """
    lost = (Input(tag=FIELD_LOST, name="field current lost", kind=Kind.GUARD, stops=True, location="panel"),)
    watched = broken(FIELD_LOST) if wishes.field_fed else None
    guards = series(broken(OL), latched(wishes), watched)
    run = series(guards, stops_and_follows(wishes), begins(wishes, make("CR")))
    devices = (
        Device(tag="CR", name="run, sealed", logic=run, coil=Coil.RELAY, motor=False),
        Device(tag="K1", name="feeds the drive", logic=guards, duty="AC-1", of_input=True, motor=False),
        Device(tag="TB", name="blocked before it opens", logic=make("CR"), coil=Coil.TIMER, delay_s=_BLOCKED_S,
               lasts=True, motor=False),
        Device(tag="MA", name="armature", logic=series(guards, make("TB")), duty="DC-1", of_armature=True, motor=False),
        Device(tag="RUN", name="drive's run command", logic=series(make("CR"), make("K1"), make("MA")),
               coil=Coil.RELAY),
    )  # fmt: skip
    lines = PHASES if wishes.bridge_lines > 2 else PHASES[:2]
    into: tuple[Pole, ...] = tuple((line, f"d{line[1:]}") for line in lines)
    bridge: tuple[Pole, ...] = (("d1", "e1"), ("d2", "e2"), ("d3", "e2"))[: len(lines)]
    field: tuple[tuple[str, tuple[Pole, ...]], ...] = (("field supply", (("d1", "F1"), ("d2", "F2"))),)
    return Circuit(
        key="dc-drive", name="DC drive, run command held", inputs=(*inputs_of(wishes), *(lost if watched else ())),
        devices=devices, poles=(("K1", into), ("MA", (("e1", "A1"), ("e2", "A2")))),
        between=(("DC drive", bridge), *(field if wishes.field_fed else ())), fed_by="fed by its drive",
        restarts=wishes.two_wire, wanted=("K1", "MA", "RUN"),
    )  # fmt: skip
