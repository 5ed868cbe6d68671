"""A drive's even ramp: it takes back what the load does not eat, a resistor turns it into heat."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, at_most, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.drive import RAMP_HANDLE, RAMP_SETTINGS, RAMP_SIZES, ramp_row, resistor
from vinegate.core.stop.limited import limited
from vinegate.core.stop.row import StopRow
from vinegate.core.stop.way import Way
from vinegate.core.turning import Taken, point

_ESTIMATE: Final = (0.9, 1.1)
_CAUTION: Final = "It does nothing when power fails; the resistor gets hot, and is at the bus' volts."


def _make(asked: Asked) -> StopRow:
    return ramp_row(
        asked,
        WAY,
        _CAUTION,
        (
            "What comes back raises the bus; above its switching volts the chopper turns it into heat in the resistor.",
            "At rest the drive blocks. A thermostat on the resistor opens the line contactor, not the chopper.",
        ),
    )


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
        gates.append(limited(asked, "stop.watts", "Resistor's heat", mean, rating, "W", text, "the resistor's rating"))
    return gates


def _gates(_: Circuit, asked: Asked, __: StopRow) -> list[Gate]:
    return _resistor(asked)


WAY = Way(
    key="drive",
    name="drive ramp",
    phases=(3,),
    make=_make,
    settings=(*RAMP_SETTINGS, "stop.bus", "stop.drive_least", "stop.resistor", "stop.resistor_power"),
    slows_first=True,
    by_frequency=True,
    gates=_gates,
    handle=RAMP_HANDLE,
    sizes=(RAMP_SIZES,),
)
