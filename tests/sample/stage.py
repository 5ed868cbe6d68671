"""An empty stage: what the core half of a stage is, at its least."""

from __future__ import annotations

from dataclasses import dataclass

from vinegate.core.facts import Circuit
from vinegate.core.field import Facts, field, words
from vinegate.core.grade import rule
from vinegate.core.plate.stage import PLATE
from vinegate.core.work import Specification, Work


class SampleFacts(Facts):
    """What is asked."""

    colour: str | None = field(words("Colour", example="grey"))


@dataclass(frozen=True, slots=True, kw_only=True)
class Sampled:
    """What later stages may use."""

    colour: str
    volts: str


def facts_of(circuit: Circuit) -> SampleFacts:
    return circuit.of("sample", SampleFacts)


def _plan(work: Work) -> Sampled:
    sheet, colour, volts = work.sheet("sample"), facts_of(work.circuit).colour, work.found(PLATE).rated.volts
    if colour is None:
        sheet.needs([("sample.colour", "the colour")], "the sample")
    sheet.gates.append(rule("sample.dark", "Not too dark", colour != "black", f"It is {colour}.", "taste"))
    return Sampled(colour=colour or "not known yet", volts=volts.shown if volts else "–")


SAMPLE = Specification(
    key="sample",
    plan=_plan,
    sheets={"sample": "Sample"},
    facts={"sample": SampleFacts},
    station=lambda found: (found.colour, found.volts),
)
