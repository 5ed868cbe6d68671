"""The answer first: what a person could say on the phone, built from the plan, and from all of it.

What fails comes first, what can hurt someone before the rest; then what is still to settle, by the fact that settles
most; then what is good.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from typing import Final

from vinegate.core.doubt import Doubt
from vinegate.core.grade import Gate, Kind, Verdict
from vinegate.core.numbers import write
from vinegate.core.records import dataclass
from vinegate.core.rules import Words
from vinegate.core.sheet import Missing
from vinegate.core.start.compare import Comparison, MethodRow
from vinegate.core.start.dip import StartPoint
from vinegate.core.start.trace import Outcome
from vinegate.core.start.way import Windings
from vinegate.core.start.ways import USUAL, way_of
from vinegate.core.wording import inside
from vinegate.core.working import Figure

# Gates that can hurt someone, in the order in which they are said; the others follow.
LIFE: Final = (
    "plate.",
    "place.",
    "stop.hold",
    "stop.release",
    "protection.conductors",
    "protection.short_circuit_rating",
    "protection.device",
    "protection.loop",
    "protection.withstand",
    "protection.protective_withstand",
    "protection.grounding",
    "protection.setting",
    "protection.reset",
    "protection.overspeed",
    "start.possible",
    "wye_delta.",
    "load.",
    "start.torque",
)
_SHOWN: Final = 4


@dataclass(frozen=True, slots=True)
class Piece:
    """A run of text; `strong` marks the two or three numbers that decide."""

    text: str
    strong: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Findings:
    """What the sentences are built from. `gates` are all of the plan's; `wrong` what on its plate cannot be; `board` is
    the one whose dip is told: the main one, by its name for a circuit that hangs on another.
    """

    words: Words
    locked_rotor: Figure | None
    full: StartPoint | None
    wye: StartPoint | None
    dip_limit: Figure | None
    eligible: Gate
    chosen: str
    gates: tuple[Gate, ...]
    missing: tuple[Missing, ...]
    comparison: Comparison | None = None
    wrong: tuple[Doubt, Gate] | None = None
    board: str = "the board"


def answer(found: Findings) -> tuple[Piece, ...]:
    """A few sentences: what fails, what settles it, what the start does."""
    if found.wrong is not None:
        doubt, gate = found.wrong
        return (Piece(doubt.ahead), Piece(gate.sentence), Piece(f" {gate.remedy}"))
    used = _run_in_use(found)
    first = [*failing(found.gates)] or [*to_settle(found.gates, known=(found.full or used) is not None)]
    told = "".join(piece.text for piece in first).lower()
    start = (
        _start(found, told) if found.full is not None else _alone(found, used) if used is not None else _not_yet(found)
    )
    return (*_spaced(first), *start, *_all_good(found.gates))


def _fails(gate: Gate) -> bool:
    return gate.weighs and gate.verdict is Verdict.FAILS


def by_weight(gate: Gate) -> int:
    """Place in the order in which failures are said."""
    return next((place for place, key in enumerate(LIFE) if gate.key.startswith(key)), len(LIFE))


def failing(gates: Iterable[Gate]) -> list[Piece]:
    """What fails first, with its remedy, and what fails besides."""
    wrong = sorted((gate for gate in gates if _fails(gate)), key=by_weight)
    if not wrong:
        return []
    gate, *rest = wrong
    pieces = [
        Piece("Fails: "),
        Piece(inside(gate.name), strong=True),
        Piece(f". {gate.sentence} {gate.remedy}".rstrip()),
    ]
    if rest:
        names = ", ".join(dict.fromkeys(inside(one.name) for one in rest[:3]))
        more = f" and {len(rest) - 3} more" if len(rest) > 3 else ""
        pieces.append(Piece(f" Also: {names}{more}."))
    return pieces


def to_settle(gates: Iterable[Gate], *, known: bool = True) -> list[Piece]:
    """The fact that settles most of what is to check or not known; nothing while nothing is known at all."""
    open_gates = [gate for gate in gates if gate.weighs and gate.verdict in (Verdict.CHECK, Verdict.UNKNOWN)]
    if not open_gates or not known:
        return []
    counted = Counter(_settles(gate) for gate in open_gates)
    fact, times = max(counted.items(), key=lambda pair: (pair[1], -_first(open_gates, pair[0])))
    gate = next(one for one in open_gates if _settles(one) == fact)
    rest = len(open_gates) - times
    if gate.verdict is Verdict.CHECK:
        remedy = f" {gate.remedy}" if gate.turns is None and gate.remedy else ""  # no fact that can be typed settles it
        pieces = [Piece("To check: "), Piece(inside(gate.name), strong=True), Piece(f". {gate.sentence}{remedy}")]
    else:
        pieces = [Piece("Not known yet: "), Piece(inside(gate.name), strong=True), Piece(f". Give {fact}.")]
    if rest:
        pieces.append(Piece(f" {rest} more to settle."))
    return pieces


def _settles(gate: Gate) -> str:
    """The fact that a gate waits for."""
    if gate.turns is not None:
        return gate.turns.label
    return gate.needs[0] if gate.needs else (gate.rests_on[0] if gate.rests_on else gate.name)


def _first(gates: Sequence[Gate], fact: str) -> int:
    return min(by_weight(gate) for gate in gates if _settles(gate) == fact)


def _all_good(gates: Iterable[Gate]) -> list[Piece]:
    """Said where everything passes: and what is left for the place itself."""
    gates = list(gates)
    if any(gate.weighs and gate.verdict is not Verdict.PASSES for gate in gates):
        return []
    left = _on_site(gates)
    return [Piece(f" Everything passes{f'; {left}' if left else ''}.")]


def _on_site(gates: Iterable[Gate]) -> str:
    """How much of what passes hangs on a look at the place itself."""
    left = sum(gate.kind is Kind.CONFIRM and gate.verdict is not Verdict.PASSES for gate in gates)
    return f"{left} to confirm on site" if left else ""


def what_decides(gates: Iterable[Gate]) -> list[Piece]:
    """The tail of a sheet's own sentence: what fails, else what is to settle, else that all passes."""
    gates = list(gates)
    found = failing(gates) or to_settle(gates)
    return [Piece(" "), *found] if found else [Piece(f" {_on_site(gates) or 'All of this passes'}.")]


