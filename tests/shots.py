"""`./run shots`: one picture of each main view from fresh demo data, into docs/screenshots/."""

import re
import sys
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, expect, sync_playwright

from benchmarks.served import Served
from tests.chromium import CHROMIUM, FLAGS
from tests.e2e.screens import DesignScreen

OUT = Path(__file__).resolve().parents[1] / "docs" / "screenshots"


PATIENCE_MS = 30_000
"""A shared machine is slow at times."""


def _settled(page: Page) -> None:
    DesignScreen(page).quiet()
    page.wait_for_timeout(600)


def _open(page: Page, name: str, chosen: str | None = None) -> None:
    page.get_by_role("link", name=name, exact=True).click()
    expect(page.get_by_alt_text("Right face of the blade as")).to_be_visible()
    if chosen:
        DesignScreen(page).bar(chosen).click()
    _settled(page)


def _twist(page: Page) -> None:
    _open(page, "Sedge knife, bold twist", "3")
    page.get_by_label("Ground off the face").focus()
    for _ in range(3):
        page.keyboard.press("PageDown")
    page.get_by_role("heading", name="4. Twist").click()
    _settled(page)


def _grind(name: str, tab: str, then: Callable[[Page], None] | None = None) -> Callable[[Page], None]:
    """A design in the Grind place."""

    def prepare(page: Page) -> None:
        _open(page, name)
        page.get_by_role("link", name="Grind", exact=True).click()
        page.get_by_role("tab", name=tab, exact=True).click()
        _settled(page)
        if then:
            then(page)
        page.wait_for_timeout(1200)

    return prepare


def _point(page: Page) -> None:
    box = page.get_by_alt_text("Right face of the blade as").bounding_box()
    assert box
    page.mouse.move(box["x"] + 0.45 * box["width"], box["y"] + 30)


def _steels(page: Page) -> None:
    page.get_by_role("link", name="Steels").click()
    _settled(page)


def _pairing(page: Page) -> None:
    page.get_by_role("link", name="Pairing").click()
    expect(page.get_by_text("They go together.")).to_be_visible()
    _settled(page)


def _heat(name: str, tab: str, then: Callable[[Page], None] | None = None) -> Callable[[Page], None]:
    """A design in Heat, one of its tabs."""

    def prepare(page: Page) -> None:
        _open(page, name)
        page.get_by_role("link", name="Heat").click()
        page.get_by_role("tab", name=tab).click()
        _settled(page)
        if then:
            then(page)
            _settled(page)
        page.wait_for_timeout(800)

    return prepare


def _record(page: Page) -> None:
    page.get_by_role("region", name="Records").get_by_role("button", name="Harden").click()


def _finish(name: str, tab: str) -> Callable[[Page], None]:
    """A design in Finish, one of its tabs."""

    def prepare(page: Page) -> None:
        _open(page, name)
        page.get_by_role("link", name="Finish", exact=True).click()
        page.get_by_role("tab", name=tab, exact=True).click(timeout=60_000)
        _settled(page)
        page.wait_for_timeout(2500)

    return prepare


def _wrong(page: Page) -> None:
    """One answer given, with the design speaking too."""
    _finish("Thatcher's eave knife", "What went wrong?")(page)
    page.get_by_role("button", name="The pattern is faint").click()
    page.get_by_role("button", name="No", exact=True).first.click()
    _settled(page)


def _baths(page: Page) -> None:
    page.get_by_role("link", name="Baths", exact=True).click()
    page.get_by_role("heading", name="To get rid of it").wait_for()
    _settled(page)


def _stock(name: str, tab: str) -> Callable[[Page], None]:
    """A design in Stock, one of its tabs."""

    def prepare(page: Page) -> None:
        _open(page, name)
        page.get_by_role("link", name="Stock", exact=True).click()
        page.get_by_role("tab", name=tab).click()
        _settled(page)
        page.wait_for_timeout(1500)

    return prepare


def _rack(page: Page) -> None:
    page.get_by_role("link", name="Rack").click()
    page.get_by_role("button", name="flat 38.1 × 6.35 × 1220 mm").click()
    _settled(page)


def _looks(page: Page) -> None:
    page.get_by_role("link", name="Looks", exact=True).click()
    for face in ("Width of the bands: towards bold", "How regular: towards never"):
        page.get_by_role("button", name=re.compile(face)).click()
    page.get_by_text("Tools, steels and limits").click()
    page.get_by_role("switch", name=re.compile("Thorough")).click()
    page.get_by_text("Tools, steels and limits").click()
    page.get_by_role("button", name="Search").click()
    page.get_by_text("short 1 in").first.wait_for(timeout=300_000)
    page.get_by_role("button", name="Stop").wait_for(state="detached", timeout=300_000)
    page.wait_for_timeout(4000)


