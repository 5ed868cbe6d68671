"""Pages as PDF: what stands in them, and that it is not read as markup; and giving up."""

import signal
import subprocess

import pytest

from tests.typeset.words import text_of, words_of
from vinegate.typeset import press
from vinegate.typeset.press import AskerLeft, NotWritten, TooMany, pressed

MM = 72 / 25.4


def stays():
    return False


def test_what_is_typed_is_no_markup():
    typed = "#set page(fill: red) *bold* _it_ $x^2$ @ref `raw` \\ // gone /* too */ = head <label> #import"
    page = f"<main><p>{typed.replace('<', '&lt;')}</p></main>"
    assert typed.split() == text_of(pressed(page, stays)).split()[:-3]


def test_paper_is_the_pages_own_and_a_sheet_counts_its_pages():
    for name, width in (("letter", 216), ("a4", 210)):
        body = pressed(f'<body class="{name}"><main>{"<p>line</p>" * 90}</main></body>', stays)
        found = words_of(body)
        assert [round(page / MM) for page, _ in found] == [width] * len(found)
        assert [" ".join(word for *_, word in words[-3:]) for _, words in found] == [
            f"{number} of {len(found)}" for number in range(1, len(found) + 1)
        ]
        assert len(found) > 1


def test_it_is_given_up_where_nobody_waits_and_the_next_one_is_not_kept_waiting(monkeypatch):
    monkeypatch.setattr(press, "_LOOKS_S", 0.001)  # less than any process takes to begin
    asked, begun, usual = [], [], subprocess.Popen
    monkeypatch.setattr(subprocess, "Popen", lambda *of, **more: begun.append(usual(*of, **more)) or begun[-1])

    def left():
        asked.append(1)
        return len(asked) > 2

    with pytest.raises(AskerLeft):
        pressed("<p>one</p>" * 20, left)
    assert len(asked) == 3
    assert [child.returncode for child in begun] == [-signal.SIGKILL]
    monkeypatch.undo()
    assert [pressed("<p>two</p>", stays)[:5] for _ in range(3)] == [b"%PDF-"] * 3


def test_a_long_page_is_written_however_late_its_process_begins(monkeypatch):
    """Longer than a pipe holds: who asks again and again whether it is done still hands over all of it."""
    monkeypatch.setattr(press, "_LOOKS_S", 0.001)
    asked = []
    words = " ".join(f"word{number}" for number in range(20_000))
    text = text_of(pressed(f"<main><p>{words}</p></main>", lambda: asked.append(1) or len(asked) > 60_000))
    assert len(asked) > 2
    assert "word0 " in text
    assert "word19999" in text


def test_more_than_so_many_at_once_are_told_to_come_again(monkeypatch):
    monkeypatch.setattr(press, "_LOOKS_S", 0.001)
    monkeypatch.setattr(press, "_WAITS_S", 0.01)
    with press._AT_ONCE, press._AT_ONCE:
        with pytest.raises(TooMany):
            pressed("<p>three</p>", stays)
        with pytest.raises(AskerLeft):
            pressed("<p>three</p>", lambda: True)


def test_what_the_typesetter_cannot_do_is_said():
    with pytest.raises(NotWritten, match=r"(?i)svg|image"):
        pressed("<main><svg viewBox='0 0 1 1'><path></svg></main>", stays)
