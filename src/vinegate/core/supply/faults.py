"""Fault currents, each for what it is for: the largest for ratings, the least for disconnection.

The dip has a third: c = 1, no factors, as everything runs (IEC 60909-0 does not apply to it).
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from vinegate.core.facts import Job, number_of
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.supply.facts import Board, MainBoard
from vinegate.core.supply.network import shares_in_fault
from vinegate.core.supply.source import Source, stated_between_lines
from vinegate.core.supply.tree import Feed, board_name, path_to
from vinegate.core.system_volts import per_line, two_wires
from vinegate.core.tables import load
from vinegate.core.turning import Taken
from vinegate.core.working import Figure, Provenance

_USUAL_TOLERANCE: Final = "10"
_WORKING_OVER_COLD: Final = 1.25  # IEC 60364-5-52:2009 annex G, as the feeders' ohms are worked
MOTORS_TIMES: Final = 4.0  # of rated current, from groups of low-voltage motors in the first cycle (IEEE 3002.3:2018)
_NAMED: Final = 5
_SUBTRANSIENT: Final = (0.55, 1.0)  # X"d over X'd of low-voltage generators


@dataclass(frozen=True, slots=True, kw_only=True)
class Faults:
    """At the circuit's board, kA: the largest, without motors; what is not known of it; `least_factor` is c_min.

    `one_line` are the times of it that flow from one line to ground or neutral, where that is more. `said` are what the
    motors beside it feed that are known, `rests` the kVA of those that are not, with their `shares`, and a generator's
    X"d; `most` is the largest current with them, kA, motors counted.
    """

    largest: Figure
    least_factor: float
    one_line: float
    said: tuple[Figure, ...]
    rests: tuple[Taken, ...]
    shares: tuple[float, ...]
    volts_v: float
    transient_pct: float | None

    def most(self, *facts: float) -> float:
        motors_kva = sum(share * kva for share, kva in zip(self.shares, facts, strict=False))
        fed = sum(one.value for one in self.said) + MOTORS_TIMES * motors_kva / (per_line(self.volts_v) * self.volts_v)
        return self.largest.value * self.one_line * self.subtransient(*facts) + fed

    def subtransient(self, *facts: float) -> float:
        """Times the current behind X'd that a generator gives in the first cycle."""
        last = facts[len(self.shares) :]
        return self.transient_pct / last[0] if self.transient_pct and last else 1.0


def factors(job: Job) -> tuple[float, float]:
    """c_max and c_min of the supply."""
    table = load("voltage_factor")
    row = table.find(tolerance=job.supply.tolerance or _USUAL_TOLERANCE)
    assert row is not None
    return float(row["c_max"]), float(row["c_min"])


def faults_at(sheet: Sheet, job: Job, rules: RuleSet, source: Source | None, feed: Feed | None) -> Faults | None:
    """The largest fault at the circuit's board on the supply's sheet. None while the source or the way is not known."""
    if source is None or feed is None or not feed.known:
        return None
    key = feed.board if feed.board != "main" else "board"
    plain = next((figure for figure in sheet.figures if figure.key == f"supply.fault_at_{key}"), None)
    if plain is None:
        return None
    standby = job.on_standby
    least = 1.0
    if rules.practice.voltage_factors:
        least = factors(job)[1]
        if not standby:
            plain = _with_factors(sheet, job, source, feed)
    shares = _shares(feed)
    motors = _unsaid_motors(job, shares)
    return Faults(
        largest=plain,
        least_factor=least,
        one_line=_one_line(sheet, job, feed.board),
        said=tuple(_said_motors(sheet, job, feed, shares)),
        rests=(*(one for one, _ in motors), *([_subtransient(job)] if standby else [])),
        shares=tuple(share for _, share in motors),
        volts_v=feed.volts_v,
        transient_pct=100 * (job.standby.transient_reactance_pu or 0.0) if standby else None,
    )


