"""The line: a circuit's stations from the supply to the driven machine, with the gates between them."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any, Final, cast

from vinegate.core.facts import Circuit, Job, RuleSetName
from vinegate.core.grade import Gate, Verdict
from vinegate.core.load.facts import LOAD_KINDS
from vinegate.core.numbers import horsepower, write
from vinegate.core.plan import Plan
from vinegate.core.protection.facts import PLACES
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.rules.sets import rule_set
from vinegate.core.start.compare import MethodRow, names_of
from vinegate.core.start.eligible import said_or_usual
from vinegate.core.start.way import Way, Windings
from vinegate.core.start.ways import USUAL
from vinegate.core.supply.source import behind_transformer
from vinegate.core.supply.tree import board_name, path_to
from vinegate.core.wiring.facts import Wiring
from vinegate.exchange.circuit_file import Raw
from vinegate.web.display import figure_value


@dataclass(frozen=True, slots=True, kw_only=True)
class Station:
    """A stop on the line: what it is, in short, and its one deciding number. `sheet` is None where it has none."""

    kind: str
    name: str
    short: str
    number: str
    sheet: str | None = None
    anchor: str = ""
    gates: tuple[Gate, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class _Drawn:
    """What the line is drawn from: the plan, the facts it rests on, as read and as typed."""

    plan: Plan
    job: Job
    circuit: Circuit
    job_raw: Raw
    circuit_raw: Raw

    @property
    def used(self) -> MethodRow | None:
        found = self.plan.comparison
        return found.row(found.chosen) if found else None

    @property
    def way(self) -> Way:
        return said_or_usual(self.circuit, self.used.method if self.used else None)

    @property
    def at_first(self) -> bool:
        """Whether the first moment tells of the way in use: of full voltage and wye alone."""
        return self.way.key == USUAL.key or self.way.windings is Windings.WYE

    @property
    def point(self) -> str:
        """The first moment that counts: that of the way in use."""
        return "start.wye" if self.way.windings is Windings.WYE else "start.full"


def line(plan: Plan, job: Job, circuit: Circuit, job_raw: Raw, circuit_raw: Raw) -> tuple[Station, ...]:
    """The stations in order, each with the gates that stand behind it."""
    drawn = _Drawn(plan=plan, job=job, circuit=circuit, job_raw=job_raw, circuit_raw=circuit_raw)
    feeders = (
        _feeder(plan, job, key, length_as_typed(job_raw.get(key), plan.rules))
        for key in path_to(job, circuit.wiring.board)
    )
    ahead = (_supply(drawn), *feeders, _protection(drawn), _starter(drawn), _overload(drawn), _wiring(drawn))
    behind = (_motor(drawn), _stop(drawn), _place(drawn))
    own = [stop for one in (*ahead, *behind) for stop in (one, *_further(plan, one.kind))]
    return (*own, *_further(plan, ""), _driven(drawn))


def _supply(drawn: _Drawn) -> Station:
    plan = drawn.plan
    number = figure_value(plan.figure("supply.fault_at_board"))
    gates = _gates(plan, "supply")
    return Station(
        kind="supply", name="Supply", short=_supply_text(drawn.job), number=number, sheet="supply", gates=gates
    )


def _protection(drawn: _Drawn) -> Station:
    plan = drawn.plan
    gates = tuple(gate for gate in _gates(plan, "protection") if gate.key != "protection.starter")
    number = _chosen(plan, "device")
    return Station(
        kind="protection", name="Protection", short=_device_text(plan), number=number, sheet="protection", gates=gates
    )


def _starter(drawn: _Drawn) -> Station:
    plan, used = drawn.plan, drawn.used
    starter = names_of(rule_set(RuleSetName(plan.rules)).words)[drawn.way.key]
    setting = f", {used.setting}" if used and used.setting else ""
    advised = " (advised)" if used and used.recommended and drawn.circuit.start.method is None else ""
    peak = plan.figure("start.used.current")
    if drawn.at_first:
        peak = peak or plan.figure(f"{drawn.point}.current") or plan.figure("start.locked_rotor_high")
    return Station(
        kind="start",
        name="Starter",
        short=f"{starter}{setting}{advised}",
        number=figure_value(peak, 3),
        sheet="start",
        gates=(
            *(gate for gate in plan.stage("start").gates if gate.weighs and gate.key not in _ELSEWHERE),
            *(gate for gate in plan.gates if gate.key == "protection.starter"),
        ),
    )


def _overload(drawn: _Drawn) -> Station:
    plan = drawn.plan
    short, number = _overload_text(plan, drawn.circuit), _chosen(plan, "overload")
    gates = _gates(plan, "overload")
    return Station(kind="overload", name="Overload", short=short, number=number, sheet="overload", gates=gates)


def _wiring(drawn: _Drawn) -> Station:
    plan = drawn.plan
    short = _wiring_text(drawn.circuit, length_as_typed(drawn.circuit_raw.get("wiring"), plan.rules))
    first, judged = plan.figure(f"{drawn.point}.terminals"), plan.gate("start.terminals").value
    # A machine that never starts across the line has no such first moment: then what its gate is judged by.
    number = f"≈ {write(judged, 3)} %" if first is None and judged is not None else figure_value(first)
    gates = _gates(plan, "wiring")
    return Station(kind="wiring", name="Wiring", short=short, number=number, sheet="wiring", gates=gates)


def _motor(drawn: _Drawn) -> Station:
    plan = drawn.plan
    gates = tuple(gate for gate in plan.gates if gate.key.startswith("plate.") or gate.key == "start.torque")
    short, number = _motor_text(drawn.circuit, plan), figure_value(plan.figure("plate.current"))
    return Station(kind="plate", name="Motor", short=short, number=number, sheet="plate", gates=gates)


def _stop(drawn: _Drawn) -> Station:
    plan = drawn.plan
    short, number, gates = _stop_text(plan), _stop_number(plan), _gates(plan, "stop")
    return Station(kind="stop", name="Stop", short=short, number=number, sheet="stop", gates=gates)


def _place(drawn: _Drawn) -> Station:
    plan = drawn.plan
    short, number, gates = _place_text(plan), _place_number(plan), _gates(plan, "place")
    return Station(kind="place", name="Place", short=short, number=number, sheet="place", gates=gates)


def _driven(drawn: _Drawn) -> Station:
    plan, circuit = drawn.plan, drawn.circuit
    name = circuit.start.driven or "Driven machine"
    return Station(kind="driven", name=name, short=_load_text(circuit, plan), number=_load_number(plan), sheet="load")


def _further(plan: Plan, stands: str) -> tuple[Station, ...]:
    """Stages that say for themselves what stands at their station, behind one of this kind."""
    return tuple(
        Station(kind="further", name=one.name, short=one.short, number=one.number, sheet=one.key,
                gates=_gates(plan, one.key))
        for one in plan.stations
        if one.stands == stands
    )  # fmt: skip


def _gates(plan: Plan, key: str) -> tuple[Gate, ...]:
    """A stage's gates; none in a plan that was issued before it had the stage."""
    return next((stage.gates for stage in plan.stages if stage.key == key), ())


