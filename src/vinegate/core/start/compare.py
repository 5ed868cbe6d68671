"""All ways to start side by side: what each does, whether it passes, which to use, why not the others."""

from __future__ import annotations

import math
from collections.abc import Sequence

from vinegate.core.arrays import Array
from vinegate.core.facts import Circuit
from vinegate.core.grade import Answer, Gate, Kind, Verdict, worst_of
from vinegate.core.numbers import write
from vinegate.core.records import dataclass, replace
from vinegate.core.rules import Words
from vinegate.core.start import ways
from vinegate.core.start.asked import Asked
from vinegate.core.start.changeover import ChangeOver
from vinegate.core.start.detail import Detail, listed, thinned
from vinegate.core.start.judge_heat import heats_of
from vinegate.core.start.judge_volts import deepest_dip_pu
from vinegate.core.start.laden import Laden
from vinegate.core.start.plant import Plant
from vinegate.core.start.read_off import bus_volts, changes_at, first_heat, first_torque, least_terminal, stages
from vinegate.core.start.reclosure import Spike
from vinegate.core.start.relay import RelayHeat
from vinegate.core.start.simulation import MethodRun
from vinegate.core.start.soft_stop import SoftStop
from vinegate.core.start.trace import Course, Outcome
from vinegate.core.turning import Turns
from vinegate.core.wording import inside

STRIP_POINTS = 64


