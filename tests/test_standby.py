"""Rows planned beside the server: the same whoever plans them, and planned when the process that stands by is gone."""

import json
import subprocess
import sys

import pytest

from vinegate.core.summary import row_of
from vinegate.demo import demo_job

SCRIPT = """
import json, os, signal, sys
from vinegate.demo import demo_job
from vinegate.standby import standby
from vinegate.web.jobs.summaries import _share, _Task

stands, killed = (word in sys.argv for word in ("stands", "killed"))
if stands:
    standby.stand()
if killed:
    there = [int(one) for one in open(f"/proc/self/task/{os.getpid()}/children").read().split()]
    os.kill(there[0], signal.SIGKILL)
    os.waitpid(there[0], 0)
job = demo_job("harrowmere-lock.json")
tasks = [_Task(circuit_id=at, version=1, facts=json.dumps(facts)) for at, (_, facts) in enumerate(job.circuits[:3])]
for _ in range(2):
    _share(job.rules, job.facts, tasks, lambda line: print(line, end=""))
print(len(open(f"/proc/self/task/{os.getpid()}/children").read().split()))
"""


@pytest.mark.parametrize(("words", "left"), [((), 0), (("stands",), 1), (("stands", "killed"), 0)])
def test_rows_are_the_same_whoever_plans_them(words, left):
    """Asked twice, each time for three rows; no process stays but the one that stands by."""
    run = subprocess.run(
        [sys.executable, "-c", SCRIPT, *words], capture_output=True, text=True, timeout=120, check=True
    )
    *lines, children = run.stdout.splitlines()
    job = demo_job("harrowmere-lock.json")
    wanted = [row_of(job.rules, job.facts, facts) for _, facts in job.circuits[:3]]
    found = [json.loads(line) for line in lines]
    assert [one["id"] for one in found] == [0, 1, 2, 0, 1, 2]
    for one in found:
        summary, reads = wanted[one["id"]]
        assert one["summary"] == json.loads(json.dumps(summary))
        assert one["reads"] == reads
    assert int(children) == left
    assert run.stderr == ""


def test_it_ends_with_who_may_ask_it():
    script = "from vinegate.standby import standby; import os; standby.stand(); print(os.getpid(), flush=True)"
    # Its standard output is a copy of ours: the pipe ends when the last process that has it does.
    run = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, timeout=60, check=True)
    assert run.stdout.strip().isdigit()
