"""Two people, lost connections, a restarted database, no JavaScript."""

import os
import re
import signal

import pytest
from playwright.sync_api import expect

from tests.browser.screens import open_ahead_of
from tests.server import job_of, person, pump
from vinegate.store.database import database
from vinegate.store.models import Role


def test_two_people_on_one_circuit(enter, circuit):
    ines, tam = enter("ines"), enter("tam")
    for page in (ines, tam):
        page.goto(f"{circuit}/plate")
    ines.get_by_label("Speed", exact=True).fill("1190")
    expect(ines.locator("#kept")).to_contain_text("Ines")

    tam.get_by_label("Leads", exact=True).fill("6")  # another field: both stand, and Tam is told
    expect(tam.get_by_text("Ines changed Speed")).to_be_visible()
    expect(tam.get_by_label("Speed", exact=True)).to_have_value("1190")

    ines.get_by_label("Leads", exact=True).fill("3")  # the same field: Ines is second
    conflict = ines.locator("#about-plate-leads")
    expect(conflict).to_contain_text("Tam has written “6” here")
    expect(ines.get_by_label("Leads", exact=True)).to_have_value("3")
    ines.get_by_role("button", name="Keep mine").click()
    expect(conflict).not_to_contain_text("Tam has written")
    tam.reload()
    expect(tam.get_by_label("Leads", exact=True)).to_have_value("3")


@pytest.mark.parametrize("script", ["main.js", "live.js"])
def test_what_is_typed_ahead_of_the_scripts_is_kept_all_the_same(enter, circuit, script):
    page = enter()
    let_come = open_ahead_of(page, f"**/js/{script}", f"{circuit}/plate")
    page.get_by_label("Speed", exact=True).fill("1190")
    let_come()
    expect(page.locator("#kept")).to_contain_text("Draft kept")
    expect(page.locator("#circuit")).to_contain_text("1190 rpm")


def test_two_people_see_each_other_and_what_the_other_keeps(enter, circuit):
    ines, tam = enter("ines", company=True), enter("tam", company=True)
    ines.goto(f"{circuit}/plate")
    tam.goto(f"{circuit}/start")
    expect(ines.locator("#here")).to_have_text("Also here: Tam")
    expect(tam.locator("#here")).to_have_text("Also here: Ines")
    tam.goto(f"{circuit}/plate")
    ines.get_by_label("Speed", exact=True).fill("1190")
    expect(tam.get_by_label("Speed", exact=True)).to_have_value("1190")  # Tam does nothing
    expect(tam.get_by_text("Ines changed Speed")).to_be_visible()
    ines.goto("about:blank")
    expect(tam.locator("#here")).to_have_text("")


def test_who_only_reads_sees_what_another_keeps(enter, address):
    with database.connection_context():
        access = job_of(person("ines"), vera=Role.VIEWER)
        pump(access)
    ines, vera = enter("ines", company=True), enter("vera", company=True)
    for page in (ines, vera):
        page.goto(f"{address}/jobs/{access.job.id}/P-11/plate")
    ines.get_by_label("Speed", exact=True).fill("1190")
    expect(vera.get_by_label("Speed", exact=True)).to_have_value("1190")


def test_what_is_typed_beside_the_facts_stays_when_another_saves(enter, circuit):
    ines, tam = enter("ines", company=True), enter("tam", company=True)
    ines.goto(f"{circuit}/plate")
    tam.goto(f"{circuit}/start")
    tam.locator("#note").fill("For tender")
    tam.locator("#note").blur()
    ines.get_by_label("Speed", exact=True).fill("1190")
    expect(tam.locator("#circuit")).to_contain_text("1190 rpm")
    expect(tam.locator("#note")).to_have_value("For tender")


def test_issuing_waits_for_what_was_typed_just_before(enter, circuit):
    page, waiting = enter(), []
    page.goto(f"{circuit}/start")
    page.locator("#note").fill("For tender")
    page.route(f"{circuit}/start", lambda route: waiting.append(route) if not waiting else route.continue_())
    with page.expect_request(lambda request: request.method == "POST" and request.url == f"{circuit}/start"):
        page.get_by_label("Dip limit, board").fill("7 %")
    page.get_by_role("button", name="Issue revision A").click()  # the save of 7 % is still under way
    waiting[0].continue_()
    expect(page).to_have_url(re.compile(r"/revisions/1$"))
    expect(page.locator("body")).to_contain_text("7 %")


