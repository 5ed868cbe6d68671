"""Each way to stop, with its size, its sentence, and whether it can do what is asked."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

import numpy as np

from vinegate.core.gate import Verdict
from vinegate.core.machine.circuit import EquivalentCircuit
from vinegate.core.quantity import write
from vinegate.core.starting.detail import listed
from vinegate.core.stopping.courses import Slowing, Turning, dc_torque, plugging, slow
from vinegate.core.stopping.facts import METHODS, Stop

NAMES: Final = dict(METHODS)
ORDER: Final = {key: place for place, (key, _) in enumerate(METHODS)}
_DC_TIMES: Final = 2.5
_BRAKE_TIMES: Final = 1.5
_HOIST_TIMES: Final = 2.0
_BUS_TIMES: Final = 1.6
_RAMP_S: Final = 5.0
_EFFICIENCY: Final = 0.9
_SHOWN: Final = 60
_HEAT_TOLERANCE: Final = 1.6
_CLOSES_AT: Final = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """What the methods work from. `light` is the lightest load beside the heaviest; `machine` is None where no circuit
    is known; a hoist's load drives the machine.
    """

    stop: Stop
    heavy: Turning
    light: Turning
    machine: EquivalentCircuit | None
    volts_v: float
    line_v: float
    rated_a: float
    stall_s: float | None
    locked_a: float | None
    hold: bool
    hoist: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class StopRow:
    """One way to stop: text and numbers of its row, its course with the heaviest load."""

    method: str
    name: str
    setting: str
    verdict: Verdict
    why: str
    caution: str
    holds: bool
    time_s: float | None
    light_s: float | None
    peak_a: float
    rotor_kj: float
    stator_kj: float
    outside_kj: float
    strip_s: tuple[float, ...]
    strip_pct: tuple[float, ...]
    chosen: bool = False


_CAUTIONS: Final = {
    "coast": "It turns on after the contactor has opened: guard it until it is at rest.",
    "brake": (
        "A worn or oily lining brakes less. Its release coil is live whenever the motor is; spring-set, it closes when "
        "power fails."
    ),
    "dc": "It does nothing when power fails, and does not hold at rest. Never with the motor's contactor closed.",
    "plugging": "Left in, it runs backwards. It does nothing when power fails.",
    "drive": "It does nothing when power fails; the resistor gets hot.",
    "drive-brake": (
        "When power fails the brake alone stops it, from full speed: it must be able to. Its coil is released by the "
        "drive's own contact on running, never from the motor's leads."
    ),
}


def coast(asked: Asked) -> StopRow:
    nothing = np.zeros(asked.heavy.omega.size)
    return _row(
        asked, "coast", "", lambda turning: slow(turning, nothing, line_a=nothing, rotor_w=nothing, outside_w=nothing)
    )


def brake(asked: Asked) -> StopRow:
    """Constant torque from running speed to rest; it holds without power."""
    torque = brake_torque(asked)
    size = asked.heavy.omega.size
    nothing = np.zeros(size)
    return _row(
        asked, "brake", f"{write(torque, 3)} N·m",
        lambda turning: slow(
            turning, np.full(size, torque), line_a=nothing, rotor_w=nothing, outside_w=torque * turning.omega
        ),
    )  # fmt: skip


def brake_torque(asked: Asked) -> float:
    """The brake's torque at the motor's shaft, N·m."""
    usual = (_HOIST_TIMES if asked.hoist else _BRAKE_TIMES) * asked.heavy.rated_nm
    return asked.stop.brake_torque_nm or usual


def direct_a(asked: Asked) -> float:
    """Direct current through two leads, A."""
    return asked.stop.dc_current_a or _DC_TIMES * asked.rated_a


def dc(asked: Asked) -> StopRow:
    """DC injection: the rotor takes all that was turning."""
    if asked.machine is None:
        return _unknown("dc")
    amps = direct_a(asked)

    def course(turning: Turning) -> Slowing:
        assert asked.machine
        torque = dc_torque(asked.machine, turning.omega, amps)
        steady = np.full(torque.size, amps * (2 / 3) ** 0.5)
        return slow(turning, torque, line_a=steady, rotor_w=torque * turning.omega, outside_w=np.zeros(torque.size))

    return _row(asked, "dc", f"{write(amps, 3)} A", course)


def plug(asked: Asked) -> StopRow:
    """Two leads exchanged until it stands."""
    if asked.machine is None:
        return _unknown("plugging")

    def course(turning: Turning) -> Slowing:
        assert asked.machine
        torque, amps, watts = plugging(asked.machine, turning.omega, asked.volts_v)
        return slow(turning, torque, line_a=amps, rotor_w=watts, outside_w=np.zeros(torque.size))

    return _row(asked, "plugging", "", course)


def ramp_s(asked: Asked) -> float:
    """The drive's ramp from running speed, s."""
    return asked.stop.drive_ramp_s or asked.stop.within_s or _RAMP_S


