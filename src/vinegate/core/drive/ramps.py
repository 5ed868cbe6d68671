"""Up and down by a ramp: the shortest there is, the amperes of the one that is set, what slows it on the way down."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.assumed import assume, band_of, preset
from vinegate.core.drive.bus import EFFICIENCY, GIVEN_BACK, LONGEST_S, bears_w, ramp_down, shortest_down_s, switching_v
from vinegate.core.drive.envelope import Laden
from vinegate.core.drive.fitted import circuit_of
from vinegate.core.drive.flux import Fluxed
from vinegate.core.drive.lowering import drives_it
from vinegate.core.drive.need import Need
from vinegate.core.drive.rating import Rating
from vinegate.core.grade import Gate, Verdict, at_least, at_most, check, rule
from vinegate.core.numbers import write, write_down
from vinegate.core.records import dataclass, replace
from vinegate.core.turning import Taken, Turns, less, more

_POINTS: Final = 17
_LOADS: Final = 3  # facts of what it turns: inertia of load and rotor, power
_TURNS: Final = 0.1  # of the way up: below it the load breaks away, and the drive's torque builds up meanwhile
_NEVER_S: Final = 1e6  # of a ramp that no time is long enough for, so that it stays a number
_OMEGA: Final = math.pi / 30
_SOURCE: Final = "t = ∫J·dω/(T − T_L): Leonhard, Control of Electrical Drives, 3rd ed., 1.3"
_EVEN: Final = "T = J·dω/dt + T_L, dω/dt one all the way: Leonhard, Control of Electrical Drives, 3rd ed., 1.3"


@dataclass(frozen=True, kw_only=True, eq=False)
class Path:
    """From rest to the fastest point: speeds, rad/s, the load there as taken, and the most torque for a short time."""

    omega: Array
    load_nm: Array
    most_nm: Array
    inertia_kgm2: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Ramps:
    """Seconds: `up_s` as set, the shortest on its limit all the way and the shortest even one; `down_s` as set, None
    where it coasts; the shortest without resistor.

    `peak_a` is the largest current on the way up, `peak_for_s` how long it lies above the drive's rating.
    """

    up_s: float
    shortest_up_s: float
    even_up_s: float
    down_s: float | None
    shortest_down_s: float
    peak_a: float
    peak_for_s: float
    rounding_s: float


def path_of(supplied: Laden, fastest_rpm: float) -> Path:
    need = supplied.need
    rpm = np.linspace(0.0, fastest_rpm, _POINTS)
    return Path(
        omega=rpm * _OMEGA,
        load_nm=need.load.torque_at(rpm),
        most_nm=supplied.short_at(rpm),
        inertia_kgm2=need.load.inertia_kgm2,
    )


def seconds(omega: Array, spare_nm: Array, inertia_kgm2: float) -> float:
    """`∫J·dω/T` by trapezoids; without end where the torque runs out."""
    if float(spare_nm.min()) <= 0:
        return math.inf
    return float(inertia_kgm2 * np.trapezoid(1 / spare_nm, omega))


def even_s(omega: Array, spare_nm: Array, inertia_kgm2: float) -> float:
    """The shortest ramp of one acceleration, `J·ω_1/T` by the least torque left over once it turns; without end where
    the torque runs out.
    """
    if float(spare_nm.min()) <= 0:
        return math.inf
    turning = omega >= _TURNS * omega[-1]
    return float(inertia_kgm2 * omega[-1] / spare_nm[turning].min())


def ramps_of(supplied: Laden, path: Path, rating: Rating) -> Ramps:
    """Put it on the sheet."""
    need = supplied.need
    sheet, start, stop = need.sheet, need.circuit.start, need.circuit.stop
    rounding = need.facts.rounding_s or 0.0
    heavy = need.facts.heaviest_pu or 1.0
    up = start.up_s
    shortest, even = _shortest_up(path, heavy)
    loss = assume(sheet, "drive_ramp_loss", "ramp_loss", "Losses that slow a ramp, of rated torque", "k_v")
    natural = seconds(path.omega, path.load_nm * (stop.light_pu or 1.0) + loss.value * need.rated_nm, path.inertia_kgm2)
    if math.isfinite(shortest):
        sheet.given("shortest_up", "Shortest run-up, on its limit all the way", "t_up", shortest, "s", source=_SOURCE,
                    provenance=loss.provenance)  # fmt: skip
    if math.isfinite(natural) and not drives_it(need.circuit, need.load.kind):
        sheet.given("shortest_down", "Shortest ramp down without a resistor", "t_dn", natural, "s",
                    source="load, and losses of motor and drive alone", provenance=loss.provenance)  # fmt: skip
    peak, over = _amps(supplied, path, max(up - rounding, 0.1), rating)
    slows = need.facts.stop_mode in ("ramp", "hold") or stop.drive_ramp_s is not None
    return Ramps(
        up_s=up,
        shortest_up_s=shortest,
        even_up_s=even,
        down_s=ramp_down(stop.drive_ramp_s, stop.within_s).value if slows else None,
        shortest_down_s=natural,
        peak_a=peak,
        peak_for_s=over,
        rounding_s=rounding,
    )


def _shortest_up(path: Path, heavy: float) -> tuple[float, float]:
    """On its limit all the way, and evenly."""
    spare = path.most_nm - heavy * path.load_nm
    return seconds(path.omega, spare, path.inertia_kgm2), even_s(path.omega, spare, path.inertia_kgm2)


def _near(supplied: Laden, path: Path) -> Fluxed:
    return supplied.near(path.omega[::2] / _OMEGA)


def _amps(
    supplied: Laden, path: Path, up_s: float, rating: Rating, near: Fluxed | None = None
) -> tuple[float, float]:  # fmt: skip
    """Largest current on the ramp, and for how long it is above the drive's rating, both of one motor."""
    need = supplied.need
    nm = _asks_nm(need, path, up_s)
    found = supplied.settle(path.omega[::2] / _OMEGA, nm[::2], rounds=2, first=near)[1]
    rated = (rating.rated_a or need.plate_a * need.motors) / need.motors
    over = float((found.amps > rated).mean()) * up_s
    return float(found.amps.max()), over


