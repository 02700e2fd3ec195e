"""People of a shop in the real browser: an invite taken up, roles, what a helper may."""

import pyotp
from django.contrib.auth.models import User
from playwright.sync_api import expect

from tests.e2e.base import WAIT_MS, BrowserCase
from tests.e2e.screens import DesignScreen
from varistrat.accounts.models import SecondSign
from varistrat.designs.models import Revision
from varistrat.shop.models import Membership
from varistrat.shop.services.people import open_shop


class ShopTests(BrowserCase):
    def test_the_door_of_the_demo(self) -> None:
        self.page.goto(self.live_server_url)
        self.page.get_by_role("button", name="Enter the demo shop").click()
        expect(self.page.get_by_role("heading", name="On the bench")).to_be_visible()
        self.page.get_by_role("button", name="You, your shop, units and light").click()
        self.page.get_by_role("button", name="Sign out").click()
        self.page.get_by_role("button", name="as its helper").click()
        expect(self.page.get_by_text("You are a helper here")).to_be_visible()

    def test_invited_joined_made_owner_and_taken_out(self) -> None:
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/shop")
        self.page.get_by_role("button", name="Make a link").click()
        link = self.page.get_by_label("The link", exact=True).input_value()
        other = self.browser.new_context().new_page()
        other.set_default_timeout(WAIT_MS)
        other.goto(link)
        expect(other.get_by_text("to work in Quillet Dyke Forge as smith")).to_be_visible()
        other.get_by_label("Choose a name").fill("striker")
        other.get_by_label("and a password").fill("short")
        expect(other.get_by_text("7 more")).to_be_visible()
        other.get_by_role("button", name="Join the shop").click()
        expect(other.get_by_text("too short")).to_be_visible()
        other.get_by_label("and a password").fill("beside-the-trough-5")
        other.get_by_role("button", name="Join the shop").click()
        expect(other.get_by_role("heading", name="On the bench")).to_be_visible()
        expect(other.get_by_role("link", name="Withy knife", exact=True)).to_be_visible()
        other.goto(link)
        expect(other.get_by_text("This link works no more")).to_be_visible()
        self.page.reload()
        here = self.page.get_by_role("listitem").filter(has_text="striker")
        expect(here).to_be_visible()
        here.get_by_role("button", name="Role of striker").click()
        self.page.get_by_role("option", name="Owner").click()
        expect(here).to_contain_text("Owner")
        here.get_by_role("button", name="Take out striker", exact=True).click()
        here.get_by_role("button", name="Yes, take out striker").click()
        expect(here).to_have_count(0)
        self.assertFalse(Membership.objects.filter(user__username="striker", shop__name="Quillet Dyke Forge").exists())
        other.context.close()
        self.page.get_by_role("button", name="Leave", exact=True).click()
        self.page.get_by_role("button", name="Yes, leave").click()
        expect(self.page.get_by_text("A shop cannot be without an owner")).to_be_visible()

    def test_a_code_of_the_phone(self) -> None:
        password = "beside-the-trough-5"
        open_shop(owner=User.objects.create_user("wheelwright", password=password), name="The wheel shop")

        def come_in(code: str = "") -> None:
            self.page.goto(self.live_server_url)
            self.page.get_by_label("Name").fill("wheelwright")
            self.page.get_by_label("Password", exact=True).fill(password)
            self.page.get_by_role("button", name="Sign in").click()
            if code:
                expect(self.field("Code of your phone")).to_be_focused()
                self.page.keyboard.type(code)
                self.page.keyboard.press("Enter")

        def go_out() -> None:
            self.page.get_by_role("button", name="You, your shop, units and light").click()
            self.page.get_by_role("button", name="Sign out", exact=True).click()
            expect(self.page.get_by_label("Password", exact=True)).to_be_visible()

        come_in()
        expect(self.page.get_by_role("heading", name="On the bench")).to_be_visible()
        self.page.goto(f"{self.live_server_url}/shop")
        section = self.page.get_by_role("region", name="A code of your phone")
        section.get_by_role("button", name="Set it up").click()
        self.page.get_by_label("Your password, once more").fill("guess")
        section.get_by_role("button", name="Go on").click()
        expect(section.get_by_text("not your password")).to_be_visible()
        self.page.get_by_label("Your password, once more").fill(password)
        section.get_by_role("button", name="Go on").click()
        expect(self.page.get_by_role("img", name="For your phone's app")).to_be_visible()
        phone = pyotp.TOTP(SecondSign.objects.get().secret)
        self.field("The code that it shows now").fill("12")
        section.get_by_role("button", name="Ask for it from now on").click()
        expect(section.get_by_text("would show another one now")).to_be_visible()
        self.field("The code that it shows now").fill(phone.now())
        section.get_by_role("button", name="Ask for it from now on").click()
        spare = section.get_by_role("list", name="Spare codes").get_by_role("listitem")
        expect(spare).to_have_count(8)
        one = spare.first.inner_text()
        section.get_by_role("button", name="I have them on paper").click()
        expect(section.get_by_text("8 spare codes left")).to_be_visible()
        go_out()
        come_in("123456")
        expect(self.page.get_by_text("That code does not count")).to_be_visible()
        come_in(one)
        expect(self.page.get_by_role("heading", name="On the bench")).to_be_visible()
        self.page.goto(f"{self.live_server_url}/shop")
        expect(section.get_by_text("7 spare codes left")).to_be_visible()
        section.get_by_role("button", name="End it").click()
        self.page.get_by_label("Your password, once more").fill(password)
        section.get_by_role("button", name="Ask for no code any more").click()
        expect(section.get_by_role("button", name="Set it up")).to_be_visible()
        go_out()
        come_in()
        expect(self.page.get_by_role("heading", name="On the bench")).to_be_visible()

    def test_a_helper_tries_out_and_saves_nothing(self) -> None:
        self.enter("helper")
        expect(self.page.get_by_role("button", name="New design")).to_be_disabled()
        expect(self.page.get_by_role("button", name="Remove Withy knife")).to_have_count(0)
        self.walk(self.address("Sedge knife, bold twist"))
        self.settled()
        saves = Revision.objects.count()
        self.bar(3).click()
        with self.face_changes():
            self.field("Turns").fill("9")
            self.field("Turns").press("Enter")
        expect(self.page.get_by_role("status", name="Saved or waiting")).to_have_text("kept here only")
        expect(self.page.get_by_text("As a helper you may try anything out here")).to_be_visible()
        self.page.reload()
        self.settled()
        expect(self.field("Turns")).to_have_value("9")
        self.assertEqual(Revision.objects.count(), saves)
        self.page.goto(f"{self.live_server_url}/steels")
        expect(self.field("Begins to melt")).to_be_disabled()

    def test_who_saved_is_shown(self) -> None:
        self.sign_in("smith")
        self.open("Sedge knife, bold twist")
        self.bar(3).click()
        self.field("Turns").fill("9")
        self.field("Turns").press("Enter")
        self.saved()
        self.page.get_by_role("button", name="More about this design").click()
        self.page.get_by_role("menuitem", name="Earlier saves").click()
        expect(self.page.get_by_role("dialog")).to_contain_text("by sallow")


