#import "common.typ": d, quiet

#set page(width: 70mm, height: 37mm, margin: 2.5mm)
#set text(font: "Atkinson Hyperlegible Next", size: 9pt)
#set document(title: d.title)
#let cells = d.rows.len()
#let side = 32mm / (cells + 8)
#grid(
  columns: (32mm, 1fr),
  column-gutter: 2mm,
  box(width: 32mm, height: 32mm, for (y, row) in d.rows.enumerate() {
    for (x, on) in row.enumerate() {
      if on == 1 { place(top + left, dx: (x + 4) * side, dy: (y + 4) * side, rect(width: side, height: side, fill: black)) }
    }
  }),
  align(horizon)[
    #text(size: 12pt, weight: "bold", d.title) \
    #for line in d.lines [#line \ ]
  ],
)
