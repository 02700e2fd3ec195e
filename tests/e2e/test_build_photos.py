"""Photos of a build in the real browser: taken, laid over the prediction, read, taken over."""

import io
import re
from uuid import uuid4

import numpy as np
from PIL import Image
from playwright.sync_api import expect

from tests.core.photos import photo_of
from tests.e2e.test_build import BuildCase
from varistrat.builds.models import Build, Photo, Record
from varistrat.builds.selectors import made, plans_of
from varistrat.builds.services import photos
from varistrat.builds.services.log import write
from varistrat.core.photo.intake import taken_in
from varistrat.shop.models import Membership
from varistrat.shop.services.own import shop_data


class PhotoTests(BuildCase):
    """A photo laid over the prediction, read, and taken over."""

    def setUp(self) -> None:
        super().setUp()
        self.build = Build.objects.get(title="Sedge knife, bold twist")
        actor = Membership.objects.get(user__username="quillet-dyke")
        worked = made(self.build, shop_data(actor.shop)).worked
        self.made_up = photo_of(worked, "right", {"ground": 0.3}, np.random.default_rng(4), px=900)
        uid = uuid4()
        photos.keep(actor=actor, build=self.build, uid=uid, taken=taken_in(self.made_up.jpeg))
        entry = {"id": str(uuid4()), "kind": "photo", "photo": str(uid), "caption": "on the bench"}
        entry["op"] = plans_of(self.build)[-1].operations[-1].id
        entry["at"] = Record.objects.filter(build=self.build).order_by("pk").last().data["at"]  # type: ignore[union-attr]
        self.assertEqual(write(actor=actor, build=self.build, entries=[entry]).refused, [])

    def mark(self) -> None:
        picture = self.page.get_by_role("button", name=re.compile("^Photo: mark"))
        expect(picture).to_have_attribute("aria-busy", "false")
        wide = picture.locator("img").evaluate("e => e.naturalWidth")
        at = {(round(m.x, 1), round(m.y, 1)): m for m in self.made_up.marks}
        told = self.page.evaluate(f"fetch('/api/builds/{self.build.pk}/face-to-mark?side=right').then(a => a.json())")
        for place in told["marks"]:
            m = at[round(place["x"], 1), round(place["y"], 1)]
            box = picture.bounding_box()
            assert box
            scale = box["width"] / wide
            picture.click(position={"x": m.px * scale, "y": m.py * scale})

    def test_laid_over_the_prediction_read_and_taken_over(self) -> None:
        self.sign_in()
        self.go("Sedge knife, bold twist", "photos")
        self.page.get_by_role("button", name="on the bench").click()
        expect(self.page.get_by_role("status").filter(has_text="Click on the heel at the edge")).to_be_visible()
        self.mark()
        expect(self.page.get_by_role("img", name="right face, as it should be")).to_be_visible()
        for how in ("split", "blink", "difference", "both"):
            self.page.get_by_role("radio", name=how).click()
            expect(self.page.get_by_role("img", name="right face, as it is")).to_be_attached()
        # on a phone nothing of it lies beyond the edge
        self.page.set_viewport_size({"width": 390, "height": 844})
        for name in ("right face, as it is", "right face, as it should be"):
            box = self.page.get_by_role("img", name=name).bounding_box()
            assert box
            self.assertLessEqual(box["x"] + box["width"], 390, name)
        self.page.set_viewport_size({"width": 1280, "height": 800})
        self.page.get_by_role("checkbox", name=re.compile("^Turn")).first.uncheck()
        self.page.get_by_role("button", name="Read it off the photo").click()
        expect(self.page.get_by_text(re.compile(r"ground 0\.\d\d mm deeper than planned"))).to_be_visible()
        self.page.get_by_role("button", name="Take over into this build").click()
        expect(self.page.get_by_text("The design of this build is now as the photo shows it.")).to_be_visible()
        plan = plans_of(self.build)[-1]
        self.assertAlmostEqual(plan.document["blade"]["errors"]["uneven"], 0.6, delta=0.12)
        self.page.get_by_role("link", name="Sum-up").click()
        expect(self.page.get_by_text("as the photo of the right face shows it")).to_be_visible()

    def test_as_a_wanted_look(self) -> None:
        self.sign_in()
        self.go("Sedge knife, bold twist", "photos")
        self.page.get_by_role("button", name="on the bench").click()
        self.mark()
        self.page.get_by_role("button", name="Search for this look").click()
        expect(self.page).to_have_url(re.compile("/looks"))
        # its shape is wanted; its tones are those of its light, and how like the sides are one photo does not tell
        for title in ("How much is bright", "Contrast", "Left and right alike"):
            expect(self.page.get_by_role("region", name=title)).to_contain_text("does not matter")
        expect(self.page.get_by_role("region", name="Run of the lines")).not_to_contain_text("does not matter")
        expect(self.page.get_by_role("button", name="Search", exact=True)).to_be_enabled()

    def test_marked_by_the_keyboard_and_no_photo_at_all(self) -> None:
        self.sign_in()
        self.go("Sedge knife, bold twist", "photos")
        self.page.get_by_role("button", name="on the bench").click()
        picture = self.page.get_by_role("button", name=re.compile("^Photo: mark the heel at the edge"))
        expect(picture).to_have_attribute("aria-busy", "false")
        picture.focus()
        for key in ("ArrowLeft", "ArrowDown", "Enter"):
            self.page.keyboard.press(key)
        expect(self.page.get_by_role("status").filter(has_text="2. Click on the heel at the spine")).to_be_visible()
        self.page.get_by_role("button", name="Take the last mark back").click()
        expect(self.page.get_by_role("status").filter(has_text="1. Click on the heel at the edge")).to_be_visible()
        self.go("Marsh star for the fair", "photos")
        expect(self.page.get_by_role("heading", name="No photos of this build yet")).to_be_visible()


