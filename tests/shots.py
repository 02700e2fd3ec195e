"""`./run shots`: one picture of each main view from fresh demo data, into docs/screenshots/."""

from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, expect, sync_playwright

from benchmarks.browser import Server
from tests.chromium import CHROMIUM, FLAGS

OUT = Path(__file__).resolve().parents[1] / "docs" / "screenshots"


def _settled(page: Page) -> None:
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(600)


def _open(page: Page, name: str, chosen: str | None = None) -> None:
    page.get_by_role("link", name=name, exact=True).click()
    expect(page.get_by_test_id("face-right")).to_be_visible()
    if chosen:
        page.locator(f"[data-chosen-id='{chosen}']").click()
    _settled(page)


def _twist(page: Page) -> None:
    _open(page, "Sedge knife, bold twist", "3")
    page.get_by_label("Ground off the face").focus()
    for _ in range(3):
        page.keyboard.press("PageDown")
    page.get_by_role("heading", name="4. Twist").click()
    _settled(page)


def _enlarged(page: Page) -> None:
    _open(page, "Reedcutter's long knife")
    page.get_by_role("button", name="Enlarge the blade").click()
    _settled(page)


def _steels(page: Page) -> None:
    page.get_by_role("link", name="Steels").click()
    _settled(page)


def _begin(page: Page) -> None:
    page.get_by_role("button", name="New design").click()
    _settled(page)


SHOTS: dict[str, tuple[str, tuple[int, int], Callable[[Page], None]]] = {
    "bench-light": ("light", (1280, 800), lambda page: None),
    "bench-dark": ("dark", (1280, 800), lambda page: None),
    "begin": ("light", (1280, 800), _begin),
    "design-light": ("light", (1280, 800), _twist),
    "design-dark": ("dark", (1280, 800), _twist),
    "design-pile": ("light", (1280, 800), lambda page: _open(page, "Withy knife", "start")),
    "design-blade": ("light", (1280, 800), lambda page: _open(page, "Basketmaker's skew", "blade")),
    "design-enlarged": ("dark", (1280, 800), _enlarged),
    "design-tablet": ("light", (1024, 768), lambda page: _open(page, "Thatcher's eave knife", "3")),
    "steels": ("light", (1280, 800), _steels),
}


def main() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    with Server(more=0) as address, sync_playwright() as p:
        browser = p.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        for name, (theme, (width, height), prepare) in SHOTS.items():
            context = browser.new_context(viewport={"width": width, "height": height}, color_scheme=theme)
            page = context.new_page()
            page.goto(address)
            button = page.get_by_role("button", name="Enter the demo shop")
            expect(button).to_be_visible()
            if name == "bench-light":
                page.screenshot(path=OUT / "sign-in.png")
            button.click()
            expect(page.get_by_role("heading", name="On the bench")).to_be_visible()
            _settled(page)
            prepare(page)
            page.screenshot(path=OUT / f"{name}.png")
            print(f"docs/screenshots/{name}.png", flush=True)
            context.close()
        browser.close()


if __name__ == "__main__":
    main()
