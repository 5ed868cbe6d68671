"""The protection in a sentence: what to fit and set, and what stands in the way."""

from __future__ import annotations

from vinegate.core.answer import Piece, what_decides
from vinegate.core.protection.stage import Protected


def protection_answer(found: Protected) -> tuple[Piece, ...]:
    """Device, overload and conductors with their sizes; then what does not pass, or is to be confirmed."""
    device, over, runs = (found.device(key) for key in ("device", "overload", "conductors"))
    if device.chosen == "–" and over.chosen == "–":
        return (Piece("Nothing can be sized yet: give the plate's power, volts and amperes."),)
    kind = device.name.partition(": ")[2] or "short-circuit device"
    pieces = [Piece(device.chosen, strong=True), Piece(f" {kind}, overload of class {found.overload.trip} at ")]
    pieces += [Piece(over.chosen, strong=True), Piece(", conductors "), Piece(runs.chosen, strong=True), Piece(".")]
    gates = [gate for row in found.devices for gate in row.gates]
    return (*pieces, *what_decides(gates))
