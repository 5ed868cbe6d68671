"""The budgets of docs/design: CPU time, medians with their spread, several circuits, cold and warm.

Each row prints what it is, what is wanted, and what it was before this list was kept (one machine, one day: a guide, no
more). Exit 1 where one is over. Times are CPU time of this process, but where "wall" is said.
"""

from __future__ import annotations

import gzip
import re
import statistics
import subprocess
import sys
import time
import warnings
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Final

sys.path.insert(0, str(Path(__file__).parents[1]))

from flask.testing import FlaskClient
from flask_login import FlaskLoginClient
from tests.server import fresh_database, job_of, person, private_instance

from vinegate.collecting import loaded
from vinegate.core.drive.stage import DRIVE
from vinegate.core.facts import Circuit, Job, RuleSetName, read_circuit, read_job
from vinegate.core.plan import plan_circuit
from vinegate.core.rules.sets import rule_set
from vinegate.core.stages import STAGES
from vinegate.core.summary import row_of
from vinegate.core.work import Kept, Work
from vinegate.demo import demo_job
from vinegate.standby import standby
from vinegate.store import jobs
from vinegate.store.database import database
from vinegate.store.jobs import Access
from vinegate.web import Config, create_app
from vinegate.web.app import SessionUser

Clock = Callable[[], float]
_MANY: Final = 300


def times_ms(run: Callable[[], object], times: int, clock: Clock = time.process_time) -> list[float]:
    """So many runs after one that warms up, in milliseconds."""
    run()
    taken = []
    for _ in range(times):
        start = clock()
        run()
        taken.append(1000 * (clock() - start))
    return taken


@dataclass
class Report:
    """Rows as they are measured, and whether one is over."""

    over: int = 0

    def row(self, what: str, measured: Sequence[float], budget: float, before: str, unit: str = "ms") -> None:
        """Median and spread against the budget, at most."""
        median = statistics.median(measured)
        self._print(
            what,
            median,
            f"{min(measured):8.1f} … {max(measured):8.1f}",
            f"≤ {budget:g}",
            before,
            unit,
            median <= budget,
        )

    def at_least(self, what: str, value: float, budget: float, before: str, unit: str) -> None:
        """A ratio that is to be large."""
        self._print(what, value, " " * 19, f"≥ {budget:g}", before, unit, value >= budget)

    def told(self, what: str, value: float, before: str, unit: str) -> None:
        """A figure without a budget."""
        print(f"  {what:56} {value:8.1f} {unit:3} {'':19}  {'':13}  before {before}", flush=True)

    def _print(self, what: str, value: float, spread: str, wanted: str, before: str, unit: str, met: bool) -> None:
        self.over += not met
        print(
            f"{'  ' if met else '! '}{what:56} {value:8.1f} {unit:3} {spread}  wanted {wanted:>6}  before {before}",
            flush=True,
        )


def circuits() -> list[tuple[Job, Circuit]]:
    """Every demo circuit under its own rule set."""
    found = []
    for name in ("harrowmere-lock.json", "skerry-sound.json"):
        job = demo_job(name)
        read = read_job(job.facts, job.rules)[0]
        found += [(read, read_circuit(facts, job.rules)[0]) for _, facts in job.circuits]
    return found


def in_turn(of: Sequence[Any]) -> Iterator[Any]:
    while True:
        yield from of


def plan_rows(report: Report) -> None:
    """Full plans of circuits that differ, and plans after one change of a late stage."""
    every = in_turn(circuits())
    report.row(
        "full plan, circuits that differ, both sources",
        times_ms(lambda: plan_circuit(*next(every)), 56),
        12,
        "33 to 52",
    )
    demo = demo_job("harrowmere-lock.json")
    job, raw = read_job(demo.facts, demo.rules)[0], dict(demo.circuits)["P-11"]
    for path, texts in (
        ("protection.overload", ("90 A", "95 A")),
        ("stop.method", ("coast", "brake")),
        ("place.starter", ("area_1", "area_2")),
    ):
        part, _, name = path.partition(".")
        both = in_turn([read_circuit(raw | {part: raw.get(part, {}) | {name: text}}, demo.rules)[0] for text in texts])
        kept = Kept()
        found = times_ms(lambda both=both, kept=kept: plan_circuit(job, next(both), kept=kept), 40)  # type: ignore[misc]
        report.row(f"plan after a change of {path}", found, 3, "as full")


