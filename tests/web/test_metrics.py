"""Counts and health: what is said, and what is not."""

import json
import logging

from vinegate.web import Config, create_app


def test_it_lives_and_is_ready(app):
    client = app.test_client()
    for path in ("/health", "/health/live", "/health/ready"):
        answer = client.get(path)
        assert (answer.status_code, answer.data) == (200, b"ok\n")
    assert client.get("/metrics").status_code == 404


def test_it_lives_without_its_database_and_is_not_ready(database_url):
    app = create_app(
        Config(secret_key="test", database_url="mysql://u:p@127.0.0.1:1/x", limit_sign_in=False, beside=False)
    )
    try:
        client = app.test_client()
        assert client.get("/health/live").status_code == 200
        assert client.get("/health/ready").status_code == 503
    finally:
        create_app(Config(secret_key="test", database_url=database_url, limit_sign_in=False, beside=False))


def test_requests_are_counted_by_endpoint_and_name_nothing(database_url):
    app = create_app(
        Config(secret_key="test", database_url=database_url, metrics=True, limit_sign_in=False, beside=False)
    )
    client = app.test_client()
    ids = {client.get("/quick/?plate.power=75+hp").headers["X-Request-Id"] for _ in range(3)}
    assert len(ids) == 3
    text = client.get("/metrics").get_data(as_text=True)
    assert 'vinegate_requests_total{endpoint="quick.show",status="2xx"} 3' in text
    assert 'le="+Inf"} 3' in text
    assert "75" not in text.partition("vinegate_request_seconds")[0].replace("0.75", "")


def test_what_breaks_is_one_line_of_json(app, monkeypatch, caplog):
    import vinegate.web.pages.views as pages

    def broken(text):
        raise RuntimeError("on purpose")

    monkeypatch.setattr(pages, "shelf", broken)
    with caplog.at_level(logging.WARNING, "vinegate.requests"):
        answer = app.test_client().get("/codes?q=secret-thing")
    assert answer.status_code == 500
    line = json.loads(next(record.getMessage() for record in caplog.records if record.name == "vinegate.requests"))
    assert line["endpoint"] == "pages.codes"
    assert line["id"] == answer.headers["X-Request-Id"]
    assert "secret-thing" not in json.dumps(line)


def test_a_slow_plan_is_known_by_a_digest_of_its_facts(app, monkeypatch, caplog):
    from vinegate.web import metrics

    with app.test_request_context(), caplog.at_level(logging.WARNING, "vinegate.requests"):
        metrics.slow_plan(0.1, {}, {"plate": {"power": "75 hp"}})
        assert caplog.records == []
        for facts in ({"plate": {"power": "75 hp"}}, {"plate": {"power": "75 hp"}}, {"plate": {"power": "76 hp"}}):
            metrics.slow_plan(0.7, {}, facts)
    same, again, other = (json.loads(record.getMessage())["facts"] for record in caplog.records)
    assert same == again != other
    assert "75" not in caplog.text.replace(same, "").replace(other, "")
