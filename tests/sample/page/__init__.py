"""Its page half: what it asks, and its template beside this file."""

from vinegate.web.stages.page import Page

PAGE = Page(
    key="sample", asks=("sample",), context=lambda hand: {"greeting": f"as {hand.planned.drafted('sample.colour')}"}
)
