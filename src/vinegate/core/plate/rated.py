"""From the plate to the rated point: the connection in use, poles, slip, torque."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.facts import Circuit, Job
from vinegate.core.fed import volts_of
from vinegate.core.plate.kind import has_poles
from vinegate.core.plate.per_connection import FOR_EACH, as_connected, too_many
from vinegate.core.plate.volts import AmpsDesignation, Connection
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure, Provenance

_SYSTEM: Final = ("supply.volts", "system volts")
HERTZ: Final = ("plate.frequency", "plate frequency")
USUAL_POWER_FACTOR: Final = 0.85
"""Of a machine that runs loaded, where its plate does not say; usual, assumed."""
USUAL_RUNNING: Final = complex(USUAL_POWER_FACTOR, -math.sqrt(1 - USUAL_POWER_FACTOR**2))
"""Its amperes over their size, by the volts."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Rated:
    """The rated point as later stages use it; None for what the plate does not give."""

    power: Figure | None
    speed: Figure | None
    frequency: Figure | None
    connection: Connection | None
    volts: Figure | None
    current: Figure | None
    slip: Figure | None = None
    synchronous: Figure | None = None
    usable: Figure | None = None
    """Amperes on volts the plate calls usable, below those its amperes are given for."""
    at_rest_a: float | None = None
    """Locked-rotor amperes as stamped for the connection in use; so are those at service factor."""
    at_factor_a: float | None = None
    waits: tuple[str, ...] = ()
    """Facts that the plate gives for several volts, of which the supply's decide."""

    def lacking(self, *wanted: tuple[str, str, object]) -> list[tuple[str, str]]:
        """Of facts by path, label and value those to be asked for: what is stamped and waits is asked of the supply.

        >>> Rated(power=None, speed=None, frequency=None, connection=None, volts=None, current=None,
        ...       waits=("plate.volts",)).lacking(("plate.power", "power", None), ("plate.volts", "plate volts", None))
        [('plate.power', 'power'), ('supply.volts', 'system volts')]
        """
        absent = [(path, label) for path, label, value in wanted if value is None]
        return list(dict.fromkeys(_SYSTEM if path in self.waits else (path, label) for path, label in absent))

    def turning(self, found: object) -> tuple[tuple[str, str, object], ...]:
        """What is `found` of speed and frequency needs them, as `lacking` takes it; both where they go together with
        nothing."""
        known = self.speed is not None and self.frequency is not None
        both = ("plate.speed", "speed and frequency", found if known else self)
        return ("plate.speed", "speed", self.speed), (*HERTZ, self.frequency), both

    def at_rest(self, words: str, current: object) -> tuple[str, str, object]:
        """Its amperes at rest, as `lacking` takes them: without volts and amperes nobody can say what they are."""
        known = self.volts is not None and self.current is not None
        return "plate.locked_rotor_current", f"{words} current", current if known else self

    @property
    def drawn(self) -> Figure | None:
        """Amperes at full load on this supply: what overload and conductors go by."""
        return self.usable or self.current

    @property
    def power_w(self) -> float | None:
        """Rated power in watts, whatever its unit on the sheet."""
        if self.power is None:
            return None
        return self.power.value * (WATT_PER_HP if self.power.unit == "hp" else 1000)


def rate(sheet: Sheet, circuit: Circuit, job: Job, rules: RuleSet) -> Rated:
    """Put the plate's figures on the sheet and derive poles, synchronous speed, slip and torque.

    Poles: the even number whose synchronous speed `120 f/p` lies just above the plate speed (IEEE 112, 3).
    """
    plate = circuit.plate
    power = rules.power(sheet, plate.power_w, circuit.source_of("plate.power")) if plate.power_w else None
    speed = _plate_figure(sheet, circuit, "speed", "Plate speed", "n", plate.speed_rpm, rules.words.speed_unit)
    hertz = _plate_figure(sheet, circuit, "frequency", "Plate frequency", "f", plate.frequency_hz, "Hz")
    connection, volts, current = _connection(sheet, circuit, job, rules)
    at_rest, at_factor = (_stamped(sheet, circuit, connection, volts, field) for field in FOR_EACH)
    synchronous = slip = None
    if has_poles(plate.kind):
        synchronous, slip = _speed(sheet, speed, hertz)
    if power and speed:
        rules.torque(sheet, power, speed)
    else:
        sheet.needs(_absent(("plate.power", "power", power), ("plate.speed", "speed", speed)), "rated torque")
    return Rated(
        power=power,
        speed=speed,
        frequency=hertz,
        connection=connection,
        volts=volts,
        current=current,
        slip=slip,
        synchronous=synchronous,
        usable=_at_lower_volts(sheet, circuit, volts_of(job, circuit), volts, current),
        at_rest_a=at_rest,
        at_factor_a=at_factor,
        waits=_waits(circuit, volts_of(job, circuit)),
    )


def _waits(circuit: Circuit, supply_v: float | None) -> tuple[str, ...]:
    plate = circuit.plate
    if supply_v is not None or plate.volts is None or len(plate.volts.connections) < 2:
        return ()
    several = [name for name, _, _ in FOR_EACH if isinstance(getattr(plate, f"{name}_a"), AmpsDesignation)]
    full = ["full_load_current"] if plate.full_load_current is not None else []
    return ("plate.volts", *(f"plate.{name}" for name in (*full, *several)))


