"""Which way a plate says that its motor turns."""

from __future__ import annotations

import re
from typing import Final

_COUNTER: Final = re.compile(r"\b(?:CCW|ACW|counter[- ]?clockwise|anti[- ]?clockwise)", re.I)
_CLOCKWISE: Final = re.compile(r"\b(?:CW|clockwise)", re.I)
_BOTH: Final = re.compile(r"\b(?:bi-?(?:directional|rotational)|both|dual|either|reversible|reversing)", re.I)
_NOT_BOTH: Final = re.compile(r"\b(?:not|non|never|no)\b[- ]*(?:reversible|reversing|both|either)", re.I)
_BACK: Final = re.compile(
    r"N\.?D\.?E\b|O\.?D\.?E\b|(?:\b|(?<=CW))L\.?E\b|\b(?:opposite|lead end|back|fan end|non[- ]drive)", re.I
)
_SHAFT: Final = re.compile(r"\bopp\w*\W+(?:the\W+)?(?:lead|fan|back|non[- ]drive|n\.?d\.?e)", re.I)
"""Opposite the end that is opposite the shaft's."""
_FRONT: Final = re.compile(r"D\.?E\b|(?:\b|(?<=CW))[SP]\.?E\b|\b(?:shaft|pulley|drive end)\b", re.I)


def one_way(text: str) -> bool:
    """Whether it names one direction, from whichever end.

    >>> one_way("CCW ODE"), one_way("counter-clockwise"), one_way("CW, not reversible")
    (True, True, True)
    >>> one_way("CW/CCW"), one_way("reversible, CW as shipped"), one_way("")
    (False, False, False)
    """
    clockwise = _CLOCKWISE.search(_COUNTER.sub("", text)) is not None
    if _BOTH.search(_NOT_BOTH.sub("", text)):
        return False
    return clockwise is not (_COUNTER.search(text) is not None)


def clockwise(text: str) -> bool | None:
    """Whether it turns clockwise seen from the shaft's end; None where the way or the end is not said, or both are.

    >>> clockwise("CW DE"), clockwise("CCWODE"), clockwise("CCW, seen from the end opposite the shaft"), clockwise("CW")
    (True, True, True, None)
    >>> clockwise("CCW lead end"), clockwise("CCW opposite lead end"), clockwise("CW/CCW DE")
    (True, False, None)
    >>> clockwise("CCWLE"), clockwise("CCW-SE"), clockwise("CW pulley end")
    (True, False, True)
    """
    if not one_way(text):
        return None
    counter = _COUNTER.search(text) is not None
    if _SHAFT.search(text):
        return not counter
    if _BACK.search(text):
        return counter
    return not counter if _FRONT.search(text) else None
