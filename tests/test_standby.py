"""Rows planned beside the server: the same whoever plans them, and planned when the process that stands by is gone."""

import json
import subprocess
import sys

import pytest

from vinegate.core.summary import row_of
from vinegate.demo import demo_job

SCRIPT = """
import json, os, signal, sys
from queue import SimpleQueue
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
left = SimpleQueue()
for _ in range(2):
    for at, (_, facts) in enumerate(job.circuits[:7]):
        left.put(_Task(circuit_id=at, version=1, facts=json.dumps(facts)))
    _share(job.rules, job.facts, left, lambda line: print(line, end=""))
assert left.empty()
print(len(open(f"/proc/self/task/{os.getpid()}/children").read().split()))
"""


@pytest.mark.parametrize(("words", "left"), [((), 0), (("stands",), 1), (("stands", "killed"), 0)])
def test_rows_are_the_same_whoever_plans_them(words, left):
    """Asked twice, each time for more rows than wait in a process; no process stays but the one that stands by."""
    run = subprocess.run(
        [sys.executable, "-c", SCRIPT, *words], capture_output=True, text=True, timeout=120, check=True
    )
    *lines, children = run.stdout.splitlines()
    job = demo_job("harrowmere-lock.json")
    wanted = [row_of(job.rules, job.facts, facts) for _, facts in job.circuits[:7]]
    found = [json.loads(line) for line in lines]
    assert [one["id"] for one in found] == [*range(len(wanted))] * 2
    for one in found:
        summary, reads = wanted[one["id"]]
        assert one["summary"] == json.loads(json.dumps(summary))
        assert one["reads"] == reads
    assert int(children) == left
    assert run.stderr == ""


KILLED = """
import json, os, signal
from queue import SimpleQueue
from vinegate.demo import demo_job
from vinegate.web.jobs.summaries import _share, _Task

job, left = demo_job("harrowmere-lock.json"), SimpleQueue()
for at in range(40):
    left.put(_Task(circuit_id=at, version=1, facts=json.dumps(job.circuits[0][1])))
told = []
def take(line):
    told.append(line)
    if len(told) == 2:
        for one in open(f"/proc/self/task/{os.getpid()}/children").read().split():
            os.kill(int(one), signal.SIGKILL)
_share(job.rules, job.facts, left, take)
print(len(told), left.qsize())
"""


def test_a_process_that_is_killed_leaves_the_rest_to_the_others():
    run = subprocess.run([sys.executable, "-c", KILLED], capture_output=True, text=True, timeout=60, check=True)
    planned, left = map(int, run.stdout.split())
    assert 2 <= planned < 10
    assert 25 < left < 38  # those it was given, and no more


def test_it_ends_with_who_may_ask_it():
    script = "from vinegate.standby import standby; import os; standby.stand(); print(os.getpid(), flush=True)"
    # Its standard output is a copy of ours: the pipe ends when the last process that has it does.
    run = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, timeout=60, check=True)
    assert run.stdout.strip().isdigit()