def _stamped(
    sheet: Sheet, circuit: Circuit, connection: Connection | None, volts: Figure | None, field: tuple[str, str, str]
) -> float | None:  # fmt: skip
    """These amperes of the connection in use; asked for again where their number is not that of the voltages."""
    name, words, _ = field
    again = too_many(circuit.plate, name, words)
    if again:
        sheet.needs([(f"plate.{name}", again)], "what is stamped for each of the voltages")
    return as_connected(circuit.plate, name, connection, volts.value if volts else 0.0)


def _absent(*wanted: tuple[str, str, object]) -> list[tuple[str, str]]:
    return [(path, label) for path, label, value in wanted if value is None]


def _plate_figure(
    sheet: Sheet, circuit: Circuit, key: str, name: str, symbol: str, value: float | None, unit: str
) -> Figure | None:
    if value is None:
        return None
    return sheet.given(key, name, symbol, value, unit, provenance=circuit.source_of(f"plate.{key}"))


def _connection(
    sheet: Sheet, circuit: Circuit, job: Job, rules: RuleSet
) -> tuple[Connection | None, Figure | None, Figure | None]:
    """The plate's connection nearest the supply's volts, with its volts and amperes."""
    designation, amps, words = circuit.plate.volts, circuit.plate.full_load_current, rules.words
    supply_v = volts_of(job, circuit)
    if designation is None:
        sheet.needs([("plate.volts", "plate volts")], "the connection")
        return None, None, None
    if supply_v is None and len(designation.connections) > 1:
        sheet.needs([("supply.volts", "system volts")], "which connection of the plate is used")
        return None, None, None
    index, connection = designation.nearest(supply_v or designation.connections[0].high_v)
    rated_v = connection.nearest_v(supply_v or connection.high_v)
    volts = sheet.given(
        "volts", "Plate volts, as connected", "U_N", rated_v, "V", provenance=circuit.source_of("plate.volts")
    )
    if amps is None:
        sheet.needs([("plate.full_load_current", words.full_load_current)], "overload, start and wiring")
        return connection, volts, None
    count = len(designation.connections)
    value = amps.at(index, connection, rated_v, count)
    if value is None:
        label = f"{words.full_load_current}: {len(amps.per_connection_a)} values for {count} voltages"
        sheet.needs([("plate.full_load_current", label)], "overload, start and wiring")
        return connection, volts, None
    single = count > 1 and len(amps.per_connection_a) == 1
    current = sheet.given(
        "current",
        f"{words.full_load_current.capitalize()}, plate",
        words.full_load_symbol,
        value,
        "A",
        provenance=Provenance.ASSUMED if single else circuit.source_of("plate.full_load_current"),
        note=f"One value for {count} voltages: taken to be for {connection.text} V." if single else "",
    )
    return connection, volts, current


def _at_lower_volts(
    sheet: Sheet, circuit: Circuit, supply_v: float | None, volts: Figure | None, current: Figure | None
) -> Figure | None:
    """On volts that the plate calls usable, below those it gives amperes for, the current of the same output."""
    designation = circuit.plate.volts
    if designation is None or supply_v is None or volts is None or current is None:
        return None
    if supply_v >= volts.value or not designation.usable(supply_v):
        return None
    there = sheet.given("usable_volts", "Usable at", "U_s", supply_v, "V", provenance=circuit.source_of("plate.volts"))
    return sheet.work(
        "current_usable", f"{current.name} at the volts it is usable at", f"{current.symbol}_s",
        current.value * volts.value / supply_v, "A", formula=f"{current.symbol}·{volts.symbol}/U_s",
        inputs=(current, volts, there), source="the same output from lower volts; better: the amperes its plate gives",
        provenance=Provenance.ESTIMATED,
    )  # fmt: skip


def _speed(sheet: Sheet, speed: Figure | None, hertz: Figure | None) -> tuple[Figure | None, Figure | None]:
    if speed is None or hertz is None:
        sheet.needs(_absent(("plate.speed", "speed", speed), (*HERTZ, hertz)), "poles, slip and torque")
        return None, None
    pairs = math.floor(60 * hertz.value / speed.value)
    if pairs < 1:
        return None, None
    poles = sheet.work(
        "poles",
        "Poles",
        "p",
        2.0 * pairs,
        "",
        formula="2·int(60·f/n)",
        inputs=(hertz, speed),
        source="rounded down to even: the synchronous speed just above the plate's",
    )
    synchronous = sheet.work(
        "synchronous",
        "Synchronous speed",
        "n_s",
        120 * hertz.value / poles.value,
        speed.unit,
        formula="120·f/p",
        inputs=(hertz, poles),
        source="definition",
    )
    slip = sheet.work(
        "slip",
        "Rated slip",
        "s",
        100 * (synchronous.value - speed.value) / synchronous.value,
        "%",
        formula="100·(n_s − n)/n_s",
        inputs=(synchronous, speed),
        source="definition",
    )
    return synchronous, slip
