"""Who may what: every route, every role, and people of another shop. The table below is the policy; the routes must agree with it."""

import json
from datetime import date
from typing import Any
from uuid import uuid4

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from django.test import Client, TestCase

from tests.api.test_api import DOCUMENT, HTTP, PROGRAM, ROUTES
from tests.described import described
from tests.people import member, signed_in
from tests.profile import THOROUGH
from varistrat.builds.services import orders
from varistrat.builds.services.begin import begin
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.etch.bath import Bath
from varistrat.core.kiln.plant import Load
from varistrat.core.kiln.program import Program
from varistrat.core.rack.item import RackItem
from varistrat.core.reading import parse
from varistrat.designs.services import keep
from varistrat.finishing import services as finishing
from varistrat.jobs.kinds.print_face import PrintOrder
from varistrat.jobs.models import JobFile
from varistrat.jobs.services import ordering
from varistrat.kiln import services as kiln
from varistrat.practice import services as practice
from varistrat.rack import services as rack
from varistrat.shop.models import Role
from varistrat.shop.services import people

OWNERS = {
    "patch /api/shop",
    "put /api/shop/people/{person_id}",
    "delete /api/shop/people/{person_id}",
    "post /api/shop/invites",
    "delete /api/shop/invites/{invite_id}",
}
SMITHS = {
    "put /api/steels/{key}",
    "post /api/steels",
    "delete /api/steels/{key}",
    "post /api/steels/csv",
    "put /api/steels-in-use",
    "post /api/steels/{key}/bring-back",
    "put /api/figures/{key}",
    "put /api/hands/{method}",
    "post /api/designs",
    "post /api/designs/import",
    "put /api/designs/{design_id}",
    "patch /api/designs/{design_id}",
    "delete /api/designs/{design_id}",
    "post /api/designs/{design_id}/restore",
    "post /api/designs/{design_id}/copy",
    "delete /api/designs/bin/{design_id}",
    "post /api/designs/{design_id}/revisions/{number}/bring-back",
    "post /api/rack/items",
    "patch /api/rack/items/{item_id}",
    "post /api/rack/items/{item_id}/move",
    "post /api/rack/items/{item_id}/begin",
    "post /api/rack/take",
    "post /api/rack/acts/{act}/put-back",
    "post /api/rack/offcuts",
    "post /api/rack/file.csv",
    "post /api/builds",
    "post /api/builds/orders",
    "put /api/builds/orders/{order_id}",
    "post /api/builds/orders/{order_id}/design",
    "patch /api/builds/{build_id}",
    "delete /api/builds/{build_id}",
    "post /api/builds/{build_id}/put-back",
    "post /api/builds/{build_id}/amend",
    "post /api/builds/{build_id}/odd",
    "post /api/builds/file.zip",
    "post /api/finish/baths",
    "patch /api/finish/baths/{bath_id}",
    "post /api/kiln/programs",
    "put /api/kiln/programs/{program_id}",
    "delete /api/kiln/programs/{program_id}",
    "post /api/kiln/runs",
    "post /api/kiln/runs/{run_id}/speed",
    "post /api/kiln/runs/{run_id}/do/{action}",
}
ANYBODY = {
    "get /api/session",
    "post /api/session/sign-in",
    "post /api/session/demo",
    "post /api/session/sign-out",
    "get /api/invites/{token}",
    "post /api/invites/{token}/join",
}
"""All others are for helpers: looking, working out, jobs, and whatever is one's own."""