def _chosen(plan: Plan, key: str) -> str:
    return plan.protected.device(key).chosen if plan.protected else "–"


def _device_text(plan: Plan) -> str:
    """The short-circuit device and the switch ahead of it."""
    if plan.protected is None:
        return "not known yet"
    kind = plan.protected.device("device").name.partition(": ")[2] or "short-circuit device"
    return f"{kind}; disconnect {plan.protected.device('disconnect').chosen}"


def _overload_text(plan: Plan, circuit: Circuit) -> str:
    place = dict(PLACES)[circuit.protection.overload_place or "line"]
    sized = plan.protected is not None and plan.protected.overload.setting is not None
    trip = f"class {plan.protected.overload.trip}, " if plan.protected and sized else ""
    return f"{trip}{place}, from the plate"


# Gates of the start that stand elsewhere on the line.
_ELSEWHERE = ("start.torque",)


def _feeder(plan: Plan, job: Job, key: str, length: str) -> Station:
    """A board between the main board and the circuit: its feeder, its fault current."""
    board = job.board(key)
    assert board is not None
    parts = [f"{write(board.transformer_power_va / 1000)} kVA"] if board.transformer_power_va else []
    if board.size:
        parts.append(f"{board.size}, {length}" if board.length_m is not None else board.size)
    return Station(
        kind="feeder",
        name=board_name(job, key),
        short=", ".join(parts) or "feeder not known yet",
        number=figure_value(plan.figure(f"supply.fault_at_{key}"), 3),
        sheet="supply",
        anchor=f"more-{key}",
    )


def _stop_text(plan: Plan) -> str:
    if plan.stopping is None:
        return "not known yet"
    row = plan.stopping.row(plan.stopping.chosen)
    return f"{row.name} {row.setting}".strip()


def _stop_number(plan: Plan) -> str:
    """Seconds to rest: estimated, as the inertia is."""
    row = plan.stopping.row(plan.stopping.chosen) if plan.stopping else None
    return "–" if row is None or row.time_s is None else f"≈ {write(row.time_s, 3)} s"


