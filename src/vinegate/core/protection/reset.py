"""What resets by itself may start the machine without warning."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Gate, check, confirm, rule
from vinegate.core.plate.kind import THREE_PHASE, Family
from vinegate.core.plate.protector import read_protector
from vinegate.core.protection.need import Need
from vinegate.core.rules import RuleSet
from vinegate.core.turning import Turns

_HARMLESS: Final = Turns(
    path="protection.restart_harmless", label="unexpected restart", passes="harmless", fails="one that may injure",
    passes_as="yes", fails_as="no",
)  # fmt: skip
_KIND: Final = Turns(
    path="plate.thermal_protection", label="thermal protection", passes="with manual reset, or none",
    fails="with automatic reset", passes_as="MAN", fails_as="AUTO",
)  # fmt: skip


_IN_THE_STAR_W: Final = 5600.0
"""Protectors that open a three-phase winding themselves are made for about so much; above it they stand in a control
circuit. Usual; assumed.
"""


def reset_gates(need: Need, rules: RuleSet) -> list[Gate]:
    """What resets by itself; of one phase, where its plate is not said to have a protector, that it has none."""
    found = [_reset_gate(need, rules)]
    plate = need.circuit.plate
    if plate.family is Family.SINGLE and read_protector(plate.thermal_protection) is None:
        text = "No protector is said to be in it. Single-phase motors often have one that starts them again by itself."
        found.append(
            confirm("protection.own_protector", "No protector in the machine", False, text, rules.papers.reset)
        )
    return found


def _reset_gate(need: Need, rules: RuleSet) -> Gate:
    """The overload's reset, and that of a protector in the machine (NFPA 70 430.43, IEC 60204-1 7.3.1)."""
    facts, key, name, source = need.circuit.protection, "protection.reset", "Reset", rules.papers.reset
    mark = "the restart said to be harmless: mark the machine, it may start without warning."
    if facts.reset == "automatic":
        if facts.restart_harmless == "yes":
            return rule(key, name, True, f"Automatic, {mark}", source)
        text = "Automatic reset on a machine whose restart may injure."
        return rule(key, name, False, text, source, remedy="Manual reset.")
    said = f"{'Manual' if facts.reset else 'As advised, manual'}: it stays off until someone has looked."
    protector = read_protector(need.circuit.plate.thermal_protection)
    if protector is None or protector.resets_itself is False:
        return rule(key, name, True, said, source)
    if facts.restart_harmless == "yes":
        return rule(key, name, True, f"The protector in the machine resets by itself, {mark}", source)
    if not protector.resets_itself and _in_its_line(need):
        text = f"Its plate says “{need.circuit.plate.thermal_protection}”: whether that resets by itself is not known."
        return check(key, name, _KIND, text, source, remedy="Read its plate again, or ask its maker.")
    return _protector_gate(need, key, name, source)


def _in_its_line(need: Need) -> bool:
    """Whether its protector may open its own line: of three phases in its star, in small machines alone."""
    power_w = need.rated.power_w
    return need.circuit.plate.family not in THREE_PHASE or power_w is None or power_w <= _IN_THE_STAR_W


def _protector_gate(need: Need, key: str, name: str, source: str) -> Gate:
    """In the line it starts the machine again. In a control circuit that is held by its own contact it does not; one
    that is held from outside is judged with the control circuit.
    """
    itself = "The protector in the machine resets by itself"
    if not _in_its_line(need):
        text = f"{itself}: in a control circuit of three wires the machine stays off."
        return rule(key, name, True, text, source)
    remedy = "A machine with manual reset, or guards and signs that make a restart harmless."
    if need.circuit.protection.restart_harmless == "no":
        return rule(key, name, False, f"{itself} and starts it again without warning.", source, remedy=remedy)
    text = f"{itself} and starts it again without warning. Passes where that is harmless."
    return check(key, name, _HARMLESS, text, source, remedy=remedy)