PHOTO_MARKS = [{"px": x * 5 + 9, "py": 300 - y * 5, "x": x, "y": y} for x, y in ((0, 0), (0, 30), (80, 0), (80, 30))]
ITEM = {"steel": "1084", "width": 40.0, "thickness": 6.0, "length": 1000.0, "count": 3}
BODIES: dict[str, Any] = {
    "post /api/session/password": {"old": "wrong", "password": "wrong as well, but long"},
    "post /api/session/second/begin": {"password": "wrong"},
    "post /api/session/second": {"code": "123456"},
    "post /api/session/second/end": {"password": "wrong"},
    "patch /api/rack/items/{item_id}": {"place": "left"},
    "put /api/builds/orders/{order_id}": {"who": "The ferry", "title": "Line knife"},
    "patch /api/builds/{build_id}": {"who": "The ferry"},
    "post /api/builds/{build_id}/entries": {"entries": []},
    "post /api/builds/{build_id}/odd": {"kind": "sand", "kept": True},
    "post /api/builds/{build_id}/amend": {"id": str(uuid4()), "at": "2026-05-01T10:00:00Z", "document": DOCUMENT, "why": "thinner"},
    "post /api/builds/{build_id}/photos/{uid}/laid": {"marks": PHOTO_MARKS, "side": "right"},
    "post /api/builds/{build_id}/photos/{uid}/fit": {"marks": PHOTO_MARKS, "side": "right"},
    "post /api/looks/measure-photo/{build_id}/{uid}": {"marks": PHOTO_MARKS, "side": "right"},
    "post /api/builds/{build_id}/made-face": {"side": "right"},
    "post /api/builds/{build_id}/take-over": {"side": "right", "changes": {}},
    "patch /api/finish/baths/{bath_id}": {"note": "left of the door"},
    "post /api/practice/{attempt_id}/act": {"after": 0, "action": {"do": "name", "family": "twist"}},
    "post /api/finish/baths/{bath_id}/etched": {"uid": str(uuid4()), "document": DOCUMENT, "minutes": [5]},
    "post /api/rack/items/{item_id}/move": {"do": "bring", "amount": 1},
    "put /api/kiln/programs/{program_id}": PROGRAM,
    "post /api/kiln/runs/{run_id}/speed": {"speed": 60},
    "put /api/shop/people/{person_id}": {"role": "helper"},
    "patch /api/shop": {"name": "Other"},
    "post /api/shop/invites": {"role": "helper"},
}
FILES = {"post /api/builds/{build_id}/photos/{uid}", "post /api/builds/file.zip"}
"""Those that take a file in a form."""


def needed(route: str) -> Role | None:
    if route in ANYBODY:
        return None
    return Role.OWNER if route in OWNERS else Role.SMITH if route in SMITHS else Role.HELPER


def templated(method: str, path: str) -> str:
    for filled, name in (
        ("/1084", "/{key}"),
        ("hands/hammer", "hands/{method}"),
        ("figures/scale_air", "figures/{key}"),
        ("?design={id}", ""),
        ("?candidate=%7B%22family%22%3A%22bias%22%7D&px=64", ""),
        ("{id}", "{design_id}"),
        ("starters/ladder", "starters/{key}"),
        ("revisions/1", "revisions/{number}"),
    ):
        path = path.replace(filled, name)
    return f"{method} {path}"


