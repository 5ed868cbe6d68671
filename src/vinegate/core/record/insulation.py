"""Insulation resistance brought to 40 °C, and the least a winding of its kind must have (IEEE 43)."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.plate.insulation import class_letter

SOURCE: Final = "IEEE 43:2013"
MEGOHM: Final = 1e6
LEAST_PI: Final = {"A": 1.5}
_OTHER_PI: Final = 2.0
MEANINGLESS_OHM: Final = 5000 * MEGOHM
"""Above it the polarization index says nothing."""
KINDS: Final = ("random", "form", "old")
FORM_WOUND_V: Final = 1000.0
"""From these rated volts on a winding may be of any kind; below, blank is taken as random wound or form wound."""
_SYSTEMS: Final = ("thermosetting", "thermoplastic")
_RESIN: Final = ("B", "F", "H")
_WARM_C: Final = 40.0
_TEST_V: Final = ((1000, (500, 500)), (2500, (500, 1000)), (5000, (1000, 2500)), (12000, (2500, 5000)))


def factor_40(celsius: float, system: str) -> tuple[float, str]:
    """What R at `celsius` is to be multiplied by to be R at 40 °C, and the formula in `θ`.

    >>> round(factor_40(40, "thermosetting")[0], 6), round(factor_40(30, "thermoplastic")[0], 3)
    (1.0, 0.5)
    >>> round(factor_40(20, "thermosetting")[0], 3)
    0.762
    """
    if system == "thermoplastic":
        return 0.5 ** ((_WARM_C - celsius) / 10), "e^(0.69314718·(θ − 40)/10)"
    slope = 1245 if celsius <= _WARM_C else 4230
    return math.exp(-slope * (1 / (celsius + 273) - 1 / 313)), f"e^(−{slope}·(1/(θ + 273) − 1/313))"


def systems_of(said: str | None, insulation_class: str | None, *, outside: bool) -> tuple[str, ...]:
    """How the insulation's resistance may fall with heat: windings of classes B, F and H are of resin. Outside 10 to
    85 °C no correction is given: by either.

    >>> systems_of(None, "F", outside=False), len(systems_of(None, None, outside=False))
    (('thermosetting',), 2)
    """
    if outside:
        return _SYSTEMS
    if said is not None:
        return (said,)
    return _SYSTEMS[:1] if class_letter(insulation_class) in _RESIN else _SYSTEMS


def least_ohm(winding: str, rated_v: float) -> float:
    """Least one-minute resistance at 40 °C of a winding of that kind.

    >>> least_ohm("random", 460) / MEGOHM, least_ohm("old", 460) / MEGOHM, least_ohm("form", 4000) / MEGOHM
    (5.0, 1.46, 100.0)
    """
    if winding == "old":
        return (rated_v / 1000 + 1) * MEGOHM
    return 100 * MEGOHM if winding == "form" else 5 * MEGOHM


def least_index(letter: str) -> float:
    """Least polarization index of a class."""
    return LEAST_PI.get(letter, _OTHER_PI)


def volts_for_test(rated_v: float) -> tuple[float, float]:
    """Direct volts to test a winding of these rated volts with, from and to.

    >>> volts_for_test(460), volts_for_test(2300)
    ((500, 500), (500, 1000))
    """
    return next((band for upto, band in _TEST_V if rated_v < upto), _TEST_V[-1][1])
