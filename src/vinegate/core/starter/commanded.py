"""What tells a starter to run from ahead of it: a selector's relay, or the contactors of two directions.

A starter that is drawn for a held contact is here run by a contact of that relay, or of either direction's contactor.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from vinegate.core.records import replace
from vinegate.core.starter.direct import reversing
from vinegate.core.starter.logic import (
    PHASES,
    Circuit,
    Coil,
    Contact,
    Device,
    Logic,
    Pole,
    broken,
    either,
    make,
    mapped,
    series,
)
from vinegate.core.starter.tags import renamed
from vinegate.core.starter.wishes import SWITCH, Wishes, inputs_of, permitted, run_by, with_selector

Draws = Callable[[Wishes], Circuit]

_AHEAD: Final = {phase: f"i{phase[1:]}" for phase in PHASES}
_DIRECTIONS: Final = ("F", "R")


def commanded(draw: Draws) -> Draws:
    """The same starter, one way round by its buttons; with a selector, or both ways round, as is wished."""

    def drawn(wishes: Wishes) -> Circuit:
        if wishes.reverses:
            return _both_ways(draw, wishes)
        if wishes.hands and not wishes.two_wire and not wishes.softly_s:
            return _by_selector(draw, wishes)
        return draw(wishes)

    return drawn


def _by_selector(draw: Draws, wishes: Wishes) -> Circuit:
    """`CR = P·(HAND·(START + CR) + AUTO·PERMIT)`: guards stand in P for both, off breaks both."""
    logic = series(permitted(wishes), run_by(wishes, make("CR")))
    told = Device(tag="CR", name="told to run", logic=logic, coil=Coil.RELAY, motor=False)
    plain = _told_by(_held(draw, wishes), make("CR"))
    return with_selector(replace(plain, inputs=inputs_of(wishes), devices=(told, *plain.devices), restarts=False))


def _both_ways(draw: Draws, wishes: Wishes) -> Circuit:
    """`F = P·/R·(FWD·/REV·(all behind it out) + F)`, R likewise; whichever is in tells the starter behind it to run.

    Neither comes in before all behind is out: else the other direction would meet the last connection of the start.
    """
    plain = _held(draw, wishes)
    named = renamed(plain, {one.tag: f"{one.tag}N" for one in plain.devices if one.tag in _DIRECTIONS})
    behind = _told_by(named, either(*(make(tag) for tag in _DIRECTIONS)))
    ways = reversing(wishes, tuple(broken(tag) for tag, _ in behind.poles))
    into = tuple((tag, tuple((phase, f"i{lead[1:]}") for phase, lead in poles)) for tag, poles in ways.poles)
    return replace(
        ways, key=plain.key, name=f"{plain.name}, reversing", devices=(*ways.devices, *behind.devices),
        poles=(*into, *((tag, _moved(poles)) for tag, poles in behind.poles)),
        between=tuple((name, _moved(parts)) for name, parts in behind.between),
        apart=(*ways.apart, *behind.apart), wanted=(*ways.wanted, *behind.wanted), straight=behind.straight,
        turns=behind.turns, fed_by=behind.fed_by, pauses=behind.pauses,
        grants=tuple(dict.fromkeys((*behind.grants, *ways.grants))),
    )  # fmt: skip


def _held(draw: Draws, wishes: Wishes) -> Circuit:
    """As it is drawn for a held contact."""
    return draw(replace(wishes, two_wire=True, hands=False, reverses=False, restart_s=0.0, softly_s=0.0))


def _told_by(plain: Circuit, by: Logic) -> Circuit:
    """The same with `by` in its held contact's place."""

    def put(contact: Contact) -> Logic:
        return by if contact.of == SWITCH else contact

    return replace(plain, devices=tuple(replace(one, logic=mapped(one.logic, put)) for one in plain.devices))


def _moved(poles: tuple[Pole, ...]) -> tuple[Pole, ...]:
    """Behind the contactors of the two directions."""
    return tuple((_AHEAD.get(one, one), _AHEAD.get(other, other)) for one, other in poles)
