"""How many examples a test has: some each time; in `./test nightly` eight times as many random ones, and every listed one."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, TypeVar

from hypothesis import settings

One = TypeVar("One")


def nightly() -> bool:
    return settings.get_current_profile_name() == "nightly"


def examples(count: int, **more: Any) -> settings:
    """The settings of a test that draws so many in `./test`."""
    return settings(max_examples=count * (8 if nightly() else 1), **more)


def some(of: Sequence[One], every: int) -> Sequence[One]:
    """One in so many of what is alike in `./test`, the first among them."""
    return of if nightly() else of[::every]