def _asks_nm(need: Need, path: Path, up_s: float) -> Array:
    """Torque that an even ramp asks, by speed."""
    return np.asarray((need.facts.heaviest_pu or 1.0) * path.load_nm + path.inertia_kgm2 * path.omega[-1] / up_s)


def ramped(supplied: Laden, path: Path, rating: Rating, ramps: Ramps) -> Ramps:
    """The same ramps with another rating of the drive: nothing is put on the sheet."""
    heavy = supplied.need.facts.heaviest_pu or 1.0
    peak, over = _amps(supplied, path, max(ramps.up_s - ramps.rounding_s, 0.1), rating)
    shortest, even = _shortest_up(path, heavy)
    return replace(ramps, shortest_up_s=shortest, even_up_s=even, peak_a=peak, peak_for_s=over)


def _unset(need: Need, ramps: Ramps) -> tuple[Taken, ...]:
    """The ramp up as a fact, where nobody set it: the usual one, or as much longer as it takes."""
    if need.circuit.start.drive_ramp_s is not None:
        return ()
    return more(Taken(path="start.drive_ramp", label="ramp up", unit="s", value=ramps.up_s, low=ramps.up_s,
                      high=max(LONGEST_S, ramps.up_s), how="usual"))  # fmt: skip


def up_gate(supplied: Laden, path: Path, ramps: Ramps) -> Gate:
    """The ramp up against the shortest that is even, as drives make it, over the bands of inertia and load."""
    need = supplied.need
    heavy = need.facts.heaviest_pu or 1.0
    known = len(need.breakdown)
    unset, fitted = _unset(need, ramps), circuit_of(need, float(path.most_nm.max()))

    load, rotor, power = need.load.inertia, need.load.rotor, need.load_power

    def room(inertia: float, own: float, asked: float, *others: float) -> float:
        most, breaks = path.most_nm, others[:known]
        if breaks and breaks[0] != need.breakdown[0].value:
            share = breaks[0] / need.breakdown[0].value
            most = supplied.short_at(path.omega / _OMEGA, share)
        spare = most / (others[-1] if fitted else 1.0) - heavy * asked / power.value * path.load_nm
        least = even_s(path.omega, spare, need.load.inertia_times(inertia, own) * path.inertia_kgm2)
        ramp = others[known] if unset else ramps.up_s
        return ramp - ramps.rounding_s - least if math.isfinite(least) else -_NEVER_S

    rounded = f", and {write(ramps.rounding_s, 2)} s of rounding" if ramps.rounding_s else ""
    least = f"{write(ramps.even_up_s, 3)} s" if math.isfinite(ramps.even_up_s) else "none that gets there"
    text = f"It is run up in {write(ramps.up_s, 3)} s; the shortest even one by torque and amperes is {least}{rounded}."
    return at_least(
        "drive.ramp_up",
        "Ramp up that can be followed",
        ramps.up_s,
        min(ramps.even_up_s + ramps.rounding_s, _NEVER_S),
        sentence=text,
        source=_EVEN,
        unit="s",
        remedy="A longer ramp, or a drive of more amperes.",
        rests=(*less(load, rotor, power), *need.breakdown, *unset, *fitted),
        room=room,
    )


