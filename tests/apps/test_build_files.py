"""Photos of a build, and builds as files: only their shop's, each once, out and in again; never more than is kept."""

import io
import json
import shutil
import tempfile
import zipfile
from pathlib import Path
from typing import Any
from unittest.mock import patch
from uuid import uuid4

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import override_settings

from tests.api.test_api import HTTP
from tests.apps.test_builds import BuildsCase
from tests.core.test_photo_intake import photo
from tests.people import member, signed_in
from varistrat.builds import selectors
from varistrat.builds.models import Build, Photo, Record
from varistrat.builds.services import begin as beginning
from varistrat.builds.services import photos, portable
from varistrat.core.build.state import state_of
from varistrat.core.errors import InputError
from varistrat.core.shop import AS_SHIPS


class FilesCase(BuildsCase):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.mkdtemp()
        self.addCleanup(shutil.rmtree, folder)
        self.folder = Path(folder)
        settings = override_settings(PHOTOS_DIR=self.folder)
        settings.enable()
        self.addCleanup(settings.disable)
        self.build = self.begin()


class PhotoTests(FilesCase):
    def test_taken_once_and_kept_for_its_owner_only(self) -> None:
        uid = uuid4()
        for _ in range(2):
            kept = photos.take(actor=self.smith, build=self.build, uid=uid, data=photo())
        self.assertEqual((Photo.objects.count(), kept.width), (1, 80))
        files = sorted(p for p in self.folder.rglob("*") if p.is_file())
        self.assertEqual(len(files), 2)
        self.assertEqual({oct(p.stat().st_mode & 0o777) for p in files}, {"0o600"})

    def test_what_is_no_photo_leaves_nothing(self) -> None:
        with self.assertRaises(InputError):
            photos.take(actor=self.smith, build=self.build, uid=uuid4(), data=b"nothing")
        self.assertEqual((Photo.objects.count(), [p for p in self.folder.rglob("*") if p.is_file()]), (0, []))

    def test_no_more_than_a_build_keeps(self) -> None:
        photos.take(actor=self.smith, build=self.build, uid=uuid4(), data=photo())
        with patch.object(photos, "MOST_PHOTOS", 1), self.assertRaises(InputError):
            photos.take(actor=self.smith, build=self.build, uid=uuid4(), data=photo())

    def test_gone_with_its_build(self) -> None:
        photos.take(actor=self.smith, build=self.build, uid=uuid4(), data=photo())
        beginning.take_away(actor=self.smith, build=self.build)
        self.assertEqual([p for p in self.folder.rglob("*") if p.is_file()], [])

    def test_over_http_for_its_own_shop(self) -> None:
        mine, other = signed_in(self.smith, **HTTP), signed_in(member("other"), **HTTP)
        path = f"/api/builds/{self.build.pk}/photos/{uuid4()}"

        def send(client: Any, body: bytes) -> Any:
            return client.post(path, {"file": SimpleUploadedFile("x.jpg", body, "image/jpeg")})

        self.assertEqual(send(other, photo()).status_code, 404)
        self.assertEqual(send(mine, b"no").json()["problems"][0]["wrong"], "it is no photo that can be read here")
        self.assertEqual(send(mine, photo()).json()["width"], 80)
        for query in ("", "?small=true"):
            shown = mine.get(f"{path}/photo.jpg{query}")
            self.assertEqual((shown.status_code, shown["Content-Type"]), (200, "image/jpeg"))
            self.assertIn("private", shown["Cache-Control"])
            self.assertEqual(other.get(f"{path}/photo.jpg{query}").status_code, 404)
        self.assertEqual(mine.get(f"/api/builds/{self.build.pk}/photos/{uuid4()}/photo.jpg").status_code, 404)
        self.assertEqual(mine.get(f"/api/builds/{self.build.pk}/photos/..%2F..%2Fsecret-key/photo.jpg").status_code, 404)


