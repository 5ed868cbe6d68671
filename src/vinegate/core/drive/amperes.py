"""The drive's amperes against the motor's: for ever, on its ramps, on one phase, with several motors."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Final

import numpy as np

from vinegate.core.drive.duty import Row
from vinegate.core.drive.envelope import Laden
from vinegate.core.drive.facts import LINE_AND_NEUTRAL
from vinegate.core.drive.need import Need, stamped
from vinegate.core.drive.rating import Rating, settled
from vinegate.core.fed import fed_drive, two_lines
from vinegate.core.grade import Gate, Verdict, at_least, at_most, check, confirm, rule, unknown
from vinegate.core.numbers import write, write_down, write_up
from vinegate.core.plate.protector import opens_by_itself
from vinegate.core.records import dataclass, replace
from vinegate.core.remedy import either
from vinegate.core.turning import Taken, Turns, less, more

_TENTH: Final = 1.1
_CAUTIOUS: Final = 0.9
_INSTANT: Final = (1.5, 2.0)
LEAST_MOTOR_PU: Final = 0.2
"""Of what electronics are rated for, the least motor: a maker's figure, assumed."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """Amperes that all motors ask of the drive, for ever: the larger of the points' and the plate's."""

    amps: float
    by_points: bool


def asked_of(need: Need, rows: Sequence[Row]) -> Asked:
    """Put it on the sheet: never less than the plate's, which the rating's label takes for granted."""
    sheet = need.sheet
    plate = sheet.given(
        "motor_a", "Motor's amperes, as strapped", "I_N", need.plate_a, "A", **stamped(need.rated.current)
    )
    peak = max(rows, key=lambda row: row.amps)
    worked = sheet.given(
        "points_a",
        "Most amperes at an operating point",
        "I_p",
        peak.amps,
        "A",
        provenance=need.machine.inside_provenance,
        source="the machine's circuit at that frequency and torque",
    )
    count = sheet.given("motors", "Motors on it", "m", float(need.motors), "")
    total = sheet.work(
        "asked_a",
        "Amperes asked of the drive",
        "I_d",
        need.motors * max(peak.amps, need.plate_a),
        "A",
        formula="m·I_p" if peak.amps > need.plate_a else "m·I_N",
        inputs=(count, worked, plate),
        source="never below the plate's",
    )
    return Asked(amps=total.value, by_points=peak.amps > need.plate_a)


def asked_at(supplied: Laden, rows: Sequence[Row], times: float) -> float:
    """Amperes asked with so many times the load's power, at the points whose torque follows from it."""
    need = supplied.need
    rpm = np.array([row.point.rpm for row in rows])
    nm = np.array([row.point.nm * (1.0 if row.point.stated else times) for row in rows])
    return need.motors * max(float(supplied.settle(rpm, nm)[1].amps.max()), need.plate_a)


def soft_power(need: Need, rows: Sequence[Row]) -> tuple[Taken, ...]:
    """The load's power, where it has a band and the points' torques go with it."""
    return less(need.load_power) if need.load_power.wide and not all(row.point.stated for row in rows) else ()


def _said(need: Need, rating: Rating, asked: Asked, gives_a: float, plate_a: float, word: str) -> str:
    several = ""
    if need.motors > 1:
        several = f" With the tenth more that some ask of several motors: {write(_TENTH * asked.amps, 3)} A."
    left = "" if rating.left.value == 1 else f", {write(plate_a, 3)} A on its plate"
    given = f"the drive gives {write(gives_a, 3)} A at {word} duty{left}."
    return f"{write(asked.amps, 3)} A are asked for ever; {given}{several}"


def current_gates(supplied: Laden, rows: Sequence[Row], rating: Rating, asked: Asked) -> list[Gate]:
    """By amperes, not horsepower; nothing is known of a drive that is not chosen."""
    need = supplied.need
    key, name = "drive.current", "Drive's amperes"
    source = "NEMA ICS 7; IEC 61800-2; chosen by output current"
    word = "heavy" if rating.heavy else "normal"
    found = _place_gates(rating)
    if rating.rated_a is None or rating.plate_a is None:
        return [unknown(key, name, (f"the drive's rated amperes, {word} duty",)), *found]
    text = _said(need, rating, asked, rating.rated_a, rating.plate_a, word)
    plate_a = rating.plate_a

    soft = soft_power(need, rows)

    def room(share: float, *power: float) -> float:
        return plate_a * share - (asked_at(supplied, rows, power[0] / soft[0].value) if power else asked.amps)

    gate = at_most(key, name, asked.amps, rating.rated_a, sentence=text, source=source, unit="A",
                   rests=(*more(rating.left), *soft), room=room)  # fmt: skip
    heaviest = [one.high for one in soft]
    gate = settled(gate, rating, lambda share: room(share, *heaviest))
    if gate.verdict is not Verdict.PASSES:
        most_a = (plate_a * rating.left.low - room(rating.left.low, *heaviest)) / rating.left.low
        gate = replace(gate, remedy=f"A drive of {write_up(most_a)} A or more at {word} duty.")
    path = f"drive.{'heavy' if rating.heavy and need.facts.heavy_a is not None else 'rated'}"
    return [gate, *too_large("drive.too_large", path, "drive", need.motors * need.plate_a, rating.plate_a), *found]


