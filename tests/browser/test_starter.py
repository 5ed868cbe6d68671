"""The control circuit worked by the keyboard alone: a start, a stop, a hidden fault measured and named."""

import re

from playwright.sync_api import expect

from tests.browser.screens import check
from tests.browser.test_start import settled


def pressed(page, name):
    """Reached and worked as by somebody without a mouse."""
    link = page.get_by_role("link", name=name, exact=True)
    link.focus()
    page.keyboard.press("Enter")


def with_buttons(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/start")
    page.select_option("#start-method", "wye-delta")
    settled(page)
    page.goto(f"{circuit}/starter")
    return page


def test_a_start_and_a_stop_by_keys(enter, circuit):
    page = with_buttons(enter, circuit)
    alive = page.locator("#alive")
    expect(alive).to_contain_text("the motor is off")
    pressed(page, "press START")
    expect(alive).to_contain_text("in wye")
    pressed(page, "let go START")
    expect(alive).to_contain_text("in wye")  # sealed
    pressed(page, "wait 10 s")
    pressed(page, "wait 10 s")
    expect(alive).to_contain_text("in delta")
    expect(page.get_by_role("img", name="Speed over time")).to_be_visible()
    pressed(page, "press STOP")
    expect(alive).to_contain_text("the motor is off")
    pressed(page, "from rest again")
    expect(page.get_by_role("img", name="Speed over time")).to_have_count(0)


def test_time_is_let_pass_faster_and_stopped_again(enter, circuit):
    """Pressed meanwhile it goes on; the address is the run, so that it can be sent."""
    page = with_buttons(enter, circuit)
    player = page.get_by_role("button", name="let time pass")
    pressed(page, "press START")
    pressed(page, "let go START")
    page.select_option("[data-pace]", "10")
    player.focus()
    page.keyboard.press("Enter")
    expect(player).to_have_attribute("aria-pressed", "true")
    expect(page.locator("#alive")).to_contain_text("in delta", timeout=15000)
    expect(page.locator("[data-pace]")).to_have_value("10")
    pressed(page, "press STOP")
    expect(page.locator("#alive")).to_contain_text("the motor is off")
    expect(player).to_have_attribute("aria-pressed", "true")
    page.get_by_role("link", name="let go STOP", exact=True).click()
    expect(page.get_by_role("link", name="press STOP", exact=True)).to_be_visible()
    start = page.get_by_role("link", name="press START", exact=True)
    start.hover()
    page.mouse.down()  # held by the mouse, it springs back
    expect(page.get_by_role("link", name="let go START", exact=True)).to_be_visible()
    page.mouse.up()
    expect(start).to_be_visible()
    expect(page.locator("#alive")).to_contain_text(re.compile("in (wye|delta)"))  # as far as time has come meanwhile
    pressed(page, "press STOP")
    expect(page.locator("#alive")).to_contain_text("the motor is off")
    player.click()
    expect(player).to_have_attribute("aria-pressed", "false")
    assert re.search(r"run=START%2B\+START-\+w[\d.]+\+STOP%2B", page.url)
    sent = page.url
    page.goto("about:blank")
    page.goto(sent)
    expect(page.locator("#alive")).to_contain_text("the motor is off")


def test_a_hidden_fault_is_hunted_by_keys(enter, circuit):
    page = with_buttons(enter, circuit)
    pressed(page, "hide a fault and hunt it")
    expect(page.locator("#alive")).to_contain_text("a fault is hidden")
    meter = page.get_by_role("group", name="Meter")
    meter.get_by_label("Volts between").focus()
    page.keyboard.press("Tab")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(meter.get_by_role("status")).to_contain_text("X1 to X2: full control volts")
    pressed(page, "take the power away")
    expect(meter.get_by_label("Ohms between")).to_be_visible()
    name = page.get_by_role("group", name="Name the fault")
    expect(name).to_contain_text("1 worked, 1 measured")
    name.get_by_role("button").focus()
    page.keyboard.press("Enter")
    expect(name.get_by_role("status").first).to_contain_text(re.compile("Found|Not that one"))


def test_a_drawing_that_runs_is_for_everyone(enter, circuit):
    """By axe, while it runs, in both widths."""
    for width in (1280, 390):
        page = enter(viewport={"width": width, "height": 800})
        page.goto(f"{circuit}/starter?run=START%2B+START-+w5")
        expect(page.get_by_role("img", name="Control circuit")).to_be_visible()
        check(page)
