"""Many names in a sentence."""

from __future__ import annotations

from collections.abc import Sequence


def some(names: Sequence[str], most: int = 12) -> str:
    """The names, or the first of them and how many more.

    >>> some(["a", "b", "c"]), some(["a", "b", "c", "d"], most=2)
    ('a, b, c', 'a, b and 2 more')
    """
    shown = ", ".join(names[:most])
    return shown if len(names) <= most else f"{shown} and {len(names) - most} more"
