"""A colour picked anywhere on the screen, by the desktop's own pipette, where it has one: the
portal's PickColor (XDG Desktop Portal, interface Screenshot, version 2). The desktop asks the
artist, and no picture of the screen comes here."""

import secrets
from collections.abc import Callable

from PySide6.QtCore import QObject, Signal

from umber_compass.colour.spaces import to_hex
from umber_compass.window.desk.aside import Aside

_WAITS_S = 120.0  # for the artist to point somewhere
_PORTAL = "org.freedesktop.portal.Desktop"
_PATH = "/org/freedesktop/portal/desktop"


class NoPipetteError(Exception):
    """The desktop has none, or the artist changed their mind; the text says which."""


def pick_by_portal() -> str:
    """The hex of a place that the artist points at. Blocks; for a thread of its own. Raises
    NoPipetteError."""
    import numpy as np
    from jeepney import DBusAddress, MatchRule, MessageType, message_bus, new_method_call
    from jeepney.io.blocking import Proxy, open_dbus_connection

    try:
        with open_dbus_connection("SESSION") as bus:
            token = f"umber{secrets.token_hex(4)}"
            sender = bus.unique_name.lstrip(":").replace(".", "_")
            rule = MatchRule(
                type="signal",
                interface="org.freedesktop.portal.Request",
                member="Response",
                path=f"{_PATH}/request/{sender}/{token}",
            )
            Proxy(message_bus, bus).AddMatch(rule)
            address = DBusAddress(_PATH, _PORTAL, "org.freedesktop.portal.Screenshot")
            ask = new_method_call(
                address, "PickColor", "sa{sv}", ("", {"handle_token": ("s", token)})
            )
            with bus.filter(rule) as answers:
                reply = bus.send_and_get_reply(ask, timeout=10)
                if reply.header.message_type is MessageType.error:
                    raise NoPipetteError("this desktop has no pipette for programs")
                answer = bus.recv_until_filtered(answers, timeout=_WAITS_S)
    except (OSError, KeyError, TimeoutError) as error:
        raise NoPipetteError("this desktop has no pipette for programs") from error
    code, found = answer.body
    if code != 0 or "color" not in found:
        raise NoPipetteError("no colour was picked")
    return to_hex(np.clip(np.array(found["color"][1], float), 0, 1))


class Pipette(QObject):
    """Picks on a thread of its own, and says what came of it."""

    picked = Signal(str)  # a hex
    failed = Signal(str)  # why there is none

    def __init__(self, parent: QObject, pick: Callable[[], str] = pick_by_portal) -> None:
        super().__init__(parent)
        self._pick, self._aside = pick, Aside(self)

    def pick(self) -> None:
        """Ask the desktop for a colour."""

        def work() -> tuple[str, str]:
            try:
                return self._pick(), ""
            except NoPipetteError as error:
                return "", str(error)

        def answer(found: tuple[str, str]) -> None:
            if found[0]:
                self.picked.emit(found[0])
            else:
                self.failed.emit(found[1])

        self._aside.look(work, answer)
