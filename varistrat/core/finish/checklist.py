"""Fitting up, in the order of the work."""

FIT_UP: tuple[str, ...] = (
    "Tang tapers by 1 in 100 or more; shoulders square, no light under a guide.",
    "Guard's slot drilled 0.2 mm thinner than the tang, filed, blued, seen.",
    "Scales flat on the tang; the one drilled through it, then the other through both.",
    "Pins two diameters from every edge; holes 0.05 mm to 0.1 mm over the rod; countersunk.",
    "All of it together dry, clamped, nothing forced: the time noted.",
    "Roughened, degreased, warm; glue worked in less than half its working time.",
    "Edge under tape the whole day.",
)
