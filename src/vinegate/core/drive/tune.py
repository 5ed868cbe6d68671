"""Autotune: what it asks, what it should find, and what a difference most likely means."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Final

from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, check, rule, unknown
from vinegate.core.machine.circuit import at_running_slip, rotor_constant_s
from vinegate.core.numbers import write
from vinegate.core.plate.insulation import COPPER_K
from vinegate.core.records import dataclass
from vinegate.core.turning import Turns
from vinegate.core.wording import inside
from vinegate.core.working import Figure, Provenance

_HOT_C: Final = 110.0
_COLD_C: Final = 20.0
_FITTED: Final = {"r": 0.30, "leak": 0.25, "idle": 0.25, "rotor": 0.40}
_TESTED: Final = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Expected:
    """One value: what is expected and how far it may lie, what was measured, and what a difference means."""

    key: str
    name: str
    unit: str
    expected: float
    tolerance: float
    measured: float | None
    says: str
    lacks: str = ""
    """What must be known before a reading can be held against it."""

    @property
    def ratio(self) -> float | None:
        return self.measured / self.expected if self.measured is not None and self.expected else None

    @property
    def agrees(self) -> bool | None:
        ratio = self.ratio
        return None if ratio is None or self.lacks else abs(ratio - 1) <= self.tolerance


@dataclass(frozen=True, slots=True, kw_only=True)
class Tuning:
    """The kind of tuning, the plate data it asks in the connection in use, and each value."""

    kind: str
    plate: tuple[tuple[str, str], ...]
    values: tuple[Expected, ...]
    skipped: str


def tuned_gate(tuning: Tuning | None) -> Gate | None:
    """What its tuning found against what it should find; None while nothing is entered."""
    found = [one for one in tuning.values if one.measured is not None] if tuning is not None else []
    if not found:
        return None
    key, name, source = "drive.tuned", "Tuned as its plate has it", "the machine's circuit, in the connection planned"
    odd = next((one for one in found if one.agrees is False), None)
    if odd is None and (lacking := tuple(one.lacks for one in found if one.lacks)):
        return unknown(key, name, lacking)
    if odd is None:
        return rule(key, name, True, "Found as expected, within what a circuit fitted to its plate may be off.", source)
    low, high = (odd.expected * (1 + sign * odd.tolerance) for sign in (-1, 1))
    turns = Turns(path=f"drive.tuned_{odd.key}", label=inside(odd.name),
                  passes_as=f"{write(odd.expected, 3)} {odd.unit}",
                  passes=f"{write(low, 3)} to {write(high, 3)} {odd.unit}")  # fmt: skip
    text = f"{odd.name} {write(odd.measured or 0.0, 3)} {odd.unit} found. {odd.says} Passes where it is {turns.passes}."
    return check(key, name, turns, text, source, remedy="Look at links and plate data, and tune again.")


def tuning_of(need: Need, scalar: bool) -> Tuning | None:
    """Put it on the sheet; None for a machine that is known by a curve alone."""
    circuit = need.machine.inside
    if circuit is None or need.motors > 1:
        return None
    facts, share = need.facts, 1 / need.ratio**2
    at_c = facts.tuned_at_c if facts.tuned_at_c is not None else _COLD_C
    fitted = need.machine.inside_provenance is Provenance.ESTIMATED
    off = {name: value if fitted else _TESTED for name, value in _FITTED.items()}
    r = _resistance_found(need, at_c, share * circuit.r1_ohm, fitted)
    leak = share * (circuit.x1_ohm + 1 / (1 / circuit.xm_ohm + sum(1 / cage.x_ohm for cage in circuit.cages)))
    omega = 2 * math.pi * circuit.frequency_hz
    slow = share * (circuit.x1_ohm + at_running_slip(circuit).imag)
    l_fast = _put(need, "tuned_leak", "Leakage to be found by fast pulses", "L_σ", 1000 * leak / omega, "mH", fitted)
    _put(need, "tuned_leak_slip", "Leakage as at running slip", "L_σs", 1000 * slow / omega, "mH", fitted)
    _put(need, "tuned_main", "Magnetising inductance", "L_m", 1000 * share * circuit.xm_ohm / omega, "mH", fitted)
    idle = _put(need, "tuned_idle", "No-load current to be found", "I_0", need.turning.idle_a, "A", fitted)
    rotor = _put(
        need, "tuned_rotor", "Rotor's time constant to be found", "T_r", rotor_constant_s(circuit), "s", fitted
    )
    found_mh = 1000 * facts.tuned_leak if facts.tuned_leak is not None else None
    run = "" if need.lead_ohm is not None else "the run to the motor"
    values = (
        _expected("r", "Resistance, a phase of the wye", r, off, facts.tuned_r_ohm, facts.tuned_leak, l_fast, run),
        _expected("leak", "Leakage inductance", l_fast, off, found_mh, facts.tuned_r_ohm, r),
        _expected("idle", "No-load current", idle, off, facts.tuned_idle_a, facts.tuned_rotor_s, rotor),
        _expected("rotor", "Rotor's time constant", rotor, off, facts.tuned_rotor_s, facts.tuned_idle_a, idle),
    )
    return Tuning(
        kind="rotating" if facts.coupled == "free" else "static",
        plate=_plate(need),
        values=values,
        skipped="Skipped, a scalar drive loses little beside its boost and slip compensation." if scalar else
                "Skipped, a vector drive takes its maker's usual motor: less torque at low speed, or hunting.",
    )  # fmt: skip


def _resistance_found(need: Need, at_c: float, warm_ohm: float, fitted: bool) -> Figure:
    """A phase of the wye with its lead, as cold as it is tuned."""
    wound = _put(need, "stator_hot", "Stator resistance, warm", "R_1w", warm_ohm, "Ω", fitted)
    entered = need.facts.tuned_at_c is not None
    degrees = need.sheet.given("tuned_at_c", "Winding while it is tuned", "θ_s", at_c, "°C",
                               provenance=Provenance.STATED if entered else Provenance.ASSUMED,
                               source="entered" if entered else "cold")  # fmt: skip
    known = need.lead_ohm is not None
    run = need.sheet.given("lead_ohm", "Lead, a phase", "R_l", need.lead_ohm or 0.0, "Ω",
                           provenance=Provenance.TABLE if known else Provenance.ASSUMED,
                           source="the run's resistance" if known else "no run given: winding alone")  # fmt: skip
    return need.sheet.work(
        "tuned_r", "Resistance to be found", "R_s",
        wound.value * (COPPER_K + at_c) / (COPPER_K + _HOT_C) + run.value, "Ω",
        formula=f"R_1w·({COPPER_K:g}+θ_s)/({COPPER_K:g}+{_HOT_C:g})+R_l", inputs=(wound, degrees, run),
        source="copper by temperature; IEEE 112:2017 5.2",
    )  # fmt: skip


def _put(need: Need, key: str, name: str, symbol: str, value: float, unit: str, fitted: bool) -> Figure:
    return need.sheet.given(key, name, symbol, value, unit, source="the machine's circuit, as strapped",
                            provenance=Provenance.ESTIMATED if fitted else Provenance.STATED)  # fmt: skip


def _plate(need: Need) -> tuple[tuple[str, str], ...]:
    """What it asks, as connected: the other connection's volts or amperes are the commonest fault."""
    plate = need.circuit.plate
    return (
        ("Motor volts", f"{write(need.plate_v)} V"),
        ("Motor amperes", f"{write(need.plate_a, 3)} A"),
        ("Motor frequency", f"{write(need.base_hz)} Hz"),
        ("Motor speed", f"{write(need.rated_rpm)} {need.unit}"),
        ("Motor power", need.rated.power.shown if need.rated.power else "–"),
        ("Power factor", f"{write(plate.power_factor)}" if plate.power_factor else "not on the plate"),
    )


