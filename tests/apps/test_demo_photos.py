"""The demo's photos: what the knife was made to differ by is what is read off them."""

import tempfile
from uuid import UUID

from django.test import TestCase, override_settings

from varistrat.builds.models import Build
from varistrat.builds.selectors import made
from varistrat.builds.services.photos import open_photo
from varistrat.core.laminate.photo import Mark
from varistrat.core.photo.bench import OnBench
from varistrat.core.photo.fit import fit_photo
from varistrat.core.photo.flat import grey_of, to_mark
from varistrat.demo.shop import load_demo
from varistrat.designs.services.predict import executor
from varistrat.shop.services.own import shop_data


class DemoPhotoTests(TestCase):
    def test_what_is_planted_is_read(self) -> None:
        with tempfile.TemporaryDirectory() as folder, override_settings(DEMO=True, PHOTOS_DIR=folder):
            load_demo(True)
            build = Build.objects.get(title="Sedge knife, bold twist")
            entry = next(r.data for r in build.records.all() if str(r.data.get("caption", "")).startswith("right"))
            grey = grey_of(open_photo(build, UUID(entry["photo"]), small=False).read_bytes())
        worked = made(build, shop_data(build.shop)).worked
        bench = OnBench(worked, "right", executor())
        marks = [Mark(*bench.seen_at(x, y), x, y) for _, x, y in to_mark(worked.blade.geometry.curves)]
        found = fit_photo(worked, "right", grey, marks)
        self.assertGreater(found.like, 0.95)
        told = {n.number.name: n.change for n in found.numbers if n.differs}
        self.assertAlmostEqual(told["ground"], 0.31, delta=0.02)
        self.assertAlmostEqual(told["turns"], -0.04, delta=0.002)
        self.assertAlmostEqual(told["phase"], 14.0, delta=2.0)
