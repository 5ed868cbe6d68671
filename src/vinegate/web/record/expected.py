"""What the plan expects beside each field of a form."""

from __future__ import annotations

from vinegate.core.numbers import write
from vinegate.core.plan import Plan


def expected(plan: Plan, form: str) -> dict[str, str]:
    """Field paths to what is planned, in short; empty where nothing is."""
    make = {"record_start": _start, "record_set": _set, "record_running": _running, "record_before": _before}.get(form)
    found = make(plan) if make else {}
    return {f"{form}.{name}": text for name, text in found.items() if text}


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
    current, speed = plan.figure("plate.current"), plan.figure("plate.speed")
    amps = f"{current.shown} rated" if current else ""
    return {"i1": amps, "i2": amps, "i3": amps, "speed": f"{speed.shown} rated" if speed else ""}


def _before(plan: Plan) -> dict[str, str]:
    if plan.protected is None:
        return {}
    return {"conductors": plan.protected.device("conductors").chosen, "device": plan.protected.device("device").chosen}


def _shown(value: float | None, unit: str) -> str:
    return f"{write(value, 3)} {unit}" if value is not None else ""
