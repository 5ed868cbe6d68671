"""The made-up works, as ordinary files in the open format, and the made-up people."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime
from importlib import resources
from typing import Final

from vinegate import __version__
from vinegate.core.capture.files import packed, read_files
from vinegate.core.capture.mapping import guess
from vinegate.core.facts import RuleSetName
from vinegate.core.record.facts import FORMS
from vinegate.exchange.circuit_file import TAG, JobFile, read
from vinegate.exchange.columns import guess as columns
from vinegate.exchange.spreadsheet import read_rows, read_table
from vinegate.store import accounts, captures, entries, jobs
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

PANS = "brackwater-pans"
"""A job whose forty motors come from a spreadsheet, as a user's would."""

_FILES = {
    "harrowmere-lock.json": {"ines": Role.DESIGNER, "tam": Role.ELECTRICIAN, "ruth": Role.REVIEWER},
    "skerry-sound.json": {"ines": Role.DESIGNER, "tam": Role.DESIGNER, "ruth": Role.REVIEWER},
    f"{PANS}.json": {"ines": Role.DESIGNER, "tam": Role.ELECTRICIAN, "ruth": Role.REVIEWER},
}

JOBS: Final = tuple(_FILES)
"""The made-up jobs, by file name."""


def sheet() -> str:
    """Forty motors as comma-separated text: five of them fail, for five reasons."""
    return resources.files(__package__).joinpath(f"{PANS}.csv").read_text(encoding="utf-8")


def sheet_circuits() -> list[tuple[str, dict[str, str]]]:
    """The sheet's tags, each with its facts by path, read as a pasted table is."""
    table = read_table(f"{PANS}.csv", sheet().encode())
    rows = read_rows(table, columns(table[0]), rules=RuleSetName.NEC, job={}, tag_rule=TAG)
    return [(row.tag, {cell.path: cell.text for cell in row.cells}) for row in rows]


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
            _before(people, access, circuit)
            for form in FORMS:
                if form in facts:
                    _record(people, access, circuit, form, facts[form])
        if name == f"{PANS}.json":
            jobs.bring_in(access, sheet_circuits(), {})


_EARLIER = {
    "P-11": (
        ("record_insulation", "2024-09-10 08:00", {"r1": "940 MΩ", "winding_at": "23 °C", "winding": "random"}),
        ("record_insulation", "2025-09-16 08:20", {"r1": "810 MΩ", "winding_at": "22 °C", "winding": "random"}),
        ("record_running", "2024-09-10 10:00", {"i1": "82.1 A", "i2": "81.9 A", "i3": "82.4 A", "at_load": "full"}),
        ("record_running", "2025-09-16 10:10", {"i1": "82.8 A", "i2": "82.2 A", "i3": "83.3 A", "at_load": "full"}),
        ("record_condition", "2025-09-16 11:00", {"vibration_h": "0.05 in/s", "support": "rigid"}),
    ),
}
"""What was measured of a machine in the years before: its curves."""
_CAPTURES = {"H-1": "H-1-start.cff"}
"""Written by the bench, and known as simulated by what they say of themselves."""


def _before(people: dict[str, User], access: Access, circuit: Circuit) -> None:
    """Earlier entries, and a capture."""
    tam = replace(access, user=people["tam"])
    for number, (form, at, readings) in enumerate(_EARLIER.get(circuit.tag, ())):
        sent = Sent(
            uid=f"demo-{circuit.id}-{number}", form=form, readings=readings, taken_at=datetime.fromisoformat(at)
        )
        entries.keep(tam, circuit, sent)
    name = _CAPTURES.get(circuit.tag)
    if name:
        files = {name: resources.files(__package__).joinpath(name).read_bytes()}
        found = read_files(files)
        mapping = {one: {"role": use.role, "times": use.times} for one, use in guess(found).items()}
        captures.keep(
            tam, circuit, uid=f"demo-{circuit.id}", name=name, body=packed(files), size=len(files[name]),
            mapping=mapping, simulated=found.simulated, program_version=__version__,
        )  # fmt: skip


def _record(people: dict[str, User], access: Access, circuit: Circuit, form: str, readings: dict[str, str]) -> None:
    """An entry of the demo's electrician, at the moment its facts say."""
    at, _, _ = readings["taken"].partition(" UTC")
    kept = {name: text for name, text in readings.items() if name != "taken"}
    sent = Sent(uid=f"demo-{circuit.id}-{form}", form=form, readings=kept, taken_at=datetime.fromisoformat(at))
    entries.keep(replace(access, user=people["tam"]), circuit, sent)
