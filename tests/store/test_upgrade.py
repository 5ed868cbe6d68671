"""From the tables of every earlier program to these; never back, and never two programs at once."""

import threading

import pytest
from playhouse.migrations import Runner

from vinegate.store import accounts, chain, jobs, migrate
from vinegate.store.database import connect_to, database
from vinegate.store.migrate import CannotMigrate
from vinegate.store.models import TABLES, Circuit, Revision, Save

DIRECTORY = str(migrate._DIRECTORY)
EARLIER = [path.stem for path in sorted(migrate._DIRECTORY.glob("0*.py"))]
# Rows as the first program kept them, of a job with a circuit, a save, an issued plan and a line of its trail.
FIRST = """
INSERT INTO user VALUES (1, 'ines', 'Ines Okafor', 'x', 1, '2026-01-01');
INSERT INTO job VALUES (1, 'Harrowmere Lock', 'nec', '{"supply": {"volts": "480Y/277 V"}}', 3, '2026-01-01');
INSERT INTO membership VALUES (1, 1, 1, 'designer');
INSERT INTO circuit (id, job_id, tag, facts, version, updated_at)
  VALUES (1, 1, 'P-11', '{"plate": {"power": "75 hp"}}', 2, '2026-01-01');
INSERT INTO save (id, job_id, circuit_id, user_id, page, sequence, job_version, circuit_version, changes, set_aside,
  saved_at) VALUES (1, 1, 1, 1, 'p', 1, 3, 2, '{"plate.power": "75 hp"}', '{}', '2026-01-01');
INSERT INTO revision (id, circuit_id, number, rules, facts, plan, program_version, note, issued_by_id, issued_at)
  VALUES (1, 1, 1, 'nec', '{}', '{}', '0.1', 'first', 1, '2026-01-01');
INSERT INTO trail (id, job_id, circuit_id, user_id, action, detail, at)
  VALUES (1, 1, 1, 1, 'issued', 'revision A', '2026-01-01')
"""


@pytest.fixture
def empty(instance, request):
    """A database of its own, without tables. The one of before is pointed to again."""
    name = f"upgrade_{abs(hash(request.node.name))}"
    before = database.obj
    instance.ensure(name)
    connect_to(instance.url(name))
    yield
    with database.connection_context():
        database.execute_sql(f"DROP DATABASE {name}")
    database.close_all()
    if before is not None:
        database.initialize(before)


def columns():
    return {table._meta.table_name: {column.name for column in database.get_columns(table._meta.table_name)}
            for table in TABLES}  # fmt: skip


# What was kept by the first program lives through all of them; the step of the newest is taken alone too.
@pytest.mark.parametrize("begins", [EARLIER[0], EARLIER[-2]])
def test_what_an_earlier_program_kept_is_there_and_works(empty, begins):
    with database.connection_context():
        Runner(database.obj, DIRECTORY).up(EARLIER[0])
        for line in FIRST.strip().split(";\n"):
            database.execute_sql(line)
        Runner(database.obj, DIRECTORY).up(begins)
    assert migrate.migrate() == EARLIER[EARLIER.index(begins) + 1 :]
    with database.connection_context():
        assert columns() == {table._meta.table_name: {field.column_name for field in table._meta.sorted_fields}
                             for table in TABLES}  # fmt: skip
        ines = accounts.user_by_login("ines")
        access = jobs.open_job(ines, 1)
        assert jobs.loads(jobs.circuit_by_tag(access, "P-11").facts) == {"plate": {"power": "75 hp"}}
        assert (Revision.get().note, Save.get().of_job, Circuit.get().held) == ("first", True, 0)
        assert chain.seal(1) == 2  # the plan and the trail's line, kept before there was a chain
        assert chain.verify(1) == []


def test_an_older_program_does_not_touch_a_newer_ones_tables(empty):
    migrate.migrate()
    with database.connection_context():
        database.execute_sql("INSERT INTO schema_migration (name, applied) VALUES ('0099_later', NOW())")
    with pytest.raises(CannotMigrate, match="newer Vine Gate \\(0099_later\\)"):
        migrate.migrate()


def test_two_programs_at_once_bring_them_up_to_date_once(empty):
    found, begin = [], threading.Barrier(2)

    def one():
        begin.wait()
        found.append(migrate.migrate())

    both = [threading.Thread(target=one) for _ in range(2)]
    for each in both:
        each.start()
    for each in both:
        each.join()
    assert sorted(found) == [[], EARLIER]


def test_a_program_that_died_while_it_was_at_it_is_passed_over(empty):
    with database.connection_context():
        database.execute_sql(
            "CREATE TABLE migrating (id TINYINT PRIMARY KEY, holder CHAR(16) NOT NULL, until DATETIME(3) NOT NULL)"
        )
        database.execute_sql("INSERT INTO migrating VALUES (1, 'gone', NOW(3) - INTERVAL 1 SECOND)")
    assert migrate.migrate() == EARLIER
    with database.connection_context():
        assert database.execute_sql("SELECT COUNT(*) FROM migrating").fetchone()[0] == 0
