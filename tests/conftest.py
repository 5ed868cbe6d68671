"""Facts that many tests start from: the made-up works' own circuits."""

from __future__ import annotations

import copy
import os
from collections.abc import Callable
from functools import lru_cache
from typing import Any

import pytest
from hypothesis import settings

from vinegate.collecting import loaded
from vinegate.core.facts import RuleSetName, circuit_parts
from vinegate.core.plan import NOTHING, Beside, Plan, plan_raw
from vinegate.core.record.facts import FORMS
from vinegate.core.work import Kept
from vinegate.demo import demo_job
from vinegate.exchange.circuit_file import JobFile

Planner = Callable[..., Plan]


def pytest_collection_finish() -> None:
    """What is loaded is nobody's garbage, as in the application."""
    loaded()


# A loaded machine is slow, not wrong. The same examples each time; `./test nightly` draws others.
settings.register_profile("patient", deadline=None, derandomize=True)
settings.register_profile("nightly", deadline=None, derandomize=False)
settings.load_profile("patient")


def _with(facts: dict[str, Any], changes: dict[str, str | None]) -> dict[str, Any]:
    changed = copy.deepcopy(facts)
    for path, text in changes.items():
        stage, _, name = path.partition(".")
        fields = changed.setdefault(stage, {})
        if text is None:
            fields.pop(name, None)
        else:
            fields[name] = text
    return changed


_read = lru_cache(demo_job)
"""A job's file read once, for those who change nothing of it."""
_EACH_AFRESH = "EACH_AFRESH" in os.environ
"""While it is found which lines a test runs, none takes up what another has planned."""
_KEPT: dict[tuple[str, str], dict[RuleSetName, Kept]] = {}


def planner(file: str, tag: str, beside: Beside = NOTHING) -> Planner:
    """Plans one demo circuit with changed facts: `plan({"plate.power": "60 hp"})`; None takes a fact away. What is not
    in use is left out: `whole` has it.

    Each plan takes up the last of that circuit, as pages do: what nothing has changed for is not worked again. What was
    measured of it is left out: it is held against the plan in tests of its own.
    """

    def plan(changes: dict[str, str | None] | None = None, rules: RuleSetName | None = None) -> Plan:
        made = _planned.__wrapped__ if _EACH_AFRESH else _planned
        return made(file, tag, beside, rules or _read(file).rules, tuple((changes or {}).items()))

    return plan


@lru_cache(maxsize=128)
def _planned(
    file: str, tag: str, beside: Beside, rules: RuleSetName, changes: tuple[tuple[str, str | None], ...]
) -> Plan:
    """The plan, which nobody changes: the same facts are asked again and again."""
    job, own = _read(file), Kept()
    if not _EACH_AFRESH:
        own = _KEPT.setdefault((file, tag), {}).setdefault(rules, own)
    circuit = {key: part for key, part in dict(job.circuits)[tag].items() if key not in FORMS}
    on_job = {path: text for path, text in changes if path.split(".")[0] not in circuit_parts()}
    rest = {path: text for path, text in changes if path not in on_job}
    return plan_raw(rules, _with(job.facts, on_job), _with(circuit, rest), kept=own, beside=beside)


def text_of(plan: Plan) -> str:
    """The answer in one line."""
    return "".join(piece.text for piece in plan.answer)


def whole(file: str, tag: str) -> Planner:
    """The same with every way to start and to stop, and the other source."""
    return planner(file, tag, Beside.ALL)


def stops(file: str, tag: str) -> Planner:
    """The same with every way to stop."""
    return planner(file, tag, Beside.STOPS)


@pytest.fixture(scope="session")
def p11() -> Planner:
    """The 75 hp land-drainage pump under NEC."""
    return planner("harrowmere-lock.json", "P-11")


@pytest.fixture(scope="session")
def h1() -> Planner:
    """The 45 kW hydraulic pump under IEC."""
    return planner("skerry-sound.json", "H-1")


@pytest.fixture(scope="session")
def demo_jobs() -> list[JobFile]:
    return [demo_job("harrowmere-lock.json"), demo_job("skerry-sound.json")]


@pytest.fixture(scope="session")
def demo_plans(demo_jobs: list[JobFile]) -> dict[str, Plan]:
    """Every demo circuit's plan by tag."""
    return {tag: plan_raw(job.rules, job.facts, facts) for job in demo_jobs for tag, facts in job.circuits}
