"""A real browser on a real server with the demo shop."""

import faulthandler
import os
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, ClassVar

from django.contrib.auth.models import User
from django.test import LiveServerTestCase, override_settings
from playwright.sync_api import Browser, Locator, Page, Playwright, TimeoutError, expect, sync_playwright

from tests.chromium import CHROMIUM, FLAGS
from tests.e2e.screens import DesignScreen
from varistrat.demo.people import DEMO_PEOPLE
from varistrat.demo.shop import load_demo

AXE = Path(__file__).resolve().parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "1")
WAIT_MS = 30_000
"""A machine that tests beside others stands still for seconds: what never comes is told by this, what is slow by ./run bench."""
expect.set_options(timeout=WAIT_MS)


@override_settings(DEMO=True)
class BrowserCase(LiveServerTestCase):
    playwright: ClassVar[Playwright]
    browser: ClassVar[Browser]
    viewport: ClassVar[tuple[int, int]] = (1280, 800)
    theme: ClassVar[str] = "light"
    book: ClassVar[bool] = False
    """With the demo's builds; they take as long as all the rest."""
    quiet_errors: ClassVar[tuple[str, ...]] = ("Failed to load resource",)

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.playwright = sync_playwright().start()
        cls.browser = cls.playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)

    @classmethod
    def tearDownClass(cls) -> None:
        cls.browser.close()
        cls.playwright.stop()
        super().tearDownClass()

    def setUp(self) -> None:
        load_demo(self.book)
        self.complaints: list[str] = []
        self.elsewhere: list[str] = []
        self.under_way: set[str] = set()
        self.context = self.browser.new_context(
            viewport={"width": self.viewport[0], "height": self.viewport[1]}, color_scheme=self.theme, accept_downloads=True
        )
        self.context.set_default_timeout(WAIT_MS)
        self.page = self.new_page()

    def tearDown(self) -> None:
        if not self._outcome.success:  # type: ignore[attr-defined]
            self._say_where_it_stood()
        self.context.close()
        self.assertEqual(self.complaints, [], "the page complained")
        self.assertEqual(self.elsewhere, [], "the page asked elsewhere")

    def _say_where_it_stood(self) -> None:
        """What the pages showed and waited for when the test failed, beside its error."""
        for page in self.context.pages:
            shown = page.evaluate("document.body.innerText.slice(0, 600)")
            print(f"\n{self.id()} stood at {page.url}, waiting for {sorted(self.under_way)}:\n{shown}", file=sys.stderr)

    def new_page(self) -> Page:
        page = self.context.new_page()
        page.on("pageerror", lambda e: self.complaints.append(str(e)))
        page.on("console", lambda m: self._heard(m.type, m.text))
        page.on("request", lambda r: None if r.url.startswith((self.live_server_url, "blob:", "data:")) else self.elsewhere.append(r.url))
        page.on("request", lambda r: self.under_way.add(f"{r.method} {r.url}"))
        for over in ("requestfinished", "requestfailed"):
            page.on(over, lambda r: self.under_way.discard(f"{r.method} {r.url}"))  # type: ignore[call-overload]
        return page

    def _heard(self, kind: str, text: str) -> None:
        if kind == "error" and not text.startswith(self.quiet_errors):
            self.complaints.append(text)

    def sign_in(self, role: str = "owner") -> None:
        """As one of the demo's people, without going through the door again."""
        self.client.force_login(User.objects.get(username=DEMO_PEOPLE[role]), backend="varistrat.shop.backend.AtWork")
        session = self.client.cookies["sessionid"].value
        self.context.add_cookies([{"name": "sessionid", "value": session, "url": self.live_server_url}])

    def enter(self, role: str = "owner") -> None:
        self.sign_in(role)
        self.page.goto(self.live_server_url)
        expect(self.page.get_by_role("heading", name="On the bench")).to_be_visible()

    def open(self, name: str) -> None:
        self.enter()
        self.page.get_by_role("link", name=name, exact=True).click()
        self.settled()

    def screen(self, page: Page | None = None) -> DesignScreen:
        return DesignScreen(page or self.page)

    def settled(self, page: Page | None = None) -> None:
        try:
            self.screen(page).settled()
        except TimeoutError as e:
            faulthandler.dump_traceback(all_threads=True)
            raise AssertionError(f"it never came to rest; under way: {sorted(self.under_way)}") from e

    def saved(self, page: Page | None = None) -> None:
        self.screen(page).saved()

    def bar(self, which: int | str, page: Page | None = None) -> Locator:
        return self.screen(page).bar(which)

    def field(self, label: str) -> Locator:
        return self.page.get_by_label(label, exact=True)

    def face(self) -> str:
        return self.screen().face()

    @contextmanager
    def face_changes(self) -> Iterator[None]:
        before = self.face()
        yield
        expect(self.page.get_by_alt_text("Right face of the blade as")).not_to_have_attribute("src", before)

    def chosen(self) -> str:
        return self.screen().chosen()

    def serious(self) -> list[Any]:
        """What axe finds on the page by any of its rules, once nothing is being drawn any more."""
        expect(self.page.locator(".animate-pulse")).to_have_count(0, timeout=30_000)
        # evaluate, not a script tag: the page's own policy would refuse that
        self.page.evaluate(AXE.read_text())
        found = self.page.evaluate("axe.run(document, {resultTypes: ['violations']})")
        # a screen scrolls in its parts: a page longer than its window shows dead space below
        beyond = self.page.evaluate("document.documentElement.scrollHeight - innerHeight")
        if beyond > 1:
            found["violations"].append({"id": "page longer than its window", "nodes": [{"html": f"{beyond} px"}]})
        return [(v["id"], v["nodes"][0]["html"][:160], v["nodes"][0].get("failureSummary", "")[:200]) for v in found["violations"]]
