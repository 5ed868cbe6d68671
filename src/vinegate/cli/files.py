"""Commands over job files: plan, check, compare."""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict
from pathlib import Path

from vinegate.cli.reading import EXIT_FAILS, EXIT_UNREADABLE, Commands, Unread, job_from, name_of, say
from vinegate.core.facts import RuleSetName
from vinegate.core.grade import Verdict
from vinegate.core.plan import NOTHING, Beside, Plan, plan_raw
from vinegate.core.summary import row_of
from vinegate.exchange.circuit_file import JobFile, plan_document
from vinegate.exchange.comparing import JobsCompared, compare_jobs
from vinegate.exchange.plain import columns, plan_text

Plans = list[tuple[str, Plan]]


def add(commands: Commands) -> None:
    """`plan`, `check`, `compare`."""
    plan = commands.add_parser("plan", help="print the plan of a circuit file")
    plan.add_argument("file", type=Path, metavar="FILE", help="a job with its circuits (docs/format.md); - is stdin")
    shown = plan.add_mutually_exclusive_group()
    shown.add_argument("--json", action="store_true", help="the plan as JSON (docs/plan.schema.json)")
    shown.add_argument("--table", action="store_true", help="one line a circuit")
    plan.add_argument("--circuit", metavar="TAG", help="this circuit alone")
    plan.add_argument("--as", dest="rules", choices=[one.value for one in RuleSetName],
                      help="under these rules, whatever the file says")  # fmt: skip
    plan.set_defaults(run=_plan)
    check = commands.add_parser("check", help="say what cannot be read and what fails, and nothing else")
    check.add_argument("file", type=Path, metavar="FILE", help="a job with its circuits; - is stdin")
    check.set_defaults(run=_check)
    compare = commands.add_parser("compare", help="two job files: changed facts, answers and verdicts")
    compare.add_argument("old", type=Path, metavar="OLD")
    compare.add_argument("new", type=Path, metavar="NEW")
    compare.add_argument("--json", action="store_true")
    compare.set_defaults(run=_compare)


def _plan(options: argparse.Namespace) -> int:
    try:
        job = job_from(options.file)
    except Unread:
        return EXIT_UNREADABLE
    rules = RuleSetName(options.rules) if options.rules else job.rules
    chosen = [(tag, facts) for tag, facts in job.circuits if options.circuit in (None, tag)]
    if not chosen:
        what = f"no circuit {options.circuit}" if options.circuit else "no circuits"
        say(f"{name_of(options.file)}: {what}")
        return EXIT_UNREADABLE
    beside = NOTHING if options.table and not options.json else Beside.ALL
    plans = [(tag, plan_raw(rules, job.facts, facts, beside=beside)) for tag, facts in chosen]
    if options.json:
        documents = [{"tag": tag, "plan": plan_document(plan)} for tag, plan in plans]
        print(json.dumps({"job": job.name, "circuits": documents}, ensure_ascii=False, indent=2))
    elif options.table:
        print(columns(_HEADS, [_row(rules, job, tag, dict(facts)) for tag, facts in chosen]))
    else:
        print("\n\n".join(plan_text(f"{job.name} / {tag}", plan) for tag, plan in plans))
    return _exit_code(plans, options.file)


_HEADS = ("Tag", "Drives", "Starts by", "Start", "Dip", "Time", "Overload", "Verdict", "What fails, or would settle it")


def _row(rules: RuleSetName, job: JobFile, tag: str, facts: dict[str, object]) -> tuple[str, ...]:
    """One line of the schedule."""
    summary, _ = row_of(rules, job.facts, facts)
    cells = [summary["cells"].get(key, {}).get("shown", "–") for key in ("start", "dip", "time", "overload")]
    return (tag, summary["driven"] or "–", summary["method"] or "–", *cells, summary["verdict"], summary["why"])


def _check(options: argparse.Namespace) -> int:
    try:
        job = job_from(options.file)
    except Unread:
        return EXIT_UNREADABLE
    plans = [(tag, plan_raw(job.rules, job.facts, facts, beside=NOTHING)) for tag, facts in job.circuits]
    for tag, plan in plans:
        for gate in plan.weighing:
            if gate.verdict is Verdict.FAILS:
                print(f"{tag}: {gate.name}: {gate.sentence} {gate.remedy}".rstrip())
    return _exit_code(plans, options.file)


def _exit_code(plans: Plans, file: Path) -> int:
    unread = [(tag, error) for tag, plan in plans for error in plan.errors]
    for tag, error in unread:
        say(f"{name_of(file)}: {tag}: {error.path}: {error.message}")
    if unread:
        return EXIT_UNREADABLE
    return EXIT_FAILS if any(gate.verdict is Verdict.FAILS for _, plan in plans for gate in plan.weighing) else 0


def _compare(options: argparse.Namespace) -> int:
    try:
        found = compare_jobs(job_from(options.old), job_from(options.new))
    except Unread:
        return EXIT_UNREADABLE
    print(json.dumps(asdict(found), ensure_ascii=False, indent=2) if options.json else _compared(found))
    return EXIT_FAILS if found.differs else 0


def _compared(found: JobsCompared) -> str:
    if not found.differs:
        return "The same."
    lines = [f"only in the old one: {tag}" for tag in found.gone] + [f"only in the new one: {tag}" for tag in found.new]
    for title, differences in found.listed():
        lines.append(title)
        lines += [f"  {one.name}: {one.was or 'nothing'} → {one.now or 'nothing'}" for one in differences]
    return "\n".join(lines)
