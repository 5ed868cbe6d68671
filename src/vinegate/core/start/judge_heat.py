"""Gates of a start on the machine and its protection: heat, trip class, starts in succession, instantaneous trip."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import Final

from vinegate.core.grade import Gate, Kind, Verdict, at_most, confirm, unknown
from vinegate.core.machine.promise import WEAKER, Promise, strength
from vinegate.core.machine.stall import COLD_TIMES
from vinegate.core.numbers import counted, write
from vinegate.core.records import replace
from vinegate.core.remedy import either
from vinegate.core.start.asked import Asked
from vinegate.core.start.laden import Laden
from vinegate.core.start.plant import Plant
from vinegate.core.start.reclosure import offset_factor
from vinegate.core.start.relay import RelayHeat
from vinegate.core.start.simulation import MethodRun
from vinegate.core.start.trace import Outcome
from vinegate.core.start.ways import USUAL, way_of
from vinegate.core.turning import Room, Taken, less, more, point

_OF_HEAT: Final = 5
"""Facts that a start's heat grows with, as `heat_facts` names them."""
_CLASSES: Final = ("10", "20", "30")
_LOSSES: Final = (0.6, 1.2)  # of a start's heat, estimated
_MEAN_LOSS: Final = "mean loss over the hour (as duty S4, IEC 60034-1:2022 4.2.4)"
_SELDOM_MORE: Final = 20.0
"""Starts an hour above which nobody is asked whether it starts more often; assumed."""
_HEAT: Final = "∫(I/I_LR)² dt over safe stall time from hot; IEEE 620:1996"
_SUCCESSION: Final = "start.succession"
_TWICE: Final = "Two starts cold, one hot"
_AGREE: Final = "Agree inertia and starts in succession with the motor's maker."


def _of_load(asked: Asked) -> tuple[Taken, ...]:
    load = asked.load
    return load.inertia, load.rotor, load.power, load.breakaway


def heats_of(laden: Laden, promise: Promise | None, *, ramped: bool) -> tuple[float, float]:
    """What the strongest machine within its promise heats, of that as simulated, and the weakest that it may be where
    nobody gave its torques; a ramp lasts as it is set.
    """
    if promise is None or ramped:
        return 1.0, 1.0
    return laden.stronger(promise.strongest), min(laden.stronger(promise.weakest_assumed), WEAKER)


def _strength(laden: Laden, run: MethodRun, asked: Asked) -> Taken:
    return strength(asked.promise, heats_of(laden, asked.promise, ramped=run.ramped))


def heat_facts(laden: Laden, run: MethodRun, asked: Asked) -> tuple[Taken, ...]:
    """The facts that a start's heat grows with: inertia of load and rotor, how weak the machine may be, and what the
    load asks.
    """
    load = asked.load
    return less(load.inertia, load.rotor, _strength(laden, run, asked), load.power, load.breakaway)


def _by_the_least(gate: Gate, asked: Asked, left: float) -> Gate:
    """A check that a floor of the torque made, where there is room `left` with the strongest machine above it."""
    if gate.verdict is not Verdict.CHECK or asked.promise is None or not asked.promise.is_least or left < 0:
        return gate
    return replace(gate, sentence=f"{gate.sentence} Simulated with the least torque that is promised: its own may do.")


def heat_times(laden: Laden, run: MethodRun, asked: Asked, *facts: float) -> float:
    """Heat with these facts, in the order of `heat_facts`, over that as simulated. A drive's ramp lasts as it is set:
    what grows is its torque.
    """
    inertia, rotor, times, power, breakaway = facts
    heavier = asked.inertia_times(inertia, rotor)
    if run.ramped:
        return times * laden.ramped(heavier, power, breakaway)
    return heavier * times * laden.times(power, breakaway)


