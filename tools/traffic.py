"""Mixed traffic for `make kill` and `make soak`: what people do to a server, with what was acknowledged kept in
mind.
"""

from __future__ import annotations

import json
import random
import re
import urllib.error
import urllib.request
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from zittern.store.sets import SHIPPED

__all__ = ["Gone", "Writer", "ask", "send_file", "size_mb"]

MOST_LAYERS = 50
_DUNES = (SHIPPED / "saltmarsh-dunes.glb").read_bytes()


class Gone(Exception):
    """The server did not answer: it was killed, or is not there yet."""


def ask(
    url: str,
    body: Any = None,
    method: str | None = None,
    raw: bool = False,
    headers: dict[str, str] | None = None,
    data: bytes | None = None,
) -> Any:
    """The parsed answer, or its bytes. Raises Gone without an answer, and what urllib raises for a refusal."""
    payload = data if data is not None else None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(url, payload, headers or {"Content-Type": "application/json"}, method=method)
    try:
        with urllib.request.urlopen(request, timeout=60) as answer:
            got = answer.read()
    except urllib.error.HTTPError:
        raise
    except (OSError, ValueError, EOFError) as error:
        raise Gone(str(error)) from error
    except Exception as error:  # http.client's own, for an answer that was cut off
        if type(error).__module__ == "http.client":
            raise Gone(str(error)) from error
        raise
    return got if raw else json.loads(got) if got else None


def send_file(url: str, name: str, data: bytes) -> Any:
    """The parsed answer to a form with a file."""
    edge = "edge"
    head = f'--{edge}\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\n\r\n'
    body = head.encode() + data + f"\r\n--{edge}--\r\n".encode()
    return ask(url, headers={"Content-Type": f"multipart/form-data; boundary={edge}"}, data=body)


def size_mb(pid: int, field: str = "VmRSS") -> float:
    """Resident size of a process in MB, now or (VmHWM) at its largest."""
    found = re.search(rf"{field}:\s+(\d+)", Path(f"/proc/{pid}/status").read_text())
    return round(int(found.group(1)) / 1024, 1) if found else 0.0


@dataclass
class Writer:
    """Somebody at work on a shot of their own. `promised` is the name that the server acknowledged last, `asked` one
    under way.
    """

    slug: str
    seed: int
    project: str = "saltmarsh-post"
    promised: str | None = None
    asked: str | None = None
    acknowledged: int = 0
    layers: int = 0
    sets: dict[str, bytes] = field(default_factory=dict)
    revision: int = 0
    random: random.Random = field(init=False)

    def __post_init__(self) -> None:
        self.random = random.Random(self.seed)

    def start(self, url: str) -> None:
        """Makes the shot."""
        state = ask(f"{url}api/projects/{self.project}/shots", {"name": self.slug, "frames": 48})
        self.slug, self.revision = state["slug"], state["revision"]
        self.promised = state["document"]["name"]

    def step(self, url: str) -> None:
        """One thing that people do. Raises Gone when the server does not answer."""
        do = self.random.choices(
            (self.rename, self.layer, self.back_and_forth, self.look, self.upload, self.passing_shot),
            (8, 3, 2, 4, 1, 1),
        )[0]
        do(url)

    def rename(self, url: str) -> None:
        """An edit whose result is easy to know again."""
        self.asked = f"{self.slug} {self.acknowledged + 1}"
        self._edit(url, {"type": "set_values", "values": [{"at": "shot.name", "value": self.asked}]})
        self.promised, self.asked = self.asked, None

    def layer(self, url: str) -> None:
        """An edit of another kind; a shot that has many layers loses them first."""
        self.layers += 1
        if self.layers % MOST_LAYERS == 0:
            lanes = ask(f"{url}api/shots/{self.slug}")["document"]["lanes"]
            ids = [layer["id"] for lane in lanes for clip in lane["clips"] for layer in clip["layers"]]
            if ids:
                self._edit(url, {"type": "remove_layers", "layers": ids})
        self._edit(url, {"type": "add_layer", "source": self.random.choice(["noise", "wave", "breath"])})

    def back_and_forth(self, url: str) -> None:
        """Undo and redo: what was promised is the head again."""
        for way in ("undo", "redo"):
            self.revision = ask(f"{url}api/shots/{self.slug}/{way}", {"base_revision": self.revision})["revision"]

    def look(self, url: str) -> None:
        """Motion with a swing tried on."""
        ask(f"{url}api/shots/{self.slug}/motion", {"commands": [{"type": "add_handheld"}], "frame": 1}, raw=True)

    def upload(self, url: str) -> None:
        """A set under a name that everybody uses; its bytes are nobody else's."""
        data = _DUNES + f"{self.seed} {len(self.sets)}".encode()
        made = send_file(f"{url}api/sets", "dune.glb", data)
        self.sets[made["set_id"]] = data

    def passing_shot(self, url: str) -> None:
        """A shot that comes and goes, so that ids are tempted to be used again."""
        made = ask(f"{url}api/projects/{self.project}/shots", {"name": f"passing {self.seed}", "frames": 24})
        ask(f"{url}api/shots/{made['id']}", method="DELETE")

    def catch_up(self, url: str) -> None:
        """After a kill: what was promised is there; what was under way is there whole or not at all."""
        state = ask(f"{url}api/shots/{self.slug}")
        if state["redo_label"]:  # killed between back and forth
            state = ask(f"{url}api/shots/{self.slug}/redo", {"base_revision": state["revision"]})
        name = state["document"]["name"]
        if name not in (self.promised, self.asked):
            raise AssertionError(f"{self.slug}: {self.promised!r} was acknowledged, {name!r} is there")
        self.promised, self.asked, self.revision = name, None, state["revision"]

    def check_sets(self, url: str) -> None:
        """Every acknowledged set holds its own bytes."""
        for set_id, data in self.sets.items():
            if ask(f"{url}api/sets/{set_id}", raw=True) != data:
                raise AssertionError(f"the set {set_id} holds other bytes")

    def _edit(self, url: str, command: dict[str, Any]) -> None:
        state = ask(f"{url}api/shots/{self.slug}/edits", {"base_revision": self.revision, "command": command})
        self.revision = state["revision"]
        self.acknowledged += 1
