"""Faults, races and odd requests against applications of its own, as one table. Exit 1 on any loss, leak or fault.

`tools/endure [KILLS] [REQUESTS] [SEED]`: alone, its workers, web server and database are killed under writers; over a
cluster, its nodes and an application. What was acknowledged is looked for afterwards.
"""

from __future__ import annotations

import json
import os
import re
import signal
import statistics
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Final

import pymysql

from tools.deciding import Decider
from tools.load_run import Person, filled, hidden, signed_in
from tools.odd import Odd
from tools.roles import walked
from tools.stand import ROOT, Application, Stand, application, clustered, until
from tools.writers import Writer, writing

_USUAL: Final = ("12", "3000", "7")
_WRITERS: Final = 4
_BETWEEN_S: Final = 1.5
_APART_S: Final = 4.5
"""Between kills of one application: a web server that falls five times a minute is not started again."""
_RACES: Final = 12


class Table:
    """Rows as they are found, and whether one is a finding."""

    def __init__(self) -> None:
        self.wrong = 0

    def row(self, what: str, text: str, *, well: bool = True) -> None:
        self.wrong += not well
        print(f"{'  ' if well else '! '}{what:44} {text}", flush=True)


def ended(table: Table, what: str, writers: list[Writer], journal: Callable[[], list[str]]) -> None:
    """Writers are stopped; everything that they were told is kept is looked for."""
    kept = [one.end() for one in writers]
    told = [text for one in kept for text in one.texts]
    found = set(journal())
    lost = [text for text in told if text not in found]
    table.row(
        f"{what}: saves",
        f"{len(told)} acknowledged, {len(told) - len(lost)} found by {len(writers)} writers",
        well=not lost,
    )
    wrong = [text for one in kept for text in one.wrong]
    table.row(f"{what}: answered wrongly", ", ".join(wrong[:4]) or "none", well=not wrong)
    table.row(f"{what}: longest wait for one save", f"{max(one.longest_s for one in kept):.1f} s")


def texts(connection: pymysql.Connection[pymysql.cursors.Cursor]) -> list[str]:
    """Everything that the journal holds."""
    with connection, connection.cursor() as cursor:
        cursor.execute("SELECT changes FROM save")
        return [text for row in cursor.fetchall() for text in json.loads(row[0]).values()]


def journal_of(app: Application) -> list[str]:
    """Of an application with a database of its own."""
    socket = str(app.data / "mariadb/db.sock")
    return texts(pymysql.connect(unix_socket=socket, user=_me(), database="vinegate", ssl_disabled=True))


def alone(table: Table, home: Path, kills: int, requests: int, seed: int) -> None:
    data = home / "alone"
    with application(data) as app:
        ines = signed_in(app.port)
        job = filled(ines, _WRITERS)
        writers = writing(app.port, ines.cookie, [f"{job}/L-{at}/start" for at in range(_WRITERS)], "alone ")
        _killed(table, app, kills)
        ended(table, "alone", writers, lambda: journal_of(app))
        number = int(job.rstrip("/").rpartition("/")[2])
        _odd(table, app, ines, number, requests, seed)
        _roles(table, app, data, ines, number)


def _me() -> str:
    import pwd

    return pwd.getpwuid(os.getuid()).pw_name


def _killed(table: Table, app: Application, kills: int) -> None:
    """Workers, web server and database in turn; how long until it is ready again."""
    back: dict[str, list[float]] = {"a worker": [], "the web server": [], "the database": []}
    victims: tuple[Callable[[], int], ...] = (lambda: app.workers[0], lambda: app.master, lambda: app.database)
    for at in range(kills):
        name, victim = list(back)[at % 3], victims[at % 3]
        time.sleep(_APART_S)
        fallen = victim()
        os.kill(fallen, signal.SIGKILL)
        begun = time.monotonic()
        until(lambda fallen=fallen, victim=victim: _other(victim, fallen), f"{name} is not started again")  # type: ignore[misc]
        until(app.answers, f"it is not back after {name} was killed")
        back[name].append(time.monotonic() - begun)
    for name, times in back.items():
        if times:
            table.row(
                f"alone: {name} killed",
                f"{len(times)} times, back in {statistics.median(times):.1f} s, at most {max(times):.1f} s",
            )


