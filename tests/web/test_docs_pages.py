"""The documentation as the application serves it: every page opens, every link leads somewhere, words are found."""

import html
import re
from urllib.parse import urljoin

import pytest

from tests.web.test_starter import text_of
from vinegate.web.docs.shelf import anchor_of, pages, search


@pytest.fixture
def nobody(sign_in):
    """Without an account."""
    return sign_in(None)


def test_every_page_is_listed_and_opens_without_an_account(nobody):
    listed = nobody.get("/docs/").get_data(as_text=True)
    assert len(pages()) > 50
    for page in pages():
        assert f'href="/docs/{page.name}"' in listed
        answer = nobody.get(f"/docs/{page.name}")
        assert answer.status_code == 200, page.name
        assert page.title.replace("`", "") in html.unescape(re.sub(r"</?code>", "", answer.get_data(as_text=True)))


def test_every_link_on_a_page_leads_somewhere(nobody):
    for page in pages():
        body = nobody.get(f"/docs/{page.name}").get_data(as_text=True).partition("<article")[2]
        for address in re.findall(r'(?:href|src)="([^"]+)"', body.partition("</article>")[0]):
            if "://" in address or address.startswith("mailto:"):
                continue
            whole, _, anchor = urljoin(f"/docs/{page.name}", html.unescape(address)).partition("#")
            with nobody.get(whole, follow_redirects=True) as answer:
                assert answer.status_code == 200, (page.name, address)
                assert not anchor or f'id="{anchor}"' in answer.get_data(as_text=True), (page.name, address)


def test_no_markup_passes_through_and_nothing_outside_is_served(nobody, tmp_path, monkeypatch):
    file = tmp_path / "x.md"
    file.write_text("# X\n<script>alert(1)</script> [a](javascript:alert(1))\n")
    monkeypatch.setattr("vinegate.web.docs.shelf.ROOT", tmp_path)
    from vinegate.web.docs.shelf import html_of

    html_of.cache_clear()
    assert "<script" not in html_of("x")
    assert 'href="javascript' not in html_of("x")
    html_of.cache_clear()
    for address in (
        "../pyproject",
        "..%2f..%2fpyproject.toml",
        "nothing",
        "../README.md",
        "../src/vinegate/web/static/mark.svg",
    ):
        assert nobody.get(f"/docs/{address}").status_code == 404, address


def test_words_are_found_with_the_heading_above_them(nobody):
    found = search("running on after")
    assert ("worked/starters", "Running on after a stop") in {(one.page.name, one.heading) for one in found}
    assert all(anchor_of(one.heading) == one.anchor for one in found)
    page = text_of(nobody.get("/docs/?find=HOLD-IN+from"))
    assert "place" in page
    assert "/docs/worked/" in page
    assert "Nothing has" in text_of(nobody.get("/docs/?find=zeppelin"))
    assert "Nothing has" in text_of(nobody.get("/docs/?find=%3Cscript%3E"))
