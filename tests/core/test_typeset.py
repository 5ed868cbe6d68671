"""Signs of typesetting stand for those that are typed, in fields, plates and lists; names are as they are written."""

import re

import pytest

from vinegate.core.facts import RuleSetName, read_circuit
from vinegate.exchange.columns import columns
from vinegate.exchange.plate_text import read_plate
from vinegate.exchange.spreadsheet import read_rows, read_table


@pytest.mark.parametrize(
    ("path", "text", "as_typed"),
    [
        ("plate.full_load_current", "\u200b92 A", "92 A"), ("plate.full_load_current", "184\u2044 92", "184/92"),
        ("plate.volts", "208\u2011230/460", "208-230/460"), ("plate.volts", "400\u0394\u2215690Y", "400D/690Y"),
        ("plate.ambient", "\u221220\u2026+40 \u2103", "-20..+40 °C"), ("load.inertia", "3.2 kg\u2219m\u00b2\ufeff", "3.2 kgm2"),
        ("wiring.size", "35 \u339f", "35 mm2"), ("wiring.length", "200 ft\u00ad", "200 ft"),
        ("load.flow", "55 m\u00b3\u2215h", "55 m3/h"), ("plate.efficiency", "94\uff0e1\uff05", "94.1 %"),
        ("machine.r1", "0.25 \u2126", "0.25 ohm"), ("plate.power", "7\u20111/2 hp", "7-1/2 hp"),
        ("wiring.length", "~62\u200b m", "62 m"),
    ],
)  # fmt: skip
def test_a_field_reads_them_as_the_signs_that_are_typed(path, text, as_typed):
    part, _, name = path.partition(".")
    read = [read_circuit({part: {name: one}}, RuleSetName.IEC) for one in (text, as_typed)]
    assert [errors for _, errors in read] == [(), ()]
    assert read[0][0].part(part) == read[1][0].part(part)


def test_names_stay_as_they_are_written():
    circuit, errors = read_circuit({"start": {"driven": "pump 7\u20118, 40 \u2103"}}, RuleSetName.IEC)
    assert not errors
    assert circuit.start.driven == "pump 7\u20118, 40 \u2103"


def test_what_cannot_be_read_is_told_as_it_was_typed():
    (error,) = read_circuit({"wiring": {"length": "6\u20117 m"}}, RuleSetName.IEC)[1]
    assert "6\u20117 m" in error.text


def test_plates_and_lists_too():
    found = read_plate("75\u00a0HP 208\u2011230\u2044460 V 92\u200b A AMB 40 \u2103")
    assert found.texts == {"power": "75 hp", "volts": "208-230/460", "full_load_current": "92", "ambient": "40 °C"}
    table = read_table("x.csv", "Tag;HP;Volts\nP\u20111;7\u20111/2;208\u2011230\n".encode())
    (row,) = read_rows(table, columns(table, {}), rules=RuleSetName.NEC, job={}, tag_rule=re.compile("[A-Z0-9-]+"))
    assert not row.bad
    assert row.tag == "P-1"
