"""What the coils of a control circuit ask of their supply: which pull in together, which are held meanwhile."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from vinegate.core.records import dataclass
from vinegate.core.starter.logic import Circuit, Coil, contacts_of
from vinegate.core.starter.machine import Moving, State
from vinegate.core.starter.merge import merged
from vinegate.core.tables import load
from vinegate.core.turning import Taken

_MADE = 2


class Burden(NamedTuple):
    """Tags of the coils that pull in at one moment, and of those that are held."""

    pulls: frozenset[str]
    held: frozenset[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Load:
    """One coil: volt-amperes while it pulls in and while it is held, with their power factors."""

    tag: str
    name: str
    kind: str
    pull: Taken
    pull_pf: float
    hold: Taken
    hold_pf: float
    remote: bool = False
    """Whether a contact outside the panel stands ahead of it."""

    def pulling(self, times: float = 1.0) -> complex:
        return _power(self.pull.value * times, self.pull_pf)

    def holding(self, times: float = 1.0) -> complex:
        return _power(self.hold.value * times, self.hold_pf)


def _power(va: float, pf: float) -> complex:
    return complex(va * pf, va * (1 - pf * pf) ** 0.5)


def burdens_of(circuit: Circuit) -> tuple[Burden, ...]:
    """Every moment at which something pulls in, of each start, its timers, and the stop; none that another contains.

    Every order of travel is followed, so that two coils that may be pulling at once are found.
    """
    return _walked(merged(circuit.timeless().moved()))


@lru_cache(maxsize=256)
def _walked(circuit: Circuit) -> tuple[Burden, ...]:
    moving = Moving(circuit)
    found: set[Burden] = set()
    setup = tuple(tag in circuit.setup for tag in moving.inputs)
    for place, one in enumerate(circuit.inputs):
        if not one.starts and one.tag not in circuit.automatic:
            continue
        auto = tuple(tag in circuit.automatic for tag in moving.inputs)
        begun = auto if one.tag in circuit.automatic else _with(setup, place, on=True)
        let_go = auto if one.tag in circuit.automatic else setup
        rest = moving.rest()
        ends = _through(moving, {State(rest.coils, begun)}, found)
        ends = _through(moving, {State(state.coils, let_go) for state in ends}, found)
        stop = next((at for at, by in enumerate(circuit.inputs) if by.stops and by.tag not in circuit.speeds), None)
        if stop is not None:
            turning = tuple(on or tag in circuit.speeds[:1] for tag, on in zip(moving.inputs, let_go, strict=True))
            _through(moving, {State(state.coils, _with(turning, stop, on=True)) for state in ends}, found)
    largest = [
        one for one in found
        if not any(one != other and one.pulls <= other.pulls and one.held <= other.held for other in found)
    ]  # fmt: skip

    def drawn(one: Burden) -> tuple[list[int], list[int]]:
        return sorted(moving.tags.index(tag) for tag in one.pulls), sorted(moving.tags.index(tag) for tag in one.held)

    return tuple(sorted(largest, key=drawn))  # in the order of the drawing: of two alike, always the same is named


def _with(pressed: tuple[bool, ...], place: int, *, on: bool) -> tuple[bool, ...]:
    return (*pressed[:place], on, *pressed[place + 1 :])


def _through(moving: Moving, states: set[State], found: set[Burden]) -> set[State]:
    """All orders of travel, then the timers one after the other, until nothing is left to run out."""
    for _ in range(2 * len(moving.tags)):
        ends: set[State] = set()
        seen, stack = set(states), list(states)
        while stack:
            state = stack.pop()
            found.add(_burden(moving, state))
            after = [one for _, one in moving.moving(state)]
            if not after:
                ends.add(state)
            stack += [one for one in after if one not in seen]
            seen.update(after)
        states = {
            next((one for move, one in moving.chosen(state) if move.what == "runs out:"), state) for state in ends
        }
        if states == ends:
            break
    return states


def _burden(moving: Moving, state: State) -> Burden:
    on = [(place, tag) for place, tag in enumerate(moving.tags) if moving.energised(state, place)]
    pulls = frozenset(tag for place, tag in on if not moving.timers[place] and state.coils[place] < _MADE)
    return Burden(pulls, frozenset(tag for _, tag in on) - pulls)


def loads_of(
    circuit: Circuit, amps: dict[str, float | None], pull_va: float | None, hold_va: float | None
) -> tuple[Load, ...] | None:
    """Each coil by its contactor's amperes; `pull_va` and `hold_va` are the maker's of the largest.

    None while a contactor's amperes are not known and no maker's figures stand for all.
    """
    rows = {}
    for device in circuit.devices:
        row = _row(device.coil, amps.get(device.tag))
        if row is None:
            return None
        rows[device.tag] = row
    contactors = [float(rows[one.tag]["upto_a"]) for one in circuit.devices if one.coil is Coil.CONTACTOR]
    largest = max(contactors, default=0.0)
    away = {one.tag for one in circuit.inputs if one.location != "panel"}
    found = []
    for device in circuit.devices:
        row = rows[device.tag]
        own = device.coil is Coil.CONTACTOR and float(row["upto_a"]) == largest
        found.append(
            Load(
                tag=device.tag,
                name=device.name,
                kind=device.coil.value,
                pull=_taken(row, "pull", "pulling in", pull_va, own=own),
                pull_pf=float(row["pull_pf"]),
                hold=_taken(row, "hold", "held", hold_va, own=own),
                hold_pf=float(row["hold_pf"]),
                remote=any(contact.of in away for contact in contacts_of(device.logic)),
            )
        )
    return tuple(found)


def _row(coil: Coil, amps: float | None) -> dict[str, str] | None:
    if coil is Coil.CONTACTOR and amps is None:
        return None
    rows = [row for row in load("contactor_coil").rows if row["kind"] == coil.value]
    return next((row for row in rows if (amps or 0.0) <= float(row["upto_a"])), rows[-1])


def _taken(row: dict[str, str], which: str, does: str, given: float | None, *, own: bool) -> Taken:
    """A maker's figure is that of the largest coil; the others keep what is usual."""
    value, path = float(row[f"{which}_va"]), f"starter.coil_{which}"
    if own and given is not None:
        return Taken(
            path=path, label=f"largest coil, {does}", unit="VA", value=given, low=given, high=given, given=True
        )
    return Taken(
        path=path if own else "", label=f"{'largest' if own else 'a smaller'} coil, {does}", unit="VA", value=value,
        low=float(row[f"{which}_low"]), high=float(row[f"{which}_high"]), how="estimated",
    )  # fmt: skip