def around(own: Sequence[Piece], here: Iterable[Gate], others: Iterable[Gate]) -> list[Piece]:
    """What decides besides, for a sheet that has a sentence of its own: here in full, on the other sheets by name.

    Of what stands here nothing is said where the sheet's own sentence speaks of it, or of another that weighs as much.
    """
    text = "".join(piece.text for piece in own).lower()
    open_here = _not_passing(here)
    worst = max((gate.verdict.rank for gate in open_here), default=0)
    told = any(gate.verdict.rank == worst and _told(gate, text) for gate in open_here)
    said = [] if told else failing(open_here) or to_settle(open_here)
    return [*([Piece(" "), *said] if said else []), *_named("On another sheet", _not_passing(others))]


def _not_passing(gates: Iterable[Gate]) -> list[Gate]:
    return [gate for gate in gates if gate.weighs and gate.verdict is not Verdict.PASSES]


def _told(gate: Gate, text: str) -> bool:
    return gate.name.lower() in text or gate.sentence.lower() in text


_SAYS: Final = {Verdict.FAILS: "fails", Verdict.UNKNOWN: "not known", Verdict.CHECK: "to check"}


def _named(where: str, gates: Sequence[Gate]) -> list[Piece]:
    """The gate that weighs most by name, and how many with it."""
    if not gates:
        return []
    first = min(gates, key=lambda gate: (-gate.verdict.rank, by_weight(gate)))
    rest = f", {len(gates) - 1} more with it" if len(gates) > 1 else ""
    return [Piece(f" {where} {_SAYS[first.verdict]}: "), Piece(inside(first.name), strong=True), Piece(f"{rest}.")]


def _spaced(pieces: Sequence[Piece]) -> tuple[Piece, ...]:
    return (*pieces, Piece(" ")) if pieces else ()


def percent(figure: Figure) -> str:
    """A percentage to one decimal.

    >>> from vinegate.core.working import given
    >>> percent(given("dip", "Dip", "ΔU", 4.96, "%"))
    '5.0 %'
    """
    return f"{figure.value:.1f} %"


