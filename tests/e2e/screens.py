"""The screens as their users see them: what can be done there, by role and label."""

import re
from collections.abc import Iterator
from contextlib import contextmanager

from playwright.sync_api import Error, Locator, Page, expect

REST = """() => new Promise((done, fail) => {
  const page = document.documentElement;
  const look = () => "rest" in page.dataset && (watch.disconnect(), done());
  const watch = new MutationObserver(look);
  watch.observe(page, {attributes: true});
  setTimeout(() => { watch.disconnect(); fail(new Error("the page never came to rest, waiting for: " + window.awaited())); }, 60_000);
  setTimeout(() => setTimeout(look)); })"""
"""Told by the page itself (web/src/lib/rest.ts): nothing asked for is still to come, nothing is about to be asked. Not before what a click
has set going is counted, which is told in a turn of its own."""


class Screen:
    """Any page of the shop."""

    def __init__(self, page: Page):
        self.page = page

    def quiet(self) -> None:
        """Everything that was asked for has come, and nothing more is going to be."""
        while True:
            try:
                self.page.evaluate(REST)
                return
            except Error as e:
                # the page went to another address meanwhile: it is that one's rest that counts
                if "navigation" not in e.message and "context was destroyed" not in e.message:
                    raise

    def drawn(self, picture: Locator) -> str:
        """Where it comes from, once it is there for good: one that came with the page is soon drawn anew."""
        self.quiet()
        return picture.get_attribute("src") or ""

    @contextmanager
    def menu(self) -> Iterator[None]:
        """With the menu of oneself open: units, light, the shop."""
        button = self.page.get_by_role("button", name="You, your shop, units and light")
        button.click()
        yield
        if button.count() and button.get_attribute("aria-expanded") == "true":
            button.click()

    def units(self, length: str = "", temperature: str = "", weight: str = "") -> None:
        with self.menu():
            for of, said in (("length", length), ("temperature", temperature), ("weight", weight)):
                if said:
                    group = self.page.get_by_role("radiogroup", name=f"Units of {of}")
                    group.get_by_role("radio", name=said, exact=True).click()

    def light(self, name: str) -> None:
        with self.menu():
            self.page.get_by_role("radiogroup", name="Light").get_by_role("radio", name=name, exact=True).click()

    def place(self, name: str) -> None:
        """To one of the places: of the shop, or of the design that is open."""
        self.page.get_by_role("link", name=name, exact=True).click()


class DesignScreen(Screen):
    """A design on the table."""

    @property
    def row(self) -> Locator:
        """The bar after each step."""
        return self.page.get_by_role("navigation", name="The bar after each step")

    def bar(self, which: int | str) -> Locator:
        """The portrait of a step by its place from 0, of the start, or of the blade."""
        if which == "start":
            first = self.page.get_by_role("button", name="Put a step here, as step 1", exact=True)
            return self.row.get_by_role("listitem").filter(has=first).get_by_role("button").first
        if which == "blade":
            return self.row.get_by_role("listitem").last.get_by_role("button").first
        return self.row.get_by_role("button", name=re.compile(rf"(^|[^\d.]){int(which) + 1} [A-Z]"))

    def bars(self) -> int:
        """How many portraits there are: the start, the steps, the blade."""
        return self.row.get_by_role("button", name=re.compile(r"(^|[^\d.])\d+ [A-Z]")).count() + 2

    def children(self) -> Locator:
        """The bars that come together in the open one."""
        return self.page.get_by_role("list", name=re.compile("come together here|One bar here")).get_by_role("button")

    def child(self, index: int) -> Locator:
        return self.children().filter(has_text=re.compile(rf"(^|\D){index + 1}\. "))

    def chosen(self) -> str:
        """Which portrait is chosen, as `bar` takes it."""
        on = self.row.get_by_role("button").and_(self.page.locator("[aria-current=step]"))
        return self.said(on.inner_text())

    def focused(self) -> str:
        """The portrait that has the keyboard, as `bar` takes it; elsewhere the kind of thing that has it."""
        here = self.page.locator(":focus")
        inside = self.row.locator(":focus")
        return self.said(inside.inner_text()) if inside.count() else str(here.evaluate("e => e.tagName"))

    @staticmethod
    def said(text: str) -> str:
        step = re.search(r"(?:^|[^\d.])(\d+) [A-Z]", text)
        if step:
            return str(int(step[1]) - 1)
        return "blade" if text.strip().startswith("Blade") else "start"

    def settled(self) -> None:
        """Both faces are there and everything asked for has come."""
        expect(self.page.get_by_alt_text("Left face of the blade as")).to_be_visible()
        expect(self.page.get_by_alt_text("Right face of the blade as")).to_be_visible()
        self.quiet()

    def saved(self) -> None:
        expect(self.page.get_by_role("status", name="Saved or waiting")).to_have_text("saved")

    def face(self) -> str:
        return self.drawn(self.page.get_by_alt_text("Right face of the blade as"))
