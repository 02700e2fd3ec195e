"""A build: its route, its paper, a photo taken in, a day's entries sent at once, the sheet by the fire, a book of five hundred."""

import io
import subprocess
import sys
import time
from dataclasses import replace
from statistics import median
from typing import Any

import numpy as np
from PIL import Image
from playwright.sync_api import Page, expect, sync_playwright

from benchmarks.engine import Row
from benchmarks.quiet import timed, tries
from benchmarks.served import Served
from tests.chromium import CHROMIUM, FLAGS
from tests.core.photos import photo_of
from tests.e2e.screens import DesignScreen
from varistrat.core.build.plan import Plan
from varistrat.core.build.told import made_of
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.paper.sheet import said_of, sheet_pdf
from varistrat.core.photo.fit import fit_photo
from varistrat.core.photo.flat import grey_of
from varistrat.core.route.route import route_of
from varistrat.core.starters import STARTERS

ENTRIES, AT_ONCE, BUILDS, OPERATIONS = 5_000, 500, 500, 40
PATTERNS = {
    "bold_twist": "depth, turns and phase of a twist",
    "opposed_twist": "three twists side by side",
    "fine_restack": "fine layers",
    "ladder": "a ladder",
    "dimple": "dimples",
}
_PHOTO = """
import resource, sys, time
from varistrat.core.photo.intake import taken_in
data = open(sys.argv[1], "rb").read()
start = time.perf_counter()
taken_in(data)
print(time.perf_counter() - start, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1000)
"""
MANY_BUILDS = f"""
from uuid import uuid4
from django.contrib.auth.models import User
from varistrat.builds.models import Build, BuildPlan
from varistrat.shop.services.people import member_of
actor = member_of(User.objects.get(username="quillet-dyke"))
first = Build.objects.order_by("pk").first()
plan = first.plans.first()
for i in range({BUILDS} - Build.objects.count()):
    build = Build.objects.create(shop=actor.shop, uid=uuid4(), title=f"Blade {{i}}", state="done", summary=first.summary)
    BuildPlan.objects.create(build=build, number=1, document=plan.document, operations=plan.operations)
"""
_SEND = """async ([build, entries, atOnce]) => {
  const token = /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1];
  const start = performance.now();
  for (let i = 0; i < entries.length; i += atOnce) {
    const body = JSON.stringify({entries: entries.slice(i, i + atOnce)});
    const answer = await fetch(`/api/builds/${build}/entries`, {method: 'POST', body,
      headers: {'Content-Type': 'application/json', 'X-CSRFToken': token}});
    if (!answer.ok) throw new Error(await answer.text());
  }
  return performance.now() - start;
}"""


def run() -> list[Row]:
    worked = Worked.of(read_document(STARTERS["clad_core"].document()))
    route = tries(timed(lambda: route_of(worked)))
    plan = Plan.begun(worked)
    told = tries(timed(lambda: made_of([plan], [], worked)))
    said = said_of(route_of(worked))
    forty = [replace(said[i % len(said)], title=f"{said[i % len(said)].title} {i}") for i in range(OPERATIONS)]
    sheet_pdf("warm", forty[:1])
    paper = tries(timed(lambda: sheet_pdf("A knife", forty)))
    seconds, mb = _photo()
    return [
        ("route of a design of many bars", f"{1000 * route.median():.0f} ms", "50 ms", f"{len(worked.bars)} bars; {route.how}"),
        ("a build worked out as it is being made, nothing measured", f"{1000 * told.median():.0f} ms", "", told.how),
        ("PDF of a sheet of 40 operations", f"{paper.median():.2f} s", "0.5 s", paper.how),
        ("a photo of 24 million pixels taken in", f"{seconds:.1f} s", "3 s", f"own process, peak {mb:.0f} MB (wanted: under 300)"),
        *(_read(starter, says) for starter, says in PATTERNS.items()),
        *_served(),
    ]


def _read(starter: str, says: str) -> Row:
    worked = Worked.of(read_document(STARTERS[starter].document()))
    made = photo_of(worked, "right", {"ground": 0.2}, np.random.default_rng(3), px=1400, off=0.3)
    grey = grey_of(made.jpeg)
    fit = tries(timed(lambda: fit_photo(worked, "right", grey, made.marks)))
    return f"a photo read: {says}", f"{fit.median():.1f} s", "5 s", fit.how


