"""Whether two findings are the same, arrays and all."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import fields, is_dataclass
from typing import Any

import numpy as np


def alike(one: Any, other: Any) -> bool:
    """Whether two values are equal in every part.

    >>> alike((1.0, "A", None), (1.0, "A", None)), alike((1.0,), (2.0,)), alike(np.ones(2), np.ones(2))
    (True, False, True)
    """
    if one is other:
        return True
    if type(one) is not type(other):
        return False
    try:
        return bool(one == other)
    except ValueError:  # arrays among them
        return _by_parts(one, other)


def _by_parts(one: Any, other: Any) -> bool:
    if isinstance(one, np.ndarray):
        return bool(np.array_equal(one, other))
    if isinstance(one, tuple | list):
        return len(one) == len(other) and all(map(alike, one, other))
    if isinstance(one, Mapping):
        return one.keys() == other.keys() and all(alike(one[key], other[key]) for key in one)
    if is_dataclass(one):
        return all(alike(getattr(one, field.name), getattr(other, field.name)) for field in fields(one))
    return bool(one == other)
