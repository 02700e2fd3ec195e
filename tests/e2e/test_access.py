"""For everyone: nothing for axe by any of its rules on any place, at three widths, light and dark; thumbs, tablets, the user's units."""

from pathlib import Path

from playwright.sync_api import expect

from tests.e2e.base import BrowserCase
from varistrat.builds.models import Build

KNIFE = "Sedge knife, bold twist"
OFF = "Osier peeler, core off centre"
WIDTHS = ((1280, 800), (1024, 768), (390, 844))
FITS = (Path(__file__).parent / "fits.js").read_text()
LIGHTS = ("light", "dark")
COLOUR = ("color-contrast", "link-in-text-block")


class EveryPlaceCase(BrowserCase):
    """Opened once, and looked at in every width and light: by all rules where the light is that width's own, else by those of colour; and
    at every width for what does not fit (fits.js)."""

    def setUp(self) -> None:
        super().setUp()
        self.found: list[object] = []

    def look(self, where: str) -> None:
        for n, (width, height) in enumerate(WIDTHS):
            self.page.set_viewport_size({"width": width, "height": height})
            self.screen().quiet()
            self.found += [(where, width, *wrong) for wrong in self.page.evaluate(FITS)]
            for light in LIGHTS:
                self.page.emulate_media(color_scheme=light)  # type: ignore[arg-type]
                only = () if light == LIGHTS[n % 2] else COLOUR
                self.found += [(where, width, light, *wrong) for wrong in self.serious(*only)]
        self.page.set_viewport_size({"width": WIDTHS[0][0], "height": WIDTHS[0][1]})

    def at(self, *places: tuple[str, str]) -> None:
        """Each address, with words or a name by which one knows that the place is there."""
        for path, name in places:
            self.walk(path)
            expect(self.page.get_by_text(name).or_(self.page.get_by_label(name)).first).to_be_attached()
            self.look(path)

    def tearDown(self) -> None:
        super().tearDown()
        self.assertEqual(self.found, [])


class DesignTests(EveryPlaceCase):
    def test_design_and_stock(self) -> None:
        self.open(KNIFE)
        for chosen in ("start", "3", "blade"):
            self.bar(chosen).click()
            self.screen().quiet()
            self.look(f"design, {chosen}")
        small = self.page.evaluate(
            """[...document.querySelectorAll('button, a[href], input:not([type=range]):not([type=file])')]
            .map(e => [e, e.getBoundingClientRect()]).filter(([, b]) => b.width && (b.height < 40 || b.width < 36))
            .map(([e, b]) => (e.getAttribute('aria-label') || e.textContent).slice(0, 40) + `
            ${Math.round(b.width)}x${Math.round(b.height)}`)"""
        )
        self.assertEqual(small, [], "too small for a thumb")
        self.at(
            (self.address(KNIFE, "stock/piles"), "Piles"),
            (self.address(KNIFE, "stock/cuts"), "What to buy"),
            (self.address(KNIFE, "stock/time"), "Day by day"),
        )

    def test_looks_at_a_bar_and_a_sheet(self) -> None:
        self.open("Punt builder's spoke knife", "bar?view=section")
        expect(self.page.get_by_role("img", name="Section at")).to_be_visible()
        self.look("section")
        self.at((self.address("Punt builder's spoke knife", "bar?view=window"), "Window"))
        self.at((self.address("Skein shave, clad in twists", "bar/blade?view=layers"), "On show"))
        self.at((self.address("Four-way bar for ferrules"), "What it comes to"))
        self.page.keyboard.press("w")
        expect(self.page.get_by_role("button", name="And another")).to_be_visible()
        self.look("what if")


class HeatTests(EveryPlaceCase):
    def test_heat(self) -> None:
        self.open(KNIFE, "heat/fires", settled=False)
        self.look("fires")
        self.at(*((self.address(KNIFE, f"heat/{tab}"), tab.title()) for tab in ("carbon", "hardening", "kiln")))


class GrindTests(EveryPlaceCase):
    def test_grind(self) -> None:
        self.open(KNIFE, "grind/line", settled=False)
        self.look("no core line")
        self.at(
            (self.address(OFF, "grind/line"), "Grade"),
            (self.address(OFF, "grind/tolerances"), "Tolerances"),
            (self.address(OFF, "grind/bevels"), "Bevel plan"),
            (self.address(OFF, "grind/edge"), "Edge and weight"),
            (self.address(OFF, "grind/etch"), "Test etch"),
        )
        self.page.get_by_role("button", name="Pick on a photo").click()
        expect(self.page.get_by_role("heading", name="Pick the core line on a photo")).to_be_visible()
        self.look("photo")


class FinishTests(EveryPlaceCase):
    book = True

    def test_finish_and_build(self) -> None:
        self.open(KNIFE, "finish/sanding", settled=False)
        self.look("sanding")
        self.at(
            (self.address(KNIFE, "finish/etch"), "Cycles"),
            (self.address(KNIFE, "finish/fit-up"), "What is fitted"),
            (self.address(KNIFE, "finish/edge"), "Edge and test"),
            (self.address(KNIFE, "finish/wrong"), "What went wrong?"),
            (self.address("Withy knife", "build"), "Begin the build"),
        )


