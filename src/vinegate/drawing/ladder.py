"""A control circuit as rungs, read from its logic: contacts, coils, wire numbers; what carries volts is drawn heavy."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Final

from vinegate.core.starter.logic import Circuit, Coil, Contact, Logic, Series, contacts_of
from vinegate.core.starter.netlist import Netlist
from vinegate.drawing.scene import Circle, Path, Rect, Scene, Shape, Text

_WIDE, _HIGH = 78, 46
_LEFT, _TOP, _COIL, _AFTER = 44, 34, 86, 128
_GAP: Final = 14
_HALF: Final = 16  # of a coil's width


@dataclass(frozen=True, slots=True, kw_only=True)
class Live:
    """What is closed and energised while it is drawn alive; at rest without power everything is dead."""

    closed: Callable[[str, Contact], bool] = lambda of, contact: contact.breaks
    on: Callable[[str], bool] = lambda tag: False
    power: bool = False


@dataclass(slots=True)
class _Pen:
    """Collects shapes while a circuit is drawn."""

    circuit: Circuit
    live: Live
    ansi: bool
    pins: Iterator[tuple[str, str]]
    shapes: list[Shape] = field(default_factory=list)

    def wire(self, *points: tuple[float, float], on: bool) -> None:
        self.shapes.append(Path(role="wire live" if on else "wire", points=points))

    def text(self, at: tuple[float, float], text: str, role: str = "tick", anchor: str = "middle") -> None:
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
    """The rungs from the live rail at the left to the return at the right; numbers of nets as in the wire list."""
    widest = max(size_of(device.logic)[0] for device in circuit.devices)
    right = _LEFT + widest * _WIDE + _COIL + 10
    pen = _Pen(circuit, live or Live(), ansi, iter(()))
    y = float(_TOP)
    for rung, device in enumerate(circuit.devices, start=1):
        pen.pins = iter([one.pins for one in netlist.elements if one.rung == rung and one.what.endswith("contact")])
        end = next(one.pins[0] for one in netlist.elements if one.rung == rung and not one.what.endswith("contact"))
        pen.text((_LEFT - 26, y + 4), str(rung))
        x, on = _drawn(pen, device.logic, device.tag, (_LEFT, y), pen.live.power)
        pen.wire((x, y), (right - _COIL / 2 - _HALF, y), on=on)
        pen.text((right - _COIL - 10, y - 5), end, "number")
        _coil(pen, device.tag, device.coil, (right - _COIL / 2, y), on)
        pen.wire((right - _COIL / 2 + _HALF, y), (right, y), on=on)
        pen.text((right + 10, y - 3), device.name, "tick", "start")
        pen.text((right + 10, y + 11), _used(circuit, device.tag), "number", "start")
        y += size_of(device.logic)[1] * _HIGH + _GAP
    for at, name in ((_LEFT, "X1"), (right, "X2")):
        pen.wire((at, _TOP - 16), (at, y - _HIGH), on=pen.live.power and at == _LEFT)
        pen.text((at, _TOP - 21), name, "name")
    width = right + _AFTER + 40
    return Scene(size=(width, y - _HIGH / 2 + 14), shapes=pen.shapes, title=f"Control circuit: {circuit.name}")


def _used(circuit: Circuit, tag: str) -> str:
    """On which rungs a device's contacts stand: make, then break."""
    makes: list[str] = []
    breaks: list[str] = []
    for rung, device in enumerate(circuit.devices, start=1):
        for contact in contacts_of(device.logic):
            if contact.of == tag:
                (breaks if contact.breaks else makes).append(str(rung))
    words = [f"make {', '.join(makes)}"] if makes else []
    return "; ".join([*words, f"break {', '.join(breaks)}"] if breaks else words)


