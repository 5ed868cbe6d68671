"""The power circuit: a wire for each net, every pole between two of them, the motor at their end."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from vinegate.core.starter.leads import marks_of
from vinegate.core.starter.logic import LINES, PHASES, Circuit
from vinegate.drawing.scene import Circle, Group, Path, Rect, Scene, Shape, Text

_STEP: Final = 26.0
_POLE: Final = 26.0
_LEFT, _TOP = 44.0, 62.0
_DEVICE: Final = 104.0
_LEADS: Final = "TAF"
"""Of a stator, an armature, a field."""
_MOTOR: Final = 64.0


def power(
    circuit: Circuit, *, ansi: bool, leg: bool = False, on: bool = False, told: bool = True,
    closed: frozenset[str] = frozenset(),
) -> Scene:  # fmt: skip
    """Phases at the top through their device, then what lies between, the motor's leads at the bottom.

    `leg`: the overload stands in the leads of the windings, as behind a drive, else in the line. `on`: the disconnect
    is closed. `told`: nets with volts are heavy, else only what is in is seen.
    """
    nets = _ordered(circuit)
    at, marks = {net: _TOP + _STEP * place for place, net in enumerate(nets)}, marks_of(circuit, nema=ansi)
    leg = leg or ("T1" in at and any(one.of_input for one in circuit.devices))
    shapes: list[Shape] = []
    x, live = _LEFT + _DEVICE, _live_nets(circuit, closed) if on and told else frozenset()
    for tag, poles in circuit.poles:
        device, is_in = circuit.device(tag), tag in closed
        words, made = (tag, device.name, device.duty), _pole(on=is_in, ansi=ansi)
        heaters = tag in circuit.heaters
        role = "contact closed" if is_in else "contact"
        x = _beside(shapes, words, poles, x, at, role, made, heaters=heaters, marks=marks)
    for tag, poles in circuit.rests:
        out, words = tag not in closed, (tag, "rest pole", "")
        made = _rest_pole(on=out, ansi=ansi)
        x = _beside(shapes, words, poles, x, at, "contact closed" if out else "contact", made, marks=marks)
    for name, pairs in circuit.between:
        x = _beside(shapes, ("", name, ""), pairs, x, at, "contact", _BOX, marks=marks)
    leads = [net for net in nets if net[:1] in _LEADS or net in circuit.rings]
    for net, y in at.items():
        _net(shapes, net, marks.get(net, net), y, x + 6 if net in leads else x - 12, on=net in live)
    _device(shapes, [at[net] for net in PHASES if net in at], on=on, split=leg or bool(circuit.heaters))
    if not circuit.heaters:
        behind = [at[net] for net in (("T1", "T2", "T3") if leg else PHASES) if net in at]
        _overload(shapes, behind, x - 22 if leg else _LEFT + 78, "overload" if leg else "")
    return _finished(circuit, shapes, at, leads, x)


def _finished(circuit: Circuit, shapes: list[Shape], at: dict[str, float], leads: list[str], x: float) -> Scene:
    _motor(shapes, [at[net] for net in leads], x + 6, _machine(leads))
    return Scene(size=(x + 12 + _MOTOR, max(at.values()) + 30), shapes=shapes, title=f"Power circuit: {circuit.name}")


def _ordered(circuit: Circuit) -> list[str]:
    """Phases, what turns them, what lies between, then the motor's leads, a wound rotor's rings and their resistor."""
    pairs = [pole for _, poles in (*circuit.poles, *circuit.rests, *circuit.between) for pole in poles]
    nets = dict.fromkeys(net for pole in pairs for net in pole)
    rank = {"L": 0, "N": 0, "i": 1, "+": 1, "-": 1, "T": 3, "A": 3, "F": 4, "M": 4, "R": 5}
    return sorted(nets, key=lambda net: (rank.get(net[:1], 2), net))


def _live_nets(circuit: Circuit, closed: frozenset[str]) -> frozenset[str]:
    """The phases, and nets that closed poles join to one."""
    live = set(LINES)
    pairs = [pole for tag, poles in circuit.poles if tag in closed for pole in poles]
    while grows := [pole for pole in pairs if len(live & set(pole)) == 1]:
        live |= {net for pole in grows for net in pole}
    return frozenset(live)


def _net(shapes: list[Shape], net: str, mark: str, y: float, right: float, *, on: bool) -> None:
    begins = _LEFT if net in LINES else _LEFT + _DEVICE - 10
    role = "wire live" if on else "wire"
    if net in PHASES:
        shapes.append(Path(role=role, points=[(begins, y), (_LEFT + 9, y)]))
        begins = _LEFT + 26
    shapes.append(Path(role=role, points=[(begins, y), (right, y)]))
    begins = _LEFT if net in LINES else begins
    shapes.append(Text(role="name", at=(begins - 6, y + 4), text=mark, anchor="end"))


def _overload(shapes: list[Shape], wires: list[float], x: float, words: str = "") -> None:
    """Its heaters, where the setting says that they stand."""
    if words and wires:
        shapes.append(Text(role="number", at=(x + 10, wires[-1] + 18), text=words, anchor="end"))
    for y in wires:
        shapes.append(Rect(role="coil", at=(x, y - 5), size=(12, 10)))
        shapes.append(Path(role="coil", points=[(x + 3, y), (x + 3, y - 3), (x + 9, y - 3), (x + 9, y)]))


def _device(shapes: list[Shape], phases: list[float], *, on: bool, split: bool) -> None:
    """The disconnect and the short-circuit device in the phases; their ratings are on the protection's sheet."""
    for y in phases:
        shapes.append(Rect(role="coil", at=(_LEFT + 40, y - 4.5), size=(24, 9)))
        shapes.append(Path(role="contact", points=[(_LEFT + 26, y), (_LEFT + 9, y if on else y - 9)]))
    if phases:
        shapes.append(
            Text(role="number", at=(_LEFT + 46, _TOP - 18), text="disconnect, device" + ("" if split else ", overload"))
        )


