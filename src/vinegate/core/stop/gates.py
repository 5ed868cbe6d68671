"""The gates of the way in use."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.deciding import because, decider
from vinegate.core.drive.facts import Drive
from vinegate.core.facts import Circuit
from vinegate.core.grade import (
    Answer,
    Gate,
    Verdict,
    at_least,
    at_most,
    check,
    confirm,
    from_answer,
    ordered,
    rule,
    unknown,
)
from vinegate.core.numbers import counted, write
from vinegate.core.records import replace
from vinegate.core.rules.protocol import Papers
from vinegate.core.start.trial import MeanLoss
from vinegate.core.start.ways import way_of as start_way_of
from vinegate.core.stop.asked import LINE_SPEED, Asked
from vinegate.core.stop.bands import brake_taken, rests, rests_of, room_of, worked
from vinegate.core.stop.friction import HOLD_FACTOR, brake_torque
from vinegate.core.stop.limited import limited
from vinegate.core.stop.release import release_gate
from vinegate.core.stop.row import StopRow, cannot_hold
from vinegate.core.stop.way import Way
from vinegate.core.stop.ways import ALONE, USUAL
from vinegate.core.turning import Taken, Turns, less, more, point

_LOSSES: Final = (0.6, 1.2)  # of the heat of starts and stops, estimated
_BORNE: Final = (3.0, 10.0)  # of rated torque
_USUAL_FACTOR: Final = 1.0  # the least holding factor that holds at all


def gates_of(
    circuit: Circuit,
    asked: Asked,
    row: StopRow,
    way: Way,
    start: MeanLoss | None,
    started_by: str,
    *,
    ahead_s: float = 0.0,
    soft_kj: float = 0.0,
) -> list[Gate]:
    """What decides whether the way in use may stand; `ahead_s` goes before it, and `soft_kj` is its heat."""
    gates = [_stops(asked, row, way)]
    if row.holds:
        if asked.must_hold or asked.hoist:
            gates.append(_holds(asked))
        gates.append(_borne(asked))
        gates += _brake_heat(asked, row, way)
        advised = circuit.start.method is None and not circuit.from_drive
        gates.append(release_gate(asked, way, started_by, advised=advised))
    elif asked.overhauls and asked.stop.hold is None and not asked.hoist:
        gates.append(_let_go())
    kj = row.rotor_kj + row.stator_kj + soft_kj
    if kj and asked.per_hour:
        starts = circuit.start.starts_per_hour  # each stop follows one: not said, their heat is not known
        gates += _machine_heat(asked, kj, start, starts) if starts else [unknown(*_MEAN, ("starts an hour",))]
    gates += [*_often(circuit, asked, row, way, kj), *way.gates(circuit, asked, row)]
    gates += [*_as_often(circuit), *_excited(circuit, asked, way), *_as_set(circuit, way, started_by)]
    if asked.hoist and asked.papers is not None and asked.papers.hoist:
        gates.append(_of_hoist(asked.papers))
    return gates + _people(asked, row, way, ahead_s)


def _often(circuit: Circuit, asked: Asked, row: StopRow, way: Way, kj: float) -> list[Gate]:
    """Where nobody has said how often it stops: what each stop leaves in the motor and in its brake, for who knows."""
    if asked.per_hour or circuit.start.switching == "rare" or row.time_s is None:
        return []
    brake_kj = way.closes(asked, row)[0] / 1000 if row.holds and way.closes is not None else 0.0
    left = [f"{write(heat, 3)} kJ in {where}" for heat, where in ((kj, "the motor"), (brake_kj, "the brake")) if heat]
    if not left:
        return []
    text = f"How often it stops is not said. Each stop leaves {' and '.join(left)}, beside the heat of its start."
    return [confirm("stop.often", "Stops an hour", False, text, "of the energy that turns as it is told to stop")]


def _let_go() -> Gate:
    """A load that drives it, and nobody said whether it must be held at rest."""
    turns = Turns(path="stop.hold", label="must hold at rest", passes="no", passes_as="no")
    text = "Its load drives it, and nothing holds it once it stands. Passes where it need not be held."
    return check("stop.hold", "Holds at rest", turns, text, "a load that drives runs on unless it is held",
                 remedy="A spring-set brake, or say that it may turn.")  # fmt: skip


def _excited(circuit: Circuit, asked: Asked, way: Way) -> tuple[Gate, ...]:
    """Capacitors at the motor keep it excited once it is off: no plugging then, direct current or load that drives."""
    if not circuit.protection.motor_capacitor or not (way.reverses or way.direct or asked.overhauls):
        return ()
    what = "its load drives it on" if asked.overhauls else f"{way.name} is switched on against its own volts"
    text = f"Capacitors at the motor keep it excited once it is off: {what}."
    source, remedy = "NEMA MG 1:2021 14.44; IEC 60831-1:2014", "Put them ahead of the starter, or at the board."
    return (rule("stop.capacitor", "Stops without capacitors at the motor", False, text, source, remedy=remedy),)


def _as_often(circuit: Circuit) -> tuple[Gate, ...]:
    """Every stop follows a start: more of them than starts cannot be, and the starts heat the machine too."""
    stops, starts = circuit.stop.per_hour, circuit.start.starts_per_hour
    return ordered(
        "stop.as_often", "Stops go with starts", stops, starts, unit="1/h",
        sentence=f"{counted(stops or 0.0, 'stop')} an hour, {counted(starts or 0.0, 'start')}.",
        source="counted on the start's sheet and on this one",
        remedy="Give the starts an hour on the start's sheet: they heat the machine too.",
    )  # fmt: skip


def _as_set(circuit: Circuit, way: Way, started_by: str) -> tuple[Gate, ...]:
    """What its drive does when it is told to stop is what is judged here, where both are said."""
    mode, said = circuit.of("drive", Drive).stop_mode, circuit.stop.method
    if mode is None or said is None or not start_way_of(started_by).by_frequency or way.brakes_from_speed:
        return ()
    ramps = mode in ("ramp", "hold")
    if ramps == way.by_frequency:
        return ()
    text = f"Its drive is set to stop by {'a ramp' if ramps else 'coasting'}; {way.name} is judged here."
    return (
        rule("stop.as_set", "Stops as its drive is set", False, text, "said on the drive's sheet and on this one",
             remedy="Set the drive as it is to stop."),
    )  # fmt: skip


def _stops(asked: Asked, row: StopRow, way: Way) -> Gate:
    text = f"{row.name[:1].upper()}{row.name[1:]}: {row.why}{_unasked(asked, row)}"
    remedy = "Choose one." if cannot_hold(asked, way) else "Another way, more torque, or more time."
    return _as_asked("stop.stop", "Stops as asked", asked, row, way, text, "t = ∫ J dω/(T_brake + T_load)", remedy)


def _as_asked(key: str, name: str, asked: Asked, row: StopRow, way: Way, text: str, source: str, remedy: str) -> Gate:
    """The gate of a way's row, with the fact that settles it where it is to check."""
    within, turns, soft = asked.stop.within_s, None, rests_of(asked, way, row) if row.verdict is Verdict.CHECK else ()
    if soft:
        turns = decider(room_of(asked, way, soft, row), soft)
        text += because(turns, soft)
    found = Answer(verdict=row.verdict, text=text, rule=source, turns=turns)
    needs = (LINE_SPEED,) if asked.path_unknown and row.time_s is not None else (way.lacks,)
    gate = from_answer(key, name, found, remedy=remedy, needs=needs)
    margin = within - row.time_s if row.time_s is not None and within is not None else None
    if row.verdict is Verdict.FAILS and margin is not None and margin >= 0:
        margin = None  # it fails by something else than its time
    return replace(
        gate, value=row.time_s, limit=within, margin=margin, unit="s" if row.time_s is not None else "",
        rests_on=tuple(one.label for one in soft),
    )  # fmt: skip


