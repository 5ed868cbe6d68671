"""What of a page prints, and how wide the columns of its tables are."""

import pytest

from vinegate.typeset.columns import em, widths
from vinegate.typeset.tree import BREAK, tree_of


def only(page):
    """The one node of a page."""
    (node,) = tree_of(page)["content"]
    return node


def test_title_paper_and_what_stands_in_main():
    page = tree_of(
        '<head><title>P-11  draft</title></head><body class="print-page letter"><nav>no</nav><main><p>yes</p></main></body>'
    )
    assert page == {"title": "P-11 draft", "on": "letter", "content": [{"t": "p", "c": [], "k": ["yes"]}]}
    assert tree_of('<body class="print-page"><main></main></body>')["on"] == "a4"


@pytest.mark.parametrize(
    "left_out",
    [
        "<form><p>Ask</p></form>",
        '<p class="error screen-only">x</p>',
        "<script>let a</script>",
        '<code class="key">plate.x</code>',
    ],
)
def test_what_is_for_the_screen_only_is_left_out(left_out):
    assert only(f"<main><div>{left_out}<p>stays</p></div></main>")["k"] == [{"t": "p", "c": [], "k": ["stays"]}]


def test_spaces_are_kept_between_words_and_not_at_the_ends_of_a_block():
    node = only("<main>\n <p>\n  It pulls <strong>566 A</strong>\n at <em>rest</em>. </p>\n</main>")
    assert node["k"] == [
        "It pulls ",
        {"t": "strong", "c": [], "k": ["566\u00a0A"]},
        " at ",
        {"t": "em", "c": [], "k": ["rest"]},
        ".",
    ]


def test_a_figure_stays_with_its_unit_and_not_with_the_words_behind_it():
    assert only("<main><p>2.5 mm² in 208 states, 5 % of 75 hp.</p></main>")["k"] == [
        "2.5\u00a0mm² in 208 states, 5\u00a0% of 75\u00a0hp."
    ]


def test_a_drawing_is_kept_as_it_is_written_and_brings_its_ink():
    svg = '<svg class="strip-drawing" viewBox="0 0 800 200" aria-label="Ways to start"><title>a &lt; b</title><path d="M0 0"/><g><text>x</text></g></svg>'
    node = only(f"<main>{svg}</main>")
    assert (node["wide"], node["said"]) == (4.0, "Ways to start")
    begun, style, rest = node["svg"].partition("<style>")
    assert style
    assert begun == svg[: svg.index(">") + 1]
    assert rest.partition("</style>")[2] == svg[svg.index(">") + 1 :]


def test_a_circuit_has_the_ink_of_symbols_and_a_chart_that_of_lines():
    circuit, chart = (
        only(f'<main><svg class="{name}" viewBox="0 0 1 1"></svg></main>')["svg"]
        for name in ("circuit-drawing", "time-current")
    )
    assert ".coil{" in circuit
    assert ".coil{" not in chart


def test_a_table_has_its_rows_and_how_many_are_its_head():
    table = only(
        "<main><table class='calc-line'><thead><tr><th colspan='2'>Station</th><th class='num'>A</th></tr></thead>"
        "<tbody><tr><th scope='row'>Supply</th><td>x</td><td class='num'>1</td></tr></tbody></table></main>"
    )
    assert table["head"] == 1
    assert [[cell["span"] for cell in row] for row in table["rows"]] == [[2, 1], [1, 1, 1]]
    assert [cell["row"] for cell in table["rows"][1]] == [True, False, False]
    assert len(table["columns"]) == 3


def test_a_formula_may_break_behind_its_operators_and_a_long_word_anywhere():
    table = only(
        "<main><table><tr><td class='formula'>U=√(R²+X²)<span>=a·b</span></td><td>a=b</td></tr></table></main>"
    )
    formula, other = table["rows"][0]
    assert formula["k"][0] == f"U={BREAK}√(R²+{BREAK}X²)"
    assert formula["k"][1]["k"] == [f"={BREAK}a·{BREAK}b"]
    assert other["k"] == ["a=b"]
    word = only(f"<main><p>{'x' * 40}</p></main>")["k"][0]
    assert word.replace(BREAK, "") == "x" * 40
    assert max(map(len, word.split(BREAK))) <= 12


def cell(words, *classes, span=1, row=False):
    return {"words": words, "c": list(classes), "span": span, "row": row}


class TestWidths:
    def test_what_fits_unbroken_is_not_broken_for_a_sentence(self):
        name, sentence = widths([[cell("a wild river", row=True), cell("word " * 80)]], [])
        line_em = 180 / 25.4 * 72 / (0.86 * 9.5)
        assert name / (name + sentence) * line_em >= em("a wild river")

    def test_numbers_and_verdicts_are_never_narrower_than_they_are(self):
        rows = [
            [
                cell("312.7 N·m at 1480", "num"),
                cell("not known", "verdict-word"),
                cell("word " * 90),
                cell("words " * 90),
            ]
        ]
        found = widths(rows, [])
        line_em = 180 / 25.4 * 72 / (0.86 * 9.5)
        assert sum(found) == pytest.approx(line_em)
        assert found[0] >= em("312.7 N·m at 1480")
        assert found[1] >= em("not known")

    def test_a_cell_over_two_columns_widens_neither(self):
        narrow = widths([[cell("a"), cell("b"), cell("c")]], [])
        assert widths([[cell("a"), cell("b"), cell("c")], [cell("long " * 9, span=2), cell("c")]], []) == narrow

    def test_what_is_filled_in_by_hand_has_room(self):
        blank, word = widths([[cell("", "blank"), cell("word")]], [])
        assert blank > 2 * word

    def test_working_has_columns_that_stay_and_facts_even_ones(self):
        rows = [[cell("x" * 50), cell("b"), cell("c"), cell("d")]]
        assert widths(rows, ["working-table"]) == widths([rows[0][::-1]], ["working-table"])
        assert set(widths(rows, ["entered"])) == {1.0}

    def test_an_empty_table(self):
        assert widths([], []) == [pytest.approx(0.85)]
