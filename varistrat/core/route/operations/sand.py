"""Belt by belt, then by hand grit by grit."""

from varistrat.core.finish.sanding import RULES, Sanded, sanding
from varistrat.core.route.operation import Check, Job, Kind, Part, Target

SCRATCH = Check(
    "Slanted to the light, is there a scratch across the others?",
    "All run one way, all of one grit.",
    "The etch shows it tenfold: back to the grit that made it.",
)
COOL = "A hardened edge is sharp before it is sharpened: hold it in a block. Dip it often; a blue edge is soft."
DUST = "Wet, or with a mask: dust of nickel and chromium steel hurts the lungs."


class Sand(Kind):
    """The belts are one operation, each paper one of its own."""

    key = "sand"
    place = "grinder"
    spread = 1.35

    def blade(self, job: Job) -> list[Part]:
        if not job.worked.cut:
            return []
        found = sanding(job.worked, job.numbers)
        belts = [g for g in found.grits if not g.by_hand]
        grams = job.sheet.losses.get("blade", 0.0) * job.worked.forged.densities[-1]
        out = [
            Part(
                f"Finish grind, {belts[0].grit} to {belts[-1].grit}",
                "Belt by belt, every scratch of the one before gone. Stop short of the bevel's height: each finer grit lifts it.",
                sum(g.minutes for g in belts),
                targets=(Target("mass", grams, 0.05 * grams, "the blade, bare"),) if grams else (),
                checks=(SCRATCH,),
                cautions=(COOL,),
                lay_out=_lines(belts),
            )
        ]
        for g in (g for g in found.grits if g.by_hand):
            say = " ".join(RULES[r] for r in g.rules)
            name = g.grit.lower()
            out.append(Part(f"Sand, {g.grit}", say, g.minutes, name=name, checks=(SCRATCH,), cautions=(DUST,), lay_out=_lines([g])))
        return out


def _lines(grits: list[Sanded]) -> str:
    """Where bevel line and edge are after each, where the bevel has a line."""
    told = [f"{g.grit} {g.right.top:.1f} mm, edge {g.right.edge:.2f} mm" for g in grits if g.right]
    return f"Bevel line at: {'; '.join(told)}." if told else ""
