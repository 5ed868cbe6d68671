"""Rows that are kept: planned again once the program plans otherwise."""

from vinegate.web.jobs import summaries
from vinegate.web.jobs.planned_by import planned_by


def test_a_changed_rule_or_table_has_another_mark(tmp_path):
    (tmp_path / "tables").mkdir()
    rule, table = tmp_path / "rule.py", tmp_path / "tables" / "one.csv"
    rule.write_text("LIMIT = 3\n")
    table.write_text("size,amps\n")
    marks = []
    for change in (lambda: None, lambda: rule.write_text("LIMIT = 4\n"), lambda: table.write_text("size,amps\n14,20\n"),
                   lambda: table.rename(tmp_path / "tables" / "two.csv")):  # fmt: skip
        change()
        planned_by.cache_clear()
        marks.append(planned_by(tmp_path))
    planned_by.cache_clear()
    assert len(set(marks)) == 4
    assert planned_by(tmp_path) == marks[-1]


def test_a_row_of_before_is_not_shown_by_rules_of_today(sign_in, monkeypatch):
    ines = sign_in("ines")
    assert ines.get("/jobs/1").status_code == 200
    made = []
    plain = summaries.row_of
    monkeypatch.setattr(summaries, "row_of", lambda *facts: made.append(facts) or plain(*facts))
    ines.get("/jobs/1")
    assert not made
    monkeypatch.setattr(summaries, "planned_by", lambda: "0.8.0+of another rule")
    assert ines.get("/jobs/1").status_code == 200
    assert made
