"""What the motor hangs in, by the poles that are really closed."""

from __future__ import annotations

from enum import StrEnum
from typing import Final

from vinegate.core.records import dataclass, replace
from vinegate.core.starter.logic import LINES, Circuit
from vinegate.core.starter.machine import joined, shorted


class Hangs(StrEnum):
    """In which connection the windings are: whole, as the way to start begins, or not fed evenly at all."""

    OFF = "off"
    WHOLE = "whole"
    FIRST = "first"
    SLOW = "slow"
    DIRECT = "direct current"
    UNEVEN = "uneven"
    SHORT = "short"


@dataclass(frozen=True, slots=True)
class Hung:
    """The connection, which way its field turns, and the words for both."""

    how: Hangs
    words: str
    backwards: bool = False
    gripped: bool = False
    """A spring-set brake is on."""
    step: int = 0
    """Of its first connections, counted from nought."""

    @property
    def hangs_in(self) -> tuple[Hangs, int]:
        return self.how, self.step


_EVEN: Final = (("L1", "L2", "L3"), ("L2", "L3", "L1"), ("L3", "L1", "L2"))
_OFF: Final = Hung(Hangs.OFF, "off")


def hung_of(circuit: Circuit, closed: frozenset[str]) -> Hung:
    """From the nets that closed poles join to each lead of the motor; whether its spring-set brake is on."""
    found = _fed(circuit, closed)
    if circuit.release and circuit.release not in closed:
        return replace(found, words=f"{found.words}, its brake on", gripped=True)
    return found


def _fed(circuit: Circuit, closed: frozenset[str]) -> Hung:
    if shorted(circuit, closed):
        return Hung(Hangs.SHORT, "short circuit")
    groups = joined(circuit, closed)
    by_net = {net: next(iter(sorted(group & set(LINES))), "") for group in groups for net in group}
    if circuit.windings:
        return _by_winding(circuit, groups, by_net)
    if not any(phase for net, phase in by_net.items() if net not in LINES):
        direct = any({"+", "-"} & group for group in groups)
        return Hung(Hangs.DIRECT, "braked by direct current") if direct else _idle(circuit, closed)
    if circuit.steps:
        return _stepped(circuit, groups, by_net)
    nets = {net for _, poles in circuit.poles for pole in poles for net in pole}
    if "T3" not in nets and "T1" in nets:  # of one phase
        whole = by_net.get("T1") and by_net.get("T4")
        return Hung(Hangs.WHOLE, "on the line") if whole else Hung(Hangs.UNEVEN, "on some of its phases")
    leads = tuple(by_net.get(f"T{number}", "") for number in (1, 2, 3))
    switched = [phase for number, phase in enumerate(leads, start=1) if f"T{number}" not in circuit.straight]
    if not any(switched):
        ahead = {net for _, parts in circuit.between for pair in parts for net in pair}
        return _ahead(circuit, closed) if any(by_net.get(net) for net in ahead) else _idle(circuit, closed)
    if not all(leads):
        return Hung(Hangs.UNEVEN, "on some of its phases")
    how, words = _windings(groups, by_net, nets)
    backwards = leads not in _EVEN
    return Hung(how, f"{words}{', backwards' if backwards else ''}", backwards)


def _by_winding(circuit: Circuit, groups: tuple[frozenset[str], ...], by_net: dict[str, str]) -> Hung:
    """Of several speeds: the one whose leads are all on the line, with its star joined."""
    for winding in circuit.windings:
        leads = tuple(by_net.get(lead, "") for lead in winding.leads)
        if not any(leads):
            continue
        if not all(leads):
            return Hung(Hangs.UNEVEN, "on some of its phases")
        if winding.star and not any(set(winding.star) <= group for group in groups):
            return Hung(Hangs.OFF, "with open windings")
        backwards = leads not in _EVEN
        return Hung(Hangs.SLOW if winding.slow else Hangs.WHOLE,
                    f"{winding.words}{', backwards' if backwards else ''}", backwards)  # fmt: skip
    return _OFF


def _stepped(circuit: Circuit, groups: tuple[frozenset[str], ...], by_net: dict[str, str]) -> Hung:
    """By the furthest step whose nets are all joined."""
    entries = sorted({net for _, poles in circuit.poles for phase, net in poles if phase in LINES})
    leads = tuple(by_net.get(net, "") for net in entries)
    if not all(leads):
        return Hung(Hangs.UNEVEN, "on some of its phases")
    count = len(circuit.steps)
    done = [all(any({*pair} <= group for group in groups) for pair in pairs) for pairs in circuit.steps]
    step = max((place for place, joins in enumerate(done, start=1) if joins), default=0)
    backwards = leads not in _EVEN
    turned = ", backwards" if backwards else ""
    if step == count:
        words = "on the line, its rings shorted" if circuit.rings else "on the line"
        return Hung(Hangs.WHOLE, f"{words}{turned}", backwards)
    words = f"{circuit.fed_by}, step {step + 1} of {count}" if count > 1 else circuit.fed_by
    return Hung(Hangs.FIRST, f"{words}{turned}", backwards, step=step)


def _ahead(circuit: Circuit, closed: frozenset[str]) -> Hung:
    """Fed through what stands between line and motor; where a relay tells that to, only while it is in."""
    tells = set(circuit.feeds) - {tag for tag, _ in circuit.poles}
    if not tells or tells & closed:
        return Hung(Hangs.FIRST, circuit.fed_by)
    return Hung(Hangs.OFF, "ramped down softly, by load alone here") if circuit.lasting else _idle(circuit, closed)


def _idle(circuit: Circuit, closed: frozenset[str]) -> Hung:
    """Off; an armature whose rest pole is closed turns against its resistor."""
    return Hung(Hangs.OFF, "off, its armature on its resistor") if {tag for tag, _ in circuit.rests} - closed else _OFF


def _windings(groups: tuple[frozenset[str], ...], by_net: dict[str, str], nets: set[str]) -> tuple[Hangs, str]:
    """How the far ends of the windings are joined, with all three near ends on the line."""
    if "T4" in nets:
        if any({"T4", "T5", "T6"} <= group for group in groups):
            return Hangs.FIRST, "in wye"
        if all(by_net.get(f"T{number}") for number in (4, 5, 6)):
            return Hangs.WHOLE, "in delta"
        return (
            (Hangs.FIRST, "in delta through its resistors") if by_net.get("r1") else (Hangs.OFF, "with open windings")
        )
    if "T7" in nets:
        both = all(by_net.get(f"T{number}") for number in (7, 8, 9))
        return (Hangs.WHOLE, "on both halves") if both else (Hangs.FIRST, "on one half")
    return Hangs.WHOLE, "on the line"
