"""What a watcher may ask: whether it lives, whether it is ready, and counts (Prometheus text). No facts, no names."""

from __future__ import annotations

import json
import logging
import time
from collections import Counter
from collections.abc import Mapping
from hashlib import sha256
from threading import Lock
from typing import Any, Final
from uuid import uuid4

from flask import Blueprint, Flask, Response, g, request

from vinegate import __version__
from vinegate.store.database import database

blueprint = Blueprint("metrics", __name__)
_EDGES_S: Final = (0.01, 0.03, 0.1, 0.3, 1.0, 3.0)
_SLOW_S: Final = 1.5
SLOW_PLAN_S: Final = 0.5
_log = logging.getLogger("vinegate.requests")


class Counts:
    """Requests of this process by endpoint and class of status, with how long they took."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._requests: Counter[tuple[str, str]] = Counter()
        self._within: Counter[float] = Counter()
        self._seconds = 0.0

    def add(self, endpoint: str, status: int, seconds: float) -> None:
        with self._lock:
            self._requests[endpoint, f"{status // 100}xx"] += 1
            self._seconds += seconds
            for edge in _EDGES_S:
                if seconds <= edge:
                    self._within[edge] += 1

    def text(self) -> str:
        """In the exposition format: counters and one histogram, of this process alone."""
        with self._lock:
            total = sum(self._requests.values())
            lines = [f'vinegate_info{{version="{__version__}"}} 1', "# TYPE vinegate_requests_total counter"]
            lines += [
                f'vinegate_requests_total{{endpoint="{endpoint}",status="{status}"}} {count}'
                for (endpoint, status), count in sorted(self._requests.items())
            ]
            lines.append("# TYPE vinegate_request_seconds histogram")
            lines += [f'vinegate_request_seconds_bucket{{le="{edge:g}"}} {self._within[edge]}' for edge in _EDGES_S]
            lines.append(f'vinegate_request_seconds_bucket{{le="+Inf"}} {total}')
            lines += [f"vinegate_request_seconds_sum {self._seconds:.3f}", f"vinegate_request_seconds_count {total}"]
        return "\n".join(lines) + "\n"


@blueprint.get("/health")
def health() -> Response:
    """For a proxy: 200 when the database answers, by a table: a node that lost its cluster still answers without."""
    database.execute_sql("SELECT id FROM link LIMIT 1")
    return Response("ok\n", mimetype="text/plain")


@blueprint.get("/health/live")
def live() -> Response:
    """200 while this process answers at all: it asks nothing of the database."""
    return Response("ok\n", mimetype="text/plain")


@blueprint.get("/health/ready")
def ready() -> Response:
    """200 when the database answers and its tables are this program's."""
    database.execute_sql("SELECT id FROM link LIMIT 1")
    return Response("ok\n", mimetype="text/plain")


def attach(app: Flask, *, shown: bool) -> None:
    """Count every request and give it an id; `/metrics` where it is `shown`."""
    counts = Counts()

    @app.before_request
    def begin() -> None:
        g.began, g.request_id = time.perf_counter(), uuid4().hex[:12]

    @app.after_request
    def end(response: Response) -> Response:
        seconds = time.perf_counter() - g.get("began", time.perf_counter())
        endpoint = request.endpoint or "none"
        counts.add(endpoint, response.status_code, seconds)
        response.headers["X-Request-Id"] = g.get("request_id", "")
        if seconds > _SLOW_S or response.status_code >= 500:
            _log.warning(_line(endpoint, response.status_code, seconds))
        return response

    if shown:

        @app.get("/metrics", endpoint="metrics.counts")
        def metrics() -> Response:
            return Response(counts.text(), mimetype="text/plain; version=0.0.4")


def slow_plan(seconds: float, job_raw: Mapping[str, Any], circuit_raw: Mapping[str, Any]) -> None:
    """One line of JSON where planning took long: the digest of its facts, by which the same facts are known again."""
    if seconds < SLOW_PLAN_S:
        return
    facts = json.dumps([job_raw, circuit_raw], sort_keys=True, ensure_ascii=False)
    found = {
        "id": g.get("request_id", ""),
        "plan_s": round(seconds, 3),
        "facts": sha256(facts.encode()).hexdigest()[:16],
    }
    _log.warning(json.dumps(found))


def _line(endpoint: str, status: int, seconds: float) -> str:
    """One line of JSON: what was slow or broke, and nothing that was typed."""
    found: dict[str, Any] = {
        "id": g.get("request_id", ""),
        "endpoint": endpoint,
        "status": status,
        "s": round(seconds, 3),
    }
    return json.dumps(found)
