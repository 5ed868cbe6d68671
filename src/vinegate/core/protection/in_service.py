"""What the short-circuit device and the run ahead of a drive bear while the motor runs, in both rule sets."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.fed import volts_of
from vinegate.core.grade import Gate, at_least, ordered, rule
from vinegate.core.numbers import write
from vinegate.core.protection.need import Need
from vinegate.core.start.way import Windings

_HALF: Final = 0.5
_KEY: Final = "protection.carries"
_NAME: Final = "Device carries the motor"


def draws_a(need: Need) -> float | None:
    """Amperes through the device at full load: of a half winding half, unless one device serves both; into a drive its
    rated input, where that is given.
    """
    if need.drawn is None:
        return None
    if need.into_drive is not None:
        return need.into_drive.value
    halves = need.way.windings is Windings.HALF and need.circuit.protection.halves != "single"
    return (_HALF if halves else 1.0) * need.drawn.value


def carries_gate(need: Need, rating_a: float, *, entered: bool, source: str, least: str) -> tuple[Gate, ...]:
    """A fuse or breaker below the motor's own current opens while it runs loaded. `least` is the next size up."""
    amps = draws_a(need)
    if amps is None:
        return ()
    said = "" if entered else "As advised: "
    text = f"{said}{rating_a:g} A; at full load {write(amps, 3)} A flow through it."
    return (
        at_least(_KEY, _NAME, rating_a, amps, sentence=text, source=source, unit="A", remedy=f"At least {least} A."),
    )


def stated_opening(need: Need, within_s: float) -> tuple[Gate, ...]:
    """The current from which its maker's curve surely opens it: neither running nor the start may stay above it."""
    said, amps = need.circuit.protection.clears_a, draws_a(need)
    if said is None:
        return ()
    opens = f"By its curve it opens within {write(within_s)} s from {write(said, 3)} A"
    remedy, source = "Read its curve again, or take another device.", "its maker's curve, as entered"
    key, name = "protection.opens", "Does not open in service"
    if amps is not None and said <= amps:
        text = f"{opens}; at full load {write(amps, 3)} A flow through it."
        return (rule(key, name, False, text, source, value=amps, limit=said, margin=said - amps, unit="A",
                     remedy=remedy),)  # fmt: skip
    lasts = _above_s(need, said)
    if lasts is None or lasts < within_s:
        return ()
    text = f"{opens}; the start stays above that for {write(lasts, 2)} s."
    return (rule(key, name, False, text, source, value=lasts, limit=within_s, margin=within_s - lasts, unit="s",
                 remedy=remedy),)  # fmt: skip


def _above_s(need: Need, amps: float) -> float | None:
    """Seconds of the start above these amperes; None where it is not known."""
    if need.detail is None:
        return None
    time, line = np.array(need.detail.time_s), np.array(need.detail.line_a)
    middle = (line[1:] + line[:-1]) / 2
    return float(np.diff(time)[middle > amps].sum())


def input_gate(need: Need) -> tuple[Gate, ...]:
    """A drive's rated input that could not feed the shaft even without losses is read wrongly: `P/(√3·U)`."""
    drawn, power, volts = need.into_drive, need.rated.power_w, volts_of(need.job, need.circuit)
    if drawn is None or power is None or volts is None:
        return ()
    if need.load is not None:
        power = min(power, need.load.torque_nm * need.load.full_speed_rpm * math.pi / 30)
    phases = 1.0 if need.fed_by_one else 3**0.5
    least = need.motors * power / (phases * volts)
    shaft = f"{write(power / 1000, 3)} kW at the shaft take at {write(volts, 3)} V"
    if need.motors > 1:
        shaft = f"{need.motors} motors of {shaft}"
    text = f"Rated input {write(drawn.value, 3)} A; {shaft} at least {write(least, 3)} A."
    return (
        at_least(
            "protection.drive_feeds", "Drive's rated input feeds the shaft", drawn.value, least, unit="A",
            sentence=text, source="P ≤ √3·U·I, power factor and efficiency no more than 1",
            remedy="Read the drive's rated input amperes again.",
        ),
    )  # fmt: skip


def warm_gate(need: Need) -> tuple[Gate, ...]:
    """Conductors in service are no colder than what they lie in: said colder, drop and loop come out too small."""
    theta, ambient = need.circuit.wiring.temperature_c, need.circuit.wiring.ambient_c
    text = f"Conductors at {write(theta or 0.0, 3)} °C in {write(ambient or 0.0, 3)} °C: in service they are warmer."
    return ordered(
        "protection.warm", "Conductor temperature", ambient, theta, sentence=text, unit="°C",
        source="resistance rises with temperature", remedy="The one in service; empty, the usual one is taken.",
    )  # fmt: skip
