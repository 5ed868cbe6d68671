"""Plans circuits' rows beside the web server: facts in by standard input, rows out by standard output.

`python -m vinegate.rows` reads lines of JSON: first `{"rules": …, "job": …}`, then for each circuit `{"id": …,
"facts": …}`; it answers each with `{"id": …, "summary": …, "reads": …}`. It ends when its input does.
"""

from __future__ import annotations

import json
import sys
import traceback
from typing import Any, TextIO

from vinegate.collecting import loaded
from vinegate.core.facts import RuleSetName
from vinegate.core.summary import row_of, unplanned


def planned(rules: RuleSetName, job: dict[str, Any], facts: dict[str, Any]) -> tuple[dict[str, Any], list[str]]:
    """A circuit's row. One circuit the program fails on must not take its job's schedule with it: its row says so."""
    try:
        return row_of(rules, job, facts)
    except Exception:
        traceback.print_exc(file=sys.stderr)
        return unplanned(), []


def serve(told: TextIO, out: TextIO) -> None:
    """Plan what comes, in the order in which it comes."""
    head = json.loads(told.readline())
    rules = RuleSetName(head["rules"])
    for line in told:
        task = json.loads(line)
        summary, reads = planned(rules, head["job"], task["facts"])
        print(
            json.dumps({"id": task["id"], "summary": summary, "reads": reads}, ensure_ascii=False), file=out, flush=True
        )


if __name__ == "__main__":
    loaded()
    serve(sys.stdin, sys.stdout)
