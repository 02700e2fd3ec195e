"""Half a sheath to its own size: laid with its fold on folded leather and cut through both."""

from varistrat.core.bars.points import Array
from varistrat.core.design.worked import Worked
from varistrat.core.finish.sheath import sheath_of
from varistrat.core.paper.one_to_one import Drawing, Line, Mark, drawn
from varistrat.core.paper.typeset import Paper

HOLE = 0.6
"""mm; half the cross that a stitch is drawn as."""


def sheath_drawing(worked: Worked) -> Drawing:
    """Raises InputError without a blade."""
    found = sheath_of(worked)
    left = float(found.half[:, 0].min())

    def put(points: Array) -> list[tuple[float, float]]:
        return [(float(x - left), float(y)) for x, y in points]

    outline = put(found.half)
    lines = [Line("outline", [(0.0, 0.0), *outline], True), Line("bevel", put(found.welt))]
    lines.append(Line("centre", [(0.0, 0.0), (outline[-1][0], 0.0)]))
    for x, y in put(found.stitch):
        lines.append(Line("tick", [(x - HOLE, y), (x + HOLE, y)]))
        lines.append(Line("tick", [(x, y - HOLE), (x, y + HOLE)]))
    plan = worked.document.finish.fit_up
    says = f"the fold: cut through both. {found.stitches} stitches; {plan.welt:g} mm welt from the dashed line, {plan.seam:g} mm seam"
    marks = [Mark(4.0, 2.0, says), Mark(4.0, found.width / 2 + 2.0, "mouth")]
    return Drawing(lines, [], marks, found.length, found.width / 2 + 8.0)


def sheath_pdf(worked: Worked, title: str, paper: Paper = "a4") -> bytes:
    """As many sheets as it takes. Raises InputError without a blade."""
    return drawn(sheath_drawing(worked), f"{title}, sheath", paper)