def stall_gate(laden: Laden, run: MethodRun, asked: Asked, leaves: tuple[Taken, ...] = ()) -> Gate | None:
    """Heat of a start that gets to speed against the safe stall time from hot: `∫(I/I_LR)² dt`. `leaves` is the share
    of its torque that a run leaves which is not known.
    """
    key, name = "start.heat", "Heat of one start"
    if run.course.outcome is not Outcome.REACHES or run.commutator:
        return None
    if asked.stall is None:
        return unknown(key, name, ("safe stall time, hot",))
    stays, stall = run.course.i2t_s, asked.stall
    share = 100 * stays / stall.value
    text = f"One start heats as {write(stays, 2)} s at rest: {share:.0f} % of what it bears from hot."
    gate = at_most(
        key, name, share, 100.0, sentence=text, source=_HEAT, unit="%",
        rests=(*more(stall, *leaves), *heat_facts(laden, run, asked)),
        room=lambda bears, *facts: bears
        - stays * _weaker(laden, facts[: len(leaves)]) * heat_times(laden, run, asked, *facts[len(leaves) :]),
        remedy="A quicker start, or the thermal limit curve from the maker.",
    )  # fmt: skip
    return _by_the_least(gate, asked, stall.value - stays * _strength(laden, run, asked).low)


def _weaker(laden: Laden, left: Sequence[float]) -> float:
    """So many times the heat with this share of its torque, where one is given."""
    return laden.stronger(left[0]) if left and left[0] < 1 else 1.0


def class_gate(laden: Laden, run: MethodRun, asked: Asked, relay: RelayHeat) -> Gate | None:
    """The quickest class that holds this start: the overload's own sheet judges the one that is fitted."""
    if run.course.outcome is not Outcome.REACHES or run.commutator:
        return None
    needed = next((name for name in _CLASSES if relay.pct(name) <= 100), None)
    text = f"A class {needed} overload holds." if needed else "No overload up to class 30 surely holds this start."
    if needed not in (None, _CLASSES[0]):
        text = f"Class 10 would trip: class {needed} holds."
    slowest = relay.pct(_CLASSES[-1])
    gate = at_most(
        "start.class", "Overload holds the start", slowest, 100.0, sentence=text, unit="%",
        source="IEC 60947-4-1:2018 table 3, quickest relay of the class, from cold",
        rests=heat_facts(laden, run, asked),
        room=lambda *facts: 100.0 - slowest * heat_times(laden, run, asked, *facts),
        remedy="A quicker start, or protection by the maker's curve.", kind=Kind.INFORMS,
    )  # fmt: skip
    of_needed = relay.pct(needed or _CLASSES[-1])
    return replace(gate, value=of_needed, margin=100 - of_needed)


def succession_gate(laden: Laden, run: MethodRun, asked: Asked) -> Gate | None:
    """Two starts from cold, one from hot: the standard's inertia, else the machine's own heat. Not from a drive."""
    if run.course.outcome is not Outcome.REACHES or asked.load_inertia_limit is None or run.ramped:
        return None
    most, own, load = asked.load_inertia_limit, asked.load.load_inertia_kgm2, asked.load
    if asked.inertia_by_maker:
        return _inertia_by_maker(asked, own, most)
    if not asked.inertia_by_standard:
        return _by_heat(laden, run, asked)
    bears = _bears(laden, run, asked)
    text = f"Load inertia {write(own, 3)} of {write(most, 3)} kg·m²"
    text += ": normal." if own <= most else f": {write(own / most, 2)} × what the standard asks it to start."
    per = own / load.inertia.value if load.inertia.value else 1.0
    gate = at_most(
        _SUCCESSION, _TWICE, own, most, sentence=text, source=asked.inertia_source, unit="kg·m²",
        rests=_of_succession(laden, run, asked), remedy=_AGREE,
        room=lambda hot, inertia, *facts: max((most - inertia * per) / most, bears(hot, inertia, *facts)),
    )  # fmt: skip
    return replace(gate, margin=None) if gate.verdict.usable and own > most else gate  # by its heat, not this number


def _of_succession(laden: Laden, run: MethodRun, asked: Asked) -> tuple[Taken, ...]:
    return (*more(asked.stall or point(0.0)), *heat_facts(laden, run, asked))


def _bears(laden: Laden, run: MethodRun, asked: Asked) -> Room:
    """What is left of the heat that it bears, behind one start from hot or two from cold, by these facts."""
    stays, cold = run.course.i2t_s, asked.cold

    def bears(bears_hot: float, inertia: float, *facts: float) -> float:
        heat = stays * heat_times(laden, run, asked, inertia, *facts)
        bears_cold = cold.value if cold is not None and cold.given else COLD_TIMES * bears_hot
        return min(bears_hot - heat, bears_cold - 2 * heat) / max(bears_cold, bears_hot, 1e-9)

    return bears


