#import "common.typ": d, quiet

#set page(width: 148mm, height: 105mm, margin: 9mm)
#set text(font: "Atkinson Hyperlegible Next", size: 8.5pt)
#set document(title: d.title)
#set par(leading: 0.5em)
#let small(body) = text(fill: quiet, body)

#text(size: 15pt, weight: "bold", d.title) #if d.whom != "" [ #text(size: 10pt)[for #d.whom] ] #h(1fr) #text(size: 10pt, small(d.number))
#v(-1mm)
#line(length: 100%, stroke: 0.5pt)
#grid(
  columns: (1fr, 1fr),
  column-gutter: 7mm,
  [
    #for s in d.steels [#s.name: #calc.round(100 * s.share) % of the faces \ ]
    #small[#d.layers layers across; #d.made.join(", ")]

    #v(1mm)
    Edge: #d.edge_steels.join(", "), #calc.round(d.angle) degrees both sides together \
    #if d.hardness.len() > 0 [Hardness read: #d.hardness.map(h => str(calc.round(h, digits: 1))).join(", ") HRC (#d.hardness.len() spots) \ ]
    #if d.tests.len() > 0 [Its edge tested: #d.tests.join("; ") \ ]
    Blade #calc.round(d.length) mm long#if d.mass != none [, #calc.round(d.mass) g]
  ],
  [
    #if d.grade != "" [*#(if d.grade == "first" { "First grade" } else if d.grade == "second" { "Second" } else { "Not for sale" })* \ #d.why]
    #if d.flaws.len() > 0 [\ Not perfect: #d.flaws.join("; ").]

    #v(1mm)
    #small[#for c in d.care [#c \ ]]
  ],
)
#v(1fr)
#grid(columns: (1fr, 1fr), column-gutter: 7mm, [#line(length: 100%, stroke: 0.4pt) #small[#d.maker]], [#line(length: 100%, stroke: 0.4pt) #small[signed, dated]])
