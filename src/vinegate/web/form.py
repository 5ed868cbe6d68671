"""Between a sheet's form and the draft: which fields it has, and what was changed in them."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Final

from vinegate.core.codes import Meaning, decode
from vinegate.core.drive.count import said_of_one
from vinegate.core.facts import (
    JOB_STAGES,
    LISTED,
    RuleSetName,
    circuit_parts,
    keyed,
    kind_of,
    listed_keys,
    model_of,
    number_of,
    sources_of,
)
from vinegate.core.field import Fact, FieldError, choice
from vinegate.core.plate.kind import Family, family_of, shown
from vinegate.core.record.facts import FORMS
from vinegate.core.rules.dialect import say
from vinegate.core.rules.sets import rule_set
from vinegate.core.supply.facts import METALS
from vinegate.store.drafts import Change, Conflict, Writer
from vinegate.store.jobs import Raw
from vinegate.web.whole import whole_in

METAL_FOR_PATTERNS = choice("Metal", METALS)


@dataclass(frozen=True, slots=True, kw_only=True)
class FormField:
    """One field as the page shows it."""

    path: str
    fact: Fact
    label: str
    text: str
    was: str
    error: str = ""
    conflict: Conflict | None = None
    readonly: bool = False
    echo: str = ""

    @property
    def decoded(self) -> tuple[Meaning, ...]:
        """What the code in this field says."""
        return decode(self.fact.code, self.text) if self.fact.code and self.text else ()

    @property
    def id(self) -> str:
        return self.path.replace(".", "-")


def changes_in(form: Mapping[str, str]) -> dict[str, Change]:
    """What the form changes: each `f:PATH` that differs from its `was:PATH`.

    A field whose conflict is settled says so: `settle` is `mine PATH` (write over theirs) or `theirs PATH`. An advised
    size is taken with `take`, `PATH|WAS|NOW`, whether or not its field is on the sheet.
    """
    verdict, _, settled = form.get("settle", "").partition(" ")
    found = {}
    for key, value in form.items():
        path = key.removeprefix("f:")
        if key == path or not _known(path):
            continue
        was = form.get(f"was:{path}", "")
        if path == settled:
            if verdict == "mine":
                found[path] = Change(was=_lines(form.get(f"theirs:{path}", "")), now=_typed(path, value))
            continue
        if _lines(value).strip() != _lines(was):
            found[path] = Change(was=_lines(was), now=_typed(path, value))
    path, _, rest = form.get("take", "").partition("|")
    if rest and _known(path):
        was, _, now = rest.partition("|")
        found[path] = Change(was=was, now=_typed(path, now))
    return found


def _lines(text: str) -> str:
    """Forms send line ends as carriage return and line feed."""
    return text.replace("\r\n", "\n")


def _typed(path: str, value: str) -> str:
    fact = _fact(path)
    longest = fact.longest if fact else 200
    return keyed(path, _lines(value).strip()[:longest])


def _known(path: str) -> bool:
    """A field that a sheet may write; what was measured comes by its own entries only."""
    if path.removeprefix("sources.").partition(".")[0] in FORMS:
        return False
    return _fact(path.removeprefix("sources.")) is not None


def _fact(path: str) -> Fact | None:
    """What a path's field is; None where there is no such field."""
    part, _, name = path.partition(".")
    model = model_of(part)
    return model.fields().get(name) if model else None


def _foreign(field: Fact, rules: str, family: Family) -> bool:
    return bool((field.rules and field.rules != rules) or (field.families and family not in field.families))


def form_fields(
    stages: tuple[str, ...],
    *,
    job: Raw,
    circuit: Raw,
    rules: str,
    errors: tuple[FieldError, ...],
    conflicts: tuple[Conflict, ...] = (),
    readonly: bool,
) -> dict[str, FormField]:
    """The fields of these stages, or single ones by path, in order: what is kept, what is wrong, what is contested.

    Fields of the other rule set, and of other kinds of machine, are left out while they are empty.
    """
    us = rule_set(rules).practice.us_units
    wrong = {error.path: error.message for error in errors}
    contested = {conflict.path: conflict for conflict in conflicts}
    found = {}
    for wanted in stages:
        stage, _, only = wanted.partition(".")
        model = model_of(stage)
        assert model is not None
        kept, family = ((circuit if stage in circuit_parts() else job).get(stage)) or {}, _family_at(stage, circuit)
        for name, plain in model.fields().items():
            path, text = f"{stage}.{name}", str(kept.get(name) or "")
            if (only and name != only) or (_foreign(plain, rules, family) and not text):
                continue
            fact = worded(_offering(plain, job, text, stage), rules)
            conflict = contested.get(path)
            found[path] = FormField(
                path=path,
                fact=fact, label=fact.label,
                text=conflict.mine if conflict else text,
                was=conflict.was if conflict else text,
                error=wrong.get(path, ""),
                conflict=conflict,
                readonly=readonly,
                echo="" if path in wrong else fact.echo(text, us=us),
            )  # fmt: skip
    return found


def worded(fact: Fact, rules: str) -> Fact:
    """The field in the dialect's words: its label, its help, what may be chosen."""
    return replace(
        fact,
        label=say(fact.label_for(rules), rules),
        help=say(fact.help, rules),
        choices=tuple((key, say(shown, rules)) for key, shown in fact.choices),
    )


