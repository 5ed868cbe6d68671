"""The command over files: what it prints, where it ends, and its exit codes."""

import io
import json
import subprocess
import sys
from importlib import resources
from pathlib import Path

import pytest

from tests.conftest import demo_job
from vinegate.cli import main, parser
from vinegate.cli.completing import completion
from vinegate.core.plan import plan_raw
from vinegate.core.quick.tools import TOOLS
from vinegate.core.replacement.stage import REPLACEMENT
from vinegate.exchange.circuit_file import read, write
from vinegate.exchange.comparing import compare_jobs
from vinegate.exchange.spreadsheet import read_table

LOCK = Path(str(resources.files("vinegate.demo") / "harrowmere-lock.json"))


@pytest.fixture
def changed(tmp_path):
    """A copy of the demo job with facts of circuits changed: the file."""

    def make(*changes, name="changed.json"):
        document = json.loads(LOCK.read_text())
        for tag, path, text in changes:
            part, _, key = path.partition(".")
            circuit = next(one for one in document["circuits"] if one["tag"] == tag)
            circuit.setdefault(part, {})[key] = text
        file = tmp_path / name
        file.write_text(json.dumps(document))
        return file

    return make


class TestPlan:
    def test_a_line_a_circuit(self, capsys):
        assert main(["plan", "--table", str(LOCK)]) == 0
        lines = capsys.readouterr().out.splitlines()
        assert lines[0].split()[:2] == ["Tag", "Drives"]
        assert [line.split()[0] for line in lines[1:]] == [tag for tag, _ in demo_job(LOCK.name).circuits]
        assert len({line.index("passes") for line in lines[1:] if "passes" in line}) == 1  # in one column

    def test_what_informs_stands_in_parentheses_and_what_counts_in_brackets(self, capsys):
        """P-12 is compared with a new motor: as many rows as the sheet judges, none of them of the circuit's verdict."""
        main(["plan", "--circuit", "P-12", str(LOCK)])
        said = capsys.readouterr().out.partition("\nReplacement\n")[2].partition("\n\n")[0].splitlines()
        marks = [line[2] for line in said if line.startswith(("  (", "  ["))]
        demo = demo_job(LOCK.name)
        compared = plan_raw(demo.rules, demo.facts, dict(demo.circuits)["P-12"]).of(REPLACEMENT)
        assert marks == ["("] * len(compared.rows)
        assert "  ( passes  ) Kind of machine: The same kind of supply and machine." in said

    def test_from_standard_input_and_under_the_other_rules(self, capsys, monkeypatch):
        monkeypatch.setattr(sys, "stdin", io.TextIOWrapper(io.BytesIO(LOCK.read_bytes())))
        assert main(["plan", "--json", "--as", "iec", "--circuit", "P-11", "-"]) in (0, 1)
        found = json.loads(capsys.readouterr().out)["circuits"]
        assert [one["plan"]["rules"] for one in found] == ["iec"]

    def test_a_reader_that_leaves_early_ends_it_quietly(self):
        """Far more than a pipe holds, of which one line is read."""
        command = [sys.executable, "-c", "from vinegate.cli import main; raise SystemExit(main())", "plan", str(LOCK)]
        with subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE) as run:
            assert run.stdout.readline().startswith(b"Harrowmere")
            run.stdout.close()
            assert run.stderr.read() == b""
            assert run.wait() == 1


class TestCheck:
    def test_nothing_is_said_of_what_is_well(self, capsys):
        assert main(["check", str(LOCK)]) == 0
        assert capsys.readouterr().out == ""

    def test_what_fails_is_said_with_its_remedy(self, capsys, changed):
        assert main(["check", str(changed(("P-12", "protection.overload", "200 A")))]) == 1
        assert capsys.readouterr().out.startswith("P-12: Overload setting")

    def test_what_cannot_be_read_is_said_by_its_path(self, capsys, changed):
        assert main(["check", str(changed(("P-12", "plate.power", "75 Q")))]) == 2
        assert "P-12: plate.power" in capsys.readouterr().err


class TestCompare:
    def test_a_job_against_itself(self, capsys):
        assert main(["compare", str(LOCK), str(LOCK)]) == 0
        assert capsys.readouterr().out == "The same.\n"

    def test_facts_answers_and_verdicts_that_changed_and_nothing_else(self, changed):
        old, new = (read(file.read_text()) for file in (LOCK, changed(("P-12", "protection.overload", "200 A"))))
        found = compare_jobs(old, new)
        assert [one.tag for one in found.circuits] == ["P-12"]
        (circuit,) = found.circuits
        assert [(one.name, one.was, one.now) for one in circuit.facts] == [("protection.overload", "", "200 A")]
        assert ("passes", "fails") in {(one.was, one.now) for one in circuit.verdicts}
        back = compare_jobs(new, old)
        assert {(one.key, one.now, one.was) for one in back.circuits[0].verdicts} == {
            (one.key, one.was, one.now) for one in circuit.verdicts
        }

    def test_a_fact_of_the_job_turns_every_circuit_that_rests_on_it(self):
        old = read(LOCK.read_text())
        new = type(old)(name=old.name, rules=old.rules, circuits=old.circuits[1:],
                        facts={**old.facts, "limits": {**old.facts["limits"], "dip": "0.4 %"}})  # fmt: skip
        found = compare_jobs(old, new)
        assert found.gone == ("P-11",)
        assert [one.name for one in found.job] == ["limits.dip"]
        assert any(one.key == "start.dip" and one.now == "fails" for c in found.circuits for one in c.verdicts)
        assert not any(one.facts for one in found.circuits)


