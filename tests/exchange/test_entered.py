"""What is entered goes out as a table, and comes back as it stood."""

import pytest

from vinegate.core.facts import RuleSetName
from vinegate.core.rules.sets import rule_set
from vinegate.demo import demo_job
from vinegate.exchange.circuit_file import TAG
from vinegate.exchange.columns import columns, paths
from vinegate.exchange.entered import entered
from vinegate.exchange.sheets import csv_text, xlsx
from vinegate.exchange.spreadsheet import read_rows, read_table


def table_of(rules, job, circuits, kind="xlsx"):
    heads, rows = entered(circuits, job, rule_set(rules))
    body = xlsx([("Circuits", heads, rows)]) if kind == "xlsx" else csv_text([heads, *rows]).encode()
    return read_table(f"circuits.{kind}", body)


def back(rules, job, circuits, kind="xlsx"):
    table = table_of(rules, job, circuits, kind)
    rows = read_rows(table, columns(table, job), rules=rules, job=job, tag_rule=TAG)
    assert not any(row.bad for row in rows)
    return {row.tag: {cell.path: cell.text for cell in row.cells} for row in rows}


def flat(circuit):
    typed = {f"{part}.{name}": text for part, fields in circuit.items() if isinstance(fields, dict)
             for name, text in fields.items()}  # fmt: skip
    return {path: text for path, text in typed.items() if path in paths() and text}


@pytest.mark.parametrize("name", ["harrowmere-lock.json", "skerry-sound.json"])
@pytest.mark.parametrize("kind", ["xlsx", "csv"])
def test_a_job_comes_back_as_it_stood(name, kind):
    job = demo_job(name)
    assert back(job.rules, job.facts, job.circuits, kind) == {tag: flat(facts) for tag, facts in job.circuits}


NEC = RuleSetName("nec")
BOARDS = {"board_1": {"name": "MCC 1"}, "board_2": {"name": "MCC 2"}, "board_3": {"name": "MCC 2"}}


def test_people_read_words_and_names():
    circuits = [("S-1", {"plate": {"kind": "wound"}, "wiring": {"board": "board_1"}})]
    heads, *rows = table_of(NEC, BOARDS, circuits)
    assert heads == ["Tag", "Machine [plate.kind]", "From board [wiring.board]"]
    assert rows == [["S-1", "three-phase wound rotor", "MCC 1"]]


@pytest.mark.parametrize(
    "facts",
    [
        # a board whose name another has; heads that two sheets share; text that a spreadsheet would run
        {"wiring": {"board": "board_2"}}, {"wiring": {"board": "board_3"}},
        {"wiring": {"ambient": "50 °C"}, "plate": {"ambient": "40 °C"}},
        {"protection": {"rating": "60"}, "plate": {"ambient": "-5 °C"}},
        {"start": {"driven": "=1+1"}, "wiring": {"length": "1/2 km"}},
        {"load": {"kind": "points", "points": "\n".join(f"{n} %, {n}" for n in range(101))}},
        {"new_plate": {"power": "15 hp"}, "plate": {"power": "10 hp", "speed": "1760"}},
    ],
)  # fmt: skip
@pytest.mark.parametrize("kind", ["xlsx", "csv"])
def test_nothing_moves_or_is_cut(facts, kind):
    assert back(NEC, BOARDS, [("S-1", facts)], kind) == {"S-1": flat(facts)}


def test_a_column_is_known_by_its_path_wherever_it_stands():
    table = [["Length [wiring.length]", "Tag", "x [plate.power]", "y [no.fact]"], ["60 m", "S-1", "10 hp", "1"]]
    assert columns(table, {}) == {0: "wiring.length", 1: "tag", 2: "plate.power"}


def test_what_is_recorded_on_site_stays_there():
    heads, _ = entered([("S-1", {"record_start": {"current": "300 A"}})], {}, rule_set(NEC))
    assert heads == ["Tag"]
