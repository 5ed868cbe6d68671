"""Every fact that a plan reads can be typed: on some sheet, for a machine and a way that asks for it."""

import re

import pytest

from tests.server import job_of, person
from vinegate.core.facts import JOB_STAGES, RuleSetName, circuit_parts, model_of
from vinegate.core.record.facts import FORMS
from vinegate.demo import demo_job
from vinegate.store import jobs
from vinegate.store.database import database
from vinegate.web.form import form_fields
from vinegate.web.stages import PAGES

_ELSEWHERE = {*FORMS, "replacement", "new_plate", "new_machine"}
"""The forms of the record have pages of their own; a new motor is described as the old one, and asks by what differs."""
_SEEN = [
    ("P-11", {}, tuple(PAGES)),
    ("P-11", {"plate": {"kind": "wound"}, "start": {"method": "resistor"}}, ("plate", "machine", "start")),
    (
        "P-11",
        {"plate": {"kind": "dc-shunt"}, "stop": {"method": "armature"}, "start": {"method": "dc-drive"}},
        ("plate", "machine", "stop", "start", "protection"),
    ),
    (
        "P-11",
        {
            "plate": {"duty": "5 MIN", "ex_marking": "Ex eb IIC T3 Gb"},
            "place": {"heater": "area_1", "brake": "area_1", "drive": "area_1"},
        },
        ("load", "place"),
    ),
    ("P-11", {"plate": {"lead_count": "9"}, "start": {"method": "part-winding"}}, ("start", "protection")),
    ("P-11", {"start": {"method": "drive"}}, ("start", "drive", "protection", "wiring")),
    ("P-11", {"start": {"method": "full-voltage"}}, ("protection",)),
    ("P-11", {"starter": {"speeds": "constant", "low_speed": "885 rpm", "command": "two-wire"}}, ("starter",)),
    ("X-51", {}, ("start", "starter", "stop", "place")),
    ("G-21", {}, ("load", "stop", "starter")),
    ("C-71", {}, ("plate", "start", "wiring")),
]
"""A demo circuit, what is changed of it, and the sheets looked at."""
_OF_RULES = {"plate", "protection", "supply", "wiring"}
"""Sheets whose fields are not the same under every rule set."""


def facts_of(name):
    return {f"{name}.{field}" for field in model_of(name).fields()}


@pytest.fixture
def names(app, sign_in):
    """Fields that stand on any of those sheets, under either rule set."""
    demo, found = dict(demo_job("harrowmere-lock.json").circuits), set()
    with database.connection_context():
        access = job_of(person("ines"))
        for number, (tag, changes, _) in enumerate(_SEEN):
            parts = {part: demo[tag].get(part, {}) | more for part, more in changes.items()}
            jobs.create_circuit(access, tag=f"V-{number}", facts=demo[tag] | parts)
    ines = sign_in("ines")
    for rules, count in ((RuleSetName.NEC, len(_SEEN)), (RuleSetName.IEC, 8)):
        with database.connection_context():
            jobs.set_rules(jobs.open_job(access.user, access.job.id), rules)
        for number, (_, _, sheets) in enumerate(_SEEN[:count]):
            for sheet in sheets if rules is RuleSetName.NEC else _OF_RULES & {*sheets}:
                page = ines.get(f"/jobs/{access.job.id}/V-{number}/{sheet}").get_data(as_text=True)
                found |= set(re.findall(r'name="f:([^"]+)"', page))
    return found


def test_every_fact_has_its_field(names):
    asked = {path for part in (*circuit_parts(), *JOB_STAGES) if part not in _ELSEWHERE for path in facts_of(part)}
    assert sorted(asked - names) == []


@pytest.mark.parametrize(("rules", "way", "phase"), [("iec", "star-delta", "star"), ("nec", "wye-delta", "wye")])
def test_a_field_stands_in_the_rule_sets_words(rules, way, phase):
    """Its help and what may be chosen; a locked-rotor test is called so by both."""
    found = form_fields(("start", "machine"), job={}, circuit={}, rules=rules, errors=(), readonly=False)
    assert dict(found["start.method"].fact.choices)["wye-delta"] == way
    assert found["machine.r1"].fact.help == f"Per phase of the {phase}."
    assert found["machine.locked_volts"].label.startswith("Locked-rotor test")
