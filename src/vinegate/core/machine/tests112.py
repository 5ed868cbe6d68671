"""An equivalent circuit from the usual tests: direct current, no load, locked rotor."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.machine.circuit import Cage, EquivalentCircuit
from vinegate.core.numbers import write
from vinegate.core.records import dataclass

# X_1/X_2 by design (IEEE 112:2017 5.10.2 table; A and D 1.0, B 0.67, C 0.43).
LEAKAGE_RATIO = {"A": 1.0, "B": 0.67, "C": 0.43, "D": 1.0}


@dataclass(frozen=True, slots=True, kw_only=True)
class TestReport:
    """Line volts, line amperes, three-phase watts; the DC resistance is between two leads, ohms.

    `friction_w` is friction and windage, from a no-load test at several volts.
    """

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
    friction_w: float | None = None


class TestsDisagree(ValueError):
    """The three tests cannot be of one machine; `str()` says where they part."""


def circuit_from_tests(report: TestReport) -> EquivalentCircuit:
    """Stator resistance, leakages, magnetising and core branch, rotor resistance. Raises TestsDisagree.

    Winding in wye, so R_1 is half of what is measured between leads. Both tests are solved as circuits, by their active
    and reactive power: at no load the gap's admittance is `I/(U − I·Z_1)` with the rotor nearly open, locked it is
    that of the rotor beside the same branch at the test's frequency; X_1 is found where it has the standard's ratio to
    X_2 (IEEE 112:2017 5.10.2 to 5.10.4, without that method's approximations). No-load power less the stator's is core
    loss and drag; without the friction and windage of a no-load test at several volts all of it is taken as drag.
    """
    r1 = report.dc_resistance_ohm / 2
    idle = _current("no-load", report.no_load_v, report.no_load_a, report.no_load_w)
    locked = _current("locked-rotor", report.locked_v, report.locked_a, report.locked_w)
    _rotor_is_left(report, r1)
    gap_w = report.no_load_w - 3 * report.no_load_a**2 * r1
    if gap_w < 0:
        raise TestsDisagree(
            f"no-load power {write(report.no_load_w, 4)} W is less than the stator's own loss of "
            f"{write(report.no_load_w - gap_w, 4)} W"
        )
    drag_w = gap_w if report.friction_w is None else report.friction_w
    if drag_w > gap_w * _ROUNDING:
        raise TestsDisagree(
            f"friction of {write(drag_w, 4)} W is more than the {write(gap_w, 4)} W that no load leaves for it"
        )
    tests = _Tests(report=report, r1=r1, idle=idle, locked=locked, core_w=max(gap_w - drag_w, 0.0))
    ratio = LEAKAGE_RATIO.get(report.design, LEAKAGE_RATIO["B"])
    x1 = _stator_leakage(tests, ratio)
    xm, g_core, rotor = tests.at(x1)
    if xm <= 0 or rotor.imag <= 0 or rotor.real <= 0:
        raise TestsDisagree("locked-rotor reactance is too large beside the no-load reactance")
    return EquivalentCircuit(
        r1_ohm=r1,
        x1_ohm=x1,
        xm_ohm=xm,
        rfe_ohm=1 / g_core if g_core > 0 else None,
        cages=(Cage(r_ohm=rotor.real, x_ohm=rotor.imag),),
        poles=report.poles,
        frequency_hz=report.frequency_hz,
        drag_w=drag_w,
    )


_ROUNDING: Final = 1.001
_HALVINGS: Final = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class _Tests:
    """Both tests as phasors, the phase volts real."""

    report: TestReport
    r1: float
    idle: complex
    locked: complex
    core_w: float

    def at(self, x1: float) -> tuple[float, float, complex]:
        """X_m, core conductance and rotor impedance at rated frequency that these tests leave beside this X_1."""
        k = self.report.locked_hz / self.report.frequency_hz
        gap_v = self.report.no_load_v / math.sqrt(3) - self.idle * complex(self.r1, x1)
        b_m = -(self.idle / gap_v).imag
        if b_m <= 0:
            return -1.0, 0.0, 0j
        g_core = self.core_w / (3 * abs(gap_v) ** 2)
        still_v = self.report.locked_v / math.sqrt(3) - self.locked * complex(self.r1, k * x1)
        rotor = 1 / (self.locked / still_v - g_core + 1j * b_m / k)
        return 1 / b_m, g_core, complex(rotor.real, rotor.imag / k)


def _stator_leakage(tests: _Tests, ratio: float) -> float:
    """X_1 where `X_1 = ratio·X_2`, halving the span between none and all of the locked-rotor reactance."""
    report = tests.report
    reactance = abs(tests.locked.imag) / abs(tests.locked) ** 2 * report.locked_v / math.sqrt(3)
    low, high = 0.0, reactance * report.frequency_hz / report.locked_hz
    for _ in range(_HALVINGS):
        x1 = (low + high) / 2
        xm, _, rotor = tests.at(x1)
        if xm > 0 and ratio * rotor.imag > x1:
            low = x1
        else:
            high = x1
    return (low + high) / 2


def _rotor_is_left(report: TestReport, r1: float) -> None:
    r_locked = report.locked_w / (3 * report.locked_a**2)
    if r_locked <= r1:
        raise TestsDisagree(
            f"locked-rotor resistance {write(r_locked, 4)} Ω does not exceed the stator's {write(r1, 4)} Ω: "
            "nothing is left for the rotor"
        )


def _current(test: str, volts: float, amperes: float, watts: float) -> complex:
    apparent = math.sqrt(3) * volts * amperes
    if watts >= apparent:
        raise TestsDisagree(
            f"{test} power {write(watts, 4)} W is not below the {write(apparent, 4)} VA of its volts and amperes"
        )
    return amperes * complex(watts / apparent, -math.sqrt(1 - (watts / apparent) ** 2))
