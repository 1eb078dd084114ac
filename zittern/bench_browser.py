"""`zittern bench --browser`: how long a dragged number takes until its samples are applied on the page."""

from __future__ import annotations

import json
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

from zittern.bench import big_shot
from zittern.browser import QUIET, find_browser
from zittern.core.errors import BadInput
from zittern.demo.build import ensure_demo
from zittern.store.library import Library

__all__ = ["run"]

FRAMES, LAYERS, MOVES = 2000, 20, 60
# Three minutes.
LONG_FRAMES, LONG_LAYERS = 4320, 27
_INSET_PX = 20
# Longer than the page waits before it asks for readings at a frame: every move gets an answer.
_BETWEEN_MS = 150
# Sub-frames, and the last frame that is drawn with them.
_MOVIES = ((1, 26), (16, 6))
_LOOKS_MS = 50
# Until all that comes after the first picture is drawn.
_SETTLED_MS = 4000
_SOFTWARE = ["--no-sandbox", "--use-gl=angle", "--use-angle=swiftshader-webgl", "--enable-unsafe-swiftshader"]
_RENDERER = """() => {
  const gl = document.createElement("canvas").getContext("webgl2");
  const info = gl && gl.getExtension("WEBGL_debug_renderer_info");
  return info ? gl.getParameter(info.UNMASKED_RENDERER_WEBGL) : "unknown";
}"""
# Measurements of the page: for each answer, milliseconds from request to application, its parts, and the server's part.
_MEASURES = """() => {
  const of = (name) => performance.getEntriesByName(`samples-${name}`);
  const parts = (each) => [...each.detail.matchAll(/(\\w+);dur=([\\d.]+)/g)];
  const server = (each) => Object.fromEntries(parts(each).map(([, name, ms]) => [name, Number(ms)]));
  const times = (name) => of(name).map((each) => each.duration);
  return {
    applied: times("applied"), decode: times("decoded"), store: times("stored"), draw: times("drawn"),
    server: of("decoded").map(server),
  };
}"""


def run() -> dict[str, object]:
    """Return milliseconds, paused and playing: median, 95th percentile, and their parts.

    Raises BadInput when there is no browser to ask.
    """
    try:
        from playwright.sync_api import sync_playwright
    except ImportError as error:
        raise BadInput("playwright is not installed; `make test` sets it up") from error
    chromium = find_browser(None)
    with tempfile.TemporaryDirectory() as folder:
        library = Library(Path(folder))
        ensure_demo(library)
        library.add_project("Bench")
        library.add_shot("bench", big_shot(FRAMES, LAYERS), slug="bench")
        library.add_shot("bench", big_shot(LONG_FRAMES, LONG_LAYERS), slug="long")
        library.close()
        server = subprocess.Popen(
            [sys.executable, "-m", "zittern.cli", "serve", "--port", "0", "--data", folder, "--no-browser"],
            stdout=subprocess.PIPE,
            text=True,
        )
        try:
            assert server.stdout is not None
            url = server.stdout.readline().split()[-1]
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path=chromium, args=[*QUIET, *_SOFTWARE])
                page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
                page.goto(f"{url}shot/bench")
                page.locator("[data-testid=viewfinder][data-ready=yes]").wait_for()
                resting = _at_rest(browser, page)
                figures = {"paused": _dragged(page), "playing": _dragged(page, play=True)}
                renderer = page.evaluate(_RENDERER)
                page.goto(f"{url}shot/long")
                page.locator("[data-testid=viewfinder][data-ready=yes]").wait_for()
                page.wait_for_timeout(_SETTLED_MS)
                long = {"scrubbing": _scrubbed(page), "dragging": _dragged(page)}
                movies = _movies(page, url)
                browser.close()
        finally:
            server.terminate()
            server.wait()
            if server.stdout is not None:
                server.stdout.close()
    return {
        "shot": f"{FRAMES} frames x {LAYERS} layers",
        "renderer": renderer,
        "frames_a_second_at_rest": resting,
        "samples_applied_ms": figures,
        "long_shot": f"{LONG_FRAMES} frames x {LONG_LAYERS} layers",
        "long_shot_samples_applied_ms": long,
        "long_shot_p95_ms_aim": 100,
        **movies,
    }


def _at_rest(browser: Any, page: Any) -> int:
    """Return the number of frames that the page draws in a second without input.

    0 unless something draws continuously.
    """
    page.wait_for_timeout(_SETTLED_MS)
    browser.start_tracing(page=page, categories=["cc"])
    page.wait_for_timeout(1000)
    events = json.loads(browser.stop_tracing())["traceEvents"]
    return sum(event["name"] == "ProxyMain::BeginMainFrame" for event in events)


def _dragged(page: Any, play: bool = False) -> dict[str, object]:
    """Drag a swing and read the measurements of the page."""
    if play:
        page.keyboard.press("Space")
    page.evaluate("() => performance.clearMeasures()")
    box = page.get_by_role("spinbutton", name="Swing of pan", exact=True).bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    for i in range(MOVES):
        page.mouse.move(x + 4 + i, y)
    page.mouse.up()
    page.locator("header [role=status]", has_text="saved").wait_for(state="attached")
    return _figures(page.evaluate(_MEASURES))


def _movies(page: Any, url: str) -> dict[str, object]:
    """Frames a second of a movie of a shot with a set, without and with sub-frames, from its second frame on."""
    found: dict[str, object] = {}
    for subframes, last in _MOVIES:
        asked = {"width_px": 1280, "height_px": 720, "subframes": subframes, "last_frame": last}
        origin = {"Origin": url.rstrip("/")}
        made = page.request.post(f"{url}api/shots/signal-run/movies", data=asked, headers=origin).json()

        def reached(number: int, movie: str = made["id"]) -> float:
            while page.request.get(f"{url}api/movies/{movie}").json()["next"] < number:
                page.wait_for_timeout(_LOOKS_MS)
            return time.perf_counter()

        page.goto(f"{url}shot/signal-run?movie={made['id']}")
        begun = reached(2)
        found[f"movie_{subframes}_sub_frames_fps"] = round((last - 2) / (reached(last) - begun), 2)
    return found


def _scrubbed(page: Any) -> dict[str, object]:
    """Drag the playhead over the ruler and read the measurements of the page."""
    page.evaluate("() => performance.clearMeasures()")
    box = page.get_by_test_id("ruler").bounding_box()
    y = box["y"] + box["height"] / 2
    page.mouse.move(box["x"] + _INSET_PX, y)
    page.mouse.down()
    for i in range(MOVES):
        page.mouse.move(box["x"] + _INSET_PX + (box["width"] - 2 * _INSET_PX) * i / MOVES, y)
        page.wait_for_timeout(_BETWEEN_MS)
    page.mouse.up()
    page.wait_for_timeout(_SETTLED_MS)
    return _figures(page.evaluate(_MEASURES))


def _figures(measured: dict[str, Any]) -> dict[str, object]:
    """Return median and 95th percentile of the total, and the medians of its parts; transfer is the remainder."""
    times = sorted(measured["applied"])
    server = {
        step: round(statistics.median(each[step] for each in measured["server"]), 1) for step in measured["server"][0]
    }
    page = {name: round(statistics.median(measured[name]), 1) for name in ("decode", "store", "draw")}
    median = statistics.median(times)
    return {
        "count": len(times),
        "median": round(median, 1),
        "p95": round(times[int(0.95 * (len(times) - 1))], 1),
        "server": server,
        "transfer": round(median - sum(server.values()) - page["decode"] - page["store"], 1),
        "page": page,
    }