def _other(victim: Callable[[], int], fallen: int) -> bool:
    """Whether another process stands in its place."""
    with suppress(StopIteration, IndexError, OSError, ValueError):
        return victim() != fallen
    return False


def _odd(table: Table, app: Application, ines: Person, job: int, requests: int, seed: int) -> None:
    _, page = ines.ask("GET", f"/jobs/{job}/L-0/start")
    made = {"csrf_token": hidden(page, "csrf_token"), "name": "odd", "days": "1", "writes": "yes"}
    shown = re.search(r"<code>([^<]+)</code>", ines.ask("POST", "/account/tokens", made)[1])
    bearer = shown[1] if shown else ""
    found = Odd(app.port, ines.cookie, hidden(page, "csrf_token"), bearer, job, "L-0", seed).sent(requests)
    for kind, counts in found.items():
        faults = sum(count for status, count in counts.items() if status[:1] == "5")
        table.row(f"odd requests: {kind}", _counts(counts), well=not faults)


def _counts(counts: Counter[str]) -> str:
    return ", ".join(f"{status}: {count}" for status, count in sorted(counts.items()))


def _roles(table: Table, app: Application, data: Path, ines: Person, job: int) -> None:
    """A member of each role, one who is no member, and nobody."""
    subprocess.run(
        [str(ROOT / ".venv/bin/vinegate"), "user", "add", "odd", "--name", "Odd One", "--data", str(data)],
        input="a long enough one\n", text=True, check=True, capture_output=True,
    )  # fmt: skip
    _, page = ines.ask("GET", f"/jobs/{job}/members")
    for login, role in (("tam", "electrician"), ("ruth", "reviewer")):
        ines.ask(
            "POST", f"/jobs/{job}/members", {"csrf_token": hidden(page, "csrf_token"), "login": login, "role": role}
        )
    outsider = Person(app.port)
    _, form = outsider.ask("GET", "/sign-in")
    outsider.ask(
        "POST", "/sign-in", {"csrf_token": hidden(form, "csrf_token"), "login": "odd", "password": "a long enough one"}
    )
    people = {"nobody": Person(app.port), "outsider": outsider, "reviewer": signed_in(app.port, "ruth"),
              "electrician": signed_in(app.port, "tam"), "designer": ines}  # fmt: skip
    tokens = {role: hidden(person.ask("GET", "/codes")[1], "csrf_token") for role, person in people.items()}
    counts, wrong = walked({role: (person, tokens[role]) for role, person in people.items()}, job, "L-0")
    for role, methods in counts.items():
        for method, found in methods.items():
            table.row(f"{role}, {method} of every address", _counts(found))
    table.row("let in where not a member, or a fault", "; ".join(wrong[:6]) or "none", well=not wrong)


