"""From the drag to the picture: where the time goes, in the server's work and in the browser's wait."""

import cProfile
import json
import pstats
from concurrent.futures import Executor, Future
from typing import Any

from playwright.sync_api import Page

from benchmarks.engine import Row
from benchmarks.quiet import tries
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.pattern.picture import Quality, draw
from varistrat.core.pattern.png import png
from varistrat.core.pattern.views import BladeView
from varistrat.core.starters import STARTERS
from varistrat.designs.services.predict import QUALITIES

WIDE = {"preview": 545, "screen": 1090}
"""Pixels of a face as a window of 1280 x 800 asks for it."""
STAGES: dict[str, tuple[str, ...]] = {
    "read the draft": ("document.py:read_document",),
    "forge it, lay the blade on": ("worked.py:of",),
    "etch table": ("tones.py:of",),
    "where the pixels lie": ("views.py:patch",),
    "pull back": ("sampling.py:sample",),
    "average the etch": ("tones.py:mean", "sampling.py:footprint"),
    "light": ("daylight.py:shade", "picture.py:_finish"),
    "shadow": ("picture.py:of",),
    "PNG": ("png.py:png",),
}
TRIES = 9


class _Here(Executor):
    """Does the work where it is asked, so that it can be timed."""

    def submit(self, fn: Any, /, *args: Any, **kwargs: Any) -> Future[Any]:
        done: Future[Any] = Future()
        done.set_result(fn(*args, **kwargs))
        return done


def _worked_out(text: str, quality: Quality, px: int) -> tuple[float, ...]:
    """ms of each stage, one core."""
    profile = cProfile.Profile()
    profile.enable()
    worked = Worked.of(read_document(json.loads(text)))
    view = BladeView(worked.blade.placed, "right", 1.8, True)
    png(draw(worked.blade.subject(None), view, px, _Here(), quality), 1.0)
    profile.disable()
    took = {f"{file.rpartition('/')[2]}:{name}": row[3] for (file, _, name), row in pstats.Stats(profile).stats.items()}  # type: ignore[attr-defined]
    return tuple(1000 * sum(took.get(name, 0.0) for name in names) for names in STAGES.values())


def server() -> list[Row]:
    """The server's own work for one face of a twist that nobody has seen before."""
    rows: list[Row] = []
    document = STARTERS["bold_twist"].document()
    found: dict[str, dict[str, float]] = {}
    for name, px in WIDE.items():

        def work(i: int, n: str = name, w: int = px) -> tuple[float, ...]:
            document["recipe"]["bar"]["start"]["length"] = 100.0 + i
            return _worked_out(json.dumps(document), QUALITIES[n], w)

        took = tries(work, TRIES)
        found[name] = {stage: took.median(k) for k, stage in enumerate(STAGES)}
    for stage in STAGES:
        rows.append(
            (f"one face, {stage}", f"{found['preview'][stage]:.1f} ms", "", f"as preview; as full picture {found['screen'][stage]:.1f} ms")
        )
    rows.append(
        (
            "one face, all of it",
            f"{sum(found['preview'].values()):.0f} ms",
            "",
            f"one core; as full picture {sum(found['screen'].values()):.0f} ms",
        )
    )
    return rows


_WAYS = """async v => {
  const slider = document.querySelector('[aria-label="Turns, slider"]'), image = document.querySelector('img[alt^=Right]');
  performance.clearResourceTimings();
  const changed = new Promise(done => new MutationObserver((_, o) => { o.disconnect(); done(performance.now()); })
    .observe(image, {attributes: true, attributeFilter: ['src']}));
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(slider, v);
  const start = performance.now(); slider.dispatchEvent(new Event('input', {bubbles: true}));
  const there = await changed; await image.decode(); const seen = performance.now();
  const asked = performance.getEntriesByType('resource').filter(r => r.name.includes('/predict/faces') && r.startTime >= start);
  const first = Math.min(...asked.map(r => r.startTime));
  const got = Math.max(...asked.filter(r => r.responseEnd <= there).map(r => r.responseEnd));
  return [first - start, got - first, there - got, seen - there];
}"""


def browser(page: Page) -> list[Row]:
    """The same seen from the page: a slider is moved, the preview of the right face comes. A twist is open and chosen."""

    def move(i: int) -> tuple[float, ...]:
        parts = page.evaluate(_WAYS, str(4.5 + (i % 20) * 0.75 + 0.25 * (i // 20)))
        page.wait_for_timeout(1500)
        return tuple(parts)

    took = tries(move, TRIES)
    names = ("the page takes it in and asks", "asked to answered", "answer to new picture", "decoded")
    return [
        (f"drag to preview, {name}", f"{took.median(k):.0f} ms", "", f"right face, both asked for at once; {took.how}")
        for k, name in enumerate(names)
    ]
