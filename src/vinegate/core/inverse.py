"""The questions turned round: how far one fact of this circuit can go until a gate fails."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from typing import Any, Final, cast

from vinegate.core.facts import RuleSetName, read_circuit
from vinegate.core.grade import Gate, Verdict
from vinegate.core.grown import grown
from vinegate.core.numbers import write
from vinegate.core.plan import NOTHING, Plan, plan_raw
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.sizes import HORSEPOWERS, KILOWATTS
from vinegate.core.plate.stage import PLATE
from vinegate.core.plate.volts import AmpsDesignation
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.record.facts import FORMS
from vinegate.core.records import dataclass
from vinegate.core.rules.sets import rule_set
from vinegate.core.supply.facts import Supply
from vinegate.core.tables import load
from vinegate.core.work import Kept

_ROUNDS: Final = 9
_METRE_PER_FOOT: Final = 0.3048
_TAPS: Final = ("50", "65", "80")
_KVA_US: Final = (15, 30, 45, 75, 112.5, 150, 225, 300, 500, 750, 1000, 1500, 2000, 2500)
_KVA_IEC: Final = (
    25, 31.5, 40, 50, 63, 80, 100, 125, 160, 200, 250, 315, 400, 500, 630, 800, 1000, 1250, 1600, 2000, 2500,
)  # fmt: skip
"""Three-phase ratings that are made: IEEE C57.12.00:2021 table 2; IEC 60076-1:2011 5.1.2, the R10 series."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Inverse:
    """One question: its answer in words, and what stops it there; `curve` are (value, passes) as they were tried."""

    key: str
    question: str
    answer: str
    stops: str
    tried: tuple[tuple[float, bool], ...]


Raw = Mapping[str, Any]
Change = Callable[[float], tuple[dict[str, Any], dict[str, Any]]]


class _Asking:
    """One circuit, planned again and again with one fact changed; gates that fail as it stands are not counted."""

    def __init__(self, rules: RuleSetName, job: Raw, circuit: Raw) -> None:
        self.rules, self.job, self._kept = rules, job, Kept()
        self.circuit = {key: part for key, part in circuit.items() if key not in FORMS}
        self.plan = self._plan({}, {})
        self._before = {gate.key for gate in self.plan.weighing if _bad(gate)}
        self.us = rule_set(rules).practice.us_units

    def _plan(self, job: Raw, circuit: Raw) -> Plan:
        merged = [{**facts, **{part: {**(facts.get(part) or {}), **fields} for part, fields in changes.items()}}
                  for facts, changes in ((self.job, job), (self.circuit, circuit))]  # fmt: skip
        return plan_raw(self.rules, merged[0], merged[1], beside=NOTHING, kept=self._kept)

    def advised(self, circuit: dict[str, Any]) -> None:
        """Put the advised conductors in, so that the rest is judged with them."""
        found = self._plan({}, circuit).protected
        device = found.device("conductors") if found is not None else None
        part, _, name = (device.path if device is not None else "").partition(".")
        if device is not None and device.take and name:
            circuit.setdefault(part, {})[name] = device.take

    def fails(self, job: Raw, circuit: Raw) -> str:
        """The first gate that fails by this change, or is not known any more; empty where none does."""
        plan = self._plan(job, circuit)
        for error in plan.errors:
            if error not in self.plan.errors:
                return error.message
        wrong = [gate for gate in plan.weighing if _bad(gate) and gate.key not in self._before]
        return max(wrong, key=lambda gate: gate.verdict.rank).name if wrong else ""


def _bad(gate: Gate) -> bool:
    return gate.verdict is Verdict.FAILS or gate.verdict is Verdict.UNKNOWN


def ask_inverse(key: str, rules: RuleSetName, job: Raw, circuit: Raw) -> Inverse | None:
    """One question's answer; None where this circuit's facts do not allow it. Raises KeyError for one there is not."""
    return QUESTIONS[key][1](_Asking(rules, job, circuit))


def _longest_run(asking: _Asking) -> Inverse | None:
    """By halves between what passes and what does not."""
    if not (asking.circuit.get("wiring") or {}).get("size"):
        return None

    def change(metres: float) -> tuple[dict[str, Any], dict[str, Any]]:
        return {}, {"wiring": {"length": f"{metres:.3f} m"}}

    low, high, tried = 1.0, 2000.0, []
    if asking.fails(*change(low)):
        return None
    stops = asking.fails(*change(high))
    if not stops:
        return Inverse(
            key="run",
            question="Longest run",
            answer=f"more than {_length(asking, high)}",
            stops="",
            tried=((high, True),),
        )
    for _ in range(_ROUNDS):
        middle = (low * high) ** 0.5
        why = asking.fails(*change(middle))
        tried.append((middle, not why))
        low, high, stops = (low, middle, why) if why else (middle, high, stops)
    return Inverse(
        key="run", question="Longest run", answer=_length(asking, low), stops=stops, tried=tuple(sorted(tried))
    )


def _length(asking: _Asking, metres: float) -> str:
    """Rounded down: what is said passes."""
    value, unit = (metres / _METRE_PER_FOOT, "ft") if asking.us else (metres, "m")
    step = 10.0 ** (math.floor(math.log10(value)) - 2)
    return f"{write(math.floor(value / step) * step, 3)} {unit}"


