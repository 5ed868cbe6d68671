"""The place in a sentence."""

from __future__ import annotations

from vinegate.core.answer import Piece
from vinegate.core.gate import Verdict
from vinegate.core.location.stage import Placed


def place_answer(found: Placed) -> tuple[Piece, ...]:
    """Where the motor stands and the device that decides."""
    motor = found.device("motor")
    if motor is None or not motor.area:
        return (Piece("Where the motor stands is not known: nothing is taken as unclassified."),)
    area = next(row for row in found.areas if row.key == motor.area)
    pieces = [Piece(f"The motor stands in {area.name}, "), Piece(area.short, strong=True)]
    worst = max(found.devices, key=lambda row: row.verdict.rank)
    if worst.verdict in (Verdict.OPEN, Verdict.AJAR):
        pieces.append(Piece(": every device may stand where it does." if found.classified else "."))
    elif worst.verdict is Verdict.SHUT:
        pieces.append(Piece(f": the {worst.name} may not stand where it does. {worst.why}"))
    else:
        pieces.append(Piece(f". Of the {worst.name} something is not known. {worst.why}"))
    if worst.verdict is Verdict.AJAR and found.classified:
        checks = [check.name.lower() for check in worst.checks if check.verdict is Verdict.AJAR]
        pieces.append(Piece(f" Look again at the {worst.name}: its {' and '.join(checks)}."))
    return tuple(pieces)
