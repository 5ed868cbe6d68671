"""The circuit and its motor together: a speed switch closes when this plan's machine has come so far."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from vinegate.core.starter.faults import Case
from vinegate.core.starter.logic import Circuit
from vinegate.core.starter.motor import Shaft, Turned
from vinegate.core.starter.run import Act, Run, Switched, ran

_MOST: Final = 16
_SAME_S: Final = 0.002


def switches_of(circuit: Circuit) -> dict[str, float]:
    """Its speed switches with the share of synchronous speed at which they close, negative backwards."""
    return {one.tag: one.turns for one in circuit.inputs if one.turns}


def ran_turning(
    circuit: Circuit, acts: Sequence[Act], shaft: Shaft | None, seed: int = 0, fault: Case | None = None
) -> Run:
    """As `ran`, with every speed switch worked by the motor; by hand where the motor is not worked here.

    What comes first is taken first: each crossing changes only what comes after it, so the run is played again with
    one more of them until no further comes.
    """
    run, known = ran(circuit, acts, seed, fault), list[Switched]()
    switches = switches_of(circuit)
    if shaft is None or not switches:
        return run
    for _ in range(_MOST):
        turned = shaft.turned(run.hangs, run.until_ms / 1000)
        if turned is None:
            return run
        new = _first_new(_crossings(turned, switches, shaft), known)
        if new is None:
            return run
        known.append(new)
        run = ran(circuit, acts, seed, fault, known)
    return run


def _crossings(turned: Turned, switches: dict[str, float], shaft: Shaft) -> list[Switched]:
    """When each switch closes and opens, in the order of time."""
    synchronous = shaft.plant.synchronous_rad_s * 9.549297
    found: list[Switched] = []
    for tag, share in switches.items():
        sign, least = (1.0 if share > 0 else -1.0), abs(share) * synchronous
        over = sign * turned.speed_rpm - least
        for place in range(1, over.size):
            before, after = float(over[place - 1]), float(over[place])
            if (before > 0) != (after > 0):
                span = float(turned.time_s[place] - turned.time_s[place - 1])
                at = float(turned.time_s[place - 1]) + span * before / (before - after)
                found.append((at, tag, after > 0))
    return sorted(found)


def _first_new(crossings: list[Switched], known: list[Switched]) -> Switched | None:
    """The first that is not taken yet, after all that are."""
    last = known[-1][0] if known else -1.0
    for one in crossings:
        taken = any(one[1:] == old[1:] and abs(one[0] - old[0]) < _SAME_S for old in known)
        if not taken and one[0] >= last - _SAME_S:
            return one
    return None
