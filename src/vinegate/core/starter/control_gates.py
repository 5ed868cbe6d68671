"""Control power judged: only where its supply is described at all; else it is advice."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from vinegate.core.grade import Gate, at_least, at_most, check, rule, unknown
from vinegate.core.numbers import write, write_down, write_up
from vinegate.core.protection.facts import CoilVolts
from vinegate.core.rules.protocol import Allowed, RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.starter.burdens import Burden
from vinegate.core.starter.control import LEAST, PRIMARY, Control, fuse_within, least_pu, most_km, steady_va
from vinegate.core.starter.facts import Starter
from vinegate.core.turning import Taken, Turns

_COIL_LAW: Final = "IEC 60947-4-1:2018 8.2.1.2: closes from 85 % of its volts, opens at 20 % at the latest"


def described(facts: Starter) -> bool:
    """Whether anything is said of the control circuit's supply."""
    said = (facts.control_from, facts.transformer_va, facts.primary_fuse_a, facts.secondary_fuse_a, facts.run_m,
            facts.grounded)  # fmt: skip
    return any(one is not None for one in said)


def control_gates(
    sheet: Sheet, rules: RuleSet, facts: Starter, control: Control, burdens: tuple[Burden, ...], power_w: float | None
) -> list[Gate]:
    """Volts at the coils, devices, wires, hold-in, and the grounded side, of a supply that is described."""
    found: list[Gate | None] = [
        _direct(rules, facts, power_w),
        _from_line(facts, control),
        _of_direct(facts, control),
        _volts(sheet, facts, control, burdens),
        _size(facts, control),
        *_fuses(rules, facts, control),
        _wire(rules, facts, control),
        _hold_in(facts, control),
        _grounding(sheet, rules, facts),
    ]
    return [gate for gate in found if gate is not None]


def _direct(rules: RuleSet, facts: Starter, power_w: float | None) -> Gate | None:
    """Straight from the line: where the rule set asks a transformer, small machines alone may do without."""
    most = rules.control.direct_most_w
    if facts.control_from != "line" or most is None:
        return None
    key, name = "starter.control_direct", "Control circuit without a transformer"
    if power_w is None:
        return unknown(key, name, ("the motor's power",))
    text = f"One motor of {write(power_w / 1000, 3)} kW, fed from the line."
    return rule(key, name, power_w <= most, text, rules.control.direct_source, value=power_w / 1000,
                limit=most / 1000, unit="kW", remedy="A control transformer.")  # fmt: skip


def _from_line(facts: Starter, control: Control) -> Gate | None:
    """Coils fed from the line stand between two of them, or one and neutral: within their own volts."""
    feed = control.feed
    if facts.control_from != "line" or feed is None or feed.line_v is None or isinstance(feed.volts_v, CoilVolts):
        return None
    there = [volts for volts in (feed.line_v, feed.neutral_v) if volts]
    there_fits = any(fits(volts, feed.volts_v) for volts in there)
    listed = " or ".join(write(volts, 3) for volts in there)
    text = f"Coils for {write(feed.volts_v)} V, fed from the line: {listed} V are there."
    return rule("starter.coil_fits", "Coils fit what feeds them", there_fits, text, _COIL_BAND,
                remedy="A control transformer, or coils for the line's volts.")  # fmt: skip


def _of_direct(facts: Starter, control: Control) -> Gate | None:
    """Coils for direct current on what alternates."""
    feed = control.feed
    if feed is None or not isinstance(feed.volts_v, CoilVolts) or facts.control_from not in ("transformer", "line"):
        return None
    what = "the transformer's volts" if facts.control_from == "transformer" else "the line's"
    text = f"Coils for {write(feed.volts_v)} V direct current, fed by {what}, that alternate."
    return rule("starter.coil_fits", "Coils fit what feeds them", False, text, _COIL_BAND,
                remedy="Direct current for the control circuit, or coils for what alternates.")  # fmt: skip


def fits(line_v: float, coil_v: float) -> bool:
    """Whether coils for these volts bear those."""
    low, high = _COIL_BEARS
    return low <= line_v / coil_v <= high


_COIL_BEARS: Final = (0.85, 1.10)
_COIL_BAND: Final = "IEC 60947-4-1:2018 8.2.1.2: from 85 to 110 % of a coil's volts"


def _size(facts: Starter, control: Control) -> Gate | None:
    """What is held for ever is within its rating."""
    if facts.transformer_va is None:
        return None
    text = f"{write(control.held_va, 3)} VA held for ever of {write(facts.transformer_va, 4)} VA."
    return rule("starter.control_size", "Control transformer bears its load", control.held_va <= facts.transformer_va,
                text, "its own rating", remedy="A larger transformer.", value=control.held_va,
                limit=facts.transformer_va, unit="VA")  # fmt: skip


