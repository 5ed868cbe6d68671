"""The enclosure that a plate names, however it is written."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.tables import load

EXPLOSION_PROOF: Final = ("XP", "TEXP")
_WORDS: Final = (
    ("XP", r"\bXP|\bEX(P(L\w*)?)?\W*P(ROOF|F|R)\b|\bX\W?PROOF|EXPL\w*\W*PR(OO)?F|\bEPFC\b|\bEPNV\b|FLAME\W*PROOF"),
    ("TENV", r"\bTENV|NON\W*VENT"),
    ("TEAO", r"\bTEAO|AIR\W*OVER"),
    ("TEWAC", r"\bTEW(A)?C\b|WATER\W*(TO\W*AIR\W*)?COOLED"),
    ("TEAAC", r"\bTE(AAC|CACA)\b|AIR\W*TO\W*AIR"),
    ("TEBC", r"\bTEBC|BLOWER"),
    ("TEFC", r"\bTEFC|TOT\w*\W*ENCL\w*\W*FAN"),
    ("WPII", r"\bWP\W*(II|2)\b|WEATHER\W*PROT\w*\W*(TYPE)?\W*(II|2)\b"),
    ("WPI", r"\bWP\W*(I|1)\b|WEATHER\W*PROT\w*\W*(TYPE)?\W*(I|1)\b"),
    ("ODP", r"\b(ODP|ODPFV|DP|DPG|DPFG|ODG|DRIP\W*PROOF)\b|OPEN\W*DRIP\W*PROOF"),
)


def enclosure_row(text: str | None) -> dict[str, str] | None:
    """Its row of the table of enclosures; None where it names none.

    >>> [enclosure_code(text) for text in ("tefc", "T.E.F.C.", "TEFC-XP", "WP-2", "drip proof", "TE")]
    ['TEFC', 'TEFC', 'XP', 'WPII', 'ODP', '']
    >>> [enclosure_code(text) for text in ("TEWAC", "T.E.W.C.", "TEAAC", "EXPL PRF")]
    ['TEWAC', 'TEWAC', 'TEAAC', 'XP']
    >>> {enclosure_code(text) for text in ("EXP PROOF", "EXP. PF.", "X-PROOF", "EPFC", "XPRF", "Expl. proof")}
    {'XP'}
    >>> [enclosure_code(text) for text in ("DPG", "ODPFV", "EXPORT", "EX PROFIBUS")]
    ['ODP', 'ODP', '', '']
    """
    said = re.sub(r"(?<=\b[A-Z])\.(?=[A-Z]\b)|\.$", "", (text or "").strip().upper())
    table = load("motor_enclosure")
    plain = table.find(code=re.sub(r"[\s-]", "", said))
    if plain is not None:
        return plain
    return next((table.find(code=code) for code, words in _WORDS if re.search(words, said)), None)


def enclosure_code(text: str | None) -> str:
    """The code alone; empty where it names none."""
    row = enclosure_row(text)
    return row["code"] if row is not None else ""


def cooling_code(text: str | None) -> str:
    """The IC code that a plate says, in its short form; empty where it says none (IEC 60034-6:1991 3).

    >>> cooling_code("ic 411"), cooling_code("TEFC (IC4A1A1)"), cooling_code("IC 0A1"), cooling_code("own fan")
    ('IC411', 'IC411', 'IC01', '')
    >>> cooling_code("IC 0141")  # as machines before 1991 have it
    'IC411'
    """
    said = re.sub(r"\bIC[\s-]?", "IC", (text or "").upper())
    whole = re.search(r"\bIC(\d)A(\d)(?:A(\d))?\b", said)
    if whole:
        return f"IC{''.join(part for part in whole.groups() if part)}"
    if re.search(r"\bIC0141\b", said):
        return "IC411"
    short = re.search(r"\bIC\d{2,3}W?\b", said)
    return short[0] if short else ""


def ip_marks(text: str | None) -> tuple[tuple[int, int], ...]:
    """Every IP code of a marking: one for jets and one for immersion stand side by side (IEC 60529:2013 6.1).

    >>> ip_marks("IP66/IP68"), ip_marks("IP 66/67"), ip_marks("IEC 60529")
    (((6, 6), (6, 8)), ((6, 6), (6, 7)), ())
    >>> ip_marks("IPW 55"), ip_marks("IP 5 5")  # W: for the weather (IEC 60034-5:2020 4.4)
    (((5, 5),), ((5, 5),))
    """
    said = (text or "").upper()
    if "IP" not in said:
        return ()
    found = re.findall(r"(?:\bIPW?\s?|/\s?)([0-6X])\s?([0-9X])(?!\d)", said)
    return tuple((0 if solids == "X" else int(solids), 0 if water == "X" else int(water)) for solids, water in found)


def ip_code(enclosure: str | None, ip: str | None) -> str:
    """A plate's IP code: in the field of its own, or where its enclosure stands; empty where neither says one.

    >>> ip_code("TEFC", "IP55"), ip_code("TEFC (IP 54)", None), ip_code("ODP", None), ip_code("", "55")
    ('IP55', 'IP 54', '', 'IP55')
    """
    if ip and _DIGITS.fullmatch(ip.strip().upper()):
        return f"IP{ip.strip()}"
    found = _IP.search((enclosure or "").upper())
    return ip or (found[0] if found else "")


_DIGITS: Final = re.compile(r"[0-6X]\s?[0-9X]")
_IP: Final = re.compile(r"\bIPW?\s?[0-6X]\s?[0-9X](?:\s?/\s?(?:IP\s?)?[0-6X][0-9X])?")
