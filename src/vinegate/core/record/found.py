"""What a form's readings are judged against: the plan's own findings, gathered once."""

from __future__ import annotations

from dataclasses import fields
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.drive.count import motors_on
from vinegate.core.facts import Circuit, Job
from vinegate.core.fed import fed, volts_of
from vinegate.core.load.stage import LOAD, Asked
from vinegate.core.located import located
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.locked_rotor import LockedRotor
from vinegate.core.plate.rated import Rated
from vinegate.core.protection.connected import connected
from vinegate.core.protection.overload import Overload
from vinegate.core.protection.stage import PROTECTION, Protected, as_given
from vinegate.core.record.facts import (
    FORMS,
    VOLTS,
    AsSet,
    Before,
    Condition,
    Installed,
    Insulation,
    Rotation,
    Running,
    Starting,
    Taken,
    three,
)
from vinegate.core.record.rerun import (
    Again,
    Settled,
    Turn,
    Volts,
    again,
    by_frequency,
    held,
    held_by,
    running_at,
    turns_for,
)
from vinegate.core.records import dataclass, replace
from vinegate.core.rules import RuleSet
from vinegate.core.start.compare import Comparison, MethodRow
from vinegate.core.start.connection import FULL
from vinegate.core.start.held_back import HeldBack
from vinegate.core.start.plant import Plant
from vinegate.core.start.stage import START
from vinegate.core.start.ways import way_of
from vinegate.core.work import Kept, Work

_TWO_CONNECTIONS: Final = 2
_WYE: Final = 2.5
"""Times its own ohms: more than any other first connection shows the line, less than wye's three."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Forms:
    """The forms as they are filled in; empty ones too."""

    install: Installed
    before: Before
    insulation: Insulation
    rotation: Rotation
    set_: AsSet
    start: Starting
    running: Running
    condition: Condition


@dataclass(frozen=True, slots=True, kw_only=True)
class Planned:
    """The start as it is planned, to be run again on other volts."""

    comparison: Comparison | None
    row: MethodRow | None
    plant: Plant | None
    turns: tuple[Turn, ...] | None
    held_back: HeldBack | None
    """How electronics hold the volts back while it starts."""
    board_at: int
    """Place of the circuit's board among those of the strip."""
    limit_pct: float | None
    """Of the dip at the board, as the job asks."""

    def own_v(self) -> Array:
        """Line volts at the starter that were planned, at the strip's moments."""
        assert self.comparison is not None
        assert self.comparison.detail is not None
        assert self.plant is not None
        return np.array(self.comparison.detail.boards_pct[self.board_at]) / 100 * self.plant.board_v

    @property
    def begins_in_wye(self) -> bool:
        """Whether it changes over from wye, whose line sees three times the ohms."""
        changes = self.row is not None and self.row.changes_at_s is not None
        return changes and self.turns is not None and self.turns[0].connection.scale > _WYE

    @property
    def converted(self) -> bool:
        """Whether a converter feeds it, of alternating or of direct current."""
        return self.row is not None and way_of(self.row.method).converts

    @property
    def before_v(self) -> float | None:
        """Line volts at its board before it starts."""
        if self.comparison is None or self.comparison.detail is None or self.plant is None:
            return None
        return self.comparison.detail.before_pct[self.board_at] / 100 * self.plant.board_v

    def again(self, volts: Volts, change_s: float | None = None) -> Again | None:
        """The planned start on other volts, its change-over at another moment; None where it cannot be run on them."""
        if self.plant is None or self.comparison is None or self.comparison.detail is None:
            return None
        if self.row is not None and self.row.held_by_ramp:
            return by_frequency(self.comparison.detail, self.own_v(), volts, self.row.time_s)
        if self.held_back is not None:
            return again(self.plant, (Turn(connection=FULL),), volts, self.held_back)
        turns = self.turns
        if turns is None:
            return None
        if change_s is not None and len(turns) == _TWO_CONNECTIONS:
            turns = (replace(turns[0], until_s=change_s), *turns[1:])
        return again(self.plant, turns, volts)


@dataclass(frozen=True, slots=True, kw_only=True)
class Against(Planned):
    """The plan's side of a captured start."""

    rules: RuleSet
    rated: Rated
    locked: LockedRotor | None
    load: Asked | None
    volts_v: float | None


