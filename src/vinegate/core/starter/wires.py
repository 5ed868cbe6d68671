"""Every wire from end to end, and the strip of terminals where a net leaves the panel."""

from __future__ import annotations

from functools import lru_cache
from itertools import pairwise
from typing import Final

from vinegate.core.records import dataclass
from vinegate.core.starter.logic import Circuit
from vinegate.core.starter.netlist import LIVE, RETURN, Netlist, netlist_of

PANEL: Final = "panel"


@dataclass(frozen=True, slots=True, kw_only=True)
class End:
    """Where a wire is put under a screw: tag and mark, and where that is."""

    tag: str
    mark: str
    place: str

    def __str__(self) -> str:
        return f"{self.tag}:{self.mark}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Wire:
    """One piece of wire on a net; `cable` where it runs outside the panel."""

    net: str
    begins: End
    ends: End
    cable: str = ""

    def marks(self, habit: str) -> tuple[str, str]:
        """What is written on its two ends: the net on both, or at each where the other goes.

        >>> one = Wire(net="4", begins=End(tag="OL", mark="96", place=PANEL), ends=End(tag="M", mark="A1", place=PANEL))
        >>> one.marks("net"), one.marks("target")
        (('4', '4'), ('M:A1', 'OL:96'))
        """
        return (str(self.ends), str(self.begins)) if habit == "target" else (self.net, self.net)


@dataclass(frozen=True, slots=True, kw_only=True)
class Terminal:
    """One terminal: its number, the net it carries, what is wired to it inside and outside."""

    number: int
    net: str
    inside: str
    outside: str
    place: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Wiring:
    wires: tuple[Wire, ...]
    terminals: tuple[Terminal, ...]


@lru_cache(maxsize=256)
def wired(circuit: Circuit) -> tuple[Netlist, Wiring]:
    """A circuit's netlist and its wiring, kept by what it is, whatever its timers are set to."""
    netlist = netlist_of(circuit)
    return netlist, wiring_of(netlist)


def wiring_of(netlist: Netlist, strip: str = "XD1") -> Wiring:
    """Each net chained from screw to screw in the panel, through one terminal for each place outside that it goes to.

    So many wires as ends less one: nothing is joined twice.
    """
    wires: list[Wire] = []
    terminals: list[Terminal] = []
    for net, ends in _ends(netlist).items():
        inside = [end for end in ends if end.place == PANEL]
        places = list(dict.fromkeys(end.place for end in ends if end.place != PANEL))
        if net in (LIVE, RETURN):
            inside.insert(0, End(tag="supply", mark=net, place=PANEL))
        for place in places:
            number = len(terminals) + 1
            screw = End(tag=strip, mark=str(number), place=PANEL)
            far = [end for end in ends if end.place == place]
            terminals.append(
                Terminal(number=number, net=net, place=place, inside=str(inside[-1]) if inside else "",
                         outside=", ".join(map(str, far)))
            )  # fmt: skip
            inside.append(screw)
            wires += [Wire(net=net, begins=one, ends=other, cable=place) for one, other in pairwise([screw, *far])]
        wires += [Wire(net=net, begins=one, ends=other) for one, other in pairwise(inside)]
    order = {net: place for place, net in enumerate(netlist.nets())}
    return Wiring(wires=tuple(sorted(wires, key=lambda one: order[one.net])), terminals=tuple(terminals))


def _ends(netlist: Netlist) -> dict[str, list[End]]:
    """What lies on each net of the control circuit."""
    found: dict[str, list[End]] = {}
    for place, one in enumerate(netlist.elements):
        if not one.rung:
            continue
        for net, mark in zip(one.pins, netlist.marks[place], strict=True):
            found.setdefault(net, []).append(End(tag=one.of, mark=mark, place=one.location))
    return found