def _unasked(asked: Asked, row: StopRow) -> str:
    return "" if row.time_s is None or _limited(asked) else " No time is asked."


def _limited(asked: Asked) -> bool:
    """Whether a time, an angle or a path is asked."""
    stop = asked.stop
    return any(limit is not None for limit in (stop.within_s, stop.within_turns, stop.distance_m))


def _holds(asked: Asked) -> Gate:
    """Brake torque over the load's, both at the motor's shaft: under a factor that is asked it fails; under the usual
    one, which nobody asked for, it is to check.
    """
    key, name = "stop.hold", "Holds at rest"
    load = max(-float(asked.heavy.load_nm.min()), 0.0)
    torque, typed = brake_torque(asked), asked.stop.hold_factor
    if load <= 0:
        return unknown(key, name, ("the torque with which the load drives",))
    wanted = typed or HOLD_FACTOR
    factor = Taken(
        path="stop.hold_factor", label="holding factor asked", value=wanted, low=wanted if typed else _USUAL_FACTOR,
        high=wanted, how="" if typed else "usual", given=typed is not None,
    )  # fmt: skip
    at, drives = brake_taken(asked), asked.load.power
    geared, times = torque / at.value if at.value else 1.0, torque / load
    asks = f"{write(wanted)} {'asked' if typed else 'usual'}"
    text = f"{write(torque, 3)} N·m of brake against {write(load, 3)} N·m of load: {write(times, 3)} times, {asks}."
    worst = asked.stop.lining_pu  # as stated; the factor stands for what linings usually fall short
    slips = worst is not None and worst * times - 1 < times - wanted
    if slips:
        text = f"{text[:-1]}; with its lining at its worst {write(times * (worst or 1.0), 3)} times."
    return at_least(
        key, name, times * (worst or 1.0) if slips else times, 1.0 if slips else wanted, sentence=text, unit="×",
        source="at the motor's shaft, without friction; linings brake between two thirds and all of their mark",
        rests=(factor, at, drives),
        room=lambda asks, brake, power: _held(brake * geared / (load * power / drives.value), asks, worst),
        remedy="A larger brake, its torque from its plate.",
    )  # fmt: skip


