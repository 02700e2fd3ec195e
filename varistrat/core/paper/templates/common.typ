#let d = json(bytes(sys.inputs.data))
#let quiet = luma(90)
#let hair = 0.6pt + luma(150)

#let base(body, landscape: false) = {
  set page(
    paper: if d.paper == "letter" { "us-letter" } else { "a4" },
    flipped: landscape,
    margin: (x: 14mm, top: 16mm, bottom: 14mm),
  )
  set text(font: "Atkinson Hyperlegible Next", size: 12pt, lang: "en")
  set par(leading: 0.55em)
  body
}

#let mono(body) = text(font: "Atkinson Hyperlegible Mono", body)
