"""The record at 390 px, with the network cut: what was entered is kept, and sent when it is back."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.screens import check
from tests.core.recordings import start
from vinegate.core.capture.writing import write_single


@pytest.fixture
def phone(enter):
    page = enter()
    page.set_viewport_size({"width": 390, "height": 844})
    return page


def fill(page, circuit, **readings):
    page.goto(f"{circuit}/record/measure/record_start")
    for name, text in readings.items():
        page.fill(f"[name='f:record_start.{name}']", text)


def test_an_entry_without_a_network_waits_and_is_sent_once(phone, circuit):
    fill(phone, circuit, time="4.9 s", plateau="309 A")
    phone.context.set_offline(True)
    phone.get_by_role("button", name="Keep this").click()
    phone.locator("#queued", has_text="1 entry is kept on this device").wait_for()
    expect(phone.locator("[name='f:record_start.time']")).to_have_value("")
    phone.fill("[name='f:record_start.time']", "5.1 s")
    phone.get_by_role("button", name="Keep this").click()
    phone.locator("#queued", has_text="2 entries are kept").wait_for()
    phone.context.set_offline(False)
    phone.locator("#queued").wait_for(state="hidden", timeout=15000)
    assert "It took 5.1 s" in phone.inner_text("#kept")
    phone.goto(f"{circuit}/record")
    assert phone.locator("details.more summary", has_text=re.compile(r"All entries: \d+")).count() == 1
    phone.locator("details.more summary").click()
    assert phone.locator(".entry-readings", has_text="309 A").count() == 1
    assert phone.locator(".entry-readings", has_text="5.1 s").count() == 1


def test_what_waits_outlives_the_page(phone, circuit):
    fill(phone, circuit, time="6.6 s")
    phone.route("**/record/token", lambda route: route.abort())
    phone.get_by_role("button", name="Keep this").click()
    phone.locator("#queued", has_text="1 entry").wait_for()
    phone.close(run_before_unload=False)
    again = phone.context.new_page()
    again.goto(f"{circuit}/record/measure/record_running")
    again.locator("#kept", has_text="6.6 s").wait_for()


def test_what_cannot_be_read_is_said_at_its_field(phone, circuit):
    fill(phone, circuit, time="soon")
    phone.get_by_role("button", name="Keep this").click()
    assert (
        "does not begin with a number" in phone.locator("[data-error='record_start.time']:not([hidden])").inner_text()
    )
    assert phone.input_value("[name='f:record_start.time']") == "soon"


@pytest.mark.parametrize("form", ["record_before", "record_insulation", "record_running", "record_condition"])
def test_forms_fit_a_phone_and_its_thumb(phone, circuit, form):
    phone.goto(f"{circuit}/record/measure/{form}")
    assert phone.evaluate("document.documentElement.scrollWidth") == 390
    sizes = phone.eval_on_selector_all(
        ".measure input:not([type=hidden]):not([type=radio]), .measure select, .choices span, .measure button",
        "all => all.map(one => one.getBoundingClientRect().height)",
    )
    assert min(sizes) >= 44
    check(phone)


def test_a_capture_is_brought_in_and_laid_over_the_plan(enter, circuit, tmp_path):
    page = enter()
    file = tmp_path / "start.cff"
    file.write_bytes(write_single(start(amps=310.0, seconds=8.0, up=4.6)))
    page.goto(f"{circuit}/record/captures")
    page.set_input_files("#file", file)
    page.get_by_role("button", name="Read it").click()
    page.locator("svg.circuit-drawing .measured").first.wait_for()
    assert page.locator(".word").count() >= 6
    page.get_by_role("button", name="Put this start in the record").click()
    page.get_by_text("Time to speed").first.wait_for()
