"""What was refused is let go of: no request, no answer lives on in an error that nobody holds."""

import gc
import weakref
from typing import Any

from tests.api.test_api import DOCUMENT, ApiCase

STEEL = {
    "recipe": {
        **DOCUMENT["recipe"],
        "bar": {**DOCUMENT["recipe"]["bar"], "start": {"kind": "stack", "layers": [{"steel": "x", "thickness": 1}]}},
    }
}
REFUSED: tuple[tuple[str, str, Any], ...] = (
    ("post", "/api/predict/ledger", {"document": STEEL}),
    ("post", "/api/predict/ledger", {"document": {"recipe": 3}}),
    ("post", "/api/designs/import", STEEL["recipe"]),
    ("put", "/api/steels/1084", {"figures": {"composition": {"Xx": 1.0}}}),
    ("post", "/api/finish/coupon", {"bath": {"what": "nital", "strength": 40.0}, "minutes": 5, "step": 3}),
    ("post", "/api/looks", {"wants": [{"feature": "width", "value": "x"}]}),
)


class LetGoTests(ApiCase):
    def test_of_a_refused_request_nothing_is_left(self) -> None:
        for method, path, body in REFUSED:
            with self.subTest(path, body=body):
                # what is loaded and kept at the first time stays
                self.send(method, path, body)
                left = []
                for _ in range(5):
                    answer = self.send(method, path, body)
                    self.assertIn(answer.status_code, (404, 405, 422), answer.content)
                    left.append(weakref.ref(answer.wsgi_request))
                    del answer
                gc.collect()
                self.assertEqual(sum(r() is not None for r in left), 0)