class BuildTests(EveryPlaceCase):
    book = True

    def test_the_pages_of_a_build(self) -> None:
        self.sign_in()
        half, done = (Build.objects.get(title=title).pk for title in ("Eel splitter", KNIFE))
        self.page.goto(f"{self.live_server_url}/build/{half}/sheet")
        expect(self.page.get_by_role("heading", name="Draw out")).to_be_visible()
        self.look("sheet")
        self.at(
            (f"/build/{half}/log", "The bar is 8 mm too short"),
            (f"/build/{half}/finish", "What went wrong"),
            (f"/build/{done}/sum", "Grade"),
            (f"/build/{done}/finish", "The last day"),
            (f"/build/{done}/photos", "Photos"),
            (f"/build/{done}/sheet/blade%3Asharpen", "Tests of the edge"),
        )

    def test_the_book(self) -> None:
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/book")
        self.screen().quiet()
        self.look("book")
        self.at(("/book?show=orders", "New order"), ("/book?show=learned", "finish grind and sanding"), ("/bench", "Going on"))


class ShopTests(EveryPlaceCase):
    def test_the_door_and_the_places_of_the_shop(self) -> None:
        self.page.goto(self.live_server_url)
        expect(self.page.get_by_role("button", name="Enter the demo shop")).to_be_visible()
        self.look("sign-in")
        self.enter()
        self.look("bench")
        self.page.keyboard.press("?")
        expect(self.page.get_by_role("heading", name="How it works")).to_be_visible()
        self.look("keys")
        self.page.keyboard.press("Escape")
        self.at(
            ("/steels", "1084"),
            ("/steels?show=numbers", "Numbers of your shop"),
            ("/pairing", "Contrast"),
            ("/rack", "Rack"),
            ("/baths", "Mix a bath"),
            ("/shop", "A code of your phone"),
        )

    def test_looks_practice_and_help(self) -> None:
        self.enter()
        self.at(
            ("/compare", "Side by side"),
            ("/compare/suits", "Make a thousand of each"),
            ("/looks", "Search"),
            ("/practice", "Practice"),
            ("/practice/new/core_centred?seed=1", "Test etch, 8 min"),
            ("/practice/new/sums?seed=1", "That is it"),
            ("/help", "Help"),
            ("/help?word=relief", "Relief"),
        )


class UnitsTests(BrowserCase):
    """In inches, Fahrenheit and ounces nothing speaks millimetres, Celsius or grams."""

    METRIC = r"\d ?(?:mm\b|°?C\b(?!°)|µm|g\b|kg\b)"

    def test_everything_speaks_the_users_units(self) -> None:
        self.open(KNIFE)
        self.screen().units(length="inch, 0.25", temperature="°F", weight="oz, lb")
        self.screen().quiet()
        found: list[object] = []
        for design in (KNIFE, OFF):
            self.walk(self.address(design))
            self.settled()
            for chosen in ("start", "0", "1", "blade"):
                self.bar(chosen).click()
                self.screen().quiet()
                found += self.metric(f"{design}, {chosen}")
            for place in ("stock/piles", "stock/cuts", "stock/time", "heat/fires", "heat/hardening", "grind/line", "grind/edge"):
                self.walk(self.address(design, place))
                expect(self.page.locator(".animate-pulse")).to_have_count(0)
                found += self.metric(f"{design}, {place}")
        self.assertEqual(found, [])

    def metric(self, where: str) -> list[object]:
        said: list[str] = self.page.evaluate(
            """(p) => document.body.innerText.split('\\n').filter(l => new RegExp(p).test(l)).map(l => l.slice(0, 160))""", self.METRIC
        )
        return [(where, line) for line in said]


class TabletTests(BrowserCase):
    viewport = (1024, 768)

    def test_all_of_design_fits_a_tablet(self) -> None:
        self.open(KNIFE)
        for picture in ("Left face of the blade as", "Right face of the blade as", "Face of the bar ground"):
            expect(self.page.get_by_role("img", name=picture)).to_be_in_viewport()
        expect(self.page.get_by_role("img", name="End grain", exact=True)).to_be_in_viewport()
        expect(self.page.get_by_label("What it comes to")).to_be_in_viewport()
        # every way to look, and the larger look, is within reach: on the blade, which has the most of them, too
        for chosen in ("blade", 3):
            self.bar(chosen).click()
            ways = self.page.get_by_role("tablist", name="Ways to look").get_by_role("tab")
            for way in [*ways.all(), self.page.get_by_role("button", name="Look larger")]:
                expect(way).to_be_in_viewport(ratio=1)
        expect(self.page.get_by_text("One turn in").locator("visible=true")).to_be_visible()
        # and all of the plan goes on paper
        bars = self.screen().bars()
        self.page.emulate_media(media="print")
        plan = self.page.get_by_label("The whole plan")
        expect(plan).to_be_visible()
        expect(plan.get_by_role("listitem")).to_have_count(bars - 1)
        self.page.emulate_media(media="screen")
        # a narrow window works too
        self.page.set_viewport_size({"width": 480, "height": 900})
        turns = self.page.get_by_label("Turns", exact=True)
        turns.scroll_into_view_if_needed()
        with self.face_changes():
            turns.fill("3")
            turns.press("Enter")
        self.page.get_by_role("link", name="To the bench").click()
        expect(self.page.get_by_role("heading", name="On the bench")).to_be_visible()
