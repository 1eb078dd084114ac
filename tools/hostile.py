"""`make hostile`: sends every field of every route and command values that nobody should send, and looks at the
answers.

What there is to send is read from the OpenAPI document, so that a new route, command or field is covered without a line
here. From a request that works one or two values at a time are replaced. An answer of 500 and over, a slow one, one
that is no problem+json, or a shot that can no longer be evaluated afterwards is a failure. The same seed sends the same
requests.
"""

from __future__ import annotations

import argparse
import copy
import http.client
import json
import random
import re
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from tests.web.harness import Server
from tools.samples import SHOT, Samples
from tools.traffic import size_mb

__all__ = ["Report", "run"]

SLOW_S = 2.0
MOST_RSS_MB = 500
# Written into the JSON text as they stand: Python's own writer would not let them through.
RAW = {
    "<<nan>>": "NaN", "<<huge>>": "1e400", "<<minus>>": "-1e400", "<<digits>>": "9" * 4000, "<<tiny>>": "1e-320",
    "<<half>>": '"\\ud800"',
    "<<deep>>": "[" * 900 + "]" * 900,
}  # fmt: skip
_FAR = {
    "keys": [{"frame": -1e7, "value": 0.0}, {"frame": 1e7, "value": 1e12, "interp": "free", "handle_in": [-1e7, 1e12]}],
    "after": "continue",
}
VALUES: tuple[Any, ...] = (
    *RAW, None, True, -1, 0, -0.0, 1, 0.5, 2**31, 2**53, 2**63, -(2**63), 2**64, 10**30, 1e12, 1e18, 1e308, -1e308,
    5e-324, "", " ", "x" * 130,
    "y" * 70_000, "nan", "../../../etc/passwd", "<script>alert(1)</script>", "a\u0000b", "\u202e\u0301", "__class__",
    "mount:camera.pan_deg",
    "layer:sway-1.weight", "layer:sway-1.axes.pan.swing", "clip:main.speed", "shot.focal_mm", "camera", "sway-1", [],
    {}, [None], [[]],
    [1e308, -1e308, 1e308], {"state": "fixed", "value": 1e308}, {"state": "keyed", "curve": _FAR},
    {"state": "formula", "text": "panic / 0 + noise(10 ^ 12 * t, f)"}, {"state": "formula", "text": "speed ^ speed"},
    "sine(t)", "2 * (t", "u",
    {"state": "formula", "text": "", "draft": "t +", "before": {"state": "fixed", "value": 1e308}}, "(" * 900,
    "t" * 9000, "dial:panic.value",
)  # fmt: skip
# What some commands need besides.
FITTING: dict[str, dict[str, Any]] = {
    "set_values": {"values": [{"at": "mount:camera.pan_deg", "value": 3.0}]},
    "set_span": {"at": ["layer:sway-1"], "first_frame": 10, "last_frame": 100},
    "set_handles": {"handle_in": [-3.0, 0.5], "handle_out": [3.0, 0.5]},
    "set_move": {"values": {"pan_deg": 2.0}},
    "move_keys": {"by_frames": 1.5, "by_value": 0.1},
    "link_axes": {"axes": ["tilt"]},
    "copy_axis": {"to": ["tilt"]},
    "aim_camera": {"fill": 0.5},
}


@dataclass
class Report:
    """What came back."""

    sent: int = 0
    statuses: Counter[int] = field(default_factory=Counter)
    failures: list[str] = field(default_factory=list)
    slowest_s: float = 0.0
    slowest: str = ""
    rss_mb: float = 0.0

    def as_dict(self) -> dict[str, object]:
        """For printing."""
        return {
            "sent": self.sent, "statuses": dict(sorted(self.statuses.items())), "failures": self.failures[:20],
            "failed": len(self.failures),
            "slowest_ms": round(self.slowest_s * 1e3), "slowest": self.slowest, "server_mb": round(self.rss_mb),
        }  # fmt: skip


@dataclass
class Call:
    """A request: its parts, each of which may be replaced."""

    method: str
    path: str
    parts: dict[str, Any]
    form: bool = False

    def places(self) -> list[tuple[Any, ...]]:
        """Every place in it that holds a value."""
        return list(_places(self.parts))


