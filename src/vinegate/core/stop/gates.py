"""The gates of the way in use."""

from __future__ import annotations

from dataclasses import replace
from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Answer, Gate, at_least, at_most, confirm, from_answer, rule, unknown
from vinegate.core.quantity import write
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.courses import slowest
from vinegate.core.stop.direct import direct_a, path, peak_pu
from vinegate.core.stop.drive import closing_j, resistor
from vinegate.core.stop.friction import HOLD_FACTOR, brake_course, brake_torque
from vinegate.core.stop.release import release_gate
from vinegate.core.stop.row import StopRow
from vinegate.core.turning import Taken, point

_POWERED: Final = ("dc", "plugging", "drive", "regen", "armature")
_WARMER: Final = (1.0, 1.2)  # a winding's ohms from cold to hot
_ESTIMATED_OHMS: Final = (0.6, 1.6)  # of a winding that was not measured
_BORNE_TIMES: Final = 2.5
_ESTIMATE: Final = (0.9, 1.1)
_LOSSES: Final = (0.6, 1.2)  # of the heat of starts and stops, estimated
_TORQUE: Final = (0.7, 1.3)  # of the brake that is usual, where none is given
_USUAL_FACTOR: Final = 1.0  # the least holding factor that holds at all
_SLOWS_FIRST: Final = ("dc", "plugging", "drive", "regen", "drive-brake", "armature")


def gates_of(circuit: Circuit, asked: Asked, row: StopRow, start: Gate | None, started_by: str) -> list[Gate]:
    """What decides whether the way in use may stand."""
    gates = [_stops(asked, row)]
    if row.holds:
        if asked.must_hold:
            gates.append(_holds(asked))
        gates += _brake_heat(asked, row)
        gates.append(release_gate(asked, row.method, started_by))
    if row.rotor_kj and asked.per_hour:
        gates += _machine_heat(asked, row, start)
    if row.method == "drive":
        gates += _resistor(asked)
    if row.method == "dc" and asked.machine is not None:
        gates += [_direct_supply(asked)] if asked.stop.dc_supply_v is not None else []
        gates.append(_direct_times(asked))
    if asked.hoist and asked.papers is not None and asked.papers.hoist:
        gates.append(_article_610(asked))
    if row.method == "plugging":
        gates.append(_plugging_duty(circuit))
    return gates + _people(asked, row)


def _plugging_duty(circuit: Circuit) -> Gate:
    """The starter breaks locked-rotor current at every stop: it is sized for that only where its sheet says so."""
    said = circuit.protection.jogging == "yes"
    text = "Sized for plugging on the protection's sheet." if said else "It breaks locked-rotor current at every stop."
    source = "NEMA ICS 2 plugging ratings; IEC 60947-4-1:2018 AC-4"
    remedy = "Say “jogs or plugs” on the protection's sheet: the starter grows."
    return rule("stop.duty", "Starter's duty", said, text, source, remedy=remedy)


def _torque(asked: Asked) -> Taken:
    """The brake's torque at its own shaft, with its band where it is not given."""
    given = asked.stop.brake_torque_nm
    geared = asked.gear_ratio if asked.stop.brake_side == "driven" else 1.0
    value = brake_torque(asked) * geared if given is None else given
    low, high = (value, value) if given is not None else (_TORQUE[0] * value, _TORQUE[1] * value)
    return Taken(
        path="stop.brake_torque", label="brake torque", unit="N·m", value=value, low=low, high=high,
        how="" if given is not None else "assumed", given=given is not None,
    )  # fmt: skip


def _with_brake(asked: Asked, torque_nm: float) -> Asked:
    return replace(asked, stop=asked.stop.model_copy(update={"brake_torque_nm": torque_nm}))


