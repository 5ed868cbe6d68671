"""Every operating point against what motor and drive give there: rows with their gates."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import Final

import numpy as np

from vinegate.core.assumed import band_of
from vinegate.core.drive.envelope import Laden
from vinegate.core.drive.need import Need
from vinegate.core.drive.points import OperatingPoint
from vinegate.core.grade import Gate, Verdict, at_most, check, resting, rule, settled_by, unknown, worst
from vinegate.core.numbers import write
from vinegate.core.records import dataclass, replace
from vinegate.core.remedy import either
from vinegate.core.tables import load
from vinegate.core.turning import Taken, Turns, less, more

MARGIN: Final = 1.1
_SAME: Final = 0.005
_NEAR_RATED: Final = 0.98
_SOURCE: Final = "T = f(rotor frequency) at constant flux: Bose, Modern Power Electronics and AC Drives, 2.3"


@dataclass(frozen=True, slots=True, kw_only=True)
class Point:
    """A speed at which it works, and what is asked there of one motor's shaft."""

    rpm: float
    nm: float
    hours: float | None
    stated: bool
    """Whether the load was typed here; else it is the load's own curve."""
    name: str
    row: int | None = None
    """Its row among those typed."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """A point worked: the drive's hertz and volts, the motor's amperes, and the torques it may be asked there."""

    point: Point
    hz: float
    amps: float
    volts: float
    rotor_hz: float
    kw: float
    continuous_nm: float
    short_nm: float
    breakdown_nm: float
    gates: tuple[Gate, ...]
    reached: bool

    @property
    def verdict(self) -> Verdict:
        return worst(self.gates)

    @property
    def why(self) -> str:
        """What does not pass, first; else what is nearest to its limit."""
        worst = max(self.gates, key=lambda gate: gate.verdict.rank, default=None)
        if worst is not None and worst.verdict is not Verdict.PASSES:
            return worst.sentence
        return (
            f"{write(self.continuous_nm / self.point.nm, 3)} × what is asked, for ever"
            if self.point.nm > 0
            else "idles"
        )


def points_of(need: Need) -> tuple[Point, ...]:
    """Those typed, the ends of the range where no point stands there, and full speed where nothing said turns."""
    facts, full = need.facts, need.load.full_speed_rpm
    typed = facts.points.points if facts.points else ()
    found = [_typed(need, point, row) for row, point in enumerate(typed)]
    ends = [(need.most_rpm, "greatest speed"), (need.least_rpm, "least speed")]
    if not any(one.rpm > 0 for one in found) and not need.most_rpm:
        ends.append((full, "full speed"))
    for rpm, name in ends:
        if rpm is not None and not any(abs(one.rpm - rpm) <= _SAME * full for one in found):
            found.append(Point(rpm=rpm, nm=_by_curve(need, rpm), hours=None, stated=False, name=name))
    return tuple(sorted(found, key=lambda one: -one.rpm))


def _by_curve(need: Need, rpm: float) -> float:
    return float(need.load.running_at(np.array([rpm]))[0])


def torque_of(need: Need, point: OperatingPoint) -> tuple[float, float]:
    """Speed, turns a minute, and torque, N·m, of a point as typed."""
    rpm = need.rpm_of(point.turning)
    nm = _by_curve(need, rpm)
    if point.load is not None:
        omega = max(rpm, 1e-6) * math.pi / 30
        nm = {"%": point.load / 100 * need.load.torque_nm, "nm": point.load, "w": point.load / omega}[point.load_in]
    return rpm, nm


def _typed(need: Need, point: OperatingPoint, row: int) -> Point:
    rpm, nm = torque_of(need, point)
    return Point(rpm=rpm, nm=nm, hours=point.hours, stated=point.load is not None, name="", row=row)


def rows_of(supplied: Laden, points: tuple[Point, ...]) -> tuple[Row, ...]:
    """Every point, solved together."""
    need = supplied.need
    rpm, nm = (np.array([getattr(point, name) for point in points]) for name in ("rpm", "nm"))
    k, found, fluxed = supplied.settle(rpm, nm)
    continuous = supplied.continuous_nm(k, fluxed)
    short, breakdown = supplied.most_at(rpm, fluxed)
    rows = []
    for at, point in enumerate(points):
        row = Row(
            point=point,
            hz=float(k[at]) * need.base_hz,
            amps=float(found.amps[at]),
            volts=float(found.volts[at]),
            rotor_hz=float(found.rotor_pu[at]) * need.base_hz,
            kw=point.nm * point.rpm * math.pi / 30 / 1000,
            continuous_nm=float(continuous[at]),
            short_nm=float(short[at]),
            breakdown_nm=float(breakdown[at]),
            gates=(),
            reached=bool(found.reached[at]),
        )
        rows.append(replace(row, gates=tuple(_gates(supplied, row))))
    return tuple(rows)


def worst_of_each(rows: Iterable[Row]) -> list[Gate]:
    """Of each requirement the gate of the point where it stands worst."""
    found: dict[str, Gate] = {}
    for row in rows:
        for gate in row.gates:
            now = found.get(gate.key)
            if now is None or _badness(gate) > _badness(now):
                found[gate.key] = gate
    return list(found.values())


def _badness(gate: Gate) -> tuple[int, float]:
    share = -(gate.margin or 0.0) / abs(gate.limit) if gate.limit else 0.0
    return gate.verdict.rank, share


def at_point(need: Need, row: Row) -> str:
    """Where, in words: `At 1773 min⁻¹ (30.3 Hz)`."""
    return f"At {write(row.point.rpm)} {need.unit} ({write(row.hz, 3)} Hz)"


def _gates(supplied: Laden, row: Row) -> list[Gate]:
    need = supplied.need
    found = [_short(supplied, row), _breakdown(supplied, row), _for_ever(supplied, row)]
    if (speed := _mechanical(need, row)) is not None:
        found.append(speed)
    if need.facts.output_most_hz is not None and row.hz > 0.98 * need.facts.output_most_hz:
        text = f"{at_point(need, row)} the drive's greatest output is {write(need.facts.output_most_hz, 4)} Hz."
        # A plate's slip is rounded: 50 Hz come out as 50.03.
        reached = row.hz <= (1 + _SAME) * need.facts.output_most_hz
        found.append(rule("drive.output_hz", "Drive reaches the frequency", reached, text,
                          "the drive's plate", remedy="A drive or setting that goes higher."))  # fmt: skip
    return found


def _asked(need: Need, row: Row, heavy: bool) -> tuple[float, tuple[Taken, ...]]:
    """Torque at a point and the facts it rests on: the load's power, where the torque is the curve's."""
    times = (need.facts.heaviest_pu or 1.0) if heavy else 1.0
    return row.point.nm * times, () if row.point.stated else less(need.load_power)


def _scaled(need: Need, nm: float, power: tuple[float, ...]) -> float:
    return nm * power[0] / need.load_power.value if power else nm


def _less_broken(need: Need, facts: tuple[float, ...], rests: tuple[Taken, ...]) -> tuple[float, tuple[float, ...]]:
    """Breakdown torque over that as taken, and the facts before it: it stands last, where it is not given."""
    if not need.breakdown:
        return 1.0, facts
    return facts[-1] / rests[-1].value, facts[:-1]


def _there(supplied: Laden, row: Row, power: tuple[float, ...]) -> tuple[float, float]:
    """Torque for a short time and at breakdown, N·m, at a point's speed with that power of the load.

    With less of it the machine slips less, so that its frequency is lower there.
    """
    need = supplied.need
    if not power or power[0] == need.load_power.value:
        return row.short_nm, row.breakdown_nm
    rpm = np.array([row.point.rpm])
    fluxed = supplied.settle(rpm, np.array([_scaled(need, row.point.nm, power)]))[2]
    short, breakdown = supplied.most_at(rpm, fluxed)
    return float(short[0]), float(breakdown[0])


def _steady_nm(supplied: Laden, row: Row, power: tuple[float, ...]) -> float:
    """What is borne for ever there, N·m, with that power of the load."""
    need = supplied.need
    if not power or power[0] == need.load_power.value:
        return row.continuous_nm
    k, _, fluxed = supplied.settle(np.array([row.point.rpm]), np.array([_scaled(need, row.point.nm, power)]))
    return float(supplied.continuous_nm(k, fluxed)[0])


def _short_nm(supplied: Laden, row: Row, share: float, power: tuple[float, ...]) -> float:
    """Torque for a short time, N·m, with so many times the breakdown torque that is taken: never beyond the amperes."""
    if share <= 1:
        short, breakdown = _there(supplied, row, power)
        return min(short, share * breakdown / supplied.breakdown_times)
    rpm = np.array([row.point.rpm])
    fluxed = supplied.settle(rpm, np.array([_scaled(supplied.need, row.point.nm, power)]))[2]
    return float(supplied.most_at(rpm, fluxed, share)[0][0])


def _short(supplied: Laden, row: Row) -> Gate:
    """A tenth more than the heaviest load, within the drive's amperes and short of breakdown."""
    need = supplied.need
    nm, rests = _asked(need, row, heavy=True)
    rests = (*rests, *need.breakdown)
    limit = row.short_nm / MARGIN

    def room(*facts: float) -> float:
        share, power = _less_broken(need, facts, rests)
        return _short_nm(supplied, row, share, power) / MARGIN - _scaled(need, nm, power)

    text = (
        f"{at_point(need, row)} the heaviest load asks {write(nm, 3)} N·m, with a tenth to spare; "
        f"{write(max(row.short_nm, 0.0), 3)} N·m are there for a short time."
    )
    return at_most(
        "drive.torque", "Torque at every operating point", nm, limit, sentence=text, source=_SOURCE, unit="N·m",
        remedy="A drive of more amperes, a larger motor, or a gear.", rests=rests, room=room,
    )  # fmt: skip