def _offering(fact: Fact, job: Raw, text: str, stage: str) -> Fact:
    """The field with what may be chosen today: of a table, or among the job's parts."""
    if fact.offers is not None:
        fact = replace(fact, choices=fact.offered)
    if fact.listed:
        fact = replace(fact, choices=(*fact.choices, *named_parts(fact.listed, job, text, but=stage)))
    return fact


def _family_at(stage: str, circuit: Raw) -> Family:
    """Whose fields a stage shows: a drive with a single-phase input hangs on lines as a single-phase motor does."""
    return Family.SINGLE if stage == "wiring" and said_of_one(circuit) else family_of_raw(circuit)


def family_of_raw(circuit: Raw) -> Family:
    """The family a plate was said to be of; a cage machine's where that cannot be read."""
    try:
        return family_of(str((circuit.get("plate") or {}).get("kind") or "cage"))
    except KeyError:
        return Family.CAGE


def plate_title(kind: str | None, rules: str) -> str:
    """What stands at the head of the plate, in the dialect's way."""
    family = family_of(kind)
    if not rule_set(rules).practice.nema_leads:
        return {Family.CAGE: "3~ motor", Family.WOUND: "3~ slip-ring motor", Family.SINGLE: "1~ motor"}.get(
            family, "Motor, direct current"
        )
    if family is Family.CAGE:
        return "Three-phase induction motor"
    text = shown(kind)
    return f"{text[0].upper()}{text[1:]} motor"


def named_parts(kind: str, job: Raw, chosen: str, *, but: str = "") -> tuple[tuple[str, str], ...]:
    """The job's boards or areas by the names they have, and a new one, to choose from."""
    keys = [key for key in listed_keys(job, kind) if key != but]
    if kind_of(chosen) == kind and chosen not in keys:
        keys.append(chosen)
    named = [(key, str((job.get(key) or {}).get("name") or key.replace("_", " "))) for key in keys]
    new = next_key(kind, [*keys, but])
    return (*named, (new, f"{new.replace('_', ' ')}, new"))


def next_key(kind: str, keys: Iterable[str]) -> str:
    """The key of a new board or area.

    >>> next_key("board", ["board_1", "board_7", ""])
    'board_8'
    """
    return f"{kind}_{max((number_of(key) for key in keys if kind_of(key) == kind), default=0) + 1}"


_MOST_AT_ONCE: Final = 8


def shown_parts(kind: str, job: Raw, wanted: Iterable[str]) -> tuple[list[str], list[str]]:
    """Keys of the job's boards or areas that are shown with their fields, a new one last; and those shown by name.

    Up to a handful are all shown; of more only the `wanted` ones, so that two hundred can be looked over.
    """
    keys = listed_keys(job, kind)
    new = next_key(kind, keys)
    if len(keys) <= _MOST_AT_ONCE:
        return [*keys, new], []
    asked = {key for key in wanted if key in keys}
    return [*sorted(asked, key=number_of), new], [key for key in keys if key not in asked]


class Labels:
    """Field labels by path, for messages about fields that are on another sheet."""

    def __init__(self, rules: str) -> None:
        self._rules = rules

    def __getitem__(self, path: str) -> str:
        fact = _fact(path)
        return fact.label_for(self._rules) if fact else path


def _of(part: str) -> str:
    """What is said on the printed sheet of parts whose labels stand for several things."""
    if part == "main_board":
        return ", main board"
    return f", {part.replace('_', ' ')}" if kind_of(part) else ""


def entered_facts(job: Raw, circuit: Raw, rules: str) -> list[tuple[str, str, str]]:
    """Every fact that was typed: its stage, its label, its text, in the order of the sheets."""
    found = []
    parts = [*JOB_STAGES, *(key for kind in LISTED for key in listed_keys(job, kind)), *circuit_parts()]
    for part in parts:
        model, kept = model_of(part), ((circuit if part in circuit_parts() else job).get(part)) or {}
        assert model is not None
        for name, fact in model.fields().items():
            text = kept.get(name)
            if not text:
                continue
            if fact.listed and kind_of(str(text)):  # by its key
                text = (job.get(text) or {}).get("name") or text
            found.append((part, fact.label_for(rules) + _of(part), str(text)))
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Origin:
    """Where one filled field's figure came from, to be chosen."""

    path: str
    label: str
    value: str
    usual: str
    """What it is where nothing is chosen."""

    @property
    def id(self) -> str:
        return "origin-" + self.path.replace(".", "-")


def origins(fields: Mapping[str, FormField], circuit: Raw, rules: RuleSetName) -> list[Origin]:
    """The origin of each filled field; a plate's figures are stamped unless they say otherwise, what is written as only
    about so is assumed.
    """
    said, known = circuit.get("sources") or {}, sources_of(circuit, rules)

    def usual(path: str) -> str:
        if path in known and path not in said:
            return "assumed (~)"  # short: a select shows no more
        return "plate" if path.startswith("plate.") else "entered"

    return [
        Origin(path=path, label=field.label, value=str(said.get(path) or ""), usual=usual(path))
        for path, field in fields.items()
        if field.text
    ]


def writer_of(form: Mapping[str, str]) -> Writer:
    """Which page a form comes from, and what it has seen; a page without a token is one of its own."""

    def number(name: str) -> int:
        text = form.get(name, "")
        return whole_in(text) or 0

    page = form.get("page", "")[:40] or str(uuid.uuid4())
    return Writer(page=page, sequence=number("sequence"), seen_save=number("seen"))
