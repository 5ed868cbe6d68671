"""Tables in and out: forty motors in each format read alike, hostile files refused, cells in error named."""

import io
import zipfile

import pytest
from openpyxl import Workbook, load_workbook

from vinegate.core.facts import RuleSetName
from vinegate.core.grade import Verdict
from vinegate.core.plan import Beside, plan_raw
from vinegate.demo import demo_job, sheet_circuits
from vinegate.exchange.circuit_file import TAG
from vinegate.exchange.columns import columns, guess
from vinegate.exchange.sheets import csv_cell, xlsx
from vinegate.exchange.spreadsheet import MOST_ROWS, UnreadableSheet, read_rows, read_table

HEADS = ["Tag", "Drives", "HP", "Volts", "FLA", "RPM", "Hz", "Length (ft)"]
SIZES = (1, 1.5, 2, 3, 5, 7.5, 10, 15, 20, 25, 30, 40, 50, 60, 75, 100, 125, 150)


def pans():
    """Brackwater Pans: S-01 to S-40, one to a hundred and fifty horsepower, 480 V."""
    rows = [HEADS]
    for number in range(40):
        hp = SIZES[number % len(SIZES)]
        rows.append([f"S-{number + 1:02d}", "brine pump", hp, 460, round(1.25 * hp, 1), 1760, 60, 100 + 5 * number])
    return rows


def ods(rows):
    """A minimal text of the open standard (ISO/IEC 26300), numbers typed."""

    def cell(value):
        if isinstance(value, str):
            return f'<table:table-cell office:value-type="string"><text:p>{value}</text:p></table:table-cell>'
        return f'<table:table-cell office:value-type="float" office:value="{value}"><text:p>{value}</text:p></table:table-cell>'

    body = "".join(
        f'<table:table-row>{"".join(cell(one) for one in row)}<table:table-cell table:number-columns-repeated="16000"/></table:table-row>'
        for row in rows
    )
    spaces = "".join(
        f' xmlns:{key}="urn:oasis:names:tc:opendocument:xmlns:{key}:1.0"' for key in ("office", "table", "text")
    )
    text = f'<office:document-content{spaces}><office:body><office:spreadsheet><table:table table:name="a">{body}<table:table-row table:number-rows-repeated="1000000"><table:table-cell/></table:table-row></table:table></office:spreadsheet></office:body></office:document-content>'
    found = io.BytesIO()
    with zipfile.ZipFile(found, "w") as box:
        box.writestr("content.xml", text)
    return found.getvalue()


def book(rows):
    found, workbook = io.BytesIO(), Workbook()
    for row in rows:
        workbook.active.append(row)
    workbook.save(found)
    return found.getvalue()


def text(rows, mark):
    return "\r\n".join(mark.join(str(one).removesuffix(".0") for one in row) for row in rows).encode()


@pytest.mark.parametrize(
    ("name", "make"),
    [
        ("a.xlsx", book),
        ("a.ods", ods),
        ("a.csv", lambda rows: text(rows, ",")),
        ("a.csv", lambda rows: text(rows, ";")),
        ("pasted.txt", lambda rows: text(rows, "\t")),
    ],
)
def test_forty_motors_of_each_format_are_read_alike(name, make):
    table = read_table(name, make(pans()))
    assert table == [[str(one).removesuffix(".0") for one in row] for row in pans()]
    rows = read_rows(table, guess(table[0]), rules=RuleSetName.NEC, job={}, tag_rule=TAG)
    assert len(rows) == 40
    assert not any(row.bad for row in rows)
    first = {cell.path: cell.text for cell in rows[0].cells}
    assert first.pop("plate.full_load_current") in ("1.2", "1.25")
    assert first == {
        "start.driven": "brine pump",
        "plate.power": "1 hp",
        "plate.volts": "460",
        "plate.speed": "1760 rpm",
        "plate.frequency": "60 Hz",
        "wiring.length": "100 ft",
    }


def test_five_of_the_forty_shipped_fail_each_for_a_reason_of_its_own():
    job = demo_job("brackwater-pans.json")
    failing = {}
    for tag, fields in sheet_circuits():
        facts = {}
        for path, cell in fields.items():
            part, _, name = path.partition(".")
            facts.setdefault(part, {})[name] = cell
        plan = plan_raw(job.rules, job.facts, facts, beside=Beside.DOCUMENT)
        if plan.verdict is not Verdict.PASSES:
            failing[tag] = {gate.key for gate in plan.weighing if gate.verdict is Verdict.FAILS}
    assert failing == {
        "S-08": {"protection.conductors"},
        "S-13": {"protection.device"},
        "S-21": {"protection.setting"},
        "S-29": {"place.motor"},
        "S-39": failing["S-39"],
    }
    assert {"start.heat", "protection.class"} <= failing["S-39"]


