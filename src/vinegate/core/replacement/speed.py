"""How fast the new motor turns this load: where its line of torque meets the load's, not what its plate says."""

from __future__ import annotations

from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.load import pump
from vinegate.core.load.curve import shutoff_of, static_of
from vinegate.core.numbers import write
from vinegate.core.plate.kind import Family, has_poles
from vinegate.core.plate.speeds import two_speeds
from vinegate.core.records import dataclass
from vinegate.core.replacement.armature import by_plates
from vinegate.core.replacement.electric import rated_nm, synchronous_rpm
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import RPM, Machine, Pair
from vinegate.core.sheet import Sheet
from vinegate.core.working import Provenance

_SOURCE: Final = "T_N·(n_s − n)/(n_s − n_N) against the load's torque: the straight part of the curve near rated slip"
_SAME_RPM: Final = 10.0
_MOST_PU: Final = 0.03


@dataclass(frozen=True, slots=True, kw_only=True)
class Turns:
    """Where either settles with this load: speed in rpm, power in watts; what the new one saves a year."""

    old_rpm: float
    new_rpm: float
    old_w: float
    new_w: float
    saved_kwh: float | None = None
    saved_money: float | None = None
    same_speed_kwh: float | None = None
    """What it would have saved at the old one's speed."""


def meets_at(machine: Machine, pair: Pair) -> tuple[float, float] | None:
    """Speed and power where the motor's line meets the load's curve; None while either is not known."""
    synchronous, torque = synchronous_rpm(machine), rated_nm(machine)
    if synchronous is None or torque is None or machine.rated.speed is None or pair.load is None or pair.load_w is None:
        return None
    rated = machine.rated.speed.value
    if rated >= synchronous:
        return None
    rpm = np.linspace(2 * rated - synchronous, synchronous, 4001)
    times = pair.load_times
    gap = torque * (synchronous - rpm) / (synchronous - rated) - times * pair.load.running_at(rpm)
    speed = settles_at(rpm, gap)
    if speed is None:
        return None
    at = float(times * pair.load.running_at(np.array([speed]))[0])
    return speed, at * speed * RPM


def settles_at(rpm: Array, gap: Array) -> float | None:
    """The highest speed at which torque to spare turns to torque lacking; None where it never does in these speeds."""
    turns = np.flatnonzero((gap[:-1] > 0) & (gap[1:] <= 0))
    if not turns.size:
        return None
    place = int(turns[-1])
    share = gap[place] / (gap[place] - gap[place + 1])
    return float(rpm[place] + share * (rpm[place + 1] - rpm[place]))


def turns_of(sheet: Sheet, pair: Pair) -> Turns | None:
    """Put both on the sheet, with what hours and price make of them."""
    old, new = meets_at(pair.old, pair), meets_at(pair.new, pair)
    if old is None or new is None:
        return None
    unit = pair.rules.words.speed_unit
    for key, name, symbol, value in (
        ("old_speed", "Old motor with this load", "n_1", old[0]),
        ("new_speed", "New motor with this load", "n_2", new[0]),
    ):
        sheet.given(key, name, symbol, value, unit, provenance=Provenance.ESTIMATED, source=_SOURCE)
    for key, name, symbol, value in (
        ("old_load", "Asked then of the old", "P_1", old[1] / 1000),
        ("new_load", "Asked then of the new", "P_2", new[1] / 1000),
    ):
        sheet.given(key, name, symbol, value, "kW", provenance=Provenance.ESTIMATED, source=_SOURCE)
    found = Turns(old_rpm=old[0], new_rpm=new[0], old_w=old[1], new_w=new[1])
    return _saved(pair, found)


def _saved(pair: Pair, turns: Turns) -> Turns:
    """`h·(P_1/η_1 − P_2/η_2)`: the work it does more is paid for too."""
    first, second, hours = pair.old.plate.efficiency_pu, pair.new.plate.efficiency_pu, pair.circuit.wiring.hours
    if first is None or second is None or hours is None:
        return turns
    kwh = hours * (turns.old_w / first - turns.new_w / second) / 1000
    same = hours * turns.old_w * (1 / first - 1 / second) / 1000
    price = pair.job.limits.energy_price
    return Turns(
        old_rpm=turns.old_rpm,
        new_rpm=turns.new_rpm,
        old_w=turns.old_w,
        new_w=turns.new_w,
        saved_kwh=kwh,
        saved_money=kwh * price if price is not None else None,
        same_speed_kwh=same,
    )