def _listed(
    asking: _Asking, key: str, question: str, values: tuple[float, ...], change: Change, shown: Callable[[float], str],
    *, largest: bool,
) -> Inverse | None:  # fmt: skip
    """Among made sizes in their order: the last that passes from below, or from above."""
    order = values if largest else tuple(reversed(values))
    tried: dict[float, str] = {}

    def why(place: int) -> str:
        if order[place] not in tried:
            tried[order[place]] = asking.fails(*change(order[place]))
        return tried[order[place]]

    low, high = 0, len(order) - 1
    if not order:
        return None
    if why(low):
        return Inverse(key=key, question=question, answer="no other than there is", stops=why(low), tried=_tries(tried))
    while low < high:
        middle = (low + high + 1) // 2
        low, high = (low, middle - 1) if why(middle) else (middle, high)
    stops = why(low + 1) if low + 1 < len(order) else ""
    return Inverse(key=key, question=question, answer=shown(order[low]), stops=stops, tried=_tries(tried))


def _tries(tried: Mapping[float, str]) -> tuple[tuple[float, bool], ...]:
    return tuple(sorted((value, not why) for value, why in tried.items()))


def _least_wire(asking: _Asking) -> Inverse | None:
    """The smallest size that passes, at the length there is."""
    wiring = asking.circuit.get("wiring") or {}
    if not wiring.get("length"):
        return None
    sizes = [row["size"] for row in load(rule_set(asking.rules).conductors).rows]
    low, high, stops = 0, len(sizes) - 1, ""
    if asking.fails({}, {"wiring": {"size": sizes[high]}}):
        return None
    tried = []
    while low < high:
        middle = (low + high) // 2
        why = asking.fails({}, {"wiring": {"size": sizes[middle]}})
        tried.append((float(middle), not why))
        low, high, stops = (middle + 1, high, why) if why else (low, middle, stops)
    return Inverse(key="wire", question="Least wire", answer=sizes[high], stops=stops, tried=tuple(sorted(tried)))


def _largest_motor(asking: _Asking) -> Inverse | None:
    """Of the same kind: amperes, load and what stops it grow with its power, what guards it is chosen anew."""
    plate = asking.circuit.get("plate") or {}
    base = asking.plan
    plated = base.of(PLATE)
    if plated is None or (power := plated.rated.power) is None or (current := plated.rated.current) is None:
        return None
    watts = power.value * (WATT_PER_HP if power.unit == "hp" else 1000)
    sizes, unit = (HORSEPOWERS, "hp") if asking.us else (KILOWATTS, "kW")

    def change(size: float) -> tuple[dict[str, Any], dict[str, Any]]:
        times = size * (WATT_PER_HP if unit == "hp" else 1000) / watts
        amps = _amps(str(plate.get("full_load_current") or ""), current.value, times)
        changed: dict[str, Any] = grown(asking.circuit, times, us=asking.us)
        changed.setdefault("plate", {}).update(power=f"{size:g} {unit}", full_load_current=amps)
        for device in base.protected.devices if base.protected else ():  # chosen anew for another motor
            part, _, name = device.path.partition(".")
            if name:
                changed.setdefault(part, {})[name] = ""
        asking.advised(changed)
        return {}, changed

    near = tuple(size for size in sizes if size * (WATT_PER_HP if unit == "hp" else 1000) >= 0.99 * watts)
    return _listed(
        asking, "motor", "Largest motor of this kind", near, change, lambda size: f"{size:g} {unit}", largest=True
    )


def _amps(text: str, usual: float, times: float) -> str:
    """So many times the plate's amperes, in its own order of connections."""
    plate = Plate.fields()["full_load_current"]
    if not plate.reads(text):
        return write(usual * times, 4)
    return cast(AmpsDesignation, plate.taken(text, us=False)).scaled(times).text


def _smallest_transformer(asking: _Asking) -> Inverse | None:
    """At the impedance there is."""
    if not (asking.job.get("supply") or {}).get("transformer_power"):
        return None

    def change(kva: float) -> tuple[dict[str, Any], dict[str, Any]]:
        return {"supply": {"transformer_power": f"{kva:g} kVA"}}, {}

    text, rating = str((asking.job.get("supply") or {})["transformer_power"]), Supply.fields()["transformer_power"]
    if not rating.reads(text, us=asking.us):
        return None
    there = cast(float, rating.taken(text, us=asking.us)) / 1000
    made, name = _KVA_US if asking.us else _KVA_IEC, "Smallest transformer"
    sizes = tuple(kva for kva in made if kva <= there * 1.001)
    return _listed(asking, "transformer", name, sizes, change, lambda kva: f"{kva:g} kVA", largest=False)


def _tap(asking: _Asking) -> Inverse | None:
    """Of an autotransformer that is chosen."""
    from vinegate.core.start.ways import way_of

    method = read_circuit(asking.circuit, asking.rules)[0].start.method
    if not method or "start.tap" not in way_of(method).settings:
        return None

    def change(tap: float) -> tuple[dict[str, Any], dict[str, Any]]:
        return {}, {"start": {"tap": f"{tap:g}"}}

    return _listed(
        asking, "tap", "Highest tap", tuple(map(float, _TAPS)), change, lambda tap: f"{tap:g} %", largest=True
    )


QUESTIONS: Final[dict[str, tuple[str, Callable[[_Asking], Inverse | None]]]] = {
    "run": ("Longest run", _longest_run),
    "wire": ("Least wire", _least_wire),
    "motor": ("Largest motor of this kind", _largest_motor),
    "transformer": ("Smallest transformer", _smallest_transformer),
    "tap": ("Highest tap", _tap),
}
"""By key: what is asked, and how it is answered."""
