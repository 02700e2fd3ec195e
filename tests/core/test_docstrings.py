"""All that is public in the core says what it is; an overriding method has its base's words."""

import inspect
import pkgutil
from collections.abc import Iterator
from importlib import import_module
from unittest import TestCase

import varistrat.core


def undocumented() -> Iterator[str]:
    """Names without words: functions, classes, and what a class does, its base's words counted."""
    for info in pkgutil.walk_packages(varistrat.core.__path__, "varistrat.core."):
        module = import_module(info.name)
        for name, thing in vars(module).items():
            if name.startswith("_") or getattr(thing, "__module__", "") != info.name:
                continue
            if inspect.isfunction(thing) and not inspect.getdoc(thing):
                yield f"{info.name}.{name}"
            elif inspect.isclass(thing):
                if not thing.__doc__ or thing.__doc__.startswith(f"{name}("):
                    yield f"{info.name}.{name}"
                yield from (f"{info.name}.{name}.{part}" for part in vars(thing) if _wordless(thing, part))


def _wordless(owner: type, part: str) -> bool:
    """Whether a class does something public that neither it nor what it overrides puts in words."""
    what = vars(owner)[part]
    what = what.fget if isinstance(what, property) else getattr(what, "__func__", getattr(what, "func", what))
    fields = getattr(owner, "__dataclass_fields__", {})
    if part.startswith("_") or part in fields or not inspect.isfunction(what) or what.__module__ != owner.__module__:
        return False
    return not any(inspect.getdoc(vars(base)[part]) for base in owner.__mro__ if part in vars(base))


class DocstringTests(TestCase):
    def test_all_that_is_public_in_the_core_says_what_it_is(self) -> None:
        self.assertEqual(list(undocumented()), [])
