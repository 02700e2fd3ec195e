"""What the page carries: the API's own answers, to this asker alone, and nothing that could end the script element it stands in."""

import json
import re
from typing import Any
from unittest import mock

from django.test import Client, TestCase

from tests.api.test_api import DOCUMENT
from tests.people import member, signed_in
from varistrat.core.design.document import read_document
from varistrat.designs.services.keep import create_design
from varistrat.shop.models import Membership, Role
from varistrat.shop.services import own
from varistrat.site import first, page

BUILT = {"index.html": {"file": "assets/index.js"}}


class FirstAnswersTests(TestCase):
    def setUp(self) -> None:
        self.us, self.them = member("ida"), member("oke")
        self.enterContext(mock.patch.object(page, "_manifest", lambda _: BUILT))

    def carried(self, client: Client, path: str) -> dict[str, Any]:
        said = client.get(path)
        self.assertEqual(said.status_code, 200)
        self.assertIn("no-store", said.headers["Cache-Control"])
        found = re.findall(r'<script type="application/json" data-answers="([^"]*)">(.*?)</script>', said.content.decode(), re.S)
        return {address: json.loads(body) for address, body in found}

    def make(self, who: Membership, name: str = "Reed knife") -> int:
        return create_design(actor=who, document=read_document(DOCUMENT), name=name).pk

    def test_the_bench_carries_what_the_api_says(self) -> None:
        self.make(self.us)
        client = signed_in(self.us)
        carried = self.carried(client, "/bench")
        self.assertEqual(set(carried), {"/api/session", "/api/designs", "/api/designs/bin"})
        for address, answer in carried.items():
            self.assertEqual(answer, client.get(address).json(), address)
        self.assertEqual(self.carried(client, "/"), carried)

    def test_a_design_is_carried_to_its_own_shop_only(self) -> None:
        made = self.make(self.us)
        helper = signed_in(member("ann", Role.HELPER, self.us.shop))
        for path in (f"/design/{made}", f"/design/{made}/heat/fires"):
            self.assertEqual(self.carried(helper, path)[f"/api/designs/{made}"]["name"], "Reed knife")
            self.assertEqual(set(self.carried(signed_in(self.them), path)), {"/api/session"})
        self.assertEqual(self.carried(signed_in(self.them), "/bench")["/api/designs"], [])

    def test_a_design_is_read_with_the_shops_own_steels(self) -> None:
        key = "sluice"
        own.set_steel(actor=self.us, key=key, figures={"name": "Sluice iron", "composition": {"C": 0.7, "Mn": 0.6}}, new=True)
        document = json.loads(json.dumps(DOCUMENT).replace('"1084"', f'"{key}"'))
        made = create_design(actor=self.us, document=read_document(document, own.shop_data(self.us.shop)), name="Own").pk
        client = signed_in(self.us)
        carried = self.carried(client, f"/design/{made}")[f"/api/designs/{made}"]
        self.assertEqual(carried, client.get(f"/api/designs/{made}").json())
        self.assertEqual(carried["problems"], [])

    def test_who_is_not_signed_in_is_told_only_that(self) -> None:
        made = self.make(self.us)
        for path in ("/bench", f"/design/{made}", "/"):
            carried = self.carried(Client(), path)
            self.assertEqual({k: v["user"] for k, v in carried.items()}, {"/api/session": None})

    def test_no_name_ends_the_script(self) -> None:
        bad = "</script><script>alert(1)</script><!-- & \u2028"
        made = self.make(self.us, bad)
        client = signed_in(self.us)
        self.assertEqual(self.carried(client, "/bench")["/api/designs"][0]["name"], bad)
        self.assertEqual(client.get(f"/design/{made}").content.count(b"<script"), client.get("/steels").content.count(b"<script") + 1)

    def test_nonsense_in_the_address_carries_nothing(self) -> None:
        client = signed_in(self.us)
        for path in (
            "/design",
            "/design/",
            "/design/9999",
            "/design/x",
            '/design/"><script>',
            "/design/{id}",
            "/design/../designs",
            "/steels",
        ):
            self.assertEqual(set(self.carried(client, path)), {"/api/session"}, path)

    def test_what_is_too_long_is_fetched(self) -> None:
        self.make(self.us)
        with mock.patch.object(first, "MOST", 100):
            self.assertEqual(set(self.carried(signed_in(self.us), "/bench")), {"/api/designs/bin"})
