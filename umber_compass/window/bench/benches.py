"""The benches of one window, each made when it is first asked for."""

from collections.abc import Callable, Iterator, Mapping

from umber_compass.window.bench.bench import Bench

Met = Callable[[str, Bench], None]


class Benches(Mapping[str, Bench]):
    """Benches by name. A start makes the one that it shows; walking over all makes all."""

    def __init__(self, makers: Mapping[str, Callable[[], Bench]]) -> None:
        self._makers = dict(makers)
        self._made: dict[str, Bench] = {}
        self._calls: list[Met] = []

    def __getitem__(self, name: str) -> Bench:
        if name not in self._made:
            bench = self._made[name] = self._makers[name]()
            for call in self._calls:
                call(name, bench)
        return self._made[name]

    def __iter__(self) -> Iterator[str]:
        return iter(self._makers)

    def __len__(self) -> int:
        return len(self._makers)

    def each(self, call: Met) -> None:
        """Call with every bench: now with those that are made, later with those that come."""
        for name, bench in self._made.items():
            call(name, bench)
        self._calls.append(call)
