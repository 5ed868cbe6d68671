"""From sign-in to the answer in at most sixty keystrokes, and without JavaScript."""

import pytest
from playwright.sync_api import expect

from tests.browser.screens import open_ahead_of

TYPED = ("75 hp", "460", "92", "60", "1185", "B", "G", "1.15", "", "480", "14 kA", "62 m")  # its kind is passed over


def test_from_sign_in_to_the_answer_in_sixty_keys(browser, address):
    page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto(f"{address}/sign-in")
    page.get_by_role("link", name="A quick answer, without an account").click()
    page.wait_for_url("**/quick/*")
    page.wait_for_function("document.activeElement.name === 'plate.power'")
    keys = 0
    for text in TYPED:
        page.keyboard.type(text)
        page.keyboard.press("Tab")
        keys += len(text) + 1
    page.locator("#quick-answer", has_text="593 A").wait_for()
    page.locator("#quick-answer", has_text="1 AWG").wait_for()
    assert keys <= 60
    page.reload()
    page.locator("#quick-answer", has_text="593 A").wait_for()
    page.context.close()


def test_what_is_understood_follows_and_a_pasted_plate_takes_nothing_typed_away(browser, address):
    page = browser.new_context().new_page()
    page.goto(f"{address}/quick/?plate.volts=460&plate.power=75+kW")
    echo = page.locator("#echo-plate-power")
    expect(echo).to_have_text("= 101 hp")
    page.fill("[name='plate.power']", "30 kW")
    expect(echo).to_have_text("= 40.2 hp")
    page.fill("[name='supply.volts']", "480")
    page.get_by_text("Paste a plate").click()
    page.fill("#pasted", "75HP 92A CODE G FR 405T SERIAL X7")
    page.get_by_role("button", name="Read it").click()
    expect(page.locator("p[role=status]")).to_have_text("No rating of the motor's: SERIAL X7.")
    for name, text in {"plate.power": "75 hp", "plate.frame": "405T", "supply.volts": "480"}.items():
        expect(page.locator(f"[name='{name}']")).to_have_value(text)
    page.context.close()


def test_what_is_typed_ahead_of_the_script_is_answered(browser, address):
    page = browser.new_context().new_page()
    let_come = open_ahead_of(page, "**/js/quick.js", f"{address}/quick/?plate.volts=460&plate.power=75+kW")
    page.fill("[name='plate.power']", "30 kW")
    let_come()
    expect(page.locator("#echo-plate-power")).to_have_text("= 40.2 hp")
    page.context.close()


@pytest.mark.parametrize("width", [1280, 390])
def test_it_works_without_javascript(browser, address, width):
    page = browser.new_context(java_script_enabled=False, viewport={"width": width, "height": 800}).new_page()
    page.goto(f"{address}/quick/")
    page.fill("[name='plate.power']", "75 hp")
    page.fill("[name='plate.volts']", "460")
    page.fill("[name='plate.full_load_current']", "92")
    page.get_by_role("button", name="Answer").click()
    assert "Overload" in page.inner_text("#quick-answer")
    page.context.close()