def drive(asked: Asked) -> StopRow:
    """An even ramp: the drive takes back what the load does not eat, a resistor turns it into heat."""
    seconds, size = ramp_s(asked), asked.heavy.omega.size

    def course(turning: Turning) -> Slowing:
        torque = turning.inertia_kgm2 * turning.omega[0] / seconds - turning.load_nm  # below nought it drives
        nothing = np.zeros(size)
        taken = np.maximum(torque, 0.0) * turning.omega
        return slow(turning, torque, line_a=nothing, rotor_w=nothing, outside_w=taken)

    return _row(asked, "drive", f"{write(seconds, 3)} s ramp", course)


def bus_volts(asked: Asked) -> float:
    """Volts of the drive's bus at which its resistor switches in."""
    return asked.stop.bus_v or _BUS_TIMES * asked.line_v


def resistor(asked: Asked) -> tuple[float, float, float]:
    """Most ohms, peak watts and joules a stop of the drive's resistor: `R ≤ U_B²/P_peak`."""
    turning = asked.heavy
    torque = np.maximum(turning.inertia_kgm2 * turning.omega[0] / ramp_s(asked) - turning.load_nm, 0.0)
    peak = float((torque * turning.omega).max()) * _EFFICIENCY
    bus = bus_volts(asked)
    joules = drive(asked).outside_kj * 1000 * _EFFICIENCY
    return (bus**2 / peak if peak > 0 else math.inf), peak, joules


def drive_then_brake(asked: Asked) -> StopRow:
    """The drive slows it nearly to rest, the brake closes on what is left and holds: the lining hardly wears."""
    seconds, torque_nm = ramp_s(asked), brake_torque(asked)

    def course(turning: Turning) -> Slowing:
        asks = turning.inertia_kgm2 * turning.omega[0] / seconds - turning.load_nm
        torque = np.where(turning.omega > _CLOSES_AT * turning.omega[0], asks, torque_nm)
        nothing = np.zeros(torque.size)
        taken = np.maximum(torque, 0.0) * turning.omega
        return slow(turning, torque, line_a=nothing, rotor_w=nothing, outside_w=taken)

    return _row(asked, "drive-brake", f"{write(seconds, 3)} s, {write(torque_nm, 3)} N·m", course)


def closing_j(asked: Asked) -> float:
    """What the brake takes when it closes at a twentieth of speed behind a drive's ramp, J."""
    turning, torque = asked.heavy, brake_torque(asked)
    slowing = torque + float(turning.load_nm[-1])
    energy = turning.energy_j * _CLOSES_AT**2
    return energy * torque / slowing if slowing > 0 else math.inf


_HOLDS: Final = ("brake", "drive-brake")


def _row(asked: Asked, method: str, setting: str, course: Callable[[Turning], Slowing]) -> StopRow:
    heavy, light = course(asked.heavy), course(asked.light)
    verdict, why = _judged(asked, method, heavy, light)
    keep = np.unique(np.linspace(0, heavy.time_s.size - 1, _SHOWN).astype(int))
    return StopRow(
        method=method,
        name=NAMES[method],
        setting=setting,
        verdict=verdict,
        why=why,
        caution=_CAUTIONS[method],
        holds=method in _HOLDS,
        time_s=heavy.stops_s,
        light_s=light.stops_s,
        peak_a=float(heavy.line_a.max()),
        rotor_kj=heavy.rotor_j / 1000,
        stator_kj=heavy.copper_j(asked.machine.r1_ohm) / 1000 if asked.machine else 0.0,
        outside_kj=heavy.brake_j / 1000,
        strip_s=listed(heavy.time_s[keep], 4),
        strip_pct=listed(heavy.speed_pct[keep], 2),
    )


