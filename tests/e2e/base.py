"""A real browser on a real server with the demo shop."""

import atexit
import faulthandler
import os
import shutil
import socket
import sqlite3
import sys
import tempfile
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import Any, ClassVar

from django.contrib.auth.models import User
from django.core.servers.basehttp import ThreadedWSGIServer
from django.db import connection
from django.test import LiveServerTestCase, override_settings
from django.test.testcases import LiveServerThread
from playwright.sync_api import Browser, Error, Locator, Page, Playwright, expect, sync_playwright

from tests.chromium import CHROMIUM, FLAGS, FLAT, SHELL
from tests.e2e.screens import DesignScreen
from tests.parts import MADE
from tests.waiting import until
from varistrat.demo.people import DEMO_PEOPLE
from varistrat.demo.shop import load_demo
from varistrat.designs.models import Design

AXE = Path(__file__).resolve().parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "1")
WAIT_MS = 120_000
LOOK_MS = 50
"""A machine that tests beside others stands still for seconds: what never comes is told by this, what is slow by ./run bench."""
expect.set_options(timeout=WAIT_MS)
_playwright: list[Playwright] = []
_browsers: dict[bool, Browser] = {}


def browser(solid: bool) -> Browser:
    """This process's, kept for all its tests; solid: with WebGL."""
    if not _playwright:
        _playwright.append(sync_playwright().start())
        atexit.register(close_browsers)
    if solid not in _browsers:
        path, flags = (CHROMIUM, FLAGS) if solid else (SHELL, FLAT)
        _browsers[solid] = _playwright[0].chromium.launch(executable_path=path, args=flags)
    return _browsers[solid]


def close_browsers() -> None:
    while _browsers:
        _browsers.popitem()[1].close()
    while _playwright:
        _playwright.pop().stop()


class CountingServer(ThreadedWSGIServer):
    """Knows how many connections are open."""

    def __init__(self, *args: Any, **kwargs: Any):
        super().__init__(*args, **kwargs)
        self.open: set[Any] = set()

    def process_request(self, request: Any, client_address: Any) -> None:
        self.open.add(request)
        super().process_request(request, client_address)

    def shutdown_request(self, request: Any) -> None:
        super().shutdown_request(request)
        self.open.discard(request)


class CountingThread(LiveServerThread):
    server_class = CountingServer