class TestTables:
    @pytest.mark.parametrize("kind", ["csv", "xlsx"])
    def test_facts_go_out_and_come_back_the_same(self, tmp_path, kind):
        table, back = tmp_path / f"facts.{kind}", tmp_path / "back.json"
        assert main(["export", str(LOCK), "--what", "facts", "--as", kind, "-o", str(table)]) == 0
        emptied = tmp_path / "empty.json"
        job = read(LOCK.read_text())
        emptied.write_text(write(type(job)(name=job.name, rules=job.rules, facts=job.facts, circuits=())))
        assert main(["import", str(table), "--into", str(emptied), "-o", str(back)]) == 0
        there, here = dict(read(back.read_text()).circuits), dict(job.circuits)
        assert there.keys() == here.keys()
        for tag, facts in here.items():
            for part, fields in facts.items():
                if part.startswith(("record_", "sources")):
                    continue
                assert there[tag][part] == {name: str(text) for name, text in fields.items() if str(text)}, (tag, part)

    def test_the_schedule_is_what_the_plans_say(self, capsys):
        assert main(["export", str(LOCK)]) == 0
        table = read_table("schedule.csv", capsys.readouterr().out.encode())
        verdicts = {row[0]: row[table[0].index("Verdict")] for row in table[1:]}
        assert verdicts["P-11"] == "passes"
        assert verdicts["X-51"] == "check"

    def test_a_row_that_cannot_be_read_keeps_everything_out(self, tmp_path, capsys):
        table, out = tmp_path / "motors.csv", tmp_path / "out.json"
        table.write_text("Tag,HP,Volts\nA-1,5,460\nA-2,five,460\nA-1,3,460\n")
        assert main(["import", str(table), "-o", str(out)]) == 2
        said = capsys.readouterr().err
        assert "row 3, HP: " in said
        assert "row 4: The tag A-1 stands twice" in said
        assert not out.exists()

    def test_circuits_are_updated_by_tag_whatever_their_case(self, tmp_path):
        table, out = tmp_path / "motors.csv", tmp_path / "out.json"
        table.write_text("Tag;HP;colour\np-11;60;green\nZ-9;5;red\n")
        assert main(["import", str(table), "--into", str(LOCK), "-o", str(out)]) == 0
        found = dict(read(out.read_text()).circuits)
        assert found["P-11"]["plate"]["power"] == "60 hp"
        assert found["P-11"]["plate"]["speed"] == dict(demo_job(LOCK.name).circuits)["P-11"]["plate"]["speed"]
        assert found["Z-9"] == {"plate": {"power": "5 hp"}}


class TestCalc:
    def test_every_question_is_listed(self, capsys):
        assert main(["calc"]) == 0
        assert [line.split()[0] for line in capsys.readouterr().out.splitlines()] == list(TOOLS)

    def test_by_hand(self, capsys):
        """Letter G ends at 6.3 kVA/hp: 6.3·75·1000/(√3·460) = 593 A."""
        assert main(["calc", "letter", "letter=G", "power=75 hp", "volts=460 V", "phases=3"]) == 0
        out = capsys.readouterr().out
        assert "593 A" in out.splitlines()[0]
        assert "NEMA MG 1" in out

    @pytest.mark.parametrize("name", list(TOOLS))
    def test_without_facts_it_says_what_it_needs(self, name, capsys):
        assert main(["calc", name]) == 2
        said = capsys.readouterr().out
        assert "It needs:" in said
        assert all(f"  {field}=" in said for field, attribute in
                   zip(TOOLS[name].facts.fields(), TOOLS[name].facts.model_fields, strict=True)
                   if attribute in TOOLS[name].needs)  # fmt: skip

    def test_a_fact_it_does_not_ask_for_and_one_it_cannot_read(self, capsys):
        assert main(["calc", "letter", "colour=red"]) == 2
        assert "does not ask for colour" in capsys.readouterr().err
        assert main(["calc", "letter", "letter=G", "power=75 Q", "volts=460"]) == 2
        assert "letter.power" in capsys.readouterr().err


def test_a_shell_is_offered_every_command_and_option(tmp_path):
    script = tmp_path / "completion"
    script.write_text(completion(parser()))
    tried = f'source {script}; COMP_WORDS=(vinegate "$@"); COMP_CWORD=$#; _vinegate; echo "${{COMPREPLY[@]}}"'

    def offered(*words):
        run = ["bash", "-c", tried, "bash", *words]
        return subprocess.run(run, capture_output=True, text=True, check=True, cwd=tmp_path).stdout.split()

    assert {"plan", "calc", "backup"} <= set(offered(""))
    assert offered("pl") == ["plan"]
    assert offered("user", "re") == ["rename"]
    assert "letter" in offered("calc", "le")
    assert offered("plan", "--as", "ie") == ["iec"]
