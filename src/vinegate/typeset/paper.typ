// Lays out the tree of a page (tree.py). What stands in it is values: nothing of it is read as markup.
#let page-tree = json(bytes(sys.inputs.page))

#let ink = rgb("#111")
#let soft = rgb("#444")
#let hairline = 0.5pt + rgb("#bbb")
#let rem = 9.5pt
#let papers = (
  letter: (paper: "us-letter", margin: (x: 15mm, y: 16mm)),
  a4: (paper: "a4", margin: (x: 15mm, y: 16mm)),
  card-page: (paper: "a5", flipped: true, margin: 8mm),
)

#let count = align(right, text(8pt, context counter(page).display("1 of 1", both: true)))
#set page(..papers.at(page-tree.on), footer: if page-tree.on == "card-page" { none } else { count })
#set document(title: page-tree.title, date: none)
#set text(
  font: "IBM Plex Sans", size: rem, fill: ink, lang: "en", number-width: "tabular", hyphenate: false,
  top-edge: "ascender", bottom-edge: "descender",
)
#set par(leading: 0.1em, spacing: 0.5em)
#set block(spacing: 0.5em)
#show heading: set text(weight: 600)
#show heading.where(level: 1): it => block(above: 0.1em, below: 0.2em, text(size: 1.6 * rem, it.body))
#show heading.where(level: 2): it => block(above: 1.1em, below: 0.45em, sticky: true, text(size: 0.95 * rem, it.body))
#show heading.where(level: 3): it => block(above: 0.9em, below: 0.3em, sticky: true, text(size: 0.95 * rem, it.body))

#let has(node, name) = type(node) != str and name in node.c
#let bold(body) = text(weight: 600, body)
#let hatch = tiling(size: (24pt, 24pt), line(start: (0pt, 24pt), end: (24pt, 0pt), stroke: 1pt + rgb("#ddd")))

#let tables = (
  working-table: (size: 0.82, inset: 0.2),
  methods-print: (size: 0.82, inset: 0.3),
  entered: (size: 0.87, inset: 0.15),
  calc-gates: (size: 0.9, inset: 0.3),
  calc-line: (size: 0.9, inset: 0.3),
  of-card: (size: 1.2, inset: 0.42),
)

// How each kind of element looks. `render` is handed down, as a function of this language cannot name a later one.
#let cell(node, head, render, table-of) = {
  let entered = has(table-of, "entered") or table-of.c.len() == 0
  let body = for child in node.k { render(child) }
  let named = node.row and not entered and not has(table-of, "working-table")
  let weight = if named or (entered and node.t == "td") or has(node, "verdict-word") { 600 } else { 400 }
  let fill = if head or has(node, "soft") or has(node, "origin") or (entered and node.t == "th") { soft } else { ink }
  table.cell(
    colspan: node.span, breakable: false, align: (if has(node, "num") { right } else { left }) + top,
    text(weight: weight, fill: fill, body),
  )
}

#let plain-table(node, render) = grid(
  columns: (auto, auto), column-gutter: 1em, row-gutter: 0.25em,
  ..node.rows.flatten().map(one => text(fill: if one.t == "th" { soft } else { ink }, for child in one.k { render(child) })),
)

#let full-table(node, render) = {
  let kind = tables.keys().find(name => has(node, name))
  let looks = tables.at(if kind == none { "of-card" } else { kind })
  let rows = node.rows.enumerate().map(((place, row)) => row.map(one => cell(one, place < node.head, render, node)))
  let head = rows.slice(0, node.head).flatten()
  set text(size: looks.size * rem)
  block(below: 0.8em, table(
    columns: node.columns.map(share => share * 1fr), stroke: (x: none, top: none, bottom: hairline),
    inset: (left: 0pt, right: 0.7 * rem, y: looks.inset * rem),
    ..if head.len() > 0 { (table.header(..head),) },
    ..rows.slice(node.head).flatten(),
  ))
}

#let drawing(node, across: 100%, tallest: 17cm) = layout(room => {
  let width = calc.min(room.width * across, tallest * node.wide)
  block(breakable: false, above: 0.6em, below: 0.8em, align(center, image(bytes(node.svg), format: "svg", alt: node.said, width: width)))
})

