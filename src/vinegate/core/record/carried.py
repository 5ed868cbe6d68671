"""Gates of what it carries while it runs, by its slip and by its power; and whether the readings agree."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from vinegate.core.grade import Answer, Gate, breaks, changes, from_answer, meets, unknown
from vinegate.core.numbers import write
from vinegate.core.plate.kind import THREE_PHASE, Family, has_poles, volt_ampere_factor
from vinegate.core.record.dead import measured
from vinegate.core.record.facts import AMPS, Running, three
from vinegate.core.record.found import Side
from vinegate.core.record.unbalance import deviation_pct
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure, Provenance

_SLIP_OFF: Final = (1000.0, 0.2, 0.3)
"""Rated watts from which the first share of the plate's slip is its tolerance, below them the second."""
_SLIP_SOURCE: Final = "IEC 60034-1:2022 table 20; NEMA MG 1:2021 12.46: slip within 20 %, of small machines 30 %"
_TACHO_PU: Final = 0.001
"""Of synchronous speed, a tachometer's; and twice that where the frequency was not read with it: usual."""
_RUN_UP_PU: Final = 0.75
"""Of synchronous speed: no machine that has run up turns so slowly."""
_IDLE_SLIP_PU, _IDLE_POWER_PU = 0.5, 0.25
"""Of its rated slip and power: with nothing coupled it has far less; usual."""
_ROUNDED: Final = 1.005
_READ_PU: Final = 0.02
"""More power than volts and amperes carry, by instruments of one per cent each."""
_FACTORS_APART: Final = 0.05
_FACTOR_OFF: Final = 0.10
_APART_PCT: Final = 10.0
_LESS: Final = "Less load, or a larger motor."
_DRIVE: Final = 0.95
"""What a drive lets through of its line's power at the least; usual."""


def slip(sheet: Sheet, form: Running, plan: Side) -> Iterator[Gate]:
    """By how much it lags: torque is in proportion to it, at the same flux (Chapman, Electric Machinery Fundamentals,
    6.5: the torque-speed curve near synchronous speed).
    """
    key, name, rated = "record.speed", "Speed while running", plan.rated
    if form.speed_rpm is None or not has_poles(plan.plate.kind) or (plan.driven and form.hertz is None):
        return
    if rated.speed is None or rated.synchronous is None or rated.frequency is None or plan.line_hz is None:
        yield unknown(key, name, ("plate speed and frequency",))
        return
    if rated.synchronous.value <= rated.speed.value:
        yield unknown(key, name, ("a plate speed below synchronous",))
        return
    speed = measured(sheet, "speed", "Speed while running", "n_m", form.speed_rpm, rated.speed.unit, form.simulated)
    hertz = _hertz(sheet, form, plan.line_hz)
    turns = rated.synchronous.value * hertz.value / rated.frequency.value
    lag = sheet.work("slip", "Behind its field", "Δn", turns - speed.value, speed.unit, formula="n_s·f_m/f − n_m",
                     inputs=(rated.synchronous, hertz, rated.frequency, speed),
                     source="definition of slip")  # fmt: skip
    text, read = f"{write(speed.value, 4)} {speed.unit} at {hertz.shown}", turns * _TACHO_PU
    read *= 1 if form.hertz is not None else 3
    remedy = "See whether it is overloaded; then volts at its leads, and its rotor."
    if lag.value < -read:
        text += f" is above the {write(turns, 4)} {speed.unit} of its field."
        answer, remedy = changes(text), "Its load drives it, or speed or frequency was read wrong: read both again."
    elif speed.value < _RUN_UP_PU * turns:
        text += f", of {write(turns, 4)} {speed.unit}: it hangs, runs at a low speed of its own, or a stroboscope saw "
        answer, remedy = changes(text + "a half or a third."), "Read it with a mark that is seen once."
    else:
        answer = _lagging(_share(sheet, form, plan, lag, hertz), read, form, plan, text)
    yield from_answer(key, name, answer, remedy=remedy)


