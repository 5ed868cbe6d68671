"""Several runs of the same collection beside each other: each takes the next file that none has taken yet.

`-p tests.sharing` with TESTS_SHARED naming an empty folder that all of them see. Nothing passes between them, so that a
test costs what it costs alone; a run says of its own tests what it says of any.
"""

from __future__ import annotations

import hashlib
import os
from collections.abc import Iterator
from pathlib import Path
from typing import Final

import pytest

_TAKEN: Final[dict[Path, bool]] = {}


def _take(file: Path) -> bool:
    """Whether this file is ours; it is whoever's asks first."""
    claim = Path(os.environ["TESTS_SHARED"]) / hashlib.sha256(str(file).encode()).hexdigest()
    try:
        claim.touch(exist_ok=False)
    except FileExistsError:
        return False
    return True


def _ours(session: pytest.Session) -> Iterator[pytest.Item]:
    """As they come: a file is taken when its first test is asked for."""
    for item in session.items:
        if item.path not in _TAKEN:
            _TAKEN[item.path] = _take(item.path)
        if _TAKEN[item.path]:
            yield item


@pytest.hookimpl(tryfirst=True)
def pytest_runtestloop(session: pytest.Session) -> bool | None:
    """Ours alone; where nothing is to be run, as ever."""
    if session.testsfailed or session.config.option.collectonly:
        return None
    ours = _ours(session)
    item = next(ours, None)
    while item is not None:
        after = next(ours, None)
        session.config.hook.pytest_runtest_protocol(item=item, nextitem=after)
        if session.shouldfail:
            raise session.Failed(session.shouldfail)
        if session.shouldstop:
            raise session.Interrupted(session.shouldstop)
        item = after
    return True
