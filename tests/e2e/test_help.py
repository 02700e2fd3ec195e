"""Help in the real browser: the tour left and found again, words by F1 and by a click, the search, everything at hand."""

import re

from playwright.sync_api import expect

from tests.e2e.base import BrowserCase


class HelpTests(BrowserCase):
    def help(self) -> None:
        self.page.get_by_role("button", name=re.compile("You, your shop")).click()
        self.page.get_by_role("link", name="Words, places and the tour").click()
        expect(self.page.get_by_role("heading", name="Help", exact=True)).to_be_visible()

    def test_the_tour_is_left_and_found_again(self) -> None:
        self.enter()
        self.help()
        self.page.get_by_role("button", name="The tour: five stops").click()
        card = self.page.get_by_role("complementary", name="The tour")
        expect(card).to_contain_text("Stop 1 of 5")
        expect(self.page).to_have_url(re.compile("/bench"))
        for stop, place in ((2, r"/design/\d+"), (3, "/stock"), (4, "/heat")):
            card.get_by_role("button", name="Next stop").click()
            expect(card).to_contain_text(f"Stop {stop} of 5")
            # the page itself leads on from some of these addresses: it is its rest that counts
            self.screen().quiet()
            expect(self.page).to_have_url(re.compile(place))
        self.page.reload()
        expect(card).to_contain_text("Stop 4 of 5")
        card.get_by_role("button", name="Next stop").click()
        expect(self.page).to_have_url(re.compile("/practice"))
        card.get_by_role("button", name="Back").click()
        expect(card).to_contain_text("Stop 4 of 5")
        card.get_by_role("button", name="Leave the tour").click()
        expect(card).to_have_count(0)
        self.page.reload()
        expect(self.page.get_by_role("link", name="Bench", exact=True)).to_be_visible()
        expect(card).to_have_count(0)

    def test_words_where_one_is(self) -> None:
        self.open("Withy knife")
        self.page.get_by_role("textbox", name=re.compile("Thickness")).first.focus()
        self.page.keyboard.press("F1")
        dialog = self.page.get_by_role("dialog")
        expect(dialog).to_contain_text("Draw out")
        self.page.keyboard.press("Escape")
        expect(dialog).to_have_count(0)
        # by a click, which does nothing else
        self.page.get_by_role("button", name=re.compile("You, your shop")).click()
        self.page.get_by_role("button", name=re.compile("What is this")).click()
        expect(self.page.get_by_text("Click on the word you ask about")).to_be_visible()
        at = self.page.url
        self.page.get_by_role("link", name="Stock", exact=True).click()
        expect(dialog).to_contain_text("How long each pile must be")
        self.assertEqual(self.page.url, at)
        dialog.get_by_role("link", name="All of the help").click()
        expect(self.page).to_have_url(re.compile("/help"))
        # and it asks no more
        self.page.get_by_role("link", name="Rack", exact=True).click()
        expect(self.page).to_have_url(re.compile("/rack"))

    def test_searched_and_on_a_phone(self) -> None:
        self.enter()
        self.help()
        self.page.get_by_role("searchbox", name="Search help").fill("undercut")
        expect(self.page.get_by_role("region", name="Words").get_by_role("heading", name="Undercut")).to_be_visible()
        expect(self.page.get_by_role("region", name="Places")).to_have_count(0)
        self.page.get_by_role("searchbox", name="Search help").fill("zzz")
        expect(self.page.get_by_text("Nothing here is called")).to_be_visible()
        self.page.go_back()
        self.page.set_viewport_size({"width": 390, "height": 844})
        self.page.goto(f"{self.live_server_url}/help?word=relief")
        self.page.get_by_role("link", name="undercut").click()
        expect(self.page.get_by_role("heading", name="Undercut")).to_be_visible()
        self.page.get_by_role("button", name="All words and places").click()
        expect(self.page.get_by_role("region", name="Places")).to_be_visible()
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 390)
