"""From a plate in hand to an issued revision, as a person would."""

import re

from playwright.sync_api import expect

from tests.browser.test_start import settled
from vinegate.core.facts import RuleSetName
from vinegate.core.plan import plan_raw
from vinegate.demo import demo_job


def type_in(page, label, text):
    """Move on with Tab until the field of that label has the focus, then type."""
    for _ in range(40):
        page.keyboard.press("Tab")
        focused = page.evaluate("document.activeElement.labels?.[0]?.textContent.trim() || ''")
        if focused == label:
            page.keyboard.type(text)
            return
    raise AssertionError(f"Tab never reaches {label}")


PLATE = {
    "Power": "75 hp", "Volts": "230/460", "Full-load amperes": "184/92", "Hertz": "60", "Speed": "1 185",
    "Service factor": "1.15", "Code letter": "g", "Leads": "12",
}  # fmt: skip
SUPPLY = {
    "Frequency": "60 Hz", "Utility fault level": "14 kA", "Stated at": "12.47 kV", "Transformer": "500 kVA",
    "Impedance": "5 %", "Dip limit, board": "5 %",
}  # fmt: skip


def type_all(page, texts):
    for label, text in texts.items():
        type_in(page, label, text)


def test_plate_to_print_by_keyboard_alone(enter, address):
    page = enter()
    page.goto(f"{address}/")
    type_in(page, "Name", "Drain yard")
    type_in(page, "Rules", "NEC")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.get_by_text("No circuits yet")).to_be_visible()

    type_in(page, "New circuit", "P-1")
    page.keyboard.press("Enter")
    arrive(page, "/P-1/plate")

    page.keyboard.press("f")
    type_all(page, PLATE)
    expect(page.locator("#answer")).to_contain_text("give system volts")
    expect(page.get_by_role("row", name="Rated torque")).to_contain_text("332.4 lb-ft")

    go_up(page, "supply", steps=5)
    page.keyboard.press("f")
    expect(page.get_by_label("System volts", exact=True)).to_be_focused()
    page.keyboard.type("480Y/277")
    type_all(page, SUPPLY)
    expect(page.locator("#answer")).to_contain_text("the board sags 5.0 %")

    page.keyboard.press("Escape")
    page.keyboard.press("w")
    expect(page.locator("#working")).to_have_attribute("open", "")
    page.keyboard.press("i")
    page.keyboard.type("for tender")
    page.keyboard.press("Enter")
    expect(page.get_by_text("for tender")).to_be_visible()
    expect(page.get_by_role("cell", name="A, issued, for tender")).to_be_visible()

    page.get_by_role("link", name="Drain yard").press("Enter")
    expect(page.get_by_role("row", name="P-1")).to_contain_text("75 hp")


def go_up(page, station, steps):
    page.keyboard.press("Escape")
    for _ in range(steps):
        page.keyboard.press("ArrowUp")
    page.keyboard.press("Enter")
    arrive(page, f"/{station}")


def arrive(page, path):
    """The page is there and its scripts listen: a key pressed before that is nobody's."""
    expect(page).to_have_url(re.compile(f"{path}$"))
    page.wait_for_load_state("load")


def test_numbers_follow_while_typing_and_nothing_reloads(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/plate")
    page.evaluate("window.stillHere = true")
    letter = page.get_by_label("Code letter", exact=True)
    letter.fill("H")
    expect(page.locator("#answer strong").first).to_have_text("632 A")
    assert page.evaluate("window.stillHere")
    expect(letter).to_be_focused()
    expect(page.locator("#announce")).to_contain_text("632 A")
    page.reload()
    expect(page.get_by_label("Code letter", exact=True)).to_have_value("H")


def test_the_caret_stays_where_it_was(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/plate")
    speed = page.get_by_label("Speed", exact=True)
    speed.click()
    speed.evaluate("field => field.setSelectionRange(3, 3)")
    page.keyboard.type("0")
    expect(page.get_by_text("outside what a speed").or_(page.get_by_text("fails Speed below")).first).to_be_visible()
    assert speed.evaluate("field => [field.value, field.selectionStart]") == ["11805 rpm", 4]


def test_bad_input_is_explained_at_the_field_and_kept(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/plate")
    power = page.get_by_label("Power", exact=True)
    power.fill("75 Q")
    expect(page.locator("#about-plate-power")).to_have_text("“Q” is not a unit of power: write it like 30 hp or 22 kW.")
    expect(power).to_have_attribute("aria-invalid", "true")
    expect(power).to_have_value("75 Q")
    expect(page.get_by_role("row", name="Poles")).to_contain_text("6")
    power.fill("75 hp")
    expect(page.locator("#about-plate-power .error")).to_have_count(0)


def test_keys(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/start")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
    page.get_by_label("Single-letter keys are on").uncheck()
    page.keyboard.press("Escape")
    page.keyboard.press("w")
    expect(page.locator("#working")).not_to_have_attribute("open", "")
    page.keyboard.press("Escape")
    expect(page.locator("#stop-start")).to_be_focused()
    page.keyboard.press("ArrowDown")
    expect(page.locator("#stop-starter")).to_be_focused()
    page.evaluate("localStorage.clear()")


def test_method_changes_what_is_judged(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/start")
    page.get_by_label("Starts by").select_option("wye-delta")
    expect(page.locator("tr.chosen")).to_contain_text("wye-delta")
    facts = dict(demo_job("harrowmere-lock.json").circuits)["P-11"]
    facts["start"]["method"] = "wye-delta"
    used = plan_raw(RuleSetName.NEC, demo_job("harrowmere-lock.json").facts, facts).figure("start.used.current")
    expect(page.locator("#stop-start")).to_contain_text(f"{used.value:.0f} A")


def test_print_view_and_pdf(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/start")
    page.keyboard.press("p")
    expect(page.get_by_role("heading", name="P-11")).to_be_visible()
    expect(page.get_by_text("Draft, not issued")).to_be_visible()
    page.emulate_media(media="print")
    expect(page.locator(".top")).to_be_hidden()


def test_the_machines_curves_are_read_by_pointer_and_by_keys(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/plate")
    page.get_by_role("link", name="Machine behind it").click()
    chart = page.locator("[data-readout]")
    chart.hover()
    expect(page.locator(".readout")).to_contain_text("rpm: torque")
    chart.focus()
    page.keyboard.press("ArrowRight")
    before = page.locator(".readout").text_content()
    page.keyboard.press("ArrowRight")
    expect(page.locator(".readout")).not_to_have_text(before)
    page.get_by_role("link", name="80 % volts").click()
    expect(page.locator(".readout")).to_contain_text("At 368 V")
    page.get_by_label("Breakdown torque", exact=True).fill("300 %")
    expect(page.get_by_role("row", name="Breakdown torque")).to_contain_text("300 %")


def test_digits_go_to_stations_and_e_to_what_is_missed(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/wiring")  # not the third itself: its address would be there before its page is
    stations = page.locator("#line a.station")
    third = stations.nth(2).get_attribute("href")
    page.locator("#main").focus()
    page.keyboard.press("3")
    page.wait_for_url(f"**{third}")
    page.goto(f"{circuit}/plate")
    page.fill("#plate-speed", "")
    page.keyboard.press("Tab")
    settled(page)
    page.locator("#main").focus()
    page.keyboard.press("e")
    expect(page.locator("#plate-speed")).to_be_focused()
    page.locator("#plate-power").focus()
    page.keyboard.press("3")  # in a field a digit is a digit
    expect(page.locator("#plate-power")).to_have_value(re.compile("3"))
