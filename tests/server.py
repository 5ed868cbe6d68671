"""A private MariaDB and the application for tests: one instance a test process, one database a test module."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from argon2 import PasswordHasher

from vinegate.core.facts import RuleSetName
from vinegate.demo import demo_job
from vinegate.store import accounts, jobs
from vinegate.store.database import connect_to, database
from vinegate.store.instance import Instance
from vinegate.store.jobs import Access
from vinegate.store.migrate import migrate
from vinegate.store.models import Circuit, Role, User

PASSWORD = "a long enough one"
PRODUCTION = accounts._hasher
_QUICK = PasswordHasher(time_cost=1, memory_cost=8, parallelism=1)


@contextmanager
def private_instance() -> Iterator[Instance]:
    """A MariaDB of our own, stopped at the end. Passwords are hashed quickly meanwhile: half of a test's time was that."""
    accounts._hasher = _QUICK
    with tempfile.TemporaryDirectory(prefix="vg-") as folder:
        home = Path(folder)
        home.chmod(0o755)
        instance = Instance(home / "m")
        instance.ensure("first")
        try:
            yield instance
        finally:
            database.close_all()
            instance.stop()
            accounts._hasher = PRODUCTION


@contextmanager
def fresh_database(instance: Instance, name: str) -> Iterator[str]:
    """An empty, migrated database. Yields its URL."""
    instance.ensure(name)
    url = instance.url(name)
    connect_to(url)
    migrate()
    try:
        yield url
    finally:
        database.close_all()


def person(login: str) -> User:
    """An account, made when it is not there."""
    found = accounts.user_by_login(login)
    return found or accounts.create_user(login=login, name=login.title(), password=PASSWORD)


def job_of(designer: User, **others: Role) -> Access:
    """A job like Harrowmere Lock with this designer and other members by login."""
    found = demo_job("harrowmere-lock.json")
    job = jobs.create_job(designer, name=found.name, rules=RuleSetName.NEC, facts=found.facts)
    access = jobs.open_job(designer, job.id)
    for login, role in others.items():
        jobs.set_member(access, person(login), role)
    return access


def pump(access: Access, tag: str = "P-11") -> Circuit:
    """The 75 hp pump in that job."""
    facts = dict(demo_job("harrowmere-lock.json").circuits)["P-11"]
    return jobs.create_circuit(access, tag=tag, facts=facts)