def drive_row(report: Report) -> None:
    """What the stage costs of a plan: over circuits with a drive and without, what it reads being there."""
    every = in_turn(circuits())

    def cost() -> float:
        job, circuit = next(every)
        work = Work(job, circuit, rule_set(job.rules))
        for stage in STAGES[: STAGES.index(DRIVE)]:
            work.found(stage)
        begun = time.process_time()
        work.found(DRIVE)
        return 1000 * (time.process_time() - begun)

    cost()
    found = [cost() for _ in range(160)]
    report.row("the stage drive, of a plan, mean over circuits", [statistics.mean(found)], 3, "–")
    report.row("the stage drive where one is used", [one for one in found if one > 1], 3, "–")


def start_rows(report: Report) -> None:
    """The ways simulated, and the same by `solve_ivp` at an equal 0.5 %, its fastest method."""
    from tests.core.test_starting_ivp import METHODS, again, scene

    from vinegate.core.start.facts import Start
    from vinegate.core.start.simulate import simulate

    shape = {"index": 25, "load_share": 0.6, "shape": 2.0, "breakaway": 0.15, "inertia_times": 2.0}
    with warnings.catch_warnings(action="ignore"):  # it may also refuse a scene that a property draws
        plant, runs, model = scene(**shape, source_pu=0.006, tap=65)
    start = Start.model_validate({"tap": "65", "series_volts": "65 %", "soft_ramp": "4 s"})
    more = {"dip_limit_pu": 0.04, "margin_pu": 0.1, "most_i2t_s": 20, "loss_share": 0.06, "three_phase": True}

    def ratio() -> float:
        """Side by side, as a machine's speed changes from one second to the next."""
        quick = times_ms(lambda: list(simulate(plant, start, **more).values()), 20)  # type: ignore[arg-type]
        slow = times_ms(lambda: [again(plant, runs[method], model, 65) for method in METHODS], 1)
        quick += times_ms(lambda: list(simulate(plant, start, **more).values()), 20)  # type: ignore[arg-type]
        return slow[0] / statistics.median(quick)

    report.at_least("the study against solve_ivp", statistics.median(ratio() for _ in range(9)), 25, "6.9", "×")


@contextmanager
def served() -> Iterator[tuple[FlaskClient, Access, Access]]:
    """The application on a database of its own, with a job of one circuit and one of many."""
    with private_instance() as instance, fresh_database(instance, "benchmark") as url:
        app = create_app(Config(secret_key="x", database_url=url, limit_sign_in=False))
        app.config["WTF_CSRF_ENABLED"] = False
        app.test_client_class = FlaskLoginClient
        with database.connection_context():
            ines = person("ines")
            small, large = job_of(ines), job_of(ines)
            demo = demo_job("harrowmere-lock.json").circuits
            jobs.create_circuit(small, tag="P-11", facts=dict(demo)["P-11"])
            for index in range(_MANY):
                jobs.create_circuit(large, tag=f"C-{index}", facts=demo[index % len(demo)][1])
        yield app.test_client(user=SessionUser(ines)), small, large


def request_rows(report: Report, client: FlaskClient, small: Access) -> None:
    """One field changed, as the page sends it: of a late stage, of an early one."""
    for what, station, path, texts, budget in (
        ("changed field, server, late stage", "stop", "stop.method", ("coast", "brake"), 20),
        ("changed field, server, any", "plate", "plate.code_letter", ("H", "G"), 35),
    ):
        letters, last = in_turn(texts), [{"stop.method": "", "plate.code_letter": "G"}[path]]

        def change(
            letters: Iterator[str] = letters, last: list[str] = last, path: str = path, station: str = station
        ) -> None:
            now = next(letters)
            form = {f"was:{path}": last[0], f"f:{path}": now, "page": "b"}
            address = f"/jobs/{small.job.id}/P-11/{station}"
            assert client.post(address, data=form, headers={"X-Live": "1"}).status_code == 200
            last[0] = now

        report.row(what, times_ms(change, 40), budget, "56 to 72")


def job_rows(report: Report, client: FlaskClient, large: Access) -> None:
    """The schedule of many circuits: all new, nothing changed, a fact of the job changed; and the restart."""
    address = f"/jobs/{large.job.id}"

    def planned() -> float:
        begun = time.perf_counter()
        while b"data-planning" in client.get(address).data:
            time.sleep(0.5)
        return time.perf_counter() - begun

    report.row(f"schedule of {_MANY}, all new, wall", [planned()], 5, "16.5", "s")
    report.row(f"schedule of {_MANY}, nothing changed", times_ms(lambda: client.get(address), 15), 60, "91")
    with database.connection_context():
        access = jobs.open_job(large.user, large.job.id)
        facts = access.facts | {"limits": access.facts["limits"] | {"dip": "3 %"}}
        type(access.job).update(facts=jobs.dumps(facts)).where(type(access.job).id == access.job.id).execute()
    begun = time.perf_counter()
    client.get(address)
    report.row(
        f"schedule of {_MANY}, first sight after a change, wall", [time.perf_counter() - begun], 0.4, "16.5", "s"
    )
    planned()
    report.row(f"restart order of {_MANY}", times_ms(lambda: client.get(f"{address}/restart"), 8), 400, "7100")


