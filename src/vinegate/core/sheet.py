"""The calculation sheet of one stage: its working, its gates, and what is missing."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import field
from typing import Final

from vinegate.core.grade import Gate, Kind, Verdict, worst
from vinegate.core.records import dataclass, replace
from vinegate.core.wording import inside
from vinegate.core.working import AS_ASSUMED, Figure, Provenance, given, work

AS_TYPED: Final = ", as it is typed"
"""Behind the label of a fact that cannot be read, in the name of its gate."""
_ENTERED: Final = (Provenance.STATED, Provenance.STAMPED)


@dataclass(frozen=True, slots=True, kw_only=True)
class Missing:
    """A fact that is not there: where it belongs, its label, what it would give."""

    path: str
    label: str
    gives: str


@dataclass(slots=True)
class Sheet:
    """Collects a stage's lines while it computes. Lives only inside one call of `plan_circuit`."""

    key: str
    title: str
    figures: list[Figure] = field(default_factory=list)
    gates: list[Gate] = field(default_factory=list)
    missing: list[Missing] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    refers: list[str] = field(default_factory=list)
    sources: Mapping[str, Provenance] = field(default_factory=dict, compare=False, repr=False)
    """Where facts came from, by their paths, while the sheet is being written."""

    def refer(self, figure: Figure) -> None:
        """Use a figure of another sheet: it stands there, and is shown here too."""
        if figure.key not in self.refers:
            self.refers.append(figure.key)

    def given(
        self,
        key: str,
        name: str,
        symbol: str,
        value: float,
        unit: str,
        *,
        provenance: Provenance = Provenance.STATED,
        source: str = "entered",
        note: str = "",
        fact: str = "",
    ) -> Figure:
        """Put a fact on the sheet. `fact` is its path where that is not the figure's key: what was entered comes from
        where its writer says.
        """
        if provenance in _ENTERED:
            provenance = self.sources.get(fact or f"{self.key}.{key}", provenance)
            if provenance is Provenance.ASSUMED:
                source = AS_ASSUMED
        figure = given(f"{self.key}.{key}", name, symbol, value, unit, provenance=provenance, source=source, note=note)
        self.figures.append(figure)
        return figure

    def work(
        self,
        key: str,
        name: str,
        symbol: str,
        value: float,
        unit: str,
        *,
        formula: str,
        inputs: Iterable[Figure],
        source: str,
        provenance: Provenance | None = None,
        note: str = "",
    ) -> Figure:
        """Put a computed line on the sheet."""
        figure = work(
            f"{self.key}.{key}",
            name,
            symbol,
            value,
            unit,
            formula=formula,
            inputs=inputs,
            source=source,
            provenance=provenance,
            note=note,
        )
        self.figures.append(figure)
        return figure

    def percent(self, key: str, name: str, symbol: str, share: Figure, current: Figure) -> Figure:
        """A share in percent of a current, A, worked."""
        return self.work(
            key,
            name,
            symbol,
            share.value / 100 * current.value,
            "A",
            formula=f"{share.symbol}/100·{current.symbol}",
            inputs=(share, current),
            source=share.source,
        )

    def needs(self, missing: Iterable[tuple[str, str]], gives: str) -> tuple[str, ...]:
        """Name facts (path, label) that are missing for `gives`. Returns their labels."""
        labels = []
        for path, label in missing:
            if not any(known.path == path for known in self.missing):
                self.missing.append(Missing(path=path, label=label, gives=gives))
            labels.append(label)
        return tuple(labels)

    def close(self) -> Stage:
        """The stage. What came out beyond all bounds is no figure: it is left out, and said to be."""
        beyond = [inside(figure.name) for figure in self.figures if not math.isfinite(figure.value)]
        if beyond:
            self.notes.append(f"Beyond what can be computed from these facts: {', '.join(beyond)}.")
        return Stage(
            key=self.key,
            title=self.title,
            figures=tuple(figure for figure in self.figures if math.isfinite(figure.value)),
            gates=tuple(self.gates),
            missing=tuple(self.missing),
            notes=tuple(self.notes),
            refers=tuple(self.refers),
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Stage:
    """A closed sheet: one part of the plan. `refers` are keys of other sheets' figures that are used here."""

    key: str
    title: str
    figures: tuple[Figure, ...]
    gates: tuple[Gate, ...]
    missing: tuple[Missing, ...]
    notes: tuple[str, ...]
    refers: tuple[str, ...] = ()

    @property
    def verdict(self) -> Verdict:
        return worst(self.gates)

    @property
    def unread(self) -> tuple[Gate, ...]:
        """Of what was typed here and cannot be read, as it weighs on a sheet that judges by itself."""
        mark = f"{self.key}.unread."
        return tuple(replace(gate, kind=Kind.ENGINEERING) for gate in self.gates if gate.key.startswith(mark))
