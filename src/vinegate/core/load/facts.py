"""The driven machine: what it asks of the shaft at every speed, and what has to be brought up to speed."""

from __future__ import annotations

from typing import Annotated

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, measure
from vinegate.core.load.points import LoadPoints, read_points

LOAD_KINDS = (
    ("constant", "constant torque"),
    ("linear", "torque with speed"),
    ("quadratic", "torque with speed squared"),
    ("pump-open", "centrifugal pump, open valve"),
    ("pump-closed", "centrifugal pump, closed valve"),
    ("fan-open", "fan, open damper"),
    ("fan-closed", "fan, closed damper"),
    ("hoist", "hoist or winch, loaded"),
    ("crusher", "crusher or mill, loaded"),
    ("unloaded", "started unloaded"),
    ("points", "points from a table"),
)


class Load(Facts):
    """Every field may be missing. Power may be given, or what it follows from."""

    kind: Annotated[str | None, choice("Load", LOAD_KINDS, help="How its torque goes with speed.")] = None
    runs: Annotated[
        str | None,
        choice(
            "It runs",
            (("continuous", "on and on"), ("short", "short, then rests"), ("intermittent", "on and off")),
            help="Against the plate's duty, where that is not continuous.",
        ),
    ] = None
    stretch_s: Annotated[
        float | None,
        measure("at a stretch", q.STRETCH, "t_on", example="20 min", help="At load, without a stop."),
    ] = None
    power_w: Annotated[
        float | None, measure("Shaft power asked", q.POWER, "P_L", example="69 hp", help="At full speed, at its shaft.")
    ] = None
    torque_nm: Annotated[
        float | None, measure("or torque asked", q.TORQUE, "T_L", help="At full speed, at its shaft.")
    ] = None
    breakaway_pu: Annotated[
        float | None, measure("Breakaway", q.BREAKAWAY, "b", help="Torque at rest, of that at full speed.")
    ] = None
    inertia_kgm2: Annotated[
        float | None, measure("Load inertia", q.INERTIA, "J_L", help="At its own shaft; write GD² behind GD² values.")
    ] = None
    gear_ratio: Annotated[
        float | None, measure("Gear ratio", q.GEAR_RATIO, "i", help="Motor turns for one turn of the load; empty: 1.")
    ] = None
    gear_efficiency_pu: Annotated[
        float | None, measure("Gear efficiency", q.EFFICIENCY, "η_g", example="96 %", help="Empty: 100 %.")
    ] = None
    flow_m3s: Annotated[float | None, measure("Flow", q.FLOW, "Q", help="Pump or fan, at duty.")] = None
    head_m: Annotated[float | None, measure("Head", q.HEAD, "H", help="Pump: head of the liquid.")] = None
    pressure: Annotated[
        float | None, measure("Pressure rise", q.PRESSURE, "Δp", help="Fan, in place of the head.", example="900 Pa")
    ] = None
    density: Annotated[float | None, measure("Density", q.DENSITY, "ρ", help="Empty: water, 1000 kg/m³.")] = None
    machine_efficiency_pu: Annotated[
        float | None, measure("Its efficiency", q.EFFICIENCY, "η_L", example="78 %", help="Of pump, fan or winch.")
    ] = None
    force_n: Annotated[float | None, measure("Force", q.FORCE, "F", help="Hoist or winch: rope pull.")] = None
    line_speed_ms: Annotated[float | None, measure("Rope speed", q.LINE_SPEED, "v", help="At full speed.")] = None
    points: Annotated[
        LoadPoints | None,
        Fact(
            label="Points",
            read=read_points,
            example="speed_%, torque_%",
            help="CSV: speed in % of full speed, torque in % of that asked.",
            longest=8000,
        ),
    ] = None