def _hertz(sheet: Sheet, form: Running, planned_hz: float) -> Figure:
    if form.hertz is not None:
        return measured(sheet, "hertz", "Frequency while running", "f_m", form.hertz, "Hz", form.simulated)
    return sheet.given("hertz", "Frequency while running", "f_m", planned_hz, "Hz", provenance=Provenance.ASSUMED,
                       source="as planned: not read")  # fmt: skip


def _share(sheet: Sheet, form: Running, plan: Side, lag: Figure, hertz: Figure) -> Figure:
    """Of its rated torque, at the volts that were read; at the rated ones where none were."""
    rated, volts = plan.rated, on(sheet, "volts")
    assert rated.synchronous is not None
    assert rated.speed is not None
    assert rated.frequency is not None
    own = rated.synchronous.value - rated.speed.value
    if volts is None or rated.volts is None:
        return sheet.work("by_slip", "Torque by its slip", "τ_s", 100 * lag.value / own, "%",
                          formula="100·Δn/(n_s − n)", inputs=(lag, rated.synchronous, rated.speed),
                          source="at the rated flux", provenance=Provenance.ESTIMATED)  # fmt: skip
    flux = volts.value / rated.volts.value * rated.frequency.value / hertz.value
    return sheet.work("by_slip", "Torque by its slip", "τ_s", 100 * lag.value / own * flux**2, "%",
                      formula="100·Δn/(n_s − n)·(U_m/U_N·f/f_m)²",
                      inputs=(lag, rated.synchronous, rated.speed, volts, rated.volts, rated.frequency, hertz),
                      source="slip by the square of the flux", provenance=Provenance.ESTIMATED)  # fmt: skip


def on(sheet: Sheet, key: str) -> Figure | None:
    """A line that already stands on the sheet."""
    return next((one for one in sheet.figures if one.key == f"{sheet.key}.{key}"), None)


def _lagging(share: Figure, read: float, form: Running, plan: Side, text: str) -> Answer:
    assert plan.rated.synchronous is not None
    assert plan.rated.speed is not None
    over_w, usual, small = _SLIP_OFF
    tolerance = usual if (plan.rated.power_w or 0.0) >= over_w else small
    error = 100 * read / (plan.rated.synchronous.value - plan.rated.speed.value)
    said = f"{text}: by its slip about {write(max(share.value, 0.0), 2)} % of its rated torque."
    if form.at_load == "none":
        slow = share.value - error > 100 * _IDLE_SLIP_PU
        return changes(f"{said} That is much for nothing coupled.") if slow else meets(said, _SLIP_SOURCE)
    if share.value - error > 100 * (1 + tolerance):
        return changes(f"{said} {100 * tolerance:.0f} % is its slip's tolerance.", _SLIP_SOURCE)
    return meets(said, _SLIP_SOURCE)


def power(sheet: Sheet, form: Running, plan: Side) -> Iterator[Gate]:
    """What comes from the line against what its rated output asks; and the power factor with it."""
    drawn, full = _drawn(sheet, form, plan), _apparent(sheet, form, plan)
    if form.power_w is not None and drawn is not None and full is not None and not plan.driven:
        yield _factor(sheet, form, plan, drawn, full)
    rated = plan.rated.power_w
    if drawn is None:
        return
    key, name = "record.power", "Power while running"
    if rated is None or plan.rated.power is None:
        yield unknown(key, name, ("rated power",))
        return
    all_w, times = plan.motors * rated, f"{plan.motors} × " if plan.motors > 1 else ""
    shown = f"{times}{plan.rated.power.shown}"
    text, own, remedy = f"{shown} rated; {drawn.shown} from the line", plan.plate.efficiency_pu, _LESS
    if form.at_load == "none":
        much = drawn.value > _IDLE_POWER_PU * all_w / 1000
        answer = changes(f"{text}. That is much for nothing coupled.") if much else meets(f"{text}.", "plate")
        remedy = "Something is coupled, or drags; or the reading."
    elif own is not None:
        most = all_w / own / 1000
        text = f"{shown} at {write(100 * own, 3)} % take {write(most, 3)} kW; {drawn.shown} were read"
        answer = _over(drawn.value / most, text, plan)
    elif drawn.value * 1000 <= all_w:
        answer = meets(f"{text}: less than the output itself.", "plate")
    else:
        yield unknown(key, name, ("the plate's efficiency",))
        return
    yield from_answer(key, name, answer, remedy=remedy)


