"""Load, bounded, on loopback: an application of its own, a circuit for each person, a change in three seconds each.

Prints how long answers took and what went wrong; exit 1 where the slowest hundredth takes more than a second, or where
anything is answered by a fault. Asked in the open: 300 people and 300 seconds at most.
"""

from __future__ import annotations

import http.client
import json
import re
import socket
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from collections import Counter
from dataclasses import dataclass, field
from pathlib import Path
from typing import Final
from urllib.parse import urlencode

ROOT: Final = Path(__file__).parents[1]
EVERY_S: Final = 3.0
WARMS_S: Final = 12.0
"""Until the job's rows are planned and each sheet was opened once: not counted."""
MOST_PEOPLE, MOST_SECONDS = 300, 300
BUDGET_S: Final = 1.0
_USUAL: Final = ("100", "30", "5")
"""People, seconds, people in one job."""
_LOGIN: Final = "ines"


@dataclass
class Seen:
    """Seconds of every answer, and their kinds."""

    seconds: list[float] = field(default_factory=list)
    kinds: Counter[str] = field(default_factory=Counter)
    lock: threading.Lock = field(default_factory=threading.Lock)

    def note(self, seconds: float, kind: str) -> None:
        with self.lock:
            self.seconds.append(seconds)
            self.kinds[kind] += 1


class Person:
    """A browser with one page open."""

    def __init__(self, port: int, cookie: str = "") -> None:
        self._port, self.cookie, self.location = port, cookie, ""
        self._link = http.client.HTTPConnection("127.0.0.1", port, timeout=30)

    def ask(self, method: str, path: str, form: dict[str, str] | None = None, **headers: str) -> tuple[int, str]:
        body = urlencode(form) if form is not None else None
        sent = {"Cookie": self.cookie, **{name.replace("_", "-"): value for name, value in headers.items()}}
        if body is not None:
            sent["Content-Type"] = "application/x-www-form-urlencoded"
        try:
            self._link.request(method, path, body, sent)
            answer = self._link.getresponse()
        except (http.client.HTTPException, OSError):
            self._link = http.client.HTTPConnection("127.0.0.1", self._port, timeout=30)
            self._link.request(method, path, body, sent)
            answer = self._link.getresponse()
        self.location = answer.getheader("Location") or ""
        kept = answer.getheader("Set-Cookie")
        if kept:
            self.cookie = kept.partition(";")[0]
        return answer.status, answer.read().decode(errors="replace")


def hidden(page: str, name: str) -> str:
    """A hidden field's value."""
    found = re.search(rf'name="{re.escape(name)}" value="([^"]*)"', page)
    return found.group(1) if found else ""


def signed_in(port: int, login: str = _LOGIN) -> Person:
    """As one of the demo's people."""
    person = Person(port)
    _, page = person.ask("GET", "/sign-in")
    action = next(one for one in re.findall(r'action="([^"]+)"', page) if one.endswith(f"/{login}"))
    status, _ = person.ask("POST", action, {"csrf_token": hidden(page, "csrf_token")})
    if status != 302:
        raise SystemExit(f"load: signing in was answered by {status}")
    return person


def filled(person: Person, people: int) -> str:
    """A job with a circuit for each person: its address."""
    facts = json.loads((ROOT / "src/vinegate/demo/harrowmere-lock.json").read_text())
    pump = next(one for one in facts["circuits"] if one["tag"] == "P-11")
    keys = [f"{part}.{name}" for part in ("plate", "load", "wiring", "start") for name in pump.get(part) or {}]
    row = [str((pump.get(key.partition(".")[0]) or {}).get(key.partition(".")[2]) or "") for key in keys]
    lines = ["\t".join(["tag", *keys]), *("\t".join([f"L-{n}", *row]) for n in range(people))]
    _, page = person.ask("GET", "/")
    token = hidden(page, "csrf_token")
    person.ask("POST", "/jobs", {"csrf_token": token, "name": "Load", "rules": "nec"})
    job = person.location
    _, preview = person.ask("POST", f"{job}/import", {"csrf_token": token, "text": "\n".join(lines)})
    selects = re.findall(r'<select id="(column\d+)"(.*?)</select>', preview, flags=re.DOTALL)
    taken = {name: re.search(r'value="([^"]+)" selected', body) for name, body in selects}
    columns = {name: found.group(1) for name, found in taken.items() if found}
    table = json.dumps([line.split("\t") for line in lines])
    status, _ = person.ask("POST", f"{job}/import", {"csrf_token": token, "table": table, "go": "all", **columns})
    if status != 302:
        raise SystemExit(f"load: the job's table was answered by {status}")
    return job


