"""A wanted look searched for in the real browser, its answers judged and opened; which design suits one's hand; by keys, on a phone."""

import re
from unittest import mock

from playwright.sync_api import expect

from tests.e2e.base import BrowserCase
from varistrat.core.looks import search
from varistrat.jobs.models import Job
from varistrat.jobs.services import runner


class LooksTests(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        for name, few in {"ANSWERS": 4, "GENERATIONS": 1, "CLIMBED": 1, "MOST_DETAILED": 8}.items():
            patch = mock.patch.object(search, name, few)
            patch.start()
            self.addCleanup(patch.stop)

    def work(self, lane: str) -> None:
        """What the worker would do, here."""
        self.until(lambda: Job.objects.filter(lane=lane, state=Job.State.WAITING).exists())
        job = Job.objects.get(lane=lane, state=Job.State.WAITING)
        if "ask" in job.input:
            # a walk of a thousand faces shows nothing more of the page than one of sixty
            self.faces = job.input["ask"]["faces"]
            job.input["ask"]["faces"] = 64
            job.save(update_fields=["input"])
        with mock.patch("varistrat.jobs.kinds.looks.MANY_SMALL", "threads"):
            self.assertIsNotNone(runner.run_next(lane))

    def test_from_faces_along_a_scale_to_a_design(self) -> None:
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/looks")
        wanted = self.page.get_by_role("region", name="What is wanted")
        expect(wanted.get_by_text("does not matter").first).to_be_visible()
        go = self.page.get_by_role("button", name="Search")
        expect(go).to_be_disabled()
        wanted.get_by_role("button", name=re.compile("Width of the bands: bold")).click()
        expect(wanted.get_by_role("region", name="Width of the bands")).to_contain_text("bold (")
        slant = wanted.get_by_role("slider", name=re.compile("Run of the lines"))
        slant.focus()
        slant.press("ArrowRight")
        expect(wanted.get_by_role("region", name="Run of the lines")).not_to_contain_text("does not matter")
        wanted.get_by_role("radio", name="just so").last.click()
        self.page.get_by_text("Tools, steels and limits").click()
        for tool in ("twisted", "sawn", "milled", "drilled", "welded shut"):
            self.page.get_by_role("switch", name=re.compile(tool)).click()
        self.page.get_by_role("switch", name="Thorough").click()
        go.click()
        self.work("long")
        near = self.page.get_by_role("region", name="What comes near")
        expect(near.get_by_text(re.compile("^short 1 in|short 1 in")).first).to_be_visible()
        self.assertEqual(near.get_by_role("img").count(), 4)
        asked = Job.objects.get().input["ask"]
        self.assertEqual({w["feature"]: w["sure"] for w in asked["wants"]}, {"width": "near", "slant": "exactly"})
        self.assertEqual(self.faces, 1024)
        # judged, left and found again as it was asked
        near.get_by_role("button", name="More like this").first.click()
        near.get_by_role("button", name="Not like this").last.click()
        expect(near.get_by_text("1 liked, 1 not")).to_be_visible()
        near.get_by_role("button", name="Search again").click()
        self.work("long")
        expect(near.get_by_role("button", name="Search again")).to_be_enabled()
        again = Job.objects.first()
        assert again
        self.assertEqual((len(again.input["ask"]["liked"]), len(again.input["ask"]["disliked"])), (1, 1))
        self.page.reload()
        expect(self.page.get_by_role("region", name="Width of the bands")).to_contain_text("bold (")
        expect(near.get_by_text("1 liked, 1 not")).to_be_visible()
        near.get_by_role("button", name="Open as a design").first.click()
        expect(self.page).to_have_url(re.compile("/design/"))
        expect(self.page.get_by_role("figure", name=re.compile("End grain")).first).to_be_visible()

    def test_a_design_as_what_is_wanted_and_on_a_phone(self) -> None:
        self.sign_in()
        self.page.set_viewport_size({"width": 390, "height": 844})
        self.page.goto(f"{self.live_server_url}/looks?design={self.some_design()}")
        expect(self.page.get_by_text("does not matter")).to_have_count(0)
        wide = self.page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(wide, 390)
        self.page.get_by_role("button", name="Contrast does not matter").click()
        expect(self.page.get_by_text("does not matter")).to_have_count(1)
        self.page.get_by_role("button", name="Begin anew").click()
        expect(self.page.get_by_text("does not matter")).to_have_count(11)

    def some_design(self) -> int:
        from varistrat.designs.models import Design

        return Design.objects.exclude(name__contains="aminate").earliest("pk").pk

    def test_which_design_suits(self) -> None:
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/compare")
        self.page.get_by_role("link", name="Which suits my hand?").click()
        self.page.get_by_role("button", name="Make a thousand of each").click()
        self.work("short")
        table = self.page.get_by_role("table", name="Chance of first grade of each design")
        expect(table).to_be_visible()
        expect(self.page.get_by_role("status").filter(has_text="of 100 first grade")).to_be_visible()
        before = table.inner_text()
        slider = self.page.get_by_role("slider")
        slider.focus()
        for _ in range(3):
            slider.press("ArrowLeft")
        expect(self.page.get_by_text("0.25 times usual")).to_be_visible()
        self.assertNotEqual(table.inner_text(), before)
        self.screen().quiet()
        # by its name: what is still being made comes in between
        last = table.get_by_role("button").last.inner_text()
        name = table.get_by_role("button", name=last, exact=True)
        drawn = name.get_attribute("aria-pressed")
        name.press("Enter")
        expect(name).to_have_attribute("aria-pressed", "false" if drawn == "true" else "true")
        # none chosen is none drawn
        for one in table.get_by_role("button").all():
            if one.get_attribute("aria-pressed") == "true":
                one.press("Enter")
        expect(table.get_by_role("button", pressed=True)).to_have_count(0)
