"""The facts of a load with the bands in which they may lie: given ones are points, the others usual, estimated."""

from __future__ import annotations

from vinegate.core.facts import Circuit
from vinegate.core.load.facts import Load
from vinegate.core.plate.rated import Rated
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.records import dataclass, replace
from vinegate.core.turning import Taken
from vinegate.core.working import Figure

# Bands of what is not given, estimated: what a machine drives of its own power, and a machine's efficiency.
_POWER_BAND = (0.5, 1.15)
USUAL_EFFICIENCY = {"pump": 0.7, "fan": 0.65, "winch": 0.9}
_EFFICIENCY_BAND = {"pump": (0.5, 0.85), "fan": (0.5, 0.8), "winch": (0.75, 0.95)}
WATER: float = 1000.0  # kg/m³, where no density is given
_USUAL_GEAR, _GEAR_BAND = 0.94, (0.85, 0.98)
_POINTS_INERTIA = (0.2, 50.0)
_ROTOR_BAND = 1.5


@dataclass(frozen=True, slots=True)
class Shape:
    """A row of usual shapes: exponent of speed, breakaway and torque at full speed, inertia over the rotor's."""

    exponent: float
    breakaway: float
    full: float
    runs: float
    inertia: float
    why: str
    breakaway_band: tuple[float, float]
    inertia_band: tuple[float, float]

    @classmethod
    def of(cls, row: dict[str, str] | None) -> Shape:
        if row is None:
            return cls(0.0, 0.0, 1.0, 0.0, 1.0, "by the points", (0.0, 0.0), _POINTS_INERTIA)
        cells = {name: float(text) for name, text in row.items() if name not in ("kind", "why")}
        return cls(
            cells["shape"],
            cells["breakaway"],
            cells["full"],
            cells["runs"],
            cells["inertia"],
            row["why"],
            (cells["breakaway_low"], cells["breakaway_high"]),
            (cells["inertia_low"], cells["inertia_high"]),
        )


def points_nm(facts: Load, speed_rpm: float) -> float | None:
    """Torque at full speed of the load's own shaft by its points, N·m; None where they do not say it, or do not fit."""
    if facts.kind != "points" or facts.points is None:
        return None
    full_rpm = speed_rpm / (facts.gear_ratio or 1.0)
    return facts.points.full_nm(full_rpm) if facts.points.per_unit(full_rpm) is not None else None


def power_taken(facts: Load, power: Figure, rated: Rated) -> Taken:
    """The power at the load's shaft as its field takes it, with its band."""
    assert rated.power is not None
    unit, per = ("hp", WATT_PER_HP / 1000) if rated.power.unit == "hp" else ("kW", 1.0)
    through = gear_taken(facts)
    value = power.value * through.value / 100 / per
    low, high = 1.0, 1.0
    derived = facts.by_flow or facts.by_force
    by_points = not derived and points_nm(facts, rated.speed.value) is not None if rated.speed else False
    said = facts.power_w or facts.torque_nm or (derived and facts.machine_efficiency_pu) or by_points
    soft = not said
    if soft:
        kind = "pump" if facts.head_m is not None else "fan" if facts.pressure is not None else "winch"
        usual = USUAL_EFFICIENCY[kind]
        worst, best = _EFFICIENCY_BAND[kind]
        low, high = (usual / best, usual / worst) if derived else _POWER_BAND
    return Taken(
        path="load.power",
        label="shaft power asked",
        unit=unit,
        value=value,
        low=value * low,
        high=value * high,
        how="assumed" if soft else "",
        given=not soft,
    )


def gear_taken(facts: Load) -> Taken:
    """Efficiency of the gear: what is usual of helical ones where none is given, with its band; worm gears have less.

    Source: Niemann and Winter, Maschinenelemente II, 21: a helical stage loses one to two per cent; band assumed.
    """
    given, geared = facts.gear_efficiency_pu, (facts.gear_ratio or 1.0) != 1.0
    value = 100 * (given if given is not None else _USUAL_GEAR if geared else 1.0)
    soft = given is None and geared
    low, high = (100 * end for end in _GEAR_BAND) if soft else (value, value)
    return Taken(
        path="load.gear_efficiency", label="gear efficiency", unit="%", value=value, low=low, high=high,
        how="assumed" if soft else "", given=not soft, possible=(10.0, 99.5),
    )  # fmt: skip


def through_gear(power: Taken, through: Taken) -> Taken:
    """What is asked of the motor, as the load's power: with its gear's band, which a value typed for it has too."""
    if not through.wide:
        return power
    low, high = through.value / through.high, through.value / through.low
    return replace(power, low=power.low * low, high=power.high * high, typed=(low, high))


def breakaway_taken(breakaway: Figure, shape: Shape) -> Taken:
    low, high = (100 * end for end in shape.breakaway_band)
    soft = breakaway.unsaid
    return Taken(
        path="load.breakaway",
        label="breakaway",
        unit="%",
        value=breakaway.value,
        low=low if soft else breakaway.value,
        high=high if soft else breakaway.value,
        how="assumed" if soft else "",
        given=not soft,
    )


def inertia_taken(facts: Load, own: float, rotor: Figure | None, shape: Shape) -> Taken:
    """The load's inertia at its own shaft."""
    assert rotor is not None
    square = (facts.gear_ratio or 1.0) ** 2
    value, soft = own * square, facts.inertia_kgm2 is None
    low, high = (end * rotor.value * square for end in shape.inertia_band)
    return Taken(
        path="load.inertia",
        label="load inertia",
        unit="kg·m²",
        value=value,
        low=low if soft else value,
        high=high if soft else value,
        how="assumed" if soft else "",
        given=not soft,
    )


def rotor_taken(circuit: Circuit, rotor: Figure | None) -> Taken:
    assert rotor is not None
    times = _ROTOR_BAND if circuit.machine.inertia_kgm2 is None else 1.0
    return Taken(
        path="machine.inertia",
        label="rotor inertia",
        unit="kg·m²",
        value=rotor.value,
        low=rotor.value / times,
        high=rotor.value * times,
        how="estimated" if times > 1 else "",
        given=times == 1,
    )