def works(port: int, cookie: str, address: str, times: tuple[float, float], seen: Seen, offset_s: float) -> None:
    """Open the sheet, then change a fact every three seconds, as its page would send it."""
    person = Person(port, cookie)
    time.sleep(offset_s)
    _, page = person.ask("GET", address)
    was, number = hidden(page, "was:start.starts_per_hour"), 0
    begins, until = times
    while time.monotonic() < until:
        number += 1
        now = str(2 + number % 7)
        form = {name: hidden(page, name) for name in ("csrf_token", "page", "seen")}
        form |= {"sequence": str(number), "was:start.starts_per_hour": was, "f:start.starts_per_hour": now}
        began = time.monotonic()
        status, answer = person.ask("POST", address, form, X_Live="1")
        took = time.monotonic() - began
        if began > begins:
            seen.note(took, "kept" if status == 200 and f'value="{now}"' in answer else f"answered {status}")
        was, page = now, answer if status == 200 else page
        time.sleep(max(EVERY_S - took, 0.0))


def main(arguments: list[str]) -> int:
    people, seconds, team = (int(text) for text in (*arguments, *_USUAL[len(arguments) :])[:3])
    people, seconds = min(people, MOST_PEOPLE), min(seconds, MOST_SECONDS)
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    with tempfile.TemporaryDirectory(prefix="vinegate-load-") as data:
        command = [ROOT / ".venv/bin/vinegate", "serve", "--port", str(port), "--data", data]
        with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as server:
            try:
                assert server.stdout is not None
                server.stdout.readline()
                return measured(port, people, seconds, max(team, 1))
            finally:
                server.terminate()


def measured(port: int, people: int, seconds: int, team: int) -> int:
    first = signed_in(port)
    places: list[str] = []
    for at in range(0, people, team):
        here = min(team, people - at)
        job = filled(first, here)
        places += [f"{job}/L-{n}/start" for n in range(here)]
    seen, until = Seen(), time.monotonic() + seconds + WARMS_S
    threads = [
        threading.Thread(
            target=works,
            args=(port, first.cookie, places[n], (until - seconds, until), seen, EVERY_S * n / people),
        )
        for n in range(people)
    ]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    return told(seen, people, seconds)


def told(seen: Seen, people: int, seconds: int) -> int:
    """The table, and the exit code."""
    ordered = sorted(seen.seconds)
    if not ordered:
        print("nothing was answered")
        return 1
    slow = ordered[min(int(0.99 * len(ordered)), len(ordered) - 1)]
    wrong = sum(count for kind, count in seen.kinds.items() if kind != "kept")
    print(f"{people} people, {seconds} s: {len(ordered)} changes, {len(ordered) / seconds:.1f} a second")
    print(f"median {1000 * statistics.median(ordered):.0f} ms, 95 % {1000 * ordered[int(0.95 * len(ordered))]:.0f} ms, "
          f"99 % {1000 * slow:.0f} ms, most {1000 * ordered[-1]:.0f} ms")  # fmt: skip
    print(", ".join(f"{kind}: {count}" for kind, count in seen.kinds.most_common()))
    return int(slow > BUDGET_S or wrong > 0)


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
