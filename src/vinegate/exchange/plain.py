"""A plan as plain text, for a terminal or a message."""

from __future__ import annotations

from collections.abc import Sequence

from vinegate.core.grade import Gate, Kind
from vinegate.core.plan import Plan
from vinegate.core.sheet import Stage


def plan_text(title: str, plan: Plan) -> str:
    """The plan with answer, gates and working, stage by stage."""
    answer = "".join(piece.text for piece in plan.answer)
    lines = [title, "=" * len(title), f"{str(plan.verdict).capitalize()}. {answer}", ""]
    for error in plan.errors:
        lines.append(f"cannot be read: {error.path}: {error.message}")
    for stage in plan.stages:
        lines += _stage(plan, stage)
    if plan.to_confirm:
        lines.append("To confirm on site")
        for gate in plan.to_confirm:
            lines.append(f"  [{'x' if gate.verdict.usable else ' '}] {gate.name}: {gate.sentence}")
        lines.append("")
    if plan.missing:
        lines += ["Missing"] + [f"  {item.label}: for {item.gives}" for item in plan.missing] + [""]
    return "\n".join(lines + list(plan.cautions))


def _stage(plan: Plan, stage: Stage) -> list[str]:
    lines = [stage.title, "-" * len(stage.title)]
    lines += [_gate(gate) for gate in stage.gates if gate.kind is not Kind.CONFIRM]
    for figure in plan.lines(stage):
        chain = " = ".join(part for part in (figure.symbol, figure.formula, figure.substituted) if part)
        also = f", {figure.also}" if figure.also else ""
        lines.append(f"  {figure.name}: {chain} = {figure.shown}{also}  ({figure.provenance}; {figure.source})")
    lines += [f"  Note: {note}" for note in stage.notes]
    return [*lines, ""]


def _gate(gate: Gate) -> str:
    """In brackets where it counts in the plan's verdict, in parentheses where it informs."""
    verdict = f"[{gate.verdict:^9}]" if gate.weighs else f"({gate.verdict:^9})"
    return f"  {verdict} {gate.name}: {' '.join(filter(None, (gate.sentence, gate.remedy)))}"


def columns(heads: Sequence[str], rows: Sequence[Sequence[str]]) -> str:
    """A table in plain text: columns as wide as their widest cell, the last as it comes.

    >>> print(columns(("Tag", "Verdict"), [("P-11", "fails")]))
    Tag   Verdict
    P-11  fails
    """
    whole = [heads, *rows]
    wide = [max(len(row[at]) for row in whole) for at in range(len(heads))]
    lines = ("  ".join(cell.ljust(width) for cell, width in zip(row, wide, strict=True)) for row in whole)
    return "\n".join(line.rstrip() for line in lines)