def _over(share: float, text: str, plan: Side) -> Answer:
    """Judged as its amperes are. Behind a drive its losses are in it."""
    if share <= _ROUNDED:
        return meets(f"{text}.", "plate")
    if plan.driven and share * _DRIVE <= _ROUNDED:
        return changes(f"{text}, beside what its drive loses.", "plate")
    if plan.driven:
        share, text = share * _DRIVE, f"{text}, and its drive loses a twentieth at most"
    if share <= _ROUNDED * (plan.plate.service_factor or 1.0) and plan.rules.practice.service_factor:
        return changes(f"{text}. It runs in its service factor.", "NEMA MG 1:2021 14.37")
    return breaks(f"{text}.", "plate")


def _drawn(sheet: Sheet, form: Running, plan: Side) -> Figure | None:
    """As it was read; else by volts, amperes and power factor."""
    if form.power_w is not None:
        return measured(sheet, "power", "Power from the line", "P_in", form.power_w / 1000, "kW", form.simulated)
    full = _apparent(sheet, form, plan)
    if form.factor_pu is None or full is None or plan.driven:
        return None
    factor = measured(sheet, "factor_read", "Power factor, read", "φ_in", form.factor_pu, "", form.simulated)
    return sheet.work("power", "Power from the line", "P_in", full.value * factor.value, "kW", formula="S_in·φ_in",
                      inputs=(full, factor), source="definition of power factor")  # fmt: skip


def _apparent(sheet: Sheet, form: Running, plan: Side) -> Figure | None:
    """Of the mean volts and amperes, kVA; None where one is not read, or the amperes are too unequal for a mean."""
    known, volts = on(sheet, "apparent"), on(sheet, "volts")
    if known is not None:
        return known
    amps: tuple[float, ...] | None = three(form, AMPS) if plan.plate.family in THREE_PHASE else None
    if plan.plate.family is Family.SINGLE and form.i1_a:
        amps = (form.i1_a,)
    if volts is None or amps is None or (len(amps) > 1 and deviation_pct(*amps) > _APART_PCT):
        return None
    flows = measured(sheet, "current_mean", "Mean amperes", "I_m", sum(amps) / len(amps), "A", form.simulated)
    times = volt_ampere_factor(plan.plate.kind)
    return sheet.work("apparent", "Apparent power", "S_in", times * volts.value * flows.value / 1000, "kVA",
                      formula="√3·U_m·I_m/1000" if times > 1 else "U_m·I_m/1000", inputs=(volts, flows),
                      source="definition of apparent power")  # fmt: skip


def _factor(sheet: Sheet, form: Running, plan: Side, drawn: Figure, full: Figure) -> Gate:
    key, name = "record.factor", "Power factor while running"
    found = sheet.work("factor", name, "φ_m", drawn.value / full.value, "", formula="P_in/S_in", inputs=(drawn, full),
                       source="definition of power factor")  # fmt: skip
    text = f"{write(found.value, 2)} by power, volts and amperes"
    if found.value > 1 + _READ_PU:
        return from_answer(key, name, breaks(f"{drawn.shown} are more than the {full.shown} of its volts and amperes."),
                           remedy="A ratio, a clamp's range or loops through it: read them again.")  # fmt: skip
    if form.factor_pu is not None and abs(form.factor_pu - found.value) > _FACTORS_APART:
        said = f"{text}, {write(form.factor_pu, 2)} as it was read: they do not agree."
        return from_answer(key, name, changes(said),
                           remedy="A clamp on another phase than its volts, or turned round: read again.")  # fmt: skip
    runs = plan.runs
    if runs is None:
        return from_answer(key, name, meets(f"{text}."))
    text += f", {write(runs.factor, 2)} planned at these volts."
    apart = abs(found.value - runs.factor) > _FACTOR_OFF
    return from_answer(key, name, changes(f"{text} It differs.") if apart else meets(text),
                       remedy="Low: high volts, little load, or a winding that is not sound. High: capacitors ahead of "
                       "its own leads, or more load.")  # fmt: skip