def _judged(asked: Asked, method: str, heavy: Slowing, light: Slowing) -> tuple[Verdict, str]:
    """Whether it does what is asked, and the sentence."""
    if asked.hold and method not in _HOLDS:
        return (
            Verdict.SHUT,
            "It cannot hold at rest, nor without power: only a spring-set brake does. Beside one, it saves linings.",
        )
    if heavy.stops_s is None or light.stops_s is None:
        return Verdict.SHUT, "It never comes to rest by this alone."
    heat = _heat_share(asked, heavy)
    if heat is not None and heat > 1:
        return Verdict.SHUT, f"One stop takes {100 * heat:.0f} % of the heat the machine bears from hot."
    longest, within = max(heavy.stops_s, light.stops_s), asked.stop.within_s
    if within is not None and longest > within:
        return Verdict.SHUT, f"At rest after {write(longest, 3)} s, {write(within, 3)} s asked."
    if method == "plugging":
        return _window(asked, heavy, light)
    said = f"At rest within {write(longest, 3)} s." + ("" if within else " No time is asked.")
    if heat is not None and heat * _HEAT_TOLERANCE > 1:
        return Verdict.AJAR, f"{said} It takes {100 * heat:.0f} % of the heat the machine bears from hot."
    return Verdict.OPEN, said


def _heat_share(asked: Asked, course: Slowing) -> float | None:
    """Heat of one stop by the machine's own current, of what it bears from hot; None where it draws none."""
    if asked.stall_s is None or asked.locked_a is None or not course.line_a.any():
        return None
    return course.winding_s(asked.locked_a) / asked.stall_s


def _window(asked: Asked, heavy: Slowing, light: Slowing) -> tuple[Verdict, str]:
    """The timer must open after the heaviest load has nearly stopped and before the lightest runs backwards."""
    assert heavy.stops_s is not None
    assert light.stops_s is not None
    first, last = plug_window(heavy, light)
    timer = asked.stop.plug_timer_s
    if first > last:
        text = "No one setting of a timer serves the lightest and the heaviest load: a zero-speed switch is needed."
        return (Verdict.AJAR if timer is None else Verdict.SHUT), text
    heat = _heat_share(asked, heavy)
    window = f"{write(first, 3)} to {write(last, 3)} s"
    if timer is not None and not first <= timer <= last:
        return Verdict.SHUT, f"The timer at {write(timer, 3)} s lies outside its window, {window}."
    text = f"A timer between {window} serves every load; a zero-speed switch is surer."
    if heat is not None and heat * _HEAT_TOLERANCE > 1:
        return Verdict.AJAR, f"{text} One stop takes {100 * heat:.0f} % of the heat the machine bears from hot."
    return Verdict.OPEN, text


_NEARLY_PCT: Final = 5.0


def plug_window(heavy: Slowing, light: Slowing) -> tuple[float, float]:
    """Earliest and latest moment to open: the slowest below a twentieth of speed, the quickest not yet back at it."""
    assert light.stops_s is not None
    slowest, quickest = (heavy, light) if (heavy.stops_s or 0) >= (light.stops_s or 0) else (light, heavy)
    first = float(np.interp(-_NEARLY_PCT, -slowest.speed_pct, slowest.time_s))
    near = float(np.interp(-_NEARLY_PCT, -quickest.speed_pct, quickest.time_s))
    ends = quickest.stops_s or 0.0
    return first, ends + (ends - near)


def _unknown(method: str) -> StopRow:
    return StopRow(
        method=method,
        name=NAMES[method],
        setting="",
        verdict=Verdict.UNKNOWN,
        why="The machine's circuit is not known.",
        caution=_CAUTIONS[method],
        holds=False,
        time_s=None,
        light_s=None,
        peak_a=0.0,
        rotor_kj=0.0,
        stator_kj=0.0,
        outside_kj=0.0,
        strip_s=(),
        strip_pct=(),
    )
