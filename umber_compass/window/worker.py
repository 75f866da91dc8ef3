"""One worker for everything slow. Requests of a kind replace each other: only the newest answer of
each kind comes back, on the GUI thread."""

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from PySide6.QtCore import QObject, Signal

from umber_compass.words import Refusal


class Worker(QObject):
    """Runs plain functions off the GUI thread."""

    _finished = Signal(str, int, object, object)
    idle = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._pool = ThreadPoolExecutor(1, "umber-worker")
        self._newest: dict[str, int] = {}
        self._ticket = 0
        self._under_way = 0
        self._answers: dict[str, tuple[Callable[[Any], None], Callable[[Exception], None]]] = {}
        self._finished.connect(self._deliver)

    @property
    def busy(self) -> bool:
        """Whether anything is still to be answered."""
        return self._under_way > 0

    def ask(
        self,
        kind: str,
        work: Callable[[], Any],
        answer: Callable[[Any], None],
        failed: Callable[[Exception], None],
    ) -> None:
        """Have `work` done; its result goes to `answer` unless a newer request of its kind came."""
        self._ticket += 1
        self._newest[kind] = self._ticket
        self._answers[kind] = (answer, failed)
        self._under_way += 1
        self._pool.submit(self._run, kind, self._ticket, work)

    def _run(self, kind: str, ticket: int, work: Callable[[], Any]) -> None:
        result, error = None, None
        if self._newest.get(kind) == ticket:
            try:
                result = work()
            except Exception as problem:  # a catch-all: the worker must live, the window reports
                error = problem
        self._finished.emit(kind, ticket, result, error)

    def _deliver(self, kind: str, ticket: int, result: object, error: Exception | None) -> None:
        self._under_way -= 1
        if self._newest.get(kind) == ticket:
            answer, failed = self._answers[kind]
            if error is None:
                answer(result)
            else:
                failed(error)
        if not self._under_way:
            self.idle.emit()

    def close(self) -> None:
        """Forget what waits and wait for what runs."""
        self._newest.clear()
        self._pool.shutdown(wait=True, cancel_futures=True)


def said(error: Exception) -> str:
    """One line for a failure: a refusal's own words, or what went wrong inside."""
    if isinstance(error, Refusal):
        return str(error)
    return f"Something went wrong inside ({type(error).__name__}: {error}); the plan is intact"
