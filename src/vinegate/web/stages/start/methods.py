"""The comparison on the start sheet: one row a way to start, and the strip under it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Final

from markupsafe import Markup

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, Verdict
from vinegate.core.numbers import write
from vinegate.core.plan import Plan
from vinegate.core.rules.sets import rule_set
from vinegate.core.start import ways
from vinegate.core.start.compare import MethodRow
from vinegate.core.start.eligible import said_or_usual
from vinegate.core.start.trace import Outcome
from vinegate.core.working import Figure
from vinegate.drawing.lanes import lanes
from vinegate.drawing.scene import Scene, svg
from vinegate.drawing.start_strip import place_handle, start_strip
from vinegate.drawing.stop_strip import stop_strip

_BAR_WIDTH: Final = 60
_CLASS_WORDS: Final = {Outcome.HANGS: "hangs", Outcome.STALLS: "stalls"}


def settings() -> dict[str, tuple[str, ...]]:
    """Each way's own facts."""
    return {way.key: way.settings for way in ways.WAYS}


ASKED: Final = (
    "start.speed_control",
    "start.soft_stop",
    "start.reversing",
    "start.on_standby",
    "start.locked_rotor_power_factor",
)
BESIDE: Final = "supply.in_use"
"""Stands beside the ways' heading, where there is another source."""
HEAD: Final = (
    "load.kind",
    "load.power",
    "load.inertia",
    "start.starts_per_hour",
    "start.method",
    "limits.dip",
    BESIDE,
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Bar:
    """A small bar with its limit as a tick, in drawing units."""

    length: float
    tick: float | None
    over: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Method:
    """One way to start, as a row: text ready to be shown, a dash where there is nothing."""

    key: str
    name: str
    setting: str
    current: str
    times: str
    current_bar: Bar | None
    dip: str
    dip_bar: Bar | None
    margin: str
    time: str
    heat: str
    spike: str
    verdict: Verdict
    why: str
    gates: str
    chosen: bool
    recommended: bool


def methods(plan: Plan, circuit: Circuit) -> tuple[Method, ...]:
    """All ways when they could be simulated; else full voltage and wye-delta at the first moment, as far as its machine
    can be told by that.
    """
    if plan.comparison is None:
        told = any(gate.key == "start.dip_full" for gate in plan.gates)
        first = _first_moment(plan, circuit) if told else ()
        return first if any(one.chosen for one in first) else (_not_known(plan, circuit), *first)
    rows = plan.comparison.rows
    most_a = max((row.peak_a or 0.0 for row in rows), default=0.0)
    limit = plan.figure("start.dip_limit")
    most_dip = max([row.dip_pct or 0.0 for row in rows] + [limit.value * 1.25 if limit else 0.0])
    limit_a = plan.comparison.limit_a
    return tuple(
        Method(
            key=row.method,
            name=row.name,
            setting=row.setting,
            current=_number(row.peak_a, 3),
            times="–" if row.times_rated is None else f"{row.times_rated:.1f}",
            current_bar=_bar(row.peak_a, limit_a, max(most_a, limit_a or 0.0), over=_dips_too_low(row.gates)),
            dip="–" if row.dip_pct is None else f"{row.dip_pct:.1f}",
            dip_bar=_bar(row.dip_pct, limit.value if limit else None, most_dip, over=_dips_too_low(row.gates)),
            margin="–" if row.outcome is None else "none" if row.margin_pct is None else f"{row.margin_pct:.0f} %",
            time=_time(row),
            heat="–" if row.heat_pct is None else f"{row.heat_pct:.0f} %",
            spike="–" if row.spike is None else f"{row.spike.most_a:.0f}",
            verdict=row.verdict,
            why=row.why,
            gates="\n".join(f"{gate.verdict}: {gate.name}. {gate.sentence}" for gate in row.gates),
            chosen=row.chosen,
            recommended=row.recommended,
        )
        for row in rows
    )


def _number(value: float | None, digits: int) -> str:
    return "–" if value is None else write(value, digits)


def _time(row: MethodRow) -> str:
    if row.outcome is None:
        return "–"
    return f"{write(row.time_s, 2)} s" if row.time_s is not None else _CLASS_WORDS[row.outcome]


def _dips_too_low(gates: Iterable[Gate]) -> bool:
    return any(gate.key == "start.dip" and gate.verdict is Verdict.FAILS for gate in gates)


def _bar(value: float | None, limit: float | None, largest: float, *, over: bool) -> Bar | None:
    """`over` as its gate says, and not as what is estimated happens to be taken."""
    if value is None or largest <= 0:
        return None
    scale = _BAR_WIDTH / largest
    tick = limit * scale if limit is not None and limit <= largest * 1.001 else None
    return Bar(length=value * scale, tick=tick, over=over)


def _not_known(plan: Plan, circuit: Circuit) -> Method:
    """The way that is said, or usual for the machine, before anything is known of it."""
    way, gate = said_or_usual(circuit), plan.gate("start.dip")
    return Method(
        key=way.key, name=way.name, setting="", current="–", times="–", current_bar=None, dip="–", dip_bar=None,
        margin="–", time="–", heat="–", spike="–", verdict=gate.verdict, why=gate.sentence, gates="", chosen=True,
        recommended=False,
    )  # fmt: skip


def _in_wye(found: Mapping[str, Gate], current: Figure | None) -> Iterator[Gate]:
    """What stands with wye-delta beside what allows it: its dip, or that nothing is known of any way."""
    if current is not None:
        yield found["start.dip_wye"]
    elif found["start.dip_full"].verdict is Verdict.UNKNOWN:
        yield found["start.dip_full"]


def _first_moment(plan: Plan, circuit: Circuit) -> tuple[Method, ...]:
    words = rule_set(plan.rules).words
    found = {gate.key: gate for gate in plan.gates}
    eligible = found.get("wye_delta.eligible")  # not asked of a machine that has no wye
    used = said_or_usual(circuit).key
    ways = [("full-voltage", "full voltage", "full", found["start.dip_full"])]
    if eligible is not None:
        ways.append(("wye-delta", f"{words.wye}-delta", "wye", eligible))
    limit = plan.figure("start.dip_limit")
    full_dip = plan.figure("start.full.dip_board")
    rows = []
    for key, name, prefix, gate in ways:
        current, rated = plan.figure(f"start.{prefix}.current"), plan.figure("plate.current")
        dip = plan.figure(f"start.{prefix}.dip_board")
        if prefix == "wye":
            gate = max((gate, *_in_wye(found, current)), key=lambda one: one.verdict.rank)  # noqa: PLW2901
        fails = found[f"start.dip_{prefix}"].verdict is Verdict.FAILS if dip else False
        largest = max(limit.value * 1.25 if limit else 0.0, full_dip.value if full_dip else 0.0)
        rows.append(
            Method(
                key=key,
                name=name,
                setting="",
                current=_figure(current),
                times=f"{current.value / rated.value:.1f}" if current and rated else "–",
                current_bar=None,
                dip=f"{dip.value:.1f}" if dip else "–",
                dip_bar=_bar(dip.value if dip else None, limit.value if limit else None, largest, over=fails),
                margin="–",
                time="–",
                heat="–",
                spike="–",
                verdict=gate.verdict,
                why=gate.sentence,
                gates="",
                chosen=key == used,
                recommended=False,
            )
        )
    return tuple(rows)


def _figure(figure: Figure | None) -> str:
    return "–" if figure is None else write(figure.value, 3)


def strip_drawing(plan: Plan, *, on_paper: bool = False) -> Markup | None:
    """The strip of the way in use, with its handle on screen; None while nothing could be simulated."""
    scene = strip_scene(plan, on_paper=on_paper)
    return None if scene is None else Markup(svg(scene, "strip-drawing"))  # noqa: S704 - our own drawing


def strip_scene(plan: Plan, *, on_paper: bool) -> Scene | None:
    """What it draws."""
    found = plan.comparison
    if found is None:
        return None
    limit = plan.figure("start.dip_limit")
    text = ""
    if limit is not None and found.limit_a is not None:
        text = f"{write(limit.value, 3)} % dip at {found.buses[0]} is reached at {found.limit_a:.0f} A"
    return start_strip(found, limit_text=text, handle=None if on_paper else place_handle(found))


def lanes_drawing(plan: Plan) -> Markup | None:
    """Boards and heats of the way in use, under its strip."""
    limit = plan.figure("start.dip_limit")
    scene = lanes(plan.comparison, dip_limit_pct=limit.value if limit else None) if plan.comparison else None
    return None if scene is None else Markup(svg(scene, "strip-drawing lanes"))  # noqa: S704 - our own drawing


def stop_drawing(plan: Plan) -> Markup | None:
    """The soft stop against coasting, with its ramp as a handle; None where none is asked for."""
    stop = plan.comparison.soft_stop if plan.comparison else None
    return None if stop is None else Markup(svg(stop_strip(stop), "strip-drawing lanes stop"))  # noqa: S704 - our own


def used(plan: Plan) -> MethodRow | None:
    """The way in use, simulated or not; None without a comparison."""
    return plan.comparison.row(plan.comparison.chosen) if plan.comparison else None
