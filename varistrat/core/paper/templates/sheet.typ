#import "common.typ": base, d, hair, mono, quiet

#show: base
#set page(
  header: [#text(size: 9pt, fill: quiet)[#d.title #h(1fr) #d.about]],
  footer: context [#text(size: 9pt, fill: quiet)[#d.made #h(1fr) #counter(page).display("1 of 1", both: true)]],
)
#set document(title: d.title)

#let field(width: 30mm) = box(width: width, height: 9mm, stroke: hair, baseline: 2.5mm)
#let tick = box(width: 4.5mm, height: 4.5mm, stroke: 0.8pt + black, baseline: 0.7mm)

#text(size: 24pt, weight: "bold", d.title)
#if d.lines.len() > 0 [
  #v(-2mm)
  #for line in d.lines [#text(fill: quiet, line) \ ]
]

#if d.pieces.len() > 0 [
  #v(2mm)
  #block(breakable: true)[
    #text(size: 15pt, weight: "bold")[To cut]
    #table(
      columns: (auto, 1fr, auto, auto, auto),
      stroke: (x, y) => if y > 0 { (top: hair) },
      inset: (x: 2mm, y: 1.6mm),
      align: (left, left, right, right, left),
      ..d.pieces.map(p => (tick, [#p.says], mono(p.section), mono(p.length), [#p.count])).flatten(),
    )
  ]
]

#for (i, o) in d.operations.enumerate() [
  #block(breakable: false, above: 7mm, width: 100%)[
    #line(length: 100%, stroke: 1pt + black)
    #v(-2.5mm)
    #grid(
      columns: (1fr, auto),
      column-gutter: 6mm,
      [#text(size: 17pt, weight: "bold")[#(i + 1). #o.title]],
      [#text(fill: quiet, size: 10pt)[#o.place#if o.minutes != "" [, #o.minutes]]],
    )
    #v(-1.5mm)
    #text(size: 13pt, o.say)
    #if o.by_heat.len() > 0 [
      #v(-1mm)
      #for (n, heat) in o.by_heat.enumerate() [#mono[#(n + 1)] #h(1mm) #heat \ ]
    ]
    #if o.lay_out != "" [#text(fill: quiet, o.lay_out)]
    #for c in o.cautions [
      #block(stroke: (left: 3pt + black), inset: (left: 3mm, y: 0.8mm), above: 2mm, below: 2mm)[*Take care:* #c]
    ]
    #if o.targets.len() > 0 [
      #v(0.5mm)
      #grid(
        columns: (auto, auto, auto, auto),
        column-gutter: 4mm,
        row-gutter: 2.2mm,
        align: (left + horizon, right + horizon, left + horizon, left + horizon),
        ..o.targets.map(t => ([#t.name], mono(text(size: 15pt, weight: "bold", t.text)), field(), text(fill: quiet, size: 10pt, t.tolerance))).flatten(),
      )
    ]
    #for c in o.checks [
      #v(0.5mm)
      #grid(
        columns: (1fr, auto),
        column-gutter: 5mm,
        [#c.ask #text(fill: quiet, size: 10.5pt)[#c.good]],
        [#tick good #h(3mm) #tick not],
      )
    ]
    #v(0.5mm)
    #text(size: 10.5pt, fill: quiet)[#if o.timers.len() > 0 [#o.timers.join(" · ") #h(4mm)] #tick done #h(4mm) took #field(width: 18mm) min #h(1fr)]
  ]
]