class TakingTests(BuildCase):
    """A photo taken at an operation: from a file, by the camera, without network; refused."""

    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def photograph(self) -> None:
        out = io.BytesIO()
        Image.new("RGB", (900, 600), (120, 60, 30)).save(out, "JPEG")
        self.page.get_by_label("Photo of this operation").set_input_files(
            {"name": "weld.jpg", "mimeType": "image/jpeg", "buffer": out.getvalue()}
        )

    def test_a_photo_taken_looked_at_and_refused(self) -> None:
        build = self.go("Eel splitter")
        expect(self.page.get_by_role("heading", name="Draw out")).to_be_visible()
        self.photograph()
        thumb = self.page.get_by_role("list", name="Photos").get_by_role("button")
        expect(thumb).to_have_count(1)
        self.kept()
        self.assertEqual(Photo.objects.filter(build=build).count(), 1)
        self.page.reload()
        thumb.click()
        shown = self.page.get_by_role("dialog").get_by_role("img")
        expect(shown).to_be_visible()
        self.assertEqual(shown.evaluate("async (i) => { await i.decode(); return [i.naturalWidth, i.naturalHeight] }"), [900, 600])
        self.page.keyboard.press("Escape")
        self.page.get_by_label("Photo of this operation").set_input_files(
            {"name": "x.jpg", "mimeType": "image/jpeg", "buffer": b"no photo at all"}
        )
        self.page.get_by_role("button", name="1 not taken").click()
        expect(self.page.get_by_text("it is no photo that can be read here")).to_be_visible()
        self.page.get_by_role("button", name="Let it go").click()
        self.kept()

    def test_a_picture_taken_by_this_machines_camera(self) -> None:
        build = self.go("Eel splitter")
        photo = self.page.get_by_role("button", name="Photo", exact=True)
        photo.click()
        box = self.page.get_by_role("dialog", name="Photo")
        box.get_by_role("button", name="Take it").click()
        expect(box.get_by_alt_text("What was taken")).to_be_visible()
        # seen before it counts
        self.assertEqual(Photo.objects.filter(build=build).count(), 0)
        box.get_by_role("button", name="Take another").click()
        box.get_by_role("button", name="Take it").click()
        box.get_by_role("button", name="Keep it").click()
        expect(box).to_have_count(0)
        kept = self.page.get_by_role("list", name="Photos").get_by_role("button")
        expect(kept).to_have_count(1)
        self.kept()
        self.assertEqual(Photo.objects.filter(build=build).count(), 1)
        # the demo has one that stands in for it
        photo.click()
        box.get_by_role("button", name="Made-up left face").click()
        expect(box.get_by_alt_text("What was taken")).to_be_visible()
        box.get_by_role("button", name="Keep it").click()
        expect(kept).to_have_count(2)
        self.kept()
        self.assertEqual(Photo.objects.filter(build=build).count(), 2)
        # refused, it is said, and a file still taken
        self.page.evaluate(
            "() => { navigator.mediaDevices.getUserMedia = () => Promise.reject(new DOMException('no', 'NotAllowedError')) }"
        )
        self.page.get_by_role("button", name="Photo", exact=True).click()
        expect(box.get_by_text("may not use the camera")).to_be_visible()
        expect(box.get_by_role("button", name="Take it")).to_be_disabled()
        with self.page.expect_file_chooser():
            box.get_by_role("button", name="Choose a file").click()
        self.photograph()
        expect(box).to_have_count(0)
        expect(self.page.get_by_role("list", name="Photos").get_by_role("button")).to_have_count(3)
        self.kept()
        self.assertEqual(Photo.objects.filter(build=build).count(), 3)

    def test_a_photo_waits_with_its_entry(self) -> None:
        build = self.go("Eel splitter")
        expect(self.page.get_by_role("heading", name="Draw out")).to_be_visible()
        self.context.set_offline(True)
        self.photograph()
        expect(self.page.get_by_role("status", name="Kept or waiting")).to_have_text("kept on this tablet, 1 waiting")
        expect(self.page.get_by_role("list", name="Photos").get_by_role("img")).to_have_attribute("src", re.compile("^blob:"))
        self.context.set_offline(False)
        self.kept()
        self.assertEqual((Photo.objects.filter(build=build).count(), self.kinds(build)[-1]), (1, "photo"))
