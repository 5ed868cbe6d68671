"""What else must be set anew: the circuit planned with the new plate beside the circuit as it is."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import TYPE_CHECKING, Any, Final

from vinegate.core.drive.stage import DRIVE
from vinegate.core.numbers import write
from vinegate.core.records import dataclass
from vinegate.core.replacement.left import left_behind
from vinegate.core.wording import inside
from vinegate.core.working import Provenance

if TYPE_CHECKING:
    from vinegate.core.plan import Plan

_OF_THE_OLD: Final = ("machine", "new_plate", "new_machine", "replacement")
"""Parts that belong to the old motor, or to the comparison: they go when the new plate is taken over."""
_ITS_SETTING: Final = "overload"


@dataclass(frozen=True, slots=True, kw_only=True)
class Anew:
    """One thing: as it is, and as it would be."""

    name: str
    old: str
    new: str

    @property
    def changes(self) -> bool:
        return self.old != self.new


def with_new_plate(circuit_raw: Mapping[str, Any], used: Sequence[tuple[str, str]] = ()) -> dict[str, Any]:
    """The circuit's facts with the new plate taken over; the old motor's own data are left behind.

    What is known of the new machine goes with its plate; the overload's setting must be given anew; where the other
    facts come from stays. `used` are texts of the plate as it holds on this supply (`Compared.used`): stated, as they
    are not what is stamped.
    """
    left = left_behind(circuit_raw)
    found = {key: part for key, part in left.items() if key not in _OF_THE_OLD}
    new = circuit_raw.get("new_plate") or {}
    protection = {key: text for key, text in (left.get("protection") or {}).items() if key != _ITS_SETTING}
    gone = ("plate.", "machine.", "new_plate.", "new_machine.", "replacement.", f"protection.{_ITS_SETTING}")
    sources = {path: word for path, word in (left.get("sources") or {}).items() if not path.startswith(gone)}
    known = dict(circuit_raw.get("new_machine") or {})
    machine = {"machine": known} if known else {}
    sources |= {f"plate.{name}": Provenance.STATED.value for name, _ in used}
    return {**found, **machine, "plate": dict(new) | dict(used), "protection": protection, "sources": sources}


def anew(old: Plan, new: Plan) -> tuple[Anew, ...]:
    """Devices, start, stop, drive, place and control power, each as it is and as it would be."""
    return (
        *_devices(old, new),
        *_starts(old, new),
        *_stops(old, new),
        *_figures(old, new),
        *_drive(old, new),
        *_place(old, new),
    )


def _devices(old: Plan, new: Plan) -> Iterator[Anew]:
    if old.protected is None or new.protected is None:
        return
    after = {device.key: device for device in new.protected.devices}
    for device in old.protected.devices:
        other = after.get(device.key)
        if other is not None:
            yield Anew(name=device.name, old=device.advised, new=other.advised)


def _starts(old: Plan, new: Plan) -> Iterator[Anew]:
    rows = [plan.comparison.row(plan.comparison.chosen) if plan.comparison else None for plan in (old, new)]
    if rows[0] is None or rows[1] is None:
        return
    yield Anew(name="Way to start, its setting", old=rows[0].setting or "–", new=rows[1].setting or "–")
    for name, attribute, unit in (("Start, amperes at most", "peak_a", "A"), ("Start, dip", "dip_pct", "%"),
                                  ("Start, time", "time_s", "s"), ("Change-over", "last_change_s", "s")):  # fmt: skip
        values = [getattr(row, attribute) for row in rows]
        if any(value is not None for value in values):
            yield Anew(name=name, old=_shown(values[0], unit), new=_shown(values[1], unit))


def _stops(old: Plan, new: Plan) -> Iterator[Anew]:
    if old.stopping is None or new.stopping is None:
        return
    times = [plan.stopping.used.time_s if plan.stopping else None for plan in (old, new)]
    yield Anew(name="Stop, time", old=_shown(times[0], "s"), new=_shown(times[1], "s"))


_SHOWN: Final = (
    ("stop.energy", "Stop, energy"),
    ("stop.torque", "Brake, torque"),
    ("stop.hold_torque", "Brake, torque to hold"),
    ("stop.brake_heat", "Brake, heat a stop"),
    ("stop.direct", "Direct current of the brake"),
    ("stop.ohms", "Braking resistor, at most"),
    ("starter.size_va", "Control transformer, at least"),
)


def _figures(old: Plan, new: Plan) -> Iterator[Anew]:
    """What the stops and the control circuit have to be made for."""
    for key, name in _SHOWN:
        figures = [plan.figure(key) for plan in (old, new)]
        if any(figures):
            shown = [figure.shown if figure else "–" for figure in figures]
            yield Anew(name=name, old=shown[0], new=shown[1])


def _place(old: Plan, new: Plan) -> Iterator[Anew]:
    """Each thing's standing in its area, where the new plate turns it."""
    after = {gate.key: gate.verdict for gate in new.stage("place").gates if not gate.doubted}
    for gate in old.stage("place").gates:
        verdict = after.get(gate.key)
        if verdict is not None and verdict is not gate.verdict:
            yield Anew(name=gate.name, old=gate.verdict.value, new=verdict.value)


def _drive(old: Plan, new: Plan) -> Iterator[Anew]:
    """Parameters whose value the new plate changes; those that stay are not listed."""
    found = [plan.of(DRIVE) for plan in (old, new)]
    if found[0] is None or found[1] is None or found[0].driven is None or found[1].driven is None:
        return
    after = {one.name: one for one in found[1].driven.parameters}
    for one in found[0].driven.parameters:
        other = after.get(one.name)
        if other is not None and other.value != one.value:
            yield Anew(name=f"Drive: {inside(one.name)}", old=f"{one.value} {one.unit}".strip() or "–",
                       new=f"{other.value} {other.unit}".strip() or "–")  # fmt: skip


def _shown(value: float | None, unit: str) -> str:
    return "–" if value is None else f"{write(value, 3)} {unit}"