def over_nodes(table: Table, home: Path, kills: int) -> None:
    with clustered(home) as stand:
        _races(table, stand)
        ines = signed_in(stand.port)
        job = filled(ines, _WRITERS)
        addresses = [f"{job}/L-{at}/start" for at in range(_WRITERS)]
        writers = writing(stand.port, ines.cookie, addresses, "cluster ")
        back = []
        for at in range(max(kills // 3, 1)):
            time.sleep(_BETWEEN_S)
            stand.cluster.kill(at % 3)
            begun = time.monotonic()
            _moves(writers)
            back.append(time.monotonic() - begun)
            stand.cluster.revive(at % 3)
            stand.cluster.until_whole()
        table.row(
            "cluster: one node of three killed",
            f"{len(back)} times, saving again in {statistics.median(back):.1f} s, at most {max(back):.1f} s",
        )
        os.kill(stand.applications[0].process.pid, signal.SIGKILL)
        begun = time.monotonic()
        _moves(writers)
        table.row("cluster: an application killed", f"saving again in {time.monotonic() - begun:.1f} s by the other")
        _two(table, stand, writers)
        ended(table, "cluster", writers, lambda: texts(_to(stand, 2)))
        rows = {node.ask("SELECT COUNT(*), SUM(CRC32(changes)) FROM vinegate.save") for node in stand.cluster.nodes}
        table.row(
            "cluster: the nodes hold the same journal", "yes" if len(rows) == 1 else str(rows), well=len(rows) == 1
        )


def _to(stand: Stand, place: int) -> pymysql.Connection[pymysql.cursors.Cursor]:
    from tools.nodes import ACCOUNT, PASSWORD

    node = stand.cluster.nodes[place]
    return pymysql.connect(
        host="127.0.0.1", port=node.ports[0], user=ACCOUNT, password=PASSWORD, database="vinegate", ssl_disabled=True
    )


def _moves(writers: list[Writer]) -> None:
    """Until every writer was acknowledged once more."""
    before = [len(one.kept.texts) for one in writers]
    until(
        lambda: all(len(one.kept.texts) > count for one, count in zip(writers, before, strict=True)),
        "nothing is kept any more",
    )


def _two(table: Table, stand: Stand, writers: list[Writer]) -> None:
    """Two nodes at once: nothing is kept until somebody says that the third is the cluster now."""
    stand.cluster.kill(0, 1)
    time.sleep(_BETWEEN_S * 4)
    before = [len(one.kept.texts) for one in writers]
    time.sleep(_BETWEEN_S * 2)
    kept = sum(len(one.kept.texts) - count for one, count in zip(writers, before, strict=True))
    table.row("cluster: two of three killed", f"{kept} saves acknowledged until told to go on", well=kept == 0)
    stand.cluster.go_on_alone(2)
    begun = time.monotonic()
    _moves(writers)
    table.row("cluster: the third told to go on", f"saving again in {time.monotonic() - begun:.1f} s")
    for place in (0, 1):
        stand.cluster.revive(place)
    stand.cluster.until_whole()


def _races(table: Table, stand: Stand) -> None:
    """Two programs at two nodes decide at once."""
    one, two = (Decider(stand.cluster.url(first)) for first in (0, 1))
    job = one.ask("begin", ["R-1"], "race")
    issued = demoted = 0
    for number in range(1, _RACES + 1):
        found = _both((one, "issue", "race-ines", job, "R-1", number), (two, "issue", "race-tam", job, "R-1", number))
        issued += found.count("issued") == 1
    for _ in range(_RACES):
        _both((one, "demote", "race-ines", job, "race-tam"), (two, "demote", "race-tam", job, "race-ines"))
        demoted += one.ask("designers", "race-ines", job) == 1
        one.ask("promote", ["race-ines", "race-tam"], job)
    table.row("cluster: two issue at once", f"one revision in {issued} of {_RACES}", well=issued == _RACES)
    table.row(
        "cluster: two designers demote each other", f"one is left in {demoted} of {_RACES}", well=demoted == _RACES
    )
    one.end()
    two.end()


def _both(*asked: tuple[Decider, *tuple[object, ...]]) -> list[object]:
    for one, *words in asked:
        one.tell(*words)
    return [one.answer() for one, *_ in asked]


def main(arguments: list[str]) -> int:
    kills, requests, seed = (int(text) for text in (*arguments, *_USUAL[len(arguments) :])[:3])
    table = Table()
    with tempfile.TemporaryDirectory(prefix="vinegate-endure-") as folder:
        home = Path(folder)
        home.chmod(0o755)
        alone(table, home, kills, requests, seed)
        over_nodes(table, home, kills)
    print(f"{table.wrong} findings" if table.wrong else "no finding")
    return int(table.wrong > 0)


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