def _places(value: Any, at: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    if (at and at[0] != "path") or len(at) > 1:
        yield at
    if isinstance(value, dict):
        for key, each in value.items():
            yield from _places(each, (*at, key))
    if isinstance(value, list):
        for i, each in enumerate(value[:2]):
            yield from _places(each, (*at, i))


def calls(document: dict[str, Any]) -> list[Call]:
    """A request that works for every route, and one for every kind of command."""
    samples = Samples(document)
    out = []
    for path, operations in document["paths"].items():
        for method, operation in operations.items():
            given: dict[str, dict[str, Any]] = {"path": {}, "query": {}}
            for each in operation.get("parameters", ()):
                if each["in"] in given:
                    given[each["in"]][each["name"]] = samples.of(each.get("schema", {}), each["name"])
            content = operation.get("requestBody", {}).get("content", {})
            if "multipart/form-data" in content:
                body = samples.of(content["multipart/form-data"]["schema"])
                out.append(Call(method.upper(), path, {**given, "form": body | {"file": "x"}}, form=True))
                continue
            if "application/json" not in content:
                out.append(Call(method.upper(), path, given))
                continue
            schema = samples.resolve(content["application/json"]["schema"])
            body = samples.of(schema)
            command = schema.get("properties", {}).get("command") or schema.get("properties", {}).get("commands")
            for member in samples.members(command.get("items", command)) if command else [None]:
                mine = dict(body)
                if member is not None:
                    sample = samples.of(member)
                    sample |= FITTING.get(sample["type"], {})
                    mine["command" if "command" in body else "commands"] = sample if "command" in body else [sample]
                out.append(Call(method.upper(), path, {**given, "json": mine}))
    return out


class Attack:
    """One server, one seed."""

    def __init__(self, server: Server, seed: int, slow_s: float) -> None:
        self.report = Report()
        self._server = server
        self._slow_s = slow_s
        self._random = random.Random(seed)
        self._host = re.sub(r"^http://|/$", "", server.url)
        self._link = http.client.HTTPConnection(self._host, timeout=60)
        self._calls = calls(json.loads(self._ask("GET", "/openapi.json")[1]))

    def close(self) -> None:
        """Lets go of the connection."""
        self._link.close()

    def every_field(self) -> list[tuple[Call, tuple[Any, ...], Any]]:
        """Each value in each place of each request."""
        return [(call, place, value) for call in self._calls for place in call.places() for value in VALUES]

    def go(self, count: int | None) -> None:
        """Sends as many as asked for, picked at random, or all of them."""
        every = self.every_field()
        self._with_dial()
        self._random.shuffle(every)
        for n, (call, place, value) in enumerate(every if count is None else every[:count]):
            changed = copy.deepcopy(call)
            _put(changed.parts, place, value)
            if n % 5 == 4:
                _put(changed.parts, self._random.choice(call.places()), self._random.choice(VALUES))
            self.send(changed)
        self.report.rss_mb = size_mb(self._server.process.pid)

    def _with_dial(self) -> None:
        """A dial for commands to name."""
        state = json.loads(self._ask("GET", f"/api/shots/{SHOT}")[1])
        if not state.get("document", {}).get("dials"):
            body = {"base_revision": state.get("revision", 0), "command": {"type": "add_dial", "name": "panic"}}
            self._ask(
                "POST", f"/api/shots/{SHOT}/edits", {"Content-Type": "application/json"}, json.dumps(body).encode()
            )

    def send(self, call: Call) -> None:
        """One request, and what became of the shot when it was accepted."""
        call = Call(call.method, call.path, self._present(call.parts), call.form)
        path = call.path
        for name, value in call.parts["path"].items():
            path = path.replace(f"{{{name}}}", _quoted(str(value)))
        wanted = call.parts["query"] if isinstance(call.parts.get("query"), dict) else {}
        query = "&".join(
            f"{_quoted(str(name))}={_quoted(str(value))}" for name, value in wanted.items() if value is not None
        )
        address = path + (f"?{query}" if query else "")
        headers, body = {}, b""
        if call.form:
            headers, body = _form(call.parts["form"])
        elif "json" in call.parts:
            headers, body = {"Content-Type": "application/json"}, _text(call.parts["json"]).encode()
        started = time.perf_counter()
        status, _, kind = self._ask(call.method, address, headers, body)
        took = time.perf_counter() - started
        what = f"{call.method} {address[:120]} {body[:300]!r}"
        self.report.sent += 1
        self.report.statuses[status] += 1
        if took > self.report.slowest_s:
            self.report.slowest_s, self.report.slowest = took, what[:200]
        if status >= 500 or took > self._slow_s:
            self.report.failures.append(f"{status} after {took:.1f} s: {what}")
        elif status >= 400 and "problem+json" not in kind:
            self.report.failures.append(f"{status} as {kind}: {what}")
        if status in (200, 201, 204) and call.method != "GET":
            self._still_whole(what)

    def _present(self, parts: dict[str, Any]) -> dict[str, Any]:
        """What only the server knows: the present revision, an export."""
        text = json.dumps(parts)
        if '"<<head>>"' in text:
            head = json.loads(self._ask("GET", f"/api/shots/{SHOT}")[1]).get("revision", 0)
            text = text.replace('"<<head>>"', str(head))
        if "<<job>>" in text:
            body = b'{"format": "shot"}'
            job = json.loads(
                self._ask("POST", f"/api/shots/{SHOT}/exports", {"Content-Type": "application/json"}, body)[1]
            ).get("id", "none")
            text = text.replace("<<job>>", job)
        found: dict[str, Any] = json.loads(text)
        return found

    def _still_whole(self, what: str) -> None:
        """What was saved can be evaluated; then things are put back."""
        for key in (SHOT, "jetty-walk"):
            status, answer, _ = self._ask(
                "POST", f"/api/shots/{key}/motion", {"Content-Type": "application/json"}, b'{"frame": 24}'
            )
            if status == 404:
                continue
            if status != 200 or b"NaN" in answer[:20_000] or _not_finite(answer):
                self.report.failures.append(
                    f"{key} cannot be evaluated any more ({status} {answer[:200]!r}) after {what}"
                )
            state = json.loads(self._ask("GET", f"/api/shots/{key}")[1])
            if state.get("undo_label") not in (None, "Add dial panic"):
                self._ask(
                    "POST",
                    f"/api/shots/{key}/undo",
                    {"Content-Type": "application/json"},
                    json.dumps({"base_revision": state["revision"]}).encode(),
                )
        if self._ask("GET", f"/api/shots/{SHOT}")[0] == 404:
            self._server.stop()
            self._server.__init__(self._server.data)  # type: ignore[misc]  # the demo comes back at the next start
            self._host = re.sub(r"^http://|/$", "", self._server.url)
            self._link = http.client.HTTPConnection(self._host, timeout=60)
        self._with_dial()

    def _ask(
        self, method: str, address: str, headers: dict[str, str] | None = None, body: bytes = b"", again: bool = True
    ) -> tuple[int, bytes, str]:
        try:
            self._link.request(method, address, body, headers or {})
            answer = self._link.getresponse()
            return answer.status, answer.read(), answer.headers.get("content-type", "")
        except (http.client.HTTPException, OSError) as error:
            self._link.close()
            # A link that was kept too long is closed by the server; what only asks can ask again.
            if method == "GET" and again and self._server.process.poll() is None:
                return self._ask(method, address, headers, body, again=False)
            if not method or self._server.process.poll() is not None:
                return 599, str(error).encode(), ""
            return (
                (0, b"refused by the connection", "problem+json")
                if "too long" in str(error) or "400" in str(error)
                else (598, str(error).encode(), "")
            )


def _put(parts: dict[str, Any], place: tuple[Any, ...], value: Any) -> None:
    at: Any = parts
    for step in place[:-1]:
        try:
            at = at[step]
        except (KeyError, IndexError, TypeError):
            return
    if isinstance(at, dict) or (isinstance(at, list) and isinstance(place[-1], int) and place[-1] < len(at)):
        at[place[-1]] = copy.deepcopy(value)


def _text(value: Any) -> str:
    text = json.dumps(value)
    for mark, raw in RAW.items():
        text = text.replace(json.dumps(mark), raw)
    return text


def _quoted(text: str) -> str:
    from urllib.parse import quote

    return quote("%00" if text == "<<half>>" else text[:3000], safe="")


def _form(fields: Any) -> tuple[dict[str, str], bytes]:
    edge = "edge-of-a-part"
    parts = []
    for name, value in fields.items() if isinstance(fields, dict) else []:
        if value is None:
            continue
        extra = '; filename="walk.csv"' if name == "file" else ""
        data = b"frame,x_m,y_m,z_m\n1,0,0,0\n2,1,0,0\n" if value == "x" else str(value).encode("utf-8", "surrogatepass")
        parts.append(
            f'--{edge}\r\nContent-Disposition: form-data; name="{_quoted(str(name))}"{extra}\r\n\r\n'.encode()
            + data
            + b"\r\n"
        )
    return {"Content-Type": f"multipart/form-data; boundary={edge}"}, b"".join(parts) + f"--{edge}--\r\n".encode()


def _not_finite(packet: bytes) -> bool:
    import numpy as np

    length = int.from_bytes(packet[4:8], "little")
    return not bool(np.all(np.isfinite(np.frombuffer(packet, "<f4", offset=8 + length))))


def run(count: int | None, seed: int, slow_s: float = SLOW_S) -> Report:
    """Sends `count` requests (all there are when None) to a server of its own on a fresh demo; one that takes longer
    than slow_s fails.
    """
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder) / "data")
        try:
            attack = Attack(server, seed, slow_s)
            attack.go(count)
            attack.close()
        finally:
            server.stop()
    if attack.report.rss_mb > MOST_RSS_MB:
        attack.report.failures.append(f"the server grew to {attack.report.rss_mb:.0f} MB")
    return attack.report


def main() -> int:
    """0 when nothing failed."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=20_000, help="requests; 0 sends every value to every field")
    parser.add_argument("--seed", type=int, default=1)
    given = parser.parse_args()
    report = run(given.count or None, given.seed)
    print(json.dumps(report.as_dict(), indent=1))
    return 1 if report.failures else 0


if __name__ == "__main__":
    sys.exit(main())
