"""Every address by every method as every role: who is answered what. What an outsider must not see is a finding."""

from __future__ import annotations

import re
from collections import Counter, defaultdict

from tools.load_run import Person
from vinegate.web import Config, create_app

Found = dict[str, dict[str, Counter[str]]]
"""By role and method: how often which status."""
_LAST = ("jobs.take_away", "jobs.away", "auth.sign_out", "jobs.rename")


def _rules() -> list[tuple[str, str]]:
    """Method and pattern of every address; what takes away or ends a session comes last."""
    app = create_app(Config(secret_key="x", database_url="mysql://a:b@127.0.0.1/c"))
    found = []
    for rule in app.url_map.iter_rules():
        for method in sorted((rule.methods or set()) - {"HEAD", "OPTIONS"}):
            ends = any(word in rule.rule for word in ("away", "sign-out", "members", "rename", "rules"))
            found.append((ends, method, rule.rule))
    return [(method, rule) for ends, method, rule in sorted(found)]


def _filled(rule: str, job: int, tag: str) -> str:
    values = {"job_id": str(job), "tag": tag, "number": "1", "station": "start", "form": "record_before", "key": "wire",
              "login": "nobody", "digest": "0", "name": "rows.csv"}  # fmt: skip
    return re.sub(r"<(?:[a-z]+:)?([a-z_]+)>", lambda match: values[match[1]], rule)


def walked(people: dict[str, tuple[Person, str]], job: int, tag: str) -> tuple[Found, list[str]]:
    """`people` by role, with their token; the designer last. Counts, and what must not be."""
    counts: Found = defaultdict(lambda: defaultdict(Counter))
    wrong = []
    for role, (person, token) in people.items():
        for method, rule in _rules():
            if role == "designer" and method != "GET":
                continue  # it may: the tests of each page tell what it then does
            if "sign-out" in rule or rule.startswith("/account"):
                continue
            path = _filled(rule, job, tag)
            status, _ = person.ask(method, path, {"csrf_token": token} if method != "GET" else None)
            counts[role][method][str(status)] += 1
            inside = "<int:job_id>" in rule
            if status >= 500:
                wrong.append(f"{role} {method} {path}: {status}")
            if inside and role in ("outsider", "nobody") and status < 300:
                wrong.append(f"{role} {method} {path}: let in with {status}")
    return counts, wrong
