"""Proof before anyone wires it: every state that pressing, timers and power bring about, in every order of travel."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from functools import lru_cache
from typing import Final

from vinegate.core.records import dataclass
from vinegate.core.starter.logic import Circuit, Kind
from vinegate.core.starter.machine import OUT, Move, Moving, State, joined
from vinegate.core.starter.merge import merged

_MOST: Final = 60000


@dataclass(frozen=True, slots=True, kw_only=True)
class Shown:
    """One requirement: what was asked of every state, and the shortest way to break it; empty where it holds."""

    key: str
    name: str
    breaks: tuple[str, ...] = ()

    @property
    def holds(self) -> bool:
        return not self.breaks


@dataclass(frozen=True, slots=True, kw_only=True)
class Proof:
    """All requirements, how many states were seen, and whether that was all of them."""

    shown: tuple[Shown, ...]
    states: int
    whole: bool

    @property
    def holds(self) -> bool:
        return self.whole and all(one.holds for one in self.shown)


Test = Callable[[Moving, State, bool], bool]


def _no_short(moving: Moving, state: State, settled: bool) -> bool:
    return not moving.hurts(state)


def _stops_win(moving: Moving, state: State, settled: bool) -> bool:
    """What runs on after a stop by button is out once its timer is; a guard does not wait for that."""
    if not (settled and state.power and moving.drives(state)):
        return True
    stopped, guarded = moving.circuit.ends(state.pressed)
    return not stopped or (not guarded and _lasts(moving, state))


def _lasts(moving: Moving, state: State) -> bool:
    tag = moving.circuit.lasting
    return bool(tag) and state.coils[moving.tags.index(tag)] > OUT


def _no_turns(moving: Moving, state: State, settled: bool) -> bool:
    """No part of a winding in the line is joined by poles while its star is: it would be a transformer shorted."""
    if not moving.circuit.turns:
        return True
    groups = joined(moving.circuit, moving.poles_in(state))
    for parts, star in moving.circuit.turns:
        whole = any(set(star) <= group for group in groups)
        if whole and any(one in group and other in group for one, other in parts for group in groups):
            return False
    return True


def _stop_over_start(moving: Moving, state: State, settled: bool) -> bool:
    """Of buttons: both pressed at once."""
    if not (settled and state.power and moving.drives(state)):
        return True
    worked = [one for one, on in zip(moving.circuit.inputs, state.pressed, strict=True) if on]
    both = any(one.starts for one in worked) and any(one.stops and one.kind is Kind.BUTTON for one in worked)
    return not both or _lasts(moving, state)


def _apart(moving: Moving, state: State, settled: bool) -> bool:
    poles = moving.poles_in(state)
    return not any(one in poles and other in poles for one, other in moving.circuit.apart)


def _limits_hold(moving: Moving, state: State, settled: bool) -> bool:
    """A limit keeps its direction out, a turning shaft the other one."""
    if not settled or not state.power:
        return True
    pressed = {tag for tag, on in zip(moving.inputs, state.pressed, strict=True) if on}
    poles = moving.poles_in(state)
    return not any(tag in pressed and device in poles for tag, device in moving.circuit.limits)


def _held_stops(moving: Moving, state: State, settled: bool) -> bool:
    """A maintained contact that opens, or a selector turned to off, is a stop as well."""
    if not (settled and state.power and moving.drives(state)):
        return True
    return moving.circuit.asked_to_run(state.pressed) or _lasts(moving, state)


def _dead_is_out(moving: Moving, state: State, settled: bool) -> bool:
    return not (settled and not state.power and moving.drives(state))


_TESTS: Final[tuple[tuple[str, str, Test], ...]] = (
    ("short", "No two phases are joined", _no_short),
    ("stops", "Stop, overload and emergency stop put the motor out", _stops_win),
    ("dominates", "Stop wins over start", _stop_over_start),
    ("apart", "Contactors that must never meet never do", _apart),
    ("turns", "No winding is shorted while its star is closed", _no_turns),
    ("limits", "A limit keeps its direction out", _limits_hold),
    ("held", "What it is held by puts it out when it opens", _held_stops),
    ("dead", "Without power nothing stays in", _dead_is_out),
)


def proved(circuit: Circuit) -> Proof:
    """Walk every state; then what follows after power has come back, and that a start reaches its end.

    Kept by the circuit, whatever its timers are set to: in the proof they run out at any time. Stations that do the
    same count as one.
    """
    return _walked(merged(circuit.timeless().deciding()))


@lru_cache(maxsize=256)
def _walked(circuit: Circuit) -> Proof:
    moving = Moving(circuit)
    first = moving.settle(moving.rest())
    if first is None:
        return Proof(shown=(Shown(key="settles", name="It settles", breaks=("power comes on",)),), states=1, whole=True)
    came: dict[State, tuple[State, Move] | None] = {first: None}
    queue, broken, whole = deque([first]), {}, True
    while queue:
        state = queue.popleft()
        ways = moving.moving(state)
        for key, _, test in _TESTS:
            if key not in broken and not test(moving, state, not ways):
                broken[key] = _steps(came, state)
        if len(came) > _MOST:
            whole = False
            break
        for move, after in ways or moving.chosen(state):
            if after not in came:
                came[after] = (state, move)
                queue.append(after)
    without = {"limits": not circuit.limits, "turns": not circuit.turns, "held": not circuit.asks}
    asked = [(key, name) for key, name, _ in _TESTS if not without.get(key)]
    shown = [Shown(key=key, name=name, breaks=broken.get(key, ())) for key, name in asked]
    shown += [_lets_go(moving, first)] if circuit.momentary else []
    shown += [_rests(moving, came)] if circuit.rested else []
    return Proof(shown=(*shown, _after_power(moving, came), _reaches(moving, first), _back_to_rest(moving, came)),
                 states=len(came), whole=whole)  # fmt: skip


def _steps(came: dict[State, tuple[State, Move] | None], state: State) -> tuple[str, ...]:
    """The way to a state: what people and the line do, and the timers; coils' own travel is left out but the last."""
    found: list[str] = []
    step = came[state]
    while step is not None:
        before, move = step
        if not found or move.what not in ("in", "out"):
            found.append(str(move))
        step = came[before]
    return tuple(reversed(found))


