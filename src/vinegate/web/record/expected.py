"""What the plan expects beside each field of a form."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from vinegate.core.numbers import write
from vinegate.core.plan import Plan


def expected(plan: Plan, form: str) -> dict[str, str]:
    """Field paths to what is planned or rated, in short; empty where nothing is."""
    make, of = _EXPECTED.get(form, (None, ""))
    found = make(plan) if make else {}
    return {f"{form}.{name}": f"{of} {text}" for name, text in found.items() if text}


def _start(plan: Plan) -> dict[str, str]:
    if plan.comparison is None:
        return {}
    row = plan.comparison.row(plan.comparison.chosen)
    return {
        "plateau": _shown(row.peak_a, "A"),
        "time": _shown(row.time_s, "s"),
        "changeover": _shown(row.last_change_s, "s"),
    }


def _set(plan: Plan) -> dict[str, str]:
    if plan.protected is None:
        return {}
    overload, row = plan.protected.overload, None
    if plan.comparison is not None:
        row = plan.comparison.row(plan.comparison.chosen)
    return {
        "overload": overload.setting.shown if overload.setting else "",
        "trip_class": overload.trip,
        "changeover": _shown(row.last_change_s if row else None, "s"),
        "device": plan.protected.device("device").chosen,
    }


def _running(plan: Plan) -> dict[str, str]:
    volts, current, speed, hertz = (plan.figure(f"plate.{one}") for one in ("volts", "current", "speed", "frequency"))
    three = {"u12": volts, "u23": volts, "u31": volts, "i1": current, "i2": current, "i3": current}
    found = {**three, "speed": speed, "hertz": hertz}
    return {name: figure.shown for name, figure in found.items() if figure is not None}


def _before(plan: Plan) -> dict[str, str]:
    if plan.protected is None:
        return {}
    return {"conductors": plan.protected.device("conductors").chosen, "device": plan.protected.device("device").chosen}


def _shown(value: float | None, unit: str) -> str:
    return f"{write(value, 3)} {unit}" if value is not None else ""


_EXPECTED: Final[dict[str, tuple[Callable[[Plan], dict[str, str]], str]]] = {
    "record_start": (_start, "planned"),
    "record_set": (_set, "planned"),
    "record_running": (_running, "rated"),
    "record_before": (_before, "planned"),
}
"""Each form's, and whether it is of the plan or of the plate."""
