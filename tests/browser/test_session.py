"""A session that ends while one types: signed in on the spot, nothing typed is lost, the token is new by itself."""

from playwright.sync_api import expect

from tests.server import PASSWORD


def type_speed(page, text):
    page.fill("[name='f:plate.speed']", text)
    page.locator("[name='f:plate.speed']").blur()


def test_one_signs_in_on_the_spot_and_nothing_is_lost(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/plate")
    page.context.clear_cookies()
    type_speed(page, "1177 rpm")
    dialog = page.get_by_role("dialog", name="You are signed out")
    dialog.get_by_label("Login").fill("ines")
    dialog.get_by_label("Password").fill("wrong wrong wrong")
    dialog.get_by_role("button", name="Sign in").click()
    expect(dialog.get_by_role("alert")).to_contain_text("do not belong together")
    dialog.get_by_label("Password").fill(PASSWORD)
    dialog.get_by_role("button", name="Sign in").click()
    expect(dialog).to_have_count(0)
    expect(page.locator("#kept")).to_contain_text("Draft kept")
    page.goto(f"{circuit}/plate")
    expect(page.locator("[name='f:plate.speed']")).to_have_value("1177 rpm")


def test_signed_in_elsewhere_the_token_renews_itself(enter, circuit):
    page = enter()
    page.goto(f"{circuit}/plate")
    page.context.clear_cookies()
    other = page.context.new_page()
    other.goto(circuit.rsplit("/jobs", 1)[0] + "/sign-in")
    other.fill("#login", "ines")
    other.fill("#password", PASSWORD)
    other.click("text=Sign in >> nth=-1")
    other.wait_for_url("**/")
    type_speed(page, "1178 rpm")
    expect(page.locator("#kept")).to_contain_text("Draft kept")
    expect(page.get_by_role("dialog", name="You are signed out")).to_have_count(0)
    page.reload()
    expect(page.locator("[name='f:plate.speed']")).to_have_value("1178 rpm")
