"""What the five devices are sized from, gathered once."""

from __future__ import annotations

from vinegate.core.drive.count import fed_by_one, motors_on
from vinegate.core.facts import Circuit, Job
from vinegate.core.fed import fed
from vinegate.core.grade import Gate
from vinegate.core.load.stage import Asked as LoadAsked
from vinegate.core.machine.promise import Promise
from vinegate.core.machine.stall import Stalls
from vinegate.core.plate.kind import Family, has_poles
from vinegate.core.plate.locked_rotor import LockedRotor
from vinegate.core.plate.rated import Rated
from vinegate.core.plate.speeds import low_current_a
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.records import dataclass, replace
from vinegate.core.rectifier import bridge_of
from vinegate.core.rules.protocol import RunImpedance
from vinegate.core.start.compare import Comparison, MethodRow
from vinegate.core.start.detail import Detail
from vinegate.core.start.eligible import said_or_usual
from vinegate.core.start.sag import Sag
from vinegate.core.start.terminals import Held
from vinegate.core.start.way import Way
from vinegate.core.start.ways import way_of
from vinegate.core.supply.faults import Faults
from vinegate.core.supply.source import Source
from vinegate.core.supply.tree import Feed
from vinegate.core.turning import Taken
from vinegate.core.working import Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class Terminals:
    """The terminals' volts of the way in use: what they are held to, and the share of locked-rotor current drawn."""

    held: Held
    share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Need:
    """Facts and findings of the earlier stages; None for what is missing.

    `plate` sizes the overload; `sizing` the other devices: the current of `table` under NEC (430.6(A)(1)), else the
    plate's, or of two speeds the larger. Where one drive feeds several motors `together`, `drawn` and `sizing` are of
    all of them, `plate`, `table` and `sizing_each` of one; else they are alike. `drawn` flows in the run: more where
    the drive takes single-phase input.
    `fault` is the largest three-phase fault at the circuit's board, `far` the least at the motor's terminals,
    `motor_fault` what the motor itself feeds into a fault, all in kA. `current` is the locked-rotor current with its
    band.
    """

    job: Job
    circuit: Circuit
    rated: Rated
    plate: Figure | None
    together: Figure | None
    drawn: Figure | None
    sizing: Figure | None
    sizing_each: Figure | None
    table: Figure | None
    locked: Figure | None
    peak: Figure | None
    source: Source | None
    run: RunImpedance | None
    supply_lacks: tuple[str, ...]
    run_lacks: tuple[str, ...]
    """What each waits for."""
    far: Figure | None
    motor_fault: Figure | None
    faults: Faults | None
    feed: Feed | None
    stalls: Stalls
    inrush: LockedRotor | None
    current: Taken | None
    sag: Sag | None
    """The first moment, by which its peak goes with the power factor at rest."""
    into_drive: Figure | None
    """Rated input of a drive ahead of the motor, where it is given: the device and the switch carry that."""
    load: LoadAsked | None
    promise: Promise | None
    comparison: Comparison | None
    start_lacks: tuple[str, ...]
    """What keeps the start from being simulated."""
    runs_in_delta: bool
    terminals: Terminals
    frequency_hz: float | None = None
    elsewhere: tuple[Need, ...] = ()
    """The same where it starts otherwise too: across the line past its drive, on the standby."""
    where: str = ""
    """Of one of those, in words."""

    @property
    def fault(self) -> Figure | None:
        """The largest at its board."""
        return self.faults.largest if self.faults else None

    @property
    def everywhere(self) -> tuple[Need, ...]:
        """This one, and all where it starts otherwise too."""
        return (self, *(one for other in self.elsewhere for one in other.everywhere))

    @property
    def there(self) -> str:
        """Where else it starts, in words; empty where it does not."""
        return " and ".join(one.where for one in self.elsewhere)

    @property
    def also(self) -> str:
        """The same behind what is asked of it here."""
        return f", and for its start {self.there}" if self.elsewhere else ""

    @property
    def neutral(self) -> bool:
        """Whether the motor stands from line to neutral."""
        way = fed(self.job, self.circuit)
        return way is not None and way.neutral

    @property
    def flows(self) -> Figure | None:
        """What flows from the line at the plate's load; of two speeds at the one that draws most."""
        return _larger(self.drawn or self.plate, self.sizing)

    @property
    def flows_each(self) -> Figure | None:
        """The same of one motor."""
        return _larger(self.plate, self.sizing_each)

    @property
    def stamped(self) -> Figure | None:
        """What all of them draw by their plates; of two speeds at the one that draws most."""
        own, low = self.drawn or self.plate, low_current_a(self.circuit)
        return self.sizing if own is not None and low is not None and low > own.value else own

    @property
    def motors(self) -> int:
        """How many it feeds: several only behind one drive that is in use."""
        return motors_on(self.circuit) if self.way.by_frequency else 1

    @property
    def fed_by_one(self) -> bool:
        """Whether it takes two lines: a drive's single-phase input, or a single-phase bridge."""
        if self.way.rectifies:
            return not bridge_of(self.job, self.circuit).three
        return self.way.by_frequency and fed_by_one(self.circuit)

    @property
    def used(self) -> MethodRow | None:
        return self.comparison.row(self.comparison.chosen) if self.comparison else None

    @property
    def impossible(self) -> bool:
        """Whether the way in use is not possible: what hangs on its course then waits behind that."""
        return self.used is not None and self.used.outcome is None

    @property
    def fails_to_start(self) -> bool:
        """Whether the way in use never brings the machine to speed: its torque gate says so."""
        return self.used is not None and self.used.outcome is not None and self.used.time_s is None

    @property
    def course_lacks(self) -> tuple[str, ...]:
        """What its course to speed waits for."""
        if self.start_lacks:
            return self.start_lacks
        return ("a way to start that reaches speed",) if self.fails_to_start else ("the start, simulated to speed",)

    @property
    def method(self) -> str:
        """The way to start that is in use."""
        if self.comparison is not None:
            return self.comparison.chosen
        return said_or_usual(self.circuit).key

    @property
    def way(self) -> Way:
        """The way to start that is in use, with its traits."""
        return way_of(self.method)

    @property
    def detail(self) -> Detail | None:
        return self.comparison.detail if self.comparison else None

    @property
    def design(self) -> str:
        """NEMA design letter, upper case; empty where none is known."""
        return (self.circuit.plate.design_letter or "").upper()

    @property
    def motor(self) -> str:
        """Row of NFPA 70's short-circuit table: by phases, rotor and design."""
        family = self.circuit.plate.family
        if family is Family.DC:
            return "dc"
        if family is Family.SINGLE:
            return "single"
        if family is Family.WOUND:
            return "wound"
        return "design_b" if self.design == "B" and has_poles(self.circuit.plate.kind) else "polyphase"

    @property
    def lacks_far(self) -> tuple[str, ...]:
        """What a fault at the motor's end cannot be worked without."""
        return (*self.supply_lacks, *self.run_lacks)

    @property
    def horsepower(self) -> float | None:
        power = self.rated.power_w
        return None if power is None else power / WATT_PER_HP


def with_protection(need: Need, **said: str) -> Need:
    """The same with these facts of its protection, wherever it starts."""
    facts = need.circuit.protection.model_copy(update=said)
    elsewhere = tuple(with_protection(one, **said) for one in need.elsewhere)
    return replace(need, circuit=need.circuit.with_parts(protection=facts), elsewhere=elsewhere)


def _larger(one: Figure | None, other: Figure | None) -> Figure | None:
    return other if one is not None and other is not None and other.value > one.value else one


@dataclass(frozen=True, slots=True, kw_only=True)
class Device:
    """One of the five, the grounding conductor or the conduit, as a row: its current, its rule, asked, there.

    `path` is the field that holds its size, `take` what a click writes there.
    """

    key: str
    name: str
    current: Figure | None
    rule: str
    asked: str
    advised: str
    chosen: str
    gates: tuple[Gate, ...]
    path: str = ""
    take: str = ""
    kind: str = ""
    """Of a short-circuit device, what it is called."""
