"""Can the torques that were typed belong to one machine?"""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, rule
from vinegate.core.numbers import write

_ROUNDING: Final = 1.02
_SOURCE: Final = "IEC 60034-1:2022 3.18 to 3.20: breakdown is the largest torque on the way up, pull-up the smallest"
_REMEDY: Final = "Read the torques in the maker's data again: per cent of rated torque."
LEAST_BREAKDOWN_PU: Final = 1.05
"""Below this no machine carries its rated torque steadily; models are drawn with it, under a gate that fails."""


def torques_gate(circuit: Circuit) -> Gate | None:
    """Order of rated, locked-rotor, pull-up and breakdown torque; None where fewer than one of them is stated.

    Design D, and other machines whose torque only falls with speed, have their largest torque at rest.
    """
    given = circuit.machine
    falls = circuit.plate.design_letter == "D"
    pairs = (
        ("Breakdown torque", given.breakdown_torque_pu, "rated torque", 1.0),
        ("Breakdown torque", given.breakdown_torque_pu, "locked-rotor torque", given.locked_rotor_torque_pu),
        ("Breakdown torque", given.breakdown_torque_pu, "pull-up torque", given.pull_up_torque_pu),
        ("Locked-rotor torque", given.locked_rotor_torque_pu, "pull-up torque", given.pull_up_torque_pu),
    )
    stated = [pair for pair in pairs if pair[1] is not None and pair[3] is not None]
    if not stated:
        return None
    wrong = [
        f"{label} {_pct(value)} is below {other} {_pct(least)}."
        for label, value, other, least in stated
        if value and least and value * _ROUNDING < least and not (falls and other == "locked-rotor torque")
    ]
    text = " ".join(wrong) or "Largest, smallest and rated torque stand in the order every machine has."
    return rule("machine.torques", "Torques of one machine", not wrong, text, _SOURCE, remedy=_REMEDY)


def _pct(value: float | None) -> str:
    return f"{write(100 * (value or 0), 4)} %"