def _place_text(plan: Plan) -> str:
    """The motor's area; others where a device stands elsewhere."""
    placed = plan.placed
    if placed is None or not placed.areas:
        return "not known yet"
    return ", ".join(area.name for area in placed.areas)


def _place_number(plan: Plan) -> str:
    """The motor's classification, shortest."""
    motor = plan.placed.device("motor") if plan.placed else None
    area = next((one for one in plan.placed.areas if motor and one.key == motor.area), None) if plan.placed else None
    if area is None:
        return "–"
    if area.status == "unclassified":
        return "ordinary"
    return area.short.removeprefix("Class ").partition(",")[0]


def _load_number(plan: Plan) -> str:
    """What the load takes, in the dialect's unit; the rated torque while that is not known."""
    power = plan.figure("load.power")
    if power is None:
        return figure_value(plan.figure("plate.torque"), 3)
    if not rule_set(plan.rules).practice.us_units:
        return figure_value(power, 3)
    about = "≈ " if power.soft else ""
    return f"{about}{horsepower(1000 * power.value / WATT_PER_HP, 3)}"


def _load_text(circuit: Circuit, plan: Plan) -> str:
    kind = dict(LOAD_KINDS).get(circuit.load.kind or "", "load not known yet")
    inertia = plan.figure("load.inertia_total")
    return f"{kind}, J {figure_value(inertia, 3)}" if inertia else kind


def leading(gates: tuple[Gate, ...]) -> Gate | None:
    """The gate that stands for several: the worst of those that weigh."""
    return max((gate for gate in gates if gate.weighs), key=lambda gate: gate.verdict.rank, default=None)


def tally(plan: Plan) -> list[tuple[Verdict, int]]:
    """How many gates stand how, worst first, without those that have none."""
    return [(verdict, count) for verdict, count in sorted(plan.tally.items(), key=lambda pair: -pair[0].rank) if count]


def _supply_text(job: Job) -> str:
    supply = job.supply
    if supply.in_use == "standby":
        power = job.standby.generator_power_va
        return f"{write(power / 1000)} kVA generator" if power else "generator not known yet"
    if supply.transformer_power_va and supply.transformer_impedance_pu:
        kva, percent = write(supply.transformer_power_va / 1000), write(100 * supply.transformer_impedance_pu)
        count = f"{supply.transformers} × " if supply.transformers and supply.transformers > 1 else ""
        return f"{count}{kva} kVA, {percent} %"
    if behind_transformer(supply):
        return "transformer not known yet"
    if supply.fault_level:
        return "utility, at the board"
    return "not known yet"


def length_as_typed(facts: Any, rules: str) -> str:
    """A length in the unit it was typed in: what is measured in feet stays in feet.

    >>> length_as_typed({"length": "200 ft"}, "nec"), length_as_typed({"length": "60"}, "iec")
    ('200 ft', '60 m')
    >>> length_as_typed({"length": "about 200 ft"}, "nec")
    '≈ 200 ft'
    """
    text, us = str((facts or {}).get("length") or ""), rule_set(rules).practice.us_units
    length = Wiring.fields()["length"]
    if not length.reads(text, us=us):
        return ""
    metres, rough = cast(float, length.taken(text, us=us)), length.roughly(text, us=us)
    said = rough or text
    bare = re.fullmatch(r"[\d.,\s]+", said.strip()) is not None
    feet = re.search(r"ft|feet|foot|['′]", said, re.I) is not None or (bare and us)
    return ("≈ " if rough else "") + (f"{write(metres / _FOOT_M, 4)} ft" if feet else f"{write(metres)} m")


_FOOT_M: Final = 0.3048


def _wiring_text(circuit: Circuit, length: str) -> str:
    wiring = circuit.wiring
    if wiring.size is None:
        return "not known yet"
    sets = f"{wiring.sets} × " if (wiring.sets or 1) > 1 else ""
    metal = {"copper": " Cu", "aluminium": " Al"}.get(wiring.metal or "", "")
    return f"{sets}{wiring.size}{metal}{f', {length}' if length else ''}"


def _motor_text(circuit: Circuit, plan: Plan) -> str:
    figures = (plan.figure("plate.power"), plan.figure("plate.speed"))
    parts = [figure.shown for figure in figures if figure is not None]
    if circuit.plate.volts is not None:
        parts.insert(1, f"{circuit.plate.volts.text} V")
    return ", ".join(parts) or "plate not read yet"
