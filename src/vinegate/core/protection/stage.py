"""Protection: the five devices and the grounding conductor, each on its sheet, as rows, with what the chart draws."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from vinegate.core.grade import Gate, rule
from vinegate.core.protection.advise import Terminals, advise
from vinegate.core.protection.bands import Band
from vinegate.core.protection.hold import peak_a
from vinegate.core.protection.iec import conductors as iec_conductors
from vinegate.core.protection.iec import devices as iec_devices
from vinegate.core.protection.nec import conductors as nec_conductors
from vinegate.core.protection.nec import devices as nec_devices
from vinegate.core.protection.need import Device, Need
from vinegate.core.protection.overload import Overload, plan_overload
from vinegate.core.protection.running import next_size_note, running_drop
from vinegate.core.protection.selectivity import upstream_gate
from vinegate.core.protection.sizing import Sizing
from vinegate.core.protection.withstand import withstand_k_s
from vinegate.core.rules import OverloadRange, RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.tables import load


class _Nec:
    """NFPA 70 and NEMA ICS 2."""

    short_circuit = staticmethod(nec_devices.short_circuit)
    conductors = staticmethod(nec_conductors.conductors)
    may_be = staticmethod(nec_conductors.may_be)
    grounding = staticmethod(nec_conductors.grounding)
    disconnect = staticmethod(nec_devices.disconnect)
    starter = staticmethod(nec_devices.starter)


class _Iec:
    """IEC 60364, 60947, 60269."""

    short_circuit = staticmethod(iec_devices.short_circuit)
    conductors = staticmethod(iec_conductors.conductors)
    may_be = staticmethod(iec_conductors.may_be)
    grounding = staticmethod(iec_conductors.grounding)
    disconnect = staticmethod(iec_devices.disconnect)
    starter = staticmethod(iec_devices.starter)


SIZINGS: Final[dict[str, Sizing]] = {"nec": _Nec(), "iec": _Iec()}


@dataclass(frozen=True, slots=True, kw_only=True)
class Protected:
    """The rows, top of the line first, and what the time-current chart draws.

    `first_a` is the first-cycle or reclosing peak over √2; `withstand_k_s` is k·S of the conductors, in A·√s.
    """

    devices: tuple[Device, ...]
    band: Band | None
    overload: Overload
    first_a: float | None
    withstand_k_s: float | None
    board: str
    volts_v: float | None
    sizing_a: float | None

    def device(self, key: str) -> Device:
        """A row by its key. Raises KeyError."""
        for device in self.devices:
            if device.key == key:
                return device
        raise KeyError(key)


def plan_protection(
    sheet: Sheet,
    guard: Sheet,
    wiring: Sheet,
    need: Need,
    rules: RuleSet,
    allowed: OverloadRange | None,
    at: Terminals,
) -> Protected:
    """Size all of them, and put working and gates on the sheets of protection, overload and wiring."""
    sizing = SIZINGS[rules.name]
    if need.sizing is not None:
        sheet.figures.append(need.sizing)
    overload_row, over = plan_overload(guard, need, rules, allowed)
    device, band = sizing.short_circuit(sheet, need)
    disconnect = sizing.disconnect(sheet, need, band)
    starter = sizing.starter(sheet, need)
    nec_devices.auxiliaries(sheet, need)
    runs = sizing.conductors(wiring, need, over.line_a)
    ground = sizing.grounding(wiring, need, band, _size_of(need, rules, runs))
    wiring.gates += [*runs.gates, *ground.gates, *running_drop(wiring, need, rules)]
    runs = advise(runs, need, rules, sizing, band, over.line_a, at)
    if need.neutral:
        sheet.notes.append(
            "From line to neutral: breaker, overload and switch have one pole; the neutral is not opened alone."
        )
    next_size_note(wiring, need)
    sheet.gates += [*disconnect.gates, *device.gates, *starter.gates, *_one_device(need)]
    sheet.gates += upstream_gate(need, band)
    return Protected(
        devices=(disconnect, device, starter, overload_row, runs, ground),
        band=band,
        overload=over,
        first_a=peak_a(need),
        withstand_k_s=withstand_k_s(need, rules.name),
        board=need.circuit.wiring.board or "main",
        volts_v=need.job.volts_at(need.circuit.wiring.board),
        sizing_a=need.sizing.value if need.sizing else None,
    )


def _size_of(need: Need, rules: RuleSet, runs: Device) -> str | None:
    """The run's size where this rule set tabulates it, else the one it advises."""
    size = need.circuit.wiring.size
    if size is not None and load(f"conductor_{rules.name}").find(size=size):
        return size
    return runs.take or None


def _one_device(need: Need) -> tuple[Gate, ...]:
    """A part-winding start needs a device and an overload for each half."""
    if need.method != "part-winding" or need.impossible or need.circuit.protection.overload_place == "half":
        return ()
    text = "Part winding with one overload for both halves: a half that fails to close is not protected."
    remedy = "An overload at half the current in each half winding, and a device at half for each."
    return (
        rule("protection.halves", "Each half winding has its own", False, text, "NFPA 70:2023 430.4", remedy=remedy),
    )