def _drawn(pen: _Pen, logic: Logic, of: str, at: tuple[float, float], on: bool) -> tuple[float, bool]:
    """Draw from the left; the place where it ends, and whether volts come through."""
    x, y = at
    if isinstance(logic, Contact):
        return _contact(pen, logic, of, at, on)
    if isinstance(logic, Series):
        for part in logic.parts:
            x, on = _drawn(pen, part, of, (x, y), on)
        return x, on
    end, through, rows = x + size_of(logic)[0] * _WIDE, False, 0
    ends = []
    for part in logic.parts:
        row_y = y + rows * _HIGH
        if rows:
            pen.wire((x, y), (x, row_y), on=on)
        right, passes = _drawn(pen, part, of, (x, row_y), on)
        ends.append((right, row_y, passes))
        through = through or passes
        rows += size_of(part)[1]
    for right, row_y, passes in ends:
        pen.wire((right, row_y), (end, row_y), on=passes or through)
        if row_y > y:
            pen.wire((end, row_y), (end, y), on=through)
    return end, through


def _contact(pen: _Pen, contact: Contact, of: str, at: tuple[float, float], on: bool) -> tuple[float, bool]:
    """Two bars, slashed where it breaks; or a blade on its hinge, across where it breaks."""
    x, y = at
    closed = pen.live.closed(of, contact)
    middle = x + _WIDE / 2
    numbers = next(pen.pins, ("", ""))
    pen.wire((x, y), (middle - 8, y), on=on)
    pen.wire((middle + 8, y), (x + _WIDE, y), on=on and closed)
    role = "contact closed" if on and closed else "contact"
    if pen.ansi:
        for side in (-8, 8):
            pen.shapes.append(Path(role=role, points=[(middle + side, y - 9), (middle + side, y + 9)]))
        if contact.breaks:
            pen.shapes.append(Path(role=role, points=[(middle - 11, y + 9), (middle + 11, y - 9)]))
    elif contact.breaks:
        pen.shapes.append(Path(role=role, points=[(middle + 8, y - 10), (middle + 8, y), (middle + 8, y)]))
        pen.shapes.append(Path(role=role, points=[(middle - 8, y), (middle + 10, y - 7)]))
    else:
        pen.shapes.append(Path(role=role, points=[(middle - 8, y), (middle + 7, y - 10)]))
    pen.text((middle, y - 13), contact.of, "name")
    pen.text((middle, y + 21), "late" if contact.late else "", "number")
    pen.text((x + 3, y + 11), numbers[0], "number", "start")
    return x + _WIDE, on and closed


def _coil(pen: _Pen, tag: str, kind: Coil, at: tuple[float, float], on: bool) -> None:
    """A circle with its tag, or a box; a timer's is marked."""
    x, y = at
    role = "coil on" if pen.live.on(tag) else "coil"
    if pen.ansi:
        pen.shapes.append(Circle(role=role, at=at, radius=16))
    else:
        pen.shapes.append(Rect(role=role, at=(x - 16, y - 11), size=(32, 22)))
    pen.text((x, y + 4), tag, "name")
    if kind is Coil.TIMER:
        pen.shapes.append(
            Path(role="coil", points=[(x + 6, y + 18), (x + 12, y + 24), (x + 12, y + 18), (x + 6, y + 24)])
        )


_POLE_WIDE: Final = 34


def power(circuit: Circuit, *, closed: frozenset[str] = frozenset()) -> Scene:
    """Each contactor's poles between the nets that they join; nets of one name are one wire."""
    shapes: list[Shape] = []
    x = 20.0
    for tag, poles in circuit.poles:
        on = tag in closed
        device = circuit.device(tag)
        width = _POLE_WIDE * len(poles)
        shapes.append(Text(role="name", at=(x + width / 2 - _POLE_WIDE / 2 + 8, 14), text=tag))
        for place, (top, bottom) in enumerate(poles):
            at = x + 8 + place * _POLE_WIDE
            shapes += [
                Text(role="tick", at=(at, 34), text=top),
                Path(role="wire live" if on else "wire", points=[(at, 40), (at, 54)]),
                Path(role="contact closed" if on else "contact", points=[(at, 72), (at if on else at - 9, 55)]),
                Path(role="wire live" if on else "wire", points=[(at, 72), (at, 86)]),
                Text(role="tick", at=(at, 100), text=bottom),
            ]
        shapes.append(
            Text(role="number", at=(x + width / 2 - _POLE_WIDE / 2 + 8, 116), text=f"{device.name}, {device.duty}")
        )
        x += max(width + 26, 9.0 * len(device.name) + 30)
    return Scene(size=(x, 124), shapes=shapes, title=f"Power circuit: {circuit.name}")
