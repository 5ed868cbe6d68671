"""The start sheet as one uses it: drag and key the settings, change the source, the restart of a job."""

import re

import pytest
from playwright.sync_api import expect

from tests.server import job_of, person, pump
from vinegate.demo import demo_job
from vinegate.store import jobs
from vinegate.store.database import database
from vinegate.store.models import Role


def settled(page):
    """All that was typed is kept and the numbers are the server's."""
    expect(page.locator("[data-unsent]")).to_have_count(0)


@pytest.fixture
def wye(enter, circuit):
    """The pump's start sheet, started by wye-delta."""
    page = enter()
    page.goto(f"{circuit}/start")
    page.select_option("#start-method", "wye-delta")
    expect(page.locator("tr.chosen")).to_contain_text("wye-delta")
    settled(page)
    return page


def handle_of(page):
    return page.get_by_role("slider", name="Change over at")


def test_change_over_dragged_with_the_mouse(wye):
    before = wye.locator("tr.chosen").inner_text()
    box = handle_of(wye).bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    wye.mouse.move(x, y)
    wye.mouse.down()
    wye.mouse.move(x - 220, y, steps=6)
    wye.mouse.up()
    settled(wye)
    moved = wye.locator("#start-changeover").input_value()
    assert re.fullmatch(r"\d+(\.\d+)? s", moved)
    expect(handle_of(wye)).to_have_attribute("aria-valuetext", re.compile(r"^\d"))
    assert wye.locator("tr.chosen").inner_text() != before
    wye.reload()
    expect(wye.locator("#start-changeover")).to_have_value(moved)


def test_only_the_main_button_drags_and_a_cancelled_drag_ends(wye):
    field = wye.locator("#start-changeover")
    before = field.input_value()
    handle_of(wye).scroll_into_view_if_needed()
    box = handle_of(wye).bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    wye.mouse.move(x, y)
    wye.mouse.down(button="right")
    wye.mouse.move(x - 60, y, steps=3)
    wye.mouse.up(button="right")
    assert field.input_value() == before
    wye.mouse.move(x, y)
    wye.mouse.down()
    wye.mouse.move(x - 60, y, steps=3)
    moved = field.input_value()
    assert moved != before
    wye.evaluate("document.body.dispatchEvent(new PointerEvent('pointercancel', {pointerId: 1, bubbles: true}))")
    wye.mouse.move(x - 160, y, steps=3)
    assert field.input_value() == moved
    wye.mouse.up()
    settled(wye)


def test_change_over_by_keys_moves_the_numbers(wye):
    handle_of(wye).focus()
    before = float(handle_of(wye).get_attribute("aria-valuenow"))
    for _ in range(4):
        wye.keyboard.press("ArrowLeft")
    wye.keyboard.press("PageDown")
    settled(wye)
    after = float(wye.locator("#start-changeover").input_value().removesuffix(" s"))
    assert after == pytest.approx(before - 14 * 0.05, abs=0.06)
    expect(handle_of(wye)).to_have_attribute("aria-valuenow", re.compile(r"^\d"))
    expect(wye.locator("#line")).to_contain_text("wye-delta")


