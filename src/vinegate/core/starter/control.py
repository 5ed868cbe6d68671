"""What feeds the coils: the transformer by what pulls in at once, its devices, and how far its wires may reach."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Final

from vinegate.core.assumed import band_of, preset
from vinegate.core.records import dataclass, replace
from vinegate.core.rules.protocol import Allowed, RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.starter.burdens import Burden, Load
from vinegate.core.starter.facts import Starter
from vinegate.core.starter.logic import Coil
from vinegate.core.tables import load
from vinegate.core.turning import Taken
from vinegate.core.working import Figure, Provenance

LEAST: Final = 0.85
"""Of rated control volts at a coil that is to pull in (IEC 60947-4-1:2018 8.2.1.2), with the primary at 90 %."""
PRIMARY: Final = 0.90
_LETS_GO: Final = 0.20
_SUM: Final = "S_i + S_h: never less than what flows"
_ROOT: Final = "√(S_i² + S_h²): as if at right angles, trade practice"
_EXACT: Final = "|S_i·e^jφ_i + S_h·e^jφ_h|: phasors added"


@dataclass(frozen=True, slots=True, kw_only=True)
class Feed:
    """The control circuit's supply: rated volts, the transformer's impedance in percent, ohms of the run both ways.

    `volts_v` at the coils, `line_v` at the primary. `kilometres` is the run's one way, `capacitance` µF of each.
    `ac` unless the coils are fed by direct current. `neutral_v` from a line to neutral, where there may be one.
    """

    volts_v: float
    line_v: float | None
    hertz: float
    impedance: Taken
    run_ohm: float
    kilometres: float | None
    capacitance: Taken
    ac: bool = True
    transformed: bool = True
    neutral_v: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Control:
    """Loads, the moment that asks most, what is advised, and what was put on the sheet.

    `size_va` is the least usual transformer that holds the coils' volts; None past the largest, and `feed` where the
    control volts are not known. `primary` and `secondary` are what their devices may be rated at most.
    """

    loads: tuple[Load, ...]
    worst: Burden
    feed: Feed | None
    size_va: float | None
    primary: Allowed | None = None
    secondary: Allowed | None = None
    wire_a: float | None = None

    held_va: float = 0.0
    """The most that is held for ever, lamps and others with it."""

    def named(self) -> str:
        """The moment in words."""
        pulls, held = (" and ".join(sorted(tags)) for tags in self.worst)
        return f"{pulls} pulling in" + (f" beside {held}" if held else "")


def control_of(
    sheet: Sheet, rules: RuleSet, facts: Starter, loads: Sequence[Load], burdens: Sequence[Burden], feed: Feed | None
) -> Control:
    """Put it on the sheet."""
    steady = steady_va(facts, loads)
    worst = max((one for one in burdens if one.pulls), key=lambda one: abs(_asked(loads, one, steady)))
    most = max(abs(_parts(loads, one, steady)[1]) for one in burdens)
    whole = Control(loads=tuple(loads), worst=worst, feed=feed, size_va=None, held_va=most)
    pull, held = _parts(loads, worst, steady)
    s_i = sheet.given("pulling_va", "Pulling in at once, at most", "S_i", abs(pull), "VA", source=whole.named(),
                      provenance=_how(loads, worst.pulls))  # fmt: skip
    s_h = sheet.given("held_va", "Held meanwhile, lamps and others too", "S_h", abs(held), "VA",
                      source="its coils, and what is entered", provenance=_how(loads, worst.held))  # fmt: skip
    sheet.work("sum_va", "By arithmetic sum", "S_1", s_i.value + s_h.value, "VA", formula="S_i+S_h",
               inputs=(s_i, s_h), source=_SUM)  # fmt: skip
    sheet.work("root_va", "By the root of squares", "S_2", math.hypot(s_i.value, s_h.value), "VA",
               formula="√(S_i²+S_h²)", inputs=(s_i, s_h), source=_ROOT)  # fmt: skip
    sheet.given(
        "exact_va",
        "By phasors",
        "S_x",
        abs(pull + held),
        "VA",
        source=_EXACT,
        provenance=Provenance.ESTIMATED if s_i.soft or s_h.soft else Provenance.STATED,
    )
    if feed is None or not feed.transformed or not feed.ac:
        return whole
    size = _least_size(rules, feed, loads, burdens, steady)
    if size is not None:
        cite = f"least usual size that leaves {100 * LEAST:.0f} % with the line at {100 * PRIMARY:.0f} %"
        sheet.given("size_va", "Control transformer, at least", "S_T", size, "VA", source=cite,
                    provenance=Provenance.ESTIMATED)  # fmt: skip
    return _devices(sheet, rules, facts, whole, feed, facts.transformer_va or size)


def steady_va(facts: Starter, loads: Sequence[Load]) -> float:
    """Lamps and heaters as drawn, all at once, and what is entered beside them."""
    drawn = sum(one.hold.value for one in loads if one.kind in (Coil.LAMP, Coil.HEATER))
    return drawn + (facts.steady_va or 0.0)


def _how(loads: Sequence[Load], tags: frozenset[str]) -> Provenance:
    guessed = any(not one.pull.given for one in loads if one.tag in tags)
    return Provenance.ESTIMATED if guessed else Provenance.STATED


def _parts(loads: Sequence[Load], burden: Burden, steady: float, pull: float = 1.0) -> tuple[complex, complex]:
    pulling = sum((one.pulling(pull) for one in loads if one.tag in burden.pulls), 0j)
    held = sum((one.holding() for one in loads if one.tag in burden.held), complex(steady, 0.0))
    return pulling, held


def _asked(loads: Sequence[Load], burden: Burden, steady: float) -> complex:
    pulling, held = _parts(loads, burden, steady)
    return pulling + held


def coil_pu(
    feed: Feed, rated_va: float, loads: Sequence[Load], burden: Burden, steady: float,
    *, impedance: float | None = None, pull: float = 1.0, primary: float = PRIMARY,
) -> float:  # fmt: skip
    """Volts at a coil that pulls in, a share of rated: transformer and run in series with admittances at rated volts.

    The transformer gives its rated volts at its rated load (IEC 61558-1:2017 3.3): so much more at none.
    """
    z = (feed.impedance.value if impedance is None else impedance) / 100
    pf = preset("transformer_pf")
    own = z * complex(pf, math.sqrt(1 - pf * pf)) if feed.transformed else 0j
    pulling, held = _parts(loads, burden, steady, pull)
    if not pulling:
        return primary
    far = any(one.remote for one in loads if one.tag in burden.pulls)
    run = feed.run_ohm * rated_va / feed.volts_v**2 if far else 0.0
    y_pull = 1 / (rated_va / pulling.conjugate() + run)
    bus = primary * abs(1 + own) / (1 + own * (y_pull + held.conjugate() / rated_va))
    return abs(bus * y_pull * rated_va / pulling.conjugate())


def least_pu(feed: Feed, rated_va: float, loads: Sequence[Load], burdens: Sequence[Burden], steady: float,
             **taken: float) -> float:  # fmt: skip
    """The least of all moments."""
    return min(coil_pu(feed, rated_va, loads, one, steady, **taken) for one in burdens if one.pulls)


def _least_size(rules: RuleSet, feed: Feed, loads: Sequence[Load], burdens: Sequence[Burden], steady: float
                ) -> float | None:  # fmt: skip
    """The least usual rating at which every coil still pulls in, and that bears what is held for ever."""
    held = max(abs(_parts(loads, one, steady)[1]) for one in burdens)
    for row in load("control_transformer").rows:
        rated = float(row["va"])
        bears = row["set"] == rules.control.series and rated >= held
        if bears and least_pu(feed, rated, loads, burdens, steady) >= LEAST:
            return rated
    return None


def _devices(
    sheet: Sheet, rules: RuleSet, facts: Starter, whole: Control, feed: Feed, rated_va: float | None
) -> Control:
    """Amperes of both sides, and what their devices may be."""
    if rated_va is None or feed.line_v is None:
        return replace(whole, size_va=rated_va)
    provenance = Provenance.STAMPED if facts.transformer_va else Provenance.ESTIMATED
    rated = sheet.given("rated_va", "Control transformer", "S_r", rated_va, "VA", provenance=provenance,
                        source="its plate" if facts.transformer_va else "as advised")  # fmt: skip
    line = sheet.given("primary_v", "Its primary", "U_p", feed.line_v, "V", source="the circuit's board")
    volts = sheet.given("control_v", "Control volts", "U_c", feed.volts_v, "V")
    primary = sheet.work("primary_a", "Its primary amperes", "I_p", rated_va / feed.line_v, "A", formula="S_r/U_p",
                         inputs=(rated, line), source="apparent power over volts")  # fmt: skip
    secondary = sheet.work("secondary_a", "Its secondary amperes", "I_s", rated_va / feed.volts_v, "A",
                           formula="S_r/U_c", inputs=(rated, volts), source="apparent power over volts")  # fmt: skip
    behind = rules.control.secondary(secondary.value)
    ahead = rules.control.primary(rated_va, primary.value, facts.secondary_fuse_a is not None)
    _limit(sheet, "primary_most", "Primary device at most", "I_F1", ahead)
    _limit(sheet, "secondary_most", "Secondary device at most", "I_F2", behind)
    size = next((row for row in load("control_wire").rows if row["size"] == facts.run_size), None)
    return replace(
        whole, size_va=rated_va, primary=ahead, secondary=behind, wire_a=float(size["alone_a"]) if size else None,
    )  # fmt: skip


def _limit(sheet: Sheet, key: str, name: str, symbol: str, allowed: Allowed) -> Figure | None:
    if allowed.amps is None:
        return None
    return sheet.given(key, name, symbol, allowed.amps, "A", source=allowed.cite, provenance=Provenance.TABLE)


def fuse_within(rules: RuleSet, allowed: Allowed | None) -> float | None:
    """The largest usual rating that is allowed."""
    if allowed is None or allowed.amps is None:
        return None
    fits = [float(row["amps"]) for row in load("control_fuse").rows if row["set"] == rules.control.series]
    return max((amps for amps in fits if amps <= allowed.amps * (1 + 1e-9)), default=None)


def feed_of(
    rules: RuleSet, facts: Starter, volts_v: float | None, line_v: float | None, hertz: float,
    neutral_v: float | None = None,
) -> Feed | None:  # fmt: skip
    """None where the control volts are not known."""
    if volts_v is None:
        return None
    size = facts.run_size or rules.control.wire
    row = load("control_wire").find(size=size)
    kilometres = None if facts.run_m is None else facts.run_m / 1000
    loop = 2 * (kilometres or 0.0) * float(row["ohm_km"]) if row else 0.0
    return Feed(
        volts_v=volts_v, line_v=line_v, neutral_v=neutral_v, hertz=hertz, run_ohm=loop, kilometres=kilometres,
        impedance=_taken("transformer_z", "transformer impedance", facts.transformer_z_pu, "transformer_z",
                         "%", 100),
        capacitance=_taken("run_capacitance", "capacitance of the run", facts.run_capacitance, "run_capacitance",
                           "µF", 1e6),
        ac=facts.control_from != "dc", transformed=facts.control_from in (None, "transformer"),
    )  # fmt: skip


def _taken(path: str, label: str, given: float | None, assumed: str, unit: str, times: float) -> Taken:
    if given is not None:
        value = times * given
        return Taken(path=f"starter.{path}", label=label, unit=unit, value=value, low=value, high=value, given=True)
    low, high = (times * end for end in band_of(assumed))
    return Taken(path=f"starter.{path}", label=label, unit=unit, value=times * preset(assumed), low=low, high=high,
                 how="assumed")  # fmt: skip


def most_km(feed: Feed, hold_va: float, per_km_uf: float) -> float:
    """How far a run may reach before its capacitance holds a coil in: `C·l ≤ S/((1+1/u_d)·ω·U²)`.

    A coil lets go surely only at a fifth of its volts (IEC 60947-4-1:2018 8.2.1.2); buttons on three wires have the
    capacitance twice.

    >>> taken = Taken(value=0.3, low=0.2, high=0.6)
    >>> feed = Feed(volts_v=230, line_v=400, hertz=50, impedance=taken, run_ohm=0, kilometres=None, capacitance=taken)
    >>> round(2 * 0.3 * most_km(feed, 10, 0.3), 4)  # µF: the usual 500·S/U² is 0.0945
    0.1003
    """
    return hold_va / ((1 + 1 / _LETS_GO) * 2 * math.pi * feed.hertz * feed.volts_v**2) / (2e-6 * per_km_uf)