def _after_power(moving: Moving, came: dict[State, tuple[State, Move] | None]) -> Shown:
    """After an outage nothing starts that nobody starts, the shaft turning or not; unless two wires were asked for."""
    key, name = "restart", "Power that comes back starts nothing"
    if moving.circuit.restarts:
        return Shown(key=key, name="Two wires: power that comes back starts it, as asked")
    if moving.circuit.rides:
        name = "Power that comes back after its ride starts nothing"
    silent = [one.tag in moving.circuit.silent for one in moving.circuit.inputs]
    for state in came:
        commanded = any(on and not still for on, still in zip(state.pressed, silent, strict=True))
        rides = moving.circuit.rides and state.coils[moving.tags.index(moving.circuit.rides)]
        if state.power or commanded or rides or moving.moving(state):
            continue
        after = moving.settle(State(state.coils, state.pressed, True))
        if after is None or moving.drives(after):
            return Shown(key=key, name=name, breaks=(*_steps(came, state), "power comes back"))
    return Shown(key=key, name=name)


def _reaches(moving: Moving, first: State) -> Shown:
    """Each start pressed and let go, timers run out in turn: in every order of travel it ends where it should.

    The first start brings the wanted contactors in; one that is named otherwise (reverse) feeds the motor.
    """
    key, name = "reaches", "A start reaches its end, however contactors travel"
    begins = [place for place, one in enumerate(moving.circuit.inputs) if one.starts]
    names: set[str] = set()
    for place in begins:
        if moving.circuit.inputs[place].name in names:
            continue
        failed = _stays_out(moving, first, place, wanted=moving.circuit.wanted if not names else ())
        for mode, wanted in moving.circuit.modes:
            failed = failed or _stays_out(moving, first, place, wanted=wanted, mode=mode)
        if failed:
            return Shown(key=key, name=name, breaks=(f"press {moving.inputs[place]}", failed))
        names.add(moving.circuit.inputs[place].name)
    return Shown(key=key, name=name)


def _stays_out(moving: Moving, first: State, begins: int, *, wanted: tuple[str, ...], mode: str = "") -> str:
    """What goes wrong after a start; empty where nothing does."""
    circuit = moving.circuit
    setup = tuple(tag in circuit.setup or tag == mode for tag in moving.inputs)
    pressed = tuple(on or place == begins for place, on in enumerate(setup))
    held = circuit.inputs[begins].kind is Kind.HELD
    idle, chatters = _all_ends(moving, State(first.coils, setup))
    ends, again = _after_all(moving, {State(one.coils, pressed) for one in idle})
    states, further = _after_all(moving, ends if held else {State(one.coils, setup) for one in ends})
    chatters = chatters or again or further
    for tag in circuit.then if not mode else ():
        place = moving.inputs.index(tag)
        worked, again = _after_all(moving, {_set(one, place, on=True) for one in states})
        stays = circuit.inputs[place].kind is Kind.HELD
        states, further = _after_all(moving, {_set(one, place, on=stays) for one in worked})
        chatters = chatters or again or further
    if chatters:
        return "contactors chatter"
    for state in states:
        lacks = [tag for tag in wanted if tag not in moving.poles_in(state)]
        if lacks or not moving.drives(state):
            return f"{', '.join(lacks) or 'the motor'} stays out"
    return ""


