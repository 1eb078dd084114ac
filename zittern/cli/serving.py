"""The listening server; on a signal it ends soon, even with requests in progress."""

from __future__ import annotations

import os
import sys
import threading
import webbrowser
from types import FrameType
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from zittern.settings import Settings

__all__ = ["run_server"]

_SWITCH_S = 0.002
# Requests in progress at shutdown may still be answered within this time.
_GRACE_S = 2.5
# Options of mallopt(3).
_M_MMAP_THRESHOLD, _M_ARENA_MAX = -3, -8


def run_server(settings: Settings, no_browser: bool) -> None:
    """Run the server until it is stopped."""
    import socket

    import uvicorn

    from zittern.api.app import make_app
    from zittern.api.connection import Connection, raise_handles
    from zittern.core.errors import BadInput

    raise_handles()
    _give_memory_back()
    # Declared as TCP, so that the server sends small answers immediately (TCP_NODELAY).
    listener = socket.socket(
        socket.AF_INET6 if ":" in settings.host else socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP
    )
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((settings.host, settings.port))
    except OSError as error:
        raise BadInput(
            f"cannot listen on {settings.host}:{settings.port}: {error.strerror}; choose another with --port, or host "
            f"with ZITTERN_HOST"
        ) from error
    listener.listen(128)  # clients may connect as soon as the address is printed
    name = f"[{settings.host}]" if ":" in settings.host else settings.host
    address = f"http://{name}:{listener.getsockname()[1]}/"

    class Leaving(uvicorn.Server):
        """End soon after a signal, even with requests in progress.

        Threads cannot be canceled, and all acknowledged edits are on disk.
        """

        def handle_exit(self, sig: int, frame: FrameType | None) -> None:
            last = threading.Timer(_GRACE_S, os._exit, [128 + sig])
            last.daemon = True
            last.start()
            super().handle_exit(sig, frame)

    server = Leaving(
        uvicorn.Config(
            make_app(settings),
            log_level="warning",
            access_log=False,
            proxy_headers=False,
            server_header=False,
            http=Connection,
        )
    )
    # Threads change places often: who waits for a picture is not held up by who exports a long shot.
    sys.setswitchinterval(_SWITCH_S)
    print(f"Zittern is at {address}", flush=True)
    threading.Thread(target=_warm, daemon=True).start()
    if not no_browser:
        threading.Timer(0.5, webbrowser.open, [address]).start()
    server.run(sockets=[listener])


def _give_memory_back() -> None:
    """Tell the C library (glibc) to keep few memory pools and to release large arrays immediately.

    With forty threads it would otherwise retain several times the memory in use. Elsewhere nothing happens.
    """
    import ctypes

    tune = getattr(ctypes.CDLL(None), "mallopt", None)
    if tune is not None:
        for option, value in ((_M_ARENA_MAX, 2), (_M_MMAP_THRESHOLD, 2**16)):
            tune(option, value)


def _warm() -> None:
    """Import what the first edits need while the page loads, so that they do not wait for it."""
    from zittern.core.motion.evaluate import evaluate
    from zittern.core.numbers.param import keyed
    from zittern.core.shot.shot import new_shot

    evaluate(new_shot("warm", last_frame=2, focal_mm=keyed((1, 35.0), (2, 50.0))))
