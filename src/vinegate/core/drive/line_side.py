"""What the drive draws from its line: fundamental, harmonics by the reactance ahead of it, volts they leave."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Final

import numpy as np

from vinegate.core.drive.duty import Row
from vinegate.core.drive.facts import Drive
from vinegate.core.drive.losses import Input
from vinegate.core.drive.need import Need, phases_of
from vinegate.core.drive.volts import CHOKES_PU, USUAL_CHOKE, Volts, choke_size
from vinegate.core.facts import Circuit, Job
from vinegate.core.grade import Gate, at_most, check, confirm, from_answer, on_site, rule
from vinegate.core.numbers import write
from vinegate.core.records import dataclass, replace
from vinegate.core.remedy import either
from vinegate.core.rules import RuleSet
from vinegate.core.tables import load
from vinegate.core.turning import Taken, Turns
from vinegate.core.working import Provenance

ORDERS: Final = (5, 7, 11, 13, 17, 19)
_DC_CHOKE: Final = {5: 0.85, 7: 0.65}
_DC_WHOLE: Final = 0.65
_DC_ELEVENTH: Final = 8.7
_BAND: Final = 4.0
_CLASS_2: Final = 8.0
_LEAST_FAULT: Final = (
    1.1  # the fault current is the largest, with the voltage factor; the volts are distorted by the least
)
_NEAR_ORDER: Final = 0.1
_MOST_TIMES: Final = 10.0  # what the resistance of supply and load leaves at resonance; assumed


@dataclass(frozen=True, slots=True, kw_only=True)
class LineSide:
    """At the point that draws most: fundamental, rms, harmonics in amperes by order, THD in per cent with its band.

    `fault_a` at the board; `others_a` of other drives are counted with it, arithmetically, in `together_a`.
    """

    fundamental_a: float
    rms_a: float
    orders: tuple[int, ...]
    harmonics_a: tuple[float, ...]
    together_a: tuple[float, ...]
    thd_pct: float
    thd_low: float
    thd_high: float
    power_factor: float
    fault_a: float | None
    volts_v: float
    limits_pct: tuple[float | None, ...] = ()
    """Of each order, in per cent of the fundamental; None where nothing bounds it."""
    one_phase: bool = False
    """Whether it is fed by one phase: its third harmonic, that is none of the orders, is then the largest."""
    island: bool = False
    """Whether it runs on the standby generator, with no public supply beyond."""
    capacitors_var: float = 0.0
    """On the board, without reactors: as said of the drive's line, else as the board has them."""

    lessened_by: tuple[str, ...] = ("a filter",)
    """What makes less of them, beside what stands there."""

    def remedy(self, first: str = "") -> str:
        """What helps, what helps first ahead of it."""
        return either(first, *self.lessened_by)

    @property
    def resonates_at(self) -> float | None:
        """The order at which the board's capacitors resonate with the supply, `√(S_sc/Q_c)`; None without any."""
        if not self.capacitors_var or self.fault_a is None:
            return None
        return math.sqrt(math.sqrt(3) * self.volts_v * self.fault_a / self.capacitors_var)

    def times(self, order: int) -> float:
        """So much more the volts of an order are by the capacitors: `1/|1 − (h/h_r)²|`, at resonance held by losses."""
        at = self.resonates_at
        return 1.0 if at is None else 1 / max(abs(1 - (order / at) ** 2), 1 / _MOST_TIMES)

    def taken(self, share: float, *, most: float = 1.0) -> Taken:
        """A part of its harmonics with the band of the whole; up to `most` times as much by what they flow into."""
        low, high = (end / max(self.thd_pct, 1.0) for end in (self.thd_low, most * self.thd_high))
        return Taken(
            label="its harmonics", value=share, low=share * low, high=share * high, how="estimated", sense=-1
        )  # fmt: skip


def spectrum(ahead_pct: float, *, dc_pct: float = 0.0) -> tuple[dict[int, float], float]:
    """Harmonics and THD of a six-pulse rectifier, per cent of its fundamental, by the reactance ahead of it.

    A choke in the bus counts about 0.65 of one ahead for the whole, more for the 5th, hardly for those above.
    Between the rows by the logarithm of the reactance; beyond them the ends.

    >>> spectrum(3)[0][5], spectrum(3)[1], round(spectrum(0.5, dc_pct=2)[1])
    (37.0, 41.0, 54)
    """
    rows = load("drive_spectrum").rows
    x = np.log([float(row["x"]) for row in rows])

    def at(column: str, reactance: float) -> float:
        place = math.log(min(max(reactance, 0.5), 8.0))
        return float(np.interp(place, x, [float(row[column]) for row in rows]))

    found = {order: at(str(order), ahead_pct + _DC_CHOKE.get(order, _DC_WHOLE) * dc_pct) for order in ORDERS}
    if dc_pct:
        for order in ORDERS[2:]:
            found[order] = min(_DC_ELEVENTH * 11 / order, at(str(order), ahead_pct))
    return found, at("thd", ahead_pct + _DC_WHOLE * dc_pct)


