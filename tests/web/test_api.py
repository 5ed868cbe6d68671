"""The HTTP interface: tokens, problems with paths, entity tags, and a walk over all of it with odd requests."""

import json
import random
import re

import pytest

from tests.server import job_of, person, pump
from tests.web.test_starter import text_of
from vinegate.store import once, tokens
from vinegate.store.database import database
from vinegate.store.models import Role, Token
from vinegate.web.api.openapi import document

FACTS = {
    "rules": "nec",
    "job": {"supply": {"volts": "480", "frequency": 60}},
    "circuit": {"plate": {"power": "75 hp", "volts": 460, "full_load_current": "92"}},
}


@pytest.fixture
def job(world):
    with database.connection_context():
        access = job_of(person("ines"), tam=Role.VIEWER)
        pump(access)
        found = access.job.id
    database.close_all()
    return found


def token(login, *, writes=True):
    with database.connection_context():
        found = tokens.make(person(login), name="test", days=1, writes=writes)
    return {"Authorization": f"Bearer {found}"}


@pytest.fixture
def ask(app):
    client = app.test_client()

    def send(method, path, headers=None, **more):
        answer = client.open(f"/api/v1{path}", method=method, headers=headers or {}, **more)
        return answer, (answer.json if "json" in (answer.mimetype or "") else None)

    return send


def test_a_plan_without_keeping(ask):
    answer, plan = ask("POST", "/plan", token("ines", writes=False), json=FACTS)
    assert answer.status_code == 200
    assert plan["rules"] == "nec"
    assert any(
        figure["key"] == "plate.current" and figure["value"] == 92
        for stage in plan["stages"]
        for figure in stage["figures"]
    )


class TestOnce:
    def jobs(self, ask, who):
        return [one["name"] for one in ask("GET", "/jobs", who)[1]["jobs"]]

    def test_a_job_is_made_once_however_often_it_is_sent(self, ask, job):
        who = token("ines")
        key = who | {"Idempotency-Key": "a-1"}
        first, made = ask("POST", "/jobs", key, json={"name": "Yard 9", "rules": "iec"})
        again, same = ask("POST", "/jobs", key, json={"name": "Yard 9", "rules": "iec"})
        assert (first.status_code, again.status_code, same) == (201, 201, made)
        assert "Idempotent-Replayed" not in first.headers
        assert again.headers["Idempotent-Replayed"] == "true"
        assert self.jobs(ask, who).count("Yard 9") == 1
        ask("POST", "/jobs", who, json={"name": "Yard 9", "rules": "iec"})  # without a key it is another
        assert self.jobs(ask, who).count("Yard 9") == 2
        other = token("ines") | {"Idempotency-Key": "a-1"}  # a key belongs to its token
        assert ask("POST", "/jobs", other, json={"name": "Yard 9", "rules": "iec"})[1]["id"] != made["id"]

    def test_another_request_with_the_same_key_is_refused(self, ask, job):
        key = token("ines") | {"Idempotency-Key": "b-1"}
        ask("POST", "/jobs", key, json={"name": "Yard", "rules": "iec"})
        answer, problem = ask("POST", "/jobs", key, json={"name": "Other", "rules": "iec"})
        assert answer.status_code == 422
        assert problem["title"] == "This key was used for another request"
        assert ask("POST", "/jobs", key | {"Idempotency-Key": "x" * 81}, json={})[0].status_code == 422

    def test_what_was_refused_is_refused_again_with_the_same_words(self, ask, job):
        key = token("ines") | {"Idempotency-Key": "c-1"}
        both = [ask("POST", f"/jobs/{job}/circuits", key, json={"tag": "../x"}) for _ in range(2)]
        assert [answer.status_code for answer, _ in both] == [422, 422]
        assert both[0][1] == both[1][1]

    def test_what_is_being_worked_is_said_to_be(self, ask, job):
        who = token("ines")
        with database.connection_context():
            number = tokens.bearer(who["Authorization"].partition(" ")[2]).token
            body = json.dumps({"name": "Yard", "rules": "iec"}).encode()
            assert once.begin(number, "d-1", b"POST /api/v1/jobs\n" + body) is None
        sent = {"data": body, "content_type": "application/json"}
        assert ask("POST", "/jobs", who | {"Idempotency-Key": "d-1"}, **sent)[0].status_code == 409
        with database.connection_context():
            once.end(number, "d-1", 500, "")
        assert ask("POST", "/jobs", who | {"Idempotency-Key": "d-1"}, **sent)[0].status_code == 201


