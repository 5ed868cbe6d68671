"""The stop in a sentence."""

from __future__ import annotations

from vinegate.core.answer import Piece
from vinegate.core.numbers import write
from vinegate.core.stop.stage import Stopping
from vinegate.core.stop.ways import ALONE


def stop_answer(found: Stopping | None, needs: tuple[str, ...] = ()) -> tuple[Piece, ...]:
    """What the way in use does, and what coasting alone would take; what is asked for while nothing is worked."""
    if found is None:
        return (Piece(f"To say how it stops, give {', '.join(needs)}."),)
    used, coasting = found.used, found.row(ALONE.key)
    name = f"{used.name[:1].upper()}{used.name[1:]}"
    if used.time_s is None:
        return (Piece(f"{name}: {used.why}"),)
    between = f"{write(used.least_s, 3)} to " if used.band_s and used.least_s is not None else ""
    pieces = [Piece(f"{name} has it at rest in "), Piece(f"{between}{write(used.time_s, 3)} s", strong=True)]
    if used.method != ALONE.key:
        alone = "never stops" if coasting.time_s is None else f"takes {write(coasting.time_s, 3)} s"
        pieces.append(Piece(f"; by itself it {alone}"))
    pieces.append(Piece(". It must hold at rest: only a spring-set brake does." if found.must_hold else "."))
    return tuple(pieces)