def line_side_of(need: Need, volts: Volts, rows: Sequence[Row], inputs: Sequence[Input]) -> LineSide:
    """Put it on the sheet."""
    sheet = need.sheet
    most = max(inputs, key=lambda one: one.line_w)
    watts = sheet.given("line_kw", "Drawn from the line at most", "P_L", most.line_w / 1000, "kW",
                        provenance=Provenance.ESTIMATED, source="shaft, motor's and drive's losses")  # fmt: skip
    line, displacement = volts.ahead.line, volts.ahead.displacement
    root, said = phases_of(need)
    fundamental = sheet.work("input_a", "Input current there, fundamental", "I_1",
                             1000 * watts.value / (root * line.value * displacement.value), "A",
                             formula=f"1000·P_L/({said}U·cosφ_1)", inputs=(watts, line, displacement),
                             source=f"P = {said}U·I·cosφ")  # fmt: skip
    shares, thd, low, high, source = _shares(need, volts, fundamental.value)
    thd_figure = sheet.given("thd", "Harmonics of that current, together", "THD", thd, "%",
                             provenance=Provenance.ESTIMATED, source=source,
                             note=f"Between {low:.0f} and {high:.0f} %: the supply's reactance decides.")  # fmt: skip
    rms = sheet.work(
        "input_rms",
        "Input current, rms",
        "I_in",
        fundamental.value * math.hypot(1, thd / 100),
        "A",
        formula="I_1·√(1+(THD/100)²)",
        inputs=(fundamental, thd_figure),
        source="sum of squares",
    )
    factor = sheet.work(
        "true_pf", "Power factor with the harmonics", "λ", displacement.value / math.hypot(1, thd / 100), "",
        formula="cosφ_1/√(1+(THD/100)²)", inputs=(displacement, thd_figure), source="definition",
    )  # fmt: skip
    own = tuple(fundamental.value * shares[order] / 100 for order in ORDERS)
    others = need.facts.others_a or 0.0
    together = tuple(mine + others * shares[order] / 100 for order, mine in zip(ORDERS, own, strict=True))
    side = LineSide(
        fundamental_a=fundamental.value, rms_a=rms.value, orders=ORDERS, harmonics_a=own, together_a=together,
        thd_pct=thd, thd_low=low, thd_high=high, power_factor=factor.value, fault_a=need.fault_a, volts_v=need.line_v,
        one_phase=need.facts.one_phase, island=need.job.on_standby,
        capacitors_var=capacitors_on(need.job, need.circuit, need.facts), lessened_by=_lessened_by(need.facts),
    )  # fmt: skip
    return limited(side, need.rules, need.facts)


def _lessened_by(facts: Drive) -> tuple[str, ...]:
    """A choke where there is none, more pulses where there may be; a filter always."""
    if facts.front_end == "active":
        return ("a filter",)
    choke = "a larger choke" if facts.choke in ("ac", "dc") else "a choke"
    front = "an active front end" if facts.front_end == "18" else "a front end of more pulses"
    return choke, front, "a filter"


def limited(side: LineSide, rules: RuleSet, facts: Drive) -> LineSide:
    """With the rule set's limits, where they are of its orders and there is a common coupling."""
    limits = {} if side.one_phase or side.island else rules.harmonic_limits(facts, side)
    return replace(side, limits_pct=tuple(limits.get(order) for order in ORDERS))