def _breakdown(supplied: Laden, row: Row) -> Gate:
    need = supplied.need
    nm, rests = _asked(need, row, heavy=True)
    rests = (*rests, *need.breakdown)
    limit = row.breakdown_nm / supplied.breakdown_times

    def room(*facts: float) -> float:
        share, power = _less_broken(need, facts, rests)
        return _there(supplied, row, power)[1] / supplied.breakdown_times * share - _scaled(need, nm, power)

    text = (
        f"{at_point(need, row)} it breaks down at {write(row.breakdown_nm, 3)} N·m; "
        f"{supplied.breakdown_times:g} times the "
        f"{write(nm, 3)} N·m asked are kept."
    )
    return at_most(
        "drive.breakdown", "Kept from breakdown", nm, limit, sentence=text, source=need.rules.drives.breakdown_source,
        unit="N·m", remedy="More volts or a higher corner, a larger motor, less speed.", rests=rests, room=room,
    )  # fmt: skip


def _for_ever(supplied: Laden, row: Row) -> Gate:
    """By the cooling below rated speed, by power at and above it."""
    need, cooling = supplied.need, supplied.cooling
    nm, rests = _asked(need, row, heavy=False)
    slow = row.point.rpm < _NEAR_RATED * need.rated_rpm
    share = _doubt(supplied, row, slow=slow)
    key, name = (
        ("drive.heat_slow", "Cool enough at low speed") if slow else ("drive.power", "Strong enough at the fast end")
    )
    text = (
        f"{at_point(need, row)} it is asked {write(nm, 3)} N·m for ever and bears {write(row.continuous_nm, 3)} N·m"
        f"{', by the model of its cooling' if slow and cooling.band else ''}."
    )

    def room(*facts: float) -> float:
        bears = _steady_nm(supplied, row, facts[:-1])
        return min(bears * facts[-1], max(need.rated_nm, bears)) - _scaled(need, nm, facts[:-1])

    gate = at_most(
        key,
        name,
        nm,
        row.continuous_nm,
        sentence=text,
        unit="N·m",
        rests=(*rests, *more(share)),
        room=room,
        source="IEC TS 60034-25; NEMA MG 1 30.2.2.2" if slow else "rated torque to the corner, rated power above it",
        remedy=either(cooling.blower if slow else "", "a larger motor", "less at that speed" if slow else "less speed"),
    )
    if gate.verdict is Verdict.FAILS and slow and cooling.assumed:
        return _otherwise_cooled(need, gate, nm)
    if (
        gate.verdict is Verdict.CHECK
        and share.wide
        and nm <= min(need.rated_nm, row.continuous_nm / cooling.derate if not slow else math.inf)
    ):
        return _settled(row, gate, slow=slow and cooling.band > 0)
    return gate