def down_gate(supplied: Laden, path: Path, ramps: Ramps) -> Gate | None:
    """The ramp down: by load and losses alone, by a resistor, or it stretches and trips. None where it coasts, and
    without either where the load may drive it: what it gives back for ever is then the harder question.
    """
    need = supplied.need
    driven = drives_it(need.circuit, need.load.kind)
    if ramps.down_s is None:
        return None
    stop, down = need.circuit.stop, ramps.down_s
    key, name = "drive.ramp_down", "Ramp down that its bus bears"
    if need.facts.feeds_back:
        return rule(key, name, True, "Its front end feeds back to the line.", "the drive's front end")
    if stop.resistor_ohm is not None:
        return _into_resistor(need, path, ramps, stop.resistor_ohm, -1.0 if driven else stop.light_pu or 1.0)
    if driven:
        return None
    low, high = band_of("drive_ramp_loss")
    loss = Taken(
        label="losses that slow it", value=preset("drive_ramp_loss"), low=low, high=high, how="assumed", sense=1
    )
    load, rotor, power, ramp = need.load.inertia, need.load.rotor, need.load_power, _set_down(need)

    def room(inertia: float, own: float, asked: float, share: float, *longer: float) -> float:
        slows = path.load_nm * (stop.light_pu or 1.0) * asked / power.value + share * need.rated_nm
        least = seconds(path.omega, slows, need.load.inertia_times(inertia, own) * path.inertia_kgm2)
        return (longer[0] if longer else down) - least

    text = (
        f"It is run down in {write(down, 3)} s; load and losses alone take "
        f"{write(ramps.shortest_down_s, 3)} s: a shorter "
        "ramp lifts the bus, and it stretches or trips."
    )
    gate = at_least(
        key, name, down, ramps.shortest_down_s, sentence=text, source=_SOURCE, unit="s",
        remedy="A longer ramp, or a braking resistor: the stop's sheet sizes it.",
        rests=(*less(load, rotor), *more(power), loss, *ramp), room=room,
    )  # fmt: skip
    return gate if gate.verdict is not Verdict.FAILS else _with_resistor(need, path, down, gate)


def _with_resistor(need: Need, path: Path, down: float, gate: Gate) -> Gate:
    """To check where a resistor that nobody said would take it, whatever the load is within its bands."""
    load, stop = need.load, need.circuit.stop
    inertia = load.inertia_times(load.inertia.high, load.rotor.high) * path.inertia_kgm2
    slows = path.load_nm * (stop.light_pu or 1.0) * need.load_power.low / need.load_power.value
    shaft_w = float(((inertia * path.omega[-1] / down - slows) * path.omega).max()) / GIVEN_BACK.low
    ohm = (stop.bus_v or switching_v(need.line_v)) ** 2 / (EFFICIENCY * need.motors * shaft_w)
    if stop.drive_least_ohm is not None and ohm < stop.drive_least_ohm:
        return gate
    most = write_down(ohm)
    turns = Turns(path="stop.resistor", label="the braking resistor", passes=f"{most} Ω or less", passes_as=f"{most} Ω")
    text = f"{gate.sentence} No braking resistor is said. Passes with one of {most} Ω or less."
    return check(gate.key, gate.name, turns, text, gate.source, remedy=gate.remedy)


def _set_down(need: Need) -> tuple[Taken, ...]:
    """The ramp down as a fact, where nobody set it."""
    ramp = ramp_down(need.circuit.stop.drive_ramp_s, need.circuit.stop.within_s)
    return (ramp,) if ramp.wide else ()


