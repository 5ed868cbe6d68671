"""The driven machine: what it asks of the shaft at every speed, and what has to be brought up to speed."""

from __future__ import annotations

from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, field, measure
from vinegate.core.load.points import WrittenPoints, read_points
from vinegate.core.measured import Quantity

LOAD_KINDS = (
    ("constant", "constant torque"),
    ("linear", "torque with speed"),
    ("quadratic", "torque with speed squared"),
    ("pump-open", "centrifugal pump, open valve"),
    ("pump-closed", "centrifugal pump, closed valve"),
    ("pump-static", "pump against a static head"),
    ("fan-open", "fan, open damper"),
    ("fan-closed", "fan, closed damper"),
    ("constant-power", "constant power, as a winder"),
    ("hoist", "hoist or winch, loaded"),
    ("crusher", "crusher or mill, loaded"),
    ("unloaded", "started unloaded"),
    ("points", "points from a table"),
)

_LOADED_OR_NOT: Final = ("constant", "unloaded")
_BY_WHAT_IT_STIRS: Final = ("quadratic", "constant")
_OTHER_KINDS: Final[dict[str, str | tuple[str, ...]]] = {
    **dict.fromkeys(("crane", "elevator", "lift"), "hoist"),
    **dict.fromkeys(("gear pump", "piston pump", "positive displacement", "positive displacement pump", "screw pump",
                     "extruder", "conveyor", "auger", "screw conveyor"), "constant"),
    **dict.fromkeys(("winder", "spindle"), "constant-power"),
    **dict.fromkeys(("compressor", "air compressor", "piston compressor", "reciprocating compressor", "vacuum pump",
                     "screw compressor", "hydraulic pump", "power pack"), _LOADED_OR_NOT),
    **dict.fromkeys(("mixer", "agitator", "stirrer"), _BY_WHAT_IT_STIRS),
    **dict.fromkeys(("saw", "band saw", "circular saw", "lathe", "press", "machine tool", "grinder"),
                    _LOADED_OR_NOT),
    **dict.fromkeys(("centrifuge", "separator"), ("unloaded", "linear")),
    "blower": ("fan-open", "fan-closed", "constant"), "exhauster": ("fan-open", "fan-closed"),
    "propeller": "quadratic", "chiller": _LOADED_OR_NOT, "shredder": "crusher", "chipper": "crusher",
    "hammer mill": ("crusher", "unloaded"),
}  # fmt: skip
"""What stands on many machines: by its torque where that is clear, else by the kinds between which one has to say."""

SERVICES: Final = (
    ("none", "none: an ordinary machine"),
    ("fire-pump", "fire pump"),
    ("hermetic", "hermetic compressor"),
    ("lift", "passenger or goods lift"),
    ("pool", "pool or fountain pump"),
)

_STATIC: Final = Quantity(
    name="share", unit="one", shown="", bare="percent", bare_too="one", example="40 %", least=0, most=0.98,
    usual=(0.03, 0.98),
)  # fmt: skip


class Load(Facts):
    """Every field may be missing. Power may be given, or what it follows from."""

    kind: str | None = field(choice("Load", LOAD_KINDS, also=_OTHER_KINDS, help="How its torque goes with speed."))
    service: str | None = field(
        choice("Special service", SERVICES, also={"no": "none", "ordinary": "none", "elevator": "lift",
                                                  "swimming pool pump": "pool"},
               help="What a code has rules of its own for.")
    )  # fmt: skip
    runs: str | None = field(
        choice(
            "It runs",
            (("continuous", "on and on"), ("short", "short, then rests"), ("intermittent", "on and off")),
            also={
                "S1": "continuous",
                "24/7": "continuous",
                "S2": "short",
                "short time": "short",
                "S3": "intermittent",
                "cyclic": "intermittent",
            },
            help="Against the plate's duty, where that is not continuous.",
        )
    )
    stretch_s: float | None = field(
        measure("Longest at a stretch", q.STRETCH, "t_on", example="20 min", help="At load, without a stop.")
    )
    power_w: float | None = field(
        measure("Shaft power asked", q.SHAFT_POWER, "P_L", example="69 hp", help="At full speed, at its shaft.")
    )
    torque_nm: float | None = field(
        measure("or torque asked", q.ASKED_TORQUE, "T_L", help="At full speed, at its shaft.")
    )
    breakaway_pu: float | None = field(
        measure("Breakaway", q.BREAKAWAY, "b", help="Torque at rest, of that at full speed.")
    )
    inertia_kgm2: float | None = field(
        measure("Load inertia", q.INERTIA, "J_L", help="At its own shaft; write GD² behind GD² values.")
    )
    gear_ratio: float | None = field(
        measure("Gear ratio", q.GEAR_RATIO, "i", help="Motor turns for one turn of the load; empty: no gear.")
    )
    gear_efficiency_pu: float | None = field(
        measure("Gear efficiency", q.EFFICIENCY, "η_g", example="96 %", help="Empty: 94 % with a gear, else 100 %.")
    )
    flow_m3s: float | None = field(measure("Flow", q.FLOW, "Q", help="Pump or fan, at duty."))
    head_m: float | None = field(measure("Head", q.HEAD, "H", help="Pump: head of the liquid."))
    pressure: float | None = field(
        measure("Pressure rise", q.PRESSURE, "Δp", help="Fan, in place of the head.", example="900 Pa")
    )
    density: float | None = field(measure("Density", q.DENSITY, "ρ", help="Empty: water, 1000 kg/m³."))
    static_pu: float | None = field(
        measure("Static head", _STATIC, "H_st", help="Of the head at duty: what stands there without flow.")
    )
    shutoff_pu: float | None = field(
        measure("Shut-off head", q.TORQUE_RATIO, "H_0", example="125 %", help="Of that at duty. Empty: 125 %.")
    )
    constant_from_pu: float | None = field(
        measure("Power constant from", q.SHARE, "n_c", example="50 %", help="Of full speed. Empty: 50 %.")
    )
    machine_efficiency_pu: float | None = field(
        measure("Its efficiency", q.EFFICIENCY, "η_L", example="78 %", help="Of pump, fan or winch.")
    )
    force_n: float | None = field(measure("Force", q.ROPE_PULL, "F", help="Hoist or winch: rope pull."))
    line_speed_ms: float | None = field(measure("Rope speed", q.LINE_SPEED, "v", help="At full speed."))
    points: WrittenPoints | None = field(
        Fact(
            label="Load's points",
            read=read_points,
            example="speed_%, torque_%",
            help="A table: speed in % of full speed, torque in % of that asked; by its head also rpm, N·m, lb-ft.",
            longest=8000,
        )
    )

    @property
    def by_flow(self) -> bool:
        """Whether flow and head, or pressure, say what it asks."""
        return self.flow_m3s is not None and (self.head_m is not None or self.pressure is not None)

    @property
    def by_force(self) -> bool:
        """Whether pull and line speed say what it asks."""
        return self.force_n is not None and self.line_speed_ms is not None