def _shares(need: Need, volts: Volts, fundamental_a: float) -> tuple[dict[int, float], float, float, float, str]:
    facts = need.facts
    kind = "one" if facts.one_phase and facts.front_end != "active" else facts.front_end or "6"
    row = load("drive_front_end").find(kind=kind)
    if row is not None:
        shares = {order: float(row[str(order)]) for order in ORDERS}
        return shares, float(row["thd"]), float(row["thd_low"]), float(row["thd_high"]), load("drive_front_end").source
    rated = volts.ahead.input_rated.value
    part = fundamental_a / rated if rated else 1.0
    where = facts.choke if facts.choke in ("ac", "dc") else None
    if where == "dc":
        said = facts.choke_size_pu is not None
        need.sheet.given("choke_dc", "Reactance of a choke in its bus", "x_dc", 100 * choke_size(facts), "%",
                         provenance=Provenance.STATED if said else Provenance.ASSUMED,
                         source="entered" if said else USUAL_CHOKE, fact="drive.choke_size")  # fmt: skip

    def behind(size_pu: float) -> tuple[dict[int, float], float]:
        ahead = volts.ahead.source_pu + (size_pu if where == "ac" else 0.0)
        return spectrum(100 * part * ahead, dc_pct=100 * part * size_pu if where == "dc" else 0.0)

    shares, thd = behind(choke_size(facts))
    open_size = where is not None and facts.choke_size_pu is None
    ends = [behind(size)[1] for size in (CHOKES_PU[0], CHOKES_PU[2])] if open_size else [thd]
    spread = _BAND if facts.choke is not None else 3 * _BAND  # many drives have a choke inside that nobody has named
    return shares, thd, max(min(ends) - spread, 0.0), max(ends) + _BAND, load("drive_spectrum").source


def harmonic_gates(rules: RuleSet, facts: Drive, side: LineSide) -> list[Gate]:
    """Currents by the rule set at the common coupling, which an island on its generator has not; volts on the board
    by the class of an industrial supply. Fed by one phase it has other orders, the third first: by its maker's data.
    """
    if side.one_phase:
        text = "Fed by one phase it draws the third harmonic most of all: by its maker's data."
        source = "single-phase bridge"
        return [confirm("drive.harmonic_current", "Harmonic currents of its input", False, text, source)]
    found = [] if side.island else list(rules.harmonics(facts, side))
    if (volts := _volts_gate(side)) is not None:
        found.append(volts)
    if (near := _resonance(side)) is not None:
        found.append(near)
    return found


def _volts_gate(side: LineSide) -> Gate | None:
    """`U_h = h·I_h/I_sc`: a reactive source, times what capacitors make of it; 8 % in all on the plant's own board."""
    if side.fault_a is None:
        return None
    parts = [side.times(order) * order * amps / side.fault_a * 100
             for order, amps in zip(side.orders, side.together_a, strict=True)]  # fmt: skip
    total = math.sqrt(sum(part**2 for part in parts))
    taken = side.taken(total, most=_LEAST_FAULT)
    largest = side.orders[int(np.argmax(parts))]
    counted = ", its capacitors counted" if side.capacitors_var else ""
    text = f"The board's volts are distorted {write(total, 2)} %{counted}, most by the {largest}th; "
    text += f"{_CLASS_2:g} % are borne."
    return at_most(
        "drive.harmonic_volts",
        "Harmonic volts on the board",
        total,
        _CLASS_2,
        sentence=text,
        unit="%",
        source="IEEE 519:2022 table 1; IEC 61000-2-4 class 2; U_h = h·I_h/I_sc",
        remedy=side.remedy(),
        rests=(taken,),
        room=lambda at: _CLASS_2 - at,
    )


def _resonance(side: LineSide) -> Gate | None:
    """Whether the board's capacitors resonate with the supply near one of the drive's harmonics."""
    order, name, source = side.resonates_at, "Capacitors do not resonate", "h = √(S_sc/Q_c), a reactive supply"
    if order is None:
        return None
    near = min(ORDERS, key=lambda one: abs(order - one))
    text = f"With {write(side.capacitors_var / 1000, 3)} kvar the board resonates at the {write(order, 3)}th harmonic"
    if abs(order - near) / near > _NEAR_ORDER:
        return rule("drive.resonance", name, True, f"{text}: none of the drive's is near.", source)
    turns = Turns(
        path="drive.capacitors", label="capacitors on the board", passes="with reactors in series, or another size"
    )
    return check("drive.resonance", name, turns, f"{text}, close to the {near}th.", source,
                 remedy="Detuning reactors ahead of the capacitors.")  # fmt: skip


def capacitors_on(job: Job, circuit: Circuit, facts: Drive) -> float:
    """Reactive power of the capacitors on the circuit's board, var; none where nothing is said."""
    if facts.capacitors is not None:
        return facts.capacitors
    board = job.board(circuit.wiring.board) or job.main_board
    return board.capacitor_power or 0.0


def coupling_open(key: str, name: str, source: str) -> Gate:
    """While nothing is said of the common coupling: it is the whole plant's, to be confirmed with the utility."""
    text = (
        "The limits hold where the public supply may serve others, not at the drive: give fault current "
        "and demand there, "
        "or confirm them for the plant as a whole."
    )
    return from_answer(key, name, on_site(text, source))