class Side:
    """The plan's side of the forms. A part is asked of the plan as it is read: a form rests on what it read alone."""

    __slots__ = ("_work",)

    def __init__(self, work: Work) -> None:
        self._work = work

    @property
    def rules(self) -> RuleSet:
        return self._work.rules

    @property
    def plate(self) -> Plate:
        return self._work.circuit.plate

    @property
    def rated(self) -> Rated:
        return connected(self._work).rated

    @property
    def locked(self) -> LockedRotor | None:
        return self._work.found(START).locked_rotor

    @property
    def load(self) -> Asked | None:
        return self._work.found(LOAD).asked

    @property
    def protected(self) -> Protected:
        return self._work.found(PROTECTION)

    @property
    def overload(self) -> Overload:
        return self.protected.overload

    @property
    def as_set(self) -> Protected | None:
        """The same devices were they as they stand; None where no size or setting was read."""
        return self._work.step("record: as set", lambda: _as_set(self._work))

    @property
    def magnetic(self) -> bool:
        """Whether its short-circuit device is known by its instantaneous trip."""
        return _magnetic(self._work)

    @property
    def start(self) -> Planned:
        """The start as it is planned."""
        return self._work.step("record: its start", lambda: _planned(self._work))

    @property
    def started(self) -> Again | None:
        """That start on the least volts that were read, with the change-over as it was; None where none were."""
        return self._work.step("record: the start again", lambda: _started(self._work, self.start))

    @property
    def runs(self) -> Settled | None:
        """Where it is to run at the volts that were read, carrying all of its load. A soft starter is past its ramp.

        None where it was not at that, where these volts cannot carry it, or where a converter feeds it.
        """
        return self._work.step("record: where it is to run", lambda: _runs(self._work, self.start, self.load))

    @property
    def volts_v(self) -> float | None:
        """Rated volts in the connection used here, else the supply's."""
        volts, way = self.rated.volts, fed(self._work.job, self._work.circuit)
        if volts is not None:
            return volts.value
        return way.volts_v if way is not None else None

    @property
    def driven(self) -> bool:
        """Whether a drive stands between: what is read at the motor is then the drive's."""
        return self._work.circuit.from_drive

    @property
    def motors(self) -> int:
        """Alike on one drive, whose line is read for all of them."""
        return motors_on(self._work.circuit) if self.driven else 1

    @property
    def supply_v(self) -> float | None:
        """What the line has for it."""
        return volts_of(self._work.job, self._work.circuit)

    @property
    def line_hz(self) -> float | None:
        """The line's, as it is planned; without it the plate's."""
        return self._work.job.supply.frequency_hz or self.plate.frequency_hz

    @property
    def current_a(self) -> float | None:
        drawn = self.rated.drawn
        return drawn.value if drawn is not None else None

    @property
    def planned_a(self) -> float | None:
        """What is to flow while it starts: held by electronics, or at rest in its first connection."""
        row = self.start.row
        return row.peak_a if row is not None else None


def forms_of(work: Work) -> Forms:
    """The circuit's forms."""
    return Forms(
        install=work.circuit.of("record_install", Installed),
        before=work.circuit.of("record_before", Before),
        insulation=work.circuit.of("record_insulation", Insulation),
        rotation=work.circuit.of("record_rotation", Rotation),
        set_=work.circuit.of("record_set", AsSet),
        start=work.circuit.of("record_start", Starting),
        running=work.circuit.of("record_running", Running),
        condition=work.circuit.of("record_condition", Condition),
    )


def filled(work: Work) -> tuple[str, ...]:
    """Keys of the forms in which anything stands."""
    return tuple(key for key, kind in FORMS.items() if any_given(work.circuit.of(key, kind), kind))


def any_given(form: Taken, kind: type[Taken]) -> bool:
    """Whether anything was entered."""
    return any(getattr(form, name) is not None for name in kind.model_fields)


def _planned(work: Work) -> Planned:
    study, start = work.found(START), work.circuit.start
    row = study.comparison.row(study.chosen) if study.comparison is not None else None
    plant, way = study.plant, way_of(study.chosen)
    return Planned(
        comparison=study.comparison,
        row=row,
        plant=plant,
        turns=turns_for(way, row, start, plant) if row and plant else None,
        held_back=held_by(way, row, start, plant) if row and plant else None,
        board_at=plant.at if plant is not None else 0,
        limit_pct=study.dip_limit.value if study.dip_limit is not None else None,
    )


def _started(work: Work, start: Planned) -> Again | None:
    form = work.circuit.of("record_start", Starting)
    return start.again(held(form.least_v), form.changeover_s) if form.least_v else None


def _runs(work: Work, start: Planned, load: Asked | None) -> Settled | None:
    form = work.circuit.of("record_running", Running)
    found = three(form, VOLTS)
    if found is None or start.plant is None or load is None or form.at_load not in (None, "full"):
        return None
    if start.turns is None and start.held_back is None:
        return None
    runs = running_at(start.plant, load, sum(found) / 3)
    return runs if runs.rpm > 0 else None


def _magnetic(work: Work) -> bool:
    return work.rules.practice.by_trip_current and work.circuit.protection.device_nec == "instantaneous"


def _as_set(work: Work) -> Protected | None:
    """The devices planned again with what was read on them."""
    form = work.circuit.of("record_set", AsSet)
    read = {
        "overload_a": form.overload_a,
        "trip_class": form.trip_class,
        "rating_a": form.instantaneous_a if _magnetic(work) else form.device_a,
    }
    there = {name: value for name, value in read.items() if value is not None}
    if not there:
        return None
    planned = work.found(PROTECTION)
    if there.items() <= _as_planned(planned).items():
        return planned
    if form.overload_a is not None and work.circuit.protection.overload_habit is None:
        there["overload_habit"] = "dial"  # it is a dial that is read
    return work.supposing(as_given, protection=there)


def _as_planned(planned: Protected) -> dict[str, float | str | None]:
    """What would be read on the devices if they stood as planned."""
    over, band = planned.overload, planned.band
    return {"overload_a": over.dial_a, "trip_class": over.trip, "rating_a": band.rating_a if band else None}


def plan_side(job: Job, circuit: Circuit, rules: RuleSet, kept: Kept | None = None) -> Against:
    """The plan's side of a captured start, of a kept plan where nothing has changed."""
    side = Side(Work(job, located(job, circuit), rules, kept))
    own = {field.name: getattr(side.start, field.name) for field in fields(Planned)}
    return Against(rules=side.rules, rated=side.rated, locked=side.locked, load=side.load, volts_v=side.volts_v, **own)
