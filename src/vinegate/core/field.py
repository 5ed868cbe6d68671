"""What a fact's field is: its label, how its text is read, what it says when it cannot be."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from contextlib import suppress
from functools import cache, lru_cache
from types import MappingProxyType
from typing import Any, Final, TypeVar, cast

from pydantic import BaseModel, ConfigDict, Field, GetJsonSchemaHandler, ValidationError, ValidationInfo
from pydantic.fields import FieldInfo
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema, core_schema

from vinegate.core.measured import Quantity
from vinegate.core.numbers import QuantityError, grouped_first, write
from vinegate.core.records import dataclass
from vinegate.core.roughly import exactly, may_be_rough
from vinegate.core.typeset import typed
from vinegate.core.wording import dialects, spoken

Reader = Callable[[str], object]
_LONGEST: Final = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class Fact:
    """Metadata of one field, and its reader. Stands in a facts model by `field(...)`.

    `read` turns text into core's value or raises QuantityError with a message for the person;
    `label_iec` replaces `label` under IEC words where the trade's two dialects differ; `code` is the kind of plate
    code it holds, to be decoded beside it; `families` are the machine families on whose plates it stands (none: all);
    `longest` is how many characters it may have; `listed` the numbered parts ("board", "area") it chooses among;
    `offers` gives its choices where a list elsewhere has them; `read_us` reads it under NEC where a bare number means
    something else there, and is no quantity.
    """

    label: str
    read: Reader
    symbol: str = ""
    label_iec: str = ""
    unit: str = ""
    help: str = ""
    example: str = ""
    choices: tuple[tuple[str, str], ...] = ()
    rules: str = ""
    code: str = ""
    families: tuple[str, ...] = ()
    longest: int = _LONGEST
    listed: str = ""
    quantity: Quantity | None = None
    offers: Callable[[], tuple[tuple[str, str], ...]] | None = None
    read_us: Reader | None = None

    @property
    def offered(self) -> tuple[tuple[str, str], ...]:
        """The words it is one of, as (key, shown); empty where it is none of a few."""
        return self.offers() if self.offers is not None else self.choices

    def reader(self, *, us: bool) -> Reader:
        """How text is read: a bare number is in US units or not."""
        if us and self.quantity is not None and self.read == self.quantity.read:
            return self.quantity.in_us().read
        if us and self.read_us is None and (self.unit or self.quantity):  # a reader of its own
            return grouped_first(self.read)
        return self.read_us if us and self.read_us is not None else self.read

    def echo(self, text: str, *, us: bool) -> str:
        """What was understood, where it might be taken otherwise, or is only about so."""
        if bare := self.roughly(text, us=us):
            return f"{self.echo(bare, us=us) or f'= {bare}'}, assumed"
        if self.quantity is not None:
            return self.quantity.echo(text, us=us) or self._echo_of_own(text, us=us)
        if self.read_us is None or not re.fullmatch(r"\s*[\d.,]+\s*", text):
            return ""
        try:
            return f"= {self.reader(us=us)(text)}"
        except QuantityError:
            return ""

    def _echo_of_own(self, text: str, *, us: bool) -> str:
        """What a reader of its own took of a text that its quantity does not read: a range of ambients."""
        if self.quantity is None or self.quantity.bare != self.quantity.unit or self.read == self.quantity.read:
            return ""
        try:
            self.quantity.read(text)
        except QuantityError:
            pass
        else:
            return ""
        try:
            value = self.reader(us=us)(text)
        except QuantityError:
            return ""
        return f"= {write(value)} {self.quantity.shown}" if isinstance(value, float) else ""  # several are as written

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> CoreSchema:
        return core_schema.with_info_plain_validator_function(self._validate)

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        shape: dict[str, Any] = {"title": self.label, "type": ["string", "number", "null"], "default": None}
        if self.listed:
            shape["pattern"] = "|".join(["", *(key for key, _ in self.choices), f"{self.listed}_[1-9][0-9]{{0,2}}"])
        elif self.offered:
            shape |= {"type": ["string", "null"], "enum": [key for key, _ in self.offered] + ["", None]}
        if self.help:
            shape["description"] = self.help
        if self.example:
            shape["examples"] = [self.example]
        if self.unit:
            shape["x-unit"] = self.unit
        return shape

    def _validate(self, value: object, info: ValidationInfo) -> object:
        if value is None or (isinstance(value, str) and not value.strip()):
            return None
        if isinstance(value, bool) or not isinstance(value, str | int | float):
            raise QuantityError(f"{self.label} is text or a number, not {type(value).__name__}.")
        context = info.context or {}
        return self.taken(str(value), us=context.get("us", False), rough=context.get("rough", False))

    def taken(self, text: str, *, us: bool, rough: bool = True) -> object:
        """What is read of a text, with the signs that are typed, and where it `rough`ly says so too. Raises
        QuantityError.
        """
        read = self.reader(us=us)
        try:
            return read(text)
        except QuantityError:
            plain = typed(text)
            for other in (plain if plain != text else "", exactly(plain) if rough else ""):
                if other:
                    with suppress(QuantityError):
                        return read(other)
            raise

    def reads(self, text: str, *, us: bool = False) -> bool:
        """Whether it takes anything of a text."""
        try:
            self.taken(text, us=us)
        except QuantityError:
            return False
        return True

    def roughly(self, text: str, *, us: bool) -> str:
        """What a text says of its value beside that it is only about so; empty where it says no such thing."""
        plain = typed(text)
        if not (bare := exactly(plain)):
            return ""
        read = self.reader(us=us)
        with suppress(QuantityError):
            read(plain)
            return ""
        return bare

    def label_for(self, dialect: str) -> str:
        """In a dialect's words, where it has its own for this."""
        return str(getattr(self, f"label_{dialect}", "")) or self.label


