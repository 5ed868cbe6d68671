"""Two writers on one draft: the second is told, and neither loses anything."""

import threading

import pytest

from tests.server import job_of, person, pump
from vinegate.store import drafts, jobs
from vinegate.store.database import database
from vinegate.store.drafts import Change, Writer
from vinegate.store.models import Role, Save

pytestmark = pytest.mark.usefixtures("connected")


def writer(page, sequence=1, seen=0):
    return Writer(page=page, sequence=sequence, seen_save=seen)


@pytest.fixture
def two():
    """Two designers on one circuit."""
    first = job_of(person("ines"), tam=Role.DESIGNER)
    circuit = pump(first)
    return first, jobs.open_job(person("tam"), first.job.id), circuit


def kept(access, path="plate.speed"):
    stage, _, name = path.partition(".")
    job = jobs.open_job(access.user, access.job.id)
    circuit = jobs.loads(jobs.circuit_by_tag(access, "P-11").facts)
    return ({**job.facts, **circuit}).get(stage, {}).get(name)


def test_a_change_is_kept_as_typed(two):
    ines, _, circuit = two
    saved = drafts.save(ines, circuit, {"plate.speed": Change(was="1185 rpm", now="1 190")}, writer("a"))
    assert (saved.conflicts, saved.circuit_version, saved.job_version) == ((), 2, 1)
    assert kept(ines) == "1 190"
    drafts.save(ines, circuit, {"plate.speed": Change(was="1 190", now="75 Q")}, writer("a", 2))
    assert kept(ines) == "75 Q"  # what cannot be read is kept too


def test_job_and_circuit_have_their_own_versions(two):
    ines, _, circuit = two
    saved = drafts.save(ines, circuit, {"limits.dip": Change(was="4 %", now="3 %")}, writer("a"))
    assert (saved.job_version, saved.circuit_version) == (2, 1)
    assert kept(ines, "limits.dip") == "3 %"


def test_emptying_a_field_takes_the_fact_away(two):
    ines, _, circuit = two
    drafts.save(ines, circuit, {"plate.speed": Change(was="1185 rpm", now="")}, writer("a"))
    assert kept(ines) is None


def test_different_fields_do_not_contest(two):
    ines, tam, circuit = two
    drafts.save(ines, circuit, {"plate.speed": Change(was="1185 rpm", now="1190")}, writer("a"))
    saved = drafts.save(tam, circuit, {"plate.power": Change(was="75 hp", now="60 hp")}, writer("b"))
    assert saved.conflicts == ()
    assert [(other.by, other.paths) for other in saved.others] == [("Ines", ("plate.speed",))]
    assert (kept(ines), kept(ines, "plate.power")) == ("1190", "60 hp")


def test_the_second_writer_of_a_field_is_told_and_loses_nothing(two):
    ines, tam, circuit = two
    drafts.save(ines, circuit, {"plate.speed": Change(was="1185 rpm", now="1190")}, writer("a"))
    changes = {"plate.speed": Change(was="1185 rpm", now="1170"), "plate.power": Change(was="75 hp", now="60 hp")}
    saved = drafts.save(tam, circuit, changes, writer("b"))
    (conflict,) = saved.conflicts
    assert (conflict.path, conflict.theirs, conflict.mine, conflict.by) == ("plate.speed", "1190", "1170", "Ines")
    assert kept(ines) == "1190"
    assert kept(ines, "plate.power") == "60 hp"  # the rest of the save stands
    newest = Save.select().order_by(Save.id.desc()).get()
    assert jobs.loads(newest.set_aside) == {"plate.speed": "1170"}


def test_a_repeated_save_changes_nothing(two):
    ines, _, circuit = two
    change = {"plate.speed": Change(was="1185 rpm", now="1190")}
    drafts.save(ines, circuit, change, writer("a"))
    again = drafts.save(ines, circuit, change, writer("a"))
    assert (again.conflicts, again.circuit_version) == ((), 2)


