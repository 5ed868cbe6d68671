"""Accounts, membership, circuits, revisions, on a real MariaDB."""

import pytest
from peewee import DatabaseError

from tests.server import PASSWORD, job_of, person, pump
from vinegate.core.facts import RuleSetName
from vinegate.store import accounts, drafts, jobs, revisions, shelf
from vinegate.store.database import BadDatabaseUrl, connect_to, database
from vinegate.store.migrate import migrate
from vinegate.store.models import TABLES, Revision, Role

pytestmark = pytest.mark.usefixtures("connected")


def test_migrations_from_empty_make_the_models_tables():
    existing = {table: {column.name for column in database.get_columns(table)} for table in database.get_tables()}
    for model in TABLES:
        assert set(model._meta.columns) == existing[model._meta.table_name]
    assert migrate() == []  # a second time there is nothing to do


def test_tables_compare_text_by_the_stated_collation():
    row = database.execute_sql(
        "SELECT DEFAULT_COLLATION_NAME FROM information_schema.SCHEMATA WHERE SCHEMA_NAME = DATABASE()"
    )
    assert row.fetchone() == ("utf8mb4_unicode_ci",)


def test_durable_settings():
    assert database.execute_sql("SELECT @@innodb_flush_log_at_trx_commit").fetchone() == (1,)


def test_password_is_hashed_and_checked():
    user = person("ines")
    assert user.password_hash.startswith("$argon2id$")
    assert accounts.authenticate("ines", PASSWORD).id == user.id
    assert accounts.authenticate("ines", "wrong") is None
    assert accounts.authenticate("nobody", PASSWORD) is None
    with pytest.raises(accounts.LoginTaken):
        accounts.create_user(login="INES", name="Another", password=PASSWORD)  # the collation ignores case


def test_a_job_is_reached_by_its_members_alone():
    access = job_of(person("ines"), ruth=Role.REVIEWER)
    assert jobs.open_job(person("ruth"), access.job.id).role is Role.REVIEWER
    for outsider, job_id in ((person("tam"), access.job.id), (person("ines"), 999_999)):
        with pytest.raises(jobs.NotAMember):
            jobs.open_job(outsider, job_id)
    assert access.job.id not in [row.job.id for row in jobs.jobs_of(person("tam"))]


def test_list_of_jobs_counts_circuits():
    access = job_of(person("ines"))
    pump(access)
    pump(access, "P-12")
    row = next(row for row in jobs.jobs_of(access.user) if row.job.id == access.job.id)
    assert (row.circuits, row.role) == (2, Role.DESIGNER)


def test_a_role_can_be_changed_and_is_kept_once():
    access = job_of(person("ines"), tam=Role.VIEWER)
    jobs.set_member(access, person("tam"), Role.DESIGNER)
    assert [(m.user.login, m.role) for m in jobs.members(access)] == [("ines", "designer"), ("tam", "designer")]
    assert [row.action for row in jobs.trail(access)][:2] == ["member", "member"]


def test_tags_are_unique_in_a_job():
    access = job_of(person("ines"))
    pump(access)
    with pytest.raises(jobs.TagTaken):
        pump(access)
    pump(job_of(person("ines")))  # another job may have it
    with pytest.raises(jobs.NotAMember):
        jobs.circuit_by_tag(access, "P-99")


def issue(access, circuit, number):
    return revisions.issue(
        access, circuit, number=number, seen=(1, 1), facts={"job": {}}, plan={"x": 1}, program_version="0", note="first"
    )


@pytest.mark.parametrize("count", [3, 14])  # asked by their numbers, and by the job
def test_of_many_circuits_each_has_its_own_newest_revision(count):
    """Neither another circuit's, nor another job's of the same tag."""
    for access in (job_of(person("ines")), job_of(person("ines"))):
        rows = [jobs.create_circuit(access, tag=f"M-{number}", facts={}) for number in range(count)]
        issue(access, rows[1], 1)
        issue(access, rows[1], 2)
        found = revisions.states(rows, access.job.facts, {row.id: row.facts for row in rows})
        assert [found[row.id].letter for row in rows] == ["B" if place == 1 else "" for place in range(count)]


def test_issued_revisions_never_change():
    access = job_of(person("ines"))
    circuit = pump(access)
    row = issue(access, circuit, 1)
    with pytest.raises(DatabaseError, match="never changes"):
        Revision.update(plan="{}").where(Revision.id == row.id).execute()
    with pytest.raises(DatabaseError, match="never changes"):
        Revision.delete().where(Revision.id == row.id).execute()
    assert jobs.loads(revisions.revision(circuit, 1).plan) == {"x": 1}


def test_issuing_twice_gives_one_revision():
    access = job_of(person("ines"))
    circuit = pump(access)
    issue(access, circuit, 1)
    with pytest.raises(revisions.AlreadyIssued):
        issue(access, circuit, 1)
    with pytest.raises(revisions.AlreadyIssued):
        issue(access, circuit, 3)
    issue(access, circuit, 2)
    assert [row.letter for row in revisions.revisions(circuit)] == ["B", "A"]


def test_a_review_stands_beside_the_revision():
    access = job_of(person("ines"), ruth=Role.REVIEWER)
    circuit = pump(access)
    row = issue(access, circuit, 1)
    reviewer = jobs.open_job(person("ruth"), access.job.id)
    revisions.review(reviewer, circuit, row, accepted=False, note="length?")
    revisions.review(reviewer, circuit, row, accepted=True, note="")
    assert [(r.user.login, r.accepted) for r in revisions.reviews(row)] == [("ruth", False), ("ruth", True)]
    assert [row.action for row in jobs.trail(access)][:2] == ["accepted", "sent back"]


def test_a_job_keeps_its_rules_and_facts():
    access = job_of(person("ines"))
    assert access.rules is RuleSetName.NEC
    assert access.facts["supply"]["fault_level"] == "14 kA"


@pytest.mark.parametrize("url", ["postgres://x/y", "mysql://host/", "mysql://host/db?what=1"])
def test_a_wrong_database_url_is_refused(url, database_url):
    with pytest.raises(BadDatabaseUrl):
        connect_to(url)


def test_what_one_changed_last_comes_first_and_what_is_gone_does_not():
    access = job_of(person("ines"), tam=Role.DESIGNER)
    circuits = [pump(access, tag) for tag in ("P-11", "P-12", "P-13")]
    for sequence, at in enumerate((0, 1, 2, 0), 1):
        was = "1185 rpm" if sequence < 4 else str(1185 + 1)
        change = drafts.Change(was=was, now=str(1185 + sequence))
        drafts.save(
            access, circuits[at], {"plate.speed": change}, drafts.Writer(page="a", sequence=sequence, seen_save=0)
        )
    assert tags_of(access) == ["P-11", "P-13", "P-12"]
    jobs.take_away(access, ["P-13"])
    assert tags_of(access) == ["P-11", "P-12"]
    assert tags_of(jobs.open_job(person("tam"), access.job.id)) == []  # another's changes are not one's own
    shelf.take_away(access)
    assert tags_of(access) == []


def tags_of(access):
    return [one.tag for one in shelf.lately(access.user) if one.job_id == access.job.id]
