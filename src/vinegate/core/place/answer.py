"""The place in a sentence."""

from __future__ import annotations

from vinegate.core.answer import Piece
from vinegate.core.grade import Verdict
from vinegate.core.place.stage import Placed


def place_answer(found: Placed) -> tuple[Piece, ...]:
    """Where the motor stands and the device that decides."""
    motor = found.device("motor")
    if motor is None or not motor.area:
        return (Piece("Where the motor stands is not known: nothing is taken as unclassified."),)
    area = next(row for row in found.areas if row.key == motor.area)
    pieces = [Piece(f"The motor stands in {area.name}, "), Piece(area.short, strong=True)]
    placed = [row for row in found.devices if row.area]
    worst = max(placed, key=lambda row: row.verdict.rank)
    if worst.verdict is Verdict.FAILS:
        pieces.append(Piece(f": the {worst.name} may not stand where it does. {worst.why}"))
    elif worst.verdict is Verdict.UNKNOWN:
        pieces.append(Piece(f". Of the {worst.name} something is not known. {worst.why}"))
    elif worst.verdict is Verdict.CHECK:
        pieces.append(Piece(f". To check of the {worst.name}: {worst.why}"))
    else:
        pieces.append(Piece(": every device may stand where it does." if found.classified else "."))
    return tuple(pieces)
