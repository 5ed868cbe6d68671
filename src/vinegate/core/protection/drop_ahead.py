"""Volts lost while running on the whole way: in the run and in the feeders ahead of it."""

from __future__ import annotations

import math
from collections.abc import Callable

from vinegate.core.facts import number_of
from vinegate.core.grade import Gate, at_most
from vinegate.core.protection.feeder_parts import other_a
from vinegate.core.protection.need import Need
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.supply.tree import ASSUMED_LOAD_PF, Leg, board_name
from vinegate.core.system_volts import per_line
from vinegate.core.turning import Taken, more
from vinegate.core.working import Figure, Provenance


@dataclass(frozen=True, slots=True, kw_only=True)
class Own:
    """The run's own drop, with the power factor, the volts and the lengths of conductor that it is worked with: √3 of
    three phases, 2 of one, whose current comes back by another line or a neutral as thick.
    """

    drop: Figure
    factor: Figure
    volts: Figure
    taken: Taken
    ways: float


def with_feeders(sheet: Sheet, need: Need, rules: RuleSet, own: Own) -> tuple[Gate, ...]:
    """The run's drop and that of each feeder behind the last transformer, whose taps make up for what is ahead."""
    legs, current = _legs(need), need.drawn
    if not legs or current is None:
        return ()
    figures, lost = [own.drop], [_lost(need, own)]
    for leg in legs:
        figure, of = _feeder(sheet, need, own, current, leg)
        figures.append(figure)
        lost.append(of)
    total = sheet.work(
        "drop_total", "Drop while running, with its feeders", "u_t", sum(one.value for one in figures), "%",
        formula="+".join(one.symbol for one in figures), inputs=figures, source="in series",
    )  # fmt: skip
    least, most = rules.practice.drop_total_pct
    network = Taken(label="whose network it hangs on", value=least, low=least, high=most)
    asked = f"{least:g} % recommended" + (f", {most:g} % behind a supply of one's own." if network.wide else ".")
    return (
        at_most(
            "protection.drop_total", "Drop with its feeders", total.value, least, unit="%",
            sentence=f"{total.value:.1f} % with its feeders and what runs on them, {asked}",
            source=rules.practice.drop_total_source, rests=(own.taken, *(more(network) if network.wide else ())),
            room=lambda factor, limit=least: limit - sum(of(factor) for of in lost),
            remedy="A larger feeder, or a larger size here.",
        ),
    )  # fmt: skip


def _legs(need: Need) -> tuple[Leg, ...]:
    legs = need.feed.legs if need.feed is not None else ()
    last = max((place for place, leg in enumerate(legs) if leg.transformer), default=-1)
    return legs[last + 1 :]


def _lost(need: Need, own: Own) -> Callable[[float], float]:
    """The run's own drop, %, with another power factor."""
    run, current = need.run, need.drawn
    assert run is not None
    assert current is not None
    times = own.ways * current.value / own.volts.value / 10
    return lambda factor: times * (run.r.value * factor + run.x.value * _sine(factor))


def _sine(factor: float) -> float:
    return math.sqrt(max(1 - factor**2, 0.0))


def _feeder(sheet: Sheet, need: Need, own: Own, current: Figure, leg: Leg) -> tuple[Figure, Callable[[float], float]]:
    """One feeder's drop by this motor and what runs beside it, and the same with another power factor of the motor."""
    mark, r, x, u, pf = number_of(leg.key), leg.run.r, leg.run.x, own.volts, own.factor
    ways, others = own.ways, _ways_beside(need, leg)
    board = need.job.board(leg.key)
    said = board.load_power_factor if board is not None else None
    beside = sheet.given(f"beside_{mark}", f"What runs on {board_name(need.job, leg.key)} beside it", f"I_x{mark}",
                         other_a(need.job, leg.key, leg.volts_v), "A", source="entered on its boards")  # fmt: skip
    angle = sheet.given(
        f"beside_pf_{mark}", "Its power factor", f"pf_x{mark}", said or ASSUMED_LOAD_PF, "",
        provenance=Provenance.STATED if said else Provenance.ASSUMED, source="entered" if said else "usual",
        fact=f"{leg.key}.load_power_factor",
    )  # fmt: skip

    def lost(factor: float) -> float:
        along = ways * current.value * factor + others * beside.value * angle.value
        across = ways * current.value * _sine(factor) + others * beside.value * _sine(angle.value)
        return (along * r.value + across * x.value) / u.value / 10

    one, other = f"{_said(ways)}{current.symbol}", f"{_said(others)}{beside.symbol}"

    figure = sheet.work(
        f"drop_feeder_{mark}", f"In the feeder of {board_name(need.job, leg.key)}", f"u_{mark}", lost(pf.value), "%",
        formula=f"(({one}·pf+{other}·{angle.symbol})·{r.symbol}"
                f"+({one}·√(1−pf²)+{other}·√(1−{angle.symbol}²))·{x.symbol})/U_b/10",
        inputs=(current, pf, beside, angle, r, x, u), source="definition; at rated current",
    )  # fmt: skip
    return figure, lost


def _ways_beside(need: Need, leg: Leg) -> float:
    """Of balanced load beside it: between two lines √3 times what one conductor loses, 2 on a supply of two lines; its
    neutral carries nothing.
    """
    if need.neutral:
        return 1.0
    return 3**0.5 if per_line(leg.volts_v) > 1 else 2.0


def _said(ways: float) -> str:
    return {1.0: "", 2.0: "2·"}.get(ways, "√3·")
