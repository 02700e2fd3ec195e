#import "common.typ": base, d, hair, mono, quiet

// all lengths come in mm of the blade; y goes down from the top of the drawing
#let W = d.page_width * 1mm
#let H = d.page_height * 1mm
#set page(width: W, height: H, margin: 0mm)
#set text(font: "Atkinson Hyperlegible Next", size: 9pt)
#set document(title: d.title)

#let at(p, dx, dy) = ((p.at(0) + dx) * 1mm, (p.at(1) + dy) * 1mm)
#let drawn(points, dx, dy, closed: false, stroke: 0.35pt + black) = place(top + left, curve(
  stroke: stroke,
  curve.move(at(points.at(0), dx, dy)),
  ..points.slice(1).map(p => curve.line(at(p, dx, dy))),
  ..if closed { (curve.close(mode: "straight"),) } else { () },
))

#for (n, sheet) in d.sheets.enumerate() {
  if n > 0 { pagebreak() }
  let dx = d.margin - sheet
  let dy = d.margin + d.head
  place(top + left, box(width: W, height: H, clip: true, {
    for l in d.lines {
      drawn(l.points, dx, dy, closed: l.closed, stroke: if l.kind == "outline" { 0.35pt + black } else if l.kind == "centre" { (paint: luma(90), thickness: 0.25pt, dash: "dash-dotted") } else { (paint: luma(60), thickness: 0.25pt, dash: "dashed") })
    }
    for s in d.sections {
      drawn(s.points, dx, dy, closed: true)
      place(top + left, dx: (s.x + dx) * 1mm, dy: (s.y + dy) * 1mm, text(size: 7.5pt, fill: quiet, s.says))
    }
    for t in d.marks {
      place(top + left, dx: (t.x + dx) * 1mm, dy: (t.y + dy) * 1mm, text(size: 7.5pt, fill: quiet, t.says))
    }
  }))
  place(top + left, dx: d.margin * 1mm, dy: 6mm, [#text(size: 13pt, weight: "bold", d.title) #h(3mm) #text(fill: quiet)[1:1#if d.sheets.len() > 1 [, sheet #(n + 1) of #d.sheets.len(): lay the crosses on one another]]])
  // the rule that tells whether the printer kept the size
  let rule = (d.page_height - 14) * 1mm
  place(top + left, dx: d.margin * 1mm, dy: rule, {
    place(top + left, line(start: (0mm, 0mm), end: (100mm, 0mm), stroke: 0.5pt + black))
    for i in range(11) { place(top + left, line(start: (i * 10mm, 0mm), end: (i * 10mm, if calc.rem(i, 5) == 0 { 3mm } else { 2mm }), stroke: 0.35pt + black)) }
    place(top + left, dx: 103mm, dy: -1mm, [100 mm. Measure it before you glue: if it is not, print again at full size, without “fit to page”.])
  })
  for x in d.crosses.filter(x => x + dx > 4 and x + dx < d.page_width - 4) {
    for y in (d.cross_top, d.cross_bottom) {
      place(top + left, dx: (x + dx) * 1mm, dy: (y + dy) * 1mm, {
        place(top + left, line(start: (-2mm, 0mm), end: (2mm, 0mm), stroke: 0.3pt + black))
        place(top + left, line(start: (0mm, -2mm), end: (0mm, 2mm), stroke: 0.3pt + black))
      })
    }
  }
}
