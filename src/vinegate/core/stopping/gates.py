"""The gates of the way in use."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.gate import Gate, Verdict, unknown
from vinegate.core.quantity import write
from vinegate.core.stopping.asked import Asked
from vinegate.core.stopping.courses import slowest
from vinegate.core.stopping.direct import direct_a, path
from vinegate.core.stopping.drive import closing_j, resistor
from vinegate.core.stopping.friction import HOLD_FACTOR, brake_course, brake_torque
from vinegate.core.stopping.release import release_gate
from vinegate.core.stopping.row import StopRow

_POWERED: Final = ("dc", "plugging", "drive", "regen", "armature")
_WARMER: Final = 1.2  # a winding's ohms from cold to hot, and the estimate of them
_ESTIMATE: Final = 1.1
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
    if row.method == "dc" and asked.stop.dc_supply_v is not None and asked.machine is not None:
        gates.append(_direct_supply(asked))
    if row.method == "plugging":
        gates.append(_plugging_duty(circuit))
    return gates + _people(asked, row)


def _plugging_duty(circuit: Circuit) -> Gate:
    """The starter breaks locked-rotor current at every stop: it is sized for that only where its sheet says so."""
    said = circuit.protection.jogging == "yes"
    text = "Sized for plugging on the protection's sheet." if said else "It breaks locked-rotor current at every stop."
    return Gate(
        key="brake.duty",
        name="Starter's duty",
        verdict=Verdict.OPEN if said else Verdict.SHUT,
        sentence=text,
        source="NEMA ICS 2 plugging ratings; IEC 60947-4-1:2018 AC-4",
        remedy="" if said else "Say “jogs or plugs” on the protection's sheet: the starter grows.",
    )


def _stops(asked: Asked, row: StopRow) -> Gate:
    within = asked.stop.within_s
    timed = row.time_s is not None and within is not None
    remedy = "Another way, more torque, or more time."
    verdict, assumed = row.verdict, ""
    if row.holds and asked.stop.brake_torque_nm is None and verdict is Verdict.OPEN:
        verdict, remedy, assumed = Verdict.AJAR, "Give its torque, from its plate.", " Its torque is assumed."
    if row.method == "plugging" and row.verdict is Verdict.AJAR:
        remedy = "A zero-speed switch, with reversal locked out until it stands."
    return Gate(
        key="brake.stop",
        name="Stops as asked",
        verdict=verdict,
        sentence=f"{row.name[:1].upper()}{row.name[1:]}: {row.why}{assumed}{_unasked(asked, row)}",
        source="t = ∫ J dω/(T_brake + T_load)",
        value=row.time_s,
        limit=within,
        margin=(within or 0.0) - (row.time_s or 0.0) if timed else None,
        unit="s" if row.time_s is not None else "",
        remedy="" if verdict is Verdict.OPEN else remedy,
        needs=(_LACKS.get(row.method, "the machine's circuit"),) if row.verdict is Verdict.UNKNOWN else (),
        estimated=True,
    )


_LACKS: Final = {"armature": "the armature's volts, amperes and power"}


def _unasked(asked: Asked, row: StopRow) -> str:
    limits = (asked.stop.within_s, asked.stop.within_turns, asked.stop.distance_m)
    return "" if row.time_s is None or any(limit is not None for limit in limits) else " No time is asked."


def _holds(asked: Asked) -> Gate:
    """Brake torque over the load's, both at the motor's shaft."""
    load = max(-float(asked.heavy.load_nm.min()), 0.0)
    wanted, torque = asked.stop.hold_factor or HOLD_FACTOR, brake_torque(asked)
    if load <= 0:
        return unknown("brake.hold", "Holds at rest", ("the torque with which the load drives",))
    times = torque / load
    verdict = (
        Verdict.SHUT
        if times < 1
        else Verdict.AJAR
        if times < wanted or asked.stop.brake_torque_nm is None
        else Verdict.OPEN
    )
    return Gate(
        key="brake.hold",
        name="Holds at rest",
        verdict=verdict,
        sentence=f"{write(torque, 3)} N·m of brake against {write(load, 3)} N·m of load: {write(times, 3)} times.",
        source="at the motor's shaft, without friction; linings brake between two thirds and all of their mark",
        value=times,
        limit=wanted,
        margin=times - wanted,
        unit="×",
        remedy="" if verdict is Verdict.OPEN else "A larger brake, its torque from its plate.",
        estimated=True,
    )


def _brake_heat(asked: Asked, row: StopRow) -> list[Gate]:
    """Heat of the stops against what the brake sheds for ever and takes at once."""
    kj = row.outside_kj if row.method == "brake" else closing_j(asked) / 1000
    gates = []
    if asked.per_hour:
        mean = kj * 1000 * asked.per_hour / 3600
        text = f"{write(asked.per_hour)} stops an hour, {write(kj, 3)} kJ each: {write(mean, 3)} W"
        gates.append(
            _limited("brake.heat", "Brake's heat", mean, asked.stop.brake_power_w, "W", text, "the brake's heat rating")
        )
    if asked.stop.brake_stop_j is not None:
        text = f"{write(kj, 3)} kJ a stop"
        gates.append(
            _limited("brake.stop_heat", "Brake's heat a stop", kj, asked.stop.brake_stop_j / 1000, "kJ", text, "")
        )
    return gates


def _limited(key: str, name: str, value: float, limit: float | None, unit: str, text: str, need: str) -> Gate:
    if limit is None:
        return unknown(key, name, (need,))
    verdict = Verdict.SHUT if value > limit else Verdict.AJAR if value > 0.8 * limit else Verdict.OPEN
    return Gate(
        key=key,
        name=name,
        verdict=verdict,
        sentence=f"{text} of {write(limit)} {unit}.",
        source="heat of the way in use, the heaviest load",
        value=value,
        limit=limit,
        margin=limit - value,
        unit=unit,
        remedy="" if verdict is Verdict.OPEN else "A larger one, fewer stops, or a longer ramp before it.",
        estimated=True,
    )


def _machine_heat(asked: Asked, row: StopRow, start: Gate | None) -> list[Gate]:
    """Mean loss of running, starts and stops against the rated loss, which the machine can shed for ever."""
    if start is None or start.value is None or asked.rated_loss_w is None:
        return []
    assert asked.per_hour
    stops = 100 * asked.per_hour * 1000 * (row.rotor_kj + row.stator_kj) / 3600 / asked.rated_loss_w
    share = start.value + stops
    verdict = Verdict.SHUT if share > 115 else Verdict.AJAR if share > 100 else Verdict.OPEN
    return [
        Gate(
            key="brake.per_hour",
            name="Starts and stops an hour",
            verdict=verdict,
            sentence=f"With {write(asked.per_hour)} stops an hour the mean loss is {share:.0f} % of the rated loss.",
            source="mean over the hour, starts included (as duty S5, IEC 60034-1:2022 4.2.5)",
            value=share,
            limit=100.0,
            margin=100 - share,
            unit="%",
            remedy="" if verdict is Verdict.OPEN else "Fewer stops, or a way that heats something else.",
            estimated=True,
        )
    ]


def _resistor(asked: Asked) -> list[Gate]:
    """The resistor between what the drive bears and what the stop needs, and its watts."""
    found, stop = resistor(asked), asked.stop
    name = "Braking resistor"
    if found.peak_w <= 0:
        text = "The load slows it by itself along this ramp: no resistor is needed."
        return [
            Gate(
                key="brake.ohms", name=name, verdict=Verdict.OPEN, sentence=text, source="J·dω/dt ≤ T_L", estimated=True
            )
        ]
    if stop.drive_least_ohm is None:
        return [unknown("brake.ohms", name, ("the drive's least resistor",))]
    least, most, ohms = stop.drive_least_ohm, found.most_ohm, stop.resistor_ohm
    text = f"The stop needs at most {write(most, 3)} Ω, the drive bears no less than {write(least, 3)} Ω."
    verdict = _within(least, least, most)
    if ohms is not None:
        text = f"{text} {write(ohms, 3)} Ω chosen."
        verdict = _within(least, ohms, most)
    gates = [
        Gate(
            key="brake.ohms",
            name=name,
            verdict=verdict,
            sentence=text,
            source="R ≤ U_B²/P_peak",
            remedy="" if verdict is Verdict.OPEN else "Another resistor, a longer ramp, or a larger drive.",
            estimated=True,
        )
    ]
    if asked.per_hour:
        mean = found.joules * asked.per_hour / 3600
        text = f"{write(found.joules / 1000, 3)} kJ a stop, {write(asked.per_hour)} an hour: {write(mean, 3)} W"
        gates.append(
            _limited("brake.watts", "Resistor's heat", mean, stop.resistor_power_w, "W", text, "the resistor's rating")
        )
    return gates


def _within(least: float, ohms: float, most: float) -> Verdict:
    """The most is an estimate: within a tenth of it, look again."""
    if not least <= ohms <= most:
        return Verdict.SHUT
    return Verdict.AJAR if ohms > most / _ESTIMATE else Verdict.OPEN


def _direct_supply(asked: Asked) -> Gate:
    """Whether the transformer's volts drive the current."""
    assert asked.machine
    amps, _ = direct_a(asked)
    asks = path(asked)[1] * asked.machine.r1_ohm * amps
    gives = 0.9 * (asked.stop.dc_supply_v or 0.0)
    verdict = Verdict.SHUT if gives < asks else Verdict.AJAR if gives < _WARMER * asks else Verdict.OPEN
    return Gate(
        key="brake.direct",
        name="Direct current's supply",
        verdict=verdict,
        sentence=f"The bridge gives {write(gives, 3)} V, the winding asks {write(asks, 3)} V for {write(amps, 3)} A.",
        source="0.9·U_2 ≥ R·I_dc",
        value=gives,
        limit=asks,
        margin=gives - asks,
        unit="V",
        remedy="" if verdict is Verdict.OPEN else "A transformer of more volts, or less current.",
        estimated=True,
    )


