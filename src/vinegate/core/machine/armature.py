"""The armature of a commutator machine: its ohms, given or estimated, and whether they go with its plate."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, at_most, check
from vinegate.core.machine.simple import armature_resistance
from vinegate.core.numbers import write
from vinegate.core.plate.kind import Family
from vinegate.core.plate.rated import Rated
from vinegate.core.turning import Turns

_KEY, _NAME = "machine.armature", "Armature's ohms go with its plate"
_SOURCE: Final = "I²·R is a part of the losses, U·I − P (Fitzgerald, 6th ed., section 7.7)"
_READ_ANOTHER_WAY: Final = 1.25
"""Times as many ohms, or as few, as a machine of one make has warm and another cold, brushes with it or not; assumed.
"""
_ROUNDED: Final = 0.02
"""Of its input what rounded power and amperes hide of its losses; assumed."""
_LEAST_PART: Final = 0.08
"""Of all losses those in the armature, at least; usual is a half. Assumed."""


def armature_ohms(circuit: Circuit, *, power_w: float, volts_v: float, current_a: float) -> float | None:
    """Given, else estimated; None where they would take all of its volts at rated amperes: no such machine turns."""
    given = circuit.machine.armature_resistance_ohm
    ohms = given if given is not None else armature_resistance(power_w=power_w, volts_v=volts_v, current_a=current_a)
    return ohms if current_a * ohms < volts_v else None


def _turns_a_commutator(circuit: Circuit) -> bool:
    return circuit.plate.family is Family.DC or circuit.plate.kind == "universal"


def armature_gate(circuit: Circuit, rated: Rated) -> Gate | None:
    """Of ohms that were given, against what the plate loses in all. None where the plate itself does not add up."""
    ohms, amps, volts, watts = circuit.machine.armature_resistance_ohm, rated.current, rated.volts, rated.power_w
    if ohms is None or amps is None or volts is None or watts is None or not _turns_a_commutator(circuit):
        return None
    taken = volts.value * amps.value * (circuit.plate.power_factor or 1.0)
    lost, slack = taken - watts, _ROUNDED * taken
    if lost <= 0:
        return None
    heat = ohms * amps.value**2
    text = f"{write(ohms, 3)} Ω at {write(amps.value, 3)} A lose {write(heat, 3)} W; its plate loses {write(lost, 3)} W"
    if heat < _LEAST_PART * (lost - slack):
        least = _LEAST_PART * (lost - slack) / amps.value**2
        turns = Turns(path="machine.armature_resistance", label="armature resistance",
                      passes=f"over {write(least, 2)} Ω", passes_as=f"{write(1.05 * least, 3)} Ω")  # fmt: skip
        return check(_KEY, _NAME, turns, f"{text} in all. Passes for {turns.label} {turns.passes}.", _SOURCE,
                     remedy="Read its unit again: mΩ or Ω.")  # fmt: skip
    return at_most(
        _KEY, _NAME, heat, lost, sentence=f"{text} in all.", source=_SOURCE, unit="W",
        band=(heat / _READ_ANOTHER_WAY - slack, heat * _READ_ANOTHER_WAY + slack),
        remedy="Read it again between the brushes, the winding warm, its leads' own ohms left out.",
    )  # fmt: skip
