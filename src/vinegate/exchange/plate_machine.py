"""What a plate or a maker's sheet says of the machine behind it: torques, inertia, amperes at no load, stall times."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.machine.facts import MachineFacts

_OF_RATED: Final = r"\s*/\s*[MTC]\s?_?(?:n|r|nom|rated)(?!\w)"
_SHARE: Final = r"\s*[:=]?\s*(?P<value>\d[\d.,]*\s*[%×x]?)(?!\s*(?:N\s?[·.]?\s?m|(?:lb|ft)[·. -]?(?:ft|lb)|\d))"
_OF_FULL: Final = r"(?:\s*(?:of\s+)?(?:FLT|FL\s?torque|full[\s-]load(?:\s+torque)?|rated(?:\s+torque)?)(?!\w))?"
_INERTIA: Final = r"\d[\d.,]*\s*(?:kg[\s·.*x-]*c?m|lbs?[\s·.*x-]*(?:ft|in))\s?[²2^]+\d?"
_STALL: Final = (
    r"(?<!\w)(?:(?:safe|max\w*\.?|permiss\w*|allow\w*)\s+)?(?:stall(?:ing)?|(?:locked|blocked)[\s-]*rotor|LR)\s+time"
)


def _torque(symbols: str, words: str) -> tuple[re.Pattern[str], ...]:
    """Over the rated torque by its symbol, or in words."""
    return (
        re.compile(rf"(?<!\w)(?:{symbols}){_OF_RATED}{_SHARE}", re.I),
        re.compile(rf"(?<!\w)(?:{words})(?!\w)\.?{_SHARE}{_OF_FULL}", re.I),
    )


def _stall(word: str) -> tuple[re.Pattern[str], ...]:
    """The word ahead of the seconds, or behind them."""
    seconds = r"(?P<value>\d[\d.,]*\s*s(?:ec\w*)?)(?!\w)"
    return (
        re.compile(rf"{_STALL}[\s,(]*{word}\)?\s*[:=]?\s*{seconds}", re.I),
        re.compile(rf"{_STALL}\s*[:=]?\s*{seconds}[\s,(]*{word}\b\)?", re.I),
    )


_SAID: Final = (
    ("locked_rotor_torque", _torque(r"[MTC]\s?_?(?:a|l|st|start|lr|d)|[TC]\s?_?s",
     r"L\.?R\.?T|lock(?:ed)?[\s-]*rotor\s+torque|start(?:ing)?\s+torque")),
    ("breakdown_torque", _torque(r"[MTC]\s?_?(?:k|b|bd|m|max|po)",
     r"B\.?D\.?T|break\s?down\s+torque|pull[\s-]?out\s+torque")),
    ("pull_up_torque", _torque(r"[MTC]\s?_?(?:u|pu|min)", r"P\.?U\.?T|pull[\s-]?up\s+torque")),
    ("inertia", (
        re.compile(rf"(?<!\w)(?P<value>(?:GD|W[KR])\s?[²2^]+\s*[:=]?\s*{_INERTIA})", re.I),
        re.compile(
            rf"(?<!\w)(?:(?:moment\s+of\s+)?inertia|(?:rotor|motor)\s+inertia|J_?[mr]?)\s*(?:J\s*)?[:=]?\s*"
            rf"(?P<value>{_INERTIA})", re.I,
        ),
    )),
    ("no_load_current", (re.compile(
        r"(?<!\w)(?:no[\s-]load\s+(?:amps?|amperes?|current)|n\.?l\.?\s?a(?:mps?)?|I_?0)(?!\w)\.?\s*[:=]?\s*"
        r"(?P<value>\d[\d.,/]*(?:\s*A\b)?)", re.I,
    ),)),
    ("stall_hot", _stall(r"(?:hot|warm)")),
    ("stall_cold", _stall("cold")),
)  # fmt: skip


def machine_of(line: str, found: dict[str, str]) -> tuple[str, list[str]]:
    """A line without what it says of the machine, which is put into `found`; and what of that is told but not taken,
    as it is said again or cannot be read.

    >>> found = {}
    >>> machine_of("45 kW Ma/Mn 2.4; LRT 498 lb-ft, GD2 1.2 kgm2", found), found
    (('45 kW ; LRT 498 lb-ft, ', []), {'locked_rotor_torque': '2.4', 'inertia': 'GD2 1.2 kgm2'})
    """
    left = []
    for name, patterns in _SAID:
        for pattern in patterns:
            for said in pattern.finditer(line):
                value = said["value"].strip().rstrip(".,")
                if name in found or not MachineFacts.fields()[name].reads(value):
                    left.append(said[0].strip())
                else:
                    found[name] = value
            line = pattern.sub("", line)
    return line, left