def _volts(sheet: Sheet, facts: Starter, control: Control, burdens: tuple[Burden, ...]) -> Gate | None:
    """The coil that pulls in at the worst moment keeps 85 % while the primary is at 90 %."""
    key, name, feed = "starter.coil_volts", "Coils pull in at the lowest volts", control.feed
    if not (facts.control_from in (None, "transformer") or facts.run_m is not None) or facts.control_from == "dc":
        return None
    if feed is None:
        return unknown(key, name, sheet.needs([("protection.coil", "control volts")], name))
    if feed.transformed and facts.transformer_va is None:
        lacks = sheet.needs([("starter.transformer", "the control transformer's volt-amperes")], name)
        return unknown(key, name, lacks)
    rated, steady = facts.transformer_va or 1000.0, steady_va(facts, control.loads)
    pulls = [one.pull for one in control.loads if one.tag in control.worst.pulls]
    largest = max(pulls, key=lambda one: one.value)
    rests: list[Taken] = [largest, *([feed.impedance] if feed.transformed else [])]

    def volts(pull: float, impedance: float = 0.0) -> float:
        times = pull / largest.value
        return 100 * least_pu(feed, rated, control.loads, burdens, steady, impedance=impedance, pull=times)

    usual = volts(largest.value, feed.impedance.value)
    where = f"{write(facts.transformer_va or 0.0, 4)} VA: " if feed.transformed else ""
    text = f"{where}{write(usual, 3)} % at a coil with {control.named()} and the line at {100 * PRIMARY:.0f} %."
    return at_least(
        key, name, usual, 100 * LEAST, sentence=text, source=_COIL_LAW, unit="%", rests=rests,
        room=lambda *facts_: volts(*facts_) - 100 * LEAST,
        remedy="A larger transformer, a shorter or thicker run, or a relay between.",
    )  # fmt: skip


def _fuses(rules: RuleSet, facts: Starter, control: Control) -> list[Gate]:
    if control.primary is None or control.secondary is None:
        return []
    found = []
    for key, name, given, allowed in (
        ("starter.primary_fuse", "Control transformer's primary device", facts.primary_fuse_a, control.primary),
        ("starter.secondary_fuse", "Control circuit's device", facts.secondary_fuse_a, control.secondary),
    ):
        if given is not None and allowed.amps is not None:
            lacks = ("the control transformer's volt-amperes",)
            said = facts.transformer_va is not None
            found.append(_fuse(rules, key, name, given, allowed) if said else unknown(key, name, lacks))
    if facts.secondary_fuse_a is not None and control.feed is not None:
        name = "Control circuit's device carries its load"
        found.append(_carries("starter.secondary_carries", name, control.held_va / control.feed.volts_v,
                              facts.secondary_fuse_a, "A larger device and transformer."))  # fmt: skip
    if facts.primary_fuse_a is not None and control.feed is not None and control.feed.line_v:
        found.append(_primary_carries(facts.primary_fuse_a, facts.transformer_va, control.held_va, control.feed.line_v))
        if control.primary.amps is None and facts.transformer_va and control.feed.transformed:
            own = facts.transformer_va / control.feed.line_v
            found.append(_primary_clears(facts.primary_fuse_a, own, control.feed.impedance))
    return found


def _carries(key: str, name: str, amps: float, rated: float, remedy: str) -> Gate:
    text = f"{write(amps, 2)} A held, {write(rated, 3)} A rated."
    return rule(key, name, amps < rated, text, "its own rating", remedy=remedy, value=amps, limit=rated, unit="A")


def _primary_carries(given: float, rated_va: float | None, held_va: float, line_v: float) -> Gate:
    """It carries what is held; below the transformer's own amperes hardly what flows as that is switched on."""
    key, name = "starter.primary_carries", "Control transformer's primary device carries it"
    own = (rated_va or 0.0) / line_v
    remedy = f"{write_up(own)} A or more." if own else "A larger device."
    if given >= own or given <= held_va / line_v:
        return _carries(key, name, held_va / line_v, given, remedy)
    text = (
        f"{write(given, 3)} A; the transformer's own are {write(own, 3)} A, and for a moment many times that as it is "
    )
    text += f"switched on. Passes for any primary device from {write(own, 3)} A."
    turns = Turns(path="starter.primary_fuse", label="primary device", passes=f"from {write(own, 3)} A",
                  passes_as=f"{write(own * 1.01, 3)} A", fails=f"below {write(held_va / line_v, 2)} A",
                  fails_as=f"{write(held_va / line_v * 0.9, 3)} A")  # fmt: skip
    return check(key, name, turns, text, "its own rating; inrush of a transformer", remedy=remedy)


