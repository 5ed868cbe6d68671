"""The made-up works, as ordinary files in the open format, and the made-up people."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime
from importlib import resources

from vinegate.core.record.facts import FORMS
from vinegate.exchange.circuit_file import JobFile, read
from vinegate.store import accounts, entries, jobs
from vinegate.store.entries import Sent
from vinegate.store.jobs import Access
from vinegate.store.models import Circuit, Role, User


@dataclass(frozen=True, slots=True)
class Person:
    login: str
    name: str
    trade: str


PEOPLE = (
    Person("ines", "Ines Okafor", "designer"),
    Person("tam", "Tam Birdwhistle", "electrician"),
    Person("ruth", "Ruth Calloway", "reviewer"),
)

_FILES = {
    "harrowmere-lock.json": {"ines": Role.DESIGNER, "tam": Role.ELECTRICIAN, "ruth": Role.REVIEWER},
    "skerry-sound.json": {"ines": Role.DESIGNER, "tam": Role.DESIGNER, "ruth": Role.REVIEWER},
}


def demo_job(name: str) -> JobFile:
    """One of the made-up jobs, by file name."""
    return read(resources.files(__package__).joinpath(name).read_text(encoding="utf-8"))


def load(password: str) -> None:
    """Fill an empty database with the made-up people and works."""
    people = {
        person.login: accounts.create_user(login=person.login, name=person.name, password=password) for person in PEOPLE
    }
    for name, roles in _FILES.items():
        found = demo_job(name)
        job = jobs.create_job(people["ines"], name=found.name, rules=found.rules, facts=found.facts)
        access = jobs.open_job(people["ines"], job.id)
        for login, role in roles.items():
            jobs.set_member(access, people[login], role)
        for tag, facts in found.circuits:
            circuit = jobs.create_circuit(access, tag=tag, facts={k: v for k, v in facts.items() if k not in FORMS})
            for form in FORMS:
                if form in facts:
                    _record(people, access, circuit, form, facts[form])


def _record(people: dict[str, User], access: Access, circuit: Circuit, form: str, readings: dict[str, str]) -> None:
    """An entry of the demo's electrician, at the moment its facts say."""
    at, _, _ = readings["taken"].partition(" UTC")
    kept = {name: text for name, text in readings.items() if name != "taken"}
    sent = Sent(uid=f"demo-{circuit.id}-{form}", form=form, readings=kept, taken_at=datetime.fromisoformat(at))
    entries.keep(replace(access, user=people["tam"]), circuit, sent)