def measure(label: str, kind: Quantity, symbol: str = "", **more: Any) -> Fact:
    """A fact that is a quantity."""
    more.setdefault("example", kind.example)
    return Fact(label=label, read=kind.read, symbol=symbol, unit=kind.unit, quantity=kind, **more)


Also = Mapping[str, str | tuple[str, ...]]
"""Other names that people write, by the key of what they mean, or the keys of all that they may mean."""


def choice(label: str, choices: tuple[tuple[str, str], ...], *, also: Also | None = None, **more: Any) -> Fact:
    """A fact that is one of a few words, given as (key, shown); `also` are other names that people write, by keys."""
    return Fact(label=label, read=lambda text: one_of(text, choices, also), choices=choices, **more)


class SaidOfSeveral(QuantityError):
    """A word that several of the choices may mean."""


def one_of(text: str, choices: tuple[tuple[str, str], ...], also: Also | None = None) -> str:
    """The key of one of these (key, shown), from either, in any dialect's words; `also` are other names by their
    keys, by several where the name may be any of them. A word of one alone stands for it. Raises QuantityError.

    >>> one_of("Star-Delta", (("wye-delta", "wye-delta"),)), one_of("DOL", (("full", "full voltage"),), {"DOL": "full"})
    ('wye-delta', 'full')
    >>> one_of("winch", (("hoist", "hoist or winch"), ("mill", "crusher or mill"))), one_of("75C", (("75", "75 °C"),))
    ('hoist', '75')
    """
    said = _plain(text).removesuffix(".0")  # as tables have whole numbers
    for key, shown in choices:
        if _close(said) in map(_close, _named(key, shown)) or said in _ANSWERS.get(key, ()):
            return key
    named = next((key for name, key in (also or {}).items() if _close(said) == _close(_plain(name))), ())
    if isinstance(named, str):
        return named
    near = [(key, shown) for key, shown in choices
            if key in named or any(_within(said, name) for name in _named(key, shown))]  # fmt: skip
    if len(near) == 1:
        return near[0][0]
    if near:
        names = "; ".join(shown for _, shown in near)
        raise SaidOfSeveral(f"“{text}” may be one of these, say which: {names}.")
    raise QuantityError(f"“{text}” is none of: {', '.join(shown for _, shown in choices)}.")


_SHORTEST: Final = 3
_DENIES: Final = re.compile(r"\b(?:no|not|none|without|never)\b")


def _within(said: str, name: str) -> bool:
    """Whether it is some of a name's words, as they stand there, and the others do not deny them."""
    if len(said) < _SHORTEST or (found := re.search(rf"(?<!\w){re.escape(said)}(?!\w)", name)) is None:
        return False
    return _DENIES.search(name[: found.start()] + name[found.end() :]) is None


def _close(said: str) -> str:
    return said.replace(" ", "")


def _plain(text: str) -> str:
    """Without what people write otherwise: capitals, hyphens, blanks, points of single letters: D.O.L."""
    return _POINTS.sub("", re.sub(r"[\s\-–_]+", " ", text.strip().casefold().replace("°", "")))


_POINTS: Final = re.compile(r"(?<=(?<![^\W\d_])[^\W\d_])\.")


_ANSWERS: Final = {"yes": ("y", "true"), "no": ("n", "false")}
"""As tables have them."""


@lru_cache(maxsize=2048)
def _named(key: str, shown: str) -> frozenset[str]:
    return frozenset(_plain(one) for one in (key, shown, *(spoken(shown, dialect) for dialect in dialects())))


def numbered(label: str, kind: str, *fixed: tuple[str, str], **more: Any) -> Fact:
    """A fact that is one of the job's numbered parts by its key ("board_3"), or one of a few `fixed` words."""
    words_of = {text.casefold(): key for pair in fixed for key in pair[:1] for text in pair}

    def read(text: str) -> str:
        plain = text.strip().casefold().replace(" ", "_")
        if (found := words_of.get(text.strip().casefold())) is not None:
            return found
        if not re.fullmatch(rf"{kind}_[1-9]\d{{0,2}}", plain):
            raise QuantityError(f"“{text}” is no {kind} of this job: they are called {kind} 1, {kind} 2 and so on.")
        return plain

    return Fact(label=label, read=read, listed=kind, choices=fixed, **more)


