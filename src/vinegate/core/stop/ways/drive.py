"""A drive's even ramp: it takes back what the load does not eat, a resistor turns it into heat."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, at_least, at_most, unknown
from vinegate.core.numbers import write
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.bands import other, rests
from vinegate.core.stop.drive import RAMP_HANDLE, RAMP_SETTINGS, RAMP_SIZES, ramp_row, resistor
from vinegate.core.stop.limited import limited
from vinegate.core.stop.row import StopRow
from vinegate.core.stop.way import Way
from vinegate.core.turning import Taken, more, point

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
    found, stop, soft = resistor(asked), asked.stop, rests(asked, WAY)
    key, name = "stop.ohms", "Braking resistor"
    if found.peak_w <= 0:
        return [_none_needed(asked, found.peak_w, soft)]

    def borne(values: tuple[float, ...]) -> float:
        return resistor(other(asked, soft, values)).most_ohm if values else found.most_ohm

    if stop.drive_least_ohm is None:
        return [unknown(key, name, ("the drive's least resistor",))]
    least, most, ohms = stop.drive_least_ohm, found.most_ohm, stop.resistor_ohm
    text = f"The stop needs at most {write(most, 3)} Ω, the drive bears no less than {write(least, 3)} Ω."
    fact = point(least, path="stop.drive_least", label="least resistor of the drive", unit="Ω")
    if ohms is not None:
        text = f"{text} {write(ohms, 3)} Ω chosen."
        fact = point(ohms, path="stop.resistor", label="braking resistor", unit="Ω")
    if ohms is not None and ohms < least:
        return [
            at_least(key, name, ohms, least, sentence=text, source="the drive's maker", unit="Ω", rests=(fact,),
                     room=lambda chosen: chosen - least, remedy="Another resistor, or a larger drive."),
            *_heat(asked, soft),
        ]  # fmt: skip
    estimate = Taken(label="the estimate of what the stop gives back", value=1.0, low=_ESTIMATE[0], high=_ESTIMATE[1])
    return [
        at_most(
            key, name, fact.value, most, sentence=text, source="R ≤ U_B²/P_peak", unit="Ω",
            rests=(fact, *more(estimate), *soft),
            room=lambda chosen, times, *values: min(borne(values) * times - chosen, chosen - least),
            remedy="Another resistor, a longer ramp, or a larger drive.",
        ),
        *_heat(asked, soft),
    ]  # fmt: skip


def _heat(asked: Asked, soft: Sequence[Taken]) -> list[Gate]:
    """The resistor's watts over the hour; none where nobody says how often it stops."""
    if not asked.per_hour:
        return []
    per_s, joules = asked.per_hour / 3600, resistor(asked).joules
    text = f"{write(joules / 1000, 3)} kJ a stop, {write(asked.per_hour)} an hour"
    return [
        limited(
            asked, "stop.watts", "Resistor's heat", lambda need: resistor(need).joules * per_s, soft,
            asked.stop.resistor_power_w, "W", lambda watts: f"{text}: {write(watts, 3)} W", "the resistor's rating",
        )
    ]  # fmt: skip


def _none_needed(asked: Asked, peak_w: float, soft: Sequence[Taken]) -> Gate:
    text = "The load slows it by itself along this ramp: no resistor is needed."
    return at_most(
        "stop.ohms", "Braking resistor", peak_w, 0.0, sentence=text, source="J·dω/dt ≤ T_L", unit="W", rests=soft,
        room=lambda *values: -(resistor(other(asked, soft, values)).peak_w if values else peak_w),
        remedy="A resistor, or a longer ramp.",
    )  # fmt: skip


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
