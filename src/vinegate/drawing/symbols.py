"""Symbols of control circuits in both families, about their own middle: ANSI along a rung, IEC 60617 down a path."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from vinegate.core.starter.logic import Coil, Contact, Device, Input, Kind
from vinegate.drawing.scene import Circle, Path, Rect, Shape

Points = Sequence[tuple[float, float]]
ANSI_REACH: Final = 12.0
IEC_REACH: Final = 14.0
COIL_HALF: Final = 16.0


def _line(*points: tuple[float, float], closed: bool = False) -> Path:
    return Path(role="part", points=points, closed=closed)


def contact_name(contact: Contact, worked_by: Input | None, device: Device | None = None) -> str:
    """What a contact is, by what works it: the name of its symbol; of a device, whether it is timed, and which way."""
    does = "break" if contact.breaks else "make"
    if worked_by is None:
        timed = device is not None and device.coil is Coil.TIMER
        return f"{_timed(device)} {does}" if device is not None and timed else does
    if worked_by.kind is Kind.BUTTON:
        return f"button {does}"
    if worked_by.kind is Kind.GUARD:
        return f"{'overload' if worked_by.location == 'panel' else 'mushroom'} {does}"
    return f"held {does}"


def _timed(device: Device) -> str:
    return "lasting" if device.lasts else "timed"


def coil_name(device: Device) -> str:
    """What a coil is: the name of its symbol."""
    return f"{_timed(device)} timer" if device.coil is Coil.TIMER else device.coil.value


def contact(name: str, *, ansi: bool) -> tuple[Shape, ...]:
    """The symbol of that name."""
    by, _, does = name.rpartition(" ")
    return _ansi(by, does) if ansi else _iec(by, does)


def _ansi(by: str, does: str) -> tuple[Shape, ...]:
    """Two bars, slashed where it breaks; what a hand works has its own."""
    if by in ("button", "mushroom", "held"):
        return (*_ansi_worked(by, does),)
    leads = (_line((-ANSI_REACH, 0), (-8, 0)), _line((8, 0), (ANSI_REACH, 0)))
    bars = tuple(_line((side, -9), (side, 9)) for side in (-8, 8))
    slash = (_line((-11, 9), (11, -9)),) if does == "break" else ()
    return (*leads, *bars, *slash, *(_arrow(0, by == "timed", 12, 20) if by in ("timed", "lasting") else ()))


def _arrow(x: float, up: bool, top: float, low: float) -> tuple[Shape, ...]:
    """Up where a timer delays its coming in, down where it delays its going out (NEMA ICS 19; IEEE 315)."""
    tip, back = (top, top + 4) if up else (low, low - 4)
    return (_line((x, low), (x, top)), _line((x - 3, back), (x, tip), (x + 3, back)))


def _ansi_worked(by: str, does: str) -> tuple[Shape, ...]:
    ends = tuple(Circle(role="part", at=(side, 0), radius=3) for side in (-9, 9))
    if by == "held":
        tip = (8, -9) if does == "make" else (13, 4)
        return (*ends, _line((-6.5, -1.5 if does == "make" else 2), tip))
    bar = -8 if does == "make" else 4
    rod = (_line((-12, bar), (12, bar)), _line((0, bar), (0, -12)))
    cap = (_line((-7, -12), (-5, -15), (0, -16.5), (5, -15), (7, -12), closed=True),) if by == "mushroom" else ()
    return (*ends, *rod, *cap)


_LINK: Final = (_line((-4, 1), (-8, 1)), _line((-11, 1), (-15, 1)))
_WORKED: Final[dict[str, tuple[Shape, ...]]] = {
    "button": (*_LINK, _line((-12, -4), (-16, -4), (-16, 6), (-12, 6))),
    "mushroom": (*_LINK, _line((-16, -6), (-20, -3), (-21, 1), (-20, 5), (-16, 8), closed=True)),
    "held": (*_LINK, _line((-20, -4), (-16, -4), (-16, 6), (-12, 6))),
    "overload": (*_LINK, _line((-23, -4), (-15, -4), (-15, 6), (-23, 6), closed=True),
                 _line((-21, 6), (-21, 2), (-17, 2), (-17, 6))),
    "timed": (_line((-4, 0), (-13, 0)), _line((-4, 2.5), (-13, 2.5)),
              _line((-12, -5), (-15.5, -2), (-15.5, 4.5), (-12, 7.5))),
    "lasting": (_line((-4, 0), (-15.5, 0)), _line((-4, 2.5), (-15.5, 2.5)),
                _line((-16, -5), (-12.5, -2), (-12.5, 4.5), (-16, 7.5))),
    "": (),
}  # fmt: skip


def _iec(by: str, does: str) -> tuple[Shape, ...]:
    """A blade on its hinge, across its stop where it breaks; what works it at its left."""
    ends = (_line((0, -IEC_REACH), (0, -8)), _line((0, 10), (0, IEC_REACH)))
    blade = _line((0, 10), (-9, -9)) if does == "make" else _line((0, 10), (6, -11))
    stop = (_line((0, -8), (8, -8)),) if does == "break" else ()
    return (*ends, blade, *stop, *_WORKED[by])


def coil(name: str, *, ansi: bool) -> tuple[Shape, ...]:
    """A circle or a box by its name; a lamp is marked, a timer by which way it delays.

    A box crossed at its side delays coming in, one that is filled there going out (IEC 60617).
    """
    timed, up = name.endswith("timer"), name == "timed timer"
    if name == Coil.LAMP:
        rays = [_line((-d, -d), (d, d)) for d in (8.0,)] + [_line((-8, 8), (8, -8))]
        return (Circle(role="part", at=(0, 0), radius=11.5), *rays)
    if ansi:
        delayed = _arrow(11, up, 15, 24) if timed else ()
        return (Circle(role="part", at=(0, 0), radius=COIL_HALF), *delayed)
    box = Rect(role="part", at=(-COIL_HALF, -11), size=(2 * COIL_HALF, 22))
    if not timed:
        return (box,)
    crossed = (_line((-26, -11), (-16, 11)), _line((-26, 11), (-16, -11)))
    filled = tuple(_line((x, -11), (x, 11)) for x in (-24, -22, -20, -18))
    return (box, Rect(role="part", at=(-COIL_HALF - 10, -11), size=(10, 22)), *(crossed if up else filled))
