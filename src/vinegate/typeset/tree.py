"""What prints of one of our own pages, as a tree of plain values for the typesetter.

A node is a text, or `{"t": tag, "c": classes, "k": children}`. A table has `rows`, how many of them are its `head`, and
the share of the width of each of its `columns`; a drawing is whole in `svg`. Forms, and what is for the screen only,
are left out.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from html import escape
from html.parser import HTMLParser
from typing import Any, Final

from vinegate.typeset.columns import widths
from vinegate.typeset.ink import inked

Node = str | dict[str, Any]

_VOID: Final = {"base", "br", "col", "hr", "img", "input", "link", "meta", "source", "wbr"}
_NOT_PRINTED: Final = {"button", "form", "head", "script", "style", "template"}
_ON_SCREEN: Final = {"key", "screen-only", "sr"}
_HOLDS_BLOCKS: Final = {"article", "body", "div", "dl", "header", "html", "main", "ol", "section", "ul"}
_BLOCKS: Final = _HOLDS_BLOCKS | {"dd", "dt", "h1", "h2", "h3", "li", "p", "td", "th"}
_LONG_WORD: Final = re.compile(r"[^\s\u200b]{25,}")
_SPACES: Final = re.compile(r"[ \t\r\n\f]+")
_UNIT: Final = re.compile(r"(?<=\d) (?=[%°µΩA-Za-z][A-Za-z0-9Ω²³·/]{0,4}(?:[\s,.;:)]|$))")
_OPERATOR: Final = re.compile(r"(?<=[=·+−/,)])(?=\S)")
PAPERS: Final = ("letter", "a4", "card-page")
"""Classes of a page's body, by which its paper is known."""
BREAK: Final = "\u200b"
"""Where a line may end though there is no space."""


@dataclass(slots=True)
class Element:
    """As it stands in the page."""

    tag: str
    attributes: dict[str, str]
    children: list[Element | str] = field(default_factory=list)

    @property
    def classes(self) -> list[str]:
        return self.attributes.get("class", "").split()

    def all(self, tag: str) -> Iterator[Element]:
        """Every element of this kind below it, in order."""
        for child in self.children:
            if isinstance(child, Element):
                if child.tag == tag:
                    yield child
                yield from child.all(tag)

    @property
    def text(self) -> str:
        """Its words, with single spaces."""
        return " ".join("".join(child if isinstance(child, str) else child.text for child in self.children).split())


class _Reader(HTMLParser):
    """Pages of our own templates: well formed; drawings are kept as they are written."""

    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.root = Element("page", {})
        self._open = [self.root]
        self._drawing: list[str] = []
        self._deep = 0

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag == "svg" or self._deep:
            self._draws(tag, attrs)
            return
        element = Element(tag, {name: value or "" for name, value in attrs})
        self._open[-1].children.append(element)
        if tag not in _VOID:
            self._open.append(element)

    def _draws(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if not self._deep:
            self._open[-1].children.append(Element(tag, {name: value or "" for name, value in attrs}))
        self._deep += tag == "svg"
        self._drawing.append(self.get_starttag_text() or "")

    def handle_startendtag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if self._deep:
            self._drawing.append(self.get_starttag_text() or "")
        else:
            self.handle_starttag(tag, attrs)
            self.handle_endtag(tag)

    def handle_endtag(self, tag: str) -> None:
        if self._deep:
            self._drawing.append(f"</{tag}>")
            self._deep -= tag == "svg"
            if not self._deep:
                drawing = self._open[-1].children[-1]
                assert isinstance(drawing, Element)
                drawing.children, self._drawing = ["".join(self._drawing)], []
        elif tag not in _VOID:
            while len(self._open) > 1 and self._open.pop().tag != tag:
                pass

    def handle_data(self, data: str) -> None:
        if self._deep:
            self._drawing.append(escape(data, quote=False))
        else:
            self._open[-1].children.append(data)


def tree_of(page: str) -> dict[str, Any]:
    """Title, paper and content of a page: what stands in its `main`, or else all of it."""
    reader = _Reader()
    reader.feed(page)
    reader.close()
    body = next(reader.root.all("body"), None)
    main = next(reader.root.all("main"), reader.root)
    title = next((one.text for one in reader.root.all("title")), "")
    on = next((name for name in PAPERS if body and name in body.classes), "a4")
    return {"title": title, "on": on, "content": _children(main)}


def _children(element: Element, *, formula: bool = False) -> list[Node]:
    found: list[Node] = []
    for child in element.children:
        if isinstance(child, str):
            text = _SPACES.sub(" ", child)
            if text != " " or element.tag not in _HOLDS_BLOCKS:
                found.append(_breakable(text, formula=formula))
        elif child.tag not in _NOT_PRINTED and not _ON_SCREEN.intersection(child.classes):
            found.append(_node(child, formula=formula))
    return _trimmed(found) if element.tag in _BLOCKS else found


def _breakable(text: str, *, formula: bool) -> str:
    if formula:
        text = _OPERATOR.sub(BREAK, text)
    text = with_units(text)
    return _LONG_WORD.sub(lambda word: BREAK.join(re.findall(r".{1,12}", word.group())), text)


def with_units(text: str) -> str:
    """A figure and its unit stay on one line."""
    return _UNIT.sub("\u00a0", text)


def _trimmed(found: list[Node]) -> list[Node]:
    """Without the spaces that a block begins and ends with."""
    if found and isinstance(found[0], str):
        found[0] = found[0].lstrip(" ")
    if found and isinstance(found[-1], str):
        found[-1] = found[-1].rstrip(" ")
    return [one for one in found if one != ""]


def _node(element: Element, *, formula: bool = False) -> Node:
    if element.tag == "svg":
        return _drawing(element)
    if element.tag == "table":
        return _table(element)
    children = _children(element, formula=formula or "formula" in element.classes)
    return {"t": element.tag, "c": element.classes, "k": children}


def _drawing(element: Element) -> Node:
    drawing = str(element.children[0])
    box = re.search(r'viewBox="[-\d.]+ [-\d.]+ ([\d.]+) ([\d.]+)"', drawing)
    wide = float(box.group(1)) / float(box.group(2)) if box else 1.0
    said = element.attributes.get("aria-label", "Drawing")
    return {"t": "svg", "c": element.classes, "svg": inked(drawing, element.classes), "wide": wide, "said": said}


def _table(element: Element) -> Node:
    rows = list(element.all("tr"))
    head = sum(len(list(one.all("tr"))) for one in element.all("thead"))
    cells = [[_cell(one) for one in row.children if isinstance(one, Element)] for row in rows]
    return {"t": "table", "c": element.classes, "head": head, "columns": widths(cells, element.classes), "rows": cells}


def _cell(element: Element) -> dict[str, Any]:
    return {
        "t": element.tag,
        "c": element.classes,
        "k": _children(element, formula="formula" in element.classes),
        "span": int(element.attributes.get("colspan", "1")),
        "row": element.attributes.get("scope") == "row",
        "words": with_units(element.text),
    }