def test_a_writer_whose_answer_was_lost_does_not_contest_itself(two):
    ines, _, circuit = two
    drafts.save(ines, circuit, {"plate.speed": Change(was="1185 rpm", now="11")}, writer("a", 1))
    saved = drafts.save(ines, circuit, {"plate.speed": Change(was="1185 rpm", now="1190")}, writer("a", 2))
    assert saved.conflicts == ()
    assert kept(ines) == "1190"


def test_a_late_copy_of_an_older_save_does_not_win(two):
    ines, _, circuit = two
    drafts.save(ines, circuit, {"plate.speed": Change(was="1185 rpm", now="1190")}, writer("a", 2))
    late = drafts.save(ines, circuit, {"plate.speed": Change(was="1185 rpm", now="11")}, writer("a", 1))
    assert late.conflicts == ()
    assert kept(ines) == "1190"


def test_only_what_is_new_is_told(two):
    ines, tam, circuit = two
    drafts.save(ines, circuit, {"plate.speed": Change(was="1185 rpm", now="1190")}, writer("a"))
    seen = drafts.newest_save(tam)
    saved = drafts.save(tam, circuit, {"plate.power": Change(was="75 hp", now="60 hp")}, writer("b", 1, seen))
    assert saved.others == ()
    assert drafts.last_save(circuit).user.login == "tam"


def test_many_writers_at_once_lose_nothing(two, database_url):
    """Eight threads write eight fields of one circuit, each through every value up to its last."""
    ines, _, circuit = two
    fields = ["power", "volts", "speed", "leads", "efficiency", "power_factor", "design_letter", "service_factor"]
    original = jobs.loads(circuit.facts)["plate"]
    failures = []

    def write(name):
        try:
            with database.connection_context():
                was = original[name]
                for step in range(6):
                    now = f"{name} {step}"
                    drafts.save(ines, circuit, {f"plate.{name}": Change(was=was, now=now)}, writer(name, step + 1))
                    was = now
        except Exception as error:
            failures.append(error)

    threads = [threading.Thread(target=write, args=(name,)) for name in fields]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert failures == []
    plate = jobs.loads(jobs.circuit_by_tag(ines, "P-11").facts)["plate"]
    assert {name: plate[name] for name in fields} == {name: f"{name} 5" for name in fields}


def test_a_page_left_open_for_long_costs_no_more_queries_and_is_told_the_newest(two, monkeypatch):
    """Each save of another was looked up one by one: fifteen hundred took a second and a half."""
    ines, tam, circuit = two
    asked = []
    run = type(database.obj).execute_sql
    monkeypatch.setattr(
        type(database.obj), "execute_sql", lambda self, *more: asked.append(more[0]) or run(self, *more)
    )

    def costs(number):
        asked.clear()
        saved = drafts.save(tam, circuit, {"plate.frequency": Change(was="", now="")}, writer("old", number))
        return len(asked), saved.others

    counts = []
    speed = "1185 rpm"
    for number in range(1, 131):
        drafts.save(ines, circuit, {"plate.speed": Change(was=speed, now=f"{number} rpm")}, writer("a", number))
        speed = f"{number} rpm"
        if number in (2, 130):
            counts.append(costs(number)[0])
    assert counts[0] == counts[1]
    others = costs(200)[1]
    assert len(others) == 100
    newest = drafts.newest_save(tam, circuit)
    drafts.save(ines, circuit, {"plate.speed": Change(was=speed, now="1 rpm")}, writer("a", 300))
    assert len(drafts.others_since(tam, circuit, writer("old", 201, newest))) == 1


def test_saves_of_another_circuit_are_no_news_but_those_of_the_job_are(two):
    ines, tam, circuit = two
    other = pump(ines, "P-12")
    drafts.save(ines, other, {"plate.speed": Change(was="1185 rpm", now="1 rpm")}, writer("a"))
    assert drafts.others_since(tam, circuit, writer("b")) == ()
    drafts.save(ines, other, {"limits.dip": Change(was="4 %", now="3 %")}, writer("a", 2))
    assert [one.paths for one in drafts.others_since(tam, circuit, writer("b"))] == [("limits.dip",)]