def _stops(asked: Asked, row: StopRow) -> Gate:
    key, name, source = "stop.stop", "Stops as asked", "t = ∫ J dω/(T_brake + T_load)"
    text = f"{row.name[:1].upper()}{row.name[1:]}: {row.why}{_unasked(asked, row)}"
    remedy, within = "Another way, more torque, or more time.", asked.stop.within_s
    if row.verdict.usable and row.method == "brake" and asked.stop.brake_torque_nm is None and within is not None:
        return at_most(
            key, name, row.time_s, within, sentence=text, source=source, unit="s", remedy=remedy,
            rests=(_torque(asked),), room=lambda torque: within - _braked_s(asked, torque),
        )  # fmt: skip
    found = Answer(verdict=row.verdict, text=text, rule=source, turns=row.turns_at)
    gate = from_answer(key, name, found, remedy=remedy, needs=(_LACKS.get(row.method, "the machine's circuit"),))
    timed = row.time_s is not None and within is not None
    margin = (within or 0.0) - (row.time_s or 0.0) if timed else None
    return replace(gate, value=row.time_s, limit=within, margin=margin, unit="s" if row.time_s is not None else "")


def _braked_s(asked: Asked, torque_nm: float) -> float:
    other = _with_brake(asked, torque_nm)
    seconds = slowest([brake_course(other, turning).stops_s for turning in other.corners])
    return 1e6 if seconds is None else seconds


_LACKS: Final = {"armature": "the armature's volts, amperes and power"}


def _unasked(asked: Asked, row: StopRow) -> str:
    limits = (asked.stop.within_s, asked.stop.within_turns, asked.stop.distance_m)
    return "" if row.time_s is None or any(limit is not None for limit in limits) else " No time is asked."


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
    at = _torque(asked)
    geared, times = torque / at.value if at.value else 1.0, torque / load
    asks = f"{write(wanted)} {'asked' if typed else 'usual'}"
    text = f"{write(torque, 3)} N·m of brake against {write(load, 3)} N·m of load: {write(times, 3)} times, {asks}."
    return at_least(
        key, name, times, wanted, sentence=text, unit="×", rests=(factor, at),
        source="at the motor's shaft, without friction; linings brake between two thirds and all of their mark",
        room=lambda asks, brake: brake * geared / load - asks, remedy="A larger brake, its torque from its plate.",
    )  # fmt: skip


def _brake_heat(asked: Asked, row: StopRow) -> list[Gate]:
    """Heat of the stops against what the brake sheds for ever and takes at once."""
    kj = row.outside_kj if row.method == "brake" else closing_j(asked) / 1000
    gates = []
    if asked.per_hour:
        mean = kj * 1000 * asked.per_hour / 3600
        text = f"{write(asked.per_hour)} stops an hour, {write(kj, 3)} kJ each: {write(mean, 3)} W"
        rating = asked.stop.brake_power_w
        gates.append(_limited(asked, "stop.heat", "Brake's heat", mean, rating, "W", text, "the brake's heat rating"))
    if asked.stop.brake_stop_j is not None:
        text, most = f"{write(kj, 3)} kJ a stop", asked.stop.brake_stop_j / 1000
        gates.append(_limited(asked, "stop.stop_heat", "Brake's heat a stop", kj, most, "kJ", text, ""))
    return gates


def _limited(
    asked: Asked, key: str, name: str, value: float, limit: float | None, unit: str, text: str, need: str
) -> Gate:
    """Heat goes with what turns."""
    if limit is None:
        return unknown(key, name, (need,))
    return at_most(
        key, name, value, limit, sentence=f"{text} of {write(limit)} {unit}.", unit=unit,
        source="heat of the way in use, the heaviest load", rests=(asked.load.inertia, asked.load.rotor),
        room=lambda load, rotor: limit - value * asked.inertia_times(load, rotor),
        remedy="A larger one, fewer stops, or a longer ramp before it.",
    )  # fmt: skip