def _otherwise_cooled(need: Need, gate: Gate, nm: float) -> Gate:
    """Of a motor of which nobody said how it is cooled: a blower of its own bears it for ever, short of all it has."""
    if nm > need.rated_nm:
        return gate
    there = resting(gate, "how it is cooled, which is not said")
    if nm > _BLOWN * need.rated_nm:
        return there
    return settled_by(there, Turns(path="drive.cooling", label="its cooling", passes="a blower of its own",
                                   passes_as="IC416"))  # fmt: skip


_BLOWN: Final = 0.9  # of rated torque, borne at any speed behind the usual derating for harmonics


def _doubt(supplied: Laden, row: Row, *, slow: bool) -> Taken:
    """How far the torque borne for ever may lie from what is worked: the cooling, the harmonics' heat, the bus."""
    cooling, law = supplied.cooling, supplied.law
    speed = supplied.speed_of(np.array([row.hz / supplied.need.base_hz]))
    pu = float(cooling.current_pu(speed)[0])
    low, high, labels = 1.0, 1.0, []
    if bool(cooling.full_at(np.array(row.hz))):
        return Taken(value=1.0, low=1.0, high=1.0)
    if slow and cooling.band:
        low, high = (max(1 - cooling.band / pu, 0.1), 1 + cooling.band / pu) if pu > 0 else (0.0, 1.0)
        labels.append("cooling at low speed")
    if cooling.derate < 1:
        least, most = band_of("drive_harmonic_derate")
        low, high = low * least / cooling.derate, high * most / cooling.derate
        labels.append("the harmonics' heat")
    if row.volts > 0.99 * law.most_v:
        high *= supplied.highest_v / law.most_v
    return Taken(label=" and ".join(labels), value=1.0, low=low, high=high, how="estimated" if high > low else "")


