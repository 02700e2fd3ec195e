"""How hard each comes out, and whether that is even."""

from varistrat.core.pairing.pairing import HRC_SURE, Pairing, Reason
from varistrat.core.steels.hardening import EDGE_LEAST

EVEN_EDGE = 3.0
"""Difference of hardness across an edge that is not felt, HRC; indicative."""


def hardness(p: Pairing) -> Reason:
    """By hardness after the temper."""
    if not p.hrc:
        return Reason(
            "hardness",
            "care",
            "How hard it comes out is not known here.",
            f"{p.quenched[p.unknown[0]].unknown}.",
            "Ask its maker, and test a coupon.",
        )
    words = ", ".join(f"{p.steels[i].name} {h:.1f}" for i, h in p.hrc.items())
    least, most = min(p.hrc.values()), max(p.hrc.values())
    rest = len(p.asked) < len(p.steels)
    why = f"After two hours at {p.temper:.0f} C: {words} HRC, within about {max(HRC_SURE, *(p.quenched[i].sure for i in p.hrc)):.1f}."
    if rest and p.use == "clad":
        why += " The clad need not harden."
    elif rest:
        why += " The rest stays soft."
    if most < EDGE_LEAST:
        return Reason(
            "hardness", "care", "Too soft for a keen edge.", why, f"An edge wants {EDGE_LEAST:.0f} HRC or more.", most - least, "HRC"
        )
    if p.unknown:
        return Reason(
            "hardness",
            "care",
            f"How hard {p.steels[p.unknown[0]].name} comes out is not known here.",
            why + f" {p.quenched[p.unknown[0]].unknown}.",
            "Ask its maker, and test a coupon.",
            most - least,
            "HRC",
        )
    if most - least > EVEN_EDGE:
        return Reason(
            "hardness",
            "care",
            "Uneven hardness across a mixed edge.",
            why + f" More than {EVEN_EDGE:.0f} apart is felt at the stone.",
            "Put one steel at the edge: a core, or an edge bar.",
            most - least,
            "HRC",
        )
    return Reason("hardness", "note", "Even hardness across the edge.", why, "", most - least, "HRC")
