"""What the user waits for, measured in the real browser against the real server."""

import json
import time
from statistics import median

from playwright.sync_api import Page, expect, sync_playwright

from benchmarks.engine import Row
from benchmarks.recipes import many
from benchmarks.served import Served
from tests.chromium import CHROMIUM, FLAGS
from tests.e2e.screens import DesignScreen

TRIES = 15


_MORE = """
from django.contrib.auth.models import User
from varistrat.core.design.document import read_document
from varistrat.core.starters import STARTERS
from varistrat.designs.services.keep import create_design
from varistrat.shop.services.people import member_of
user = member_of(User.objects.get(username="quillet-dyke"))
starters = [s.document() for s in STARTERS.values()]
for i in range(200):
    create_design(actor=user, document=read_document(starters[i % len(starters)]), name=f"Bar {i}")
"""

_WATCH = """() => { window.seen = []; const watch = new MutationObserver(() => window.seen.push(performance.now()));
  for (const id of ['Left', 'Right'])
    watch.observe(document.querySelector(`img[alt^=${id}]`), {attributes: true, attributeFilter: ['src']}); }"""
_MOVE = """v => { const s = document.querySelector('[aria-label="Turns, slider"]'); window.seen.length = 0;
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(s, v);
  window.start = performance.now(); s.dispatchEvent(new Event('input', {bubbles: true})); }"""


def _slider(page: Page) -> list[Row]:
    """From the slider's event to the new address of both faces in the page."""
    page.get_by_role("link", name="Sedge knife, bold twist", exact=True).click()
    expect(page.get_by_alt_text("Right face of the blade as")).to_be_visible()
    DesignScreen(page).quiet()
    DesignScreen(page).bar(3).click()
    page.wait_for_timeout(1500)
    page.evaluate(_WATCH)
    first, last = [], []
    for i in range(TRIES):
        page.evaluate(_MOVE, str(4 + i * 0.75))
        page.wait_for_timeout(1600)
        seen = page.evaluate("window.seen.map(t => t - window.start)")
        first.append(seen[1] if len(seen) > 1 else float("nan"))  # both faces as previews
        last.append(seen[-1])
    return [
        (
            "slider to preview of both faces",
            f"{median(first):.0f} ms",
            "150 ms",
            f"median of {TRIES}, 7-step twist, from the input event to the second new picture in the page",
        ),
        (
            "slider to full faces, both sides",
            f"{median(last):.0f} ms",
            "600 ms",
            f"median of {TRIES}, including the pause in which the hand may still move (80 ms)",
        ),
    ]


def run() -> list[Row]:
    with Served("demo", ["loaddemo"], ["shell", "-c", _MORE]) as served, sync_playwright() as p:
        address = served.address
        browser = p.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        page.goto(address)
        page.get_by_role("button", name="Enter the demo shop").click()
        expect(page.get_by_role("heading", name="On the bench")).to_be_visible()
        times = []
        for _ in range(7):
            start = time.perf_counter()
            page.goto(address)
            expect(page.get_by_role("link", name="Bar 199", exact=True)).to_be_visible()
            times.append(time.perf_counter() - start)
        count = page.get_by_role("main").get_by_role("listitem").count()
        rows: list[Row] = [
            (
                f"bench page with {count} designs, usable",
                f"{median(times):.2f} s",
                "1 s",
                "median of 7 loads until the links are there; 3 queries (asserted in tests/api)",
            )
        ]
        DesignScreen(page).quiet()
        rows += _api(page)
        rows += _slider(page)
        rows += _patterning(page, address)
        rows += _core_line(page, address)
        browser.close()
    return rows


