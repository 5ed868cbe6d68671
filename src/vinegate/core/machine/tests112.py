"""An equivalent circuit from the usual tests: direct current, no load, locked rotor."""

from __future__ import annotations

import math
from dataclasses import dataclass

from vinegate.core.machine.circuit import Cage, EquivalentCircuit

# X_1/X_2 by design (IEEE 112:2017 5.10.2 table; A and D 1.0, B 0.67, C 0.43).
LEAKAGE_RATIO = {"A": 1.0, "B": 0.67, "C": 0.43, "D": 1.0}


@dataclass(frozen=True, slots=True, kw_only=True)
class TestReport:
    """Line volts, line amperes, three-phase watts; the DC resistance is between two leads, ohms."""

    dc_resistance_ohm: float
    no_load_v: float
    no_load_a: float
    no_load_w: float
    locked_v: float
    locked_a: float
    locked_w: float
    locked_hz: float
    frequency_hz: float
    poles: int
    design: str = "B"


class TestsDisagree(ValueError):
    """The three tests cannot be of one machine; `str()` says where they part."""


def circuit_from_tests(report: TestReport) -> EquivalentCircuit:
    """Stator resistance, leakages, magnetising reactance and rotor resistance. Raises TestsDisagree.

    Winding in wye, so R_1 is half of what is measured between leads. The locked-rotor reactance is brought to rated
    frequency in proportion, split by design, and the rotor resistance corrected for the magnetising branch:
    `R_2 = (R_L − R_1)·((X_2 + X_m)/X_m)²` (Fitzgerald, Electric Machinery, 6th ed., eq. 6.54; IEEE 112:2017 5.10).
    No-load power less stator loss is taken as drag; core loss is not told apart.
    """
    r1 = report.dc_resistance_ohm / 2
    x_no_load = _reactance("no-load", report.no_load_v, report.no_load_a, report.no_load_w)
    r_locked = report.locked_w / (3 * report.locked_a**2)
    x_locked = _reactance("locked-rotor", report.locked_v, report.locked_a, report.locked_w)
    x_locked *= report.frequency_hz / report.locked_hz
    if r_locked <= r1:
        raise TestsDisagree(
            f"locked-rotor resistance {r_locked:.4g} Ω does not exceed the stator's {r1:.4g} Ω: "
            "nothing is left for the rotor"
        )
    ratio = LEAKAGE_RATIO.get(report.design, LEAKAGE_RATIO["B"])
    x1, xm, x2 = _leakages(x_no_load, x_locked, ratio)
    r2 = (r_locked - r1) * ((x2 + xm) / xm) ** 2
    drag = report.no_load_w - 3 * report.no_load_a**2 * r1
    if drag < 0:
        raise TestsDisagree(
            f"no-load power {report.no_load_w:.4g} W is less than the stator's own loss of "
            f"{report.no_load_w - drag:.4g} W"
        )
    return EquivalentCircuit(
        r1_ohm=r1,
        x1_ohm=x1,
        xm_ohm=xm,
        cages=(Cage(r_ohm=r2, x_ohm=x2),),
        poles=report.poles,
        frequency_hz=report.frequency_hz,
        drag_w=drag,
    )


def _reactance(test: str, volts: float, amperes: float, watts: float) -> float:
    apparent = math.sqrt(3) * volts * amperes
    if watts >= apparent:
        raise TestsDisagree(f"{test} power {watts:.4g} W is not below the {apparent:.4g} VA of its volts and amperes")
    return math.sqrt(apparent**2 - watts**2) / (3 * amperes**2)


def _leakages(x_no_load: float, x_locked: float, ratio: float) -> tuple[float, float, float]:
    """X_1, X_m, X_2 with X_1 + X_m = X_nl, X_1 = ratio·X_2, X_1 + X_2·X_m/(X_2 + X_m) = X_L: a quadratic in X_2."""
    # k·x2 + x2·(n − k·x2)/(x2 + n − k·x2) = L, with n = X_nl, k = ratio
    k, n, target = ratio, x_no_load, x_locked
    a = k * (1 - k) - k
    b = n * (k + 1) - target * (1 - k)
    c = -target * n
    if abs(a) < 1e-12:
        x2 = -c / b
    else:
        root = b * b - 4 * a * c
        if root < 0:
            raise TestsDisagree("locked-rotor reactance is too large beside the no-load reactance")
        x2 = (-b + math.sqrt(root)) / (2 * a)
    x1 = k * x2
    xm = n - x1
    if xm <= 0 or x2 <= 0:
        raise TestsDisagree("locked-rotor reactance is too large beside the no-load reactance")
    return x1, xm, x2
