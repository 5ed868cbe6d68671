"""The replacement as one does it beside the machine: a copy of the old plate, what differs, the new one taken over."""

from playwright.sync_api import expect

from tests.browser.screens import check
from tests.browser.test_start import settled


def test_copied_changed_compared_and_taken_over(enter, circuit):
    page = enter(viewport={"width": 390, "height": 800})
    page.goto(f"{circuit}/replacement")
    expect(page.locator("#answer")).to_contain_text("No other motor is compared")
    page.get_by_role("button", name="Begin with the old plate").click()
    expect(page.locator(".compared tbody tr")).not_to_have_count(0)
    check(page)
    why = page.locator(".compared td:last-child").first  # on a phone beneath the plates, not beside them out of sight
    assert why.bounding_box()["x"] + why.bounding_box()["width"] <= 390
    power = page.locator("#new_plate-power")
    row = page.locator(".compared tr", has=page.get_by_role("rowheader", name="Power", exact=True))
    expect(power).to_have_value(row.locator("td").first.inner_text())
    page.fill("#new_plate-power", "200 hp")
    page.keyboard.press("Tab")
    settled(page)
    expect(page.locator("#answer")).to_contain_text("does not fit")
    page.fill("#new_plate-power", "75 hp")
    page.fill("#new_plate-speed", "1180 rpm")
    page.keyboard.press("Tab")
    settled(page)
    expect(page.locator("#answer")).not_to_contain_text("does not fit")
    page.get_by_role("button", name="Take the new plate over").click()
    expect(page.get_by_role("button", name="Begin with the old plate")).to_be_visible()
    expect(page.locator("#answer")).to_contain_text("No other motor is compared")
    page.goto(f"{circuit}/plate")
    expect(page.locator("#plate-speed")).to_have_value("1180 rpm")


def test_the_field_in_use_stays_in_sight_when_the_comparison_opens_above_it(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/replacement")
    power = page.locator("#new_plate-power")
    was = power.bounding_box()["y"]
    power.press_sequentially("75 hp")
    expect(page.locator(".compared tbody tr")).not_to_have_count(0)
    settled(page)
    expect(power).to_be_focused()
    assert abs(power.bounding_box()["y"] - was) < 40
    page.keyboard.press("Control+a")
    page.keyboard.press("Delete")
    expect(page.locator(".compared")).to_have_count(0)
    expect(power).to_be_in_viewport()
