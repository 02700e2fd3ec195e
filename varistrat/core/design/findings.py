"""What must be said of a design's blade: at once, and once its fires are worked out."""

from varistrat.core.advice import blade_findings, homogenisation_findings, may_have_homogenised
from varistrat.core.bars.joints import unwelded_blade
from varistrat.core.blade.measures import hardening_findings
from varistrat.core.cutting.edge import edge_findings
from varistrat.core.design.worked import Worked
from varistrat.core.findings import Finding


def findings_of(worked: Worked) -> list[Finding]:
    """Of the blade; none without one. The fire is only worked out where it can make a difference."""
    if not worked.cut:
        return []
    cut = worked.cut
    loose = [unwelded_blade()] if worked.forged.joints.bare else []
    fits = loose + cut.placed.checks() + cut.placed.geometry.checks()
    soft = any(not worked.shop.steels[e.steel].hardening for e in worked.edge)
    edge = edge_findings(cut, worked.edge, worked.hardening.taken_up if soft else {})
    return fits + blade_findings(cut, worked.thinnest) + edge + hardening_findings(cut.geometry, worked.quench)


def late_findings_of(worked: Worked) -> list[Finding]:
    """What the fires add: apart from the rest, which follows the hand."""
    thinnest = worked.thinnest
    if thinnest is None or not may_have_homogenised(thinnest):
        return []
    return homogenisation_findings(thinnest, worked.fire.left, worked.fire.lasts)
