"""The protocol every rule set meets."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple, Protocol

from vinegate.core.records import dataclass
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure, Provenance

if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence

    from vinegate.core.drive.facts import Drive as DriveFacts
    from vinegate.core.drive.line_side import LineSide
    from vinegate.core.facts import Job
    from vinegate.core.grade import Answer, Gate
    from vinegate.core.plate.facts import Plate
    from vinegate.core.protection.bands import Band
    from vinegate.core.protection.feeder_parts import FeederParts, Laid
    from vinegate.core.protection.lines import Seen, Spread
    from vinegate.core.protection.need import Device, Need
    from vinegate.core.supply.facts import Board


@dataclass(frozen=True, slots=True, kw_only=True)
class Words:
    """The trade's dialect, and the paper it prints on."""

    dialect: str
    locked_rotor: str
    full_load_current: str
    locked_rotor_symbol: str
    full_load_symbol: str
    wye: str
    across_the_line: str
    speed_unit: str
    paper: str


@dataclass(frozen=True, slots=True)
class RunImpedance:
    """Series impedance of the run to the motor, per phase, ohms."""

    r: Figure
    x: Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class OnceSaid:
    """A fact that is not said: its path and label, the text from which on more is allowed, and how many amperes."""

    path: str
    label: str
    text: str
    most_a: float


@dataclass(frozen=True, slots=True)
class OverloadRange:
    """Relay current: what is normal, and the most the rule set allows (None: it has no such step).

    `if_said` is what is normal once a fact of the plate is said that is not.
    """

    normal: Figure
    ceiling: Figure | None
    if_said: OnceSaid | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class RunFacts:
    """One run of conductors: the path of its facts, what tells its lines apart on a sheet, and the facts."""

    path: str
    mark: str
    size: str | None
    metal: str | None
    raceway: str | None
    length_m: float | None
    sets: int | None
    temperature_c: float | None = None

    def key(self, name: str) -> str:
        """A line's key, told apart from those of other runs on the sheet."""
        return f"feeder_{self.mark}_{name}" if self.mark else name

    def symbol(self, name: str) -> str:
        return f"{name}{self.mark}"


def run_length(sheet: Sheet, run: RunFacts, length: float, unit: str) -> Figure:
    """The run's length, in a table's unit."""
    return sheet.given(run.key("length"), "Length", run.symbol("l"), length, unit, fact=f"{run.path}.length")


def run_hertz(sheet: Sheet, run: RunFacts, hertz: float) -> Figure:
    return sheet.given(run.key("frequency"), "Frequency", run.symbol("f"), hertz, "Hz", fact="supply.frequency")


def run_warmth(sheet: Sheet, run: RunFacts, degrees_c: float) -> Figure:
    name = "Conductor temperature"
    return sheet.given(run.key("temperature"), name, "θ", degrees_c, "°C", fact=f"{run.path}.temperature")


def sets_in_parallel(sheet: Sheet, run: RunFacts) -> Figure:
    """Conductors per phase; one where nothing is said."""
    key, symbol = run.key("sets"), run.symbol("m")
    if run.sets is None:
        source = "one conductor per phase, as a blank says"
        return sheet.given(key, "Sets", symbol, 1.0, "", source=source)
    return sheet.given(key, "Sets", symbol, float(run.sets), "", fact=f"{run.path}.sets")


