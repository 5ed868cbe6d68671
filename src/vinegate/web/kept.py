"""The last plans of the circuits in hand, so that a change plans only what it touches.

Each worker keeps its own: what is kept holds by its facts' values, so that it is never wrong, only absent.
"""

from __future__ import annotations

import os
from collections import OrderedDict
from threading import Lock
from typing import Final

from vinegate.core.work import Kept

MOST: Final = min(max(int(os.environ.get("VINEGATE_PLANS") or 48), 1), 2000)
"""About 0.6 MB each, in each process: as many as there are circuits in hand, or a change plans the circuit whole."""
_plans: OrderedDict[tuple[int, str], Kept] = OrderedDict()
_lock = Lock()


def kept_of(circuit_id: int, rules: str) -> Kept:
    """The circuit's last plan under this rule set; an empty one where there is none."""
    with _lock:
        found = _plans.setdefault((circuit_id, rules), Kept())
        _plans.move_to_end((circuit_id, rules))
        if len(_plans) > MOST:
            _plans.popitem(last=False)
    return found
