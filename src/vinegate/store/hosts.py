"""The servers that hold the database: one, or the nodes of a cluster, of which any serves.

A node that does not answer, or that has lost its cluster, is passed over for a few seconds; then it is asked again.
"""

from __future__ import annotations

import re
import threading
import time
from dataclasses import dataclass, field
from typing import Any, Final

_PASSED_OVER_S: Final = 5.0
_PLACE: Final = re.compile(r"(?P<host>\[[0-9A-Fa-f:.]+\]|[A-Za-z0-9._-]+)(?::(?P<port>\d{1,5}))?")

Host = tuple[str, int]


def read_hosts(text: str) -> list[Host]:
    """`db-1:3306,db-2` as names and ports, 3306 where none is said. Raises ValueError.

    >>> read_hosts("db-1:3310,db-2")
    [('db-1', 3310), ('db-2', 3306)]
    """
    found = []
    for one in text.split(",") if text else ["127.0.0.1"]:
        match = _PLACE.fullmatch(one.strip())
        if match is None or int(match["port"] or 3306) > 65535:
            raise ValueError(one)
        found.append((match["host"].strip("[]"), int(match["port"] or 3306)))
    return found


@dataclass(slots=True)
class Hosts:
    """Which of them is tried first: the one that served last, then the others; those that failed lately at the end."""

    hosts: list[Host]
    _failed: dict[Host, float] = field(default_factory=dict)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    @property
    def several(self) -> bool:
        return len(self.hosts) > 1

    def in_order(self) -> list[Host]:
        """All of them, the likeliest first."""
        now = time.monotonic()
        with self._lock:
            return sorted(self.hosts, key=lambda one: now - self._failed.get(one, -_PASSED_OVER_S) < _PASSED_OVER_S)

    def failed(self, host: Host) -> None:
        """Pass it over for a while."""
        with self._lock:
            self._failed[host] = time.monotonic()


def serves(connection: Any) -> bool:
    """Whether a server answers and, in a cluster, belongs to the part of it that may write.

    A node that has lost its cluster still takes connections and answers what touches no table.
    """
    try:
        with connection.cursor() as cursor:
            cursor.execute("SHOW STATUS LIKE 'wsrep_ready'")
            row = cursor.fetchone()
            cursor.execute("SHOW STATUS LIKE 'wsrep_connected'")
            joined = cursor.fetchone()
    except Exception:  # whatever the driver raises: it does not serve
        return False
    in_cluster = joined is not None and joined[1] == "ON"
    return not in_cluster or (row is not None and row[1] == "ON")
