"""Volt and ampere designations as plates write them, parsed into connections."""

from __future__ import annotations

import re
from enum import StrEnum
from typing import Final

from vinegate.core.numbers import QuantityError, write
from vinegate.core.quantity import CURRENT, VOLTAGE
from vinegate.core.records import dataclass


class Winding(StrEnum):
    """How the phases are joined for one designation, where the plate says so."""

    DELTA = "delta"
    WYE = "wye"
    NOT_SAID = ""


@dataclass(frozen=True, slots=True)
class Connection:
    """One way to connect the machine: the volts it covers (equal ends unless a hyphen gave a range)."""

    low_v: float
    high_v: float
    winding: Winding

    @property
    def text(self) -> str:
        sign = {Winding.DELTA: "Δ", Winding.WYE: "Y", Winding.NOT_SAID: ""}[self.winding]
        volts = f"{self.low_v:g}" if self.low_v == self.high_v else f"{self.low_v:g}-{self.high_v:g}"
        return volts + sign

    def nearest_v(self, supply_v: float) -> float:
        """The designated volts closest to the supply: inside a range, the supply itself."""
        return min(max(supply_v, self.low_v), self.high_v)

    def deviation_pu(self, supply_v: float) -> float:
        """Supply above (+) or below (−) the designated volts, as a share of them."""
        rated = self.nearest_v(supply_v)
        return (supply_v - rated) / rated


_ROOT_3: Final = (1.66, 1.80)
"""As plates round √3: 415/690 to 400/720."""
_SAME_FLUX: Final = 0.05
"""How far volts over hertz may lie from the plate's for the flux to count as kept (assumed, as zone A of the volts)."""


@dataclass(frozen=True, slots=True)
class VoltsDesignation:
    """What stands in the volts field: connections in the plate's order, and volts it is "usable at".

    `text` is in one spelling and without a unit.
    """

    text: str
    connections: tuple[Connection, ...]
    usable_at_v: tuple[float, ...] = ()
    system: str = ""
    """What is marked beside the volts: "1" or "3" phases, "ac" or "dc" alone; empty where nothing is."""

    def nearest(self, supply_v: float) -> tuple[int, Connection]:
        """The connection whose volts are nearest the supply, and its place in the plate's order."""
        return min(enumerate(self.connections), key=lambda pair: abs(pair[1].deviation_pu(supply_v)))

    def with_its_flux(self, supply_v: float, times: float) -> Connection | None:
        """The connection whose flux these volts keep at so many times the plate's frequency; None where none does."""
        _, connection = self.nearest(supply_v / times)
        return connection if abs(connection.deviation_pu(supply_v / times)) <= _SAME_FLUX else None

    def usable(self, supply_v: float) -> bool:
        return any(abs(supply_v - volts) <= 0.005 * volts for volts in self.usable_at_v)


_PHASES = r"(?:~|[Øøφ∅]|-?\s?ph(?:ase)?s?\b)"
# 460/3/60, 460V/3ph/60Hz: volts, phases, hertz
_WHOLE_PLATE = re.compile(rf"^(.*?)\s*([/-])\s*[13]\s*{_PHASES}?\s*\2\s*(?:50|60)(?:\s*hz)?$", re.I)
_USABLE = re.compile(r"[,;(]?\s*usable\s+(?:at|on)\s+([\d.,\s/VvkK]+)\)?\s*$", re.I)
_DRESS = re.compile(
    rf"^\s*(?:[13]\s*(?:{_PHASES}|ac\b)|[13]\s*/\s*(?:N\s*/\s*)?PE\s*(?:~|ac\b)?\s*(?=\d{{3}})|3\s*[x×]\s*(?=\d{{3}})"
    r"|[ad]\.?c\b\.?)\s*"
    rf"|\s*(?:(?:±|\+\s*/?\s*-)\s*\d+\s*%|[,;]?\s*(?:50|60)\s*hz|[,;]?\s*[13]\s*{_PHASES}|(?<=V)\s*[~=⎓])\s*$",
    re.I,
)
_SIGNS = str.maketrans({"∆": "Δ", "△": "Δ", "▲": "Δ", "⅄": "Y"})
_DOUBLE = re.compile(r"(Δ|D|Y)\s?\1(?![a-z])", re.I)  # halves in parallel: the volts beside them say so
_ROUND = re.compile(r"\(\s*(Δ|D|Y|λ|delta|wye|star)\s*\)", re.I)
_OWN = re.compile(r"^\s*(?:(Δ|D|delta)|(?:Y|λ|wye|star))\s*(?=\d)", re.I)
_AHEAD = re.compile(r"^\s*((?:Δ|∆|D|Y|λ)(?:\s*/\s*(?:Δ|∆|D|Y|λ))*)\s*(?=\d)(.*)$", re.I)
_AFTER = re.compile(r"^(\s*\d.*?)\s*k?V?\s+((?:Δ|∆|D|Y|λ)(?:\s*/\s*(?:Δ|∆|D|Y|λ))+)\s*$", re.I)
_WINDING = re.compile(r"\s*(?:(Δ|∆|D|delta)|(Y|λ|wye|star))\s*$", re.I)