def speed_row(pair: Pair, turns: Turns | None) -> Row:
    """By intersection: within 10 rpm the same; to 3 % with a look at flow and power; poles must agree."""
    speeds = [machine.rated.speed for machine in (pair.old, pair.new)]
    row = Said("speed", "Speed", speeds[0].shown if speeds[0] else "", speeds[1].shown if speeds[1] else "")
    if not all(has_poles(machine.plate.kind) for machine in (pair.old, pair.new)):
        return by_plates(pair, row)
    old, new = (synchronous_rpm(machine) for machine in (pair.old, pair.new))
    if speeds[0] is None or speeds[1] is None or old is None or new is None:
        return row.lacking("speed and frequency")
    if abs(old / new - 1) > 0.02:
        return _unlike(pair, row, new / old)
    if turns is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("the load and both motors' power",))
    return _with_load(pair, row, turns)


def _unlike(pair: Pair, row: Said, times: float) -> Row:
    """Another synchronous speed: of as many poles it is the frequency here that counts, whatever is stamped."""
    source = "synchronous speed 120·f/p"
    hertz = [machine.rated.frequency.value for machine in (pair.old, pair.new) if machine.rated.frequency]
    if len(hertz) == 2 and abs(times * hertz[0] / hertz[1] - 1) < 0.02:
        return row.put(
            fits=Fits.WITH,
            text=f"As many poles: at {hertz[0]:g} Hz it turns about as fast, though made for {hertz[1]:g} Hz.",
            source=source,
            task="Its fan, bearings and balance for that speed, by its maker.",
        )
    return row.put(
        fits=Fits.WITH if pair.facts.adjusted == "yes" else Fits.NOT,
        text=f"Another number of poles: {write(times, 3)} × as fast.",
        source=source,
        task="Sheave, impeller or gear for the new speed.",
    )


def both_speeds(pair: Pair) -> Row | None:
    """Where the circuit has two, switched by its starter."""
    if not two_speeds(pair.circuit) or pair.new.plate.family is not Family.CAGE:
        return None
    said = {"yes": "two", "no": "one"}.get(pair.facts.both_speeds or "", "")
    row, source = Said("both_speeds", "Speeds", "two", said), "IEC 60034-8:2007; NEMA MG 1:2021 part 2"
    if not said:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("whether the new motor has both speeds",))
    if said == "one":
        return row.put(fits=Fits.NOT, text="It has one of the two.", source=source, task="A motor of both speeds.")
    return row.put(fits=Fits.WITH, text="It has both, by its maker.", source=source,
                   task="Its low speed's overload by its own plate; the way it turns tried at both.")  # fmt: skip


def _flow(pair: Pair, turns: Turns) -> str:
    """Against a static head a pump's flow moves by more than its speed."""
    load = pair.load
    if load is None or load.kind != "pump-static":
        return ""
    facts = pair.circuit.load
    speeds = np.array([turns.old_rpm, turns.new_rpm]) / load.full_speed_rpm
    old, new = pump.flow_at(speeds, static_of(facts), shutoff_of(facts))
    return f", {round(100 * float(new / old - 1), 1) + 0.0:+.1f} % flow" if old > 0 else ""


def _with_load(pair: Pair, row: Said, turns: Turns) -> Row:
    more, unit = turns.new_rpm / turns.old_rpm - 1, pair.rules.words.speed_unit
    asks = turns.new_w / turns.old_w - 1
    percents = [round(100 * one, 1) + 0.0 for one in (more, asks)]  # no minus before nought
    text = (
        f"With this load {write(turns.new_rpm, 4)} {unit} for {write(turns.old_rpm, 4)}: "
        f"{percents[0]:+.1f} % speed, {percents[1]:+.1f} % power{_flow(pair, turns)}."
    )
    new_w = pair.new.power_w or 0.0
    made_good = pair.facts.adjusted == "yes"
    if (turns.old_w if made_good else turns.new_w) > new_w * 1.005:
        return row.put(
            fits=Fits.NOT,
            text=f"{text} That is {100 * turns.new_w / new_w:.0f} % of its rating.",
            source=_SOURCE,
            task="Smaller sheave or impeller, or a larger motor.",
        )
    if abs(turns.new_rpm - turns.old_rpm) <= _SAME_RPM and abs(asks) <= 0.02:
        return row.put(fits=Fits.SAME, text=text, source=_SOURCE)
    if abs(more) <= _MOST_PU or made_good:
        return row.put(
            fits=Fits.WITH,
            text=text,
            source=_SOURCE,
            task="Look at flow, head and the driven machine's limits at the new speed.",
        )
    return row.put(fits=Fits.NOT, text=text, source=_SOURCE, task="Sheave, impeller or gear for the new speed.")
