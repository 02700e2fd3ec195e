"""Why steels go together or not: each aspect of a pairing in words, with the number that decides; a file each."""

from varistrat.core.pairing.pairing import Pairing, Reason
from varistrat.core.pairing.reasons.carbon import carbon
from varistrat.core.pairing.reasons.contrast import contrast
from varistrat.core.pairing.reasons.flow import flow
from varistrat.core.pairing.reasons.harden import harden
from varistrat.core.pairing.reasons.hardness import hardness
from varistrat.core.pairing.reasons.quench import quench
from varistrat.core.pairing.reasons.stress import stress
from varistrat.core.pairing.reasons.weld import weld

NONE_HARDENS = Reason(
    "harden", "note", "None of them hardens: for fittings and decoration only.", "There is not enough carbon in any of them."
)


def reasons_of(p: Pairing) -> tuple[Reason, ...]:
    """Everything that speaks for and against a pairing, in the order of the work."""
    hardened = (harden(p), quench(p), hardness(p)) if p.hardeners else (NONE_HARDENS,)
    return (contrast(p), weld(p), flow(p), carbon(p), *hardened, stress(p))
