"""A meter at the running circuit, and a hidden fault to be found by it."""

from __future__ import annotations

import secrets
from dataclasses import dataclass
from typing import Any, Final

from flask import request

from vinegate.core.starter.faults import Case, cases_of, swept
from vinegate.core.starter.logic import Circuit
from vinegate.core.starter.meter import Meter, hidden
from vinegate.web.whole import whole_in

_LONGEST: Final = 600


@dataclass(frozen=True, slots=True, kw_only=True)
class Hunt:
    """The address' part of it: the seed of a hidden fault, points measured so far, what is named as the fault."""

    seed: str
    measured: str
    named: str

    def keeps(self) -> dict[str, str]:
        """What further links carry on."""
        found = {"hunt": self.seed, "m": self.measured}
        return {key: value for key, value in found.items() if value}


def hunt_of() -> Hunt:
    """From the address; rubbish is passed over."""
    seed, named = str(request.values.get("hunt", "")), str(request.values.get("named", ""))
    points = str(request.values.get("m", ""))[:_LONGEST]
    one, other = str(request.values.get("one", ""))[:12], str(request.values.get("other", ""))[:12]
    if one and other:
        points = f"{points} {one}~{other}".strip()
    return Hunt(
        seed=seed if whole_in(seed, 6) is not None else "",
        measured=points,
        named=named if whole_in(named, 3) is not None else "",
    )


def case_of(circuit: Circuit, hunt: Hunt, number: str) -> Case | None:
    """The fault that is in: the hidden one, or that of the number."""
    if hunt.seed:
        return hidden(circuit, int(hunt.seed))
    cases = tuple(cases_of(circuit))
    place = whole_in(number, 3)
    return cases[place] if place is not None and place < len(cases) else None


def hunting(meter: Meter, hunt: Hunt, presses: int) -> dict[str, Any]:
    """Readings, and once a fault is named whether it is that one, with what it cost."""
    nets = meter.nets()
    pairs = [tuple(pair.split("~")) for pair in hunt.measured.split() if pair.count("~") == 1]
    pairs = [pair for pair in pairs if set(pair) <= set(nets)]
    found: dict[str, Any] = {
        "nets": nets,
        "readings": [(one, other, meter.reads(one, other).value) for one, other in pairs[-1:]],
        "measurements": len(pairs),
        "hunt": hunt,
        "presses": presses,
        "hide": secrets.randbelow(100000),
        "named": None,
        "show": meter.fault.what if hunt.seed and meter.fault and request.values.get("show") == "1" else "",
    }
    cases = tuple(cases_of(meter.circuit))
    if hunt.seed and hunt.named and int(hunt.named) < len(cases) and meter.fault is not None:
        fault = next((one for one in swept(meter.circuit) if one.what == meter.fault.what), None)
        found["named"] = {
            "right": cases[int(hunt.named)] == meter.fault,
            "what": meter.fault.what,
            "seen": fault.seen if fault else "",
        }
    if hunt.seed:
        found["suspects"] = [(place, one.what) for place, one in enumerate(cases)]
    return found
