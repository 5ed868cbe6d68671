"""The answer first: what a person could say on the phone, built from the plan."""

from __future__ import annotations

from dataclasses import dataclass

from vinegate.core.gate import Gate, Verdict
from vinegate.core.quantity import write
from vinegate.core.rules import Words
from vinegate.core.sheet import Missing
from vinegate.core.starting.dip import StartPoint
from vinegate.core.working import Figure


@dataclass(frozen=True, slots=True)
class Piece:
    """A run of text; `strong` marks the two or three numbers that decide."""

    text: str
    strong: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Findings:
    """What the sentences are built from."""

    words: Words
    locked_rotor: Figure | None
    full: StartPoint | None
    wye: StartPoint | None
    dip_limit: Figure | None
    full_gate: Gate
    wye_gate: Gate
    eligible: Gate
    plate_gates: tuple[Gate, ...]
    missing: tuple[Missing, ...]


def answer(found: Findings) -> tuple[Piece, ...]:
    """Two or three sentences: what it draws, how far the volts fall against the limit, what wye-delta would do."""
    wrong = next((gate for gate in found.plate_gates if gate.verdict is Verdict.SHUT), None)
    if wrong is not None:
        return (Piece("The plate does not add up: "), Piece(wrong.sentence), Piece(f" {wrong.remedy}"))
    if found.full is None:
        return _not_yet(found)
    amps = f"{write(found.full.current.value, 3)} A"
    pieces = [
        Piece(f"{found.words.across_the_line} it pulls "),
        Piece(amps, strong=True),
        Piece(" and the board sags "),
        Piece(percent(found.full.dip_board), strong=True),
    ]
    pieces += _against_limit(found) + _wye_delta(found)
    if found.full_gate.estimated:
        pieces.append(Piece(" Part of this is assumed."))
    return tuple(pieces)


def percent(figure: Figure) -> str:
    """A percentage to one decimal.

    >>> from vinegate.core.working import given
    >>> percent(given("dip", "Dip", "ΔU", 4.96, "%"))
    '5.0 %'
    """
    return f"{figure.value:.1f} %"


def _against_limit(found: Findings) -> list[Piece]:
    assert found.full is not None
    if found.dip_limit is None:
        return [Piece("; no limit is set to judge that by.")]
    limit = f"{write(found.dip_limit.value, 3)} %"
    if found.full.dip_board.value > found.dip_limit.value:
        return [Piece(f", over your {limit}.")]
    return [Piece(f", within your {limit}.")]


def _wye_delta(found: Findings) -> list[Piece]:
    name = f"{found.words.wye.capitalize()}-delta"
    if found.eligible.verdict is Verdict.SHUT:
        return [Piece(f" {name} is not possible on this plate.")]
    if found.wye is None:
        return []
    doubt = " if the leads allow it" if found.eligible.verdict is not Verdict.OPEN else ""
    torque = " The load must then start on a third of the torque."
    if found.wye_gate.verdict is Verdict.SHUT:
        return [Piece(f" Even {name.lower()} sags it "), Piece(percent(found.wye.dip_board), strong=True), Piece(".")]
    return [
        Piece(f" {name} holds it to "),
        Piece(percent(found.wye.dip_board), strong=True),
        Piece(f"{doubt}.{torque}"),
    ]


def _not_yet(found: Findings) -> tuple[Piece, ...]:
    wanted = [missing.label for missing in found.missing]
    pieces: list[Piece] = []
    if found.locked_rotor is not None:
        text = f"{found.words.across_the_line} on stiff volts it would pull "
        pieces += [Piece(text), Piece(f"{write(found.locked_rotor.value, 3)} A", strong=True), Piece(". ")]
    if not wanted:
        return (*pieces, Piece("Nothing is known yet."))
    listed = ", ".join(wanted[:4]) + (f" and {len(wanted) - 4} more" if len(wanted) > 4 else "")
    return (*pieces, Piece(f"To say how far the volts fall, give {listed}."))