_OPENS: Final = (2.5, 6.0)
"""Times its rating, between which a small fuse or breaker opens within some seconds; assumed."""


def _primary_clears(given: float, own: float, impedance: Taken) -> Gate:
    """Where no rule limits it, it opens on a short behind the transformer, whose impedance is all that holds that."""
    key, name = "starter.primary_clears", "Control transformer's primary device opens on a short"
    surely, hardly = 100 * own / impedance.high / _OPENS[1], 100 * own / impedance.low / _OPENS[0]
    text = (
        f"A short behind it draws {write(100 * own / impedance.value, 3)} A ahead of it; {write(given, 3)} A opens "
        f"soon from {write(_OPENS[0] * given, 3)} to {write(_OPENS[1] * given, 3)} A."
    )
    source, remedy = "IEC 60204-1:2016 7.2.7; small devices' curves, assumed", f"At most {write_down(surely)} A."
    if given <= surely or given > hardly:
        return rule(key, name, given <= surely, text, source, remedy=remedy)
    turns = Turns(path="starter.primary_fuse", label="primary device", passes=f"up to {write_down(surely)} A",
                  passes_as=f"{write_down(surely)} A", fails=f"above {write_up(hardly)} A",
                  fails_as=f"{write_up(1.05 * hardly)} A")  # fmt: skip
    text += f" Passes for any primary device up to {write_down(surely)} A."
    return check(key, name, turns, text, source, remedy=f"{remedy} Or its maker's device.")


def _fuse(rules: RuleSet, key: str, name: str, given: float, allowed: Allowed) -> Gate:
    best = fuse_within(rules, allowed)
    remedy = f"{write(best, 3)} A at most." if best else "Its maker's device."
    text = f"{write(given, 3)} A; at most {write(allowed.amps or 0.0, 3)} A."
    return rule(key, name, given <= (allowed.amps or 0.0) * (1 + 1e-9), text, allowed.cite, value=given,
                limit=allowed.amps, unit="A", remedy=remedy)  # fmt: skip


def _wire(rules: RuleSet, facts: Starter, control: Control) -> Gate | None:
    """The run's own size against the device ahead of it."""
    if facts.run_size is None or facts.secondary_fuse_a is None or control.wire_a is None:
        return None
    text = f"{facts.run_size} behind {write(facts.secondary_fuse_a, 3)} A; {write(control.wire_a, 3)} A are allowed."
    return rule("starter.control_wire", "Control wires protected", facts.secondary_fuse_a <= control.wire_a, text,
                rules.control.wire_source, value=facts.secondary_fuse_a, limit=control.wire_a, unit="A",
                remedy="A smaller device, or thicker wires.")  # fmt: skip


def _hold_in(facts: Starter, control: Control) -> Gate | None:
    """The run's own capacitance must not hold a coil whose button has opened."""
    feed = control.feed
    if feed is None or feed.kilometres is None or not feed.ac:
        return None
    least = min((one.hold for one in control.loads if one.remote), key=lambda one: one.value, default=None)
    if least is None:
        return None
    reach: Callable[[float, float], float] = lambda va, per_km: 1000 * most_km(feed, va, per_km)  # noqa: E731
    usual = reach(least.value, feed.capacitance.value)
    metres = 1000 * feed.kilometres
    return at_most(
        "starter.hold_in", "Run lets its coils go", metres, usual, unit="m", source=_COIL_LAW,
        sentence=f"{write(metres, 3)} m; the smallest coil worked from there, {write(least.value, 2)} VA, would be "
                 f"held from {write(usual, 2)} m on by the wires' own capacitance.",
        rests=(least, feed.capacitance), room=lambda va, per_km: reach(va, per_km) - metres,
        remedy="Direct current, fewer volts, a relay at the panel, or a load beside the coil.",
    )  # fmt: skip


def _grounding(sheet: Sheet, rules: RuleSet, facts: Starter) -> Gate | None:
    """Contacts stand on the live side of the coils as drawn: a wire that touches ground then blows a fuse."""
    if facts.control_from == "line":
        return None
    key, name, source = "starter.grounded", "A wire to ground starts nothing", rules.control.grounding
    if facts.grounded is None:
        lacks = sheet.needs([("starter.grounded", "whether the coils' common side is grounded")], name)
        return unknown(key, name, lacks)
    text = {
        "yes": "The coils' common side is grounded, every contact on the other: a wire to ground opens the device.",
        "monitored": "Not grounded; the first fault is told by its insulation monitor.",
    }.get(facts.grounded, "Neither grounded nor watched: two wires to ground bridge a stop, and nobody is told.")
    return rule(key, name, facts.grounded != "no", text, source,
                remedy="Ground the coils' common side, or watch the insulation.")  # fmt: skip
