"""A value that is written as only about so is read, and is assumed: on the sheet, in what follows, in the verdict."""

import ast
import re
from pathlib import Path

import pytest

import vinegate.core
from tests.core.good import GOOD
from vinegate.core.facts import RuleSetName, model_of, read_circuit, read_job
from vinegate.core.grade import Verdict
from vinegate.core.plan import plan_raw
from vinegate.core.quick.tools import TOOLS
from vinegate.core.roughly import exactly
from vinegate.core.start.stage import _LIMITS
from vinegate.core.supply.source import _STATED_IN
from vinegate.core.wiring.facts import Wiring
from vinegate.core.work import Kept
from vinegate.core.working import Provenance
from vinegate.demo import demo_job
from vinegate.exchange.columns import columns
from vinegate.exchange.spreadsheet import read_rows

NEC = GOOD["NEC, direct"]
LOCK = demo_job("harrowmere-lock.json")
P11 = dict(LOCK.circuits)["P-11"]


@pytest.mark.parametrize(
    "text",
    ["~60 m", "~ 60 m", "≈60 m", "approx 60 m", "approx. 60 m", "Approximately 60 m", "about 60 m", "abt. 60 m",
     "ca. 60 m", "c. 60 m", "circa 60 m", "est. 60 m", "say 60 m", "60 m approx.", "60 m (est.)", "60 m, estimated",
     "60 m?", "60 m (?)", "60 m tbc", "60m TBC", "assumed 60 m", "60 m assumed", "60 m to be confirmed"],
)  # fmt: skip
def test_a_rough_length_is_read_and_assumed(text):
    circuit, errors = read_circuit({"wiring": {"length": text}}, RuleSetName.IEC)
    assert not errors
    assert circuit.wiring.length_m == 60
    assert circuit.sources == {"wiring.length": Provenance.ASSUMED}
    assert exactly(text).replace(" ", "") == "60m"


@pytest.mark.parametrize(
    ("path", "text"),
    [
        ("wiring.length", "60 m"), ("plate.volts", "3~ 400 V"), ("plate.full_load_current", "9.6-8.9/4.4"),
        ("start.driven", "about 60 kW?"), ("plate.frame", "c.160M"), ("plate.code_letter", "G"),
    ],
)  # fmt: skip
def test_what_says_no_such_thing_is_as_it_was(path, text):
    part, _, name = path.partition(".")
    circuit, errors = read_circuit({part: {name: text}}, RuleSetName.IEC)
    assert not errors
    assert not circuit.sources


@pytest.mark.parametrize("text", ["~", "about", "~~60 m", "max 60 m", "60-70 m", "~sixty", "60 m ok", "approximate"])
def test_what_is_no_value_is_asked_back_as_before(text):
    errors = read_circuit({"wiring": {"length": text}}, RuleSetName.IEC)[1]
    assert [error.path for error in errors] == ["wiring.length"]
    assert errors[0].text == text


def test_what_an_instrument_showed_is_written_as_it_showed_it():
    assert read_circuit({"record_start": {"before": "~472 V"}}, RuleSetName.NEC)[1]
    assert not read_circuit({"record_start": {"before": "472 V"}}, RuleSetName.NEC)[1]


def test_its_writers_own_word_for_the_source_stands():
    raw = {"wiring": {"length": "~60 m"}, "sources": {"wiring.length": "measured"}}
    assert read_circuit(raw, RuleSetName.IEC)[0].sources == {"wiring.length": Provenance.MEASURED}


def test_a_jobs_facts_too():
    job, errors = read_job({"supply": {"fault_level": "~14 kA"}, "board_1": {"length": "ca. 55 m"}}, RuleSetName.NEC)
    assert not errors
    assert job.sources == dict.fromkeys(["supply.fault_level", "board_1.length"], Provenance.ASSUMED)


def test_a_rough_value_is_to_check_where_it_could_turn_a_verdict():
    """And only there: so much more or less of a run of 10 m turns nothing."""
    length = NEC({}).figure("wiring.length")
    rough = NEC({"wiring.length": f"~{1000 * length.value:g} ft"})
    assert rough.verdict is Verdict.CHECK
    assert (
        next(gate for gate in rough.gates if gate.key.endswith(".assumed.wiring.length")).turns.path == "wiring.length"
    )
    assert NEC({"wiring.length": "10 m"}).verdict is Verdict.PASSES
    assert NEC({"wiring.length": "~10 m"}).verdict is Verdict.PASSES