def _held(times: float, asks: float, worst: float | None) -> float:
    """What is left of the factor asked, and of the load itself where a lining's worst is stated."""
    return times - asks if worst is None else min(times - asks, worst * times - 1)


def _borne(asked: Asked) -> Gate:
    """Torque of the brake against what a shaft bears with its motor: as much as a strong machine's breakdown torque.

    Past that its maker knows; past ten times rated it is no brake of this motor, or was meant for the driven shaft.
    """
    at, rated = brake_taken(asked), asked.heavy.rated_nm
    torque = brake_torque(asked)
    geared, times = torque / at.value if at.value else 1.0, torque / rated
    shaft = Taken(label="what shaft, key and gear bear", value=_BORNE[0], low=_BORNE[0], high=_BORNE[1])
    return at_most(
        "stop.borne", "Shaft and gear bear the brake", times, _BORNE[0], unit="×", rests=(*less(at), *more(shaft)),
        sentence=f"{write(torque, 3)} N·m at the motor's shaft are {write(times, 3)} times its rated torque.",
        source="as much as a strong machine breaks down at, which its own shaft bears; ten times: assumed",
        room=lambda brake, bears: bears - brake * geared / rated,
        remedy="A smaller brake, or the word of the makers of shaft, coupling and gear. Is it on the driven shaft?",
    )  # fmt: skip


def _brake_heat(asked: Asked, row: StopRow, way: Way) -> list[Gate]:
    """Heat of the stops against what the brake sheds for ever and takes at once."""
    assert way.closes
    soft, stop, gates = rests(asked, way), asked.stop, []

    def a_stop(need: Asked) -> float:
        assert way.closes
        found = row if need is asked else way.make(need)
        return math.inf if found.time_s is None else way.closes(need, found)[0] / 1000

    if asked.per_hour:
        each, often = 3600 / asked.per_hour, counted(asked.per_hour, "stop")
        gates.append(
            limited(
                asked, "stop.heat", "Brake's heat", lambda need: 1000 * a_stop(need) / each, soft, stop.brake_power_w,
                "W", lambda watts: f"{often} an hour, {write(watts * each / 1000, 3)} kJ each: {write(watts, 3)} W",
                "the brake's heat rating",
            )
        )  # fmt: skip
    if stop.brake_stop_j is not None:
        gates.append(
            limited(
                asked, "stop.stop_heat", "Brake's heat a stop", a_stop, soft, stop.brake_stop_j / 1000, "kJ",
                lambda kj: f"{write(kj, 3)} kJ a stop", "",
            )
        )  # fmt: skip
    return gates


_MEAN: Final = ("stop.per_hour", "Starts and stops an hour")