def _people(asked: Asked, row: StopRow) -> list[Gate]:
    """The emergency stop by its category, and the guard while people can reach it."""
    gates = []
    if asked.stop.emergency is not None or asked.stop.people == "yes":
        gates.append(_emergency(asked, row))
    if asked.stop.people == "yes":
        seconds = asked.coasts_s if row.method in (*_POWERED, "coast") else row.time_s
        longest = "until it stands" if seconds is None else f"until it stands, {write(seconds, 3)} s when power is gone"
        gates.append(
            Gate(
                key="brake.guard",
                name="Guard",
                verdict=Verdict.AJAR,
                sentence=f"People can reach it: its guard must stay locked {longest}.",
                source="ISO 14119: unlocked at standstill, or by a timer longer than the longest stop",
                remedy="Prove standstill, or time the lock, and test it.",
                estimated=True,
            )
        )
    return gates


def _emergency(asked: Asked, row: StopRow) -> Gate:
    category, name = asked.stop.emergency, "Emergency stop"
    if category is None:
        return unknown("brake.emergency", name, ("the emergency stop's category, by the risk assessment",))
    verdict, text = _first(asked, row) if category == "1" else _at_once(asked, row)
    return Gate(
        key="brake.emergency",
        name=name,
        verdict=verdict,
        sentence=text,
        source="IEC 60204-1:2016 9.2.2 and 9.2.3.4.2",
        remedy=""
        if verdict is Verdict.OPEN
        else "By the risk assessment: another way, or a safety function around this one.",
        estimated=True,
    )


def _first(asked: Asked, row: StopRow) -> tuple[Verdict, str]:
    if row.method not in _SLOWS_FIRST:
        return Verdict.SHUT, "Category 1 slows it first and then cuts power; this way cuts power at once."
    text = "Category 1: power is cut once it stands, or after a time, by a function of the level the assessment asks."
    return Verdict.AJAR, text


def _at_once(asked: Asked, row: StopRow) -> tuple[Verdict, str]:
    """Category 0: what the brake or coasting does from full speed."""
    if row.method in (*_POWERED, "coast"):
        seconds, does = asked.coasts_s, "coasts"
    else:
        seconds = slowest([brake_course(asked, turning).stops_s for turning in asked.corners])
        does = "stops by its brake in"
    if seconds is None:
        return Verdict.SHUT, "Category 0 cuts power at once: it does not stop then."
    within = asked.stop.within_s
    text = f"Category 0 cuts power at once: it {does} {write(seconds, 3)} s"
    if within is not None and seconds > within:
        return Verdict.SHUT, f"{text}, {write(within, 3)} s asked."
    if row.method in _POWERED:
        return Verdict.AJAR, f"{text}, longer than this way takes: no time is asked."
    return Verdict.OPEN, f"{text}."