def _machine_heat(asked: Asked, row: StopRow, start: Gate | None) -> list[Gate]:
    """Mean loss of running, starts and stops against the rated loss, which the machine can shed for ever."""
    if start is None or start.value is None or asked.rated_loss_w is None:
        return []
    assert asked.per_hour
    each = 100 * 1000 * (row.rotor_kj + row.stator_kj) / 3600 / asked.rated_loss_w
    least, most = start.low or start.value, start.high or start.value
    share = start.value + each * asked.per_hour
    losses = Taken(label="the estimate of a stop's heat", value=1.0, low=_LOSSES[0], high=_LOSSES[1])
    fact = point(asked.per_hour, path="stop.per_hour", label="stops an hour")
    return [
        at_most(
            "stop.per_hour", "Starts and stops an hour", share, 100.0, unit="%",
            sentence=f"With {write(asked.per_hour)} stops an hour the mean loss is {share:.0f} % of the rated loss.",
            source="mean over the hour, starts included (as duty S5, IEC 60034-1:2022 4.2.5)", rests=(fact, losses),
            room=lambda stops, times: 100.0 - (most if times > 1 else least) - each * stops * times,
            remedy="Fewer stops, or a way that heats something else.",
        )
    ]  # fmt: skip


def _resistor(asked: Asked) -> list[Gate]:
    """The resistor between what the drive bears and what the stop needs, and its watts."""
    found, stop = resistor(asked), asked.stop
    key, name = "stop.ohms", "Braking resistor"
    if found.peak_w <= 0:
        text = "The load slows it by itself along this ramp: no resistor is needed."
        return [rule(key, name, True, text, "J·dω/dt ≤ T_L")]
    if stop.drive_least_ohm is None:
        return [unknown(key, name, ("the drive's least resistor",))]
    least, most, ohms = stop.drive_least_ohm, found.most_ohm, stop.resistor_ohm
    text = f"The stop needs at most {write(most, 3)} Ω, the drive bears no less than {write(least, 3)} Ω."
    fact = point(least, path="stop.drive_least", label="least resistor of the drive", unit="Ω")
    if ohms is not None:
        text = f"{text} {write(ohms, 3)} Ω chosen."
        fact = point(ohms, path="stop.resistor", label="braking resistor", unit="Ω")
    estimate = Taken(label="the estimate of what the stop gives back", value=1.0, low=_ESTIMATE[0], high=_ESTIMATE[1])
    gates = [
        at_most(
            key, name, fact.value, most, sentence=text, source="R ≤ U_B²/P_peak", unit="Ω", rests=(fact, estimate),
            room=lambda chosen, times: min(most * times - chosen, chosen - least),
            remedy="Another resistor, a longer ramp, or a larger drive.",
        )
    ]  # fmt: skip
    if asked.per_hour:
        mean = found.joules * asked.per_hour / 3600
        text = f"{write(found.joules / 1000, 3)} kJ a stop, {write(asked.per_hour)} an hour: {write(mean, 3)} W"
        rating = stop.resistor_power_w
        gates.append(_limited(asked, "stop.watts", "Resistor's heat", mean, rating, "W", text, "the resistor's rating"))
    return gates


def _direct_supply(asked: Asked) -> Gate:
    """Whether the transformer's volts drive the current."""
    assert asked.machine
    amps, _ = direct_a(asked)
    asks = path(asked)[1] * asked.machine.r1_ohm * amps
    volts = asked.stop.dc_supply_v or 0.0
    gives = 0.9 * volts
    fact = point(volts, path="stop.dc_supply", label="secondary volts", unit="V")
    ohms = 2 * asked.machine.r1_ohm
    low, high = _WARMER if asked.measured else _ESTIMATED_OHMS
    warm = Taken(
        path="machine.dc_resistance", label="the winding's ohms between two leads", unit="Ω", value=ohms,
        low=low * ohms, high=high * ohms, how="cold to hot" if asked.measured else "estimated", typed=_WARMER,
        given=False,
    )  # fmt: skip
    return at_least(
        "stop.direct", "Direct current's supply", gives, asks, unit="V", source="0.9·U_2 ≥ R·I_dc",
        sentence=f"The bridge gives {write(gives, 3)} V, the winding asks {write(asks, 3)} V for {write(amps, 3)} A.",
        rests=(fact, warm), room=lambda secondary, measured: 0.9 * secondary - asks * measured / ohms,
        remedy="A transformer of more volts, or less current.",
    )  # fmt: skip


