"""The open format: read, written, described; and the command that plans a file."""

import json
from importlib import resources
from pathlib import Path

import jsonschema
import pytest

from tests.conftest import planner
from vinegate.cli import main
from vinegate.drawing.stops_strip import stops_strip
from vinegate.exchange.circuit_file import (
    UnreadableFile,
    circuit_schema,
    plan_document,
    plan_from_document,
    plan_schema,
    read,
    write,
)

DOCS = Path(__file__).parents[2] / "docs"
DEMO = resources.files("vinegate.demo")
HARROWMERE = DEMO / "harrowmere-lock.json"


def test_write_then_read_is_the_same(demo_jobs):
    for job in demo_jobs:
        assert read(write(job)) == job


@pytest.mark.parametrize("name", ["harrowmere-lock.json", "skerry-sound.json"])
def test_demo_files_meet_the_published_schema(name):
    schema = json.loads((DOCS / "circuit.schema.json").read_text())
    jsonschema.validate(json.loads((DEMO / name).read_text()), schema)


def test_published_schemas_are_those_of_the_models():
    assert json.loads((DOCS / "circuit.schema.json").read_text()) == circuit_schema()
    assert json.loads((DOCS / "plan.schema.json").read_text()) == plan_schema()


def test_plans_meet_their_schema_and_survive_the_round_trip(demo_plans):
    schema = plan_schema()
    for plan in demo_plans.values():
        document = json.loads(json.dumps(plan_document(plan), allow_nan=False))
        jsonschema.validate(document, schema)
        assert plan_from_document(document) == plan


def test_a_plan_issued_before_the_stop_had_bands_still_opens(demo_plans):
    """As version 0.3 wrote its rows."""
    later = ("on_failure", "steps", "acting", "least_s", "turns", "peak_nm", "strip_nm", "strip_a", "strip_kj")
    for plan in demo_plans.values():
        document = json.loads(json.dumps(plan_document(plan)))
        for row in document["stopping"]["rows"] if plan.stopping else ():
            for name in (*later, "band_s", "band_pct"):
                del row[name]
            row["light_s"] = 1.0
        old = plan_from_document(document).stopping
        if plan.stopping and plan.stopping.used.time_s is not None:
            assert stops_strip(old).title == stops_strip(plan.stopping).title


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("{", "line 1, column 2: not JSON"),
        ("[]", "the file: an object is expected"),
        ('{"format": "other/9"}', "this program reads 'vinegate/1' and 'vinegate/2'"),
        ('{"format": "vinegate/1", "job": {"rules": "xyz"}, "circuits": []}', "job.rules: 'xyz' is none of nec, iec"),
        ('{"format": "vinegate/1", "job": {"rules": "nec", "suply": {}}, "circuits": []}', "job.suply: not a part"),
        ('{"format": "vinegate/1", "job": {"rules": "nec"}, "circuits": [{}]}', "circuits[0].tag"),
        (
            '{"format": "vinegate/1", "job": {"rules": "nec"}, "circuits": [{"tag": "../x"}]}',
            "circuits[0].tag: A tag has",
        ),
        (
            '{"format": "vinegate/1", "job": {"rules": "nec"}, "circuits": [{"tag": "A"}, {"tag": "a"}]}',
            "the tag a stands twice",
        ),
        (
            '{"format": "vinegate/1", "job": {"rules": "nec"}, "circuits": [{"tag": "A", "plate": {"power": []}}]}',
            "circuits[0].plate.power",
        ),
    ],
)
def test_says_where_a_file_cannot_be_read(text, words):
    with pytest.raises(UnreadableFile) as caught:
        read(text)
    assert words in str(caught.value)


def changed(tmp_path, path, text):
    document = json.loads(HARROWMERE.read_text())
    document["circuits"] = document["circuits"][:1]
    stage, _, name = path.partition(".")
    owner = document["job"] if stage in document["job"] else document["circuits"][0]
    owner[stage][name] = text
    file = tmp_path / "job.json"
    file.write_text(json.dumps(document))
    return str(file)


