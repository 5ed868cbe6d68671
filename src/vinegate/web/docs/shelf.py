"""The pages of `docs/`: their titles, their text as HTML, and where a word stands in them."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache, lru_cache
from pathlib import Path
from typing import Final

from markdown_it import MarkdownIt
from markdown_it.token import Token

ROOT: Final = Path(__file__).parents[4] / "docs"
GROUPS: Final = (("tasks", "Tasks"), ("", "Reference"), ("worked", "Worked by hand"), ("decisions", "Decisions"))
_FIRST: Final = ("tutorial",)
_MOST_HITS: Final = 60
_AROUND: Final = 90


@dataclass(frozen=True, slots=True, kw_only=True)
class Page:
    """One page: its address below /docs/, without the ending, and its title."""

    name: str
    title: str
    group: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Hit:
    """Where what is sought stands: the page, the heading above it, the words around."""

    page: Page
    heading: str
    anchor: str
    words: str


@cache
def pages() -> tuple[Page, ...]:
    """Every page by its group, the tutorial first; none where the documentation is not installed."""
    found = [_page(file) for file in ROOT.rglob("*.md")] if ROOT.is_dir() else []
    order = {key: place for place, (key, _) in enumerate(GROUPS)}
    return tuple(sorted(found, key=lambda one: (order.get(one.group, 9), one.name not in _FIRST, one.title.casefold()
                                                if one.group != "decisions" else one.name)))  # fmt: skip


def _page(file: Path) -> Page:
    name = file.relative_to(ROOT).with_suffix("").as_posix()
    first = next((line for line in file.read_text(encoding="utf-8").splitlines() if line.startswith("# ")), f"# {name}")
    return Page(name=name, title=first[2:].strip(), group=name.rpartition("/")[0])


def page(name: str) -> Page | None:
    return next((one for one in pages() if one.name == name), None)


@lru_cache(maxsize=128)
def html_of(name: str) -> str:
    """A known page as HTML: no markup passes through, headings can be linked to, links to pages lose their ending."""
    parser = MarkdownIt("commonmark", {"html": False}).enable("table")
    tokens = parser.parse((ROOT / f"{name}.md").read_text(encoding="utf-8"))
    for place, token in enumerate(tokens):
        if token.type == "heading_open":
            token.attrSet("id", anchor_of(tokens[place + 1].content))
        if token.type == "table_open":
            token.attrSet("class", "set")
        for child in token.children or ():
            _shortened(child)
    return str(parser.renderer.render(tokens, parser.options, {}))


def _shortened(token: Token) -> None:
    href = token.attrGet("href") if token.type == "link_open" else None
    if isinstance(href, str) and "://" not in href:
        token.attrSet("href", re.sub(r"\.md(?=$|#)", "", href))


def anchor_of(heading: str) -> str:
    """A heading as the end of an address.

    >>> anchor_of("Two speeds, `HIGH`")
    'two-speeds-high'
    """
    return re.sub(r"[^a-z0-9]+", "-", heading.lower()).strip("-")


def search(sought: str) -> list[Hit]:
    """Lines with every word that is sought, whatever its case; a page's title counts for all its lines."""
    words = sought.casefold().split()
    found: list[Hit] = []
    if not words:
        return found
    for one in pages():
        heading = one.title
        for line in (ROOT / f"{one.name}.md").read_text(encoding="utf-8").splitlines():
            if line.startswith("#"):
                heading = line.lstrip("# ").strip()
            text = f"{one.title} {line}".casefold()
            if all(word in text for word in words) and any(word in line.casefold() for word in words):
                found.append(Hit(page=one, heading=heading, anchor=anchor_of(heading), words=_around(line, words)))
                if len(found) == _MOST_HITS:
                    return found
    return found


def _around(line: str, words: list[str]) -> str:
    """The words near the first that is sought, without marks."""
    plain = re.sub(r"[*`|#]+", " ", line)
    at = min((found for word in words if (found := plain.casefold().find(word)) >= 0), default=0)
    begins, ends = max(at - _AROUND, 0), min(at + _AROUND, len(plain))
    return ("… " if begins else "") + " ".join(plain[begins:ends].split()) + (" …" if ends < len(plain) else "")