@dataclass(frozen=True, slots=True, kw_only=True)
class Papers:
    """Who says so, by subject. `own` are the prefixes by which the set's own papers are known among others."""

    own: tuple[str, ...]
    duty: str
    overload: str
    reset: str
    stop: str
    emergency: str
    classification: str
    groups: str
    gas: str
    heater: str
    ambient: str
    drive_duty: str
    overspeed: str
    aluminium: str
    hoist: str = ""
    """A paper on hoists beside what every machine is asked; empty where there is none."""
    of_hoist: str = ""
    """What that asks to be seen to."""
    wet_run: str = ""
    """A paper on runs where it is wet; empty where there is none."""
    of_wet_run: str = ""
    """What that asks of them."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Practice:
    """What is done otherwise from set to set, each said once.

    `us_units`: a bare number is in hp, feet, lb·ft². `nema_leads`: leads are numbered T1 to T12. `service_factor`:
    a load within it is to check, not too much. `by_trip_current`: an overload is judged by what it trips at, not by
    its dial. `protectors`: thermal protectors may stand for it. `unbalance_by_deviation`: unequal volts by their
    largest deviation, else by negative sequence. `sizes_by_setting`: a run is sized by the overload's setting.
    `voltage_factors`: largest and least fault currents have their own (IEC 60909-0). `strong_design` is the design
    letter of much starting torque. `drop_pct` is the drop recommended while running, `drop_source` by whom;
    `drop_total_pct` with the feeders, on a public network and behind a supply of one's own, and its source.
    `insulation_field` and `adiabatic` are the field and the table's rows for the insulation of conductors.
    """

    us_units: bool
    nema_leads: bool
    service_factor: bool
    by_trip_current: bool
    protectors: bool
    unbalance_by_deviation: bool
    sizes_by_setting: bool
    voltage_factors: bool
    strong_design: str
    drop_pct: float
    drop_source: str
    drop_total_pct: tuple[float, float]
    drop_total_source: str
    insulation_field: str
    adiabatic: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Hazards:
    """What is done otherwise in hazardous areas.

    `divisions`: areas may be classified by class and division. `listing_in_zones`: equipment listed by division may
    stand in a zone. `american_marks`: AEx counts and Ex is for the authority to accept, not the other way round.
    `letter_codes`: temperature codes with letters. `types`: enclosures are asked by type. `reaches`: a surface may
    reach a gas's ignition. `own_dust`: dusts by the set's own figures. `unmarked_cool`: small devices without a code
    stay below 100 °C. `zone_2_motors`: a motor without marking may stand in zone 2.
    """

    divisions: bool
    listing_in_zones: bool
    american_marks: bool
    letter_codes: bool
    types: bool
    reaches: bool
    own_dust: bool
    unmarked_cool: bool
    zone_2_motors: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Drives:
    """What is done otherwise of motors on drives.

    `breakdown_times`: breakdown torque over that asked, by `breakdown_source`. `safe_speed`: the table of greatest
    speeds, its first column the size that `size_of` reads from a plate.
    """

    breakdown_times: float
    breakdown_source: str
    safe_speed: str
    size_of: Callable[[Plate], float | None]


class Allowed(NamedTuple):
    """The most a device may be rated, A, and by what; None where its maker says."""

    amps: float | None
    cite: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ControlRules:
    """What is done otherwise in control circuits.

    `series` are the rows of the tables of transformers, fuses and wires; `wire` the usual size. `primary` takes rated
    volt-amperes, primary amperes and whether the secondary has a device; `secondary` its amperes. `direct_most_w` is
    the largest motor whose control may do without a transformer, None where no rule bounds it. `tags` is the habit of
    letters on drawings, `colors` what each wire is.
    """

    series: str
    wire: str
    wire_source: str
    primary: Callable[[float, float, bool], Allowed]
    secondary: Callable[[float], Allowed]
    direct_most_w: float | None
    direct_source: str
    grounding: str
    tags: str
    colors: tuple[tuple[str, str], ...]
    colors_source: str


class RuleSet(Protocol):
    """Everything that differs between rule sets."""

    name: str
    title: str
    words: Words
    papers: Papers
    practice: Practice
    hazards: Hazards
    drives: Drives
    control: ControlRules
    zone_pu: tuple[float, float]
    """Share of rated volts within which the machine works as rated, and within which it works at all."""
    zone_source: str
    frequency_zone_pu: tuple[float, float]
    """Share of rated frequency, below and above, within which the machine works at all."""
    frequency_inner_pu: float | None
    """Share either way up to which it works as rated, where the rule set has such a zone."""
    deviations_together_pu: float | None
    """Most that the deviations of volts and frequency may add up to."""
    conductors: str
    """The table of conductor sizes."""
    torque_tolerance: tuple[float, float]
    """What a stated starting torque may turn out at, as multiples of it."""
    current_tolerance: tuple[float, float]
    """What a stated locked-rotor current may turn out at, as multiples of it."""

    def power(self, sheet: Sheet, power_w: float, provenance: Provenance) -> Figure:
        """Rated power in the dialect's unit, on the sheet."""
        ...

    def torque(self, sheet: Sheet, power: Figure, speed: Figure) -> Figure:
        """Rated torque in the dialect's unit."""
        ...

    def conductor(self, sheet: Sheet, run: RunFacts, frequency_hz: float) -> RunImpedance | None:
        """Impedance of the run; None when facts are missing (named on the sheet)."""
        ...

    def in_ground(self, method: str | None) -> bool:
        """Whether a run laid by that method lies in the ground."""
        ...

    def overload(
        self, sheet: Sheet, current: Figure, service_factor: float | None, rise_k: float | None
    ) -> OverloadRange:
        """What the overload relay in the line may be set to or trip at."""
        ...

    def load_inertia(self, power_w: float, poles: int, synchronous_rpm: float) -> tuple[float, str]:
        """The largest load inertia a machine of this kind must be able to start, kg·m², and who says so."""
        ...

    def table_current(self, sheet: Sheet, plate: Plate, rated: Figure | None, supply_v: float | None) -> Figure | None:
        """The tabulated current that sizes conductors and devices; None where the plate's does."""
        ...

    def plate_sizes(self, plate: Plate, *, two_speeds: bool) -> str:
        """Why the plate's amperes size them where they are more than the table's; empty where the table's do."""
        ...

    def short_circuit(self, sheet: Sheet, need: Need) -> tuple[Device, Band | None]:
        """The short-circuit device, and its band where one can be drawn."""
        ...

    device_fact: str
    """Path of the fact that says the kind of the short-circuit device; empty where there is none."""

    def other_kinds(self, need: Need) -> Mapping[str, Need]:
        """With each other kind of device that a rating may be of, by name: where it stands without its kind."""
        ...

    def may_be(self, size: str, need: Need) -> bool:
        """Whether this size may be run in so many sets at all."""
        ...

    def conductors_row(self, sheet: Sheet, need: Need, overload_a: Figure | None) -> Device: ...

    def grounding(self, sheet: Sheet, need: Need, band: Band | None, size: str | None) -> Device:
        """Beside phase conductors of `size`: those of the run, or the advised ones where those are not tabulated."""
        ...

    def conduit(self, sheet: Sheet, need: Need, size: str | None, ground: str) -> Device | None:
        """The conduit about phase conductors of `size` and the `ground`; None where none is sized, or none is said."""
        ...

    def disconnect(self, sheet: Sheet, need: Need, band: Band | None) -> Device:
        """The disconnect, beside the short-circuit device whose band this is."""
        ...

    def starter(self, sheet: Sheet, need: Need) -> Device: ...

    def flicker_standard(self, rated_a: float) -> str:
        """Which standard bounds flicker of a machine of this current on a public supply."""
        ...

    def large_change_s(self, rated_a: float) -> float | None:
        """How long a change above 3.3 % may last by that standard; None where it does not say."""
        ...

    def harmonic_limits(self, facts: DriveFacts, side: LineSide) -> Mapping[int, float]:
        """What each order may be, in percent of the drive's own fundamental; empty where nothing bounds it here."""
        ...

    def harmonics(self, facts: DriveFacts, side: LineSide) -> list[Gate]:
        """A drive's harmonic currents against what the supply may be asked to bear."""
        ...

    def ratings(self, kind: str) -> tuple[float, ...]:
        """The standard ratings of a short-circuit device of this kind, in amperes."""
        ...

    def feeder_laid(self, board: Board | None, need_a: float) -> Laid | None:
        """How the feeder of a board that carries so many amperes is taken to lie; None where its size is not given."""
        ...

    def feeder_ground(self, board: Board, rating_a: float | None) -> Answer | None:
        """Whether a feeder's protective conductor is enough behind its device; None where one of them is not given."""
        ...

    def feeder(
        self, sheet: Sheet, job: Job, key: str, parts: FeederParts, scaled: Sequence[Seen], spread: Spread
    ) -> tuple[Figure, Figure | None, str]:
        """What the feeder of a board with several motors carries on its fullest line, the most its device may be rated,
        and advice.
        """
        ...
