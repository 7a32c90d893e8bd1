"""How long the screen takes: cold open to usable, and a slider's step to the pixel.

Needs the application running: .venv/bin/python benchmarks/screen.py [URL]. Every number is printed beside the server's
own answer to the same prediction in the same run, since the machine is shared with the browser.
"""

import statistics
import sys
import time

from playwright.sync_api import Browser, Page, sync_playwright

JOB = "/jobs/van-2026-washed-out-track/plan"
OPENS, STEPS = 7, 40
STEP_TO_PIXEL = """async ([selector, up]) => {
    const slider = document.querySelector(selector), rise = document.querySelector('[data-testid=rise-rear]');
    const was = rise.textContent, start = performance.now();
    slider.value = String(Number(slider.value) + up);
    slider.dispatchEvent(new Event('input', { bubbles: true }));
    while (rise.textContent === was && performance.now() - start < 5000) await new Promise(requestAnimationFrame);
    await new Promise(requestAnimationFrame);
    return performance.now() - start;
}"""


def cold_open(browser: Browser, url: str) -> float:
    """A browser that has never been here, until the prediction stands on the screen, ms."""
    context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=url)
    page = context.new_page()
    page.add_init_script("localStorage.person = 'Ines Tarrow'")
    start = time.perf_counter()
    page.goto(JOB)
    page.get_by_test_id("rise-front").wait_for()
    took = 1000 * (time.perf_counter() - start)
    context.close()
    return took


def drag(page: Page) -> tuple[list[float], list[float]]:
    """Times from a slider's step to the pixel, and of the server's answers between, ms."""
    server: list[float] = []
    page.on(
        "requestfinished",
        lambda r: server.append(r.timing["responseEnd"]) if "/api/predict?" in r.url else None,
    )
    selector = "[data-change=c2] input[type=range]"
    pixels = []
    for n in range(STEPS):
        pixels.append(page.evaluate(STEP_TO_PIXEL, [selector, 1 if n % 2 == 0 else -1]))
        page.wait_for_timeout(60)
    return pixels, server


def main() -> None:
    """Print the table."""
    url = sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8700"
    flags = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=flags)
        opens = [cold_open(browser, url) for _ in range(OPENS)]
        page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=url)
        page.add_init_script("localStorage.person = 'Ines Tarrow'")
        page.goto(JOB)
        page.get_by_test_id("rise-front").wait_for()
        pixels, server = drag(page)
        browser.close()
    for name, times in {"cold open": opens, "slider step to pixel": pixels, "of it the server": server}.items():
        ordered = sorted(times)
        p95 = ordered[min(len(ordered) - 1, int(0.95 * len(ordered)))]
        print(f"{name:24} median {statistics.median(times):7.0f} ms   95 % {p95:7.0f} ms")


if __name__ == "__main__":
    main()
