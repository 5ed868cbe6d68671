"""Several servers of one database: which is asked, what is passed over, what is left behind when one is lost."""

import pytest
from peewee import OperationalError

from vinegate.store.database import BadDatabaseUrl, _again, connect_to, database, transaction
from vinegate.store.hosts import Hosts, read_hosts, serves
from vinegate.store.models import Job

pytestmark = pytest.mark.usefixtures("connected")


@pytest.mark.parametrize(
    ("text", "hosts"),
    [
        ("", [("127.0.0.1", 3306)]),
        ("db", [("db", 3306)]),
        ("db-1:3310,db-2", [("db-1", 3310), ("db-2", 3306)]),
        ("[::1]:3307, 10.0.0.5", [("::1", 3307), ("10.0.0.5", 3306)]),
    ],
)
def test_hosts_are_read(text, hosts):
    assert read_hosts(text) == hosts


@pytest.mark.parametrize("text", ["db:99999", "db:", "db,,db", "d b", "db:3306:1"])
def test_what_is_no_host_is_refused(text):
    with pytest.raises(BadDatabaseUrl, match="no readable host"):
        connect_to(f"mysql://u:p@{text}/x")


def test_one_that_failed_lately_is_asked_last(monkeypatch):
    now = [100.0]
    monkeypatch.setattr("vinegate.store.hosts.time.monotonic", lambda: now[0])
    found = Hosts([("a", 1), ("b", 1), ("c", 1)])
    found.failed(("a", 1))
    assert found.in_order() == [("b", 1), ("c", 1), ("a", 1)]
    now[0] += 5
    assert found.in_order() == [("a", 1), ("b", 1), ("c", 1)]


def test_a_server_alone_serves_and_one_that_is_gone_does_not():
    connection = database.obj._connect()
    assert serves(connection)
    connection.close()
    assert not serves(connection)


def test_a_lost_connection_is_replaced_within_its_block():
    """Its end looked for the block it closes, and found none."""
    with database.connection_context():
        before = database.connection()
        database.obj.lost()
        database.connect()
        assert database.connection() is not before
        assert Job.select().count() >= 0


def test_where_no_server_answers_that_is_what_its_block_says(monkeypatch):
    """The block's end failed itself, and hid that the database is away."""

    def refused():
        raise OperationalError(2003, "refused")

    monkeypatch.setattr(database.obj, "_connect", refused)

    @database.connection_context()
    def work():
        database.obj.lost()
        database.connect()

    with pytest.raises(OperationalError, match="refused"):
        work()


class Several:
    """As many servers, all this one."""

    def __enter__(self):
        self.hosts, database.obj.hosts = database.obj.hosts, Hosts([("a", 1), ("b", 1)])

    def __exit__(self, *_):
        database.obj.hosts = self.hosts


def test_what_was_told_to_keep_nothing_yet_is_run_again_on_another_server():
    ran = []

    @transaction
    def work():
        ran.append(database.connection())
        if len(ran) == 1:
            raise OperationalError(1047, "not prepared")
        return "kept"

    with Several():
        assert work() == "kept"
    assert ran[0] is not ran[1]


def test_one_server_that_is_gone_is_not_waited_for():
    ran = []

    @transaction
    def work():
        ran.append(1)
        raise OperationalError(2006, "gone")

    with pytest.raises(OperationalError):
        work()
    assert ran == [1]


@pytest.mark.parametrize(
    ("code", "keeping", "again"), [(1213, True, True), (1213, False, True), (2013, True, False), (1062, False, False)]
)
def test_what_may_have_been_kept_is_the_askers_to_send_again(code, keeping, again):
    """A deadlock at the commit has kept nothing; a server lost there may have."""
    with Several():
        assert _again(OperationalError(code, ""), keeping=keeping) is again
    database.connect(reuse_if_open=True)
