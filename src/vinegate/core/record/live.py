"""Gates of what is measured while it starts, and once it is warm."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Final

from vinegate.core.grade import Gate, at_most, breaks, changes, from_answer, meets, unknown
from vinegate.core.numbers import write
from vinegate.core.plate.insulation import AMBIENT_C, COPPER_K, SERVICE_FACTOR_K, class_letter, rise_allowed_k
from vinegate.core.record.compared import DIP_POINTS, DIP_TIMES, TIME_BAND
from vinegate.core.record.dead import measured
from vinegate.core.record.facts import Condition, Starting
from vinegate.core.record.found import Side
from vinegate.core.record.rerun import Again
from vinegate.core.sheet import Sheet
from vinegate.core.tables import load

_READ_BAND: Final = {"waveform": 0.03, "fast": 0.05, "slow": 1.0, "eye": 0.25}
_ALARM_C: Final = 90.0
_STOP_C: Final = 100.0
_SERVICE_FACTOR: Final = 1.15
_RISES: Final = 1.02
"""So much above the volts before the least may be read: more is no reading of them."""


def starting(sheet: Sheet, form: Starting, plan: Side, rerun: Again | None) -> Iterator[Gate]:
    """Plateau, time and dip against the plan, as it was run again with the measured volts where that can be."""
    row = plan.start.row
    if all(value is None for value in (form.plateau_a, form.time_s, form.least_v, form.changeover_s, form.peak_a)):
        return
    if row is None:
        yield unknown("record.start_current", "Start against plan", ("a start that can be planned",))
        return
    if form.plateau_a is not None:
        measured(sheet, "plateau", "Held while starting", "I_p", form.plateau_a, "A", form.simulated)
        yield _plateau(form, plan, rerun.plateau_a if rerun else None)
    if form.peak_a is not None:
        yield from _peak(form, form.peak_a, plan)
    if form.time_s is not None:
        measured(sheet, "time", "Time to speed", "t_p", form.time_s, "s", form.simulated)
        yield _time(form, row.time_s, rerun.duration_s if rerun else None, ran=rerun is not None)
    if form.before_v and form.least_v is not None:
        yield _dip(sheet, form, row.dip_pct, plan.start.limit_pct)
    elif form.least_v is not None:
        yield unknown("record.start_dip", "Dip against plan", ("the volts before",))
    if form.changeover_s is not None:
        yield _change(form.changeover_s, row.last_change_s)


def _plateau(form: Starting, plan: Side, at_volts: float | None) -> Gate:
    name, amps, key = "Amperes while starting", form.plateau_a or 0.0, "record.start_current"
    planned = at_volts or plan.planned_a
    if form.rate == "slow":
        text = f"At least {write(amps, 3)} A: read once a second, the most is not seen."
        return from_answer(key, name, changes(text), remedy="A recorder or a meter that holds the peak.")
    if not planned:
        return unknown(key, name, ("a start that can be planned",))
    low, high = _band(plan)
    read = _READ_BAND.get(form.rate or "eye", 0.25)
    least = planned * (1 - ((1 - low) ** 2 + read**2) ** 0.5)
    most = planned * (1 + ((high - 1) ** 2 + read**2) ** 0.5)
    of = f" at your {write(form.least_v, 3)} V" if at_volts and form.least_v else ""
    text = f"{write(amps, 3)} A, plan {write(planned, 3)} A{of}."
    text += f" {write(least, 3)} to {write(most, 3)} A is within the band."
    inside = least <= amps <= most
    return from_answer(key, name, meets(text, "the plan's own band with the instrument's") if inside
                       else changes(f"{text} It differs."), remedy="See what it most likely means.")  # fmt: skip


def _peak(form: Starting, peak: float, plan: Side) -> Iterator[Gate]:
    """A first peak is at least the crest of what is held after it, and at most that of a full offset."""
    key, name, read = "record.start_peak", "First peak", _READ_BAND.get(form.rate or "eye", 0.25)
    crest, first = math.sqrt(2) * (form.plateau_a or 0.0), plan.protected.first_a
    if peak < crest * (1 - read):
        text = f"{write(peak, 3)} A is below {write(crest, 3)} A, the crest of what it held."
        yield from_answer(key, name, changes(text), remedy="It was missed, or is an rms: read it as a waveform.")
    elif first is not None:
        most = math.sqrt(2) * first
        text = f"{write(peak, 3)} A; at most {write(most, 3)} A are planned, offset and change-over counted."
        yield from_answer(key, name, meets(text) if peak <= most * (1 + read) else changes(text),
                          remedy="Look for other volts or another connection; and whether its trip holds.")  # fmt: skip


def _band(plan: Side) -> tuple[float, float]:
    """Of the current at rest: what the plate leaves open, else the tolerance of a stated one."""
    locked = plan.locked
    if locked is not None and locked.high is not None and locked.high.value > 1.01 * locked.low.value:
        return locked.low.value / locked.high.value, 1.0
    return 1 - (plan.rules.current_tolerance[1] - 1), plan.rules.current_tolerance[1]


def _time(form: Starting, planned: float | None, at_volts: float | None, *, ran: bool) -> Gate:
    name, key, time = "Time to speed", "record.start_time", form.time_s or 0.0
    best = at_volts or planned
    if best is None:
        return unknown(key, name, ("a planned start that gets there",))
    text = f"{write(time, 2)} s, plan {write(planned, 2)} s" if planned else f"{write(time, 2)} s"
    if at_volts:
        also = " and change-over" if form.changeover_s is not None else ""
        text += f", at your {write(form.least_v or 0, 3)} V{also} {write(at_volts, 2)} s"
    after = ""
    if form.least_v is not None and not ran:
        after = " Not run again at your volts: what its drive or starter gives there is not known."
    ends = sorted((best, planned or best)) if form.least_v is None else [best, best]
    inside = ends[0] * (1 - TIME_BAND) <= time <= ends[1] * (1 + TIME_BAND)
    source = "load and inertia are known to some 30 %"
    return from_answer(
        key,
        name,
        meets(f"{text}: within the band.{after}", source) if inside else changes(f"{text}: it differs.{after}", source),
        remedy="See what it most likely means.",
    )


def _dip(sheet: Sheet, form: Starting, planned: float | None, limit: float | None) -> Gate:
    before = measured(sheet, "volts_before", "Volts before", "U_0", form.before_v or 0.0, "V", form.simulated)
    least = measured(sheet, "volts_least", "Least volts", "U_min", form.least_v or 0.0, "V", form.simulated)
    dip = sheet.work("dip", "Dip measured", "d", 100 * (1 - least.value / before.value), "%",
                     formula="100·(1 − U_min/U_0)", inputs=(least, before), source="definition")  # fmt: skip
    if least.value > before.value * _RISES:
        text = f"{write(least.value, 3)} V as the least are above the {write(before.value, 3)} V before."
        return from_answer("record.start_dip", "Dip against plan", breaks(text), remedy="Exchange them; or read again.")
    if planned is None:
        return unknown("record.start_dip", "Dip against plan", ("a dip that can be planned",))
    text = f"{dip.value:.1f} % measured, {planned:.1f} % planned."
    close = dip.value <= planned * DIP_TIMES + DIP_POINTS
    if close and limit is not None and planned <= limit < dip.value:
        return from_answer("record.start_dip", "Dip against plan", changes(
            f"{text} It is more than the {write(limit, 3)} % asked at the board."),
            remedy="Measure it at the board; a start that draws less, or a stiffer source.")  # fmt: skip
    return from_answer("record.start_dip", "Dip against plan", meets(text) if close else changes(
        f"{text} The source is weaker than planned, or the current larger."),
        remedy="Measure the source's impedance.")  # fmt: skip


def _change(at: float, planned: float | None) -> Gate:
    if planned is None:
        return unknown("record.start_change", "Change-over", ("a planned change-over",))
    text = f"Changed over at {write(at, 2)} s, planned {write(planned, 2)} s."
    same = abs(at - planned) <= max(0.15 * planned, 0.2)
    late = "late" if at > planned else "early"
    return from_answer("record.start_change", "Change-over", meets(text) if same else changes(f"{text} It is {late}."),
                       remedy="Set its timer.")  # fmt: skip


def condition(sheet: Sheet, form: Condition, plan: Side) -> Iterator[Gate]:
    """Bearings, winding by resistance, vibration by zones."""
    bearings = [one for one in (form.drive_end_c, form.other_end_c) if one is not None]
    if bearings:
        hot = max(bearings)
        text = f"{write(hot, 3)} °C; 90 °C is the usual alarm, 100 °C the usual stop."
        answer = meets(text) if hot <= _ALARM_C else changes(text) if hot <= _STOP_C else breaks(text)
        yield from_answer("record.bearings", "Bearings", answer, remedy="Grease, alignment, belt force.")
    yield from _winding_warm(sheet, form, plan)
    names = [name for name in Condition.model_fields if name.startswith("vibration")]
    shaken = [getattr(form, name) for name in names if getattr(form, name) is not None]
    if shaken:
        yield _vibration(max(shaken) * 1000, form, plan)


def _winding_warm(sheet: Sheet, form: Condition, plan: Side) -> Iterator[Gate]:
    three = (form.hot_ohm, form.cold_ohm, form.cold_at_c)
    if all(one is None for one in three):
        return
    if form.hot_ohm is None or form.cold_ohm is None or form.cold_at_c is None:
        yield unknown(
            "record.winding_c", "Winding, warm", ("hot and cold resistance, and the temperature of the cold one",)
        )
        return
    hot = measured(sheet, "r_hot", "Winding, hot", "R_2", form.hot_ohm, "Ω", form.simulated)
    cold = measured(sheet, "r_cold", "Winding, cold", "R_1c", form.cold_ohm, "Ω", form.simulated)
    at = measured(sheet, "cold_at", "Cold at", "θ_1", form.cold_at_c, "°C", form.simulated)
    found = sheet.work("winding_c", "Winding, by resistance", "θ_2", hot.value / cold.value * (COPPER_K + at.value)
                       - COPPER_K, "°C", formula="R_2/R_1c·(234.5 + θ_1) − 234.5", inputs=(hot, cold, at),
                       source="IEC 60034-1:2022 8.6; IEEE 112:2017 5.4")  # fmt: skip
    yield _winding_bears(found.value, form.ambient_c, plan)


def _winding_bears(warm_c: float, ambient_c: float | None, plan: Side) -> Gate:
    """The mean over a winding, as its resistance has it, against 40 °C and the rise of its class: its hottest spot is
    some 10 K above that. At a service factor of 1.15 it may be 10 K more; the air it had may have been cool.
    """
    key, name, source = "record.winding_c", "Winding, warm", "IEC 60034-1:2022 table 8; NEMA MG 1:2021 12.43"
    rise_k = rise_allowed_k(plan.plate.insulation_class)
    if rise_k is None:
        return unknown(key, name, ("the insulation class",))
    service = plan.rules.practice.service_factor and (plan.plate.service_factor or 1.0) >= _SERVICE_FACTOR
    most_k = rise_k + (SERVICE_FACTOR_K if service else 0.0)
    letter, remedy = class_letter(plan.plate.insulation_class), "Less load, cleaner cooling."
    text = f"{write(warm_c, 3)} °C by resistance; class {letter} bears {AMBIENT_C + rise_k:g} °C so measured"
    text += f", {AMBIENT_C + most_k:g} °C in its service factor." if service else "."
    rise = warm_c - ambient_c if ambient_c is not None else 0.0
    if warm_c <= AMBIENT_C + most_k and (warm_c > AMBIENT_C + rise_k or rise > rise_k):
        hotter = f" It rose {write(rise, 3)} K; {rise_k:g} K are its class's." if rise > rise_k else ""
        return from_answer(key, name, changes(text + hotter, source), remedy=remedy)
    return at_most(key, name, warm_c, AMBIENT_C + most_k, unit="°C", source=source, sentence=text, remedy=remedy)


def _vibration(worst_mm: float, form: Condition, plan: Side) -> Gate:
    table, name = load("vibration"), "Vibration"
    if plan.rated.power_w is None:
        return unknown("record.vibration", name, ("rated power",))
    support, power = form.support or "rigid", plan.rated.power_w / 1000
    row = next(one for one in table.rows if one["support"] == support and power <= float(one["upto_kw"]))
    a_b, b_c, c_d = (float(row[edge]) for edge in ("ab", "bc", "cd"))
    zone = "A" if worst_mm <= a_b else "B" if worst_mm <= b_c else "C" if worst_mm <= c_d else "D"
    text = f"{_speed(worst_mm, plan)}: zone {zone}; B ends at {_speed(b_c, plan)}, C at {_speed(c_d, plan)}."
    if form.support is None:
        text += " Taken as standing rigidly."
    answer = meets(text, table.cite) if zone in "AB" else changes(text, table.cite) if zone == "C" else breaks(
        text, table.cite)  # fmt: skip
    return from_answer(
        "record.vibration", name, answer, remedy="Alignment, balance, feet, bearings; then a longer look."
    )


def _speed(mm: float, plan: Side) -> str:
    """In the dialect's own measure: in/s peak or mm/s rms."""
    return f"{write(mm * 2**0.5 / 25.4, 2)} in/s peak" if plan.rules.practice.us_units else f"{write(mm, 2)} mm/s rms"