class PlaceTests(BrowserCase):
    def test_the_address_says_where_one_is(self) -> None:
        self.open("Sedge knife, bold twist")
        screen = DesignScreen(self.page)
        self.bar(3).click()
        self.page.get_by_role("tab", name="Section", exact=True).click()
        self.assertRegex(self.page.url, r"/design/\d+/bar/s4\?view=section$")
        self.page.reload()
        self.settled()
        self.assertEqual(self.chosen(), "3")
        expect(self.page.get_by_role("tab", name="Section", exact=True)).to_have_attribute("aria-selected", "true")
        expect(self.page).to_have_title("Sedge knife, bold twist, Design - Varistrat")
        screen.place("Heat")
        expect(self.page).to_have_title("Sedge knife, bold twist, Heat - Varistrat")
        self.page.get_by_role("tab", name="Hardening", exact=True).click()
        self.assertRegex(self.page.url, r"/heat/hardening$")
        # back through tabs and places; a chosen step is no step back
        self.page.go_back()
        expect(self.page.get_by_role("tab", name="Fires", exact=True)).to_have_attribute("aria-selected", "true")
        self.page.go_back()
        expect(self.page.get_by_role("heading", name="4. Twist")).to_be_visible()
        self.page.go_forward()
        expect(self.page.get_by_role("tab", name="Fires", exact=True)).to_be_visible()
        # each place is found again as it was left
        screen.place("Grind")
        self.page.get_by_role("tab", name="Bevel plan", exact=True).click()
        screen.place("Design")
        expect(self.page.get_by_role("heading", name="4. Twist")).to_be_visible()
        screen.place("Grind")
        expect(self.page.get_by_role("tab", name="Bevel plan", exact=True)).to_have_attribute("aria-selected", "true")
        self.walk(self.address("Punt builder's spoke knife"))
        self.settled()
        self.screen().child(1).click()
        self.assertIn("?bar=", self.page.url)
        expect(self.page.get_by_role("button", name="Back to the")).to_be_visible()
        self.page.go_back()
        expect(self.page.get_by_role("button", name="Back to the")).to_have_count(0)
        for path in ("abc", "99999999999999999999", "99999"):
            self.walk(f"/design/{path}")
            expect(self.page.get_by_role("heading", name="This design is not on your bench")).to_be_visible()
        for path in ("nowhere", "bar/gone?bar=gone&view=gone"):
            self.walk(self.address("Sedge knife, bold twist", path))
            expect(self.page.get_by_role("heading", name="7. Grind")).to_be_visible()
        self.walk("/nowhere")
        self.page.get_by_role("link", name="To the bench").last.click()
        expect(self.page.get_by_role("heading", name="On the bench")).to_be_visible()


