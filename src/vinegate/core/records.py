"""Frozen records, made and copied quickly: what `dataclass` and `replace` do, in a third of their time.

A plan makes thousands of them. To the type checker both are the standard library's, so that a write to a frozen record
does not pass it; at run time nothing stands in the way of one (docs/decisions/0030).
"""

from __future__ import annotations

import dataclasses
from collections.abc import Callable
from typing import TYPE_CHECKING, Any, Final

__all__ = ["dataclass", "replace"]

if TYPE_CHECKING:
    from dataclasses import dataclass, replace
else:

    def dataclass(*, frozen: bool = False, eq: bool = True, **options: Any) -> Callable[[type], type]:
        """A dataclass. A frozen one is hashed by its fields as ever, and is made as any other."""
        return dataclasses.dataclass(eq=eq, unsafe_hash=frozen and eq, **options)

    def replace(record: Any, **changes: Any) -> Any:
        """The same record with these fields changed. Raises TypeError for a field that it does not have.

        >>> from vinegate.core.sheet import Missing
        >>> replace(Missing(path="plate.volts", label="volts", gives="amperes"), label="line volts").label
        'line volts'
        """
        kind = type(record)
        copy = _COPIES.get(kind) or _copy_of(kind)
        return copy(record, changes)


_Copy = Callable[[Any, dict[str, Any]], Any]
_COPIES: Final[dict[type, _Copy]] = {}
"""Of each kind that was copied: how."""


def _copy_of(kind: type) -> _Copy:
    """How a kind is copied: field by field, written out; by the standard library where it has no slots."""
    names = [field.name for field in dataclasses.fields(kind)]
    lines = [f"    made.{name} = record.{name}" for name in names]
    text = "\n".join(
        (
            "def copy(record, changes):",
            "    made = new(kind)",
            *lines,
            "    for name, value in changes.items():",
            "        if name not in names:",
            "            raise TypeError(f'{kind.__name__} has no {name}')",
            "        setattr(made, name, value)",
            "    return made",
        )
    )
    space: dict[str, Any] = {"new": kind.__new__, "kind": kind, "names": frozenset(names)}
    if "__slots__" in vars(kind) and not vars(kind).get("__dataclass_params__").frozen:  # type: ignore[union-attr]
        exec(text, space)  # noqa: S102 -- of the names of fields alone
    else:
        space["copy"] = lambda record, changes: dataclasses.replace(record, **changes)
    _COPIES[kind] = space["copy"]
    return _COPIES[kind]