def _one_line(sheet: Sheet, job: Job, board: str) -> float:
    """Times the board's fault between lines, or three-phase one, that one from a single line draws; one where less.

    To ground as the sheet has it, where zero-sequence data are given. To the neutral of a system of two lines half of
    its transformer's winding counts: half the volts behind a third of the ohms (IEEE 242-2001 2.7: 1.5 times at its
    terminals); along a feeder the neutral comes back beside the line, `1/(2/I_b − 4/(3·I_t))`. A current that is stated
    of such a system is the largest of any kind (NFPA 70:2023 article 100, available fault current).
    """
    on = {figure.key: figure.value for figure in sheet.figures}
    mark = board if board != "main" else "board"
    here = on.get(f"supply.fault_at_{mark}")
    if not here:
        return 1.0
    if not two_wires(job.volts_at(board)):
        ground = on.get("supply.fault_to_ground" if board == "main" else f"supply.fault_to_ground_{board}", 0.0)
        return max(ground / here, 1.0)
    begins = _transformed(job, board)
    if begins == "board" and stated_between_lines(job.supply):
        return 1.0
    there = on.get(f"supply.fault_at_{begins}", here)
    return max(1 / (2 - 4 / 3 * min(here / there, 1.0)), 1.0)


def _transformed(job: Job, board: str) -> str:
    """The board at whose transformer its system begins."""
    own = [key for key in path_to(job, board) if (on := job.board(key)) is not None and on.transformer_power_va]
    return own[-1] if own else "board"


def _with_factors(sheet: Sheet, job: Job, source: Source, feed: Feed) -> Figure:
    """`c_max·U/(√3·|c_max·Z_Q + K_T·Z_T + Z_L|)`, feeders at 20 °C (IEC 60909-0:2016 6.2, 6.3.3, 7.2)."""
    cite = load("voltage_factor").cite
    c = sheet.given("c_max", "Voltage factor, largest current", "c_max", factors(job)[0], "",
                    provenance=Provenance.TABLE, source=cite)  # fmt: skip
    u = sheet.given("fault_volts_c", "Volts of the circuit's board", "U_b", feed.volts_v, "V")
    on = {figure.key.removeprefix("supply."): figure for figure in sheet.figures}
    scale = (feed.volts_v / source.volts.value) ** 2
    z, terms, inputs = 0j, [], [c, u]
    mark = "" if abs(scale - 1) < 1e-9 else "·(U_b/U)²"
    if "utility_r" in on:
        r, x = on["utility_r"], on["utility_x"]
        z += c.value * complex(r.value, x.value) * scale
        terms.append((f"c_max·{r.symbol}{mark}", f"c_max·{x.symbol}{mark}"))
        inputs += [r, x]
    if "transformer_r" in on:
        k = _transformer_factor(sheet, c, on["transformer_pct"], on["transformer_x_over_r"])
        r, x = on["transformer_r"], on["transformer_x"]
        z += k.value * complex(r.value, x.value) * scale
        terms.append((f"K_T·{r.symbol}{mark}", f"K_T·{x.symbol}{mark}"))
        inputs += [k, r, x]
    if mark:
        inputs.append(source.volts)
    if feed.run is not None:
        r, x = feed.run.r, feed.run.x
        z += complex(r.value / _WORKING_OVER_COLD, x.value)
        terms.append((f"{r.symbol}/{_WORKING_OVER_COLD:g}", x.symbol))
        inputs += [r, x]
    real, imaginary = ("+".join(parts) for parts in zip(*terms, strict=True))
    between = two_wires(job.volts_at(feed.board))
    kind, root, said = ("fault between lines", 2.0, "2") if between else ("three-phase fault", 3**0.5, "√3")
    return sheet.work(
        "fault_largest", f"Largest {kind} at {board_name(job, feed.board)}, for ratings", "I_kmax",
        c.value * u.value / (root * abs(z)), "kA",
        formula=f"c_max·U_b/({said}·√(({real})²+({imaginary})²))", inputs=inputs,
        source="IEC 60909-0:2016 6.2, 6.3.3, 7.2: c_max, network and transformer factors, conductors at 20 °C",
    )  # fmt: skip


def _transformer_factor(sheet: Sheet, c: Figure, pct: Figure, ratio: Figure) -> Figure:
    """`K_T = 0.95·c_max/(1 + 0.6·x_T)` (IEC 60909-0:2016 6.3.3)."""
    root = (1 + ratio.value**2) ** 0.5
    return sheet.work(
        "transformer_factor", "Transformer's correction", "K_T",
        0.95 * c.value / (1 + 0.6 * pct.value / 100 * ratio.value / root), "",
        formula=f"0.95·c_max/(1+0.6·{pct.symbol}/100·{ratio.symbol}/√(1+{ratio.symbol}²))", inputs=(c, pct, ratio),
        source="IEC 60909-0:2016 6.3.3, equation 12a",
    )  # fmt: skip