class FirstAnswersTests(BrowserCase):
    """What the page brings along is not asked for, is used once, and is never an old answer."""

    def asked(self) -> list[str]:
        found: list[str] = []
        self.page.on("request", lambda r: found.append(r.url.removeprefix(self.live_server_url)))
        return found

    def test_the_bench_and_a_design_come_with_their_page_what_changed_is_asked_anew(self) -> None:
        self.enter()
        link = self.page.get_by_role("link", name="Withy knife", exact=True)
        address = link.get_attribute("href")
        assert address
        asked = self.asked()
        self.page.reload()
        expect(link).to_be_visible()
        self.screen().quiet()
        self.assertEqual({"/api/session", "/api/designs", "/api/designs/bin"} & set(asked), set())
        asked.clear()
        self.page.goto(self.live_server_url + address)
        self.settled()
        self.assertEqual({"/api/session", f"/api{address.replace('design', 'designs')}"} & set(asked), set())
        self.page.goto(self.live_server_url)
        card = self.page.get_by_role("listitem").filter(has=self.page.get_by_role("link", name="Withy knife", exact=True))
        card.get_by_role("button", name="Remove Withy knife").click()
        expect(card).to_have_count(0)
        expect(self.page.get_by_role("button", name="Bin (1)")).to_be_visible()
        self.page.get_by_role("link", name="Steels").click()
        self.page.get_by_role("link", name="Bench", exact=True).click()
        expect(self.page.get_by_role("heading", name="On the bench")).to_be_visible()
        self.screen().quiet()
        expect(card).to_have_count(0)
        self.page.reload()
        expect(self.page.get_by_role("button", name="Bin (1)")).to_be_visible()
        expect(card).to_have_count(0)