def _lets_go(moving: Moving, first: State) -> Shown:
    """A jog never seals: let go, in every order of travel, the motor is out."""
    key, name = "jog", "A jog that is let go lets the motor go"
    for tag in moving.circuit.momentary:
        place = moving.inputs.index(tag)
        worked, _ = _after_all(moving, {_set(first, place, on=True)})
        freed, _ = _after_all(moving, {_set(state, place, on=False) for state in worked})
        if any(moving.drives(state) for state in freed):
            return Shown(key=key, name=name, breaks=(f"press {tag}", f"let go {tag}", "it runs on"))
    return Shown(key=key, name=name)


def _rests(moving: Moving, came: dict[State, tuple[State, Move] | None]) -> Shown:
    """While its timer runs out after a stop nothing that is pressed, tripped or given back starts it."""
    key, name = "rests", "It starts only once it has rested"
    place = moving.tags.index(moving.circuit.rested)
    for state in came:
        if state.coils[place] == OUT or moving.drives(state) or moving.moving(state):
            continue
        for move, after in moving.chosen(state):
            settled = moving.settle(after)
            if move.tag != moving.circuit.rested and (settled is None or moving.drives(settled)):
                return Shown(key=key, name=name, breaks=(*_steps(came, state), str(move)))
    return Shown(key=key, name=name)


def _set(state: State, place: int, *, on: bool) -> State:
    return State(state.coils, (*state.pressed[:place], on, *state.pressed[place + 1 :]), state.power)


def _after_all(moving: Moving, states: set[State]) -> tuple[set[State], bool]:
    """In every order of travel, then with the timers run out one after the other; whether contactors chatter."""
    for _ in range(2 * len(moving.tags)):
        after: set[State] = set()
        for state in states:
            settled, round_again = _all_ends(moving, state)
            if round_again:
                return states, True
            for one in settled:
                runs = [found for move, found in moving.chosen(one) if move.what == "runs out:"]
                after |= set(runs[:1]) or {one}
        if after == states:
            break
        states = after
    return states, False


def _all_ends(moving: Moving, state: State) -> tuple[set[State], bool]:
    """Every settled state that travel may lead to; whether some order never settles."""
    seen, ends, stack = {state}, set(), [state]
    after: dict[State, list[State]] = {}
    while stack:
        now = stack.pop()
        after[now] = [found for _, found in moving.moving(now)]
        if not after[now]:
            ends.add(now)
        for found in after[now]:
            if found not in seen:
                seen.add(found)
                stack.append(found)
    return ends, not ends or _circles(after)


def _circles(after: dict[State, list[State]]) -> bool:
    """Whether contactors may go round: some order of travel in which one lets go again what brought it in."""
    left = {state: len(found) for state, found in after.items()}
    comes: dict[State, list[State]] = {}
    for state, found in after.items():
        for one in found:
            comes.setdefault(one, []).append(state)
    ready = [state for state, count in left.items() if not count]
    done = 0
    while ready:
        done += 1
        for before in comes.get(ready.pop(), []):
            left[before] -= 1
            if not left[before]:
                ready.append(before)
    return done < len(after)


def _back_to_rest(moving: Moving, came: dict[State, tuple[State, Move] | None]) -> Shown:
    """From every settled state, stopped and let go, everything that feeds the motor is out and stays out."""
    key, name = "rest", "Every state goes back to rest"
    stops = tuple(one.stops for one in moving.circuit.inputs)
    if moving.circuit.restarts:
        return Shown(key=key, name=name)
    for state in came:
        if moving.moving(state) or not state.power:
            continue
        halted = moving.settle(State(state.coils, stops))
        freed = moving.settle(State(halted.coils, (False,) * len(stops))) if halted else None
        if freed is None or moving.drives(freed):
            return Shown(key=key, name=name, breaks=_steps(came, state))
    return Shown(key=key, name=name)