def test_columns_are_guessed_in_both_dialects():
    found = guess(
        [
            "Position",
            "Bemerkung",
            "Rated output [kW]",
            "Rated current",
            "cos φ",
            "I_A/I_N",
            "Rated speed",
            "Length, m",
            "Size",
        ]
    )
    assert found == {0: "tag", 2: "plate.power", 3: "plate.full_load_current", 4: "plate.power_factor", 5: "plate.starting_current_ratio",
                     6: "plate.speed", 7: "wiring.length", 8: "wiring.size"}  # fmt: skip
    assert guess(["Whatever", "HP", "hp"]) == {0: "tag", 1: "plate.power"}


@pytest.mark.parametrize(
    ("head", "path"),
    [
        ("LR amps", "plate.locked_rotor_current"), ("Inrush (A)", "plate.locked_rotor_current"),
        ("S.F. Amps", "plate.service_factor_current"), ("No load amps", "machine.no_load_current"),
        ("Load", "start.driven"), ("Load (kW)", "load.power"), ("Load (A)", None), ("% Load", None), ("Load [%]", None),
        ("Service (h/day)", None), ("Starter", "start.method"), ("Starter (A)", None), ("Starter (DOL/SS)", "start.method"),
    ],
)  # fmt: skip
def test_heads_that_lead_astray(head, path):
    assert guess(["Tag", head]).get(1) == path


def test_a_cell_in_error_is_named_beside_it_and_the_row_counts_as_bad():
    table = [["Tag", "HP"], ["A-1", "ten"], ["A-2", "10"], ["A-2", "10"], ["", "5"], ["a b c", "5"]]
    rows = read_rows(table, guess(table[0]), rules=RuleSetName.NEC, job={}, tag_rule=TAG)
    assert [row.bad for row in rows] == [True, False, True, True, True]
    assert "does not begin with a number" in rows[0].cells[0].error
    assert "twice" in rows[2].error
    assert "No tag" in rows[3].error


def test_a_head_with_a_unit_stands_behind_bare_numbers_only():
    table = [["Tag", "Power [kW]"], ["A-1", "30"], ["A-2", "30 hp"]]
    rows = read_rows(table, guess(table[0]), rules=RuleSetName.NEC, job={}, tag_rule=TAG)
    assert [row.cells[0].text for row in rows] == ["30 kW", "30 hp"]
    table = [["Tag", "Conductor size [mm²]", "Volts [kV]"], ["A-1", "16", "0.46"], ["A-2", "4 AWG", "230/460"]]
    rows = read_rows(table, guess(table[0]), rules=RuleSetName.NEC, job={}, tag_rule=TAG)
    assert [[cell.text for cell in row.cells] for row in rows] == [["16 mm²", "0.46 kV"], ["4 AWG", "230/460"]]


@pytest.mark.parametrize("rules", RuleSetName)
def test_a_fraction_has_the_unit_of_its_head_and_two_values_have_theirs(rules):
    """Where a bare power is kilowatts too: 7 1/2 hp are no 7.5 kW."""
    table = [
        ["Tag", "Power [HP]", "FLA [A]", "Volts [V]"],
        ["A-1", "7-1/2", "22/11", "230/460"],
        ["A-2", "½", "1", "460"],
    ]
    rows = read_rows(table, guess(table[0]), rules=rules, job={}, tag_rule=TAG)
    assert [[cell.text for cell in row.cells] for row in rows] == [
        ["7-1/2 HP", "22/11", "230/460"],
        ["½ HP", "1 A", "460 V"],
    ]
    assert not any(row.bad for row in rows)


def test_a_sign_for_feet_is_a_unit_and_an_apostrophe_between_digits_is_none():
    table = [["Tag", "Length (ft)", "Speed, rpm"], ["A-1", "150'", "1'185"], ["A-2", "150", "1 185"]]
    rows = read_rows(table, guess(table[0]), rules=RuleSetName.NEC, job={}, tag_rule=TAG)
    assert [[cell.text for cell in row.cells] for row in rows] == [["150'", "1'185 rpm"], ["150 ft", "1 185 rpm"]]
    assert not any(row.bad for row in rows)