@dataclass(frozen=True, slots=True, kw_only=True)
class Strip:
    """A course for drawing: seconds, speed of synchronous, line amperes, volts at its board, main board, terminals."""

    time_s: tuple[float, ...]
    speed_pu: tuple[float, ...]
    line_a: tuple[float, ...]
    board_pu: tuple[float, ...]
    main_pu: tuple[float, ...]
    main_pu_before: float
    terminal_pu: tuple[float, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class MethodRow:
    """One way to start. Shares in percent, None where not asked; `why` is the sentence beside it, `needs` its lacks."""

    method: str
    name: str
    setting: str
    value: float | None
    verdict: Verdict
    why: str
    gates: tuple[Gate, ...] = ()
    outcome: Outcome | None = None
    peak_a: float | None = None
    motor_a: float | None = None
    times_rated: float | None = None
    dip_pct: float | None = None
    bus_volts_pct: tuple[tuple[float, float, float], ...] = ()
    """Volts of each bus just before, at the lowest, and once it has settled, of its nominal."""
    start_torque_pct: float | None = None
    margin_pct: float | None = None
    time_s: float | None = None
    heat_pct: float | None = None
    heat_j: float | None = None
    overload_pct: float | None = None
    """Of what trips a class 10 overload at the earliest, from cold."""
    spike: Spike | None = None
    change: ChangeOver | None = None
    changes_at_s: float | None = None
    """When its one change-over comes; None where there is none, or several."""
    stages: tuple[tuple[str, float], ...] = ()
    """The connections before its last, by their keys, each with the moment at which it ends."""
    strip: Strip | None = None
    order: int = 99
    loss_share: float = 0.0
    harmonics: bool = False
    terminal_least_pct: float | None = None
    chosen: bool = False
    recommended: bool = False
    turns: Turns | None = None
    needs: tuple[str, ...] = ()
    held_by_limit: bool = False
    held_by_ramp: bool = False
    heats: tuple[float, float] = (1.0, 1.0)
    """Heat of the strongest and the weakest machine that it may be, of that as simulated."""
    load_share: float = 0.0
    """What the load takes of the torque that is left to gain speed: heat goes with `1/(1 − load_share·(p − 1))`, p the
    load's power over that as taken. Nought where its power has no band."""
    motor_share: float | None = None
    """Winding current at rest in its first connection, of the locked-rotor current; None where there is one only."""
    lacks: str = ""
    """What is asked beside starting here, and it does not give: speed control, a soft stop, a start on the standby."""

    @property
    def last_change_s(self) -> float | None:
        """When its last connection begins, s; None where it has one alone."""
        return self.stages[-1][1] if self.stages else self.changes_at_s


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherSource:
    """The same methods on the source that is not in use, in short."""

    name: str
    rows: tuple[tuple[str, float, float, str], ...]
    """Method, line peak in amperes, dip in percent, time or outcome in words."""


LIMITS_PCT = (3.0, 5.0, 10.0, 15.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class AtLimit:
    """Had this been the dip limit, in per cent: how the way in use would stand, and the least dear that would pass."""

    limit_pct: float
    verdict: Verdict
    least_dear: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Comparison:
    """Rows with the recommended first. `limit_a` is the line current at which the dip limit is reached."""

    rows: tuple[MethodRow, ...]
    buses: tuple[str, ...]
    chosen: str
    recommended: str | None
    limit_a: float | None
    source: str
    volts_ratio: float
    """The circuit's volts over the main board's: currents times it are the main board's amperes."""
    loop: float = 3**0.5
    """Source impedances that an ampere passes, over its line volts: √3, or 2 where it comes back by another line."""
    dips: tuple[float, float] = (1.0, 1.0)
    """Least and deepest fall of the way in use, over that as taken: by the bands of what is estimated or assumed."""
    other: OtherSource | None = None
    detail: Detail | None = None
    """The way in use against time; None where it was not simulated."""
    soft_stop: SoftStop | None = None
    """Where one is asked for, whatever starts it."""
    at_limits: tuple[AtLimit, ...] = ()
    """While no dip limit is set: usual ones side by side."""

    def row(self, method: str) -> MethodRow:
        """The row of a method. Raises KeyError."""
        for row in self.rows:
            if row.method == method:
                return row
        raise KeyError(method)


def names_of(words: Words) -> dict[str, str]:
    """Methods in the dialect's words."""
    return {way.key: way.name.replace("wye", words.wye) for way in ways.WAYS}


def row_of(
    plant: Plant, run: MethodRun, gates: tuple[Gate, ...], possible: Answer, before: Array, asked: Asked,
    relay: RelayHeat, words: Words,
) -> MethodRow:  # fmt: skip
    """A method's numbers as a row; the why comes when all are known."""
    course, way = run.course, ways.way_of(run.method)
    laden = Laden(plant, course, asked.load)
    line = course.all("line_a")
    judged = (gate.verdict for gate in gates if gate.kind is not Kind.CONFIRM)
    reaches = course.outcome is Outcome.REACHES
    return MethodRow(
        method=run.method,
        name=names_of(words)[run.method],
        setting=run.setting,
        value=run.value,
        verdict=worst_of([possible.verdict, *judged]),
        why=possible.text,
        gates=gates,
        outcome=course.outcome,
        peak_a=float(line.max()),
        motor_a=float(course.all("motor_a").max()),
        times_rated=float(line.max()) / (run.count * plant.rated_current_a),
        dip_pct=100 * deepest_dip_pu(course, before),
        bus_volts_pct=bus_volts(course, before),
        start_torque_pct=100 * first_torque(course) / plant.rated_torque_nm,
        margin_pct=None if run.margin_pu is None else 100 * run.margin_pu,
        time_s=course.duration_s,
        heat_pct=100 * course.i2t_s / asked.stall.value if reaches and asked.stall and not run.commutator else None,
        heat_j=course.heat_j if reaches else None,
        overload_pct=relay.pct("10") if reaches else None,
        spike=run.spike, change=run.change, changes_at_s=changes_at(run), stages=stages(course),
        strip=_strip(course, plant, before),
        order=way.order, loss_share=way.loss_share, harmonics=way.electronic,
        terminal_least_pct=100 * least_terminal(course),
        held_by_limit=run.held and not run.ramped,
        held_by_ramp=run.ramped,
        heats=heats_of(laden, asked.promise, ramped=run.ramped) if reaches else (1.0, 1.0),
        load_share=laden.share if reaches and asked.load.power.wide else 0.0,
        motor_share=first_heat(course) if run.changes_at_s or course.changes_s else None,
    )  # fmt: skip


def _strip(course: Course, plant: Plant, before: Array) -> Strip:
    keep = thinned(course, STRIP_POINTS)
    buses = course.all("bus_pu")
    return Strip(
        time_s=listed(course.all("time_s")[keep], 4),
        speed_pu=listed(course.all("speed_pu")[keep], 4),
        line_a=listed(course.all("line_a")[keep], 1),
        board_pu=listed(buses[plant.at][keep], 4),
        main_pu=listed(buses[0][keep], 6),
        main_pu_before=round(float(before[0]), 6),
        terminal_pu=listed(course.all("terminal_pu")[keep], 4),
    )


def not_possible(method: str, possible: Answer, words: Words) -> MethodRow:
    """A method that this plate does not allow, or of which that is not known."""
    return MethodRow(
        method=method,
        name=names_of(words)[method],
        setting="",
        value=None,
        verdict=possible.verdict,
        why=possible.text,
        needs=possible.needs,
        turns=possible.turns,
        order=ways.way_of(method).order,
    )


def limit_current_a(plant: Plant, dip_pu: float | None, angle: complex) -> float | None:
    """Line current of this angle at which the main board's dip reaches the limit: `|1 − z·I| = 1 − d`, solved for I."""
    if dip_pu is None:
        return None
    opened = complex(plant.seen.open_pu[0].flat[0])
    z = complex(plant.seen.transfer_pu[0].flat[0]) * angle / abs(angle) / opened
    a, b, c = abs(z) ** 2, -2 * z.real, 1 - (1 - dip_pu) ** 2
    root = b * b - 4 * a * c
    if root < 0 or a == 0:
        return None
    return (-b - math.sqrt(root)) / (2 * a) * plant.amps_per_pu


def meets_needs(method: str, circuit: Circuit) -> str:
    """Empty when the method gives what is asked of the drive; else what it lacks."""
    start = circuit.start
    if start.speed_control == "yes" and not ways.way_of(method).speed_control:
        return "Speed control is asked: only a drive gives it."
    if start.soft_stop == "yes" and not ways.way_of(method).soft_stop:
        return "A soft stop is asked."
    return ""


def compare(
    rows: Sequence[MethodRow], circuit: Circuit, plant: Plant, *, limit_a: float | None, source: str, words: Words
) -> Comparison:
    """Pick, sort, and say why. Recommended is the cheapest that meets the needs, surely gets away and surely keeps the
    supply's limits; then the cheapest that does once a fact is settled; if none does, in use is one that meets the
    needs and fails nowhere, and else what fails of it has to be mended.
    """
    full = next((row for row in rows if row.method == ways.USUAL.key), None)
    passing = [row for row in rows if _does(row)]
    sure = [row for row in passing if settles(row, full)]
    best = min(sure or passing, key=lambda row: row.order, default=None)
    chosen = circuit.start.method or (best.method if best else _at_least(rows))
    said = [
        replace(
            row,
            why=_why(row, best, circuit, full),
            chosen=row.method == chosen,
            recommended=best is not None and row.method == best.method,
        )
        for row in rows
    ]
    said.sort(key=lambda row: (not row.recommended, _rank(row), row.order))
    buses = plant.network.buses
    return Comparison(
        rows=tuple(said),
        buses=tuple(bus.name for bus in buses),
        chosen=chosen,
        recommended=best.method if best else None,
        limit_a=limit_a,
        source=source,
        volts_ratio=plant.board_v / buses[0].volts_v,
        loop=plant.loop,
    )


def _at_least(rows: Sequence[MethodRow]) -> str:
    """Of ways that can be run and do what is asked beside starting the cheapest that fails nowhere, if only a fact is
    missing of it; else the cheapest; the usual one where none does.
    """
    able = [row for row in rows if row.outcome is not None and not row.lacks]
    best = min(able, key=lambda row: (*_short_of(row), row.order), default=None)
    return best.method if best is not None else ways.USUAL.key


def _short_of(row: MethodRow) -> tuple[bool, bool]:
    """Whether it fails, or does not surely get away."""
    fails = row.verdict is Verdict.FAILS or row.outcome is not Outcome.REACHES
    return fails, not fails and not _gets_away(row)


# What a way must surely do before a dearer one is not looked at; heat, class and starts an hour hang on the machine.
_SURELY = ("start.torque", "start.dip", "start.terminals", "start.utility", "start.contactor")
_MARKEDLY = 0.9  # of full voltage's peak: a way that takes more of it buys little; assumed


def _does(row: MethodRow) -> bool:
    """Brings the load to speed, gives what is asked of the drive, and fails nowhere."""
    return row.outcome is Outcome.REACHES and row.verdict.usable and not row.lacks


def settles(row: MethodRow, full: MethodRow | None) -> bool:
    """Whether no way dearer than this one need be looked at to say which is the least dear that does."""
    return _does(row) and _gets_away(row) and _worth(row, full)


def _worth(row: MethodRow, full: MethodRow | None) -> bool:
    """Whether it takes markedly less than full voltage, where that would do once a fact is settled."""
    if full is None or row.method == full.method or not _does(full):
        return True
    return not row.peak_a or not full.peak_a or row.peak_a < _MARKEDLY * full.peak_a


def _gets_away(row: MethodRow) -> bool:
    return all(gate.verdict is Verdict.PASSES for gate in row.gates if gate.key in _SURELY)


def _rank(row: MethodRow) -> int:
    """Those that run before those that cannot be run; among them as they pass."""
    rank = {Verdict.PASSES: 0, Verdict.CHECK: 1, Verdict.UNKNOWN: 2, Verdict.FAILS: 3}
    return 9 if row.outcome is None else rank[row.verdict]


_GATE_ORDER = ("start.torque", "start.dip", "start.terminals", "start.trip", "start.heat", "start.class")


def _why(row: MethodRow, best: MethodRow | None, circuit: Circuit, full: MethodRow | None) -> str:
    if row.outcome is None:
        return row.why
    failed = [gate for gate in row.gates if gate.verdict is Verdict.FAILS]
    failed.sort(key=lambda gate: _GATE_ORDER.index(gate.key) if gate.key in _GATE_ORDER else 9)
    if failed:
        return f"{failed[0].sentence} {row.why}".strip()
    if row.lacks:
        return row.lacks
    if best is not None and row.method == best.method:
        return _praise(row, full)
    tail = f" {row.why}" if row.why else ""
    if best is None:
        unsure = next((gate for gate in row.gates if gate.verdict in (Verdict.UNKNOWN, Verdict.CHECK)), None)
        return (unsure.sentence if unsure else "Does not pass.") + tail
    return f"{_against(row, best, circuit, full)}{tail}"


def _praise(row: MethodRow, full: MethodRow | None) -> str:
    look = next((gate for gate in row.gates if gate.verdict is Verdict.CHECK), None)
    again = f" To check: {look.sentence}" if look else ""
    if row.method == ways.USUAL.key:
        good = "Passes every gate" if row.verdict is Verdict.PASSES else "Can pass"
        return f"{good}: nothing dearer is needed.{again}"
    less = ""
    if full is not None and full.peak_a and row.peak_a:
        less = f", {100 * (1 - row.peak_a / full.peak_a):.0f} % less than full voltage"
    good = "passes" if row.verdict is Verdict.PASSES else "can pass"
    return f"Least dear that {good}{less}; needs {ways.way_of(row.method).needs}.{again}"


def _against(row: MethodRow, best: MethodRow, circuit: Circuit, full: MethodRow | None) -> str:
    """Why not, for one that passes too."""
    parts = []
    unsure = next((gate for gate in row.gates if gate.key in _SURELY and gate.verdict is Verdict.CHECK), None)
    if unsure is not None and row.order < best.order:
        return unsure.sentence
    doubtful = next((gate for gate in row.gates if gate.verdict is not Verdict.PASSES), None)
    stands = "Passes" if doubtful is None else f"To check: {inside(doubtful.name)}"
    if row.order > best.order:
        parts.append(f"{stands}; dearer than {best.name}")
    elif not _worth(row, full):
        parts.append(f"{stands}, but takes hardly less than full voltage")
    elif row.order < best.order:
        parts.append(f"{stands}, but is not what is asked" if doubtful is None else stands)
    if ways.way_of(row.method).by_frequency and circuit.start.speed_control != "yes" and circuit.plate.power_w:
        parts.append(f"loses {write(row.loss_share * circuit.plate.power_w / 1000, 2)} kW all day if it only starts")
    elif row.peak_a and best.peak_a and row.peak_a > 1.1 * best.peak_a:
        parts.append(f"{row.peak_a - best.peak_a:.0f} A more on the line")
    return ", ".join(parts) + "."