def too_large(key: str, path: str, what: str, amps: float, rated_a: float) -> tuple[Gate, ...]:
    """Electronics so large that they neither control nor protect a motor of these amperes; none where they do."""
    if amps >= LEAST_MOTOR_PU * rated_a:
        return ()
    most = write_down(amps / LEAST_MOTOR_PU)
    turns = Turns(path=path, label=f"{what}'s amperes", passes=f"under {most} A", passes_as=f"{write_up(2 * amps)} A")
    text = (
        f"Its motor's {write(amps, 3)} A are {100 * amps / rated_a:.0f} % of the {what}'s {write(rated_a, 3)} A: so "
        "little of what it measures neither controls the motor nor protects it. "
        f"Passes for any {turns.label} {turns.passes}."
    )
    source = "the least motor of electronics is usually a fifth of them; assumed"
    remedy = f"A smaller {what}; or its maker's least motor current, and an overload relay of the motor's own."
    return (check(key, f"{what.capitalize()} fits its motor", turns, text, source, remedy=remedy),)


def _place_gates(rating: Rating) -> list[Gate]:
    if not rating.hopeless:
        return []
    text = f"{rating.hopeless}"
    return [rule("drive.derating", "Drive used within its rating", False, text, "its maker's ratings",
                 remedy="Its maker's word, another drive, or another place.")]  # fmt: skip


def _three_of_two(need: Need, key: str, name: str) -> Gate:
    """A drive on two lines and a neutral that is not said to take one phase."""
    if need.facts.phases is None:
        return unknown(key, name, need.sheet.needs([("drive.phases", "the drive's input")], "the drive"))
    text = "Its board has two lines and a neutral; the drive takes three."
    return rule(key, name, False, text, "two lines and a neutral: one phase", remedy="A drive with single-phase input.")


def one_phase_gate(need: Need) -> Gate | None:
    """A three-phase bridge on one phase only by its maker's word; on two lines of a supply nothing else will do."""
    key, name = "drive.single_phase_input", "Drive fed by one phase"
    if not need.facts.one_phase:
        return _three_of_two(need, key, name) if two_lines(need.job, need.circuit) else None
    said, where = need.facts.single_phase_a is not None, "of two lines"
    if need.facts.phases == LINE_AND_NEUTRAL:
        where = "from a line to neutral"
        if fed_drive(need.job, need.circuit) is None:
            text = "Its board has no neutral."
            return rule(key, name, False, text, "a line and neutral", remedy="A drive for two lines, or for three.")
    text = "Its maker gives its output on one phase" if said else "Nothing says that it may run on one phase"
    text += f": {write(need.line_v, 3)} V {where}."
    return rule(
        key,
        name,
        said,
        text,
        "input √3 times as large, bus rippling at twice the line's frequency",
        remedy="Its maker's output on one phase, with phase-loss detection off; else about twice the size.",
    )


def several_gates(need: Need, supplied: Laden, rating: Rating) -> list[Gate]:
    """Several motors: each its own overload; one that joins while the others run is a start on the drive's volts."""
    if need.motors < 2:
        return []
    key, name = "drive.own_overloads", "Each motor its own overload"
    said = need.facts.own_overloads
    source = "NFPA 70:2023 430.124(C); IEC 60204-1:2016 7.3.1"
    if said is None:
        found = [unknown(key, name, ("whether each motor has its own overload",))]
    else:
        text = (
            "Each has its own overload."
            if said == "yes"
            else "The drive sees the sum alone: one motor may burn unseen."
        )
        found = [
            rule(key, name, said == "yes", text, source, remedy="An overload relay for each, its contact in the stop.")
        ]
    found.append(confirm("drive.leads", "Each motor's own lead", False, _LEADS, _BRANCHES))
    if need.facts.joins == "yes":
        found.append(_joining(need, supplied, rating))
    return found


_LEADS: Final = (
    "Where the lead parts, each motor's is of a size that the device ahead protects, or has a device of its own there: "
    "the drive's limit sees all of them, not one."
)
_BRANCHES: Final = "NFPA 70:2023 430.53(D); IEC 60364-4-43:2008 433.2, 434.2"


