"""Which steel ends up at the very edge, everywhere along it, and how thick it is there."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from varistrat.core.cutting.cut import Cut
from varistrat.core.findings import Code, Finding

STATIONS, THROUGH = 160, 81
SOFT_MOST = 0.02
"""Share of the edge that may be of steel that does not harden before it is pointed out."""
THIN_EDGE_STEEL = 0.25
"""Share of the edge's thickness below which the steel in its middle is lost to the first sharpenings."""


EDGE_CLAD = Code("edge_clad", "grind", ("stop",), "Clad covers the edge: it will not harden there.")
EDGE_TAKEN = Code("edge_taken", "grind", ("note",), "{steel} in the edge hardens only by the carbon it takes up in the fire.")
EDGE_SOFT = Code("edge_soft", "grind", ("care",), "{outcome}: {steel} lies in it.")
EDGE_MIXED = Code("edge_mixed", "grind", ("note",), "The edge changes between {names}: it wears unevenly.")
EDGE_STEEL_THIN = Code("edge_steel_thin", "grind", ("care",), "The hard steel at the edge is so thin that sharpening soon leaves it.")


@dataclass(frozen=True)
class EdgeSteel:
    """At station x: the steel in the middle of the edge, how thick its run is (mm), and the edge's whole thickness (mm)."""

    x: float
    steel: str
    thickness: float
    whole: float


def edge_steels(cut: Cut, stations: int = STATIONS) -> list[EdgeSteel]:
    """Along the edge, before sharpening; stations off the bar are left out."""
    geometry = cut.placed.geometry
    first = geometry.blade.grind.ricasso
    x = first + (np.arange(stations) + 0.5) / stations * (geometry.length - first)
    faces = geometry.faces(x, np.zeros_like(x))
    share = (np.arange(THROUGH) + 0.5) / THROUGH
    z = faces.left[:, None] + share * faces.thickness[:, None]
    across = np.broadcast_to(x[:, None], z.shape)
    found = cut.placed.inside_bar(across, np.zeros_like(z), z, geometry.faces(across, np.zeros_like(z)))
    steel = cut.trace.probe(*(v.ravel() for v in found)).reshape(z.shape)
    middle = THROUGH // 2
    # how far the steel of the middle goes on to either side of it
    same = steel == steel[:, middle : middle + 1]
    run = _first_other(same[:, middle::-1]) + _first_other(same[:, middle:]) - 1
    return [
        EdgeSteel(float(at), cut.trace.steels[key], float(whole) * int(n) / THROUGH, float(whole))
        for at, key, n, whole in zip(x, steel[:, middle].tolist(), run, faces.thickness, strict=True)
        if key >= 0
    ]


def _first_other(same: NDArray[np.bool_]) -> NDArray[np.int64]:
    """Of each row: where it is no longer the same; its length when it always is."""
    found = np.argmin(same, axis=1)
    return np.where(same.all(axis=1), same.shape[1], found)


@dataclass(frozen=True)
class Stretch:
    """Part of the edge with one steel in its middle; `thinnest`: how thick it is at the least, mm."""

    start: float
    end: float
    steel: str
    thinnest: float


def stretches(steels: list[EdgeSteel]) -> list[Stretch]:
    """Neighbouring stations of one steel put together; borders half-way between stations."""
    out: list[Stretch] = []
    for i, at in enumerate(steels):
        before = steels[i - 1].x if i else at.x
        after = steels[i + 1].x if i + 1 < len(steels) else at.x
        start, end = (at.x + before) / 2, (at.x + after) / 2
        if out and out[-1].steel == at.steel:
            out[-1] = Stretch(out[-1].start, end, at.steel, min(out[-1].thinnest, at.thickness))
        else:
            out.append(Stretch(start, end, at.steel, at.thickness))
    return out


def _clad_over(bare: float) -> Finding:
    return EDGE_CLAD.found(
        f"Over {100 * bare:.0f} % of its length the middle of the edge is clad that does not harden.",
        "Grind both sides alike, start with a thicker core, or a thinner edge.",
        field="laminate",
        value=100 * bare,
        limit=100 * SOFT_MOST,
        unit="%",
    )


def edge_findings(cut: Cut, steels: list[EdgeSteel] | None = None, taken: Mapping[str, float] | None = None) -> list[Finding]:
    """An edge that cannot harden, wears unevenly, or is soon sharpened away. `taken`: see Worked.taken_up of the hardening."""
    taken, steel_of = taken or {}, cut.trace.forged.shop.steels
    found: list[Finding] = []
    at = edge_steels(cut) if steels is None else steels
    if not at:
        return found
    share = {k: sum(e.steel == k for e in at) / len(at) for k in dict.fromkeys(e.steel for e in at)}
    soft = {k: v for k, v in share.items() if not steel_of[k].hardening and k not in taken}
    if by_others := [k for k in share if k in taken]:
        words = ", ".join(f"{steel_of[k].name} {steel_of[k].share('C'):.2f} to {taken[k]:.2f} %" for k in by_others)
        found.append(
            EDGE_TAKEN.found(
                f"Reckoned over all the heats: {words}. Fewer or shorter heats, or thicker layers, leave it softer.",
                "Test a coupon cut from the bar before you rely on it.",
                steel=steel_of[by_others[0]].name,
                field="laminate",
                value=taken[by_others[0]],
                unit="% C",
            )
        )
    if sum(soft.values()) > SOFT_MOST:
        worst = max(soft, key=lambda k: soft[k])
        if cut.core and cut.part and cut.part.steel not in soft:
            return [*found, _clad_over(sum(soft.values()))]
        where = [e.x for e in at if e.steel in soft]
        never = steel_of[worst].hardens == "no"
        found.append(
            EDGE_SOFT.found(
                (
                    f"It is in the middle of the edge over {100 * sum(soft.values()):.0f} % of its length, first {min(where):.0f} mm from "
                    "the heel; "
                )
                + ("it has too little carbon to harden." if never else "it only hardens partly."),
                (
                    "Bring the hard steel to the edge: core in the middle of the thickness, grind both sides alike, or move the blade on "
                    "the "
                    "bar."
                ),
                outcome="No edge will harden" if sum(soft.values()) > 0.98 else "Part of the edge will not harden",
                steel=steel_of[worst].name,
                field="laminate",
                value=100 * sum(soft.values()),
                limit=100 * SOFT_MOST,
                unit="%",
            )
        )
    hard = [k for k in share if k not in soft and share[k] > SOFT_MOST]
    if len(hard) > 1 and not soft:
        names = " and ".join(steel_of[k].name for k in sorted(hard, key=lambda k: -share[k])[:2])
        found.append(
            EDGE_MIXED.found(
                f"{len(stretches(at))} stretches along it. Such an edge bites, but does not take the finest polish.",
                "For one steel at the edge use a core between clads, a scarfed edge or an edge bar.",
                names=names,
                field="laminate",
                value=float(len(stretches(at))),
            )
        )
    if cut.part and not soft:
        thin = min(at, key=lambda e: e.thickness / max(e.whole, 1e-9))
        part = thin.thickness / max(thin.whole, 1e-9)
        if part < THIN_EDGE_STEEL:
            found.append(
                EDGE_STEEL_THIN.found(
                    f"{thin.x:.0f} mm from the heel it is {thin.thickness:.2f} mm of an edge {thin.whole:.2f} mm thick.",
                    "A thicker core, or one nearer the middle.",
                    field="laminate",
                    value=thin.thickness,
                    limit=THIN_EDGE_STEEL * thin.whole,
                    unit="mm",
                )
            )
    return found