def _patterning(page: Page, address: str) -> list[Row]:
    """A what-if sheet by the task worker, and the 3-D view, as the user waits for them."""
    page.goto(address)
    page.get_by_role("link", name="Punt builder's spoke knife", exact=True).click()
    expect(page.get_by_alt_text("Right face of the blade as")).to_be_visible()
    DesignScreen(page).quiet()
    sheets, solids = [], []
    for i in range(3):
        page.keyboard.press("w")
        page.get_by_role("button", name="And another").click()
        page.get_by_label("From", exact=True).first.fill(str(9 + i))
        start = time.perf_counter()
        page.get_by_role("button", name="Draw 48 pictures").click()
        page.get_by_role("list", name="The sheet").get_by_role("button").nth(47).wait_for(timeout=60_000)
        sheets.append(time.perf_counter() - start)
        page.keyboard.press("Escape")
        page.wait_for_timeout(500)
    for i in range(5):
        # another bar each time, in a page of its own: scripts and pattern both come anew
        fresh = page.context.browser.new_context(viewport={"width": 1280, "height": 800}).new_page()  # type: ignore[union-attr]
        fresh.goto(address)
        fresh.get_by_role("button", name="Enter the demo shop").click()
        fresh.get_by_role("link", name="Punt builder's spoke knife", exact=True).click()
        expect(fresh.get_by_alt_text("Right face of the blade as")).to_be_visible()
        DesignScreen(fresh).bar(i % 3).click()
        DesignScreen(fresh).quiet()
        start = time.perf_counter()
        fresh.get_by_role("tab", name="3-D").click()
        fresh.locator("canvas[aria-busy=false]").wait_for()
        solids.append(time.perf_counter() - start)
        fresh.context.close()
    return [
        (
            "what-if sheet of 48 pictures, 320 x 100",
            f"{median(sheets):.1f} s",
            "6 s",
            "median of 3, from the click to the last picture; three twisted bars",
        ),
        (
            "3-D view of a joined bar opens",
            f"{median(solids):.1f} s",
            "2 s",
            "median of 5 new pages: script, GLB with its pattern, first frame (software WebGL)",
        ),
    ]


_LINE = """() => { window.seen = []; new MutationObserver(() => window.seen.push(performance.now()))
  .observe(document.querySelector('svg[aria-label="Core line on the right face"]'),
    {attributes: true, attributeFilter: ['d'], subtree: true}); }"""
_NUDGE = """v => { const s = document.querySelector('input[type=range]'); window.seen.length = 0;
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(s, v);
  window.start = performance.now(); s.dispatchEvent(new Event('input', {bubbles: true})); }"""


def _core_line(page: Page, address: str) -> list[Row]:
    """From the slider's event to the moved line over the face."""
    page.goto(address)
    page.get_by_role("link", name="Osier peeler, well centred", exact=True).click()
    page.get_by_role("link", name="Grind", exact=True).click()
    page.get_by_role("img", name="Core line on the right face").wait_for()
    DesignScreen(page).quiet()
    page.evaluate(_LINE)
    took = []
    for i in range(TRIES):
        page.evaluate(_NUDGE, str(0.2 * (i + 1)))
        page.wait_for_timeout(1200)
        took.append(page.evaluate("(window.seen[0] ?? NaN) - window.start"))
    return [
        (
            "error slider to moved core line",
            f"{median(took):.0f} ms",
            "100 ms",
            f"median of {TRIES}, both sides at 60 stations, from the input event to the new line in the page",
        )
    ]


def _api(page: Page) -> list[Row]:
    """Ledger and findings of 30 steps, as the browser gets them; each time another draft, so that nothing is at hand."""
    document = {"recipe": many(30)}
    took = page.evaluate(
        """async ([document, tries]) => { const token = /csrftoken=([^;]+)/.exec(window.document.cookie)[1], took = [];
        for (let i = 0; i < tries; i++) { document.recipe.bar.start.width = 40 + i / 100; const start = performance.now();
          const r = await fetch('/api/predict/ledger', {method: 'POST', headers: {'Content-Type': 'application/json', 'X-CSRFToken':
          token}, body: JSON.stringify({document})});
          await r.json(); if (!r.ok) throw new Error(r.status); took.push(performance.now() - start); } return took; }""",
        [json.loads(json.dumps(document)), 25],
    )
    return [
        ("ledger and findings of a 30-step recipe", f"{median(took):.0f} ms", "30 ms", "median of 25 different drafts, from the browser")
    ]