def _settled(row: Row, gate: Gate, *, slow: bool) -> Gate:
    """What the maker says of full torque settles the model's tolerance; another fact that decides keeps its place."""
    if gate.turns is not None and gate.turns.path:
        return gate
    if not slow:
        turns = Turns(path="drive.winding", label="what its winding is made for", passes="MG 1 part 31 or IVIC C",
                      passes_as="mg1-31")  # fmt: skip
        return settled_by(gate, turns)
    hertz = math.floor(10 * row.hz) / 10
    turns = Turns(
        path="drive.full_torque",
        label="the least frequency at full torque, by its plate,",
        passes=f"{write(hertz, 3)} Hz or less",
        passes_as=f"{hertz:g} Hz",
    )
    return settled_by(gate, turns)


def _mechanical(need: Need, row: Row) -> Gate | None:
    """Above the plate's speed only by the word of plate or maker; a table settles nothing by itself."""
    key, name, remedy = "drive.speed_mech", "Safe at its greatest speed", "Less speed, or a motor made for it."
    rpm, limit = row.point.rpm, need.facts.mechanical_rpm
    above = rpm > need.synchronous_rpm * 1.001
    if limit is not None and (above or rpm > limit):
        text = f"It turns {write(rpm)} {need.unit}; {write(limit)} is its greatest, by plate or maker."
        return at_most(key, name, rpm, limit, sentence=text, source="plate or maker", unit=need.unit, remedy=remedy)
    if not above:
        return None
    most = _tabled(need)
    table = load(need.rules.drives.safe_speed)
    if most is None:
        return unknown(key, name, ("greatest safe speed by plate or maker",))
    if rpm > most:
        text = f"It turns {write(rpm)} {need.unit}, above the {write(most)} of standard motors of its size."
        return rule(key, name, False, text, table.cite, remedy=remedy)
    text = f"It turns {write(rpm)} {need.unit}, above its plate; standard motors of its size bear {write(most)}."
    turns = Turns(
        path="drive.mechanical",
        label="greatest safe speed by plate or maker",
        passes=f"{write(rpm)} or more",
        passes_as=f"{math.ceil(rpm)} rpm",
    )
    return check(key, name, turns, text, table.cite, remedy=remedy)


def _tabled(need: Need) -> float | None:
    """The table's greatest speed for the motor's size and poles; None where it does not go."""
    if need.poles not in (2, 4, 6):
        return None
    size = need.rules.drives.size_of(need.circuit.plate)
    table = load(need.rules.drives.safe_speed)
    return table.step(table.columns[0], str(need.poles), size) if size is not None else None
