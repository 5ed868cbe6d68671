"""The machine's chart: curves at the volts and frequency asked for, drawn and as a table."""

from __future__ import annotations

import csv
import io
import json
import math
from dataclasses import dataclass, replace

import numpy as np
from flask import request
from markupsafe import Markup

from vinegate.core.machine.curves import Curves, curves
from vinegate.core.machine.describe import Machine
from vinegate.core.numbers import QuantityError, write
from vinegate.core.plan import Plan
from vinegate.core.quantity import FREQUENCY, VOLTAGE
from vinegate.core.rules.sets import rule_set
from vinegate.drawing.machine_chart import machine_chart
from vinegate.drawing.scene import Scene, svg

_STYLE = (
    "<style>text{font:11px sans-serif}.grid{stroke:#ccc}.curve{fill:none;stroke-width:2}.torque{stroke:#a2461b}"
    ".current{stroke:#1d2a29}.pf{stroke:#2b5f49;stroke-dasharray:5 3}.load{stroke:#805200;stroke-dasharray:2 3}"
    ".rated{fill:#a2461b}text{stroke:none!important}</style>"
)


_ORIGINS = {
    "fitted": "fitted circuit",
    "entered": "entered circuit",
    "from tests": "circuit from tests",
    "maker's curve": "maker's curve",
    "simple": "simple model of its kind",
}
_HELD = ", its torque held to what is promised"


@dataclass(frozen=True, slots=True, kw_only=True)
class Chart:
    """What the machine sheet shows of the curves."""

    curves: Curves
    scene: Scene
    svg: Markup
    standalone: str
    points: str
    caption: str
    others: list[tuple[str, float, float]]
    query: dict[str, float]


def asked() -> tuple[float | None, float | None]:
    """Volts and frequency of the address; what cannot be read is left out."""
    found = []
    for name, kind in (("volts", VOLTAGE), ("hertz", FREQUENCY)):
        try:
            found.append(kind.read(request.args[name]) if name in request.args else None)
        except QuantityError:
            found.append(None)
    return found[0], found[1]


def chart_of(plan: Plan, volts_v: float | None, frequency_hz: float | None) -> Chart | None:
    """The chart of the plan's machine; None when there is no machine."""
    machine, current, speed = plan.machine, plan.figure("plate.current"), plan.figure("plate.speed")
    if machine is None or current is None or speed is None:
        return None
    volts, hertz = volts_v or machine.volts_v, frequency_hz or machine.circuit.frequency_hz
    at_hertz = f", {write(hertz)} Hz" if plan.figure("plate.frequency") else ""
    found = curves(machine.circuit, volts_v=volts, frequency_hz=hertz)
    held = machine.promise is not None and hertz == machine.circuit.frequency_hz
    if held:
        found = _as_promised(found, machine)
    unit = rule_set(plan.rules).words.speed_unit
    scene = machine_chart(
        found,
        rated_torque_nm=machine.rated_torque_nm,
        rated_current_a=current.value,
        rated_speed_rpm=speed.value,
        speed_unit=unit,
        load_nm=plan.load.torque_at(found.speed_rpm) if plan.load else None,
    )
    origin = _ORIGINS[machine.origin] + (_HELD if held else "")
    drawn = svg(scene, "chart-drawing")
    return Chart(
        curves=found,
        scene=scene,
        svg=Markup(drawn),  # noqa: S704 - our own drawing
        standalone=drawn.replace("<svg ", '<svg xmlns="http://www.w3.org/2000/svg" ', 1).replace(
            "><", f">{_STYLE}<", 1
        ),
        points=_points(found, machine.rated_torque_nm),
        caption=f"At {write(volts)} V{at_hertz}: {origin}. The dot is the plate.",
        others=_others(machine.volts_v, machine.circuit.frequency_hz),
        query={"volts": volts, "hertz": hertz},
    )


def _as_promised(found: Curves, machine: Machine) -> Curves:
    """The curves as a start is worked with them: torque no higher than what is promised, with volts squared."""
    assert machine.promise is not None
    synchronous_rpm = machine.circuit.synchronous_rad_s() * 30 / math.pi
    most = (
        machine.promise.most_pu(found.speed_rpm / synchronous_rpm)
        * machine.rated_torque_nm
        * (found.volts_v / machine.volts_v) ** 2
    )
    return replace(found, torque_nm=np.minimum(found.torque_nm, most))


def load_chart_of(plan: Plan) -> Chart | None:
    """The load's curve under the machine's at plate volts; None while there is no load or no machine."""
    return chart_of(plan, None, None) if plan.load else None


def _others(volts: float, hertz: float) -> list[tuple[str, float, float]]:
    return [
        ("plate", volts, hertz),
        ("80 % volts", round(0.8 * volts, 1), hertz),
        ("65 % volts", round(0.65 * volts, 1), hertz),
        ("half speed, volts with frequency", round(volts / 2, 1), hertz / 2),
    ]


def _points(found: Curves, rated_torque_nm: float) -> str:
    rows = zip(
        found.speed_rpm, 100 * found.torque_nm / rated_torque_nm, found.line_current_a, found.power_factor, strict=True
    )
    return json.dumps(
        [[round(float(s)), round(float(t), 1), round(float(i), 1), round(float(p), 3)] for s, t, i, p in rows]
    )


def curves_csv(found: Curves) -> str:
    """The curves as CSV with units in the head."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["speed_rpm", "torque_nm", "line_current_a", "power_factor", "loss_w"])
    columns = (found.speed_rpm, found.torque_nm, found.line_current_a, found.power_factor, found.loss_w)
    for row in zip(*columns, strict=True):
        writer.writerow([f"{float(value):.6g}" for value in row])
    return out.getvalue()
