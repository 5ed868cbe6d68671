"""A load that still turns when power returns: how fast, what happens then, and how long its bus lasts without power."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.assumed import preset
from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, Verdict, at_most, rule, unknown
from vinegate.core.machine.circuit import operate, rotor_constant_s
from vinegate.core.numbers import write
from vinegate.core.records import dataclass
from vinegate.core.turning import less
from vinegate.core.working import Provenance

STILL: Final = 0.05
_RESIDUAL: Final = 0.2
_POINTS: Final = 160
_OMEGA: Final = math.pi / 30
_SOURCE: Final = "dω/dt = −T_L(ω)/J from where it ran; detection and flux wait usual"


@dataclass(frozen=True, kw_only=True, eq=False)
class Coast:
    """Speed, turns a minute, against time without power, and when power is back and the drive ready.

    `share` is the speed then over that at which it ran. `uncaught_a` what it would draw if the drive began from its
    slowest frequency.
    """

    time_s: Array
    rpm: Array
    back_s: float
    share: float
    flux_s: float | None
    uncaught_a: float | None


def coast_course(
    need: Need, fastest_rpm: float, *, inertia_times: float = 1.0, load_times: float = 1.0
) -> tuple[Array, Array]:
    """Time, s, and speed, turns a minute, from the fastest point to a hundredth of it."""
    rpm = np.geomspace(fastest_rpm, 0.01 * fastest_rpm, _POINTS)
    torque = np.maximum(need.load.torque_at(rpm) * load_times, 1e-6 * need.rated_nm)
    slows = 1 / torque
    steps = -np.diff(rpm * _OMEGA) * (slows[:-1] + slows[1:]) / 2 * need.load.inertia_kgm2 * inertia_times
    return np.concatenate([[0.0], np.cumsum(steps)]), rpm


def coast_of(need: Need, fastest_rpm: float, slowest_hz: float) -> Coast:
    """Put it on the sheet."""
    sheet, facts = need.sheet, need.facts
    time, rpm = coast_course(need, fastest_rpm)
    flux = _flux_wait(need)
    wait = preset("drive_detection") + (flux or 0.0)
    back = (facts.outage_s or 0.0) + wait
    speed = float(np.interp(back, time, rpm))
    share = speed / fastest_rpm
    sheet.given("coast_share", "Speed left when power is back and the drive ready", "ω/ω_0", 100 * share, "%",
                provenance=Provenance.ESTIMATED, source=_SOURCE)  # fmt: skip
    return Coast(
        time_s=time,
        rpm=rpm,
        back_s=back,
        share=share,
        flux_s=flux,
        uncaught_a=_uncaught(need, speed, slowest_hz),
    )


def _flux_wait(need: Need) -> float | None:
    """Until the rotor's own field has fallen to a fifth."""
    if need.machine.inside is None:
        return None
    constant = rotor_constant_s(need.machine.inside)
    figure = need.sheet.given("rotor_constant", "Rotor's open-circuit time constant", "T_r", constant, "s",
                              provenance=Provenance.ESTIMATED, source="(X_m+X_2)/(2π·f·R_2)")  # fmt: skip
    return need.sheet.work(
        "flux_wait",
        "Residual volts below a fifth after",
        "t_f",
        constant * math.log(1 / _RESIDUAL),
        "s",
        formula="1.6094·T_r",
        inputs=(figure,),
        source="e^(−t/T_r): a fifth after ln 5 of them",
    ).value


def _uncaught(need: Need, rpm: float, slowest_hz: float) -> float | None:
    """Amperes of a drive that does not look and begins at its slowest frequency, the rotor ahead of its field."""
    circuit = need.machine.inside
    if circuit is None or rpm <= 0:
        return None
    hertz = max(slowest_hz, 0.05 * need.base_hz)
    synchronous = need.synchronous_rpm * hertz / need.base_hz
    volts = need.plate_v * need.ratio * hertz / need.base_hz
    return float(operate(circuit, 1 - rpm / synchronous, volts_v=volts, frequency_hz=hertz).line_current_a) * need.ratio


def restart_gates(need: Need, coast: Coast, fastest_rpm: float) -> list[Gate]:
    """Any speed above a twentieth when the drive is switched on again asks a drive that catches it."""
    facts = need.facts
    back = facts.power_back or (need.preset["back"] if facts.outage_s is not None else None)
    asked = back == "auto" or facts.outage_s is not None or facts.windmills == "yes"
    found = [*_hazard(need)] if facts.power_back == "auto" else []
    if not asked:
        return found
    return [_turning(need, coast, fastest_rpm), *found]


def _turning(need: Need, coast: Coast, fastest_rpm: float) -> Gate:
    key, name = "drive.restart", "Caught while it still turns"
    facts = need.facts
    if facts.windmills == "yes":
        if facts.catches is None:
            return unknown(key, name, ("whether the drive catches a turning load",))
        text = "Its medium may turn it, either way, before it is switched on."
        met = facts.catches == "yes"
        return rule(key, name, met, text, _SOURCE, remedy="A drive that looks for it in both directions.")
    percent = f"{100 * coast.share:.0f} %"
    text = (
        f"After {write(facts.outage_s or 0.0, 3)} s without power the drive is ready again at "
        f"{write(coast.back_s, 3)} s: it still turns at {percent}."
    )
    if facts.catches == "yes":
        return rule(key, name, True, f"{text} The drive looks for it first.", _SOURCE)
    load, rotor, power = need.load.inertia, need.load.rotor, need.load_power

    def room(inertia: float, own: float, asked: float) -> float:
        time, rpm = coast_course(need, fastest_rpm, inertia_times=need.load.inertia_times(inertia, own),
                                 load_times=asked / power.value)  # fmt: skip
        return STILL - float(np.interp(coast.back_s, time, rpm)) / fastest_rpm

    draws = (
        f" Begun from its slowest it would draw {write(coast.uncaught_a, 2)} A, brake hard and lift the bus."
        if coast.uncaught_a
        else ""
    )
    gate = at_most(key, name, 100 * coast.share, 100 * STILL, sentence=f"{text}{draws}", source=_SOURCE, unit="%",
                   remedy="Switch on catching a turning load, or wait until it stands.",
                   rests=(*less(load, rotor), power), room=room)  # fmt: skip
    if gate.verdict is not Verdict.PASSES and facts.catches is None:
        return unknown(key, name, ("whether the drive catches a turning load",))
    return gate


def _hazard(need: Need) -> Sequence[Gate]:
    """A machine that starts by itself when power returns: only where nobody can be hurt by it."""
    key, name = "drive.restart_hazard", "Starts by itself when power returns"
    source = "IEC 60204-1:2016 7.5; NFPA 79:2024 7.5"
    said = need.circuit.protection.restart_harmless
    if need.circuit.start.restart == "no":
        text = "Its drive starts itself when power returns; the start's sheet says that it stays off after an outage."
        return [rule(key, name, False, text, source, remedy="A drive that waits, or a restart that is wanted.")]
    if said is None:
        return [unknown(key, name, ("whether an unexpected restart is harmless",))]
    text = (
        "Nobody can be hurt by it, as stated: a held run command does it." if said == "yes" else "It may hurt someone."
    )
    return [rule(key, name, said == "yes", text, source, remedy="A pulsed run command: it waits to be started.")]
