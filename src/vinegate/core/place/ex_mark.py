"""Markings of explosion protection with `Ex`: read into parts, and written again."""

from __future__ import annotations

import re
from functools import cache
from typing import Final

from vinegate.core.records import dataclass
from vinegate.core.tables import load

LEVELS: Final = ("Ga", "Gb", "Gc", "Da", "Db", "Dc")
_CATEGORY_LEVEL: Final = {"1G": "Ga", "2G": "Gb", "3G": "Gc", "1D": "Da", "2D": "Db", "3D": "Dc"}


@dataclass(frozen=True, slots=True, kw_only=True)
class ExMark:
    """One marking. `american` for AEx; `category` as `II 2 G`; `types` of protection in their order.

    `group` as `IIB`, `IIB+H2`, `IIIC`, or `II` for all gases; `temperature` as `T4` or `T135 °C`; `ambient_c` lowest
    and highest; `condition` X or U; `associated` what stands in square brackets.
    """

    american: bool = False
    zone: str = ""
    category: str = ""
    types: tuple[str, ...] = ()
    associated: str = ""
    group: str = ""
    temperature: str = ""
    level: str = ""
    ip: str = ""
    ambient_c: tuple[float, float] | None = None
    condition: str = ""

    @property
    def dust(self) -> bool:
        return self.level.startswith("D") or self.group.startswith("III") or any(t.startswith("t") for t in self.types)

    @property
    def protects(self) -> str:
        """The equipment protection level: as marked, by the category, or the weakest of its types'."""
        if self.level:
            return self.level
        kinds = "D" if self.dust else "G"
        found = re.search(r"(\d)", self.category)
        if found:
            return _CATEGORY_LEVEL.get(found.group(1) + kinds, "")
        levels = [level for one in self.types if (level := _level_of(one, dust=self.dust))]
        return max(levels, key=LEVELS.index, default="") if len(levels) == len(self.types) else ""


@cache
def _types() -> dict[str, dict[str, str]]:
    return {row["type"]: row for row in load("protection_type").rows}


def _level_of(name: str, *, dust: bool) -> str:
    row = _types().get(name)
    return "" if row is None else row["dust_epl" if dust else "gas_epl"]


def compose_ex(mark: ExMark) -> str:
    """The marking as it stands on a plate.

    >>> compose_ex(ExMark(types=("db", "eb"), group="IIC", temperature="T4", level="Gb"))
    'Ex db eb IIC T4 Gb'
    """
    parts = [f"Class I, Zone {mark.zone},"] if mark.zone else []
    parts += [mark.category, "AEx" if mark.american else "Ex", *mark.types]
    parts += [f"[{mark.associated}]" if mark.associated else "", mark.group, mark.temperature, mark.level, mark.ip]
    if mark.ambient_c is not None:
        low, high = (f"{value:+g}".replace("-", "−") for value in mark.ambient_c)
        parts.append(f"{low} °C ≤ Ta ≤ {high} °C")
    return " ".join(part for part in (*parts, mark.condition) if part)


_START: Final = re.compile(
    r"(?:CLASS\s+I\s*,?\s*ZONE\s*(?P<zone>[012])\s*,?\s*)?(?P<category>\bII?\s*[123]\s*G?D?\s+)?(?<![A-Za-z])(?P<kind>AEx|EEx|Ex)\b",
    re.I,
)


def parse_ex(text: str) -> tuple[tuple[ExMark, ...], tuple[str, ...]]:
    """All markings in a text, and the words in it that were not understood."""
    plain = _plain(text)
    starts = list(_START.finditer(plain))
    marks, unread = [], []
    if starts and plain[: starts[0].start()].strip(" ,;/"):
        unread.append(plain[: starts[0].start()].strip(" ,;/"))
    for number, start in enumerate(starts):
        ends = starts[number + 1].start() if number + 1 < len(starts) else len(plain)
        mark, rest = _one(start, plain[start.end() : ends])
        marks.append(mark)
        unread += rest
    return tuple(marks), tuple(unread)


def _plain(text: str) -> str:
    text = text.replace("−", "-").replace("–", "-").replace("⟨", "").replace("⟩", "")
    text = re.sub(r"II([ABC])\s*\+\s*H(?:2|₂|ydrogen)", r"II\1+H2", text, flags=re.I)
    return re.sub(r"\s+", " ", text).strip()