class FileTests(FilesCase):
    def full(self) -> bytes:
        uid = uuid4()
        photos.take(actor=self.smith, build=self.build, uid=uid, data=photo())
        cut, weld = self.op(self.build, "cut_stock"), self.op(self.build, "fire")
        self.write(
            self.build,
            self.entry(cut, "done", 1, minutes=12.0),
            self.entry(cut, "photo", 2, photo=str(uid), caption="all nine"),
            self.entry(weld, "measured", 3, quantity="thickness", value=28.4),
        )
        said = {"id": str(uuid4()), "at": "2026-05-18T10:00:00+00:00"}
        beginning.amend(actor=self.smith, build=self.build, worked=self.worked, why="as it was", entry=said)
        self.build.refresh_from_db()
        return portable.write_file(self.build)

    def test_out_and_in_again(self) -> None:
        data, other = self.full(), member("other")
        build = portable.read_file(actor=other, data=data, shop=AS_SHIPS)
        self.assertEqual((build.shop, build.title, build.uid, build.current), (other.shop, "Eel splitter", self.build.uid, 2))
        self.assertEqual(state_of(selectors.entries_of(build)), state_of(selectors.entries_of(self.build)))
        self.assertEqual([p.operations for p in selectors.plans_of(build)], [p.operations for p in selectors.plans_of(self.build)])
        (one,) = Photo.objects.filter(build=build)
        self.assertTrue(photos.file_of(build, one.uid).is_file())
        self.assertEqual(build.summary["done"], 1)

    def test_the_same_twice_adds_nothing_and_what_is_lacking_is_added(self) -> None:
        other = member("other")
        early = portable.write_file(self.build)
        portable.read_file(actor=other, data=early, shop=AS_SHIPS)
        late = self.full()
        for _ in range(2):
            build = portable.read_file(actor=other, data=late, shop=AS_SHIPS)
        self.assertEqual((Build.objects.filter(shop=other.shop).count(), build.records.count(), build.photos.count()), (1, 4, 1))
        self.assertEqual(build.current, 2)

    def changed(self, **more: Any) -> bytes:
        out = io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(portable.write_file(self.build))) as z:
            told = json.loads(z.read("build.json")) | more
        with zipfile.ZipFile(out, "w") as z:
            z.writestr("build.json", json.dumps(told))
        return out.getvalue()

    def test_half_a_sign_is_refused(self) -> None:
        other = member("other")
        for said in ({"title": "Eel \ud800"}, {"who": "\udfff"}):
            with self.assertRaisesRegex(InputError, "half of a sign"):
                portable.read_file(actor=other, data=self.changed(**said), shop=AS_SHIPS)
        self.assertEqual(Build.objects.filter(shop=other.shop).count(), 0)

    def test_what_is_wrong_is_told_and_nothing_is_kept(self) -> None:
        self.write(self.build, self.entry(self.op(self.build, "cut_stock"), "done", 1))
        other = member("other")
        empty = io.BytesIO()
        zipfile.ZipFile(empty, "w").close()
        wrong = {
            b"no zip": "file",
            empty.getvalue(): "file",
            self.changed(format="varistrat.build/9"): "format",
            self.changed(uid="17"): "uid",
            self.changed(due="tomorrow"): "uid",
            self.changed(plans=[]): "plans",
            self.changed(plans="x"): "plans",
            self.changed(plans=[{"document": {"recipe": {}}, "operations": []}]): "plans[0].document",
            self.changed(entries=[{"id": "x"}]): "entries",
            self.changed(photos=["../../secret-key"]): "photos",
        }
        for data, where in wrong.items():
            with self.assertRaises(InputError) as caught:
                portable.read_file(actor=other, data=data, shop=AS_SHIPS)
            self.assertTrue(caught.exception.problems[0].path.startswith(where), (where, caught.exception.problems))
        self.assertFalse(Build.objects.filter(shop=other.shop).exists())
        self.assertFalse(Record.objects.filter(build__shop=other.shop).exists())

    def test_a_bomb_is_not_unpacked(self) -> None:
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as z:
            z.writestr("build.json", b"0" * 30_000_000)
        with self.assertRaisesMessage(InputError, "larger than a build"):
            portable.read_file(actor=self.smith, data=out.getvalue(), shop=AS_SHIPS)

    def with_photo(self, body: bytes, count: int = 1) -> bytes:
        ids = [str(uuid4()) for _ in range(count)]
        out = io.BytesIO(self.changed(photos=ids))
        with zipfile.ZipFile(out, "a", zipfile.ZIP_DEFLATED) as z:
            for uid in ids:
                z.writestr(f"photos/{uid}.jpg", body)
        return out.getvalue()

    def test_only_photos_as_they_are_kept_here_come_back(self) -> None:
        """Nobody's reader of photos is held up by a file of forty pictures that nobody took."""
        other = member("other")
        for body in (photo(kind="PNG"), photo((3700, 20)), b"no photo"):
            with self.assertRaisesMessage(InputError, "none that was kept here"):
                portable.read_file(actor=other, data=self.with_photo(body), shop=AS_SHIPS)
        large = self.with_photo(b"0" * 8_000_001)
        with (
            patch("varistrat.builds.services.portable.read_apart", side_effect=AssertionError("looked at")),
            self.assertRaisesMessage(InputError, "larger than photos"),
        ):
            portable.read_file(actor=other, data=large, shop=AS_SHIPS)
        with patch.object(portable, "MOST_PIXELS", 80 * 60 * 2), self.assertRaisesMessage(InputError, "million pixels"):
            portable.read_file(actor=other, data=self.with_photo(photo(), 3), shop=AS_SHIPS)
        self.assertFalse(Build.objects.filter(shop=other.shop).exists())
        self.assertEqual(portable.read_file(actor=other, data=self.with_photo(photo(), 2), shop=AS_SHIPS).photos.count(), 2)

    def test_over_http(self) -> None:
        data = self.full()
        mine, other = signed_in(self.smith, **HTTP), signed_in(member("other"), **HTTP)
        self.assertEqual(other.get(f"/api/builds/{self.build.pk}/file.zip").status_code, 404)
        saved = mine.get(f"/api/builds/{self.build.pk}/file.zip")
        self.assertEqual(zipfile.ZipFile(io.BytesIO(saved.content)).testzip(), None)
        made = other.post("/api/builds/file.zip", {"file": SimpleUploadedFile("x.zip", data)})
        self.assertEqual((made.status_code, made.json()["title"]), (201, "Eel splitter"))
