"""Columns of a list: by their heads, and where a head has several meanings by what stands in them."""

import re

import pytest

from vinegate.core.facts import RuleSetName
from vinegate.exchange.columns import columns, guess
from vinegate.exchange.spreadsheet import read_rows

PLATE = ["Tag", "HP", "Volts", "FLA", "RPM"]
ROWS = (["P-1", "10", "460", "14", "1760"], ["P-2", "20", "460", "27", "1765"])


def mapped(head: str, *cells: str) -> str | None:
    """What a further column of a list of motors is taken for."""
    table = [[*PLATE, head], *([*row, cell] for row, cell in zip(ROWS, cells, strict=True))]
    found = columns(table, {})
    assert [found[at] for at in range(5)] == ["tag", "plate.power", "plate.volts", "plate.full_load_current",
                                              "plate.speed"]  # fmt: skip
    return found.get(5)


@pytest.mark.parametrize(
    ("head", "cells", "path"),
    [
        ("Insulation", ("F", "B"), "plate.insulation_class"), ("Insulation", ("75", "90"), "wiring.insulation"),
        ("IE", ("IE3", "IE2"), "plate.efficiency_class"), ("IE3", ("x", "y"), None),
        ("To", ("P-1", "P-2"), None), ("From", ("MCC-1", "MCC-1"), None), ("t_o", ("60 s", "30 s"),
        "drive.overload_time"), ("Runs", ("1", "2"), "wiring.sets"), ("Torque", ("40 N·m", "80 N·m"), None),
        ("Load torque", ("40 N·m", "80 N·m"), "load.torque"), ("#", ("1", "2"), None), ("№", ("1", "2"), None),
        ("η", ("91 %", "92 %"), "plate.efficiency"), ("Cable m", ("40", "60"), None), ("Cable", ("8 AWG", "6 AWG"),
        "wiring.size"), ("Cable length m", ("40", "60"), "wiring.length"), ("Length ft", ("40", "60"), "wiring.length"),
        ("LRT", ("150 %", "200 %"), "machine.locked_rotor_torque"), ("Absorbed kW", ("7", "12"), "load.power"),
        ("kW input", ("7", "12"), None), ("Max RPM", ("3600", "3600"), None), ("Weight (kg)", ("80", "90"), None),
        ("Heater V", ("120", "120"), None), ("Brake volts", ("120", "120"), None), ("Eff 75%", ("91", "92"), None),
        ("Serial No", ("160L", "145T"), None), ("Voltage drop", ("2 %", "3 %"), None), ("Ambient", ("40 °C", "30 °C"),
        "plate.ambient"), ("To", ("", ""), "drive.overload_time"),
    ],
)  # fmt: skip
def test_a_further_column_of_a_list(head, cells, path):
    assert mapped(head, *cells) == path


def test_a_torque_beside_the_load_is_the_loads():
    table = [[*PLATE, "Load kind", "Torque"], *([*row, "constant torque", "40 N·m"] for row in ROWS)]
    assert columns(table, {})[6] == "load.torque"


def test_units_of_heads_stand_behind_bare_numbers_without_brackets():
    table = [["Tag", "HP", "Cable length m", "Size mm2"], ["P-1", "10", "40", "16"]]
    rows = read_rows(table, columns(table, {}), rules=RuleSetName.IEC, job={}, tag_rule=re.compile(".+"))
    assert {cell.path: cell.text for cell in rows[0].cells}["wiring.length"] == "40 m"
    assert not rows[0].bad


@pytest.mark.parametrize(
    ("cell", "hertz"),
    [("460/3/60", "60 Hz"), ("460V/3ph/60Hz", "60 Hz"), ("400 V 3~ 50Hz", "50 Hz"), ("230/460", None), ("460", None)],
)
def test_volts_with_their_hertz_say_both(cell, hertz):
    """A column of hertz says it itself."""
    table = [["Tag", "HP", "Volts"], ["P-1", "10", cell]]
    (row,) = read_rows(table, columns(table, {}), rules=RuleSetName.NEC, job={}, tag_rule=re.compile(".+"))
    assert {one.path: one.text for one in row.cells}.get("plate.frequency") == hertz
    assert not row.bad
    table = [["Tag", "HP", "Volts", "Hz"], ["P-1", "10", cell, "25"]]
    (row,) = read_rows(table, columns(table, {}), rules=RuleSetName.NEC, job={}, tag_rule=re.compile(".+"))
    assert {one.path: one.text for one in row.cells}["plate.frequency"] == "25 Hz"


def test_heads_alone_are_named_once_each():
    found = guess(["Tag", "Eff", "Efficiency", "Power factor", "PF"])
    assert list(found.values()).count("plate.efficiency") == 1
    assert list(found.values()).count("plate.power_factor") == 1
