"""What a text gives in newton-metres and kilograms, beside in the units of North American shops."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.quantity import SAID_TWICE

_NUMBER: Final = r"−?\d+(?:\.\d+)?"
_SAID: Final = re.compile(
    rf"(?<![\w.·])(?:({_NUMBER}) (of|to|and) )?({_NUMBER}) ({'|'.join(map(re.escape, SAID_TWICE))})(?![\w/·]| \()"
)


def beside(text: str) -> str:
    """Torques and inertias with their American units in parentheses; what has them stays as it is.

    >>> beside("81.3 N·m of brake"), beside("Load inertia 0.506 of 2.17 kg·m²: normal.")
    ('81.3 N·m (60 lb-ft) of brake', 'Load inertia 0.506 of 2.17 kg·m² (12 of 51.5 lb·ft²): normal.')
    >>> beside(beside("26.6 to 60 N·m")), beside("4 N·m/rad")
    ('26.6 to 60 N·m (19.6 to 44.3 lb-ft)', '4 N·m/rad')
    >>> beside("between 0.175 and 6.28 kg·m²")
    'between 0.175 and 6.28 kg·m² (4.15 and 149 lb·ft²)'
    """
    return _SAID.sub(_with, text) if "·m" in text else text


def also(value: float, unit: str) -> str:
    """A torque or an inertia in its American unit; empty for any other.

    >>> also(81.3, "N·m"), also(0.506, "kg·m²"), also(92, "A")
    ('60 lb-ft', '12 lb·ft²', '')
    """
    kind = SAID_TWICE.get(unit)
    return "" if kind is None else kind.show(value, us=True)


def _with(found: re.Match[str]) -> str:
    first, word, second, unit = found.groups()
    shown = [also(float(one.replace("−", "-")), unit) for one in (first, second) if one]
    numbers = [one.partition(" ")[0] for one in shown[:-1]]
    return f"{found[0]} ({f' {word} '.join([*numbers, shown[-1]])})"