_AMBIENT: Final = re.compile(
    r"(?P<low>[-+]?\d+)\s*°?\s*C?\s*(?:≤|<=|<|to|\.\.\.?|…)\s*(?:T\s*a(?:mb)?\.?\s*(?:≤|<=|<)\s*)?(?P<high>[-+]?\d+)\s*°?\s*C",
    re.I,
)
_TAMB: Final = re.compile(
    r"T\s*a(?:mb)?\.?\s*[=:]?\s*(?P<low>-\d+)\s*°?\s*C?\s*(?:to|…|\.\.\.?)\s*(?P<high>[-+]?\d+)\s*°?\s*C?", re.I
)


_HOTTEST: Final = re.compile(
    r"(?P<low>)\bT\s*a(?:mb)?\.?\s*(?:max\.?\s*)?[=:≤<]*\s*(?P<high>[-+]?\d+)\s*°?\s*C\b", re.I
)
_LEAST_C: Final = -20.0
"""Of the air that a marking is for where it says no other (IEC 60079-0:2017 5.1.1)."""


def _one(start: re.Match[str], body: str) -> tuple[ExMark, list[str]]:
    """The parts behind `Ex`, in any order; what is left over is named."""
    body, ambient = _take(body, _TAMB)
    if ambient is None:
        body, ambient = _take(body, _AMBIENT)
    if ambient is None:
        body, ambient = _take(body, _HOTTEST)
    body, brackets = _take(body, re.compile(r"\[(?P<inside>[^\]]*)\]"))
    body, heat = (
        _take(body, re.compile(r"\bT\s?(?P<degrees>\d{2,3})\s*°?\s*C\b(?:\s*D[abc]?\b)?", re.I))
        if "T" in body
        else (body, None)
    )
    level_in_heat = re.search(r"D[abc]$", heat.group(0)) if heat else None
    body, ip = _take(body, re.compile(r"\bIP\s?(?P<digits>[0-6X][0-9X])[A-Z]?\b", re.I))
    category = re.sub(r"\s*(\d)\s*", r" \1 ", (start["category"] or "").strip().upper()).strip()
    found: dict[str, str] = {"level": level_in_heat.group(0) if level_in_heat else ""}
    types: list[str] = []
    unread: list[str] = []
    for word in re.split(r"[\s,;/]+", body):
        if word:
            _sort(word, found, types, unread)
    mark = ExMark(
        american=start["kind"].upper() == "AEX",
        zone=start["zone"] or "",
        category=category,
        types=tuple(types),
        associated=brackets["inside"].strip() if brackets else "",
        group=found.get("group", ""),
        temperature=f"T{heat['degrees']} °C" if heat else found.get("temperature", ""),
        level=found["level"] or found.get("marked", ""),
        ip=f"IP{ip['digits']}" if ip else "",
        ambient_c=(float(ambient["low"] or _LEAST_C), float(ambient["high"])) if ambient else None,
        condition=found.get("condition", ""),
    )
    return mark, unread


def _take(body: str, pattern: re.Pattern[str]) -> tuple[str, re.Match[str] | None]:
    match = pattern.search(body)
    if match is None:
        return body, None
    return f"{body[: match.start()]} {body[match.end() :]}", match


def _sort(word: str, found: dict[str, str], types: list[str], unread: list[str]) -> None:
    """One word to its part."""
    if re.fullmatch(r"III?[ABC](\+H2)?|II|I", word):
        found["group"] = word
    elif re.fullmatch(r"T[1-6][A-D]?", word):
        found["temperature"] = word
    elif word in LEVELS:
        found["marked"] = word
    elif word in ("X", "U"):
        found["condition"] = word
    elif word in ("A20", "A21", "A22", "B20", "B21", "B22"):
        found["level"] = {"20": "Da", "21": "Db", "22": "Dc"}[word[1:]]
    elif word in _types():
        types.append(word)
    elif len(word) > 1 and all(letter in _types() for letter in word):
        types.extend(word)  # `de` of older markings
    else:
        unread.append(word)