_SYSTEMS = (
    ("dc", re.compile(r"(?<![a-z])V?\s?d\.?c\b|V\s*[=⎓]", re.I)),
    (
        "3",
        re.compile(
            rf"\b3\s*(?:{_PHASES}|/\s*(?:N\s*/\s*)?PE\b|ac\b|[x×]\s*\d{{3}})|[\dV]\s*([/-])\s*3\s*\1\s*[56]0", re.I
        ),
    ),
    ("1", re.compile(rf"\b1\s*(?:{_PHASES}|/\s*(?:N\s*/\s*)?PE\b|ac\b)|[\dV]\s*([/-])\s*1\s*\1\s*[56]0", re.I)),
    ("ac", re.compile(r"(?<![a-z])V?\s?a\.?c\b|V\s*~", re.I)),
)
_LETTER = re.compile(r"[^\W\d_]|[@~=]")


def read_volts(text: str) -> VoltsDesignation:
    """Read a plate's volts: slash for separate connections, hyphen for one that covers a range.

    Raises QuantityError. Practice: NEMA MG 1 10.40 and IEC 60034-8 connection marks.

    >>> [c.text for c in read_volts("208-230/460 V").connections]
    ['208-230', '460']
    >>> [c.text for c in read_volts("400 D / 690 Y").connections]
    ['400Δ', '690Y']
    >>> [c.text for c in read_volts("Δ/Y 400/690 V").connections], read_volts("3~ 400 V ±10 %").connections[0].text
    (['400Δ', '690Y'], '400')
    >>> [c.text for c in read_volts("400/690").connections], [c.text for c in read_volts("220-240/380-415").connections]
    (['400Δ', '690Y'], ['220-240Δ', '380-415Y'])
    >>> [c.text for c in read_volts("230/460/3/60").connections], read_volts("460 volts").connections[0].text
    (['230', '460'], '460')
    >>> [read_volts(said).text for said in ("3x400 V", "1~ 230 V", "230 V~", "180 VDC", "500 V DC", "460V 3PH 60HZ")]
    ['400', '230', '230', '180', '500', '460']
    """
    body = _ROUND.sub(r"\1", _DOUBLE.sub(r"\1", text.translate(_SIGNS))).strip()
    usable: tuple[float, ...] = ()
    match = _USABLE.search(body)
    if match:
        usable = tuple(VOLTAGE.read(part) for part in match.group(1).strip(" )").split("/"))
        body = body[: match.start()].strip()
    unit = ""
    body = _WHOLE_PLATE.sub(r"\1", body)
    while (plain := _DRESS.sub("", body)) != body:
        body = plain
    body = _marked(body)
    unit_match = re.search(r"\s*(k?V)(?:olts?)?(?:\s*[ad]\.?c\.?)?$", body, re.I)
    if unit_match and not _WINDING.search(body):
        unit, body = unit_match.group(1), body[: unit_match.start()]
    parts = [part for part in re.split(r"\s*[/|]\s*", body) if part]
    if not parts:
        raise QuantityError("Volts are written like 230/460, 208-230/460 or 400Δ/690Y.")
    connections = _by_ratio(tuple(_connection(part, unit) for part in parts))
    shown = "/".join(connection.text for connection in connections)  # without its unit, which each sentence adds
    if usable:
        shown += f", usable at {'/'.join(f'{volts:g}' for volts in usable)}"
    return VoltsDesignation(shown, connections, usable, _system(text))


