"""A process that decides over the store as a request does, told by lines on its input: for what races over nodes.

`python -m tools.deciding URL` answers each line of JSON, a list of an action and its words, with a line of JSON.
"""

from __future__ import annotations

import json
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any, Final

from peewee import InterfaceError, OperationalError

from vinegate.core.facts import RuleSetName
from vinegate.demo import demo_job
from vinegate.store import accounts, drafts, jobs, revisions
from vinegate.store.database import connect_to, database
from vinegate.store.jobs import Access
from vinegate.store.migrate import migrate
from vinegate.store.models import Role, Save

ROOT: Final = Path(__file__).parents[1]


def _access(login: str, job: int) -> Access:
    user = accounts.user_by_login(login)
    assert user is not None
    return jobs.open_job(user, job)


def begin(tags: list[str], mark: str = "") -> int:
    """Two designers and a job of theirs with these circuits; their logins begin with the mark."""
    logins = [f"{mark}-{name}".strip("-") for name in ("ines", "tam")]
    people = [accounts.create_user(login=login, name=login.title(), password="a long enough one") for login in logins]
    found = demo_job("harrowmere-lock.json")
    job = jobs.create_job(people[0], name=found.name, rules=RuleSetName.NEC, facts=found.facts)
    access = jobs.open_job(people[0], job.id)
    jobs.set_member(access, people[1], Role.DESIGNER)
    for tag in tags:
        jobs.create_circuit(access, tag=tag, facts=dict(found.circuits)["P-11"])
    return int(job.id)


def save(login: str, job: int, tag: str, path: str, was: str, text: str, page: str, number: int) -> str:
    """One field: `kept`, or who was first."""
    access = _access(login, job)
    circuit = jobs.circuit_by_tag(access, tag)
    change = {path: drafts.Change(was=was, now=text)}
    saved = drafts.save(access, circuit, change, drafts.Writer(page=page, sequence=number, seen_save=0))
    return f"set aside for {saved.conflicts[0].theirs}" if saved.conflicts else "kept"


def issue(login: str, job: int, tag: str, number: int) -> str:
    """The draft as it stands, as this revision."""
    access = _access(login, job)
    circuit = jobs.circuit_by_tag(access, tag)
    seen = (access.job.version, circuit.version)
    try:
        revisions.issue(
            access, circuit, number=number, seen=seen, facts={}, plan={}, program_version="1", note=f"by {login}"
        )
    except (revisions.AlreadyIssued, revisions.ChangedMeanwhile) as error:
        return type(error).__name__
    return "issued"


def demote(login: str, job: int, other: str) -> str:
    """Make the other designer a reviewer."""
    user = accounts.user_by_login(other)
    assert user is not None
    try:
        jobs.set_member(_access(login, job), user, Role.REVIEWER)
    except jobs.NotAllowed:
        return "not allowed"
    return "demoted"


def promote(logins: list[str], job: int) -> None:
    """All of them are designers again, made so by one who still is."""
    left = next(one for one in logins if _access(one, job).role is Role.DESIGNER)
    for other in logins:
        user = accounts.user_by_login(other)
        assert user is not None
        jobs.set_member(_access(left, job), user, Role.DESIGNER)


def designers(login: str, job: int) -> int:
    """How many there are."""
    return sum(one.role == Role.DESIGNER for one in jobs.members(_access(login, job)))


def facts(job: int, tag: str) -> Any:
    """A circuit's draft."""
    return jobs.loads(jobs.circuit_by_tag(_access("ines", job), tag).facts)


def journal() -> list[str]:
    """Every text that was kept, with its path."""
    return [f"{path}={text}" for row in Save.select() for path, text in jobs.loads(row.changes).items()]


def apply() -> list[str]:
    """Migrations, as a program that starts does."""
    return migrate()


_ACTIONS: Final[dict[str, Callable[..., Any]]] = {
    one.__name__: one for one in (begin, save, issue, demote, promote, designers, facts, journal, apply)
}


def main() -> None:
    connect_to(sys.argv[1])
    for line in sys.stdin:
        action, *words = json.loads(line)
        try:
            if action == "apply":
                found = apply()
            else:
                with database.connection_context():
                    found = _ACTIONS[action](*words)
            print(json.dumps({"found": found}), flush=True)
        except (OperationalError, InterfaceError) as error:
            print(json.dumps({"refused": str(error)}), flush=True)


class Refused(RuntimeError):
    """The database could not do it now, and said so."""


class Decider:
    """Such a process, asked and waited for apart, so that several decide at once."""

    def __init__(self, url: str) -> None:
        self._process = subprocess.Popen(
            [sys.executable, "-m", "tools.deciding", url], cwd=ROOT, text=True,
            stdin=subprocess.PIPE, stdout=subprocess.PIPE,
        )  # fmt: skip

    def tell(self, *words: Any) -> None:
        assert self._process.stdin is not None
        self._process.stdin.write(json.dumps(words) + "\n")
        self._process.stdin.flush()

    def answer(self) -> Any:
        """Raises Refused."""
        assert self._process.stdout is not None
        found = json.loads(self._process.stdout.readline())
        if "refused" in found:
            raise Refused(found["refused"])
        return found["found"]

    def ask(self, *words: Any) -> Any:
        self.tell(*words)
        return self.answer()

    def end(self) -> None:
        assert self._process.stdin is not None
        assert self._process.stdout is not None
        self._process.stdin.close()
        self._process.wait()
        self._process.stdout.close()


if __name__ == "__main__":
    main()