@pytest.mark.parametrize("cell", ["TBD", "n/a", "#N/A", "-", "–", "?", "unknown", "N.A.", "tbc"])
def test_a_cell_that_nobody_knows_is_an_empty_one(cell):
    """Its fact is missing, and is named where it is asked; the row stands."""
    table = [["Tag", "HP", "FLA", "Starter", "Length (ft)"], ["P-1", "75", cell, cell, cell]]
    (row,) = read_rows(table, guess(table[0]), rules=RuleSetName.NEC, job={}, tag_rule=TAG)
    assert [(one.path, one.text) for one in row.cells] == [("plate.power", "75 hp")]
    assert not row.bad


@pytest.mark.parametrize("cell", ["0", "none", "see plate", "nan"])
def test_what_is_said_wrongly_is_told(cell):
    table = [["Tag", "FLA"], ["P-1", cell]]
    assert read_rows(table, guess(table[0]), rules=RuleSetName.NEC, job={}, tag_rule=TAG)[0].bad


def test_a_row_of_units_belongs_to_the_heads():
    body = b"Tag,Power,Current,Speed,Length\n,[kW],(A),r/min,m\nP-1,22,41,1475,85\n"
    table = read_table("list.csv", body)
    assert table[0] == ["Tag", "Power [kW]", "Current [A]", "Speed [r/min]", "Length [m]"]
    (row,) = read_rows(table, guess(table[0]), rules=RuleSetName.NEC, job={}, tag_rule=TAG)
    assert [one.text for one in row.cells] == ["22 kW", "41 A", "1475 r/min", "85 m"]
    for kept in (b"Tag,Drives,HP\n,pump,75\n", b"Tag,Drives\nA,m\n", b"Tag,HP\nP-1,75\n"):
        assert len(read_table("list.csv", kept)) == 2


def test_a_board_and_an_area_are_read_by_the_names_they_have():
    """As people's tables have them, in any capitals; what the job does not call so is told with the names it has."""
    demo = demo_job("harrowmere-lock.json")
    table = [
        ["Tag", "Board", "Motor area"],
        ["A-1", "digester MCC", "Pump house"],
        ["A-2", "MSB", "area 2"],
        ["A-3", "MCC 9", ""],
    ]
    rows = read_rows(table, guess(table[0]), rules=demo.rules, job=demo.facts, tag_rule=TAG)
    assert [[cell.text for cell in row.cells] for row in rows] == [["board_1", "area_1"], ["main", "area_2"], ["MCC 9"]]
    assert [row.bad for row in rows] == [False, False, True]
    assert "MSB, Digester MCC, Workshop" in rows[2].cells[0].error


def test_a_column_of_boards_is_read_only_where_the_job_has_one_of_them():
    """Of a job that has none of them every row would be in error: the column waits until they are there."""
    demo = demo_job("harrowmere-lock.json")
    table = [["Tag", "HP", "Fed from"], ["A-1", "5", "Digester MCC"], ["A-2", "5", "MCC 9"]]
    assert columns(table, demo.facts) == {0: "tag", 1: "plate.power", 2: "wiring.board"}
    assert columns(table, {}) == {0: "tag", 1: "plate.power"}
    assert columns([*table[:1], ["A-1", "5", "board 1"]], {})[2] == "wiring.board"


@pytest.mark.parametrize(
    ("head", "path"),
    [
        ("Motor HP", "plate.power"), ("Rated kW", "plate.power"), ("Rated power (kW)", "plate.power"),
        ("Starting method", "start.method"), ("Type of starter", "start.method"), ("Cable size", "wiring.size"),
        ("Wire size (AWG)", "wiring.size"), ("Cable Length (m)", "wiring.length"), ("KVA code", "plate.code_letter"),
        ("IP", "plate.protection"), ("Ist/In", "plate.starting_current_ratio"), ("Load (kW)", "load.power"),
        ("Load", "start.driven"), ("BHP", "load.power"), ("BkW", "load.power"), ("Phases", "plate.kind"),
        ("Driven machine", "start.driven"), ("Starts/h", "start.starts_per_hour"),
        ("Remarks", None), ("Qty", None), ("Location", None),
    ],
)  # fmt: skip
def test_heads_as_lists_of_motors_have_them(head, path):
    assert guess(["Tag", head]).get(1) == path