def _expected(key: str, name: str, figure: Figure, off: Mapping[str, float], measured: float | None,
              other: float | None, beside: Figure, lacks: str = "") -> Expected:  # fmt: skip
    """`off` is how far each may be off, a share; `other` is what was measured of the value `beside`, in its base unit;
    `lacks` what must be known before a reading can be held against it.

    Two that are off together mean more.
    """
    ratio = measured / figure.value if measured is not None and figure.value else None
    together = None
    if other is not None and beside.value:
        per = 1000 if beside.unit == "mH" else 1
        together = other * per / beside.value
    return Expected(
        key=key,
        name=name,
        unit=figure.unit,
        expected=figure.value,
        tolerance=off[key],
        measured=measured,
        says=_SAYS[key](ratio, together) if not lacks and ratio is not None and abs(ratio - 1) > off[key] else "",
        lacks=lacks,
    )


def _near(ratio: float | None, wanted: float) -> bool:
    return ratio is not None and 0.75 <= ratio / wanted <= 1.33


def _winding(ratio: float, together: float | None) -> str:
    for times, text in (
        (3.0, "wye for delta, or plate data of the other connection: look at links, volts and amperes"),
        (1 / 3, "delta for wye, or plate data of the other connection: look at links, volts and amperes"),
        (4.0, "windings in series for parallel (nine leads): look at the links"),
        (0.25, "windings in parallel for series (nine leads): look at the links"),
    ):
        if _near(ratio, times) and _near(together, times):
            return f"With the other off alike: {text}."
    return ""


def _resistance(ratio: float, together: float | None) -> str:
    if found := _winding(ratio, together):
        return found
    if ratio > 1:
        return "A long or thin lead, a loose lug, a hot motor: milliohms lead by lead."
    return "A cold winding, or another motor than on the plate."


def _leakage(ratio: float, together: float | None) -> str:
    return _winding(ratio, together) or "If it differs by the rotor's position: broken bars or a wound rotor."


def _idle(ratio: float, together: float | None) -> str:
    if ratio > 1:
        return "Base volts or frequency set wrong (380 V 50 Hz for 460 V 60 Hz), wye for delta, shorted turns."
    return "Plate data wrong, or a hot rotor: repeat it cold."


def _rotor(ratio: float, together: float | None) -> str:
    return (
        "A hot rotor, or magnetising data wrong: repeat it cold." if ratio < 1 else "Tuned with a load: repeat it free."
    )


_SAYS: Final = {"r": _resistance, "leak": _leakage, "idle": _idle, "rotor": _rotor}
