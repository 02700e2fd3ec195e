"""Speed of the fire, the pairings, the hardening and the kiln."""

from benchmarks.engine import Row
from benchmarks.quiet import best
from benchmarks.recipes import many
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.heat.fires.fire import work_the_fire
from varistrat.core.heat.hardening.plan import hardening_plan
from varistrat.core.heat.segment import Segment
from varistrat.core.kiln.controller import SimulatedController
from varistrat.core.kiln.plant import Load
from varistrat.core.kiln.program import Program
from varistrat.core.laws.carbon import activity_factor
from varistrat.core.laws.column import Column
from varistrat.core.pairing.pairing import suggestions
from varistrat.core.starters import STARTERS
from varistrat.core.steels import built_in


def run() -> list[Row]:
    steels = built_in()
    keys = ["1084", "15n20"] * 100
    pile = Column.of([(k, 0.5) for k in keys], [steels[k].share("C") for k in keys], [activity_factor(steels[k].composition) for k in keys])

    def carbon() -> None:
        column = pile
        for _ in range(20):
            column = column.heated(1150, 8).squeezed(0.9)

    def fires(data: dict[str, object]) -> float:
        worked = Worked.of(read_document(data))
        return best(lambda: work_the_fire(worked.document.fire, worked.forged), 3)

    def hardening() -> None:
        hardening_plan(Worked.of(read_document(STARTERS["three_layer"].document())).hardening)

    day = Program(name="a day", segments=[Segment(celsius=800, rate=40, minutes=240), Segment(celsius=100)])
    return [
        (
            "carbon across 200 layers over 20 heats",
            f"{best(carbon, 5):.2f} s",
            "1 s",
            f"{len(pile.width)} cells, 24 steps a heat, activity-driven",
        ),
        ("every heat of a 30-step recipe", f"{1000 * fires({'recipe': many(30)}):.0f} ms", "", "heats, scale, skin, carbon and findings"),
        ("every heat of a core clad in twists", f"{1000 * fires(STARTERS['clad_core'].document()):.0f} ms", "", "seven bars in one"),
        (
            "all pairs of the list ranked",
            f"{1000 * best(lambda: suggestions(list(steels.values()), 'edge'), 3):.0f} ms",
            "",
            f"{len(steels)} steels, {len(steels) * (len(steels) - 1) // 2} pairs, all reasons",
        ),
        (
            "hardening plan of a blade, from nothing",
            f"{1000 * best(hardening, 3):.0f} ms",
            "",
            "recipe, blade, fires and steels at the edge included",
        ),
        (
            "a day of the simulated kiln",
            f"{best(lambda: SimulatedController(day, Load.of(180, 4, 35, 200), 1200.0).after(24 * 3600), 3):.2f} s",
            "",
            "43,200 steps at the most",
        ),
    ]
