"""Belts pull sideways at the shaft: the new bearings must bear it, and a roller bearing asks for some of it."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.numbers import write
from vinegate.core.quantity import FORCE
from vinegate.core.replacement.electric import rated_nm
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import Pair
from vinegate.core.tables import load

_SOURCE: Final = "F = k·2T/d at the new motor's rated torque, k by the kind of belt"
_BEARINGS: Final = "NEMA MG 1:2021 14.7; IEC 60034-1:2022"


def bearings(pair: Pair) -> Row | None:
    """None where it is coupled without a pull."""
    old, new = (machine.plate.bearings or "" for machine in (pair.old, pair.new))
    row = Said("bearings", "Bearings", old, new)
    if pair.facts.coupled is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("how it is coupled",))
    if pair.facts.coupled != "belt":
        return None
    if pair.facts.radial_n is not None:
        return _against_limit(pair, row)
    if not old or not new:
        return row.lacking("bearings")
    if old == new:
        return row.put(fits=Fits.SAME, text="The same.")
    rolled, rolls = on_rollers(old), on_rollers(new)
    if rolled and rolls is False:
        return row.put(
            fits=Fits.NOT,
            text="Rollers bore the belts at the drive end; these are balls.",
            source=_BEARINGS,
            task="A motor with a roller bearing there, or what its shaft bears sideways, by its maker.",
        )
    if rolls and rolled is False:
        return row.put(
            fits=Fits.WITH,
            text="Rollers at the drive end: they slide where the belts pull too little.",
            source=_BEARINGS,
            task="The least pull that its bearing asks, by its maker, against the belts'.",
        )
    return row.put(
        fits=Fits.WITH,
        text="Others, behind belts.",
        source=_BEARINGS,
        task="Belt pull against the new bearing's limit, by its maker.",
    )


_ROLLERS: Final = re.compile(r"\b(?:N|NU|NJ|NUP|RU|RN)\s?-?\d{3}|\b\d{2,3}R[NUJ]\d{2}|\bROLLER|\b2[123]\d{3}\b")
_BALLS: Final = re.compile(r"\b[67][0-4]\d{2}|\b\d{2,3}B[CNT]\d{2}|\bBALL")


def on_rollers(bearings: str) -> bool | None:
    """Whether the drive end, which is named first, runs on rollers; None where the text does not tell.

    Source: ISO 15:2017 and 355 series numbers (N, NU: cylindrical rollers; 22, 23: spherical ones; 6: balls), ABMA 20.

    >>> on_rollers("NU313 / 6313"), on_rollers("6313-2Z/C3"), on_rollers("70RU03 / 65BC03"), on_rollers("as ordered")
    (True, False, True, None)
    """
    first = bearings.upper().partition("/")[0]
    return True if _ROLLERS.search(first) else False if _BALLS.search(first) else None


def pull_n(pair: Pair) -> tuple[float, float] | None:
    """The ends of the belt's pull at the new motor's rated torque, N; None while something is missing."""
    torque, facts = rated_nm(pair.new), pair.facts
    kind = load("belt_pull").find(kind=facts.belt or "")
    if torque is None or facts.sheave_m is None or kind is None:
        return None
    carries = 2 * torque / facts.sheave_m
    return float(kind["low"]) * carries, float(kind["high"]) * carries


def _against_limit(pair: Pair, row: Said) -> Row:
    pull, bears = pull_n(pair), pair.facts.radial_n
    assert bears is not None
    if pull is None:
        named = (("the kind of belt", pair.facts.belt), ("the motor's sheave", pair.facts.sheave_m),
                 ("the new motor's power and speed", rated_nm(pair.new)))  # fmt: skip
        return row.put(fits=Fits.UNKNOWN, text="", needs=tuple(word for word, value in named if value is None))
    text = f"Pulled by {_force(pair, pull[0])} to {_force(pair, pull[1])}, it bears {_force(pair, bears)}."
    if pull[0] > bears:
        return row.put(fits=Fits.NOT, text=text, source=_SOURCE,
                       task="A larger sheave, or a motor whose bearings bear more.")  # fmt: skip
    least = pair.facts.radial_least_n
    if least is not None and pull[1] < least:
        return row.put(fits=Fits.NOT, text=f"{text} Its rollers ask for {_force(pair, least)}.", source=_SOURCE,
                       task="A motor with ball bearings, or a smaller sheave.")  # fmt: skip
    if pull[1] > bears or (least is not None and pull[0] < least):
        return row.put(fits=Fits.UNKNOWN, text="", needs=("the belts' pull, by their maker",))
    return row.put(fits=Fits.WITH, text=text, source=_SOURCE,
                   task="Sheave close to the shoulder; tension by the belts' maker.")  # fmt: skip


def _force(pair: Pair, newtons: float) -> str:
    if pair.rules.practice.us_units:
        return FORCE.show(newtons, us=True)
    return f"{write(newtons / 1000, 3)} kN"
