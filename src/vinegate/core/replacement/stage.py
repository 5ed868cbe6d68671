"""Will the new motor do the old one's job: plate against plate, row by row; the worst wins."""

from __future__ import annotations

from typing import Final

from vinegate.core.machine.stage import MACHINE
from vinegate.core.paper import PaperTable
from vinegate.core.protection.capacitor import idles
from vinegate.core.records import dataclass
from vinegate.core.replacement.armature import armature_rows
from vinegate.core.replacement.besides import beside_rows
from vinegate.core.replacement.body import body_rows
from vinegate.core.replacement.design import design_row
from vinegate.core.replacement.electric import electric_rows
from vinegate.core.replacement.facts import NewMachine, NewPlate, Replacement
from vinegate.core.replacement.fits import Fits, Row, worst_of
from vinegate.core.replacement.frames import Frame, frame_of
from vinegate.core.replacement.install import steps_of
from vinegate.core.replacement.listed import listing_row
from vinegate.core.replacement.own_plate import own_row
from vinegate.core.replacement.pair import pair_of
from vinegate.core.replacement.rerated import as_typed
from vinegate.core.replacement.single import single_rows
from vinegate.core.replacement.speed import Turns, both_speeds, speed_row, turns_of
from vinegate.core.replacement.taps import taps_row
from vinegate.core.replacement.there import circuit_row, there
from vinegate.core.replacement.torque import torque_row
from vinegate.core.work import Specification, Work

KEY: Final = "replacement"


@dataclass(frozen=True, slots=True, kw_only=True)
class Compared:
    """The rows in the plate's order, where both settle with the load, both frames."""

    rows: tuple[Row, ...]
    turns: Turns | None
    frames: tuple[Frame | None, Frame | None]
    steps: tuple[str, ...] = ()
    """What is done beside the machine, in order."""
    used: tuple[tuple[str, str], ...] = ()
    """Of a plate of another frequency: its fields and their texts as it is used here."""

    @property
    def fits(self) -> Fits:
        return worst_of(self.rows)

    def those(self, fits: Fits) -> tuple[Row, ...]:
        return tuple(row for row in self.rows if row.fits is fits)


def _plan(work: Work) -> Compared | None:
    new = work.circuit.of("new_plate", NewPlate)
    if all(getattr(new, name) is None for name in NewPlate.model_fields):
        return None
    sheet, pair = work.sheet(KEY), pair_of(work)
    turns = turns_of(sheet, pair)
    electric = electric_rows(pair)
    ahead = next(place for place, row in enumerate(electric) if row.key == "power")
    found = there(work, pair.new.used)
    torque = torque_row(pair, work.found(MACHINE).machine, found.machine)
    curves = tuple(row for row in (design_row(pair, torque), torque, taps_row(pair)) if row is not None)
    own, circuit, speeds = own_row(pair), circuit_row(work, pair, found), both_speeds(pair)
    listed = listing_row(pair, found.gates)
    rows = (
        *((own,) if own is not None else ()),
        *electric[:ahead],
        speed_row(pair, turns),
        *((speeds,) if speeds is not None else ()),
        *electric[ahead:],
        *curves,
        *single_rows(pair),
        *armature_rows(pair),
        *body_rows(pair),
        *((listed,) if listed is not None else ()),
        *beside_rows(pair, idles(found.machine, work.circuit.of("new_machine", NewMachine).no_load_current_a)),
        *((circuit,) if circuit is not None else ()),
    )
    for row in rows:
        sheet.gates += row.gates
    sheet.notes.append(
        "The circuit's own verdict stays the old motor's until the new plate is taken over. Maker's data and a "
        "competent person decide; work dead, locked out and proved."
    )
    frames = (frame_of(work.circuit.plate.frame), frame_of(new.frame))
    used = as_typed(pair.new.plate, pair.new.used)
    return Compared(rows=rows, turns=turns, frames=frames, steps=steps_of(pair, rows), used=used)


_SHORT: Final = {Fits.SAME: "fits", Fits.WITH: "changes", Fits.UNKNOWN: "not known", Fits.NOT: "no"}


def _station(found: Compared | None) -> tuple[str, str] | None:
    if found is None:
        return None
    return f"{len(found.rows)} respects compared", _SHORT[found.fits]


def _paper(found: Compared | None) -> tuple[PaperTable, ...]:
    if found is None:
        return ()
    rows = tuple((row.name, row.old or "–", row.new or "–", row.fits.value, row.why, row.task)
                 for row in found.rows)  # fmt: skip
    return (
        PaperTable(stage=KEY, title="Replacement: plate against plate", rows=rows, blank="Done",
                   head=("Respect", "Old", "New", "Fits", "Why", "To do")),
        PaperTable(stage=KEY, title="Replacement: beside the machine", blank="Done", head=("", "Step"),
                   rows=tuple((str(number), step) for number, step in enumerate(found.steps, start=1))),
    )  # fmt: skip


REPLACEMENT = Specification(
    key=KEY,
    plan=_plan,
    sheets={KEY: "Replacement"},
    facts={"new_plate": NewPlate, "new_machine": NewMachine, KEY: Replacement},
    station=_station,
    stands="plate",
    paper=_paper,
    informs=True,
)
