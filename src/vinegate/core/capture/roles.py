"""Which channel is which, guessed from its name, unit and phase; the person confirms it."""

from __future__ import annotations

import re
from collections.abc import Iterable
from typing import Final

from vinegate.core.capture.recording import Channel

ROLES: Final = {
    "u12": "volts 1-2", "u23": "volts 2-3", "u31": "volts 3-1", "u1": "volts 1-N", "u2": "volts 2-N",
    "u3": "volts 3-N", "i1": "amperes 1", "i2": "amperes 2", "i3": "amperes 3", "n": "speed", "p": "power",
    "": "not used",
}  # fmt: skip
_PHASE: Final = {
    one: number
    for number, words in (("1", "A R L1 1 U T1"), ("2", "B S L2 2 V T2"), ("3", "C T L3 3 W T3"))
    for one in words.split()
}
_PAIRS: Final = {
    one: role
    for role, words in (
        ("u12", "12 AB RS L1L2 L12 1L2 UV"),
        ("u23", "23 BC ST L2L3 L23 2L3 VW"),
        ("u31", "31 13 CA AC TR RT L3L1 L1L3 L31 L13 3L1 WU"),
    )
    for one in words.split()
}
_NOISE: Final = re.compile(
    r"CURRENTS?|AMPERES?|AMPERAGE|\bAMPS?\b|VOLTAGES?|VOLTS?|SPANNUNG|STROM|COURANT|TENSION|INTENSIT[EÉ]|PHASES?|"
    r"\bPH\b|\bLINES?\b|LEITER|\bCH(?:ANNEL)? ?\d+\b(?=.*[A-Z0-9])|\bTO\b|\bMOTOR\b|\bTRUE\b"
)
_MEAN: Final = re.compile(r"\b(?:[AV](?=RMS))?RMS|RMS|AVERAGE|AVG|MEAN|MITTEL(?:WERT)?|\bEFF\b")
_ENDS: Final = re.compile(r"\b(MAX(?:IMUM)?|PEAK|INRUSH)\b|\b(MIN(?:IMUM)?)\b")
_NOT_A_LINE: Final = re.compile(
    r"\b(?:I?[N04GE]|I?PE|NEUTRAL|GROUND|EARTH|LEAK\w*|RESIDUAL|SUM|TOTAL|THD|CF|CREST|ANGLE|UNBAL\w*|IMBAL\w*)\b"
)


def roles_of(channels: Iterable[Channel]) -> dict[str, str]:
    """By channel name; each role once. What is a mean goes ahead of what is the most; the least is never taken."""
    channels = list(channels)
    pairs = any(_rest(one.name) in ("VW", "WU") for one in channels)
    taken: dict[str, str] = {}
    for most in (False, True):
        for channel in channels:
            ends = _ENDS.search(_plain(channel.name))
            role = _role(channel, pairs=pairs) if bool(ends) is most and not (ends and ends[2]) else ""
            if role and role not in taken:
                taken[role] = channel.name
    if not any(role.startswith("i") for role in taken):
        taken |= _by_order(channels)
    by_name = {name: role for role, name in taken.items()}
    return {channel.name: by_name.get(channel.name, "") for channel in channels}


def _by_order(channels: Iterable[Channel]) -> dict[str, str]:
    """Amperes without a phase: one clamp, or two or three in their order."""
    amps = {one.name: _plain(one.name) for one in channels if one.unit == "A"}
    lines = [name for name, plain in amps.items() if not _NOT_A_LINE.search(plain) and not _ENDS.search(plain)]
    return {f"i{number}": name for number, name in enumerate(lines, start=1)} if len(lines) <= 3 else {}


def _plain(name: str) -> str:
    return re.sub(r"[^A-Z0-9É]+", " ", name.upper()).strip()


def _rest(name: str) -> str:
    """What is left of a name without the words that say no line."""
    once = re.sub(r" \(\d+\)$", "", name)  # a head that stood twice
    return _ENDS.sub(" ", _MEAN.sub(" ", _NOISE.sub(" ", _plain(once)))).replace(" ", "")


def _role(channel: Channel, *, pairs: bool) -> str:
    """`pairs`: UV stands beside VW or WU, so that it is two lines and not the volts of line V."""
    if channel.unit == "rpm":
        return "n"
    if channel.unit == "W":
        return "p"
    rest = _rest(channel.name)
    phase = re.sub(r"[^A-Z0-9]", "", channel.phase.upper())
    if channel.unit == "A":
        number = _PHASE.get(phase) or _PHASE.get(rest) or _PHASE.get(re.sub(r"^(?:IL|I|A(?=\d))|I$", "", rest), "")
        return f"i{number}" if number else ""
    if channel.unit != "V":
        return ""
    inner = re.sub(r"^(?:U|V|E)(?=.)", "", rest)
    for one in (phase, inner if rest == "UV" and not pairs else rest, inner):
        if one in _PAIRS:
            return _PAIRS[one]
    plain = inner.removesuffix("N")
    number = _PHASE.get(phase) or ("" if rest in ("U", "V") else _PHASE.get(plain, ""))
    return f"u{number}" if number else ""