def _by_heat(laden: Laden, run: MethodRun, asked: Asked) -> Gate | None:
    """Of a machine whose standard has no inertia: its heat alone tells. None where what it bears is asked elsewhere."""
    stall, cold = asked.stall, asked.cold
    if stall is None:
        return None
    from_cold = cold.value if cold is not None and cold.given else COLD_TIMES * stall.value
    share = 100 * max(run.course.i2t_s / stall.value, 2 * run.course.i2t_s / from_cold)
    bears = _bears(laden, run, asked)
    return at_most(
        _SUCCESSION, _TWICE, share, 100.0, unit="%", source=_HEAT, rests=_of_succession(laden, run, asked),
        sentence=f"One start from hot or two from cold heat it to {share:.0f} % of what it bears.",
        room=bears, remedy=_AGREE,
    )  # fmt: skip


def _inertia_by_maker(asked: Asked, own: float, most: float) -> Gate:
    """What its maker allows is not outdone by an estimate of heat."""
    inertia = asked.load.inertia
    per = own / inertia.value if inertia.value else 1.0
    return at_most(
        _SUCCESSION, _TWICE, own, most, source=asked.inertia_source, unit="kg·m²",
        sentence=f"Load inertia {write(own, 3)} of {write(most, 3)} kg·m² that its maker allows.",
        rests=less(inertia), room=lambda turns: (most - turns * per) / most,
        remedy=_AGREE,
    )  # fmt: skip


def per_hour_gate(laden: Laden, run: MethodRun, asked: Asked, leaves: tuple[Taken, ...] = ()) -> Gate | None:
    """Mean loss of running and starting against the rated loss, which is what it can shed for ever; `leaves` as of one
    start's heat.
    """
    if run.course.outcome is not Outcome.REACHES:
        return None
    if not asked.starts_per_hour:
        return _often(laden, run, asked)
    starts, way = asked.starts_per_hour, way_of(run.method)
    made = _as_made(asked, starts, asked.starts_allowed) if asked.starts_allowed is not None else None
    if made is None or way.converts or way.at_rings:
        return _mean_loss(laden, run, asked, starts, leaves)
    if run.method == USUAL.key:
        return made
    # On fewer volts a start heats the machine no less: its maker's count holds, and the estimate beside it.
    return max(made, _mean_loss(laden, run, asked, starts, leaves), key=lambda gate: gate.verdict.rank)


def _often(laden: Laden, run: MethodRun, asked: Asked) -> Gate | None:
    """Where nobody has said how often it starts: what it surely bears, for who knows. None where it starts seldom, or
    bears so many that nobody asks for more.
    """
    if asked.switching == "rare":
        return None
    share, load, way = _shares_of(laden, run, asked), asked.load, way_of(run.method)
    facts = (_LOSSES[1], 1.0, *(one.high for one in _of_load(asked)))
    runs, starts = share(0.0, *facts), share(1.0, *facts)
    most, by = (100.0 - runs) / (starts - runs) if starts > runs else math.inf, "By its heat it bears"
    if asked.starts_allowed is not None and not (way.converts or way.at_rings):
        allowed = _made_for(asked, asked.starts_allowed)
        made = min(allowed(load.inertia.high, rotor) for rotor in (load.rotor.low, load.rotor.high))
        if run.method == USUAL.key or made < most:
            most, by = made, "Its maker allows"
    if most <= 0 or most > _SELDOM_MORE:
        return None
    each = f"{counted(math.floor(most), 'start')} an hour" if most >= 1 else f"one start in {write(1 / most, 2)} h"
    text = f"How often it starts is not said. {by} {each} with this load."
    return confirm("start.often", "Starts an hour", False, text, _MEAN_LOSS)


def _shares_of(laden: Laden, run: MethodRun, asked: Asked) -> Callable[..., float]:
    """Mean loss of the rated loss, per cent, by starts an hour, what a start's heat is out by, strength and load."""
    course, power, runs_w = run.course, asked.load.power.value, asked.running_w

    def share(per_hour: float, times: float, strong: float, *load: float) -> float:
        heat = course.heat_j * heat_times(laden, run, asked, load[0], load[1], times * strong, load[2], load[3])
        return 100 * (runs_w(load[2] / power if power else 1.0) + per_hour * heat / 3600) / asked.rated_loss_w

    return share


