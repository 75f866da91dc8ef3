"""What the artist asked for, done in the order it was asked for: none takes another's place.

Each request is prepared on the GUI thread when its turn comes, so that it is made of the plan that
the one before left. Previews and measurements go to the worker directly: there only the newest
matters.
"""

from collections import deque
from collections.abc import Callable
from functools import partial
from typing import Any, NamedTuple, TypeAlias

from PySide6.QtCore import QObject, Qt, Signal

from umber_compass.window.desk.worker import Urgency, Worker
from umber_compass.work import Tick

Work: TypeAlias = Callable[[Tick], Any]


class Order(NamedTuple):
    """One request. `prepare` gives the worker's part, or None where nothing is left to do; what it
    raises goes to `failed`."""

    kind: str
    prepare: Callable[[], Work | None]
    answer: Callable[[Any], object]
    failed: Callable[[Exception], object]
    says: str


class Orders(QObject):
    """One request after the other, each begun once the one before was answered."""

    rested = Signal()  # all that was asked for is done

    def __init__(self, worker: Worker) -> None:
        super().__init__()
        self._worker = worker
        self._waiting: deque[Order] = deque()
        self._runs = False

    @property
    def busy(self) -> bool:
        """Whether something is still to be done."""
        return self._runs or bool(self._waiting)

    def ask(
        self,
        kind: str,
        prepare: Callable[[], Work | None],
        answer: Callable[[Any], object],
        failed: Callable[[Exception], object] | None = None,
        says: str = "",
    ) -> None:
        """Have something done after all that was asked for before; a failure is said in a line
        where there is nothing else to do about it."""
        self._waiting.append(Order(kind, prepare, answer, failed or self._worker.say_failed, says))
        if not self._runs:
            self._begin()

    def when_rested(self, then: Callable[[], object]) -> None:
        """Do something once all that was asked for is done; at once where nothing is left."""
        if self.busy:
            self.rested.connect(then, Qt.ConnectionType.SingleShotConnection)
        else:
            then()

    def _begin(self) -> None:
        while self._waiting and not self._runs:
            order = self._waiting.popleft()
            self._runs = True
            try:
                work = order.prepare()
            except Exception as problem:  # a catch-all: the requests behind it must have their turn
                self._runs = False
                order.failed(problem)
                continue
            if work is None:
                self._runs = False
                continue
            answer, failed = partial(self._end, order.answer), partial(self._end, order.failed)
            self._worker.ask(order.kind, work, answer, failed, order.says, Urgency.FILE)
        if not self.busy:
            self.rested.emit()

    def _end(self, tell: Callable[[Any], object], what: Any) -> None:
        """A request is over. What its answer asks for waits for its turn."""
        try:
            tell(what)
        finally:
            self._runs = False
            self._begin()

    def close(self) -> None:
        """Begin nothing more."""
        self._waiting.clear()