def test_a_count_of_phases_is_a_kind_and_letters_of_phases_are_not():
    """One phase may be of several kinds: asked back, where a three-phase cage would be taken."""
    table = [["Tag", "HP", "Phase"], ["A-1", "5", "3"], ["A-2", "1/2", "1"]]
    mapping = columns(table, {})
    assert mapping[2] == "plate.kind"
    rows = read_rows(table, mapping, rules=RuleSetName.NEC, job={}, tag_rule=TAG)
    assert [row.bad for row in rows] == [False, True]
    assert "say which" in rows[1].cells[1].error + rows[1].cells[0].error
    assert 2 not in columns([table[0], ["A-1", "5", "A"], ["A-2", "5", "B"]], {})


def test_a_tables_own_tags_go_before_the_numbers_of_its_rows():
    assert guess(["Item", "Tag", "Motor kW"]) == {1: "tag", 2: "plate.power"}
    assert guess(["Item", "Motor HP"]) == {0: "tag", 1: "plate.power"}
    table = [["Item", "Tag", "Motor kW"], ["1", "A-1", "30"]]
    (row,) = read_rows(table, guess(table[0]), rules=RuleSetName.NEC, job={}, tag_rule=TAG)
    assert (row.tag, row.cells[0].text) == ("A-1", "30 kW")


def test_a_way_to_start_is_read_and_refused_in_the_tables_own_words():
    table = [["Tag", "Starter"], ["A-1", "Star-Delta"], ["A-2", "DOL"], ["A-3", "by hand"]]
    rows = read_rows(table, guess(table[0]), rules=RuleSetName.IEC, job={}, tag_rule=TAG)
    assert [row.bad for row in rows] == [False, False, True]
    assert "star-delta" in rows[2].cells[0].error


def far_cells():
    """Two cells so far apart that a reader which fills between them would take ten gigabytes."""
    workbook = Workbook()
    workbook.active["A1"], workbook.active["B1"], workbook.active["XFD20000"] = "Tag", "HP", 1
    found = io.BytesIO()
    workbook.save(found)
    return found.getvalue()


def test_cells_far_apart_cost_nothing():
    assert read_table("far.xlsx", far_cells())[0][:2] == ["Tag", "HP"]


def test_what_unpacks_to_too_much_is_refused():
    found = io.BytesIO()
    with zipfile.ZipFile(found, "w", zipfile.ZIP_DEFLATED) as box:
        box.writestr("content.xml", b" " * 70_000_000)
    with pytest.raises(UnreadableSheet, match="unpacks"):
        read_table("bomb.ods", found.getvalue())


@pytest.mark.parametrize(
    ("name", "body", "says"),
    [
        ("a.xlsx", b"PK\x03\x04 not one", "no XLSX"),
        ("a.ods", b"hello", "no ODS"),
        ("a.csv", b"\0\0\0", "no text"),
        ("a.csv", b"", "no row"),
        ("a.csv", b"one\ntwo\n", "no row"),
        ("a.csv", ("Tag,HP\n" + "X,1\n" * (MOST_ROWS + 1)).encode(), "more than"),
        ("a.csv", b"x" * 4_000_001, "larger"),
    ],
)
def test_what_is_no_table_is_said(name, body, says):
    with pytest.raises(UnreadableSheet, match=says):
        read_table(name, body)


def test_what_is_written_is_read_back_and_nothing_becomes_a_formula():
    body = xlsx([("Sheet [1]", ["Tag", "Value"], [["=1+1", 2.5], ["@cmd", None], ["\x07bell", 3]])])
    sheet = load_workbook(io.BytesIO(body)).worksheets[0]
    assert [[cell.value for cell in row] for row in sheet.iter_rows()] == [
        ["Tag", "Value"],
        ["=1+1", 2.5],
        ["@cmd", None],
        ["bell", 3],
    ]
    assert sheet["A2"].data_type == "s"
    assert [csv_cell(one) for one in ("=x", "+x", "-x", "@x", "\tx", "x", None, 2)] == [
        "'=x",
        "'+x",
        "'-x",
        "'@x",
        "'\tx",
        "x",
        "",
        "2",
    ]


def test_a_table_that_is_too_wide_is_refused_and_not_cut():
    """Columns past the bound once went away without a word."""
    heads = ",".join(["Tag", "HP", *(f"c{n}" for n in range(397)), "Volts"])
    row = ",".join(["A-1", "5", *("1" for _ in range(397)), "460"])
    assert read_table("wide.csv", f"{heads}\n{row}\n".encode())[1][-1] == "460"
    with pytest.raises(UnreadableSheet, match="more than 400 columns"):
        read_table("wide.csv", f"{heads},more\n{row},1\n".encode())
    assert len(read_table("wide.csv", f"{heads}{',' * 90}\n{row}\n".encode())[0]) == 400
