"""What the two machines keep out: by the words of their enclosures, by IP codes, and the one against the other."""

from __future__ import annotations

from typing import Final

from vinegate.core.place.enclosure import ip_serves
from vinegate.core.plate.enclosed import EXPLOSION_PROOF, enclosure_row, ip_code, ip_marks
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.fixing import said_of
from vinegate.core.replacement.pair import Pair
from vinegate.core.tables import load

_RESPECTS: Final = (("outdoor", "weather"), ("dusty", "dust"), ("washdown", "washing down"))
_IP: Final = "IEC 60034-5:2020"
_WEATHER: Final = (4, 4)
"""What is taken to bear rain without being called made for weather."""

Marks = tuple[tuple[int, int], ...]


def enclosure(pair: Pair) -> Row | None:
    """Open or closed, weather, dust, washing: what the old one bore the new one must bear.

    None where both have an IP code and one has nothing else: codes are a row of their own.
    """
    row = said_of(pair, "enclosure", "Enclosure", "enclosure")
    old, new = (enclosure_row(text) for text in (row.old, row.new))
    if old is not None and new is not None:
        return _named(pair, row, old, new)
    codes = [ip_code(machine.plate.enclosure, machine.plate.protection) for machine in (pair.old, pair.new)]
    coded = all(machine.plate.protection for machine in (pair.old, pair.new))
    if coded and (old is None or old["code"] not in EXPLOSION_PROOF) and not (row.old and row.new):
        return None
    row = Said(row.key, row.name, row.old or codes[0], row.new or codes[1])
    if not row.old or not row.new:
        return row.lacking("enclosure, or IP code")
    if row.old.upper() == row.new.upper():
        return row.put(fits=Fits.SAME, text="The same.")
    if old is not None and ip_marks(codes[1]):
        return _code_for_name(pair, row, old, ip_marks(codes[1]))
    if new is not None and ip_marks(codes[0]):
        return _name_for_code(row, ip_marks(codes[0]), new)
    if ip_marks(codes[0]) and ip_marks(codes[1]):
        return _by_codes(row, ip_marks(codes[0]), ip_marks(codes[1]))
    return row.put(fits=Fits.UNKNOWN, text="", needs=("what an enclosure of that code bears",))


def _named(pair: Pair, row: Said, old: dict[str, str], new: dict[str, str]) -> Row:
    source = load("motor_enclosure").cite
    if old is new:
        return row.put(fits=Fits.SAME, text="The same.")
    if old["code"] in EXPLOSION_PROOF and new["code"] not in EXPLOSION_PROOF:
        return _no_flame_paths(pair, row)
    lost = [word for column, word in _RESPECTS if old[column] == "yes" and new[column] == "no"]
    if lost:
        text = f"It is not made for {' and '.join(lost)}, as the old one is."
        return row.put(fits=Fits.NOT, text=text, source=source)
    gained = [word for column, word in _RESPECTS if old[column] == "no" and new[column] == "yes"]
    closed = old["open"] == "yes" and new["open"] == "no"
    text = f"It bears {' and '.join(gained)} besides." if gained else "It bears as much."
    task = "Its overload holds for a shorter time: a closed machine heats faster." if closed else "See its cooling air."
    return row.put(fits=Fits.WITH, text=text, source=source, task=task)


def _no_flame_paths(pair: Pair, row: Said) -> Row:
    return row.put(fits=Fits.NOT, text="Closed is not explosion-proof: it has no flame paths.",
                   source=pair.rules.papers.classification)  # fmt: skip


def _code_for_name(pair: Pair, row: Said, old: dict[str, str], new: Marks) -> Row:
    """An enclosure by name keeps out what is usual for it; of a code it is known."""
    if old["code"] in EXPLOSION_PROOF:
        if pair.new.plate.listing or pair.new.plate.ex_marking:
            return row.put(fits=Fits.UNKNOWN, text="", needs=("whether its marking covers the area",))
        return _no_flame_paths(pair, row)
    usual = ip_marks(old["ip"])[0]
    kept = f"what {old['code']} usually keeps out, {old['ip']}"
    if not any(ip_serves(mark, usual) for mark in new):
        return row.put(fits=Fits.NOT, text=f"It keeps out less than {kept}.", source=load("motor_enclosure").cite)
    if old["outdoor"] == "yes" and not any(ip_serves(mark, _WEATHER) for mark in new):
        return row.put(fits=Fits.UNKNOWN, text=f"It keeps out {kept}.", needs=("whether it is made for weather",))
    return row.put(fits=Fits.WITH, text=f"It keeps out {kept}.", source=load("motor_enclosure").cite,
                   task="See its cooling air.")  # fmt: skip


def _name_for_code(row: Said, old: Marks, new: dict[str, str]) -> Row:
    """What is usual for a name is not what a given machine has; an open one never keeps out wires and splashes."""
    if new["open"] == "yes" and all(solids >= _WEATHER[0] for solids, _ in old):
        return row.put(fits=Fits.NOT, text=f"It is open; {row.old} is closed.", source=load("motor_enclosure").cite)
    return row.put(fits=Fits.UNKNOWN, text=f"{new['code']} is usually {new['ip']}.", needs=("the new plate's IP code",))


def protection(pair: Pair) -> Row | None:
    """Solids and water each by its own figure; what keeps out when immersed need not bear jets."""
    row = said_of(pair, "ip", "IP code", "protection")
    if not row.old:
        return None
    old, new = (ip_marks(text) for text in (row.old, row.new))
    if not old or not new:
        return row.lacking("IP code")
    return _by_codes(row, old, new)


def _by_codes(row: Said, old: Marks, new: Marks) -> Row:
    if set(old) <= set(new):
        return row.put(fits=Fits.SAME, text="The same.")
    solids = max(one for one, _ in new) < max(one for one, _ in old)
    water = any(not any(ip_serves((6, kept), (0, asked)) for _, kept in new) for _, asked in old)
    lost = [word for word, less in (("solids", solids), ("water", water)) if less]
    if lost:
        return row.put(fits=Fits.NOT, text=f"It keeps out less: {' and '.join(lost)}.", source=_IP)
    return row.put(fits=Fits.SAME, text="It keeps out at least as much.", source=_IP)
