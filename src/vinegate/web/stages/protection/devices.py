"""The protection sheet: the devices as rows, and their time-current chart."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from markupsafe import Markup

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, Kind, Verdict, worst, worst_of
from vinegate.core.numbers import write
from vinegate.core.plan import Plan
from vinegate.core.protection.chart import TimeCurrent, time_current
from vinegate.core.protection.facts import DEVICES_IEC, DEVICES_NEC
from vinegate.core.protection.need import Device
from vinegate.core.rules.sets import rule_set
from vinegate.core.start.eligible import said_or_usual
from vinegate.core.start.way import Way, Windings
from vinegate.core.tables.trip_class import trip_class
from vinegate.drawing.scene import Scene, svg
from vinegate.drawing.time_current import Setting, time_current_chart

SHORT_CIRCUIT: Final = (
    "protection.device_nec",
    "protection.device_iec",
    "protection.rating",
    "start.instantaneous_trip",
    "protection.exception",
    "protection.listed",
    "protection.halves",
    "protection.drive_input",
    "protection.drive_device",
    "protection.short_circuit_rating",
    "protection.coordination",
    "protection.residual",
    "protection.residual_type",
)
BY_ITS_CURVE: Final = ("protection.holds", "protection.clears", "protection.let_through")
UPSTREAM: Final = ("protection.upstream", "protection.selective_to")
SWITCHES: Final = (
    "protection.disconnect",
    "protection.in_sight",
    "protection.lockable",
    "protection.electronic",
    "protection.starter_size",
    "protection.contactor",
    "protection.contactor_volts",
    "protection.jogging",
    "protection.coil",
    "protection.signals",
    "protection.overspeed",
)
DIAL: Final = ("protection.overload", "protection.trip_class")
OVERLOAD: Final = (
    *DIAL,
    "protection.overload_habit",
    "protection.overload_place",
    "protection.element_low",
    "protection.element_high",
    "protection.reset",
    "protection.restart_harmless",
    "protection.thermistor",
    "protection.motor_capacitor",
    "protection.compensated",
    "protection.relay_ambient",
    "protection.motor_ambient",
)
_OF_SOME_WAYS: Final[dict[str, Callable[[Way], bool]]] = {
    "protection.halves": lambda way: way.windings is Windings.HALF,
    "protection.drive_input": lambda way: way.converts,
    "protection.electronic": lambda way: way.electronic,
    "protection.starter_size": lambda way: not way.electronic,
    "protection.contactor": lambda way: not way.electronic,
    "protection.contactor_volts": lambda way: not way.electronic,
}


def not_asked(plan: Plan, circuit: Circuit) -> set[str]:
    """What only some ways to start ask for, and this one does not: shown all the same where it is filled in."""
    way = said_or_usual(circuit, plan.comparison.chosen if plan.comparison is not None else None)
    return {path for path, asks in _OF_SOME_WAYS.items() if not asks(way)}


_WHERE: Final = {
    "device": "protection",
    "disconnect": "protection",
    "starter": "protection",
    "overload": "overload",
    "conductors": "wiring",
    "grounding": "wiring",
    "conduit": "wiring",
}
_CLASSES: Final = (10.0, 20.0, 30.0, 40.0)
_PILL_TIMES: Final = 2.5


_WHOSE: Final = {
    "plate.table_current": "table",
    "protection.drive_input": "drive",
    "protection.together": "all motors",
    "protection.sized_by": "all motors",
    "protection.by_one": "one phase",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """One device as the table shows it; `take` only where what is there does not pass."""

    device: Device
    verdict: Verdict
    gate: Gate | None
    station: str
    take: str

    @property
    def to_confirm(self) -> bool:
        """Whether nothing weighs here, and its maker's word is still to be had: such a device is not said to pass."""
        site = [gate.verdict for gate in self.device.gates if gate.kind is Kind.CONFIRM]
        return self.gate is None and worst_of(site) is not Verdict.PASSES

    @property
    def stands(self) -> str:
        """Its verdict in a word."""
        return Kind.CONFIRM.value if self.to_confirm else self.verdict.value

    @property
    def rests_on(self) -> str:
        """Which current sizes it: the plate's, the table's or its drive's."""
        current = self.device.current
        if current is None:
            return ""
        what = _WHOSE.get(current.key, "plate")
        return f"{write(current.value)} A, {what}"


# What else the size of the run has to hold: the advised one holds all of it.
_OF_THE_RUN: Final = (
    "protection.drop",
    "start.terminals",
    "protection.loop",
    "protection.clears",
    "protection.withstand",
)