#let head-of-sheet(node, render) = {
  let parts = node.k.filter(one => type(one) != str)
  block(width: 100%, stroke: (bottom: 1.5pt + ink), inset: (bottom: 0.7 * rem), below: 0.9em, grid(
    columns: (1fr, auto), column-gutter: 2em,
    render(parts.first()),
    ..parts.slice(1).map(one => if one.t == "table" { plain-table(one, render) } else { align(right, render(one)) }),
  ))
}

#let signed(node, render) = block(breakable: false, above: 3em, below: 1em, grid(
  columns: (1fr,) * 3, column-gutter: 2 * rem,
  ..node.k.filter(one => type(one) != str).map(one => {
    line(length: 100%, stroke: 0.7pt + ink)
    v(-0.3em)
    text(size: 0.84 * rem, fill: soft, for child in one.k { render(child) })
  }),
))

#let card(node, render) = {
  let draft = has(node, "not-valid")
  set page(background: if draft { rect(width: 100%, height: 100%, fill: hatch) })
  for child in node.k {
    if has(child, "across") {
      block(width: 100%, stroke: 2pt + ink, inset: 0.35em, align(center, text(size: 1.15 * rem, weight: 600, for one in child.k { render(one) })))
    } else { render(child) }
  }
}

#let label(node, render) = {
  let draft = has(node, "not-valid")
  let crossed(body) = if draft { strike(body) } else { body }
  show heading: it => block(above: 0pt, below: 0.1em, text(size: 1.15 * rem, crossed(it.body)))
  block(
    width: 100%, height: 36mm, inset: (x: 3mm, y: 2mm), breakable: false, clip: true, fill: if draft { hatch },
    stroke: (paint: ink, thickness: 0.7pt, dash: if draft { "dashed" } else { "solid" }),
    text(size: 0.8 * rem, for child in node.k {
      if type(child) != str and child.t == "dl" {
        grid(columns: (16mm, 1fr), row-gutter: 0.1em, ..child.k.map(one => {
          let body = for part in one.k { render(part) }
          if one.t == "dt" { text(fill: soft, body) } else { bold(crossed(body)) }
        }))
      } else { render(child) }
    }),
  )
}

#let sized(node, body) = {
  let size = if has(node, "answer") { 1.28 } else if has(node, "note") { 0.87 } else if has(node, "small") or has(node, "caution") { 0.84 } else if has(node, "state") { 0.72 } else { none }
  let quiet = has(node, "soft") or has(node, "note") or has(node, "caution") or has(node, "source")
  let shown = if has(node, "verdict-word") { bold(body) } else { body }
  let shown = if quiet { text(fill: soft, shown) } else { shown }
  if size == none { shown } else { text(size: size * rem, shown) }
}

#let render(node) = {
  if type(node) == str { return text(node) }
  let t = node.t
  if t == "svg" { return drawing(node) }
  if t == "table" { return full-table(node, render) }
  if has(node, "calc-head") or (t == "header") { return head-of-sheet(node, render) }
  if has(node, "sign") { return signed(node, render) }
  if has(node, "card") { return card(node, render) }
  if has(node, "labels") {
    return grid(columns: (1fr,) * 3, gutter: 3mm, ..node.k.map(one => label(one, render)))
  }
  if t == "span" and has(node, "soft") { return text(fill: soft, weight: 400, for child in node.k { render(child) }) }
  if has(node, "curve") { return pad(x: 12%, for child in node.k { render(child) }) }
  let body = for child in node.k { render(child) }
  if t in ("h1", "h2", "h3") { return heading(level: int(t.last()), body) }
  if t == "br" { return linebreak() }
  if t == "sub" { return sub(typographic: false, size: 0.75em, baseline: 0.2em, body) }
  if t == "strong" { return bold(body) }
  if t == "span" and has(node, "rule") { return }
  if t == "span" and has(node, "note") { return linebreak() + sized(node, body) }
  if t == "span" and has(node, "source") { return sized(node, ": " + body) }
  if t == "p" and has(node, "caution") {
    return block(width: 100%, above: 1.2em, stroke: (top: hairline), inset: (top: 0.6em), sized(node, body))
  }
  if t in ("p", "div", "section", "article") { return block(sized(node, body)) }
  sized(node, body)
}

#for (place, node) in page-tree.content.enumerate() {
  if place > 0 and (has(node, "calc") or has(node, "card")) { pagebreak(weak: true) }
  render(node)
}
