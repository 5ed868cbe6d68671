"""How many random examples a test draws: some each time, eight times as many in `./test nightly`."""

from __future__ import annotations

from typing import Any

from hypothesis import settings


def nightly() -> bool:
    return settings.get_current_profile_name() == "nightly"


def examples(count: int, **more: Any) -> settings:
    """The settings of a test that draws so many in `./test`."""
    return settings(max_examples=count * (8 if nightly() else 1), **more)