def _run_in_use(found: Findings) -> MethodRow | None:
    """The way in use, where it was run."""
    used = found.comparison.row(found.comparison.chosen) if found.comparison is not None else None
    return used if used is not None and used.outcome is not None else None


def _alone(found: Findings, used: MethodRow) -> list[Piece]:
    """What a machine draws that never starts across the line."""
    phrase, dip = _phrase(used, found.words), used.dip_pct or 0.0
    pieces = [
        Piece(f"On {phrase} it pulls "),
        Piece(f"{write(used.peak_a or 0.0, 3)} A", strong=True),
        Piece(f" and {found.board} sags "),
        Piece(f"{dip:.1f} %", strong=True),
        Piece(_against_limit(found, dip)),
    ]
    if used.time_s is None:
        return [*pieces, Piece(f" {_in_short(used)}")]
    spare = f" with {used.margin_pct:.0f} % torque to spare" if used.margin_pct is not None else ""
    return [*pieces, Piece(" It is at speed in "), Piece(f"{write(used.time_s, 2)} s", strong=True), Piece(f"{spare}.")]


def _start(found: Findings, told: str) -> list[Piece]:
    """What full voltage draws and does to the board, and what the way in use does, but for what is `told` already."""
    assert found.full is not None
    pieces = [
        Piece(f"{found.words.across_the_line} it pulls "),
        Piece(f"{write(found.full.current.value, 3)} A", strong=True),
        Piece(f" and {found.board} sags "),
        Piece(percent(found.full.dip_board), strong=True),
        Piece(_against_limit(found, found.full.dip_board.value)),
    ]
    return pieces + (_ways(found, told) if found.comparison else _first_moment(found))


def _against_limit(found: Findings, dip_pct: float) -> str:
    if found.dip_limit is None:
        return "; no limit is set to judge that by."
    limit = f"{write(found.dip_limit.value, 3)} %"
    over = dip_pct > found.dip_limit.value
    return f", over your {limit}." if over else f", within your {limit}."


def _first_moment(found: Findings) -> list[Piece]:
    """Without a load only the first moment is known: wye-delta's, where the plate has it, and the way chosen."""
    name = f"{found.words.wye.capitalize()}-delta"
    if not found.eligible.verdict.usable:
        by_wye = way_of(found.chosen).windings is Windings.WYE
        return [Piece(f" You chose {name.lower()}: {found.eligible.sentence}")] if by_wye else []
    if found.wye is None:
        return []
    doubt = " if the leads allow it" if found.eligible.verdict is not Verdict.PASSES else ""
    torque = " The load must then start on a third of the torque, and in delta it draws more."
    over = found.dip_limit is not None and found.wye.dip_board.value > found.dip_limit.value
    if over:
        return [Piece(f" Even {name.lower()} sags it "), Piece(percent(found.wye.dip_board), strong=True), Piece(".")]
    return [
        Piece(f" {name} holds it to "),
        Piece(percent(found.wye.dip_board), strong=True),
        Piece(f" at first{doubt}.{torque}"),
    ]


def _ways(found: Findings, told: str) -> list[Piece]:
    """Why full voltage is refused, the recommended way, the chosen one where it is another."""
    assert found.comparison is not None
    comparison, words = found.comparison, found.words
    best = next((row for row in comparison.rows if row.recommended), None)
    chosen = comparison.row(comparison.chosen)
    if best is None:
        return _none_passes(comparison, chosen, words, told)
    pieces = _refused(comparison.row(USUAL.key), best, found, told) if chosen.method != USUAL.key else []
    if chosen.method == best.method:
        return [*pieces, *_does_it(best, words)]
    says = _in_short(chosen)
    why = "." if says.lower() in told else f": {says}"
    pieces += [Piece(" You chose "), Piece(_phrase(chosen, words), strong=True), Piece(why)]
    if not chosen.verdict.usable:
        pieces += _does_it(best, words, after=True)
    return pieces


def _refused(full: MethodRow, best: MethodRow, found: Findings, told: str) -> list[Piece]:
    """Why full voltage is refused, where that is not the dip that the sentence has named already."""
    if best.method == full.method or full.why.lower() in told:
        return []
    over = found.dip_limit is not None and full.dip_pct is not None and full.dip_pct > found.dip_limit.value
    if over or not full.why:
        return []
    return [Piece(f" Not at full voltage: {full.why[:1].lower()}{full.why[1:]}")]