def words(label: str, most: int = 120, **more: Any) -> Fact:
    """A fact that is free text, of `most` characters: one more is still taken in, so that it is told."""

    def read(text: str) -> str:
        if len(text) > most:
            raise QuantityError(f"{label} is too long: {len(text)} characters of {most}.")
        return " ".join(text.split())

    return Fact(label=label, read=read, longest=max(most + 1, _LONGEST), **more)


def whole(label: str, least: int, most: int, *, counts: str = "", **more: Any) -> Fact:
    """A fact that is a whole number; `counts` are words for what it counts, as alternatives of a pattern."""

    def read(text: str) -> int:
        try:
            number = int(re.sub(rf"(?<=\d)\s*(?:{counts})$", "", text.strip(), flags=re.I))
        except ValueError:
            raise QuantityError(f"“{text.strip()}” is not a whole number: write it like {more['example']}.") from None
        if not least <= number <= most:
            raise QuantityError(f"{number} is outside {least} to {most}.")
        return number

    return Fact(label=label, read=read, **more)


_UNIT_SUFFIXES = (
    "_w",
    "_v",
    "_hz",
    "_rpm",
    "_a",
    "_pu",
    "_m",
    "_va",
    "_k",
    "_kgm2",
    "_s",
    "_ohm",
    "_nm",
    "_n",
    "_m3s",
    "_ms",
    "_c",
    "_j",
    "_a2s",
    "_kmw",
)


def file_name(attribute: str) -> str:
    """The key in the open file: the attribute without core's unit, since its text carries its own.

    >>> file_name("power_w"), file_name("transformer_impedance_pu"), file_name("leads")
    ('power', 'transformer_impedance', 'leads')
    """
    for suffix in _UNIT_SUFFIXES:
        if attribute.endswith(suffix):
            return attribute.removesuffix(suffix)
    return attribute


def field(fact: Fact) -> Any:
    """A fact's place in a model: not known until it is given.

    `speed_rpm: float | None = field(measure("Speed", SPEED))`: the type is core's, the fact says how its text is read.
    """
    info: FieldInfo = Field(default=None)  # type: ignore[assignment]
    info.metadata.append(fact)
    return info


class Facts(BaseModel):
    """Base of every stage's facts: text in, core's units inside, None for what is not known."""

    model_config = ConfigDict(frozen=True, extra="forbid", alias_generator=file_name, validate_default=False)

    @classmethod
    def fields(cls) -> Mapping[str, Fact]:
        """File name to field metadata, in order."""
        return _fields(cls)


@cache
def _fields(model: type[Facts]) -> Mapping[str, Fact]:
    """Looked up for each text that comes in: put together once."""
    found = {}
    for name, info in model.model_fields.items():
        found[info.alias or name] = next(meta for meta in info.metadata if isinstance(meta, Fact))
    return MappingProxyType(found)


@dataclass(frozen=True, slots=True, kw_only=True)
class FieldError:
    """One field that could not be read: where, what was typed, and the message to show there."""

    path: str
    text: str
    message: str


F = TypeVar("F", bound="Facts")


def read_facts(
    model: type[F], raw: Mapping[str, object], prefix: str, *, us: bool = False
) -> tuple[F, tuple[FieldError, ...]]:
    """Read what was typed. A field that cannot be read is left out and reported; the others stand.

    `raw` maps file names to text; `prefix` is the path of this stage ("plate"); with `us` bare numbers are in hp, ft,
    lb·ft².
    """
    try:
        return cast(tuple[F, tuple[FieldError, ...]], _read(model, tuple(raw.items()), prefix, us=us))
    except TypeError:  # a value that is no text: it is refused where it stands
        return _validated(model, dict(raw), prefix, us=us)


@lru_cache(maxsize=4096)
def _read(
    model: type[Facts], items: tuple[tuple[str, object], ...], prefix: str, *, us: bool
) -> tuple[Facts, tuple[FieldError, ...]]:
    """The same text is read once: a change of one part leaves the others' models as they were."""
    return _validated(model, dict(items), prefix, us=us)


def _validated(model: type[F], raw: dict[str, object], prefix: str, *, us: bool) -> tuple[F, tuple[FieldError, ...]]:
    context = {"us": us, "rough": may_be_rough(prefix)}
    try:
        return model.model_validate(raw, context=context), ()
    except ValidationError as caught:
        errors = tuple(_field_error(error, raw, prefix) for error in caught.errors())
    bad = {error.path.removeprefix(f"{prefix}.") for error in errors}
    good = {key: value for key, value in raw.items() if key not in bad}
    return model.model_validate(good, context=context), errors


def _field_error(error: Any, raw: Mapping[str, object], prefix: str) -> FieldError:
    name = str(error["loc"][0])
    text = raw.get(name)
    if error["type"] == "extra_forbidden":
        message = f"There is no field “{name}” under {prefix}."
    else:
        message = str(error["ctx"]["error"])
    return FieldError(path=f"{prefix}.{name}", text="" if text is None else str(text), message=message)
