"""What stands on a plate beside the motor's own ratings and would be taken for one of them: numbers that name it, its
weight, what is built on it, its speeds and efficiencies elsewhere than at rated load.
"""

from __future__ import annotations

import re
from typing import Final

_NUMBER: Final = r"\d[\d.,]*"
_UP_TO: Final = rf"{_NUMBER}(?:\s?[/–-]\s?{_NUMBER})?"
_VOLTS: Final = rf"{_UP_TO}\s*V(?:AC|DC|olts?)?\b(?:\s*[AD]C\b)?"
_WATTS: Final = rf"{_UP_TO}\s*(?:k?W|watts?)\b"
_COIL_WATTS: Final = rf"{_UP_TO}\s*(?:W|watts?)\b"
_AMPS: Final = rf"{_UP_TO}\s*A(?:mps?)?\b"
_TORQUE: Final = r"\d[\d.,]*\s*(?:N\s?[·.]?\s?m|(?:lb|ft)[·. -]?(?:ft|lb|in)s?)\b"
_OTHER_UNITS: Final = rf"{_UP_TO}\s*(?:Hz|rpm|r/min|min-1|ph(?:ase)?|hp|ppr|imp|pulses?|ohms?|Ω|°\s?C|%)(?!\w)"
_FILL: Final = r"(?:\s*[:=(]\s*|\s+)(?:(?:coil|rated|supply|voltage|volts|torque|watts|[AD]C)\s*[:=]?\s*)*"


def _built_on(name: str, *units: str) -> re.Pattern[str]:
    """A part's name with its own values behind it, each kind once at most."""
    return re.compile(rf"(?<![\w-]){name}(?:{_FILL}(?:{'|'.join(units)})\)?){{1,{len(units)}}}", re.I)


_NAMES: Final = (
    r"ser(?:ial)?|s\s?/\s?n|sn|cat(?:alog(?:ue)?)?|order|part|p\s?/\s?n|spec(?:ification)?|style|prod(?:uct)?|tag|item"
    r"|project|p\.?\s?o|id(?:ent)?|job|batch|lot|asset|equip(?:ment)?|mot(?:or)?|mach(?:ine)?|fabr?|werk"
)
_NO: Final = r"(?:no|nr|num(?:ber)?|n°|№|#)"
_WEIGHT: Final = r"(?:kgs?|kilos?|lbs?|pounds?)(?![\s·.*x-]*(?:c?m|ft|in|f|force)\s?[²2^]*(?!\w))"
_PART: Final = r"(?:(?:75|50|25)\s*%|(?:3/4|1/2|1/4|¾|½|¼)(?:\s*load)?|(?:75|50|25)\s*%?\s*load)"

