"""The replacement's sheet: the new plate beside the old, row by row, what must be set anew, and taking it over."""

from __future__ import annotations

from typing import Any

from flask import request
from markupsafe import Markup

from vinegate.core.answer import Piece
from vinegate.core.grade import Kind, Verdict, worst_judged, worst_of
from vinegate.core.paper import PaperPicture, PaperTable
from vinegate.core.plan import NOTHING, Plan, plan_raw
from vinegate.core.replacement.anew import anew, with_new_plate
from vinegate.core.replacement.facts import NewPlate
from vinegate.core.replacement.fits import Fits
from vinegate.core.replacement.left import is_old_record
from vinegate.core.replacement.stage import REPLACEMENT, Compared
from vinegate.core.rules.sets import rule_set
from vinegate.drawing.frames import frames_over
from vinegate.drawing.scene import svg
from vinegate.store.jobs import Raw
from vinegate.web.form import FormField
from vinegate.web.stages.page import InHand, Page
from vinegate.web.stages.replacement.order import restart_order
from vinegate.web.stages.replacement.reading import others, reading

_WORDS = {
    Fits.SAME: ("fits", " as it is."),
    Fits.WITH: ("fits", " with the changes below."),
    Fits.UNKNOWN: ("may fit", ": what is not known decides."),
    Fits.NOT: ("does not fit", "."),
}


def _answer(plan: Plan) -> tuple[Piece, ...]:
    found = plan.of(REPLACEMENT)
    if found is None:
        return (Piece("No other motor is compared here yet: give its plate."),)
    bad, open_ = found.those(Fits.NOT), found.those(Fits.UNKNOWN)
    word, rest = _WORDS[found.fits]
    pieces = [Piece("The new motor "), Piece(word, strong=True), Piece(rest)]
    if bad:
        pieces.append(Piece(f" {bad[0].name}: {bad[0].text}"))
    elif open_:
        pieces.append(Piece(f" To be known first: {', '.join(open_[0].needs)}."))
    return tuple(pieces)


def _context(hand: InHand) -> dict[str, Any]:
    found = hand.plan.of(REPLACEMENT)
    facts, tag = hand.planned.circuit_raw, str((request.view_args or {}).get("tag", ""))
    old, new = dict(facts.get("plate") or {}), dict(facts.get("new_plate") or {})
    names = [f"new_plate.{name}" for name in NewPlate.fields()]
    context: dict[str, Any] = {
        "compared": found,
        "plates": [
            _side(hand.fields[path], str(old.get(path.partition(".")[2]) or ""), begun=any(new.values()))
            for path in names
            if path in hand.fields
        ],
        "machine_fields": [path for path in hand.fields if path.startswith("new_machine.")],
        "machine_open": any(one.text for path, one in hand.fields.items() if path.startswith("new_machine.")),
        "reading": hand.reading,
        "other_plates": others(hand.access, tag),
        "beside_fields": [path for path in hand.fields if path.startswith("replacement.")],
        "copying": [(f"new_plate.{key}", str(new.get(key) or ""), str(text)) for key, text in old.items()],
        "taking": _taking(facts, found) if found is not None else [],
    }
    return context | (_beside(hand, found, tag) if found is not None else {})


def _side(new: FormField, old: str, *, begun: bool) -> tuple[FormField, str, str, str]:
    """A field of the new plate, the old one's text, and how they stand by sign and word."""
    if not begun or (not new.text and not old):
        return new, old, "", ""
    if not new.text or not old:
        return new, old, "?", "not on both"
    return (new, old, "=", "the same") if new.text.casefold() == old.casefold() else (new, old, "≠", "differs")


def _beside(hand: InHand, found: Compared, tag: str) -> dict[str, Any]:
    """The circuit planned with the new plate, against the circuit as it is."""
    planned = hand.planned
    after = plan_raw(hand.plan.rules, planned.job_raw, with_new_plate(planned.circuit_raw, found.used), beside=NOTHING)
    old, new = found.frames
    drawn = frames_over(old, new, us=rule_set(hand.plan.rules).practice.us_units) if old and new else None
    open_ = [gate for gate in after.gates if gate.weighs and gate.verdict is not Verdict.PASSES]
    then = [gate for gate in open_ if not gate.doubted]
    return {
        "anew": (*anew(hand.plan, after), *restart_order(hand.access, tag, after)),
        "then": sorted(then, key=lambda gate: -gate.verdict.rank),
        "doubtful": len(open_) - len(then),
        "frames_drawing": Markup(svg(drawn, "circuit-drawing")) if drawn else None,  # noqa: S704 - our own drawing
    }


def _papers(plan: Plan, job: Raw, circuit: Raw) -> tuple[PaperTable, ...]:
    """What must be set anew, for whoever sets it; a column to tick."""
    found = plan.of(REPLACEMENT)
    if found is None:
        return ()
    after = plan_raw(plan.rules, job, with_new_plate(circuit, found.used), beside=NOTHING)
    rows = tuple((one.name, one.old, one.new if one.changes else "as it is") for one in anew(plan, after))
    return (PaperTable(stage="replacement", title="Replacement: to be set anew", rows=rows, blank="Done",
                       head=("What", "Now", "With the new one")),)  # fmt: skip


def _pictures(plan: Plan) -> tuple[PaperPicture, ...]:
    """Both frames over each other."""
    found = plan.of(REPLACEMENT)
    if found is None or found.frames[0] is None or found.frames[1] is None:
        return ()
    drawn = frames_over(found.frames[0], found.frames[1], us=rule_set(plan.rules).practice.us_units)
    return (PaperPicture(title="Frames: old dashed, new drawn", svg=svg(drawn, "circuit-drawing")),)


def _taking(facts: dict[str, Any], found: Compared) -> list[tuple[str, str, str]]:
    """Path, what stands there, what will: just what the circuit beside was planned with."""
    after, taken = with_new_plate(facts, found.used), list[tuple[str, str, str]]()
    for part in (key for key in {**facts, **after} if not is_old_record(key)):  # those go as it is taken over
        was, now = facts.get(part) or {}, after.get(part) or {}
        taken += [(f"{part}.{key}", str(was.get(key) or ""), str(now.get(key) or "")) for key in {**was, **now}]
    return [one for one in taken if one[1] != one[2]]


def _headline(plan: Plan) -> Verdict:
    """Of the new motor, not of the circuit as it stands; to check while changes are still to be made, and of none
    nothing is said to pass.
    """
    if plan.of(REPLACEMENT) is None:
        return worst_judged(())
    return worst_of(gate.verdict for gate in plan.stage("replacement").gates if gate.kind is Kind.INFORMS)


PAGE = Page(
    key="replacement", asks=("new_plate", "new_machine", "replacement"), context=_context, answer=_answer,
    headline=_headline, reads=reading, papers=_papers, pictures=_pictures,
)  # fmt: skip
