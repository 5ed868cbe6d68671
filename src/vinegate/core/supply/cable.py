"""A cable as schedules write it: cores, size, parallel sets, protective conductor, metal and insulation in one text."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any, Final

from vinegate.core.field import Fact
from vinegate.core.numbers import QuantityError
from vinegate.core.records import dataclass
from vinegate.core.supply.conduit import NOWHERE, Lies, conduit_behind
from vinegate.core.tables import load

Sizes = Callable[[str], str]

_METALS: Final = {"cu": "copper", "copper": "copper", "al": "aluminium", "alu": "aluminium", "aluminium": "aluminium",
                  "aluminum": "aluminium"}  # fmt: skip
_METAL: Final = re.compile(rf"(?<![A-Za-z])(?:{'|'.join(_METALS)})(?![A-Za-z])", re.I)
_COVER: Final = re.compile(
    r"\b(?:XLPE|EPR|PVC|THHN|THWN(?:-2)?|XHHW(?:-2)?|RHW(?:-2)?|USE-2|SWA|AWA|LSZH|LS0H)\b\s*/?", re.I
)
_CODE: Final = re.compile(
    r"(?<![A-Za-z0-9])(?:N(?P<metal>A?)(?P<din>2X|Y)[A-Z0-9]*(?:-[JO])?"
    r"|H0[57](?P<harmonised>[A-Z])[A-Z0-9]*(?:-[A-Z])?|(?:U-?1000\s*)?R(?P<french>O?2V))(?![A-Za-z0-9])"
)  # fmt: skip
"""Types of cable by DIN VDE 0276-603, EN 50525 and NF C 32-321: A is aluminium, then the insulation."""
_COVERS: Final = {"2X": "XLPE", "Y": "PVC", "V": "PVC", "Z": "XLPE", "2V": "XLPE", "O2V": "XLPE"}
_EARTH_CORE: Final = re.compile(r"(?<=\dC)\s*\+\s*(?:1\s*)?(?:E|PE|G)\b|\s*(?:\+|w/)\s*(?:G|GND|ground|PE|E)$", re.I)
_PROTECTIVE: Final = re.compile(
    r"\s*(?:\+|&|\band\s|\bw/?(?:ith)?\s|[,;]\s*(?=(?:\(?1\)?\s*[x×-]?\s*)?#))\s*"
    r"(?:\(1\)\s*|1\s*[x×-]\s*|1\s*(?=#))?(#?\d[\d/.,]*(?:\s*(?:mm(?:²|2)|AWG))?)"
    r"\s*(?:G|GND|ground|PE|E|EGC)?\s*$", re.I
)  # fmt: skip
_BESIDE: Final = re.compile(r"^(\d\s*[x×*]\s*\d+(?:[.,]\d+)?)\s*/\s*([1-9]\d*(?:[.,]\d+)?)(?=\s|$)")
"""3x35/16: cores, and the conductor about them."""
_ALIKE: Final = re.compile(r"^\(?(\d)\)?\s*(?:[x×*]|(?:sets?|runs?)(?:\s+of)?)\s*[(\[](.+)[)\]]$", re.I)
"""2x(3x95), 2 sets (3#4/0, 1#4G): cables alike in parallel."""
_WIRES: Final = re.compile(r"^\(?2\)?\s*-?\s*#\s*(.+)$")
"""2#10: two wires, where their ground or conduit stands beside them."""
_TWICE: Final = re.compile(r"^(\d)\s*[x×*]\s*(\d)\s*(?:C\s*)?[x×*]\s*(.+)$", re.I)
_CORES: Final = re.compile(
    r"^\(?(\d)\)?\s*(?:/?C\s*[x×*]?\s*(?=[#\d])|[x×*G]\s*(?=[#\d])|-\s*(?=#)|(?=#)|(?<=\))\s*)(.+)$", re.I
)
_GAUGE_FIRST: Final = re.compile(r"^#?(\d{1,2})\s*[/-]\s*([234])$")
"""12-2, 10/3: a gauge, and its cores."""
_SINGLE: Final = re.compile(r"^\(?([369])\)?\s*[-x×*]?\s*1/?C\s*(#.+)$", re.I)
"""3-1/C #4: single cores."""
_ONE: Final = re.compile(r"^1\s*(?:[x×*]|/?C\b)", re.I)
"""3x(1x240): single cores in brackets."""
_HALF: Final = re.compile(r"^3(?:[.,]5|½)\s*(?:C\s*)?[x×*]?\s*(?=\d)", re.I)
"""3.5C x 70: three cores and a smaller neutral."""
_WHOLE: Final = (3, 4, 5)
"""Cores of one cable for three phases, a neutral and a protective conductor among them."""


class NotTabulated(QuantityError):
    """A text that is none of the tables' sizes."""

    def __init__(self, text: str) -> None:
        super().__init__(f"“{text.strip()}” is not a tabulated size: write it like 1/0 AWG, 250 kcmil or 35 mm².")


@dataclass(frozen=True, slots=True, kw_only=True)
class Cable:
    """One text in parts; `sets` in parallel, more than one where that is said, `ground` its protective conductor,
    `lies` the conduit about it.
    """

    size: str
    sets: int = 1
    ground: str = ""
    metal: str = ""
    cover: str = ""
    lies: Lies = NOWHERE

    @property
    def alone(self) -> bool:
        """Whether nothing but a size is said, as cores of one cable say."""
        return self.sets == 1 and not (self.ground or self.metal or self.cover or self.lies.trade)


def cable_of(text: str, size: Sizes) -> Cable:
    """What a text says; `size` reads a bare one by its dialect. Raises QuantityError.

    >>> cable_of("3x35+16 Cu", read_size)
    Cable(size='35 mm²', sets=1, ground='16 mm²', metal='copper', cover='', lies=Lies(trade='', kind='', raceway=''))
    >>> cable_of("4G6", read_size).size, cable_of("2x(3x95)", read_size).sets, cable_of("6 x 1C x 150", read_size).sets
    ('6 mm²', 2, 2)
    >>> cable_of("3-#4 AWG THHN", read_size_us).size, cable_of("3#10 + 1#10G", read_size_us).ground
    ('4 AWG', '10 AWG')
    """
    body, metal, cover = " ".join(text.split()), "", ""
    many, body = _alike(1, body)
    body, lies = conduit_behind(body)
    if said := _CODE.search(body):
        metal = "aluminium" if said["metal"] else "copper"
        cover = _COVERS.get(said["din"] or said["harmonised"] or said["french"], "")
        body = (body[: said.start()] + body[said.end() :]).strip()
    if said := _METAL.search(body):
        metal, body = _METALS[said[0].casefold()], (body[: said.start()] + body[said.end() :]).strip()
    if said := _COVER.search(body):
        cover, body = said[0].strip(" /").upper(), _COVER.sub("", body).strip()
    many, body = _alike(many, body.strip(" /"))
    ground, body = "", _EARTH_CORE.sub(" ", body)
    for form in (_PROTECTIVE, _BESIDE):
        if said := form.search(body):
            ground = size(said[said.lastindex or 1])
            body = body[: said.start()] if form is _PROTECTIVE else said[1] + body[said.end() :]
    wires = _WIRES.match(body.strip()) if ground or lies.trade else None
    count, one = (1, wires[1]) if wires else _counted(body.strip())
    if many > 1 and _ONE.match(body.strip()):
        many = _triples(many, body)
    return Cable(size=size(one), sets=count * many, ground=ground, metal=metal, cover=cover, lies=lies)


def _alike(many: int, body: str) -> tuple[int, str]:
    """How many of what stands in brackets there are, and what stands in them."""
    said = _ALIKE.match(body)
    return (int(said[1]), said[2]) if said else (many, body)


def _triples(many: int, body: str) -> int:
    """Sets that so many single cores make. Raises QuantityError."""
    if many % 3:
        raise QuantityError(f"{body}: {many} single cores are no whole sets of three.")
    return many // 3


def _counted(body: str) -> tuple[int, str]:
    """Parallel sets, and the size of one conductor as written."""
    if twice := _TWICE.match(body):
        many, cores = int(twice[1]), int(twice[2])
        if cores > 1:
            return many, twice[3]
        return _triples(many, body), twice[3]
    body = _HALF.sub("3x", body)
    if single := _SINGLE.match(body):
        return int(single[1]) // 3, single[2]
    if gauge := _GAUGE_FIRST.match(body):
        return 1, f"{gauge[1]} AWG"
    found = _CORES.match(body)
    if found is None:
        return 1, body
    if int(found[1]) == 2:
        raise QuantityError(f"{body}: two cores, or two in parallel? Write the size of one conductor, and sets apart.")
    if int(found[1]) not in (1, *_WHOLE):
        raise QuantityError(f"{body}: write the size of one conductor, and sets in parallel apart.")
    metric = re.match(r"\d\s*G\s*[\d.,]+$", body, re.I) is not None  # 4G6: IEC 60228's squares wherever it is written
    return 1, f"{found[2]} mm²" if metric else found[2]


def read_size(text: str) -> str:
    """A conductor's size as its table has it; a bare number is in mm². Raises QuantityError.

    >>> read_size("35"), read_size("2,5"), read_size("#4"), read_size("1/0")
    ('35 mm²', '2.5 mm²', '4 AWG', '1/0 AWG')
    """
    return _size_of(_squares(text), text)


def read_size_us(text: str) -> str:
    """The same where a bare number is a gauge, or in kcmil from 250 on.

    >>> read_size_us("4"), read_size_us("250"), read_size_us("35 mm2")
    ('4 AWG', '250 kcmil', '35 mm²')
    """
    return _size_of(text, text, us=True)


def _squares(text: str) -> str:
    return re.sub(r"^\s*(\d+(?:[.,]\d+)?)\s*$", r"\1 mm²", text)


def one_size(text: str, *, us: bool) -> str:
    """The size of one conductor alone, cores and all else left to `cable_of`. Raises QuantityError."""
    return _size_of(text if us else _squares(text), text, us=us, whole=False)


def _of_cable(text: str, *, us: bool) -> str:
    """A cable's size where its cores alone stand beside it; what else it says is asked in fields of its own."""
    try:
        cable = cable_of(text, lambda one: one_size(one, us=us))
    except NotTabulated:
        raise NotTabulated(text) from None
    if cable.alone:
        return cable.size
    metal = "aluminum" if us and cable.metal == "aluminium" else cable.metal
    said = {
        "Grounding conductor" if us else "Protective conductor": cable.ground, "Metal": metal,
        "Insulation": cable.cover, "Conduit": cable.lies.trade, "Kind of conduit": cable.lies.kind,
        "Raceway": cable.lies.raceway,
    }  # fmt: skip
    apart = [f"{cable.sets} under “Sets in parallel”"] if cable.sets > 1 else []
    apart += [f"{one} under “{label}”" for label, one in said.items() if one]
    raise QuantityError(f"“{text.strip()}”: write {cable.size} here, and {', '.join(apart)}.")


def _size_of(said: str, text: str, *, us: bool = False, whole: bool = True) -> str:
    body = " ".join(said.strip().split())
    body = re.sub(r"\s*(?:mm2|mm²|sq[. ]?\s?mm|mm\^2)$", " mm²", body, flags=re.I)
    if "mm²" not in body:
        body = re.sub(r"^([12]),(\d{3})(?=\s*(?:k?cmil|MCM)?$)", r"\1\2", body, flags=re.I)
        body = re.sub(r"^(?:#|no\.?|awg)?\s*(\d+(?:/0)?)\s*(?:awg|ga|gauge)?$", r"\1 AWG", body, flags=re.I)
        body = re.sub(r"^(0{2,4}) AWG$", lambda noughts: f"{len(noughts[1])}/0 AWG", body)
    body = re.sub(r"^#?(\d{3,4})\s*(?:AWG|k?cmil|MCM)$", r"\1 kcmil", body, flags=re.I)
    body = body.replace(",", ".") if "mm²" in body else body
    known = {
        row["size"].casefold(): row["size"] for name in ("conductor_nec", "conductor_iec") for row in load(name).rows
    }
    found = known.get(body.casefold())
    if found is None and whole:
        return _of_cable(text, us=us)
    if found is None:
        raise NotTabulated(text)
    return found


def conductor(label: str, **more: Any) -> Fact:
    """A fact that is a conductor's size."""
    return Fact(label=label, read=read_size, read_us=read_size_us, **more)
