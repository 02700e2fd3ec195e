"""The one movement behind welding, drawing and re-sectioning: the length takes up the volume."""

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.points import Points


def pull_forged(p: Points, before: Bar, after: Bar) -> None:
    """Carry points of a forged bar back: x' = x L/L', and the section kept by shares.

    Inverse: rectangle to rectangle y = y' W/W', z = z' T/T'; otherwise the section map
    (section.py). |det J| = 1, since A L = A' L'. Derived in docs/physics.md#draw.
    """
    longer = before.length / after.length
    if before.section.form == after.section.form == "rectangle":
        p.scale(longer, before.width / after.width, before.thickness / after.thickness)
        return
    p.scale(longer)
    p.put_shares(before.section, *p.shares(after.section))