def test_plan_prints_the_working_and_exits_0(capsys, tmp_path):
    assert main(["plan", changed(tmp_path, "limits.dip", "6 %")]) == 0
    printed = capsys.readouterr().out
    assert "Harrowmere Lock / P-11" in printed
    assert "1000·k·P/(√3·U_N) = 1000·6.3·75/(√3·460) = 593 A" in printed
    assert "Planning aid, not an approval" in printed


def test_exit_1_when_a_gate_is_shut(capsys, tmp_path):
    assert main(["plan", changed(tmp_path, "limits.dip", "0.1 %"), "--json"]) == 1
    plan = json.loads(capsys.readouterr().out)["circuits"][0]["plan"]
    jsonschema.validate(plan, plan_schema())


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["nowhere.json"], "nowhere.json: No such file"),
        ([str(HARROWMERE), "--circuit", "Z-9"], "no circuit Z-9"),
    ],
)
def test_exit_2_with_the_reason(capsys, arguments, words):
    assert main(["plan", *arguments]) == 2
    assert words in capsys.readouterr().err


def test_exit_2_for_a_fact_that_cannot_be_read(capsys, tmp_path):
    assert main(["plan", changed(tmp_path, "plate.power", "75 Q")]) == 2
    streams = capsys.readouterr()
    assert "P-11: plate.power: “Q” is not a unit of power" in streams.err
    assert "Poles" in streams.out  # what does not need the power is still printed


LISTS = {"format": "vinegate/2", "job": {"rules": "iec", "boards": [{"key": "board_12", "name": "pier", "fed_from": "board_3"},
         {"key": "board_3", "size": "95 mm²"}], "areas": [{"key": "area_7", "status": "zone"}]}, "circuits": []}  # fmt: skip


def test_boards_and_areas_are_lists_of_any_length():
    """Written in the order of their numbers, whatever their order in the file; twelve is after three."""
    job = read(json.dumps(LISTS))
    assert job.facts["board_12"] == {"name": "pier", "fed_from": "board_3"}
    written = json.loads(write(job))["job"]
    assert [board["key"] for board in written["boards"]] == ["board_3", "board_12"]
    assert written["areas"] == LISTS["job"]["areas"]
    assert read(write(job)) == job
    jsonschema.validate(json.loads(write(job)), circuit_schema())


def test_the_first_format_is_read_for_ever():
    parts = {"board_1": {"name": "pier"}, "area_4": {"status": "zone"}}
    old = read(json.dumps({"format": "vinegate/1", "job": {"rules": "iec", **parts}, "circuits": []}))
    new = {"boards": [{"key": "board_1", "name": "pier"}], "areas": [{"key": "area_4", "status": "zone"}]}
    assert old == read(json.dumps({"format": "vinegate/2", "job": {"rules": "iec", **new}, "circuits": []}))


@pytest.mark.parametrize(
    ("job", "place"),
    [
        ({"boards": {}}, "job.boards: a list"),
        ({"boards": [{"name": "pier"}]}, r"job.boards\[0\].key: board_1 to board_999"),
        ({"boards": [{"key": "area_1"}]}, r"job.boards\[0\].key"),
        ({"boards": [{"key": "board_1"}, {"key": "board_1"}]}, "board_1 stands twice"),
        ({"areas": [{"key": "area_0"}]}, r"job.areas\[0\].key"),
        ({"board_1": {}}, "job.board_1: not a part"),
    ],
)
def test_lists_that_are_not_say_where(job, place):
    with pytest.raises(UnreadableFile, match=place):
        read(json.dumps({"format": "vinegate/2", "job": {"rules": "iec", **job}, "circuits": []}))


@pytest.mark.parametrize("tag", ["H-1", "F-3"])
def test_a_plan_is_strict_where_a_weaker_machine_would_hang(tag):
    """Of a motor whose torques nobody gave: once the heat of its start had no end, which no JSON has."""
    bare = dict.fromkeys(
        ("plate.design_letter", "machine.locked_rotor_torque", "machine.pull_up_torque", "machine.breakdown_torque",
         "load.power")
    )  # fmt: skip
    plan = planner("skerry-sound.json", tag)(bare | {"load.breakaway": "90 %"})
    text = json.dumps(plan_document(plan), allow_nan=False)
    assert json.loads(text)["comparison"]["chosen"]