def test_a_job_goes_out_whole_and_as_rows(ask, job):
    who = token("tam", writes=False)
    assert ask("GET", f"/jobs/{job}/file", who)[1]["format"] == "vinegate/2"
    (row,) = ask("GET", f"/jobs/{job}/schedule", who)[1]["rows"]
    assert row["tag"] == "P-11"
    assert row["being_planned"] or row["figures"]["power"]["shown"] == "75 hp"


def test_a_circuit_is_taken_away_by_a_designer_alone(ask, job):
    assert ask("DELETE", f"/jobs/{job}/circuits/P-11", token("tam"))[0].status_code == 403
    ines = token("ines")
    assert ask("DELETE", f"/jobs/{job}/circuits/P-11", ines)[0].status_code == 200
    assert ask("GET", f"/jobs/{job}/circuits/P-11", ines)[0].status_code == 404
    assert ask("DELETE", f"/jobs/{job}/circuits/P-11", ines)[0].status_code == 404


@pytest.mark.parametrize(
    "header",
    [
        {},
        {"Authorization": "Bearer vg_nothing"},
        {"Authorization": "Basic x"},
        {"Authorization": "Bearer " + "x" * 5000},
    ],
)
def test_without_a_token_nothing_is_told(ask, job, header):
    for method, path in (("GET", "/jobs"), ("POST", "/plan"), ("GET", f"/jobs/{job}/circuits/P-11")):
        answer, problem = ask(method, path, header)
        assert answer.status_code == 401
        assert answer.mimetype == "application/problem+json"
        assert "Bearer" in answer.headers["WWW-Authenticate"]
        assert problem["title"] == "A token is asked"


def test_a_token_ends_is_revoked_and_reads_only_unless_it_may_write(ask, job):
    reads = token("ines", writes=False)
    assert ask("PATCH", f"/jobs/{job}/circuits/P-11", reads, json={})[0].status_code == 403
    with database.connection_context():
        number = Token.select().order_by(Token.id.desc()).first().id
        tokens.revoke(person("tam"), number)
    assert ask("GET", "/jobs", reads)[0].status_code == 200
    with database.connection_context():
        tokens.revoke(person("ines"), number)
    assert ask("GET", "/jobs", reads)[0].status_code == 401
    old = token("ines")
    with database.connection_context():
        Token.update(ends_at="2020-01-01").execute()
    assert ask("GET", "/jobs", old)[0].status_code == 401


def test_only_the_digest_is_kept():
    text = token("ines")["Authorization"].split()[1]
    with database.connection_context():
        assert all(text not in str(row.__data__) for row in Token.select())


def test_facts_are_changed_by_path_and_only_what_was_seen(ask, job):
    mine, here = token("ines"), f"/jobs/{job}/circuits/P-11"
    answer, circuit = ask("GET", here, mine)
    tag = answer.headers["ETag"]
    answer, changed = ask(
        "PATCH", here, {**mine, "If-Match": tag}, json={"plate.speed": "1180 rpm", "plate.frame": None}
    )
    assert answer.status_code == 200
    assert changed["facts"]["plate"]["speed"] == "1180 rpm"
    assert "frame" not in changed["facts"]["plate"]
    assert changed["version"] == circuit["version"] + 1
    assert ask("PATCH", here, {**mine, "If-Match": tag}, json={"plate.speed": "1"})[0].status_code == 412
    _, changed = ask("PATCH", here, mine, json={"start.method": "star-delta", "plate.kind": "3~"})
    assert (changed["facts"]["start"]["method"], changed["facts"]["plate"]["kind"]) == ("wye-delta", "cage")
    answer, problem = ask("PATCH", here, mine, json={"plate.horses": "9"})
    assert (answer.status_code, problem["errors"][0]["path"]) == (422, "plate.horses")
    assert ask("PATCH", here, mine, json={"record_start.time": "1 s"})[0].status_code == 422
    assert ask("PATCH", here, token("tam"), json={"plate.speed": "1"})[0].status_code == 403


def test_a_circuit_sent_twice_is_one(ask, job):
    mine, new = token("ines"), {"tag": "Q-7", "facts": {"plate": {"power": "10 hp"}}}
    first, second = (ask("POST", f"/jobs/{job}/circuits", mine, json=new)[0] for _ in range(2))
    assert (first.status_code, second.status_code) == (201, 200)
    assert ask("POST", f"/jobs/{job}/circuits", mine, json={**new, "facts": {}})[0].status_code == 409
    assert ask("POST", f"/jobs/{job}/circuits", mine, json={"tag": "no tag"})[1]["errors"][0]["path"] == "tag"