@pytest.mark.parametrize(
    ("path", "text", "key", "follows"),
    [
        ("wiring.length", "~62 m", "wiring.length", "protection.far_fault"),
        ("load.power", "~69 hp", "load.power_entered", "load.torque"),
        ("load.inertia", "3.2 kg·m² est", "load.inertia_entered", "load.inertia_total"),
        ("load.breakaway", "about 15 %", "load.breakaway", None),
        ("supply.fault_level", "~14 kA", "supply.fault_current", "supply.source_r"),
        ("supply.transformer_impedance", "5 %?", "supply.transformer_pct", "supply.source_x"),
        ("supply.transformer_x_over_r", "~4.5", "supply.transformer_x_over_r", "supply.source_x"),
        ("protection.overload", "~92 A", "overload.set", "overload.line"),
    ],
)
def test_the_sheet_says_assumed_and_so_does_what_follows(path, text, key, follows):
    part, _, name = path.partition(".")
    on_job = part == "supply"
    job = LOCK.facts | {part: LOCK.facts[part] | {name: text}} if on_job else LOCK.facts
    facts = P11 if on_job else P11 | {part: P11.get(part, {}) | {name: text}}
    plan = plan_raw(LOCK.rules, job, facts)
    assert plan.figure(key).provenance is Provenance.ASSUMED
    assert plan.figure(key).source == "entered, as assumed"
    exact = text.strip("~?").removesuffix(" est").removeprefix("about ")
    said = plan_raw(LOCK.rules, LOCK.facts | {part: LOCK.facts[part] | {name: exact}} if on_job else job,
                    P11 if on_job else P11 | {part: P11.get(part, {}) | {name: exact}})  # fmt: skip
    assert said.figure(key).provenance is Provenance.STATED
    assert plan.figure(key).value == said.figure(key).value
    if follows:
        assert plan.figure(follows).soft
        assert plan.figure(follows).value == said.figure(follows).value


def test_a_value_that_becomes_rough_is_planned_again():
    """It is the same number: what is kept must not stand for it."""
    kept = Kept()
    for text, provenance in (("62 m", Provenance.STATED), ("~62 m", Provenance.ASSUMED), ("62 m", Provenance.STATED)):
        plan = plan_raw(LOCK.rules, LOCK.facts, P11 | {"wiring": P11["wiring"] | {"length": text}}, kept=kept)
        assert plan.figure("wiring.length").provenance is provenance


def test_a_job_fact_that_becomes_rough_is_planned_again():
    kept = Kept()
    for text, provenance in (("5 %", Provenance.STATED), ("~5 %", Provenance.ASSUMED)):
        job = LOCK.facts | {"supply": LOCK.facts["supply"] | {"transformer_impedance": text}}
        plan = plan_raw(LOCK.rules, job, P11, kept=kept)
        assert plan.figure("supply.transformer_pct").provenance is provenance


@pytest.mark.parametrize(("cell", "metres"), [("~200", 60.96), ("200 approx", 60.96), ("~200 m", 200.0)])
def test_a_rough_cell_has_its_heads_unit(cell, metres):
    table = [["Tag", "HP", "Length (ft)"], ["P-1", "10", cell]]
    (row,) = read_rows(table, columns(table, {}), rules=RuleSetName.IEC, job={}, tag_rule=re.compile(".+"))
    found = {one.path: one.text for one in row.cells}["wiring.length"]
    assert not row.bad
    assert read_circuit({"wiring": {"length": found}}, RuleSetName.IEC)[0].wiring.length_m == pytest.approx(metres)
    assert exactly(found)


def test_the_field_says_what_it_took():
    fact = Wiring.fields()["length"]
    assert fact.echo("~200", us=True) == "= 200 ft, 61 m, assumed"
    assert fact.echo("200 ft (est.)", us=True) == "= 200 ft, assumed"
    assert fact.echo("200 ft", us=True) == ""


def test_each_figures_fact_is_one_that_there_is():
    """A path that names no fact would leave its figure "entered" for ever."""
    root = Path(vinegate.core.__file__).parent
    of_a_run = {*model_of("board_1").fields(), *model_of("wiring").fields()}
    said = {node.value for path in root.rglob("*.py") for call in ast.walk(ast.parse(path.read_text()))
            if isinstance(call, ast.keyword) and call.arg == "fact"
            for node in ast.walk(call.value) if isinstance(node, ast.Constant) and isinstance(node.value, str)}  # fmt: skip
    asked = {part for part in said if "." in part}
    assert len(asked) > 40
    for path in asked:
        part, _, name = path.partition(".")
        fields = TOOLS[part].facts.fields() if part in TOOLS else model_of(part).fields() if part else of_a_run
        assert name in fields or path == "supply.", path
    assert all(path.partition(".")[2] in model_of(path.partition(".")[0]).fields()
               for path in (*_STATED_IN.values(), *_LIMITS.values()))  # fmt: skip


@pytest.mark.parametrize(
    ("path", "text", "key"),
    [
        ("start.method", "~DOL", "full-voltage"), ("start.method", "D.O.L.?", "full-voltage"),
        ("supply.transformer_x_over_r", "~R/X 0.25", 4.0), ("load.kind", "hoist or winch (tbc)", "hoist"),
    ],
)  # fmt: skip
def test_what_is_no_bare_number_may_be_rough_too(path, text, key):
    part, _, name = path.partition(".")
    fact = model_of(part).fields()[name]
    assert fact.taken(text, us=True) == key
    assert fact.roughly(text, us=True)


def test_a_column_of_rough_values_is_its_facts():
    """Also under a symbol, that is taken for its fact by what stands beneath it."""
    table = [["Tag", "HP", "t_o"], ["P-1", "10", "~60 s"]]
    assert columns(table, {})[2] == "drive.overload_time"
