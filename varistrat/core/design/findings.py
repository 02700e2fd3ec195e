"""What must be said of a design's blade: at once, and once its fires are worked out."""

from varistrat.core.advice import blade_findings, homogenisation_findings, may_have_homogenised
from varistrat.core.bars.joints import unwelded_blade
from varistrat.core.blade.measures import finished_edge, hardening_findings
from varistrat.core.cutting.edge import edge_findings
from varistrat.core.design.worked import Worked
from varistrat.core.findings import Finding
from varistrat.core.heat.hardening.edge import edge_left


def findings_of(worked: Worked) -> list[Finding]:
    """Of the blade; none without one. The fire is only worked out where it can make a difference."""
    if not worked.cut:
        return []
    cut = worked.cut
    loose = [unwelded_blade()] if worked.forged.joints.bare else []
    fits = loose + cut.placed.checks() + cut.placed.geometry.checks()
    soft = any(not worked.shop.steels[e.steel].hardening for e in worked.edge)
    edge = edge_findings(cut, worked.edge, worked.hardening.taken_up if soft else {})
    return fits + blade_findings(cut, worked.thinnest) + edge + _to_harden(worked)


def _to_harden(worked: Worked) -> list[Finding]:
    """Whether what the plan of the hardening leaves at the edge is too thin for the quench."""
    assert worked.cut
    geometry, said, bath = worked.cut.geometry, worked.document.hardening, worked.quench
    spine = geometry.blade.spine_thickness.most
    return hardening_findings(geometry, bath, said.edge or edge_left(said.bevels, bath, geometry.length, spine, finished_edge(geometry)))


def late_findings_of(worked: Worked) -> list[Finding]:
    """What the fires add: apart from the rest, which follows the hand."""
    thinnest = worked.thinnest
    if thinnest is None or not may_have_homogenised(thinnest):
        return []
    return homogenisation_findings(thinnest, worked.fire.left, worked.fire.lasts)
