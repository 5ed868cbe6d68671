"""What the doctor says of a place where nothing was served, and of a secret others can read."""

from tests.fixtures import instance  # noqa: F401
from vinegate.doctor import examined


def test_an_empty_place_is_said_to_be_one(tmp_path):
    found = examined(tmp_path / "var", {})
    assert any("no directory" in one.text and not one.well for one in found)
    assert any("private database runs" in one.text and not one.well for one in found)


def test_a_secret_that_others_read_is_wrong(tmp_path):
    (tmp_path / "secret").write_text("x" * 64)
    (tmp_path / "secret").chmod(0o644)
    assert any("readable by its owner" in one.text and not one.well for one in examined(tmp_path, {}))
    (tmp_path / "secret").chmod(0o600)
    assert not any("readable by its owner" in one.text and not one.well for one in examined(tmp_path, {}))


def test_a_database_that_does_not_answer_is_a_finding(tmp_path):
    found = examined(tmp_path, {"VINEGATE_DATABASE_URL": "mysql://u:p@127.0.0.1:1/x", "VINEGATE_SECRET_KEY": "x" * 64})
    assert any("encrypted" in one.text and not one.well for one in found)
    assert any("Error" in one.text and not one.well for one in found)


def test_a_running_one_is_well(tmp_path, instance):  # noqa: F811
    from tests.server import fresh_database
    from vinegate.store.database import connect_to
    from vinegate.store.migrate import migrate

    with fresh_database(instance, "doctored") as url:
        connect_to(url)
        migrate()
        found = examined(tmp_path, {"VINEGATE_DATABASE_URL": url, "VINEGATE_SECRET_KEY": "x" * 64})
    assert [one.text for one in found if not one.well] == []
