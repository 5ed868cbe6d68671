"""A load that drives its motor gives its watts back for as long as it lasts: what takes them."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.assumed import band_of
from vinegate.core.drive.bus import EFFICIENCY, bears_w
from vinegate.core.drive.given_back import taken_by_generator
from vinegate.core.drive.need import Need
from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, Verdict, at_most, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.turning import Taken, less

_OMEGA: Final = math.pi / 30
_LEAST_PCT: Final = 2.0  # of the time, that can be typed
_KEY, _NAME = "drive.lowering", "What its load gives back is taken"
_GIVES: Final = "whether what its load gives back is taken"
_SOURCE: Final = "P = T·ω, 90 % through motor and drive to the bus; U_B²/R at most in the resistor"


def drives_it(circuit: Circuit, load_kind: str | None) -> bool:
    """Whether the load drives the machine at times: as said, else a hoist's."""
    said = circuit.stop.overhauls
    return said == "yes" or (said is None and load_kind == "hoist")


def lowering_gate(need: Need, fastest_rpm: float) -> Gate | None:
    """Into the line, into a resistor, or into losses that are more; None where the load never drives."""
    if not drives_it(need.circuit, need.load.kind):
        return None
    torque, stop = need.load.torque_nm, need.circuit.stop
    back_w = EFFICIENCY * need.motors * torque * fastest_rpm * _OMEGA
    if need.facts.feeds_back:
        return _fed_back(need, back_w)
    if stop.resistor_ohm is None:
        lost = band_of("drive_ramp_loss")[0] * need.rated_nm
        if torque <= lost:
            text = f"{write(torque, 3)} N·m drive it; motor and drive lose as much as {write(lost, 3)} N·m."
            return rule(_KEY, _NAME, True, text, _SOURCE)
        lacks = need.sheet.needs([("stop.resistor", "the braking resistor, or regeneration")], _GIVES)
        return unknown(_KEY, _NAME, lacks)
    peak = _at_once(need, back_w, bears_w(stop.bus_v, need.line_v, stop.resistor_ohm))
    if peak.verdict is not Verdict.PASSES:
        return peak
    if stop.resistor_power_w is None:
        lacks = need.sheet.needs([("stop.resistor_power", "the resistor's continuous watts")], _GIVES)
        return unknown(_KEY, _NAME, lacks)
    return _in_the_mean(need, back_w, stop.resistor_power_w)


def _fed_back(need: Need, back_w: float) -> Gate:
    """Into the line; a generator has no grid behind it."""
    if not need.job.on_standby:
        return rule(_KEY, _NAME, True, "Its front end feeds it back to the line.", _SOURCE)
    kw = back_w / 1000
    return taken_by_generator(
        _KEY, _NAME, need.job, (kw, kw), less(need.load_power), lambda asked: _back(need, kw, asked),
        "A resistor, or load that surely runs beside it.",
    )  # fmt: skip


def _back(need: Need, back_w: float, asked: float) -> float:
    return back_w * asked / need.load_power.value if need.load_power.value else back_w


def _at_once(need: Need, back_w: float, most_w: float) -> Gate:
    """By the resistor's ohms, at the volts of the bus."""
    return at_most(
        _KEY, _NAME, back_w / 1000, most_w / 1000, source=_SOURCE, unit="kW", rests=less(need.load_power),
        sentence=f"{write(back_w / 1000, 3)} kW come back; its resistor takes {write(most_w / 1000, 3)} kW at most.",
        room=lambda asked: (most_w - _back(need, back_w, asked)) / 1000,
        remedy="Fewer ohms within the drive's least, or a front end that feeds back.",
    )  # fmt: skip


def _in_the_mean(need: Need, back_w: float, bears: float) -> Gate:
    """By its continuous watts, and how much of the time it is lowered."""
    lowers = need.circuit.stop.lowering_pu
    said = 100 * (lowers or 1.0)
    share = Taken(
        path="stop.lowering", label="share of the time it lowers", unit="%", value=said,
        low=_LEAST_PCT if lowers is None else said, high=said, how="assumed" if lowers is None else "",
        given=lowers is not None,
    )  # fmt: skip
    mean_w = back_w * said / 100
    when = f" {write(said, 3)} % of the time, {write(mean_w / 1000, 3)} kW in the mean" if lowers is not None else (
        " for as long as it lowers")  # fmt: skip
    return at_most(
        _KEY, _NAME, mean_w / 1000, bears / 1000, source=_SOURCE, unit="kW",
        sentence=f"{write(back_w / 1000, 3)} kW come back{when}; its resistor bears {write(bears / 1000, 3)} kW.",
        rests=less(need.load_power, share),
        room=lambda asked, percent: (bears - _back(need, back_w, asked) * percent / 100) / 1000,
        remedy="A resistor of more watts, or a front end that feeds back.",
    )  # fmt: skip


def least_gate(need: Need) -> Gate | None:
    """Fewer ohms than its chopper bears break it, whatever they are for; None while either is not given."""
    stop = need.circuit.stop
    ohm, least = stop.resistor_ohm, stop.drive_least_ohm
    if ohm is None or least is None:
        return None
    text = f"{write(ohm, 3)} Ω; the drive bears no less than {write(least, 3)} Ω."
    return rule("drive.least_resistor", "Resistor that its chopper bears", ohm >= least, text, "the drive's maker",
                remedy="More ohms, or a larger drive.", value=ohm, limit=least, unit="Ω")  # fmt: skip