def _beside(
    shapes: list[Shape], words: tuple[str, str, str], pairs: Sequence[tuple[str, str]], x: float, at: dict[str, float],
    role: str, parts: tuple[Shape, ...], *, marks: dict[str, str], heaters: bool = False,
) -> float:  # fmt: skip
    """Symbols side by side, right under their upper net, each down to its lower one; where the next begins."""
    width = max(_POLE * len(pairs), 5.6 * len(words[1]) + 6)
    middle = x + width / 2
    shapes.append(Text(role="name", at=(middle, 14), text=words[0]))
    shapes += [Text(role="number", at=(middle, y), text=text) for y, text in zip((27, 39), words[1:], strict=True)]
    wire = "wire live" if role.endswith("closed") else "wire"
    for place, pair in enumerate(pairs):
        across = middle + _POLE * (place - (len(pairs) - 1) / 2)
        high, low = sorted((at[pair[0]], at[pair[1]]))
        gap = high + _STEP / 2
        shapes.append(Path(role=wire, points=[(across, high), (across, gap - 8)]))
        shapes.append(Path(role=wire, points=[(across, gap + 8), (across, low)]))
        said = {"TAG": words[0] or words[1], "NETS": "-".join(marks.get(net, net) for net in pair)}
        shapes.append(
            Group(role=role, at=(across, gap), name="pole" if words[0] else words[1], parts=parts, marks=said)
        )
        shapes += [Circle(role="dot", at=(across, y), radius=2.4) for y in (high, low)]
        if heaters and pair[0] in PHASES:
            _overload(shapes, [low - _STEP / 2 + 2], across - 6)
    return x + width + 18


_BOX: Final = (Rect(role="part", at=(-4.5, -8), size=(9, 16)),)


def _pole(*, on: bool, ansi: bool) -> tuple[Shape, ...]:
    """Two bars; or a blade with the half circle of a contactor."""
    if ansi:
        return (Path(role="part", points=[(-7, -5), (7, -5)]), Path(role="part", points=[(-7, 5), (7, 5)]),
                Path(role="part", points=[(0, -8), (0, -5)]), Path(role="part", points=[(0, 5), (0, 8)]))  # fmt: skip
    blade = (0.0, -6.0) if on else (-7.0, -6.0)
    return (Path(role="part", points=[(0, 8), blade]),
            Path(role="part", points=[(0, -8), (-3, -7), (-3.5, -5), (-2.5, -3), (0, -2.5)]))  # fmt: skip


def _rest_pole(*, on: bool, ansi: bool) -> tuple[Shape, ...]:
    """Closed while its contactor is out: two bars with a stroke; or a blade across its contact."""
    if ansi:
        return (*_pole(on=on, ansi=True), Path(role="part", points=[(-7, 7), (7, -7)]))
    blade = (5.0, -7.0) if on else (8.0, -5.0)
    return (Path(role="part", points=[(0, 8), blade]), Path(role="part", points=[(0, -8), (0, -4), (6, -4)]))


def _machine(leads: list[str]) -> str:
    """What it is, by its leads: of direct current, of one phase, of three."""
    return "M –" if "A1" in leads else "M 1~" if leads == ["T1", "T4"] else "M 3~"


def _motor(shapes: list[Shape], leads: list[float], left: float, words: str) -> None:
    """A box at the ends of its leads: which of them are joined is for the contactors."""
    if not leads:
        return
    high, low = leads[0] - 12, leads[-1] + 12
    shapes.append(Rect(role="coil", at=(left, high), size=(_MOTOR - 12, low - high)))
    shapes.append(Text(role="name", at=(left + (_MOTOR - 12) / 2, (high + low) / 2 + 4), text=words))
