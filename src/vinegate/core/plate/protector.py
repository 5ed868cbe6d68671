"""The thermal protection that a plate names, however it is written."""

from __future__ import annotations

import re
from enum import StrEnum
from typing import Final


class Protector(StrEnum):
    """What watches the winding from inside. The values are the words of the table of codes."""

    NONE = "NONE"
    AUTOMATIC = "AUTO"
    MANUAL = "MAN"
    IMPEDANCE = "IMP"
    SENSORS = "PTC"
    ONE_SHOT = "ONESHOT"
    SOME = "TP"
    """There is one: of which kind, it does not say."""
    UNREAD = "?"

    @property
    def sparks(self) -> bool | None:
        """Whether it has contacts that work in the machine; None where that is not known."""
        return None if self in (Protector.SOME, Protector.UNREAD) else self in (Protector.AUTOMATIC, Protector.MANUAL)

    @property
    def resets_itself(self) -> bool | None:
        """The same of coming on again by itself."""
        return None if self in (Protector.SOME, Protector.UNREAD) else self is Protector.AUTOMATIC

    @property
    def bears_a_stall(self) -> bool:
        """Whether it keeps a machine that fails to start from harm by itself: opens it, or lets no more through."""
        return self not in (Protector.NONE, Protector.SENSORS, Protector.UNREAD)

    @property
    def watches(self) -> bool:
        """Whether it feels how warm the winding is, whatever its current."""
        return self not in (Protector.NONE, Protector.IMPEDANCE, Protector.UNREAD)


_WORDS: Final = (
    (Protector.NONE, r"(NONE|NO|NIL)( FITTED| PROVIDED)?|N|N/?A|WITHOUT|(NONE|NO|WITHOUT)\b.*\bPROT\w*"),
    (Protector.NONE, r"NOT (FITTED|PROVIDED|INSTALLED|PRESENT|THERMALLY PROT\w*)"),
    (Protector.UNREAD, r"(NOT|UNKNOWN)\b.*"),
    (Protector.AUTOMATIC, r".*(AUTO|\bTPA\b|THERMOSTAT|T['’]?-?STAT|BI-?METAL|\bPTO\b).*"),
    (Protector.MANUAL, r".*(\bMAN|\bTPM\b).*"),
    (Protector.IMPEDANCE, r".*(\bIMP|\bZP\b).*"),
    (Protector.SENSORS, r".*(PTC|THERMISTOR|\bPT-?100|\bRTD|KTY).*"),
    (Protector.ONE_SHOT, r".*(ONE-?\s?SHOT|THERMAL FUSE|FUSIBLE).*"),
    (Protector.SOME, r"Y|YES|[123][12][12]|.*(?:\b|\d)(TP|T\.P|THERMAL(LY)? ?PROT|OVERHEAT ?PROT|PROTECTED).*"),
)


def read_protector(text: str | None) -> Protector | None:
    """None for an empty field.

    Source: NEMA MG 1:2021 1.72 and 10.40, NFPA 70:2023 430.7(A)(13), IEC 60034-11:2020 for what is marked.

    >>> [str(read_protector(text)) for text in ("Automatic reset", "TPM", "no", "3 PTC", "TP 211", "211", "as ordered")]
    ['AUTO', 'MAN', 'NONE', 'PTC', 'TP', 'TP', '?']
    >>> [str(read_protector(text)) for text in ("not fitted", "no thermal protector", "not known", "-")]
    ['NONE', 'NONE', '?', '?']
    >>> str(read_protector("none fitted")), str(read_protector("no data"))
    ('NONE', '?')
    """
    said = re.sub(r"\s+", " ", (text or "").strip().upper())
    if not said:
        return None
    return next((kind for kind, words in _WORDS if re.fullmatch(words, said)), Protector.UNREAD)


def by_ohms(text: str | None) -> bool:
    """Whether the sensors are read by their ohms, as a relay for thermistors that switch does not.

    >>> by_ohms("PT100"), by_ohms("6 x RTD"), by_ohms("3 PTC 150"), by_ohms(None)
    (True, True, False, False)
    """
    return re.search(r"PT-?1000?\b|\bRTD|KTY", (text or "").upper()) is not None


_CATEGORY: Final = re.compile(r"(?<!\d)[123][12][12]\b")
"""Of IEC 60034-11: sensors, and what they are wired to; whether they are stands on the protection's sheet."""


def bears_a_stall(text: str | None) -> bool:
    """Whether what a plate names keeps the machine from harm where it fails to start.

    Source: NFPA 70:2023 430.32(A)(2) and (B)(2), a thermal protector prevents overheating by a failure to start, and
    (B)(4), impedance.

    >>> [bears_a_stall(text) for text in ("Automatic reset", "thermally protected", "impedance protected")]
    [True, True, True]
    >>> [bears_a_stall(text) for text in ("none", "3 PTC", "TP211", "as ordered", None)]
    [False, False, False, False, False]
    """
    found = read_protector(text)
    return found is not None and found.bears_a_stall and not _CATEGORY.search(text or "")


def opens_by_itself(text: str | None) -> bool:
    """Whether what a plate names feels the winding and opens, with nothing wired to it.

    >>> [opens_by_itself(text) for text in ("Automatic reset", "TPM", "thermally protected")]
    [True, True, True]
    >>> [opens_by_itself(text) for text in ("3 PTC", "TP 211", "impedance protected", "none", "as ordered", None)]
    [False, False, False, False, False, False]
    """
    found = read_protector(text)
    watches = found is not None and found.watches and found is not Protector.SENSORS
    return watches and not _CATEGORY.search(text or "")