class RolesTests(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.owner = member("owner")
        shop = cls.owner.shop
        cls.other = member("stranger")
        cls.people = {
            Role.OWNER: cls.owner,
            Role.SMITH: member("striker", Role.SMITH, shop),
            Role.HELPER: member("sweeper", Role.HELPER, shop),
        }
        design = keep.create_design(actor=cls.owner, document=read_document(DOCUMENT), name="d")
        binned = keep.create_design(actor=cls.owner, document=read_document(DOCUMENT), name="b")
        keep.remove_design(actor=cls.owner, design=binned)
        program = Program.model_validate(PROGRAM)
        job = ordering.order(actor=cls.owner, asked=PrintOrder(kind="print_face", design=design.pk, side="left", width_px=300))
        JobFile.objects.create(job=job, index=0, content=b"x")
        run = kiln.start_run(
            actor=cls.owner, design=design, program=program, steels=["1084"], load=Load.of(100.0, 4.0, 30.0, 150.0), speed=60.0
        )
        token, invite = people.invite(actor=cls.owner, role=Role.SMITH)
        (item,) = rack.add(actor=cls.owner, items=[parse(RackItem, ITEM)])
        act = rack.take(actor=cls.owner, takes={item.pk: 1})
        order = orders.take(actor=cls.owner, said={"who": "The ferry", "title": "Line knife"})
        build = begin(actor=cls.owner, uid=uuid4(), worked=Worked.of(read_document(DOCUMENT)), design=design, title="First")
        cls.binned = binned
        cls.ids: dict[str, Any] = {
            "design_id": design.pk,
            "job_id": job.pk,
            "program_id": kiln.keep_program(actor=cls.owner, program=program).pk,
            "run_id": run.pk,
            "item_id": item.pk,
            "act": act,
            "build_id": build.pk,
            "order_id": order.pk,
            "bath_id": finishing.mix(actor=cls.owner, name="Tube", bath=Bath(), mixed=date(2031, 5, 1)).pk,
            "attempt_id": practice.begin(user=cls.owner.user, kind="read_face", seed=1).pk,
            "name": "target",
            "bar": read_document(DOCUMENT).recipe.bar.id,
            "stages": 1,
            "uid": uuid4(),
            "view": "side",
            "person_id": cls.people[Role.SMITH].pk,
            "invite_id": invite.pk,
            "shop_id": shop.pk,
            "number": 1,
            "index": 0,
            "action": "hold",
            "key": "1084",
            "method": "hammer",
            "token": token,
        }

    def setUp(self) -> None:
        self.clients = {role: signed_in(who, **HTTP) for role, who in self.people.items()}
        self.stranger = signed_in(self.other, **HTTP)
        self.bodies = {templated(m, p): b for m, p, b in ROUTES} | BODIES
        self.paths = {templated(m, p): p for m, p, _ in ROUTES}
        self.routes = [f"{m} {p}" for p, methods in described()["paths"].items() for m in methods]

    def ask(self, route: str, client: Client, bare: bool = False) -> Any:
        method, path = route.split(" ", 1)
        ids = self.ids | ({"design_id": self.binned.pk} if "/bin/" in path or path.endswith("/restore") else {})
        path = self.paths.get(route, path).replace("{id}", "{design_id}")
        for name, value in ids.items():
            path = path.replace(f"{{{name}}}", str(value))
        self.assertNotIn("{", path, route)
        body = json.loads(json.dumps(self.bodies.get(route)).replace('"{id}"', str(ids["design_id"])))
        more: dict[str, Any] = {} if method == "get" else {"data": json.dumps({} if bare else body), "content_type": "application/json"}
        if route in FILES:
            more = {"data": {"file": SimpleUploadedFile("a", b"nothing")}}
        with transaction.atomic():
            answer = getattr(client, method)(path, **more)
            transaction.set_rollback(True)
        return answer

    def test_the_table_names_only_routes_there_are(self) -> None:
        self.assertLessEqual(OWNERS | SMITHS | ANYBODY, set(self.routes), (OWNERS | SMITHS | ANYBODY) - set(self.routes))
        self.assertLessEqual(set(self.paths), set(self.routes), set(self.paths) - set(self.routes))

    def test_every_route_for_every_role(self) -> None:
        outside = Client(**HTTP)
        for route in self.routes:
            least = needed(route)
            if least is None:
                continue
            signed_out = self.ask(route, outside)
            self.assertEqual((signed_out.status_code, signed_out.json()["code"]), (401, "signed_out"), route)
            for role in Role:
                # what it takes is told by the first who may; whoever may more is let in before the body is read
                answer = self.ask(route, self.clients[role], bare=role.may(least) and role != least and not THOROUGH)
                turned_away = answer.status_code == 403
                self.assertEqual(turned_away, not role.may(least), f"{route} as {role}: {answer.status_code}")
                self.assertLess(answer.status_code, 500, f"{route} as {role}: {answer}")
                if turned_away:
                    self.assertEqual(answer.json()["code"], "role", route)

    def test_every_route_from_another_shop(self) -> None:
        """What is absent and what is another's look the same: nothing of it is told, nothing of it changes."""
        owned = (
            "{build_id}",
            "{order_id}",
            "{bath_id}",
            "{attempt_id}",
            "{item_id}",
            "{act}",
            "{design_id}",
            "{job_id}",
            "{program_id}",
            "{run_id}",
            "{person_id}",
            "{invite_id}",
            "{shop_id}",
        )
        asked = 0
        for route in self.routes:
            if needed(route) is None or not any(name in route for name in owned):
                continue
            asked += 1
            theirs = self.ask(route, self.stranger)
            self.assertEqual(theirs.status_code, 404, f"{route}: {theirs.status_code}")
            real, self.ids = self.ids, self.ids | dict.fromkeys((n.strip("{}") for n in owned), 987654) | {"act": uuid4()}
            binned, self.binned.pk = self.binned.pk, 987654
            absent = self.ask(route, self.stranger)
            self.ids, self.binned.pk = real, binned
            self.assertEqual(theirs.content, absent.content, route)
        self.assertGreater(asked, 25)

    def test_lists_are_of_ones_own_shop(self) -> None:
        for path in ("/api/designs", "/api/designs/bin", "/api/jobs", "/api/kiln/programs", "/api/builds/orders", "/api/finish/baths"):
            self.assertTrue(self.clients[Role.HELPER].get(path).json(), path)
            self.assertEqual(self.stranger.get(path).json(), [], path)
        self.assertEqual([p["name"] for p in self.stranger.get("/api/shop/people").json()["people"]], ["stranger"])

    def test_only_owners_see_invites(self) -> None:
        self.assertEqual(len(self.clients[Role.OWNER].get("/api/shop/people").json()["invites"]), 1)
        self.assertEqual(self.clients[Role.SMITH].get("/api/shop/people").json()["invites"], [])


class ShopTests(TestCase):
    def setUp(self) -> None:
        self.owner = member("owner")
        self.client = signed_in(self.owner, **HTTP)

    def send(self, method: str, path: str, body: Any = None, client: Client | None = None, **more: Any) -> Any:
        return getattr(client or self.client, method)(path, data=json.dumps(body), content_type="application/json", **more)

    def test_from_invite_to_a_smith_at_work(self) -> None:
        made = self.send("post", "/api/shop/invites", {"role": "smith"}).json()
        new = Client(**HTTP)
        told = new.get(f"/api/invites/{made['token']}").json()
        self.assertEqual((told["shop"], told["role"], told["by"], told["there"]), ("owner's", "smith", "owner", False))
        joined = self.send("post", f"/api/invites/{made['token']}/join", {"user": "striker", "password": "beside-the-anvil-6"}, new)
        self.assertEqual((joined.status_code, joined.json()["name"], joined.json()["role"]), (200, "owner's", "smith"))
        self.assertEqual(new.get("/api/session").json()["user"], "striker")
        design = self.send("post", "/api/designs", {"starter": "blank"}, new).json()["id"]
        self.assertEqual([d["id"] for d in self.client.get("/api/designs").json()], [design])
        self.assertEqual(self.client.get(f"/api/designs/{design}/revisions").json()[0]["saved_by"], "striker")
        again = self.send("post", f"/api/invites/{made['token']}/join", {"user": "late", "password": "beside-the-anvil-6"}, Client(**HTTP))
        self.assertEqual((again.status_code, again.json()["code"]), (404, "absent"))
        self.assertIn("Ask for a new one", again.json()["title"])

    def test_somebody_signed_in_joins_as_who_they_are(self) -> None:
        made = self.send("post", "/api/shop/invites", {"role": "helper"}).json()
        other = signed_in(member("other"), **HTTP)
        self.assertEqual(self.send("post", f"/api/invites/{made['token']}/join", {}, other).json()["name"], "owner's")
        session = other.get("/api/session").json()
        self.assertEqual((session["user"], session["shop"]["name"], len(session["shops"])), ("other", "owner's", 2))
        back = next(s for s in session["shops"] if s["role"] == "owner")
        self.assertEqual(self.send("post", f"/api/shops/{back['id']}/choose", None, other).json()["name"], "other's")
        self.assertEqual(other.get("/api/session").json()["shop"]["id"], back["id"])

    def test_a_page_of_another_shop_changes_nothing(self) -> None:
        """Two windows: one went to work elsewhere, the other must not write there."""
        late = self.send("post", "/api/designs", {"starter": "blank"}, HTTP_X_SHOP="987654")
        self.assertEqual((late.status_code, late.json()["code"]), (409, "other_shop"))
        self.assertEqual(self.client.get("/api/designs").json(), [])
        self.assertEqual(self.send("post", "/api/designs", {"starter": "blank"}, HTTP_X_SHOP=str(self.owner.shop_id)).status_code, 201)

    def test_roles_names_and_leaving(self) -> None:
        second = member("second", Role.HELPER, self.owner.shop)
        self.assertEqual(self.send("patch", "/api/shop", {"name": "  Weir   Forge "}).json()["name"], "Weir Forge")
        self.assertEqual(self.send("patch", "/api/shop", {"name": "   "}).status_code, 422)
        refused = self.send("post", "/api/shop/leave")
        self.assertEqual(refused.status_code, 422)
        self.assertIn("without an owner", refused.json()["problems"][0]["wrong"])
        self.assertEqual(self.send("delete", f"/api/shop/people/{self.owner.pk}").status_code, 409)
        found = self.send("put", f"/api/shop/people/{second.pk}", {"role": "owner"}).json()
        self.assertEqual([(p["name"], p["role"], p["me"]) for p in found["people"]], [("owner", "owner", True), ("second", "owner", False)])
        self.assertEqual(self.send("put", f"/api/shop/people/{second.pk}", {"role": "king"}).status_code, 422)
        self.assertEqual(self.send("post", "/api/shop/leave").json()["name"], "owner's shop")
        theirs = signed_in(second, **HTTP)
        self.assertEqual([p["name"] for p in theirs.get("/api/shop/people").json()["people"]], ["second"])

    def test_a_helper_is_told_why(self) -> None:
        helper = signed_in(member("sweeper", Role.HELPER, self.owner.shop), **HTTP)
        answer = self.send("post", "/api/designs", {"starter": "blank"}, helper)
        self.assertEqual(answer["Content-Type"], "application/problem+json")
        self.assertIn("As helper of owner's you may look", answer.json()["title"])