def test_a_field_in_use_follows_another_writer(enter, circuit):
    """Focus alone is no claim: Tam's newer text is shown, not written over with what Ines saw before."""
    ines, tam = enter("ines"), enter("tam")
    for page in (ines, tam):
        page.goto(f"{circuit}/plate")
    tam.get_by_label("Leads", exact=True).fill("6")
    expect(tam.locator("#kept")).to_contain_text("Tam")
    ines.get_by_label("Speed", exact=True).fill("1190")
    ines.get_by_label("Leads", exact=True).focus()
    expect(ines.get_by_label("Leads", exact=True)).to_have_value("6")


def test_a_field_changed_while_a_save_is_under_way_stays_contested(enter, circuit):
    ines, tam = enter("ines"), enter("tam")
    for page in (ines, tam):
        page.goto(f"{circuit}/plate")
    tam.get_by_label("Leads", exact=True).fill("6")
    expect(tam.locator("#kept")).to_contain_text("Tam")
    waiting = []
    ines.route(f"{circuit}/plate", lambda route: route.continue_() if waiting else waiting.append(route))
    with ines.expect_request(f"{circuit}/plate"):
        ines.get_by_label("Speed", exact=True).fill("1190")
    ines.get_by_label("Leads", exact=True).fill("3")  # Speed's save is held back; Leads is typed meanwhile
    waiting[0].continue_()
    expect(ines.locator("#about-plate-leads")).to_contain_text("Tam has written “6” here")


def test_taking_theirs(enter, circuit):
    ines, tam = enter("ines"), enter("tam")
    for page in (ines, tam):
        page.goto(f"{circuit}/plate")
    ines.get_by_label("Speed", exact=True).fill("1190")
    expect(ines.locator("#kept")).to_contain_text("Ines")
    tam.get_by_label("Speed", exact=True).fill("1170")
    tam.get_by_role("button", name="Take theirs").click()
    expect(tam.get_by_label("Speed", exact=True)).to_have_value("1190")