_OTHER: Final = (
    re.compile(r"\d{2}(?:[.,]\d+)?\s*%?\s*\(\s*(?:75|50|25)\s*%\s*\)"),
    re.compile(
        r"(?<!\w)(?:fla|flc|amps?|amperes?)\s*(?:@|at)\s*\d{3}\s*V(?:olts?)?\s*[:=]?\s*[\d.]+(?:\s*A(?:mp(?:ere)?s?)?)?\b",
        re.I,
    ),
    re.compile(rf"(?<![\w.])(?:{_NAMES})(?!\w)\.?\s*{_NO}(?!\w)\.?\s*[:=]?\s*[\w./-]*\d[\w./-]*", re.I),
    re.compile(
        r"(?<![\w.])(?:(?:ser(?:ial)?(?!\W*f)|cat(?:alog(?:ue)?)?|order|style|spec)(?!\w)\.?\s*[:=#]*|(?:sn|tag|id)\s*[:=#]+)"
        r"\s*(?![123][GD]\b)[\w./-]*\d[\w./-]*", re.I,
    ),
    re.compile(r"(?<![\w.])(?:s\s?/\s?n|p\s?/\s?n|id\s?#)\s*[\w./-]*\d[\w./-]*", re.I),
    re.compile(rf"^\s*{_NO}(?!\w)\.?\s*[:=]?\s*[\w./-]*\d[\w./-]*", re.I),
    re.compile(
        rf"(?<!\w)(?:weight|wt|wgt|mass|gewicht|gew|masse)(?!\w)\.?\s*(?:approx\.?|net|ca\.?)?\s*[:=≈]?\s*{_NUMBER}"
        rf"(?:\s*{_WEIGHT})?|(?<![\w.,/-]){_NUMBER}\s*{_WEIGHT}",
        re.I,
    ),
    re.compile(r"(?<!\w)made\s+in\s+[\w.]+", re.I),
    re.compile(
        rf"(?<!\w)(?:max(?:imum)?|safe|over|critical|min(?:imum)?)\.?\s*-?(?:(?:safe|mech\w*|oper\w*|permiss\w*|allow\w*)\.?"
        rf"\s*)?(?:speed|rpm)\s*[:=]?\s*{_NUMBER}(?:\s*(?:rpm|r/min|min-1|/min))?"
        rf"|(?<!\w){_NUMBER}\s*(?:rpm|r/min)\s+max\b\.?(?=\s*(?:[,;)]|$))"
        rf"|(?<!\w)n\s?_?(?:max|min)\s*[:=]?\s*{_NUMBER}(?:\s*(?:rpm|r/min|min-1|/min))?",
        re.I,
    ),
    re.compile(r"(?<![\w./-])(?:[024-9]|[0-3]\d)\s*(?:-|–|to)\s*\d+\s*Hz\b", re.I),
    re.compile(
        r"(?<![\w.])(?:(?:S\.?F\.?|service\s+factor)\s*)?1[.,]0\d?\s*(?:S\.?F\.?|service\s+factor)?\s*"
        r"(?:on|with|at)\s+(?:a\s+)?(?:VFD|V?PWM|inverter|converter|drive|ASD)\w*(?:\s+power)?",
        re.I,
    ),
    re.compile(
        rf"(?<!\w)eff\w*\.?\s*(?:@|at)?\s*{_PART}\s*[:=]?\s*\d{{2}}(?:[.,]\d+)?\s*%?(?!\s*(?:hz|hp|kw|°?c)\b)", re.I
    ),
    re.compile(
        r"(?<!\w)(?:2|two)[\s-]?speeds?\b(?:[\s,]*(?:1|2|one|two)[\s-]?windings?\b)?(?:[\s,]*(?:VT|CT|CHP|CP)\b)?", re.I
    ),
    re.compile(r"(?<!\w)IP\s?\d\d\s+(?:terminal|conduit|junction)\s?box\b|(?<!\w)(?:terminal|conduit|junction)\s?box\s+IP\s?\d\d",
               re.I),
    _built_on(r"(?:(?:space|winding|stand\s?still|anti\S*)[\s-]*)?(?:heat(?:er|ing)s?|htrs?)", _VOLTS, _WATTS),
    _built_on(r"brakes?", _VOLTS, _AMPS, _TORQUE, _COIL_WATTS),
    _built_on(r"(?:encoder|tacho\w*|resolver)", _VOLTS, _OTHER_UNITS),
    _built_on(
        r"(?:(?:forced|external|separate\w*|aux\w*|cooling)[\s-]*(?:cooling|vent\w*|fan|blower)(?:\s+motor)?|(?:fan|blower)\s+motor)",
        _VOLTS, _AMPS, _WATTS, _OTHER_UNITS,
    ),
)  # fmt: skip
_BEHIND: Final = _built_on(r"(?:^\s*(?:blower|fan|vent\w*))", _VOLTS, _AMPS, _WATTS, _OTHER_UNITS)
"""Of a further line alone: the first may be of a fan's own motor."""


def set_apart(line: str, *, first: bool) -> tuple[str, list[str]]:
    """A line without what is no rating of the motor, and that.

    >>> set_apart("75 HP WT 405 LBS SPACE HTR 115V 40W 460 V", first=True)
    ('75 HP   460 V', ['WT 405 LBS', 'SPACE HTR 115V 40W'])
    >>> set_apart("Serial No. 160L", first=True), set_apart("FRAME NO 145T", first=True)
    (('', ['Serial No. 160L']), ('FRAME NO 145T', []))
    """
    left = []
    for other in (*_OTHER, *(() if first else (_BEHIND,))):
        left += [said[0].strip() for said in other.finditer(line)]
        line = other.sub("", line)
    return line, left
