"""What a text gives in newton-metres and kilograms, beside in the units of North American shops."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.numbers import write
from vinegate.core.quantity import GRAVITY

_LB_KG: Final = 0.45359237  # as the foot exact by definition: NIST SP 811 table B.8
_FT_M: Final = 0.3048
_UNITS: Final = {"N·m": ("lb-ft", _LB_KG * GRAVITY * _FT_M), "kg·m²": ("lb·ft²", _LB_KG * _FT_M**2)}
_NUMBER: Final = r"−?\d+(?:\.\d+)?"
_SAID: Final = re.compile(
    rf"(?<![\w.·])(?:({_NUMBER}) (of|to) )?({_NUMBER}) ({'|'.join(map(re.escape, _UNITS))})(?![\w/·]| \()"
)


def beside(text: str) -> str:
    """Torques and inertias with their American units in parentheses; what has them stays as it is.

    >>> beside("81.3 N·m of brake"), beside("Load inertia 0.506 of 2.17 kg·m²: normal.")
    ('81.3 N·m (60 lb-ft) of brake', 'Load inertia 0.506 of 2.17 kg·m² (12 of 51.5 lb·ft²): normal.')
    >>> beside(beside("26.6 to 60 N·m")), beside("4 N·m/rad")
    ('26.6 to 60 N·m (19.6 to 44.3 lb-ft)', '4 N·m/rad')
    """
    return _SAID.sub(_with, text) if "·m" in text else text


def also(value: float, unit: str) -> str:
    """A torque or an inertia in its American unit; empty for any other.

    >>> also(81.3, "N·m"), also(0.506, "kg·m²"), also(92, "A")
    ('60 lb-ft', '12 lb·ft²', '')
    """
    named, times = _UNITS.get(unit, ("", 1.0))
    return f"{write(value / times, 3)} {named}" if named else ""


def _with(found: re.Match[str]) -> str:
    first, word, second, unit = found.groups()
    named, times = _UNITS[unit]
    also = [write(float(one.replace("−", "-")) / times, 3) for one in (first, second) if one]
    return f"{found[0]} ({f' {word} '.join(also)} {named})"
