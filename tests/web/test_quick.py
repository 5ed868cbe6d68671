"""The quick page: without an account, by address alone, kept as a circuit after."""

from html import unescape

import pytest

from tests.web.test_starter import text_of
from vinegate.core.quick.tools import TOOLS

FACTS = {"plate.power": "75 hp", "plate.volts": "460", "plate.full_load_current": "92", "plate.frequency": "60",
         "plate.speed": "1185", "plate.design_letter": "B", "plate.code_letter": "G", "plate.service_factor": "1.15",
         "supply.volts": "480", "supply.fault_level": "14 kA", "wiring.length": "62 m"}  # fmt: skip


def test_a_link_carries_the_facts_and_needs_no_account(sign_in):
    page = text_of(sign_in(None).get("/quick/", query_string=FACTS))
    assert "593 A" in page
    for word in ("Disconnect", "Overload", "Conductors", "Grounding conductor", "Starter"):
        assert word in page
    assert page.count("within") >= 3
    assert "plate.power=75+hp" in page


def test_what_cannot_be_read_stays_with_its_message(sign_in):
    page = text_of(sign_in(None).get("/quick/", query_string={**FACTS, "plate.power": "75 Q"}))
    assert 'value="75 Q"' in page
    assert "“Q” is not a unit" in page


def test_a_plate_of_another_kind_is_asked_for_it_before_anything_else(sign_in):
    facts = FACTS | {"plate.power": "1/2 hp", "plate.volts": "115/230", "plate.full_load_current": "8.8/4.4"}
    page = text_of(sign_in(None).get("/quick/", query_string=facts))
    assert "Not known yet: the kind of machine." in page
    assert "it pulls" not in page
    known = text_of(
        sign_in(None).get(
            "/quick/", query_string=facts | {"plate.kind": "capacitor-start", "supply.volts": "240/120 V"}
        )
    )
    assert "it pulls" in known


def test_an_empty_page_is_calm(sign_in):
    page = text_of(sign_in(None).get("/quick/"))
    assert "Nothing is kept" in page
    assert "autofocus" in page


@pytest.mark.parametrize("key", TOOLS)
def test_each_question_opens_in_both_rule_sets(sign_in, key):
    nobody = sign_in(None)
    for rules in ("nec", "iec", "nonsense"):
        assert nobody.get(f"/quick/{key}?rules={rules}").status_code == 200
    assert nobody.get("/quick/nothing").status_code == 404


def test_what_else_a_pasted_plate_says_is_used_and_what_it_left_is_told(sign_in):
    """Locked-rotor amperes and a frame are not asked of every plate."""
    ines = sign_in("ines")
    plate = "75HP 460V 92A 1185RPM 60HZ LRA 500 FR 405T SERIAL X7"
    page = text_of(ines.get("/quick/", query_string={"pasted": plate, "supply.volts": "480"}, follow_redirects=True))
    further = page[page.index("Also on the plate") : page.index("Supply and run")]
    assert 'value="500"' in further
    assert 'value="405T"' in further
    assert "500 A" in page  # and no letter is asked for
    assert "code letter" not in page[page.index("quick-answer") : page.index("Single questions")].casefold()
    assert "No rating of the motor's: SERIAL X7." in unescape(page)
    kept = ines.post("/quick/keep", {"plate.power": "75 hp", "plate.frame": "405T", "tag": "Q-9"}, form_at="/quick/")
    assert 'value="405T"' in text_of(ines.get(f"{kept.headers['Location'].rstrip('/')}/plate"))


def test_before_the_supply_is_known_it_says_what_the_motor_draws_and_what_fails_once(sign_in):
    facts = {"plate.power": "75 hp", "plate.volts": "460", "plate.full_load_current": "92", "plate.code_letter": "G"}
    page = text_of(sign_in(None).get("/quick/", query_string=facts))
    assert "would pull <strong>593 A</strong>" in page  # 6.29 · 75 · 1000/(√3 · 460), its letter's higher end
    other = text_of(sign_in(None).get("/quick/", query_string=facts | {"supply.volts": "208"}))
    said = other[other.index('class="answer"') :].partition("</p>")[0]
    assert said.count("does not fit") == 1
    assert said.count("208 V is") == 1


def test_it_is_kept_as_a_circuit_of_a_new_job(sign_in):
    ines = sign_in("ines")
    kept = ines.post("/quick/keep", {**FACTS, "tag": "Q-1", "rules": "nec"}, form_at="/quick/")
    assert kept.status_code == 302
    assert "75 hp" in text_of(ines.get(kept.headers["Location"], follow_redirects=True))
    assert sign_in(None).post("/quick/keep", {**FACTS, "tag": "Q-1"}, form_at="/sign-in").status_code == 302


def test_it_is_not_kept_in_a_job_one_only_reads(sign_in, world):
    assert (
        sign_in("tam")
        .post("/quick/keep", {**FACTS, "tag": "Q-2", "job": str(world["id"])}, form_at="/quick/")
        .status_code
        == 403
    )
    assert (
        sign_in("odd")
        .post("/quick/keep", {**FACTS, "tag": "Q-2", "job": str(world["id"])}, form_at="/quick/")
        .status_code
        == 404
    )


def test_a_pasted_plate_fills_what_it_says_and_keeps_the_rest(sign_in):
    nobody = sign_in(None)
    answer = nobody.get(
        "/quick/", query_string={"rules": "nec", "pasted": "75HP 460V 92A 1185RPM CODE G S1", "supply.volts": "480"}
    )
    page = text_of(nobody.get(answer.location))
    for value in ("75 hp", "460", "92", "1185 rpm", "G", "480"):
        assert f'value="{value}"' in page
    assert "Overload" in page  # answered
    nothing = text_of(nobody.get("/quick/", query_string={"pasted": "hello"}))
    assert "No field of a plate is named there" in nothing
    assert "hello" in nothing