def test_circuits_come_by_pages(ask, job):
    mine = token("ines")
    for number in range(5):
        ask("POST", f"/jobs/{job}/circuits", mine, json={"tag": f"A-{number}"})
    path, tags = f"/jobs/{job}/circuits?limit=2", []
    while path:
        _, page = ask("GET", path, mine)
        tags += [one["tag"] for one in page["circuits"]]
        path = page.get("next", "").removeprefix("/api/v1")
    assert tags == ["A-0", "A-1", "A-2", "A-3", "A-4", "P-11"]
    assert ask("GET", f"/jobs/{job}/circuits?limit=²", mine)[0].status_code == 422


def test_someone_elses_job_is_not_there(ask, job):
    assert ask("GET", f"/jobs/{job}", token("odd"))[0].status_code == 404
    assert ask("GET", f"/jobs/{job}/circuits/P-11/plan", token("odd"))[0].status_code == 404


def test_the_description_names_every_route_and_its_answers(app):
    described = {
        (way.upper(), re.sub(r"{\w+}", "<>", path)) for path, ways in document()["paths"].items() for way in ways
    }
    routed = {(method, re.sub(r"<[^>]+>", "<>", rule.rule.removeprefix("/api/v1"))) for rule in app.url_map.iter_rules() if rule.endpoint.startswith("api.")
              and rule.endpoint not in ("api.openapi", "api.docs") for method in rule.methods - {"HEAD", "OPTIONS"}}  # fmt: skip
    assert described == routed
    assert json.dumps(document())


BODIES = [b"", b"{", b"[]", b"null", b'"x"', b'{"rules":"nec","circuit":{"plate":7}}', b'{"rules":"nec","job":[]}', b'{"rules":7}',
          b'{"rules":"nec","circuit":{"plate":{"power":true}}}', b'{"rules":"nec","circuit":{"evil":{}}}', b'{"rules":"nec","x":1}',
          b'{"rules":"nec","circuit":{"plate":{"power":NaN}}}', b'{"rules":"nec","circuit":{"plate":{"power":"\\ud800"}}}', b"[" * 50_000,
          b'{"rules":"nec","circuit":{"plate":{"power":1e999}}}', b'{"tag":"\\u0000"}', b'{"tag":{}}', b'{"plate.":"x"}', b'{"":""}', b"\xff\xfe"]  # fmt: skip


def test_odd_requests_get_a_problem_that_is_described_and_never_a_fault(ask, job):
    """Every way of every path with bodies and names of all kinds: no 5xx, and each code is one the description has."""
    mine, chance, seen = token("ines"), random.Random(9), set()
    for path, ways in document()["paths"].items():
        for way, what in ways.items():
            for body in BODIES if "requestBody" in what else [b""]:
                for _ in range(3):
                    names = {
                        "{job_id}": chance.choice([str(job), "0", "999999999"]),
                        "{tag}": chance.choice(["P-11", "X", "½", "a.b"]),
                        "{number}": chance.choice(["1", "0", "99999"]),
                    }
                    address = path
                    for name, text in names.items():
                        address = address.replace(name, text)
                    answer, problem = ask(
                        way.upper(),
                        address,
                        mine,
                        data=body,
                        content_type=chance.choice(["application/json", "text/plain"]),
                    )
                    seen.add(answer.status_code)
                    assert answer.status_code < 500, (way, address, body)
                    assert str(answer.status_code) in what["responses"], (way, address, body, answer.status_code)
                    if answer.status_code >= 400:
                        assert problem["status"] == answer.status_code
    assert {200, 400, 404, 415, 422} <= seen


def test_other_ways_and_paths_are_problems_too(ask):
    answer, problem = ask("DELETE", "/jobs", token("ines"))
    assert answer.status_code == 405
    assert "GET" in answer.headers["Allow"]
    assert problem["status"] == 405


def test_one_makes_and_revokes_tokens_on_ones_page(sign_in):
    ines = sign_in("ines")
    page = text_of(
        ines.post("/account/tokens", {"name": "night job", "days": "30", "writes": "yes"}, form_at="/account")
    )
    text = re.search(r"vg_[\w-]{43}", page).group()
    assert text not in text_of(ines.get("/account"))
    assert "night job" in text_of(ines.get("/account"))
    number = re.search(r'name="revoke" value="(\d+)"', text_of(ines.get("/account"))).group(1)
    ines.post("/account/tokens", {"revoke": number}, form_at="/account")
    assert "night job" not in text_of(ines.get("/account"))
    assert text_of(ines.get("/api/v1/")).count("/api/v1/jobs") >= 5
