"""The last day: depths after twelve cycles, a film of six stages on both sides, what went wrong, a card."""

from concurrent.futures import ThreadPoolExecutor

from benchmarks.engine import Row
from benchmarks.quiet import timed, tries
from varistrat.core.blade.geometry import SIDES
from varistrat.core.build.card import card_of
from varistrat.core.build.plan import Plan
from varistrat.core.build.state import state_of
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.etch.bath import Bath
from varistrat.core.faults.cues import figures_of
from varistrat.core.faults.inference import find
from varistrat.core.finish.cycles import etch_plan
from varistrat.core.finish.depth import etch_of
from varistrat.core.finish.film import film, subject_at
from varistrat.core.paper.card import card_pdf
from varistrat.core.pattern.picture import SCREEN, draw
from varistrat.core.pattern.png import png
from varistrat.core.pattern.views import BladeView
from varistrat.core.starters import STARTERS

PX = 400


def _worked() -> Worked:
    """Anew, so that nothing of it is kept; forged, with its fire, as whoever looks at Finish has it already."""
    worked = Worked.of(read_document(STARTERS["bold_twist"].document() | {"finish": {"relief": 12.0}}))
    worked.fire  # noqa: B018
    worked.hardening.planned  # noqa: B018
    return worked


def _film(pool: ThreadPoolExecutor) -> None:
    worked = _worked()
    for stage in film(worked, etch_plan(worked)):
        subject = subject_at(worked, stage)
        for side in SIDES:
            view = BladeView(worked.blade.placed, side, 2.0)
            png(draw(subject, view, PX, pool, SCREEN), PX / view.size[0])


def run() -> list[Row]:
    pool = ThreadPoolExecutor(2)
    fresh = [_worked() for _ in range(24)]
    depths = tries(lambda i: timed(lambda: etch_of(fresh[i], Bath(), [5.0] * 12))(i))
    whole = tries(timed(lambda: _film(pool)), 5, 9)
    worked = _worked()
    asked = tries(timed(lambda: find("pattern_faint", figures_of(worked), {"low_contrast": False})))
    plan = Plan.begun(worked)
    cards = tries(timed(lambda: card_pdf(card_of("A knife", "1", "A shop", worked, plan, state_of([])))))
    return [
        ("depths of a blade after 12 cycles", f"{1000 * depths.median():.0f} ms", "20 ms", f"forged and fired before; {depths.how}"),
        ("film of six stages, both sides", f"{whole.median():.2f} s", "1.5 s", f"{PX} px, forging and fires with it; {whole.how}"),
        ("what went wrong, an answer", f"{1000 * asked.median():.0f} ms", "50 ms", f"the design's figures with it; {asked.how}"),
        ("card of a blade, PDF", f"{cards.median():.2f} s", "0.5 s", cards.how),
    ]
