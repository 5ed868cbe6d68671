"""A control circuit drawn from its logic: rungs from rail to rail, or paths from bar to bar; live wires are heavy."""

from __future__ import annotations

import textwrap
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from typing import Final

from vinegate.core.starter.logic import Circuit, Contact, Device, Logic, Series, contacts_of
from vinegate.core.starter.netlist import Element, Netlist
from vinegate.core.starter.trunk import Chain, Prefix, chains_of
from vinegate.drawing import symbols
from vinegate.drawing.scene import Circle, Group, Path, Scene, Shape, Text

_LINE: Final = 9
_GAP: Final = 14
_COIL: Final = 86
_LANE: Final = 7


@dataclass(frozen=True, slots=True, kw_only=True)
class Frame:
    """Which way it runs: `along` a rung and `across` them are the steps of one contact, `first` where it begins.

    Rungs lie (ANSI), paths hang (IEC 60617): a place is given along and across, and turned here.
    """

    lies: bool
    along: float
    across: float
    first: float
    margin: float
    after: float

    def place(self, along: float, across: float) -> tuple[float, float]:
        return (along, across) if self.lies else (across, along)


RUNGS: Final = Frame(lies=True, along=78, across=46, first=44, margin=34, after=168)
PATHS: Final = Frame(lies=False, along=64, across=80, first=44, margin=56, after=78)


@dataclass(frozen=True, slots=True, kw_only=True)
class Live:
    """What is closed and energised while it is drawn alive; at rest without power everything is dead."""

    closed: Callable[[str, Contact], bool] = lambda of, contact: contact.breaks
    on: Callable[[str], bool] = lambda tag: False
    power: bool = False


@dataclass(slots=True)
class _Trunk:
    """A net that chains hang on: where it is, whether it has volts, and how far down it has been drawn."""

    along: float
    across: float
    on: bool


@dataclass(slots=True)
class _Pen:
    """Collects shapes while a circuit is drawn."""

    circuit: Circuit
    live: Live
    frame: Frame
    marks: dict[int, tuple[str, str]]
    elements: Iterator[tuple[int, Element]] = field(default_factory=lambda: iter(()))
    shapes: list[Shape] = field(default_factory=list)
    trunks: dict[Prefix, _Trunk] = field(default_factory=dict)
    lanes: dict[Prefix, int] = field(default_factory=dict)

    def wire(self, *points: tuple[float, float], on: bool) -> None:
        self.shapes.append(Path(role="wire live" if on else "wire", points=[self.frame.place(*at) for at in points]))

    def dot(self, along: float, across: float) -> None:
        self.shapes.append(Circle(role="dot", at=self.frame.place(along, across), radius=2.2))

    def text(self, at: tuple[float, float], text: str, role: str = "tick", anchor: str = "middle") -> None:
        if text:
            self.shapes.append(Text(role=role, at=at, text=text, anchor=anchor))


def size_of(logic: Logic) -> tuple[int, int]:
    """Columns and rows that a logic takes.

    >>> from vinegate.core.starter.logic import either, make, series
    >>> size_of(series(make("A"), either(make("B"), make("C"))))
    (2, 2)
    """
    if isinstance(logic, Contact):
        return 1, 1
    sizes = [size_of(part) for part in logic.parts] or [(1, 1)]
    if isinstance(logic, Series):
        return sum(wide for wide, _ in sizes), max(high for _, high in sizes)
    return max(wide for wide, _ in sizes), sum(high for _, high in sizes)


def ladder(circuit: Circuit, netlist: Netlist, *, ansi: bool, live: Live | None = None) -> Scene:
    """From the live side to the return, rung by rung; numbers of nets as in the wire list."""
    frame = RUNGS if ansi else PATHS
    pen = _Pen(circuit, live or Live(), frame, netlist.marks, lanes=lanes_of(chains_of(circuit)))
    widest = max(sum(size_of(part)[0] for part in chain.parts) for chain in chains_of(circuit))
    end, across = frame.first + widest * frame.along + _COIL, frame.margin
    for rung, device in enumerate(circuit.devices, start=1):
        pen.elements = iter(
            [(place, one) for place, one in enumerate(netlist.elements) if one.rung == rung and one.is_contact]
        )
        across = _rung(pen, netlist, rung, device, across, end)
    _rails(pen, end, across)
    # The last rung's own gap is not needed.
    deep, long = across - frame.across / 2, end + frame.after
    size = (long, deep) if frame.lies else (deep + 10, long)
    return Scene(size=size, shapes=pen.shapes, title=f"Control circuit: {circuit.name}")