def _machine_heat(asked: Asked, kj: float, start: MeanLoss | None, starts: float) -> list[Gate]:
    """Mean loss of running, starts and stops against the rated loss, which the machine can shed for ever.

    What turns slows as its inertia lets it, `dω/dt = T(ω)/J`: the heat of a stop, as that of a start, goes with it.
    """
    if start is None or asked.rated_loss_w is None:
        return []
    assert asked.per_hour
    a_start, inertia, power = start.start_pct, asked.load.inertia, asked.load.power
    # Not given, the load's is taken by the rotor's: the load's is what settles it.
    rotor = asked.load.rotor if inertia.given else replace(asked.load.rotor, path="")
    a_stop = 100 * 1000 * kj / 3600 / asked.rated_loss_w

    def share(stops: float, times: float, load: float, own: float, carries: float) -> float:
        running = start.running_pct(carries / power.value if power.value else 1.0)
        return running + times * asked.inertia_times(load, own) * (starts * a_start + stops * a_stop)

    value = share(asked.per_hour, 1.0, inertia.value, rotor.value, power.value)
    losses = Taken(label="the estimate of a stop's heat", value=1.0, low=_LOSSES[0], high=_LOSSES[1])
    fact = point(asked.per_hour, path="stop.per_hour", label="stops an hour")
    often = f"{counted(asked.per_hour, 'stop')} an hour"
    return [
        at_most(
            *_MEAN, value, 100.0, unit="%",
            sentence=f"With {often} the mean loss is {value:.0f} % of the rated loss.",
            source="mean over the hour, starts included (as duty S5, IEC 60034-1:2022 4.2.5)",
            rests=less(fact, losses, inertia, rotor, power), room=lambda *facts: 100.0 - share(*facts),
            remedy="Fewer stops, or a way that heats something else.",
        )
    ]  # fmt: skip


def _of_hoist(papers: Papers) -> Gate:
    """Cranes and hoists have a paper of their own: disconnect, limit switch, conductors by duty."""
    return confirm("stop.hoist", "What a hoist is asked beside", False, papers.of_hoist, papers.hoist)


def _people(asked: Asked, row: StopRow, way: Way, ahead_s: float) -> list[Gate]:
    """The emergency stop by its category, and the guard while people can reach it."""
    gates = []
    if asked.stop.emergency is not None or asked.stop.people == "yes":
        gates.append(_emergency(asked, way))
    if asked.stop.people == "yes":
        longest = _longest_s(asked, row, way)
        up_to = "" if longest is None else f", up to {write(longest + ahead_s, 3)} s with all as it is taken"
        text = f"People can reach it: its guard must stay locked until it stands{up_to}."
        text += " Prove standstill, or time the lock."
        source = "ISO 14119: unlocked at standstill, or by a timer longer than the longest stop"
        gates.append(confirm("stop.guard", "Guard", False, text, source))
    return gates


def _longest_s(asked: Asked, row: StopRow, way: Way) -> float | None:
    """From the stop to rest, by its own way or with power gone; None where either does not stop it."""
    gone = worked(_freed(asked), USUAL).time_s if way.holds else asked.coasts_s
    return max(row.time_s, gone) if row.time_s is not None and gone is not None else None


def _freed(asked: Asked) -> Asked:
    """With power cut: what holds or stops it then is not asked again."""
    return replace(asked, hold="no", stop=asked.stop.model_copy(update={"power_failure": None}))


def _emergency(asked: Asked, way: Way) -> Gate:
    """What the category cannot be; what it may be is for the risk assessment, and so for the checklist."""
    key, name, category = "stop.emergency", "Emergency stop", asked.stop.emergency
    source = asked.papers.emergency if asked.papers else ""
    if category is None:
        return unknown(key, name, ("the emergency stop's category, by the risk assessment",))
    remedy = "By the risk assessment: another way, or a safety function around this one."
    if category == "1":
        if not way.slows_first:
            text = "Category 1 slows it first and then cuts power; this way cuts power at once."
            return rule(key, name, False, text, source, remedy=remedy)
        text = "Category 1: power is cut once it stands, or after a time, by a function of the level asked."
        return confirm(key, name, False, text, source)
    return _at_once(asked, way, key, name, remedy)


def in_emergency(asked: Asked, way: Way) -> bool:
    """Whether it may be the emergency stop of the category that is asked, or none is said."""
    return asked.stop.emergency is None or _emergency(asked, way).verdict is not Verdict.FAILS


def _at_once(asked: Asked, way: Way, key: str, name: str, remedy: str) -> Gate:
    """Category 0: what the brake or coasting does from full speed."""
    source = asked.papers.emergency if asked.papers else ""
    by, does, takes = (USUAL, "stops by its brake", "in") if way.holds else (ALONE, "coasts", "for")
    need = _freed(asked)
    row = worked(need, by)
    if row.time_s is None:
        text = "Category 0 cuts power at once: it does not stop then."
        return rule(key, name, False, text, source, remedy=remedy)
    text = f"Category 0 cuts power at once: it {does}"
    if _limited(asked):
        return _as_asked(key, name, need, row, by, f"{text}. {row.why}", source, remedy)
    text += f" {takes} {write(row.time_s, 3)} s"
    if way.powered:
        return confirm(key, name, False, f"{text}, longer than this way takes: no time is asked.", source)
    return rule(key, name, True, f"{text}.", source)
