"""The protection in a sentence: what to fit and set, and what stands in the way."""

from __future__ import annotations

from vinegate.core.answer import Piece, what_decides
from vinegate.core.protection.need import Device
from vinegate.core.protection.stage import Protected


def _conductors(runs: Device) -> tuple[Piece, ...]:
    """Those that are there, else those that are advised."""
    if runs.chosen != "–":
        return (Piece(", conductors "), Piece(runs.chosen, strong=True))
    return (
        (Piece(", conductors as advised "), Piece(runs.advised, strong=True)) if runs.advised not in ("", "–") else ()
    )


def protection_answer(found: Protected) -> tuple[Piece, ...]:
    """Device, overload and conductors with their sizes; then what does not pass, or is to be confirmed."""
    device, over, runs = (found.device(key) for key in ("device", "overload", "conductors"))
    if device.chosen == "–" and over.chosen == "–":
        lacks = dict.fromkeys(need for row in (device, over, runs) for gate in row.gates for need in gate.needs)
        return (Piece(f"Nothing can be sized yet: give {', '.join(lacks) or 'the plate'}."),)
    kind = device.kind or "short-circuit device"
    pieces = [Piece(device.chosen, strong=True), Piece(f" {kind}, overload of class {found.overload.trip} at ")]
    pieces += [Piece(over.chosen, strong=True), *_conductors(runs), Piece(".")]
    gates = [gate for row in found.devices for gate in row.gates]
    return (*pieces, *what_decides(gates))
