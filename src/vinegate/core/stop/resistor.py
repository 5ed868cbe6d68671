"""The resistor that takes what a drive's ramp brings back: between what the drive bears and what the stop needs."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from vinegate.core.assumed import band_of, preset
from vinegate.core.drive.bus import GIVEN_BACK
from vinegate.core.drive.facts import Drive
from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, Verdict, at_least, at_most, confirm, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.bands import other
from vinegate.core.stop.drive import asks_nm, lowered_w, resistor
from vinegate.core.stop.limited import limited
from vinegate.core.turning import Taken, point

_FIXED: Final = 1 / 3  # of the losses while it slows: magnetising current and the drive's own do not fall; assumed


def taken_gates(circuit: Circuit, asked: Asked, soft: Sequence[Taken]) -> list[Gate]:
    """Into the line, or into a resistor: its ohms and its watts. `soft` are the facts behind what the way asks."""
    if circuit.of("drive", Drive).feeds_back:
        text = "Its front end feeds it back to the line."
        return [rule("stop.ohms", "What the ramp brings back is taken", True, text, "the drive's sheet")]
    return _resistor(asked, soft)


def _resistor(asked: Asked, soft: Sequence[Taken]) -> list[Gate]:
    found, stop = resistor(asked), asked.stop
    key, name = "stop.ohms", "Braking resistor"
    if found.peak_w <= 0:
        return [_none_needed(asked, found.peak_w, soft)]

    def borne(values: tuple[float, ...]) -> float:
        return resistor(other(asked, soft, values)).most_ohm if values else found.most_ohm

    if stop.drive_least_ohm is None:
        lost = _lost(asked, soft) if stop.resistor_ohm is None and not asked.overhauls else None
        if lost is not None and lost.verdict is Verdict.PASSES:
            return [lost]
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
    return [
        at_most(
            key, name, fact.value, most, sentence=text, source="R ≤ U_B²/P_peak", unit="Ω",
            rests=(fact, GIVEN_BACK, *soft),
            room=lambda chosen, times, *values: min(borne(values) * times - chosen, chosen - least),
            remedy="Another resistor, a longer ramp, or a larger drive.",
        ),
        *_heat(asked, soft),
    ]  # fmt: skip


def _beyond_w(asked: Asked, loss_pu: float) -> float:
    """What the ramp brings back beyond the losses of motor and drive, W, at the worst speed of the bands."""
    found = []
    for turning in asked.corners:
        omega = turning.omega
        lost = loss_pu * turning.rated_nm * (_FIXED * omega[0] + (1 - _FIXED) * omega)
        found.append(float((asks_nm(asked, turning) * omega - lost).max()))
    return asked.motors * max(found)


def _lost(asked: Asked, soft: Sequence[Taken]) -> Gate:
    """Whether losses take what the load does not, over all that both may be."""
    usual, (low, high) = preset("drive_ramp_loss"), band_of("drive_ramp_loss")
    loss = Taken(label="losses of motor and drive", value=usual, low=low, high=high, how="assumed", sense=1)
    return at_most(
        "stop.ohms", "Braking resistor", _beyond_w(asked, usual), 0.0, unit="W", rests=(loss, *soft),
        sentence="Load and losses of motor and drive take it along this ramp: no resistor is needed.",
        source="(J·dω/dt − T_L)·ω ≤ P_v, assumed: a third of P_v whatever the speed",
        room=lambda share, *values: -_beyond_w(other(asked, soft, values) if values else asked, share),
        remedy="A resistor, or a longer ramp.",
    )  # fmt: skip


def _heat(asked: Asked, soft: Sequence[Taken]) -> list[Gate]:
    """The resistor's watts over the hour, with what is lowered; where nobody says how often it stops, what a stop
    leaves in it.
    """
    joules, lowers = resistor(asked).joules, asked.stop.lowering_pu
    if not asked.per_hour:
        text = f"How often it stops is not said. Each stop leaves {write(joules / 1000, 3)} kJ in its resistor."
        return [confirm("stop.resistor_often", "Resistor's heat", False, text, "of the energy that turns, less losses")]
    per_s = asked.per_hour / 3600
    text = f"{write(joules / 1000, 3)} kJ a stop, {write(asked.per_hour)} an hour"
    if asked.overhauls and lowers:
        text += f", lowered {write(100 * lowers, 3)} % of the time"
    return [
        limited(
            asked, "stop.watts", "Resistor's heat", lambda need: resistor(need).joules * per_s + _lowered_w(need), soft,
            asked.stop.resistor_power_w, "W", lambda watts: f"{text}: {write(watts, 3)} W", "the resistor's rating",
        )
    ]  # fmt: skip


def _lowered_w(asked: Asked) -> float:
    """What a load that drives brings back in the mean, besides its stops; how long it lowers unsaid, the drive's sheet
    judges that alone.
    """
    lowers = asked.stop.lowering_pu
    return lowered_w(asked) * lowers if lowers else 0.0


def _none_needed(asked: Asked, peak_w: float, soft: Sequence[Taken]) -> Gate:
    text = "The load slows it by itself along this ramp: no resistor is needed."
    return at_most(
        "stop.ohms", "Braking resistor", peak_w, 0.0, sentence=text, source="J·dω/dt ≤ T_L", unit="W", rests=soft,
        room=lambda *values: -(resistor(other(asked, soft, values)).peak_w if values else peak_w),
        remedy="A resistor, or a longer ramp.",
    )  # fmt: skip