def lanes_of(chains: Sequence[Chain]) -> dict[Prefix, int]:
    """Beside each other what nets would run down over each other: by the contacts behind which chains hang."""
    reach: dict[Prefix, tuple[int, int]] = {}
    for place, chain in enumerate(chains):
        if chain.hangs:
            prefix = chain.prefix(chain.hangs)
            begins = next(n for n, one in enumerate(chains) if one.parts[: len(prefix)] == prefix)
            reach[prefix] = (reach.get(prefix, (begins, 0))[0], place)
    found: dict[Prefix, int] = {}
    for prefix, (first, last) in reach.items():
        taken = {
            lane
            for other, lane in found.items()
            if len(other) == len(prefix) and reach[other][0] <= last and first <= reach[other][1]
        }
        found[prefix] = next(lane for lane in range(len(reach)) if lane not in taken)
    return found


def _rung(pen: _Pen, netlist: Netlist, rung: int, device: Device, across: float, end: float) -> float:
    """One coil with every chain that feeds it; where the next one begins."""
    frame, number = pen.frame, str(rung)
    pen.text(frame.place(frame.first - 26, across + 4) if frame.lies else (across, frame.first - 8), number)
    chains = [one for one in chains_of(pen.circuit) if one.device == rung - 1]
    ends: list[tuple[float, float, bool]] = []
    row = across
    for chain in chains:
        along, on = _chain(pen, chain, device.tag, row)
        ends.append((along, row, on))
        row += max(size_of(part)[1] for part in chain.parts) * frame.across
    joint, through = max(along for along, _, _ in ends), any(on for _, _, on in ends)
    for along, at, on in ends:
        pen.wire((along, at), (joint, at), on=on or through)
        if at > across:
            pen.wire((joint, at), (joint, across), on=through)
    if len(ends) > 1:
        pen.dot(joint, across)
    half = symbols.COIL_HALF if frame.lies else 11
    coil = next(one for one in netlist.elements if one.rung == rung and not one.is_contact)
    pen.wire((joint, across), (end - _COIL / 2 - half, across), on=through)
    pen.wire((end - _COIL / 2 + half, across), (end, across), on=through)
    _coil(pen, device, (end - _COIL / 2, across), coil.pins[0])
    _said(pen, device, (end, across))
    return row + _GAP


def _rails(pen: _Pen, end: float, across: float) -> None:
    """Both sides of the supply."""
    frame = pen.frame
    for at, name in ((frame.first, "X1"), (end, "X2")):
        pen.wire((at, frame.margin - 16), (at, across - frame.across), on=pen.live.power and at == frame.first)
        pen.text((at, frame.margin - 21) if frame.lies else (frame.margin - 24, at + 4), name, "name")


def _said(pen: _Pen, device: Device, at: tuple[float, float]) -> None:
    """What a coil is for, and on which rungs its contacts stand."""
    end, across = at
    used = _used(pen.circuit, device.tag)
    if pen.frame.lies:
        pen.text((end + 10, across - 3), _named(device), "tick", "start")
        pen.text((end + 10, across + 11), "; ".join(used), "number", "start")
        return
    lines = [*textwrap.wrap(_named(device), 14)[:3], *(line for one in used for line in textwrap.wrap(one, 14))]
    for place, line in enumerate(lines[:6]):
        pen.text((across, end + 15 + 12 * place), line, "tick" if place == 0 else "number")


def _named(device: Device) -> str:
    return f"{device.name}, {device.set_to}" if device.set_to else device.name


def _used(circuit: Circuit, tag: str) -> list[str]:
    """On which rungs a device's contacts stand: make, then break."""
    makes: list[str] = []
    breaks: list[str] = []
    for rung, device in enumerate(circuit.devices, start=1):
        for contact in contacts_of(device.logic):
            if contact.of == tag:
                (breaks if contact.breaks else makes).append(str(rung))
    found = ((word, list(dict.fromkeys(rungs))) for word, rungs in (("make", makes), ("break", breaks)))
    return [f"{word} {', '.join(rungs)}" for word, rungs in found if rungs]