def _joining(need: Need, supplied: Laden, rating: Rating) -> Gate:
    """Running currents and a locked rotor, as phasors, at full frequency: about 70° behind against the running 30°."""
    key, name = "drive.multi", "One motor joins the others"
    if rating.plate_a is None:
        return unknown(key, name, ("the drive's rated amperes",))
    locked = _locked_a(need, supplied)
    running = (need.motors - 1) * need.plate_a
    total = abs(running * np.exp(-1j * math.radians(30)) + locked * np.exp(-1j * math.radians(70)))
    given = need.facts.reserve_a
    low, high = (given, given) if given else tuple(times * rating.plate_a for times in _INSTANT)
    limit = Taken(path="" if given else "drive.reserve", label="the drive's instantaneous limit", unit="A",
                  value=(low + high) / 2, low=low, high=high, how="" if given else "assumed")  # fmt: skip
    text = f"{need.motors - 1} running and one at rest draw {write(float(total), 3)} A together as it is switched in."
    return at_most(
        key,
        name,
        float(total),
        limit.value,
        sentence=text,
        source="phasor sum at the drive's volts and frequency",
        unit="A",
        remedy="Start them together, or a drive for each.",
        rests=more(limit),
        room=lambda most: most - float(total),
    )


def _locked_a(need: Need, supplied: Laden) -> float:
    """Amperes of one at rest at the drive's most volts."""
    at_rest = need.machine.locked_rotor_current_a or 6 * need.plate_a
    return at_rest * need.ratio * supplied.law.most_v / need.plate_v


def breakaway_gates(supplied: Laden) -> list[Gate]:
    """Torque from rest against the load's breakaway; and a boost that would cook the motor as it idles."""
    need, law = supplied.need, supplied.law
    most, hertz = supplied.from_rest
    breakaway, power = need.load.breakaway, need.load_power
    nm = need.load.torque_nm * breakaway.value / 100
    breaks = need.breakdown
    how = "flux kept by its control" if law.vector else f"{write(law.boost_v, 3)} V of boost"
    gate = at_least(
        "drive.breakaway",
        "Breaks away",
        most,
        nm,
        sentence=(
            f"At {write(hertz, 2)} Hz it gives {write(most, 3)} N·m from rest, with {how}; the load "
            f"breaks away at {write(nm, 3)} N·m."
        ),
        source="the machine's circuit at rest; the drive's overload amperes",
        unit="N·m",
        remedy=either(*([] if law.vector else ["more boost", "vector control"]), "a drive of more amperes"),
        rests=(*less(breakaway, power), *breaks),
        room=lambda share, asked, *at: (
            most * min(at[0] / breaks[0].value if at else 1.0, 1.0)
            - need.load.torque_nm * share / 100 * asked / power.value
        ),
    )
    return [gate, *([] if law.vector else [_idle(supplied)])]


def _idle(supplied: Laden) -> Gate:
    """Idle amperes at the slowest the law is used: saturation is left out, the real ones are higher."""
    need = supplied.need
    k = np.array([0.05, 0.1, 0.2])
    fed = need.turning.at(k).fed(supplied.law.volts(k), most=math.inf)
    amps = float(fed.amps[:, 0].max())
    limit = _CAUTIOUS * need.plate_a
    text = f"Idling at low speed it draws {write(amps, 3)} A, without saturation; {write(limit, 3)} A are borne."
    return at_most(
        "drive.boost",
        "Boost not too much",
        amps,
        limit,
        sentence=text,
        unit="A",
        source="U/(√3·|R_1+jk(X_1+X_m)|), saturation left out",
        remedy="Less boost.",
        rests=(Taken(label="saturation", value=amps, low=amps, high=1.15 * amps, how="estimated", sense=-1),),
        room=lambda at: limit - at,
    )


def thermal_gate(need: Need, rows: Sequence[Row]) -> Gate | None:
    """Where it works below half speed at much torque, something that knows the speed must watch the winding."""
    slow = [row for row in rows if row.point.rpm < 0.5 * need.rated_rpm and row.point.nm > 0.5 * need.rated_nm]
    if not slow:
        return None
    key, name = "drive.thermal", "Winding watched at low speed"
    source = "NFPA 70:2023 430.126; IEC 61800-5-1: a model that knows the speed, or a sensor in the winding"
    sensor, aware = need.circuit.protection.thermistor, need.facts.speed_aware
    if sensor == "yes":
        return rule(key, name, True, "Sensors in the winding watch it.", source)
    if aware == "yes" and need.motors == 1:
        return rule(key, name, True, "The drive's overload knows the speed.", source)
    if opens_by_itself(need.circuit.plate.thermal_protection):
        return rule(key, name, True, "Its own protector watches the winding at every speed.", source)
    if sensor == "no" or aware == "no":
        if sensor is None:
            return unknown(key, name, ("thermistors in the winding",))
        if aware is None and need.motors == 1:
            return unknown(key, name, ("whether the drive's overload knows the speed",))
        text = "At low speed and much torque neither a sensor nor an overload that knows the speed watches it."
        return rule(key, name, False, text, source, remedy="Sensors in the winding, wired to the drive.")
    return unknown(key, name, ("thermistors in the winding", "whether the drive's overload knows the speed"))