def _system(text: str) -> str:
    """What is marked beside the volts.

    >>> [read_volts(said).system for said in ("3x400 V", "1~ 230 V", "480 VAC", "180 VDC", "115/1/60", "460")]
    ['3', '1', 'ac', 'dc', '1', '']
    """
    return next((name for name, words in _SYSTEMS if words.search(text)), "")


def _by_ratio(connections: tuple[Connection, ...]) -> tuple[Connection, ...]:
    """Volts that stand √3 apart are those of a delta and of its wye: the same winding bears either, and no other pair
    of connections is so far apart (IEC 60034-8). Where any is marked, the plate has said it itself.

    >>> [c.text for c in read_volts("380-420/660-690").connections]  # √3 apart in their middle: 727 V are not stamped
    ['380-420Δ', '660-690Y']
    """
    if any(one.winding is not Winding.NOT_SAID for one in connections):
        return connections

    def apart(low: Connection, high: Connection) -> bool:
        ends = (high.low_v / low.low_v, (high.low_v + high.high_v) / (low.low_v + low.high_v))
        return all(_ROOT_3[0] <= ratio <= _ROOT_3[1] for ratio in ends)

    def winding(one: Connection) -> Winding:
        if any(apart(one, other) for other in connections):
            return Winding.DELTA
        return Winding.WYE if any(apart(other, one) for other in connections) else Winding.NOT_SAID

    found = tuple(winding(one) for one in connections)
    if Winding.NOT_SAID in found:
        return connections
    return tuple(Connection(one.low_v, one.high_v, own) for one, own in zip(connections, found, strict=True))


def _marked(body: str) -> str:
    """Signs of the windings that stand ahead of all volts, or behind them, brought to their own: D/Y 230/400."""
    ahead, after = _AHEAD.match(body), _AFTER.match(body)
    if ahead is None and after is None:
        return body
    signs, volts = ahead.groups() if ahead is not None else (after.group(2), after.group(1)) if after else ("", body)
    plain = re.sub(r"\s*V(?:olts?)?\s*$", "", volts, flags=re.I)
    each, parts = re.split(r"\s*/\s*", signs.strip()), re.split(r"\s*/\s*", plain.strip())
    return "/".join(map("".join, zip(parts, each, strict=True))) if len(each) == len(parts) else body


def _connection(text: str, unit: str) -> Connection:
    winding = Winding.NOT_SAID
    body = re.sub(r"\s*k?V\s*$", "", text, flags=re.I) if not unit else text
    unit = unit or ("kV" if re.search(r"kV\s*$", text, re.I) else "V")
    if (own := _OWN.match(body)) is not None:
        winding, body = Winding.DELTA if own.group(1) else Winding.WYE, body[own.end() :]
    match = _WINDING.search(body)
    if match:
        winding = Winding.DELTA if match.group(1) else Winding.WYE
        body = re.sub(r"\s*V(?:olts?)?\s*$", "", body[: match.start()], flags=re.I)
    parts = re.split(r"\s*[-–—]\s*", body.strip())
    if any(_LETTER.search(part) for part in parts):
        raise QuantityError(f"“{text.strip()}” is not read as volts: write them like 208-230/460 or 400Δ/690Y.")
    ends = [VOLTAGE.read(f"{part} {unit}") for part in parts]
    if len(ends) > 2 or (len(ends) == 2 and ends[0] >= ends[1]):
        raise QuantityError(f"“{text.strip()}” is not a range of volts: write it like 208-230.")
    return Connection(ends[0], ends[-1], winding)