def _photo() -> tuple[float, float]:
    rng = np.random.default_rng(1)
    small = rng.integers(0, 255, (400, 600, 3), dtype=np.uint8)
    path = "/tmp/bench-photo.jpg"
    out = io.BytesIO()
    Image.fromarray(small).resize((6000, 4000), Image.Resampling.BICUBIC).save(out, "JPEG", quality=92)
    with open(path, "wb") as f:
        f.write(out.getvalue())
    found = []
    for _ in range(5):
        done = subprocess.run([sys.executable, "-c", _PHOTO, path], capture_output=True, text=True, check=True)
        found.append(tuple(float(v) for v in done.stdout.split()))
    return median(f[0] for f in found), max(f[1] for f in found)


def _entries(op: str) -> list[dict[str, Any]]:
    from uuid import UUID

    return [
        {
            "id": str(UUID(int=10_000 + i)),
            "op": op,
            "kind": "note",
            "at": f"2026-05-17T{8 + i // 600:02d}:{i // 60 % 60:02d}:{i % 60:02d}+00:00",
            "text": f"note {i}",
        }
        for i in range(ENTRIES)
    ]


def _served() -> list[Row]:
    with Served("demo", ["loaddemo"], ["shell", "-v", "0", "-c", MANY_BUILDS]) as server, sync_playwright() as p:
        browser = p.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        page.goto(server.address)
        page.get_by_role("button", name="Enter the demo shop").click()
        expect(page.get_by_role("heading", name="On the bench")).to_be_visible()
        rows = [*_sheet(page), *_book(page)]
        sent = page.evaluate(_SEND, [_id(page, "Marsh star for the fair"), _entries("bar:clean"), AT_ONCE])
        browser.close()
    return [*rows, (f"{ENTRIES} entries sent at once", f"{sent / 1000:.1f} s", "5 s", f"{AT_ONCE} in a request, one after another")]


def _id(page: Page, title: str) -> int:
    builds = page.evaluate("fetch('/api/builds').then((a) => a.json())")["builds"]
    return int(next(b["id"] for b in builds if b["title"] == title))


def _sheet(page: Page) -> list[Row]:
    """To the next operation and back; an entry until it is safe on the tablet."""
    page.get_by_role("link", name="Book").click()
    page.get_by_role("link", name="Eel splitter").click()
    page.get_by_role("button", name="Done", exact=True).wait_for()
    page.wait_for_timeout(6000)

    def turn(i: int) -> tuple[float, ...]:
        key = "ArrowRight" if i % 2 else "ArrowLeft"
        took = page.evaluate(
            """(key) => new Promise((done) => { const was = document.querySelector('h1').textContent; const start = performance.now();
            const watch = new MutationObserver(() => { if (document.querySelector('h1')?.textContent === was) return;
              watch.disconnect(); requestAnimationFrame(() => setTimeout(() => done(performance.now() - start))); });
            watch.observe(document.body, {childList: true, subtree: true, characterData: true});
            document.body.dispatchEvent(new KeyboardEvent('keydown', {key, bubbles: true})); })""",
            key,
        )
        page.wait_for_timeout(700)
        return (took,)

    turned = tries(turn, 9, 24)
    safe = page.evaluate(
        """async () => { const open = () => new Promise((done) => {
          const a = indexedDB.open('varistrat-builds'); a.onsuccess = () => done(a.result); });
        const db = await open(); const took = [];
        for (let i = 0; i < 40; i++) { const start = performance.now();
          await new Promise((done, fail) => { const t = db.transaction('waiting', 'readwrite', {durability: 'strict'});
            const entry = {kind: 'note', text: 'x'.repeat(300)};
            t.objectStore('waiting').put({id: 'bench-' + i, user: 'bench', shop: 0, build: 0, n: i, entry});
            t.oncomplete = done; t.onerror = fail; });
          took.push(performance.now() - start); }
        const t = db.transaction('waiting', 'readwrite'); for (let i = 0; i < 40; i++) t.objectStore('waiting').delete('bench-' + i);
        return took.sort((a, b) => a - b)[20]; }"""
    )
    return [
        ("sheet turns to the next operation", f"{turned.median():.0f} ms", "50 ms", f"{turned.how}; from the key to the next frame"),
        ("an entry is safe on the tablet", f"{safe:.1f} ms", "20 ms", "written through to the disk; median of 40"),
    ]


def _book(page: Page) -> list[Row]:
    def load(_: int) -> tuple[float, ...]:
        page.get_by_role("link", name="Rack").click()
        page.wait_for_timeout(1500)
        start = time.perf_counter()
        page.get_by_role("link", name="Book").click()
        page.get_by_role("region", name="Yield").wait_for()
        return (time.perf_counter() - start,)

    DesignScreen(page).quiet()
    took = tries(load, 5, 9)
    return [(f"book of {BUILDS} builds opens", f"{took.median():.2f} s", "0.6 s", f"{took.how}; from the click to its charts")]
