"""The budgets of the design that exist so far, measured in one run on one machine and printed as ratios."""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.server import fresh_database, job_of, person, private_instance, pump

from vinegate.core.facts import read_circuit, read_job
from vinegate.core.plan import plan_circuit, plan_raw
from vinegate.core.supply.facts import Standby
from vinegate.demo import demo_job
from vinegate.store.database import database
from vinegate.web import Config, create_app
from vinegate.web.app import SessionUser


def median_ms(run: Callable[[], object], times: int) -> float:
    """Median of several timed runs after one that warms up."""
    run()
    taken = []
    for _ in range(times):
        start = time.perf_counter()
        run()
        taken.append(1000 * (time.perf_counter() - start))
    return statistics.median(taken)


def row(what: str, measured: float, budget: float, unit: str = "ms") -> None:
    print(f"{what:58} {measured:9.2f} {unit:3} {measured / budget:7.3f} of the budget of {budget:g} {unit}")


def machine_rows() -> None:
    """The fit without its cache, and the curves at a thousand speeds."""
    from tests.core.test_machine_fit import NEMA, catalogue

    from vinegate.core.machine.curves import curves
    from vinegate.core.machine.fit import Fit, fit

    target = catalogue(*NEMA[25])
    row("machine fit, not from the cache", median_ms(lambda: fit.__wrapped__(target), 40), 10)
    found = fit(target)
    assert isinstance(found, Fit)
    row("machine curves at 1,000 speeds", median_ms(lambda: curves(found.circuit, volts_v=460, count=1000), 100), 1)


def start_rows() -> None:
    """Nine ways simulated, and the same by `solve_ivp` on the model written again, to the same 0.5 %."""
    from tests.core.test_starting_ivp import METHODS, again, scene

    from vinegate.core.start.facts import Start
    from vinegate.core.start.simulate import simulate

    shape = {"index": 25, "load_share": 0.6, "shape": 2.0, "breakaway": 0.15, "inertia_times": 2.0}
    plant, runs, model = scene(**shape, source_pu=0.006, tap=65)
    start = Start.model_validate({"tap": "65", "series_volts": "65 %", "soft_ramp": "4 s"})

    def ours() -> object:
        return simulate(plant, start, dip_limit_pu=0.04, margin_pu=0.1, most_i2t_s=20, loss_share=0.06, cage=True)

    quick = median_ms(ours, 40)
    slow = median_ms(lambda: [again(plant, runs[method], model, 65) for method in METHODS], 3)
    print(f"{'nine ways simulated':58} {quick:9.2f} ms")
    print(f"{'  the same by solve_ivp':58} {slow:9.2f} ms  {slow / quick:7.1f} × slower   wanted ≥ 50")


def main() -> None:
    job = demo_job("harrowmere-lock.json")
    facts = dict(job.circuits)["P-11"]
    read = read_job(job.facts, job.rules)[0], read_circuit(facts, job.rules)[0]
    one_source = replace(read[0], standby=Standby())
    row("plan_circuit, nine ways, utility", median_ms(lambda: plan_circuit(one_source, read[1]), 60), 25)
    row("plan_circuit, with the standby source beside it", median_ms(lambda: plan_circuit(*read), 60), 25)
    start_rows()
    machine_rows()
    with private_instance() as instance, fresh_database(instance, "benchmark") as url:
        app = create_app(Config(secret_key="x", database_url=url, limit_sign_in=False))
        app.config["WTF_CSRF_ENABLED"] = False

        @app.get("/one-query")
        def one_query() -> str:
            from flask import render_template

            database.execute_sql("SELECT 1").fetchone()
            return render_template("error.html", code=200, title="one query", text="one template")

        with database.connection_context():
            ines = person("ines")
            access = job_of(ines)
            pump(access)
            large = job_of(ines)
            for index in range(300):
                pump(large, f"P-{index}")
        from flask_login import FlaskLoginClient

        app.test_client_class = FlaskLoginClient
        client = app.test_client(user=SessionUser(ines))
        address = f"/jobs/{access.job.id}/P-11/plate"
        letters = iter("GH" * 200)
        last = ["G"]

        def change() -> None:
            letter = next(letters)
            form = {"was:plate.code_letter": last[0], "f:plate.code_letter": letter, "page": "b"}
            assert client.post(address, data=form, headers={"X-Live": "1"}).status_code == 200
            last[0] = letter

        field = median_ms(change, 60)
        simple = median_ms(lambda: client.get("/one-query"), 60)
        row("changed field to new numbers, server's share", field, 60)
        print(f"{'  against a page of one query and one template':58} {field / simple:9.2f} ×   wanted ≤ 3")
        row(
            "schedule of 300 circuits, nothing changed", median_ms(lambda: client.get(f"/jobs/{large.job.id}"), 10), 300
        )
        replan = median_ms(lambda: [plan_raw(job.rules, job.facts, facts) for _ in range(1000)], 1)
        row("re-planning 1,000 circuits, one core", replan / 1000, 20, "s")


if __name__ == "__main__":
    main()