def test_soft_stop_by_keys_takes_longer(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/start")
    page.select_option("#start-soft_stop", "yes")
    handle = page.get_by_role("slider", name="Soft stop over")
    note = page.locator("#facts .note", has_text="Switched off, it coasts")
    expect(note).to_contain_text("The soft stop over 8 s")
    handle.focus()
    for _ in range(3):
        page.keyboard.press("PageUp")
    settled(page)
    moved = float(page.locator("#start-soft_stop_ramp").input_value().removesuffix(" s"))
    assert moved > 8
    expect(note).to_contain_text(f"The soft stop over {moved:g} s")


def test_boards_and_heat_follow_the_way_in_use(wye):
    lanes = wye.locator("svg.lanes")
    before = lanes.get_attribute("aria-label")
    assert "rotor" in before
    wye.select_option("#start-method", "full-voltage")
    expect(lanes).not_to_have_attribute("aria-label", before)


def test_too_early_a_change_over_is_said(wye):
    wye.fill("#start-changeover", "0.1 s")
    expect(wye.locator("tr.chosen")).to_contain_text("fails")
    expect(wye.locator("#answer")).to_contain_text("You chose wye-delta")


def test_current_limit_by_keys(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/start")
    page.select_option("#start-method", "soft-starter")
    slider = page.get_by_role("slider", name="Current limit, times rated current")
    expect(slider).to_be_visible()
    settled(page)
    slider.focus()
    start = float(slider.get_attribute("aria-valuenow"))
    page.keyboard.press("ArrowUp")
    page.keyboard.press("ArrowUp")
    settled(page)
    expect(page.locator("#start-soft_limit")).to_have_value(f"{start + 0.2:.1f}")
    expect(page.locator("tr.chosen")).to_contain_text(f"{start + 0.2:.1f} ×")


def test_switch_to_the_generator_and_back(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/start")
    expect(page.get_by_text("On the standby generator")).to_be_visible()
    page.select_option("#supply-in_use", "standby")
    expect(page.get_by_text("On the utility")).to_be_visible()
    expect(page.locator("#line")).to_contain_text("300 kVA generator")
    expect(page.locator("#answer")).to_contain_text("over your 4 %")
    page.select_option("#supply-in_use", "")
    expect(page.get_by_text("On the standby generator")).to_be_visible()


def test_without_a_load_it_says_what_a_load_would_give(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/start")
    page.select_option("#load-kind", "")
    expect(page.get_by_text("Give the load, and every way to start is simulated")).to_be_visible()
    expect(page.locator(".strip-drawing")).to_have_count(0)


def test_load_sheet_and_a_bad_inertia(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/load")
    page.fill("#load-inertia", "3 gallons")
    expect(page.locator("#box-load-inertia")).to_contain_text("is not a unit of inertia")
    expect(page.locator("#load-inertia")).to_have_value("3 gallons")
    page.fill("#load-inertia", "76 lb·ft²")
    expect(page.get_by_role("row", name="Load inertia at the motor's shaft")).to_contain_text("3.203 kg·m²")


def test_a_makers_curve_from_a_file(enter, circuit, tmp_path):
    page = enter()
    page.goto(f"{circuit}/machine")
    curve = tmp_path / "curve.csv"
    rows = "0,160,6.1\n400,140,5.9\n800,150,5.2\n1100,230,3.4\n1185,100,1.0\n"
    curve.write_text("speed_rpm,torque_%,current_x\n" + rows)
    page.get_by_text("A maker's curve, as CSV").click()
    page.locator('[data-into="machine-curve"]').set_input_files(curve)
    expect(page.get_by_text("maker's curve. The dot is the plate.")).to_be_visible()
    expect(page.get_by_role("row", name="Torque at rest, of rated")).to_contain_text("160 %")


@pytest.fixture
def restart(enter, address):
    with database.connection_context():
        access = job_of(person("ines"), tam=Role.VIEWER)
        for tag in ("P-11", "P-12"):
            pump(access, tag)
        facts = dict(demo_job("harrowmere-lock.json").circuits)["D-61"]
        jobs.create_circuit(access, tag="D-61", facts=facts)
    page = enter()
    page.goto(f"{address}/jobs/{access.job.id}/restart")
    return page


def test_restart_is_searched_moved_and_kept(restart):
    expect(restart.locator("#answer")).to_contain_text("every dip there stays within 4 %")
    pill = restart.get_by_role("slider", name="P-12 restarts at")
    pill.focus()
    restart.keyboard.press("PageUp")
    settled(restart)
    field = restart.locator("#restart-P-12")
    expect(field).to_have_value(re.compile(r"^\d+(\.5)? s$"))
    moved = field.input_value()
    restart.reload()
    expect(restart.locator("#restart-P-12")).to_have_value(moved)
    restart.fill("#restart-P-12", "")
    settled(restart)
    expect(restart.locator("#answer")).to_contain_text("every dip there stays within 4 %")


def test_all_at_the_same_moment_is_refused_in_words(restart):
    for tag in ("P-11", "P-12"):
        restart.fill(f"#restart-{tag}", "5 s")
        settled(restart)
    expect(restart.locator("#answer")).to_contain_text("over 4 % while they start")
    restart.fill("#restart-P-11", "soon")
    expect(restart.locator("tr", has_text="P-11").first).to_contain_text("does not begin with a number")
    expect(restart.locator("#restart-P-11")).to_have_value("soon")


def test_a_machine_that_stays_off(restart):
    restart.select_option("#takes-P-12", "no")
    expect(restart.locator("tr", has_text="P-12").first).to_contain_text("stays off, as entered")
    expect(restart.get_by_role("slider", name="P-12 restarts at")).to_have_count(0)


def test_a_viewer_reads_the_restart(enter, restart):
    other = enter("tam")
    other.goto(restart.url)
    expect(other.get_by_role("slider")).to_have_count(0)
    expect(other.locator("#restart-P-11")).to_have_attribute("readonly", "")


def test_a_table_that_has_the_focus_shows_what_is_new(enter, circuit):
    """From the last field on, the tab key goes to the table of ways, before the answer has come."""
    page = enter()
    page.goto(f"{circuit}/start")
    ways = page.get_by_role("region", name="Ways to start")
    page.fill("#limits-dip", "3.5 %")
    ways.focus()
    expect(ways).to_contain_text("of 3.5 %")
    expect(ways).to_be_focused()