def visit_row(report: Report, client: FlaskClient, small: Access) -> None:
    """A first visit to a circuit: the page and everything it asks for, as pressed as the browser takes it."""
    takes = {"Accept-Encoding": "gzip, br"}
    page = client.get(f"/jobs/{small.job.id}/P-11/start", headers=takes)
    text = page.data if page.content_encoding is None else _plain(page.data, page.content_encoding)
    total, asked = len(page.data), {part for part in text.decode().split('"') if part.startswith("/s/")}
    stem = next(part for part in asked if "/js/" in part).partition("/js/")[0]
    asked |= {f"{stem}/js/{name}.js" for name in _modules()} | {f"{stem}/vendor/idiomorph-0.8.0.esm.js"}
    asked |= {f"{stem}/fonts/plex-sans-semibold.woff2"}
    total += sum(len(client.get(part, headers=takes).data) for part in asked)
    report.row("first visit", [total / 1000], 110, "154 to 170", "kB")


def paper_row(report: Report, client: FlaskClient, small: Access) -> None:
    """A circuit's sheet as PDF, planned, typeset and sent."""
    address = f"/jobs/{small.job.id}/P-11/print.pdf"
    taken = times_ms(lambda: client.get(address), 3, time.perf_counter)
    report.row("a circuit's sheet as PDF, wall", [one / 1000 for one in taken], 3, "–", "s")


def _modules() -> set[str]:
    """What a circuit's page fetches: the main module and what is imported from there, however far."""
    folder = Path(__file__).parents[1] / "src/vinegate/web/static/js"
    found, left = set(), ["main"]
    while left:
        name = left.pop()
        if name not in found:
            found.add(name)
            left += re.findall(r'^import .* from "\./(\w+)\.js"', (folder / f"{name}.js").read_text(), re.MULTILINE)
    return found


def _plain(body: bytes, encoding: str) -> bytes:
    if encoding == "gzip":
        return gzip.decompress(body)
    import brotli

    return bytes(brotli.decompress(body))


_WORKERS: Final = """
import os, signal, time
from vinegate.collecting import loaded
from vinegate.core.plan import plan_raw
from vinegate.core.work import Kept
from vinegate.demo import demo_job
from vinegate.web import Config, create_app
create_app(Config(secret_key="x", database_url="mysql://a:b@127.0.0.1/c"))
loaded()
job, (told, tell) = demo_job("harrowmere-lock.json"), os.pipe()
workers = []
for _ in range(2):
    if not (worker := os.fork()):
        kept = [Kept() for _ in job.circuits]
        for one, (_, facts) in zip(kept, job.circuits):
            plan_raw(job.rules, job.facts, facts, kept=one)
        os.write(tell, b"x")
        signal.pause()
    workers.append(worker)
read = b""
while len(read) < 2:
    read += os.read(told, 1)
lines = dict(line.split(":", 1) for line in open(f"/proc/{workers[0]}/smaps_rollup") if ":" in line)
print(*(int(lines[name].split()[0]) * 1024 / 1e6 for name in ("Pss", "Rss")))
for worker in workers:
    os.kill(worker, signal.SIGKILL)
"""


def memory_row(report: Report) -> None:
    """One of two workers, as served: loaded before they are forked, each with nine circuits in hand.

    What it costs the machine is its own and its share of what both have (PSS); what it maps is told beside it.
    """
    found = subprocess.run([sys.executable, "-c", _WORKERS], check=True, capture_output=True, text=True)
    own, mapped = (float(text) for text in found.stdout.split())
    report.row("worker memory, its own and its share of what is shared", [own], 80, "–", "MB")
    report.told("worker memory, all that it maps", mapped, "115", "MB")


def summary_row(report: Report) -> None:
    demo = demo_job("harrowmere-lock.json")
    every = in_turn([facts for _, facts in demo.circuits])
    found = times_ms(lambda: row_of(RuleSetName.NEC, demo.facts, next(every)), 36)
    report.row("a schedule's row, planned from nothing", found, 33, "–")


def main() -> int:
    loaded()  # as a worker is
    standby.stand()
    report = Report()
    plan_rows(report)
    drive_row(report)
    summary_row(report)
    start_rows(report)
    memory_row(report)
    with served() as (client, small, large):
        request_rows(report, client, small)
        visit_row(report, client, small)
        paper_row(report, client, small)
        job_rows(report, client, large)
    print(f"{report.over} over" if report.over else "all within")
    return 1 if report.over else 0


if __name__ == "__main__":
    sys.exit(main())
