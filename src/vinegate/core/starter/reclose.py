"""Volts that come back before the machine's own field has died."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Gate, confirm
from vinegate.core.machine.stage import MACHINE
from vinegate.core.numbers import write
from vinegate.core.start.reclosure import open_rotor_time_constant
from vinegate.core.start.way import Way
from vinegate.core.starter.logic import Circuit
from vinegate.core.work import Work

_TIMES: Final = 1.5
_SOURCE: Final = "NEMA MG 1:2021 20.33: 1.5 × the open rotor's time constant; of any maker's machine by its own word"


def reclose_gate(work: Work, drawn: Circuit, way: Way, delay_s: float) -> list[Gate]:
    """One that closes across the line by itself after an outage waits until its field has died, or its maker allows it.

    A ride waits for nothing; two wires and auto wait for their restart delay, or their rest where that is longer.
    Electronics begin with their ramp.
    """
    by_itself = drawn.restarts or drawn.automatic or drawn.rides
    machine = work.found(MACHINE).machine
    if not by_itself or way.electronic or machine is None or machine.inside is None:
        return []
    dies_s = _TIMES * open_rotor_time_constant(machine.inside)
    rests_s = drawn.device(drawn.rested).delay_s if drawn.rested else 0.0
    waits_s = 0.0 if drawn.rides else max(delay_s, rests_s)
    text = f"Volts that are back within {write(dies_s, 2)} s meet its own field: more amperes and torque than a start. "
    text += (
        f"It waits {write(waits_s, 2)} s." if waits_s >= dies_s else "Its maker's word, and the driven machine's."
        if drawn.rides else "A restart delay of so long, or its maker's word."
    )  # fmt: skip
    return [confirm("starter.reclose", "Closes on a field that has died", waits_s >= dies_s, text, _SOURCE)]