@dataclass(frozen=True, slots=True)
class AmpsDesignation:
    """Amperes in the same order as the volts: one tuple a connection, two values where a range was given.

    `text` is in one spelling and without a unit.
    """

    text: str
    per_connection_a: tuple[tuple[float, ...], ...]

    def scaled(self, times: float) -> AmpsDesignation:
        """So many times these amperes, in their own order; the text as one would type them.

        >>> read_amps("9.6-8.9/4.4 A").scaled(2).text
        '19.2-17.8/8.8'
        """
        per = tuple(tuple(one * times for one in group) for group in self.per_connection_a)
        return AmpsDesignation("/".join("-".join(write(one, 4) for one in group) for group in per), per)

    def at(self, index: int, connection: Connection, supply_v: float, count: int) -> float | None:
        """Amperes for the chosen connection; None when the plate gives another number of values.

        Of two values for a range, the one for the end nearer to the supply.
        """
        if len(self.per_connection_a) == 1 and count > 1:
            return self.per_connection_a[0][0]
        if len(self.per_connection_a) != count:
            return None
        values = self.per_connection_a[index]
        at_low = supply_v <= (connection.low_v + connection.high_v) / 2
        return values[0] if at_low else values[-1]


def read_amps(text: str) -> AmpsDesignation:
    """Read a plate's amperes: `184/92`, `9.6-8.9/4.4 A`, `92 A`. Raises QuantityError.

    >>> read_amps("9.6-8.9/4.4 A").per_connection_a
    ((9.6, 8.9), (4.4,))
    >>> read_amps("FLA 184/92").text, read_amps("I_N = 92 A").text
    ('184/92', '92')
    >>> read_amps("0.038 kA").per_connection_a, read_amps("28 - 26 / 13 amps").text, read_amps("Δ81 A / Y47 A").text
    (((38.0,),), '28-26/13', '81/47')
    """
    text = re.sub(r"^\s*(?:FLA|FLC|I_?N?)\s*[=:]?\s*(?=\d)", "", text, flags=re.I)
    text = re.sub(r"\s*(?:FLA|FLC|A?\s*(?:full[\s-]load|FL))\s*$", " A", text, flags=re.I)
    match = re.search(r"\s*(k?)A(?:mps?|mperes?)?\.?\s*$", text.strip(), re.I)
    body, unit = (text.strip()[: match.start()], f"{match.group(1).lower()}A") if match else (text, "A")
    groups = [_bare(part) for part in re.split(r"\s*/\s*", _ROUND.sub(r"\1", body.translate(_SIGNS))) if part]
    if not groups:
        raise QuantityError("Amperes are written like 92, 184/92 or 9.6-8.9/4.4.")
    if any(_LETTER.search(group) for group in groups):
        raise QuantityError(f"“{text.strip()}” is not read as amperes: write them like 92, 184/92 or 9.6-8.9/4.4.")
    per = tuple(tuple(CURRENT.read(f"{v} {unit}") for v in re.split(r"\s*[-–—]\s*", group)) for group in groups)
    shown = "/".join("-".join(f"{value:g}" for value in group) for group in per)  # without its unit, as the volts
    return AmpsDesignation(shown, per)


def read_amps_or_several(text: str) -> float | AmpsDesignation:
    """A current, or one for each of the plate's voltages. Raises QuantityError.

    >>> read_amps_or_several("560 A"), read_amps_or_several("162/81 A").per_connection_a
    (560.0, ((162.0,), (81.0,)))
    """
    text = _AT_REST.sub("", text)
    return read_amps(text) if "/" in text else CURRENT.read(text)


_AT_REST: Final = re.compile(r"^\s*L\.?R\.?[AC]\.?\s*[=:]?\s*(?=\d)|\s*L\.?R\.?[AC]\.?\s*$", re.I)


def _bare(group: str) -> str:
    """Without the sign of its connection, in the volts' order as the others, and without its own unit."""
    plain = _WINDING.sub("", _OWN.sub("", group))
    return re.sub(r"\s*A(?:mps?|mperes?)?\.?\s*$", "", plain, flags=re.I)
