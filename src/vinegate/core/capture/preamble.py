"""What stands above a recorder's table: how far apart its samples are, where no column is the time."""

from __future__ import annotations

import re
from collections.abc import Iterable
from typing import Final

from vinegate.core.capture.heads import SECONDS

_NUMBER: Final = r"(?P<value>\d+(?:[.,]\d+)?(?:[eE][-+]?\d+)?)"
_INTERVAL: Final = re.compile(
    rf"\b(?:interval|sampl\w*\s+(?:period|time|step)|horizontal\s+increment|x\s*increment|increment|Δt|dt)\b"
    rf"\s*[(\[]?(?P<ahead>[a-zµμ]+)?[)\]]?\W*?{_NUMBER}[\s,;\t\"]*(?P<unit>[a-zµμ]+)?",
    re.I,
)
_RATE: Final = re.compile(
    rf"\b(?:sampl\w*\s*(?:rate|freq\w*)|rate|fs)\b\s*[(\[]?(?P<ahead>[kM]?(?:Hz|Sa?/s))?[)\]]?\W*?{_NUMBER}"
    r"[\s,;\t\"]*(?P<unit>[kM]?(?:Hz|Sa?/s))?",
    re.I,
)
_TIMES: Final = {"": 1.0, "k": 1e3, "m": 1e6}


def interval_s(lines: Iterable[str]) -> float | None:
    """Seconds between two samples, as the lines above a table say it; None where they do not.

    >>> interval_s(["Sample interval,0.001"]), interval_s(["Interval (ms);20"]), interval_s(["Sampling rate: 5 kHz"])
    (0.001, 0.02, 0.0002)
    >>> interval_s(["Rate,50,Hz"]), interval_s(["Station A"]), interval_s(["Interval,0"])
    (0.02, None, None)
    """
    for line in lines:
        if (found := _INTERVAL.search(line)) is not None:
            unit = (found["unit"] or found["ahead"] or "s").lower()
            step = _value(found) * SECONDS.get(unit, 0.0)
        elif (found := _RATE.search(line)) is not None:
            unit = found["unit"] or found["ahead"] or "Hz"
            hertz = _value(found) * _TIMES[unit[0].lower() if unit[0] in "kM" else ""]
            step = 1 / hertz if hertz else 0.0
        else:
            continue
        if step > 0:
            return step
    return None


def _value(found: re.Match[str]) -> float:
    return float(found["value"].replace(",", "."))