def _into_resistor(need: Need, path: Path, ramps: Ramps, ohm: float, share: float) -> Gate:
    """`t = J·ω_0/min(U_B²/(R·η·ω) + T_L)`: no shorter than the resistor takes at any speed.

    `share` of the load's torque slows it; below nought it drives.
    """
    stop, down = need.circuit.stop, ramps.down_s or 0.0
    takes_w = bears_w(stop.bus_v, need.line_v, ohm) / EFFICIENCY / need.motors
    load, rotor, power = need.load.inertia, need.load.rotor, need.load_power
    omega, slows = path.omega[1:], path.load_nm[1:] * share

    def shortest(inertia: float, own: float, asked: float, times: float = 1.0) -> float:
        turned = need.load.inertia_times(inertia, own) * path.inertia_kgm2
        return min(shortest_down_s(omega, slows * asked / power.value, turned, times * takes_w), _NEVER_S)

    least, ramp = shortest(load.value, rotor.value, power.value), _set_down(need)

    def room(inertia: float, own: float, asked: float, times: float, *longer: float) -> float:
        return (longer[0] if longer else down) - shortest(inertia, own, asked, times)

    text = f"It is run down in {write(down, 3)} s; the shortest that {write(ohm, 3)} Ω take is {write(least, 3)} s."
    if least >= _NEVER_S:
        text = f"Run down in {write(down, 3)} s: {write(ohm, 3)} Ω take less than its load gives back for ever."
    return at_least(
        "drive.ramp_down", "Ramp down that its bus bears", down, least, source=_SOURCE, unit="s",
        sentence=text,
        rests=(*less(load, rotor), *(more if share > 0 else less)(power), GIVEN_BACK, *ramp),
        room=room,
        remedy="A longer ramp, or fewer ohms within the drive's least: the stop's sheet sizes them.",
    )  # fmt: skip


def overload_gates(supplied: Laden, path: Path, rating: Rating, ramps: Ramps) -> list[Gate]:
    """Peak of the ramp below the drive's overload, and for no longer than it lasts, over the bands of what it turns."""
    need, key, name = supplied.need, "drive.overload", "Drive's overload on the ramp"
    source = "NEMA ICS 7; IEC 61800-2; overload, its time and its period by the maker"
    limit = rating.limit_a
    if rating.rated_a is None or limit is None:
        return []
    up_s, peak = max(ramps.up_s - ramps.rounding_s, 0.1), ramps.peak_a * need.motors
    fitted, near = circuit_of(need, float(_asks_nm(need, path, up_s).max())), _near(supplied, path)
    loads = (*less(need.load.inertia, need.load.rotor, need.load_power), *_unset(need, ramps))
    rests = (*loads, *fitted)

    def room(inertia: float, own: float, asked: float, *others: float) -> float:
        most, over, unset = ramps.peak_a, ramps.peak_for_s, others[: len(loads) - _LOADS]
        if (inertia, own, asked, *unset) != tuple(one.value for one in loads):
            turned = need.load.inertia_times(inertia, own) * path.inertia_kgm2
            loaded = asked / need.load_power.value * path.load_nm
            ramp = max(unset[0] - ramps.rounding_s, 0.1) if unset else up_s
            most, over = _amps(supplied, replace(path, load_nm=loaded, inertia_kgm2=turned), ramp, rating, near)
        most *= others[-1] if fitted else 1.0
        return min(1 - most * need.motors / limit, 1 - over / rating.overload_s)

    if peak <= limit and ramps.peak_for_s > rating.overload_s:
        text = (
            f"The ramp lies {write(ramps.peak_for_s, 3)} s above the drive's rating; {write(rating.overload_s, 3)} "
            "s are borne."
        )
        remedy = "A ramp of less current, or a drive of more amperes."
        return [at_most(key, name, ramps.peak_for_s, rating.overload_s, sentence=text, source=source, unit="s",
                        remedy=remedy, rests=rests, room=room)]  # fmt: skip
    text = (
        f"On the ramp up {write(peak, 3)} A at most; {write(limit, 3)} A are borne for "
        f"{write(rating.overload_s, 3)} s in every {write(rating.period_s, 3)} s."
    )
    return [at_most(key, name, peak, limit, sentence=text, source=source, unit="A",
                    remedy="A longer ramp, or a drive of more amperes.", rests=rests, room=room)]  # fmt: skip