def test_what_is_typed_while_the_connection_is_lost_is_sent_when_it_is_back(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/plate")
    page.context.set_offline(True)
    page.get_by_label("Speed", exact=True).fill("1190")
    expect(page.locator("#kept")).to_contain_text("Not kept yet")
    page.get_by_label("Leads", exact=True).fill("6")
    page.context.set_offline(False)
    expect(page.locator("#kept")).not_to_contain_text("Not kept yet")
    expect(page.locator("#kept")).to_contain_text("Ines")
    page.reload()
    expect(page.get_by_label("Speed", exact=True)).to_have_value("1190")
    expect(page.get_by_label("Leads", exact=True)).to_have_value("6")


def test_leaving_a_field_that_is_kept_saves_nothing(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/plate")
    saves = []
    page.on("request", lambda request: saves.append(request.post_data) if request.method == "POST" else None)
    page.get_by_label("Speed", exact=True).fill("1190")
    expect(page.locator("#kept")).to_contain_text("Ines")
    expect(page.locator("[data-unsent]")).to_have_count(0)
    before = len(saves)
    page.get_by_label("Leads", exact=True).focus()  # the browser says "change" here; the text is kept already
    expect(page.locator("[data-unsent]")).to_have_count(0)
    with page.expect_response(f"{circuit}/plate"):
        page.get_by_label("Leads", exact=True).fill("6")
        page.get_by_label("Speed", exact=True).focus()
    expect(page.locator("[data-unsent]")).to_have_count(0)
    assert len(saves) == before + 1


# The first save reaches the server, its answer never comes; the beacon can be waited for.
UNANSWERED = """
const real = window.fetch;
window.fetch = async (...about) => {
  const answer = await real(...about);
  if (window.saved || String(about[0]).endsWith("/here")) return answer;
  window.saved = true;
  document.documentElement.id = "saved";
  return new Promise(() => {});
};
navigator.sendBeacon = (address, body) => {
  if (!String(address).endsWith("/here")) window.beacon = real(address, { method: "POST", body });
  return true;
};
"""


def test_what_is_typed_during_a_save_is_kept_when_the_page_is_left(enter, circuit):
    page = enter()
    page.add_init_script(UNANSWERED)
    page.goto(f"{circuit}/plate")
    page.get_by_label("Speed", exact=True).fill("1190")
    expect(page.locator("#saved")).to_have_count(1)
    page.get_by_label("Speed", exact=True).fill("1191")
    page.evaluate("async () => { dispatchEvent(new PageTransitionEvent('pagehide')); await window.beacon; }")
    other = enter("tam")
    other.goto(f"{circuit}/plate")
    expect(other.get_by_label("Speed", exact=True)).to_have_value("1191")


def test_keys_work_where_storage_is_refused(enter, circuit):
    page = enter()
    page.add_init_script(
        "Object.defineProperty(window, 'localStorage', {get() { throw new DOMException('no', 'SecurityError'); }})"
    )
    page.goto(f"{circuit}/plate")
    page.keyboard.press("?")
    page.locator("#keys-on").uncheck()
    page.keyboard.press("Escape")
    page.keyboard.press("w")
    expect(page.locator("#working")).not_to_have_attribute("open", "")


def test_an_answer_that_is_lost_does_not_make_a_conflict(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/plate")
    lost = []

    def lose_the_first(route):
        if lost:
            route.continue_()
            return
        lost.append(route.fetch())  # the server has saved, the page never hears of it
        route.abort()

    page.route(f"{circuit}/plate", lose_the_first)
    page.get_by_label("Speed", exact=True).fill("1190")
    expect(page.locator("#kept")).to_contain_text("Not kept yet")
    page.get_by_label("Speed", exact=True).fill("1191")
    expect(page.locator("#kept")).not_to_contain_text("Not kept yet")
    expect(page.get_by_text("has written")).to_have_count(0)
    page.unroute_all()
    page.reload()
    expect(page.get_by_label("Speed", exact=True)).to_have_value("1191")


def test_a_killed_database_comes_back_and_nothing_typed_is_lost(enter, circuit, instance):
    page = enter()
    page.goto(f"{circuit}/plate")
    os.kill(instance.running_pid(), signal.SIGKILL)
    page.get_by_label("Speed", exact=True).fill("1190")
    expect(page.locator("#kept")).to_contain_text("Not kept yet")
    instance.ensure("first")
    expect(page.locator("#kept")).not_to_contain_text("Not kept yet")
    page.reload()
    expect(page.get_by_label("Speed", exact=True)).to_have_value("1190")


def test_without_javascript(enter, circuit):
    page = enter(java_script_enabled=False)
    page.goto(f"{circuit}/plate")
    page.get_by_label("Code letter", exact=True).fill("H")
    page.get_by_role("button", name="Keep and compute").click()
    expect(page.locator("#answer")).to_contain_text("632 A")
    page.get_by_label("Power", exact=True).fill("75 Q")
    page.get_by_role("button", name="Keep and compute").click()
    expect(page.locator("#about-plate-power")).to_contain_text("is not a unit of power")
    page.locator("#working summary").click()
    page.get_by_role("link", name="Supply").click()
    expect(page.get_by_label("System volts")).to_have_value("480Y/277 V")
    page.get_by_role("button", name="Issue revision A").click()
    expect(page.get_by_text("Calculation sheet: motor")).to_be_visible()


@pytest.mark.parametrize("role_path", ["plate", "start"])
def test_a_viewer_reads_and_cannot_type(enter, circuit, role_path):
    from tests.server import person
    from vinegate.store import jobs
    from vinegate.store.database import database
    from vinegate.store.models import Role

    with database.connection_context():
        access = jobs.open_job(person("ines"), int(circuit.split("/")[-2]))
        jobs.set_member(access, person("vera"), Role.VIEWER)
    page = enter("vera")
    page.goto(f"{circuit}/{role_path}")
    expect(page.locator("#facts input:not([type=hidden]):not([readonly])")).to_have_count(0)
    expect(page.get_by_role("button", name="Issue")).to_have_count(0)


def test_leaving_a_field_while_its_text_is_on_its_way_sends_it_no_second_time(enter, circuit):
    """A slow answer: "change" comes before it, of a text that was sent with "input"."""
    page = enter()
    page.goto(f"{circuit}/plate")
    held = []

    def hold(route):
        held.append(route)

    page.route(f"{circuit}/plate", hold)
    with page.expect_request(f"{circuit}/plate"):
        page.get_by_label("Speed", exact=True).fill("1190")
    page.get_by_label("Leads", exact=True).focus()
    page.evaluate("() => new Promise((done) => setTimeout(done, 0))")
    held[0].continue_()
    expect(page.locator("[data-unsent]")).to_have_count(0)
    expect(page.locator("#kept")).to_contain_text("Ines")
    assert len(held) == 1