def _shares(feed: Feed) -> dict[str, float]:
    """By each board's part of the facts the share of its motors' current that reaches the circuit's board."""
    if feed.network is None:
        return {}
    found = shares_in_fault(feed.network, feed.at)
    return {_part(bus.key): share for bus, share in zip(feed.network.buses, found, strict=True)}


def _part(key: str) -> str:
    return "main_board" if key == "main" else key


def _boards(job: Job) -> dict[str, MainBoard | Board]:
    return {"main_board": job.main_board, **job.boards}


def _said_motors(sheet: Sheet, job: Job, feed: Feed, shares: dict[str, float]) -> Iterator[Figure]:
    """What each board's motors feed that are said, kA."""
    said = {part: board.motor_power_va for part, board in _boards(job).items() if board.motor_power_va}
    if not said:
        return
    u = next((one for one in sheet.figures if one.key == f"{sheet.key}.fault_volts_c"), None)
    u = u or sheet.given("fault_volts_c", "Volts of the circuit's board", "U_b", feed.volts_v, "V")
    for part, power_va in said.items():
        key, mark = ("main", "") if part == "main_board" else (part, str(number_of(part)))
        name, share = board_name(job, key), shares.get(part, 1.0)
        kva = sheet.given(f"motors_of_{key}", f"Motors at {name}", f"S_m{mark}", power_va / 1000, "kVA")
        reaches = sheet.given(f"motors_share_{key}", f"Share of {name}'s that reaches the fault", f"w{mark}", share, "",
                              provenance=Provenance.ESTIMATED, source="|Z_a/Z_b|²: from the source to where the ways "
                              "part, over that to the fault")  # fmt: skip
        yield sheet.work(
            f"motors_fault_{key}", f"Motors at {name}, first cycle", f"I_m{mark}",
            MOTORS_TIMES * share * kva.value / (per_line(feed.volts_v) * u.value), "kA",
            formula=f"{MOTORS_TIMES:g}·w{mark}·S_m{mark}/({'' if two_wires(feed.volts_v) else '√3·'}U_b)",
            inputs=(reaches, kva, u),
            source="IEEE 3002.3:2018: groups of low-voltage motors, four times their rated current",
        )  # fmt: skip


def _unsaid_motors(job: Job, shares: dict[str, float]) -> tuple[tuple[Taken, float], ...]:
    """Motors of each board of which nothing is said, kVA: none of its load to all; with the share that reaches here.

    Of many boards the largest are named; what is typed for one settles that one alone.
    """
    boards = _boards(job)
    unsaid = {key: (board.load_power_va or 0.0) / 1000 for key, board in boards.items() if board.motor_power_va is None}
    silent = sorted((key for key, kva in unsaid.items() if kva), key=lambda key: -unsaid[key] * shares.get(key, 1.0))
    found = [(_unsaid(key, unsaid[key], _where(job, key) if len(silent) > 1 else ""), shares.get(key, 1.0))
             for key in silent[:_NAMED]]  # fmt: skip
    rest = sum(unsaid[key] * shares.get(key, 1.0) for key in silent[_NAMED:])
    if rest:
        found.append((_unsaid("", rest, " at the smaller boards"), 1.0))
    return tuple(found)


def _where(job: Job, key: str) -> str:
    return f" at {board_name(job, 'main' if key == 'main_board' else key)}"


def _unsaid(part: str, kva: float, where: str) -> Taken:
    return Taken(
        path=f"{part}.motor_power" if part else "", label=f"motors among the other load{where}", unit="kVA", value=0.0,
        low=0.0, high=kva, how="none said", possible=(0.0, 2e5), sense=-1,
    )  # fmt: skip


def _subtransient(job: Job) -> Taken:
    given, transient = job.standby.subtransient_reactance_pu, job.standby.transient_reactance_pu or 1.0
    value = transient if given is None else given
    low, high = (value, value) if given is not None else (_SUBTRANSIENT[0] * transient, transient)
    return Taken(
        path="standby.subtransient_reactance", label="the generator's X\"d", unit="%", value=100 * value,
        low=100 * low, high=100 * high, how="as X'd" if given is None else "", given=given is not None, sense=1,
    )  # fmt: skip