@override_settings(DEMO=True)
class BrowserCase(LiveServerTestCase):
    server_thread_class = CountingThread
    browser: ClassVar[Browser]
    viewport: ClassVar[tuple[int, int]] = (1280, 800)
    theme: ClassVar[str] = "light"
    book: ClassVar[bool] = False
    """With the demo's builds."""
    solid: ClassVar[bool] = False
    """With WebGL."""
    quiet_errors: ClassVar[tuple[str, ...]] = ("Failed to load resource",)

    @classmethod
    def setUpClass(cls) -> None:
        # after the server, which has the database open, has ended
        cls.addClassCleanup(cls._filled, "empty")
        super().setUpClass()
        cls.browser = browser(cls.solid)

    @classmethod
    def _filled(cls, made: str) -> None:
        """The database as it was made once for all (`tests.parts.make`): empty, demo, or the demo with its book."""
        folder = os.environ.get(MADE)
        if not folder:
            load_demo(made == "book")
            return
        connection.ensure_connection()
        with closing(sqlite3.connect(Path(folder) / f"{made}.sqlite3")) as source:
            source.backup(connection.connection)
        connection.close()

    def _fixture_teardown(self) -> None:
        """The next test begins from its own copy."""
        if MADE not in os.environ:
            super()._fixture_teardown()

    def setUp(self) -> None:
        if self.book:
            photos = tempfile.mkdtemp()
            self.addCleanup(shutil.rmtree, photos, ignore_errors=True)
            self.enterContext(override_settings(PHOTOS_DIR=photos))
            if MADE in os.environ:
                # a photo is never written over, only taken away
                shutil.copytree(Path(os.environ[MADE]) / "photos", photos, copy_function=os.link, dirs_exist_ok=True)
        self._filled("book" if self.book else "demo")
        self.complaints: list[str] = []
        self.elsewhere: list[str] = []
        self.under_way: set[str] = set()
        self._signed_in = False
        self.context = self.browser.new_context(
            viewport={"width": self.viewport[0], "height": self.viewport[1]},
            color_scheme=self.theme,
            reduced_motion="reduce",
            accept_downloads=True,
        )
        self.context.set_default_timeout(WAIT_MS)
        self.page = self.new_page()

    def tearDown(self) -> None:
        if not self._outcome.success:  # type: ignore[attr-defined]
            self._say_where_it_stood()
        self.context.close()
        # a save that was still on its way would be the next test's
        with closing(socket.create_connection((self.host, self.server_thread.port))) as last:
            # answered: all that came before was heard
            last.sendall(b"GET /api/nothing HTTP/1.0\r\n\r\n")
            while last.recv(1 << 16):
                pass
        until(lambda: not self.server_thread.httpd.open, "the server goes on with what a closed page asked for")
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
        self._signed_in = True
        self.context.add_cookies([{"name": "sessionid", "value": session, "url": self.live_server_url}])

    def enter(self, role: str = "owner") -> None:
        self.sign_in(role)
        self.page.goto(self.live_server_url)
        expect(self.page.get_by_role("heading", name="On the bench")).to_be_visible()

    def open(self, name: str, place: str = "", *, settled: bool = True) -> None:
        """A design by its address; place: as it stands there, "stock" or "heat/kiln". settled: a place without the blade's faces has none
        to wait for."""
        if not self._signed_in:
            self.sign_in()
        self.page.goto(f"{self.live_server_url}/design/{Design.objects.get(name=name).pk}/{place}")
        self.settled() if settled else self.screen().quiet()

    def screen(self, page: Page | None = None) -> DesignScreen:
        return DesignScreen(page or self.page)

    def settled(self, page: Page | None = None) -> None:
        try:
            self.screen(page).settled()
        except Error as e:
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

    def until(self, what: Callable[[], object], page: Page | None = None) -> None:
        """Until it has come true, the page going on meanwhile."""
        for _ in range(WAIT_MS // LOOK_MS):
            if what():
                return
            (page or self.page).wait_for_timeout(LOOK_MS)
        raise AssertionError("it never came true")

    def chosen(self) -> str:
        return self.screen().chosen()

    def address(self, name: str, place: str = "") -> str:
        return f"/design/{Design.objects.get(name=name).pk}/{place}"

    def walk(self, path: str) -> None:
        """To another address as a link leads there: the page stays, its place changes."""
        self.page.evaluate("to => { history.pushState(null, '', to); dispatchEvent(new PopStateEvent('popstate')) }", path)
        self.screen().quiet()

    def serious(self, *only: str) -> list[Any]:
        """What axe finds on the page by any of its rules (only: by these), once nothing is being drawn any more."""
        expect(self.page.locator(".animate-pulse")).to_have_count(0)
        # evaluate, not a script tag: the page's own policy would refuse that
        if not self.page.evaluate("'axe' in window"):
            self.page.evaluate(AXE.read_text())
        options: dict[str, Any] = {"resultTypes": ["violations"], "preload": False} | ({"runOnly": list(only)} if only else {})
        found = self.page.evaluate("o => axe.run(document, o)", options)["violations"]
        # a screen scrolls in its parts: a page longer or wider than its window shows dead space
        page = "e => [e.scrollHeight - innerHeight, e.scrollWidth - innerWidth]"
        for beyond in self.page.locator("html").evaluate(page):
            if beyond > 1:
                found.append({"id": "page larger than its window", "nodes": [{"html": f"{beyond} px"}]})
        return [(v["id"], v["nodes"][0]["html"][:160], v["nodes"][0].get("failureSummary", "")[:200]) for v in found]
