"""A property worked out when it is first asked for, and kept with its object."""

import functools
import sys
from typing import Any, TypeVar, overload

T = TypeVar("T")

if sys.version_info >= (3, 12):
    cached_property = functools.cached_property  # noqa: TID251
else:

    class cached_property(functools.cached_property[T]):  # noqa: TID251
        """functools.cached_property as it is from Python 3.12 on: without the lock that all objects of a class share before.

        With that lock one shop's long sum holds up every other's, and two sums that ask for one another wait for ever. Here two
        threads that ask one object at once may both work it out; what is worked out must not depend on who does.
        """

        @overload
        def __get__(self, instance: None, owner: type[Any] | None = None) -> "cached_property[T]": ...
        @overload
        def __get__(self, instance: object, owner: type[Any] | None = None) -> T: ...
        def __get__(self, instance: object, owner: type[Any] | None = None) -> "cached_property[T] | T":
            if instance is None:
                return self
            name = self.attrname
            assert name
            at = instance.__dict__
            if name not in at:
                at[name] = self.func(instance)
            found: T = at[name]
            return found
