"""The stop's sheet as one uses it: ask to hold, choose a way, drag the drive's ramp."""

from playwright.sync_api import expect

from tests.browser.test_start import settled


def test_a_load_to_be_held_leaves_only_the_brake(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/brake")
    expect(page.locator("tr.chosen")).to_contain_text("coasting")
    page.select_option("#stop-hold", "yes")
    expect(page.locator("tr.chosen")).to_contain_text("spring-set brake")
    expect(page.locator("#answer")).to_contain_text("only a spring-set brake does")
    expect(page.locator("tr.shut")).to_have_count(4)  # all but the brake, alone or behind a ramp
    settled(page)


def test_the_drives_ramp_is_keyed(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/brake")
    page.select_option("#stop-method", "drive")
    handle = page.get_by_role("slider", name="Ramp down in")
    expect(handle).to_be_visible()
    settled(page)
    handle.focus()
    page.keyboard.press("PageDown")
    settled(page)
    seconds = page.locator("#stop-drive_ramp").input_value()
    assert float(seconds.removesuffix(" s")) < 5
    expect(page.locator("tr.chosen")).to_contain_text(f"{seconds} ramp")