def rows(plan: Plan) -> tuple[Row, ...]:
    """The five, and the grounding conductor, from the supply to the shaft."""
    if plan.protected is None:
        return ()
    found = []
    for device in plan.protected.devices:
        leading = max((gate for gate in device.gates if gate.weighs), key=lambda gate: gate.verdict.rank, default=None)
        verdict = worst(device.gates)
        own = next((gate for gate in device.gates if gate.key == f"protection.{device.key}"), None)
        fails = own is not None and own.verdict in (Verdict.FAILS, Verdict.UNKNOWN)
        if device.key == "conduit":
            fails = own is not None and own.verdict is not Verdict.PASSES
        if device.key == "conductors":
            fails = fails or any(gate.fails for gate in plan.gates if gate.key in _OF_THE_RUN)
        found.append(
            Row(
                device=device,
                verdict=verdict,
                gate=leading,
                station=_WHERE[device.key],
                take=device.take if fails or device.chosen == "–" else "",
            )
        )
    return tuple(found)


def chart_data(plan: Plan, circuit: Circuit, k_s: float | None) -> TimeCurrent | None:
    """What the chart draws; None without a rated current."""
    rated = plan.figure("protection.by_one") or plan.figure("protection.together") or plan.figure("plate.current")
    protected = plan.protected
    if rated is None or protected is None:
        return None
    near = plan.fault_at(circuit.wiring.board) or plan.figure("supply.fault_at_board")
    far, locked = plan.figure("protection.far_fault"), plan.figure("start.full.current")
    stall_s = plan.figure("machine.stall_hot")
    detail = plan.comparison.detail if plan.comparison else None
    return time_current(
        rated_a=rated.value,
        dial_a=protected.overload.dial_a,
        trip=protected.overload.trip,
        band=protected.band,
        detail=detail,
        first_a=protected.first_a,
        k_s=k_s,
        upstream=circuit.protection.upstream,
        stall=(locked.value, stall_s.value) if locked and stall_s else None,
        near_a=1000 * near.value if near else None,
        far_a=1000 * far.value * 3**0.5 / 2 if far else None,
    )


def chart(plan: Plan, circuit: Circuit, *, on_paper: bool = False) -> Markup | None:
    """The drawing, with its pills on screen."""
    scene = chart_scene(plan, circuit, on_paper=on_paper)
    return None if scene is None else Markup(svg(scene, "time-current"))  # noqa: S704 - our own drawing


def chart_scene(plan: Plan, circuit: Circuit, *, on_paper: bool) -> Scene | None:
    """What it draws; None without a rated current."""
    protected = plan.protected
    if protected is None:
        return None
    found = chart_data(plan, circuit, protected.withstand_k_s)
    if found is None:
        return None
    dial = rating = trip = None
    over, band = protected.overload, protected.band
    if not on_paper:
        if over.setting is not None:
            dial = _dial(over.setting.value)
            trip = _trip(over.trip)
        rating = _rating(plan, band.rating_a) if band else None
    names = {
        "overload": f"overload, class {over.trip}{', of each' if plan.figure('protection.together') else ''}",
        "device": _device_name(plan),
        "damage": f"{circuit.wiring.size or 'conductor'} is damaged",
        "start": "start",
        "upstream": "upstream",
    }
    return time_current_chart(found, names=names, dial=dial, rating=rating, trip=trip)


def _device_name(plan: Plan) -> str:
    protected = plan.protected
    if protected is None or protected.band is None:
        return "device"
    names = dict((*DEVICES_NEC, *DEVICES_IEC))
    about = ", generic" if protected.band.estimated else ""
    return f"{protected.band.rating_a:g} A {names[protected.band.device]}{about}"


def _dial(value: float) -> Setting:
    step = 0.1 if value < 20 else 0.5 if value < 100 else 1.0
    text = f"{write(value, 3)} A"
    return Setting(value=value, text=text, label="Overload set to", field="protection-overload", unit="A", step=step)


def _rating(plan: Plan, value: float) -> Setting:
    kind = plan.protected.band.device if plan.protected and plan.protected.band else ""
    stops = rule_set(plan.rules).ratings(kind)
    return Setting(
        value=value,
        text=f"{value:g} A",
        label="Rating of the short-circuit device",
        field="protection-rating",
        unit="A",
        step=10.0,
        stops=stops,
    )


def _trip(name: str) -> Setting | None:
    if name == "10A":
        return None
    return Setting(
        value=float(name),
        text=name,
        label="Trip class",
        field="protection-trip_class",
        unit="",
        stops=_CLASSES,
        times=_PILL_TIMES,
        seconds=trip_class(name).latest_s(_PILL_TIMES) / float(name),
    )