def _build(title: str, tab: str = "", then: Callable[[Page], None] | None = None) -> Callable[[Page], None]:
    """A build of the book."""

    def prepare(page: Page) -> None:
        page.get_by_role("link", name="Book").click()
        page.get_by_role("radiogroup", name="Which builds").get_by_role("radio").last.click()
        page.get_by_role("link", name=re.compile(title)).click()
        page.get_by_role("heading", level=1).wait_for()
        if tab:
            page.get_by_role("link", name=tab, exact=True).click()
        _settled(page)
        page.wait_for_timeout(3000)
        if then:
            then(page)
            page.wait_for_timeout(800)

    return prepare


def _timed(page: Page) -> None:
    page.keyboard.press("t")
    page.keyboard.press("t")
    page.get_by_role("button", name="1 heat more").click()


SEEN_AT = ((0.1486, 0.5654), (0.1685, 0.3480), (0.9116, 0.5822), (0.5594, 0.6433), (0.5746, 0.4264))
"""Heel, tip, edge and spine in the demo's photo of the right side, shares of its sides; from core/photo/bench.py, `seen_at`."""


def _read_off(page: Page) -> None:
    page.get_by_role("button", name="right side, etched").click()
    for x, y in SEEN_AT:
        picture = page.get_by_role("button", name=re.compile("^Photo: mark"))
        box = picture.bounding_box()
        assert box
        picture.click(position={"x": x * box["width"], "y": y * box["height"]})
    page.get_by_role("button", name="Read it off the photo").click()
    page.get_by_role("button", name="Take over into this build").wait_for(timeout=90_000)
    page.wait_for_timeout(2500)


def _learned(page: Page) -> None:
    page.get_by_role("link", name="Book").click()
    page.get_by_role("radio", name="what it teaches").click()
    _settled(page)


def _practice(page: Page) -> None:
    page.goto(page.url.split("/bench")[0] + "/practice/new/core_centred?seed=1")
    page.get_by_role("button", name="Test etch, 8 min").click()
    page.get_by_text("As read in test etch 1").wait_for()
    page.get_by_role("button", name="left, edge up").click(position={"x": 100, "y": 30})
    _settled(page)


SHOTS: dict[str, tuple[str, tuple[int, int], Callable[[Page], None]]] = {
    "bench-light": ("light", (1280, 800), lambda page: None),
    "build-sheet": ("dark", (1280, 800), _build("Eel splitter", then=_timed)),
    "build-log": ("light", (1280, 800), _build("Eel splitter", "Log")),
    "build-photos": ("light", (1280, 800), _build("Sedge knife, bold twist", "Photos", _read_off)),
    "build-phone": ("dark", (390, 844), _build("Eel splitter")),
    "book": ("light", (1280, 800), _learned),
    "design-light": ("light", (1280, 800), _twist),
    "looks": ("light", (1280, 800), _looks),
    "stock": ("light", (1280, 800), _stock("Eel splitter, a thumb short", "Piles")),
    "rack": ("light", (1280, 800), _rack),
    "grind-core-line": ("light", (1280, 800), _grind("Osier peeler, core off centre", "Core line", _point)),
    "practice": ("dark", (1280, 800), _practice),
    "steels": ("light", (1280, 800), _steels),
    "pairing": ("light", (1280, 800), _pairing),
    "heat-hardening": ("light", (1280, 800), _heat("Sedge knife, bold twist", "Hardening")),
    "finish-etch": ("light", (1280, 800), _finish("Sedge knife, bold twist", "Etch")),
    "what-went-wrong": ("dark", (1280, 800), _wrong),
    "baths": ("light", (1280, 800), _baths),
    "heat-kiln": ("dark", (1280, 800), _heat("Sedge knife, bold twist", "Kiln", _record)),
}


def main() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    expect.set_options(timeout=PATIENCE_MS)
    with Served("demo", ["loaddemo"]) as server, sync_playwright() as p:
        browser = p.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        wanted = sys.argv[1:] or list(SHOTS)
        for name in wanted:
            theme, (width, height), prepare = SHOTS[name]
            context = browser.new_context(viewport={"width": width, "height": height}, color_scheme=theme)
            page = context.new_page()
            page.goto(server.address)
            button = page.get_by_role("button", name="Enter the demo shop")
            expect(button).to_be_visible()
            button.click()
            expect(page.get_by_role("heading", name="On the bench")).to_be_visible()
            _settled(page)
            page.wait_for_timeout(4000)  # the bench's pictures are drawn one at a time
            prepare(page)
            page.screenshot(path=OUT / f"{name}.png")
            print(f"docs/screenshots/{name}.png", flush=True)
            context.close()
        browser.close()


if __name__ == "__main__":
    main()
