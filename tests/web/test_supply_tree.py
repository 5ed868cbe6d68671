"""Boards and areas of any number on the pages: a tree of two hundred can be looked over and any of them changed."""

import re

import pytest

from tests.conftest import planner
from tests.server import job_of, person, pump
from vinegate.core.facts import RuleSetName, read_circuit, read_job
from vinegate.store import jobs
from vinegate.store.database import database
from vinegate.store.models import Job
from vinegate.web.circuit.line import leading, line

BOARDS = 200


@pytest.fixture
def large(app):
    """Harrowmere Lock with two hundred boards; the pump hangs on the last of a chain of three."""
    with database.connection_context():
        access = job_of(person("ines"))
        pump(access)
        facts = dict(access.facts)
        for number in range(3, BOARDS + 1):
            facts[f"board_{number}"] = {
                "name": f"MCC {number}", "fed_from": "main" if number < 13 else f"board_{number // 10}",
                "size": "3/0 AWG", "metal": "copper", "raceway": "steel", "length": "40 m",
            }  # fmt: skip
        Job.update(facts=jobs.dumps(facts)).where(Job.id == access.job.id).execute()
    return access.job.id


@pytest.fixture
def job(app):
    """Harrowmere Lock as it is, with the pump."""
    with database.connection_context():
        access = job_of(person("ines"))
        pump(access)
    return access.job.id


def fields_of(page, key):
    return re.findall(rf'name="f:{key}\.(\w+)"', page)


def test_of_many_boards_only_those_in_hand_have_fields(sign_in, large):
    ines = sign_in("ines")
    page = ines.get(f"/jobs/{large}/P-11/supply").get_data(as_text=True)
    assert page.count('name="f:board_') < 40
    assert fields_of(page, f"board_{BOARDS + 1}")  # a new one can be added
    assert not fields_of(page, "board_77")
    assert "MCC 77" in page
    opened = ines.get(f"/jobs/{large}/P-11/supply?open=board_77").get_data(as_text=True)
    assert "length" in fields_of(opened, "board_77")
    assert 'name="open" value="board_77"' in opened


def test_a_circuit_hangs_on_any_of_them(sign_in, large):
    """Fed through three feeders; the line shows them, and the supply's sheet has their fields."""
    ines = sign_in("ines")
    form = {"was:wiring.board": "", "f:wiring.board": "board_155"}
    assert ines.post(f"/jobs/{large}/P-11/wiring", form).status_code == 302
    page = ines.get(f"/jobs/{large}/P-11/supply").get_data(as_text=True)
    assert [name for name in ("MCC 15", "MCC 155") if name not in page] == []
    assert fields_of(page, "board_155")
    assert fields_of(page, "board_15")
    wiring = ines.get(f"/jobs/{large}/P-11/wiring").get_data(as_text=True)
    assert '<option value="board_155" selected>MCC 155</option>' in wiring


def test_a_board_is_added_and_named(sign_in, job):
    ines = sign_in("ines")
    page = ines.get(f"/jobs/{job}/P-11/supply").get_data(as_text=True)
    assert "Add board 3" in page
    form = {"was:board_3.name": "", "f:board_3.name": "Pier"}
    answer = ines.post(f"/jobs/{job}/P-11/supply", form, headers={"X-Live": "1"}).get_data(as_text=True)
    assert "Pier" in answer
    assert "Add board 4" in answer


@pytest.mark.parametrize("path", ["board_0.name", "board_1000.name", "area_x.name", "board_.name"])
def test_no_part_of_another_name_is_kept(sign_in, job, path):
    ines = sign_in("ines")
    ines.post(f"/jobs/{job}/P-11/supply", {f"was:{path}": "", f"f:{path}": "x"})
    assert f'"{path.partition(".")[0]}"' not in ines.get(f"/jobs/{job}/file").get_data(as_text=True)


@pytest.mark.parametrize(
    ("changes", "key"),
    [
        ({}, "start.dip"),
        ({"standby.subtransient_reactance": "30 %"}, "supply.reactances"),
        ({"start.on_standby": "yes", "start.method": "soft-starter"}, "supply.standby_start_terminals"),
    ],
)
def test_the_line_says_the_worst_of_the_supplys_sheet(changes, key):
    """Not the dip alone: what is wrong with the source, or on the other one, stands there too."""
    plan = planner("harrowmere-lock.json", "P-11")(changes)
    rules = RuleSetName(plan.rules)
    job, circuit = read_job({}, rules)[0], read_circuit({}, rules)[0]
    supply = next(one for one in line(plan, job, circuit, {}, {}) if one.kind == "supply")
    assert leading(supply.gates).key == key
