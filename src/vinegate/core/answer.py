"""The answer first: what a person could say on the phone, built from the plan."""

from __future__ import annotations

from dataclasses import dataclass

from vinegate.core.gate import Gate, Verdict
from vinegate.core.quantity import write
from vinegate.core.rules import Words
from vinegate.core.sheet import Missing
from vinegate.core.starting.compare import Comparison, MethodRow
from vinegate.core.starting.dip import StartPoint
from vinegate.core.starting.trace import Outcome
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
    comparison: Comparison | None = None


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
    pieces += _against_limit(found)
    pieces += _ways(found) if found.comparison else _wye_delta(found)
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


def _ways(found: Findings) -> list[Piece]:
    """The recommended way, the chosen one where it is another, and what the cheap ones that fail do."""
    assert found.comparison is not None
    comparison, words = found.comparison, found.words
    best = next((row for row in comparison.rows if row.recommended), None)
    chosen = comparison.row(comparison.chosen)
    if best is None:
        return _none_passes(comparison, chosen, words)
    pieces = _does_it(best, words)
    if chosen.method != best.method:
        pieces += [Piece(" You chose "), Piece(_phrase(chosen, words), strong=True)]
        pieces += [Piece(f": {_in_short(chosen)}")]
    cheaper = [row for row in comparison.rows if row.order < best.order and row.method != chosen.method]
    fails = [row for row in cheaper if row.outcome not in (None, Outcome.REACHES) and row.method == "wye-delta"]
    if fails:
        pieces.append(Piece(f" {words.wye.capitalize()}-delta {fails[0].outcome}."))
    return pieces


def _does_it(row: MethodRow, words: Words) -> list[Piece]:
    """What a way that passes does, in one sentence."""
    margin = f" with {row.margin_pct:.0f} % torque to spare" if row.margin_pct is not None else ""
    time = f"{write(row.time_s or 0, 2)} s"
    if row.method == "full-voltage":
        return [Piece(" It is at speed in "), Piece(time, strong=True), Piece(f"{margin}.")]
    subject = _phrase(row, words)
    return [
        Piece(f" {subject[0].upper()}{subject[1:]} keeps it to "),
        Piece(f"{row.dip_pct:.1f} %", strong=True),
        Piece(" and has it at speed in "),
        Piece(time, strong=True),
        Piece(f"{margin}."),
    ]


def _phrase(row: MethodRow, words: Words) -> str:
    """A way to start as one says it, with the setting that matters."""
    return {
        "full-voltage": "full voltage",
        "wye-delta": f"{words.wye}-delta",
        "autotransformer": f"an autotransformer on its {row.setting} tap",
        "resistor": f"a series resistor at {row.setting}",
        "reactor": f"a series reactor at {row.setting}",
        "part-winding": "part winding",
        "soft-starter": f"a soft starter held at {row.setting}",
        "soft-ramp": "a soft starter on a ramp",
        "drive": "a drive",
    }[row.method]


def _in_short(row: MethodRow) -> str:
    if row.outcome is None:
        return row.why
    shut = next((gate for gate in row.gates if gate.verdict is Verdict.SHUT), None)
    if shut is not None:
        return shut.sentence
    margin = f", {row.margin_pct:.0f} % torque to spare" if row.margin_pct is not None else ""
    return f"{row.dip_pct:.1f} %, at speed in {write(row.time_s or 0, 2)} s{margin}."


def _none_passes(comparison: Comparison, chosen: MethodRow, words: Words) -> list[Piece]:
    """Say what stands in the way of the one in use."""
    if all(row.verdict is Verdict.UNKNOWN or row.outcome is None for row in comparison.rows):
        return []
    text = f" No way to start passes every gate; {_phrase(chosen, words)}: {_in_short(chosen)}"
    if chosen.verdict is Verdict.UNKNOWN:
        return _does_it(chosen, words)
    return [Piece(text)]


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