def _mean_loss(laden: Laden, run: MethodRun, asked: Asked, starts: float, leaves: tuple[Taken, ...]) -> Gate:
    """By the estimate of its heat."""
    share, facts = _shares_of(laden, run, asked), (1.0, *(one.value for one in _of_load(asked)))
    value = share(starts, 1.0, *facts)
    low, high = (share(starts, end, *facts) for end in _LOSSES)
    fact = point(starts, path="start.starts_per_hour", label="starts an hour")
    losses = Taken(label="the estimate of a start's heat", value=1.0, low=_LOSSES[0], high=_LOSSES[1])
    text = f"With {counted(starts, 'start')} an hour the mean loss is {value:.0f} % of the rated loss."
    strong = _strength(laden, run, asked)
    gate = at_most(
        "start.per_hour", "Starts an hour", value, 100.0, sentence=text, unit="%",
        source=_MEAN_LOSS,
        rests=(*less(fact, losses, strong, *_of_load(asked)), *more(*leaves)),
        room=lambda per_hour, losing, *facts: 100.0
        - share(per_hour, losing * _weaker(laden, facts[_OF_HEAT:]), *facts[:_OF_HEAT]),
        band=(low, high),
        remedy="Fewer starts, a start with less heat, or a motor for this duty.",
    )  # fmt: skip
    return _by_the_least(gate, asked, 100.0 - share(starts, 1.0, strong.low, *facts[1:]))


def _made_for(asked: Asked, made: float) -> Callable[[float, float], float]:
    """Its maker's count by inertia of load and rotor: less where the load has more than that holds for, as heat goes
    with all that turns.
    """
    load, most = asked.load, asked.load_inertia_limit
    per = load.load_inertia_kgm2 / load.inertia.value if load.inertia.value else 1.0

    def allowed(inertia: float, rotor: float) -> float:
        own = inertia * per
        return made if most is None or own <= most else made * (rotor + most) / (rotor + own)

    return allowed


def _as_made(asked: Asked, starts: float, made: float) -> Gate:
    """Across the line by its maker's count."""
    load, allowed = asked.load, _made_for(asked, made)
    now = allowed(load.inertia.value, load.rotor.value)
    fact = point(starts, path="start.starts_per_hour", label="starts an hour")
    return at_most(
        "start.per_hour", "Starts an hour", starts, now, source="its maker's, at full voltage",
        sentence=f"{counted(starts, 'start')} an hour of {write(now, 3)} that its maker allows with this inertia.",
        rests=less(fact, load.inertia, load.rotor), room=lambda per_hour, *turns: allowed(*turns) - per_hour,
        remedy="Fewer starts, or a motor for this duty.",
    )  # fmt: skip


def _less_at_once(run: MethodRun) -> tuple[str, ...]:
    """Closed transition where an open one makes the peak; else a start that draws less."""
    return ("closed transition",) if run.spike else ("a start that draws less",)


def trip_gate(plant: Plant, run: MethodRun, asked: Asked) -> Gate | None:
    """First-cycle or reclosing peak against an instantaneous trip set in rms amperes."""
    if asked.trip_a is None:
        return None
    first = math.sqrt(2) * float(run.course.all("line_a")[0]) * offset_factor(plant)
    if run.held:
        first = math.sqrt(2) * float(run.course.all("line_a").max())
    peak = max(first, run.spike.peak_a if run.spike else 0.0)
    value, limit, sag = peak / math.sqrt(2), asked.trip_a, asked.sag
    what = "Reclosing" if run.spike and run.spike.peak_a > first else "First cycle"
    rests: tuple[Taken, ...] = (sag.current, sag.factor) if sag is not None and not run.held else ()
    return at_most(
        "start.trip", "Instantaneous trip holds", value, limit, unit="A", source="full offset, residual opposed",
        sentence=f"{what} peaks at {peak:.0f} A, {value:.0f} A as rms, of {write(limit)} A.", rests=rests,
        room=lambda *facts: limit - value * (sag.higher(*facts) if sag is not None and facts else 1.0),
        remedy=either("a higher trip where the rules allow it", *_less_at_once(run)), kind=Kind.INFORMS,
    )  # fmt: skip
