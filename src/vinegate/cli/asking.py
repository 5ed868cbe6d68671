"""Single questions at the command line: `vinegate calc wire amps=92 length="62 m"`."""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict

from vinegate.cli.reading import EXIT_FAILS, EXIT_UNREADABLE, Commands, say
from vinegate.core.facts import RuleSetName
from vinegate.core.grade import Verdict
from vinegate.core.quick.tool import Answered, Tool, ask
from vinegate.core.quick.tools import TOOLS
from vinegate.core.rules.sets import rule_set


def add(commands: Commands) -> None:
    """`calc`."""
    calc = commands.add_parser("calc", help="a single question, with its working; without a name, all of them")
    calc.add_argument("name", nargs="?", metavar="NAME", choices=[*TOOLS, None], help=", ".join(TOOLS))
    calc.add_argument("facts", nargs="*", metavar="FACT=VALUE", help='as typed, with units: length="62 m"')
    calc.add_argument("--rules", choices=[one.value for one in RuleSetName], default="nec", help="(nec)")
    calc.add_argument("--json", action="store_true")
    calc.set_defaults(run=_calc)


def _calc(options: argparse.Namespace) -> int:
    if options.name is None:
        print("\n".join(f"{tool.key:20} {tool.title}" for tool in TOOLS.values()))
        return 0
    tool, rules = TOOLS[options.name], rule_set(RuleSetName(options.rules))
    typed = dict(part.partition("=")[::2] for part in options.facts)
    unknown = [name for name in typed if name not in tool.facts.fields()]
    if unknown:
        say(f"{tool.key} does not ask for {', '.join(unknown)}, but for: {', '.join(tool.facts.fields())}")
        return EXIT_UNREADABLE
    found = ask(tool, typed, rules)
    if options.json:
        print(json.dumps(asdict(found), ensure_ascii=False, indent=2, default=str))
    else:
        print(_told(tool, found))
    for error in found.errors:
        say(f"{error.path}: {error.message}")
    if found.errors or found.lacks:
        return EXIT_UNREADABLE
    return EXIT_FAILS if any(gate.verdict is Verdict.FAILS for gate in found.gates) else 0


def _told(tool: Tool, found: Answered) -> str:
    if found.unread:
        return f"{tool.title}: not answered until it can be read."
    if found.lacks:
        names = dict(zip(tool.facts.fields(), tool.facts.model_fields, strict=True))
        asked = (f"  {name}={fact.example or ' or '.join(code for code, _ in fact.choices) or '…'}    {fact.label}"
                 for name, fact in tool.facts.fields().items()
                 if names[name] in tool.needs or fact.label in found.lacks)  # fmt: skip
        return "\n".join([f"{tool.title}. {tool.purpose}", "It needs:", *asked])
    lines = [found.said, ""]
    for one in found.figures:
        why = [part for part in (one.formula, f"[{one.source}]" if one.source else "") if part]
        lines.append("   ".join([f"{one.name}: {one.shown}", *why]))
    lines += [f"{gate.verdict.value}: {gate.name}. {gate.sentence}" for gate in found.gates]
    return "\n".join(lines)
