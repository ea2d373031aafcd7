"""What was made lately, kept by what it was made from."""

from collections import OrderedDict
from collections.abc import Callable
from threading import Lock
from typing import Generic, TypeVar

Key = TypeVar("Key")
Made = TypeVar("Made")


class Lately(Generic[Key, Made]):
    """The last ``most`` asked for; made outside the lock, so that nobody waits for another."""

    def __init__(self, most: int) -> None:
        self._most, self._lock = most, Lock()
        self._made: OrderedDict[Key, Made] = OrderedDict()

    def of(self, key: Key, make: Callable[[], Made]) -> Made:
        """What belongs to ``key``, made where it is not known."""
        with self._lock:
            if key in self._made:
                self._made.move_to_end(key)
                return self._made[key]
        made = make()
        with self._lock:
            self._made[key] = made
            while len(self._made) > self._most:
                self._made.popitem(last=False)
        return made