def _chain(pen: _Pen, chain: Chain, of: str, across: float) -> tuple[float, bool]:
    """From the rail, or from the net on which it hangs; the place where it ends, and whether volts come through."""
    frame = pen.frame
    along, on = frame.first, pen.live.power
    if chain.hangs:
        trunk = pen.trunks[chain.prefix(chain.hangs)]
        along, on = trunk.along, trunk.on
        beside = along - 10 - _LANE * pen.lanes[chain.prefix(chain.hangs)]
        pen.wire((beside, trunk.across), (beside, across), (along, across), on=on)
        pen.dot(beside, trunk.across)
        trunk.across = across
    for place in range(chain.hangs, len(chain.parts)):
        along, on = _drawn(pen, chain.parts[place], of, (along, across), on)
        if place < chain.heads:
            pen.trunks[chain.prefix(place + 1)] = _Trunk(along, across, on)
    return along, on


def _drawn(pen: _Pen, logic: Logic, of: str, at: tuple[float, float], on: bool) -> tuple[float, bool]:
    """Draw from the live side; the place where it ends, and whether volts come through."""
    along, across = at
    if isinstance(logic, Contact):
        return _contact(pen, logic, of, at, on)
    if isinstance(logic, Series):
        for part in logic.parts:
            along, on = _drawn(pen, part, of, (along, across), on)
        return along, on
    end, through, rows = along + size_of(logic)[0] * pen.frame.along, False, 0
    ends = []
    for part in logic.parts:
        row = across + rows * pen.frame.across
        if rows:
            pen.wire((along, across), (along, row), on=on)
        right, passes = _drawn(pen, part, of, (along, row), on)
        ends.append((right, row, passes))
        through = through or passes
        rows += size_of(part)[1]
    for right, row, passes in ends:
        pen.wire((right, row), (end, row), on=passes or through)
        if row > across:
            pen.wire((end, row), (end, across), on=through)
    pen.dot(along, across)
    pen.dot(end, across)
    return end, through


def _contact(pen: _Pen, contact: Contact, of: str, at: tuple[float, float], on: bool) -> tuple[float, bool]:
    """Its symbol in the middle of its step, its tag, the number of the net ahead of it and, down a path, its pins."""
    frame, (along, across) = pen.frame, at
    closed = pen.live.closed(of, contact)
    place, element = next(pen.elements)
    reach = symbols.ANSI_REACH if frame.lies else symbols.IEC_REACH
    middle = along + frame.along / 2
    pen.wire((along, across), (middle - reach, across), on=on)
    pen.wire((middle + reach, across), (along + frame.along, across), on=on and closed)
    worked_by = next((one for one in pen.circuit.inputs if one.tag == contact.of), None)
    device = pen.circuit.device(contact.of) if worked_by is None else None
    name, marks = symbols.contact_name(contact, worked_by, device), pen.marks.get(place, ("", ""))
    x, y = frame.place(middle, across)
    pen.shapes.append(
        Group(role="contact closed" if on and closed else "contact", at=(x, y), name=name,
              parts=symbols.contact(name, ansi=frame.lies),
              marks={"TAG": contact.of, "PINS": "-".join(marks), "NETS": "-".join(element.pins)})
    )  # fmt: skip
    late = "late" if contact.late else ""
    if frame.lies:
        pen.text((x, y - 19 if name.startswith("mushroom") else y - 14), contact.of, "name")
        pen.text((x, y + 21), late, "number")
        pen.text((along + 3, y + 11), element.pins[0], "number", "start")
    else:
        said = worked_by.name if worked_by and worked_by.name.upper() != contact.of else late
        words = textwrap.wrap(said, 12)[:2]
        top = y + (4 if len(words) < 2 else -8)  # above what runs across behind it
        pen.text((x + 11, top), contact.of, "name", "start")
        for place, word in enumerate(words):
            pen.text((x + 11, top + 11 + _LINE * place), word, "pin", "start")
        pen.text((x - 4, along + 10), element.pins[0], "number", "end")
        pen.text((x - 4, y - 10), marks[0], "pin", "end")
        pen.text((x - 4, y + 18), marks[1], "pin", "end")
    return along + frame.along, on and closed


def _coil(pen: _Pen, device: Device, at: tuple[float, float], net: str) -> None:
    """Its symbol with its tag in it, the number of the net ahead of it."""
    x, y = pen.frame.place(*at)
    pen.shapes.append(
        Group(role="coil on" if pen.live.on(device.tag) else "coil", at=(x, y), name=symbols.coil_name(device),
              parts=symbols.coil(symbols.coil_name(device), ansi=pen.frame.lies),
              marks={"TAG": device.tag, "PINS": "A1-A2", "NETS": f"{net}-X2"})
    )  # fmt: skip
    pen.text((x, y + 4), device.tag, "name")
    number = (x - symbols.COIL_HALF - 8, y - 5) if pen.frame.lies else (x - 4, y - 16)
    pen.text(number, net, "number", "end")