def _does_it(row: MethodRow, words: Words, *, after: bool = False) -> list[Piece]:
    """What a way that passes does, in one sentence; `after` another has been spoken of."""
    margin = f" with {row.margin_pct:.0f} % torque to spare" if row.margin_pct is not None else ""
    time = f"{write(row.time_s or 0, 2)} s"
    if row.method == USUAL.key:
        it = f" {words.across_the_line} it" if after else " It"
        return [Piece(f"{it} is at speed in "), Piece(time, strong=True), Piece(f"{margin}.")]
    subject = _phrase(row, words)
    return [
        Piece(f" {subject[0].upper()}{subject[1:]} keeps it to "),
        Piece(f"{row.dip_pct:.1f} %", strong=True),
        Piece(", at speed in "),
        Piece(time, strong=True),
        Piece(f"{margin}."),
    ]


def _phrase(row: MethodRow, words: Words) -> str:
    """A way to start as one says it, with the setting that matters."""
    at = f" {row.setting}".replace(" ×", "\u00a0×") if row.setting else ""
    return way_of(row.method).phrase(at, words)


def _in_short(row: MethodRow) -> str:
    if row.outcome is None:
        return row.why
    wrong = next((gate for gate in row.gates if gate.weighs and gate.verdict is Verdict.FAILS), None)
    if wrong is not None:
        return wrong.sentence
    if row.time_s is None:
        return f"as it is taken it {row.outcome.value}."
    margin = f", {row.margin_pct:.0f} % torque to spare" if row.margin_pct is not None else ""
    return f"{row.dip_pct:.1f} %, at speed in {write(row.time_s, 2)} s{margin}."


def _none_passes(comparison: Comparison, chosen: MethodRow, words: Words, told: str) -> list[Piece]:
    """Say what stands in the way of the one in use; that none passes only where each has been tried and fails."""
    phrase, says = _phrase(chosen, words), _in_short(chosen)
    known = says.lower() in told
    if all(row.verdict is Verdict.FAILS for row in comparison.rows):
        return [Piece(" No way to start passes." if known else f" No way to start passes; {phrase}: {says}")]
    if chosen.outcome is Outcome.REACHES:
        return _does_it(chosen, words)
    return [] if known else [Piece(f" {phrase[0].upper()}{phrase[1:]}: {says}")]


_ALSO_THEN: Final = ("plate.volts", "plate.frequency")
# What the fall of volts hangs on, in order of worth; the plate's only while the starting current is not known.
_QUESTION: Final = (
    "supply.volts",
    "plate.volts",
    "plate.power",
    "plate.full_load_current",
    "plate.code_letter",
    "plate.locked_rotor_current",
    "supply.fault_level",
    "supply.fault_level_volts",
    "supply.transformer_power",
    "supply.transformer_impedance",
    "plate.frequency",
    "standby.generator_power",
    "standby.transient_reactance",
)


def _not_yet(found: Findings) -> tuple[Piece, ...]:
    pieces: list[Piece] = []
    if found.locked_rotor is not None:
        text = f"{found.words.across_the_line} on stiff volts it would pull "
        pieces += [Piece(text), Piece(f"{write(found.locked_rotor.value, 3)} A", strong=True), Piece(". ")]
    labels = {item.path: item.label for item in found.missing}
    asked: list[str] = [path for path in _QUESTION if path in labels]
    if found.locked_rotor is not None:
        asked = [path for path in asked if not path.startswith("plate.") or path in _ALSO_THEN]
    asked += [path for path in labels if path.startswith("board_")]
    wanted = [labels[path] for path in asked]
    if not wanted:
        settle = to_settle(found.gates) if found.gates and not pieces else []
        return (*pieces, *settle) or (Piece("Nothing is known yet."),)
    more = f" and {len(wanted) - _SHOWN} more" if len(wanted) > _SHOWN else ""
    return (*pieces, Piece(f"To say how far the volts fall, give {', '.join(wanted[:_SHOWN])}{more}."))
