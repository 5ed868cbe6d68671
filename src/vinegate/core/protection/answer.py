"""The protection in a sentence: what to fit and set, and what stands in the way."""

from __future__ import annotations

from vinegate.core.answer import Piece
from vinegate.core.gate import Verdict
from vinegate.core.protection.need import Device
from vinegate.core.protection.stage import Protected


def protection_answer(found: Protected) -> tuple[Piece, ...]:
    """Device, overload and conductors with their sizes; then what does not pass, or is to be confirmed."""
    device, over, runs = (found.device(key) for key in ("device", "overload", "conductors"))
    if device.chosen == "–" and over.chosen == "–":
        return (Piece("Nothing can be sized yet: give the plate's power, volts and amperes."),)
    kind = device.name.partition(": ")[2] or "short-circuit device"
    pieces = [Piece(device.chosen, strong=True), Piece(f" {kind}, overload of class {found.overload.trip} at ")]
    pieces += [Piece(over.chosen, strong=True), Piece(", conductors "), Piece(runs.chosen, strong=True), Piece(".")]
    shut = [(row, gate) for row in found.devices for gate in row.gates if gate.verdict is Verdict.SHUT]
    if shut:
        _, gate = shut[0]
        return (*pieces, Piece(f" {gate.sentence} {gate.remedy}"))
    lacking = dict.fromkeys(need for row in found.devices for gate in row.gates for need in gate.needs)
    if lacking:
        listed = list(lacking)
        more = f" and {len(listed) - 2} more" if len(listed) > 2 else ""
        return (*pieces, Piece(f" To be confirmed: {', '.join(listed[:2])}{more}."))
    return (*pieces, Piece(_looks(found.devices)))


def _looks(devices: tuple[Device, ...]) -> str:
    again = [gate.name.lower() for row in devices for gate in row.gates if gate.verdict is Verdict.AJAR]
    if again:
        return f" Nothing is shut; look again: {', '.join(dict.fromkeys(again))}."
    return " Every gate is open."