def _direct_times(asked: Asked) -> Gate:
    """Multiples of rated current and torque that winding, shaft and driven machine have to bear: its maker's word."""
    amps, peak = direct_a(asked)[0], peak_pu(asked) or 0.0
    times = amps / asked.rated_a
    text = f"{write(times, 2)} × rated current, up to {write(peak, 2)} × rated torque at the shaft."
    met = times <= _BORNE_TIMES
    if not met:
        text += " Above 2.5 × ask its maker, and the driven machine's."
    return confirm("stop.direct_times", "Winding and shaft bear it", met, text, "usual bound of braking currents")


def _article_610(asked: Asked) -> Gate:
    """Cranes and hoists have an article of their own: disconnect in view, limit switch, conductors by duty."""
    text = (
        "A limit switch stops it at its upper end (610.55), its disconnect is in view (610.31); conductors by 610.14."
    )
    return confirm("stop.hoist", "Hoist by article 610", False, text, asked.papers.hoist if asked.papers else "")


def _people(asked: Asked, row: StopRow) -> list[Gate]:
    """The emergency stop by its category, and the guard while people can reach it."""
    gates = []
    if asked.stop.emergency is not None or asked.stop.people == "yes":
        gates.append(_emergency(asked, row))
    if asked.stop.people == "yes":
        seconds = asked.coasts_s if row.method in (*_POWERED, "coast") else row.time_s
        longest = "until it stands" if seconds is None else f"until it stands, {write(seconds, 3)} s when power is gone"
        text = f"People can reach it: its guard must stay locked {longest}. Prove standstill, or time the lock."
        source = "ISO 14119: unlocked at standstill, or by a timer longer than the longest stop"
        gates.append(confirm("stop.guard", "Guard", False, text, source))
    return gates


def _emergency(asked: Asked, row: StopRow) -> Gate:
    """What the category cannot be; what it may be is for the risk assessment, and so for the checklist."""
    key, name, category = "stop.emergency", "Emergency stop", asked.stop.emergency
    source = asked.papers.emergency if asked.papers else ""
    if category is None:
        return unknown(key, name, ("the emergency stop's category, by the risk assessment",))
    remedy = "By the risk assessment: another way, or a safety function around this one."
    if category == "1":
        if row.method not in _SLOWS_FIRST:
            text = "Category 1 slows it first and then cuts power; this way cuts power at once."
            return rule(key, name, False, text, source, remedy=remedy)
        text = "Category 1: power is cut once it stands, or after a time, by a function of the level asked."
        return confirm(key, name, False, text, source)
    return _at_once(asked, row, key, name, remedy)


def _at_once(asked: Asked, row: StopRow, key: str, name: str, remedy: str) -> Gate:
    """Category 0: what the brake or coasting does from full speed."""
    source = asked.papers.emergency if asked.papers else ""
    if row.method in (*_POWERED, "coast"):
        seconds, does = asked.coasts_s, "coasts"
    else:
        seconds = slowest([brake_course(asked, turning).stops_s for turning in asked.corners])
        does = "stops by its brake in"
    if seconds is None:
        text = "Category 0 cuts power at once: it does not stop then."
        return rule(key, name, False, text, source, remedy=remedy)
    within = asked.stop.within_s
    text = f"Category 0 cuts power at once: it {does} {write(seconds, 3)} s"
    if within is not None and seconds > within:
        return rule(key, name, False, f"{text}, {write(within, 3)} s asked.", source, remedy=remedy)
    if row.method in _POWERED:
        return confirm(key, name, False, f"{text}, longer than this way takes: no time is asked.", source)
    return rule(key, name, True, f"{text}.", source)
