"""A device as schedules write it: amperes, poles, frame, kind and the switch that holds its fuses in one text."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.records import dataclass

_AMPS: Final = r"\d+(?:[.,]\d+)?"
_POLES: Final = re.compile(
    r"(?:^|[\s/,-])\s*(?:[1-4]\s*-?\s*(?:P|poles?|Ø|ph)|TPN|TP\s*&\s*N|TP|SPN|SP|DP)(?=$|[\s/,-])", re.I
)
_BEHIND: Final = re.compile(r"^((?:[A-Za-z]{1,3}\s*)?(?:\d{2,4}|[6-9])\s*A?)\s*/\s*[123](?=$|[\s/,-])", re.I)
"""50/3: amperes, and poles behind them; 1/2 is a half."""
_EACH: Final = re.compile(r"^3\s*[x×]\s*(?=\d)")
_SIZE: Final = re.compile(r"\b(?:NH\s?\d{1,3}|D(?:0[1-3]|I{1,3}|IV)|BS\s?88|\d{2}\s*[x×]\s*\d{2})\b", re.I)
"""Bodies of fuse-links (IEC 60269-2, -3): no part of their rating."""
_FRAME: Final = re.compile(rf"{_AMPS}\s*AF\s*[/,-]?\s*(?=\d)|(?<=\dAT)\s*[/,-]?\s*{_AMPS}\s*AF", re.I)
"""Beside a trip's amperes those of its frame: 100AF/50AT."""
_SWITCHED: Final = re.compile(rf"({_AMPS})\s*A?S?\s*/\s*({_AMPS})\s*A?F?", re.I)
_LETTER: Final = re.compile(rf"(?:MCB\s*)?(?P<letter>[BCD]|gG|gL|aM)\s*-?\s*(?P<amps>{_AMPS})\s*A?", re.I)
_LETTER_BEHIND: Final = re.compile(
    rf"(?P<amps>{_AMPS})\s*A?\s*,?\s*(?:MCB\s*)?(?:(?:type|curve)\s*)?(?P<letter>[BCD]|gG|gL|aM)(?:[\s-]*(?:curve|type|MCB))?",
    re.I,
)
_WORDED: Final = re.compile(
    rf"(?P<ahead>[A-Za-z][A-Za-z -]*?)?\s*(?P<amps>{_AMPS})\s*(?:A(?:mps?|T)?\b)?\s*(?P<behind>[A-Za-z][\w -]*)?", re.I
)
_NAMES: Final = {
    **dict.fromkeys(("td", "tdf", "td fuse", "td fuses", "dual element fuse"), "time-delay fuse"),
    **dict.fromkeys(("cb", "tm", "mccb tm", "tm mccb", "tmcb"), "breaker"), "ntd": "non-time-delay",
    **dict.fromkeys(("fuse", "fuses", "fused", "trip"), ""),
    **{letter: f"type {letter.upper()}" for letter in "bcd"},
}  # fmt: skip
"""What a schedule calls a device, where its field calls it otherwise; a fuse alone may be of any kind."""
_SWITCHES: Final = ("as", "nf", "nfss", "non-fused", "nonfused", "unfused", "switch", "isolator")


@dataclass(frozen=True, slots=True, kw_only=True)
class DeviceText:
    """Amperes of the device and of the switch ahead of its fuses, and its kind in the words of its field, as said."""

    rating: str = ""
    switch: str = ""
    kind: str = ""
    fuses: bool = False
    """Whether it says fuses, of no kind."""


def device_of(text: str, *, fused: bool = False) -> DeviceText | None:
    """What a text says; `fused` where two ratings are a switch's and its fuses'. None where it is none of a device.

    >>> device_of("100AF/50AT/3P"), device_of("60AS/40AF").switch, device_of("60AS/40AF").rating
    (DeviceText(rating='50 A', switch='', kind='', fuses=False), '60 A', '40 A')
    >>> device_of("C16").kind, device_of("50/3").rating, device_of("63 A gG").kind
    ('type C', '50 A', 'gG')
    """
    text = _EACH.sub("", re.sub(r"(?<=\d)\s+(?=A[TFS]\b)", "", text.strip(), flags=re.I))
    body = _SIZE.sub("", _POLES.sub("", _BEHIND.sub(r"\1", _POLES.sub("", text)))).strip(" /,-")
    both = _SWITCHED.fullmatch(body)
    if both is not None and (fused or re.search(r"\dA?S\b", body, re.I)):
        return DeviceText(switch=f"{both[1]} A", rating=f"{both[2]} A", fuses=True)
    body = _FRAME.sub("", body).strip(" /,-")
    for form in (_LETTER, _LETTER_BEHIND):
        if said := form.fullmatch(body):
            letter = said["letter"]
            return DeviceText(rating=f"{said['amps']} A", kind=_NAMES.get(letter.casefold(), letter))
    said = _WORDED.fullmatch(body)
    if said is None or (said["ahead"] and said["behind"]):
        return None
    word = (said["ahead"] or said["behind"] or "").strip(" -")
    if word.casefold() in _SWITCHES:
        return DeviceText(switch=f"{said['amps']} A")
    if word.casefold() in ("af", "frame"):
        return None
    kind, fuses = _NAMES.get(word.casefold(), word), "fuse" in word.casefold()
    return DeviceText(rating=f"{said['amps']} A", kind=kind, fuses=fuses)
