"""Takes the pictures in docs/screenshots from fresh demo data (`make screenshots`)."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Page

from tests.web.harness import BROWSING, new_page, serving, settled

OUT = Path(__file__).parent.parent / "docs/screenshots"
# Until what is tried on is drawn everywhere: canvases take turns meanwhile.
_TRIED_ON_MS = 3000


def main() -> None:
    """One PNG a view."""
    OUT.mkdir(parents=True, exist_ok=True)
    with serving() as server:
        page = new_page(BROWSING.browser(), server.url)
        page.get_by_role("link", name="Jetty walk", exact=True).wait_for()
        page.locator("canvas[data-drawn=yes]").nth(3).wait_for()
        shoot(page, "projects")
        bench(page, server.url, "jetty-walk", 70)
        shoot(page, "bench-empty")
        bench(page, server.url, "jetty-walk-handheld", 96)
        shoot(page, "bench")
        page.get_by_role("button", name="Select the move").click(position={"x": 300, "y": 40})
        page.keyboard.press("c")
        page.get_by_label("Numbers shown").select_option(label="angles °")
        page.locator("[data-point='pan/74']").click()
        shoot(page, "curves")
        page.keyboard.press("t")
        page.get_by_role("table", name="Frame table").wait_for()
        shoot(page, "frame-table")
        page.keyboard.press("Escape")
        bench(page, server.url, "jetty-walk-handheld", 96)
        page.locator("[data-pin='136']").click()
        page.get_by_role("button", name="Aim at Courier").wait_for()
        shoot(page, "place")
        bench(page, server.url, "jetty-walk-handheld", 96)
        page.keyboard.press("e")
        page.get_by_role("dialog").get_by_role("radio", name=".mp4").check()
        page.get_by_label("Sub-frames").wait_for()
        shoot(page, "export")
        page.keyboard.press("Escape")
        bench(page, server.url, "signal-run", 110)
        page.get_by_role("button", name="Clip Panic", exact=True).click()
        settled(page)
        shoot(page, "signal-run")
        page.get_by_role("button", name="Variant: Main").click()
        page.get_by_role("menuitem", name="Compare with Stand to run").click()
        page.locator("[data-side][data-ready=yes]").wait_for()
        page.get_by_role("button", name="Wipe").click()
        settled(page)
        shoot(page, "variants")
        bench(page, server.url, "sled-run", 70)
        page.keyboard.press("r")
        page.get_by_role("button", name=re.compile(r"^Preset Brisk walk (\d+ px|…)")).hover()
        page.locator("canvas[data-drawn=no]").first.wait_for(state="detached")
        settled(page)
        shoot(page, "presets")
        for name in ("Brisk walk", "Small boat", "Washboard", "Shoulder, standing"):
            page.get_by_label(f"Compare {name}", exact=True).check()
        page.locator("[data-trial][data-ready=yes]").nth(3).wait_for()
        page.mouse.move(400, 200)
        settled(page)
        shoot(page, "presets-compared")
        for name in ("Brisk walk", "Small boat", "Washboard", "Shoulder, standing"):
            page.get_by_label(f"Compare {name}", exact=True).uncheck()
        blend(page, server.url)
        bench(page, server.url, "signal-run", 110)
        page.get_by_role("button", name="Arms", exact=True).click()
        page.get_by_role("spinbutton", name="Swing of tilt", exact=True).press("ArrowUp")
        page.get_by_label("Undo: Set swing").wait_for()
        page.get_by_role("button", name="Clip Breath", exact=True).click()
        page.get_by_role("button", name="Compare …").click()
        page.get_by_label("Differences").get_by_text("Arms").wait_for()
        shoot(page, "preset-origin")
        page.keyboard.press("Escape")
        page.keyboard.press("Control+z")
        bench(page, server.url, "mast-fall", 60)
        for _ in range(7):
            page.keyboard.press("ArrowRight")
        page.locator("[data-cue]").first.focus()
        page.keyboard.press("Enter")
        page.get_by_label("Name of the cue").wait_for()
        settled(page)
        shoot(page, "mast-fall")
        bench(page, server.url, "kite-pass", 80)
        page.keyboard.press("Shift+R")
        page.locator("[data-mount=shoulder] button").first.click()
        page.get_by_role("tab", name="operator").click()
        page.get_by_test_id("framing").wait_for()
        shoot(page, "kite-pass")
        bench(page, server.url, "signal-run", 80)
        page.keyboard.press("Shift+I")
        page.get_by_role("region", name="Edit time").wait_for()
        settled(page)
        # The head does not tell whether what is tried on has come.
        page.wait_for_timeout(_TRIED_ON_MS)
        shoot(page, "edit-time")
        page.keyboard.press("Escape")
        page.keyboard.press("z")
        page.get_by_label("this shot loops").check()
        page.locator("[data-finding=seam]").first.wait_for(state="attached")
        settled(page)
        shoot(page, "checks")
        page.get_by_label("this shot loops").uncheck()
        settled(page)
        page.goto(f"{server.url}shot/surge-plates")
        settled(page)
        page.keyboard.press("End")
        page.get_by_label("Pieces of the set").click()
        page.get_by_role("menuitem", name="plate: Storm sky").click()
        page.get_by_text("Any one of these fixes it").wait_for()
        page.locator("[data-bare]").first.wait_for()
        settled(page)
        shoot(page, "plates")
        page.keyboard.press("Control+k")
        page.get_by_role("dialog").wait_for()
        shoot(page, "commands")


def bench(page: Page, url: str, slug: str, frame: int) -> None:
    """The bench with its set, at a frame."""
    page.goto(f"{url}shot/{slug}")
    settled(page)
    page.locator("[data-testid=set-view][data-set=ready]").wait_for()
    page.keyboard.press("Home")
    for _ in range(frame // 10):
        page.keyboard.press("Shift+ArrowRight")
    page.get_by_test_id("frame").get_by_text(f"{frame // 10 * 10 + 1:04d}").wait_for()
    drawn(page)


def blend(page: Page, url: str) -> None:
    """Three presets in corners, and a way between them."""
    bench(page, url, "jetty-walk", 110)
    page.keyboard.press("r")
    for name in ("Careful walk", "Run", "Small boat"):
        page.get_by_label(f"Compare {name}", exact=True).check()
    page.get_by_role("button", name="Blend these").click()
    page.get_by_test_id("blend-pad").wait_for()
    settled(page)
    for number, values in (("across", (20, 90, 40)), ("up", (80, 30, 25))):
        for frame, value in zip((20, 90, 170), values, strict=True):
            page.get_by_test_id("frame").dblclick()
            page.get_by_label("Frame to go to").fill(str(frame))
            page.keyboard.press("Enter")
            page.get_by_test_id("frame").get_by_text(f"{frame:04d}").wait_for()
            if frame == 20:
                page.get_by_label(f"Key of {number} here").click()
            entry = page.get_by_role("spinbutton", name=number, exact=True)
            entry.press("Enter")
            page.get_by_role("textbox", name=number, exact=True).fill(str(value))
            page.keyboard.press("Enter")
            settled(page)
    page.locator("canvas[data-drawn=no]").first.wait_for(state="detached")
    shoot(page, "blend")


def drawn(page: Page) -> None:
    """Waits until what was asked for has been drawn: two turns of the browser's own clock."""
    page.evaluate(
        "new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => requestAnimationFrame(done))))"
    )


def shoot(page: Page, name: str) -> None:
    """Writes docs/screenshots/NAME.png."""
    drawn(page)
    page.screenshot(path=OUT / f"{name}.png")
    print(OUT / f"{name}.png")


if __name__ == "__main__":
    main()
