"""A value that its writer is not sure of: "~200 ft", "approx. 60 m", "60 m (est.)". It is read, and is assumed."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import Final

_WORDS: Final = (
    r"approx(?:imate(?:ly)?)?|appr|about|abt|circa|ca|est(?:imate[ds]?)?|rough(?:ly)?|say|assum(?:ed?|ing)|around|guess(?:ed)?"
    r"|nearly|to\s+be\s+confirmed|tb[cd]"
)
_AHEAD: Final = re.compile(rf"\s*(?:[~≈≃∼]|(?:{_WORDS}|c\.)(?![\w])\.?)\s*[:=]?\s*(?=\S)", re.I)
_BEHIND: Final = re.compile(
    rf"(?<=[\w.%'\"°Ω²³½¼¾])(?:\s*\((?:{_WORDS})\.?\)|\s*[,;]?\s+(?:{_WORDS})\.?|\s*\(?\?+\)?)\s*$", re.I
)


@lru_cache(maxsize=4096)
def exactly(text: str) -> str:
    """A text without what says that it is only about so; empty where nothing says it.

    >>> exactly("~200 ft"), exactly("60 m (est.)"), exactly("approx. 14 kA"), exactly("200 ft"), exactly("3~ 400 V")
    ('200 ft', '60 m', '14 kA', '', '')
    """
    ahead = _AHEAD.sub("", text, count=1) if _AHEAD.match(text) else text
    bare = _BEHIND.sub("", ahead).strip()
    return bare if bare != text.strip() else ""


_RECORDED: Final = "record"


def may_be_rough(part: str) -> bool:
    """Whether a part's facts may be written as about so: not what an instrument showed.

    >>> may_be_rough("wiring"), may_be_rough("record_start")
    (True, False)
    """
    return not part.startswith(_RECORDED)
