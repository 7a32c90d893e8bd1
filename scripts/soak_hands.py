"""Hands of the soak: real browsers that tick a card at full speed, reload, close, go offline, and have two tabs each.

What a hand ticked last is what has to be in the job at the end: whatever the screen showed as done is there.
"""

import asyncio
import json
import random
import time
from collections.abc import Callable
from contextlib import AsyncExitStack, suppress
from typing import Any

import httpx
from playwright.async_api import BrowserContext, Error, Page, async_playwright

FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]
BOXES = "li[data-step] > label input[type=checkbox]"
CLICK = """([many, seed]) => {
    const boxes = [...document.querySelectorAll('BOXES')].filter((b) => !b.disabled)
    const said = []
    for (let n = 0; n < many && boxes.length; n++) {
        const box = boxes[(seed + n * 7) % boxes.length]
        box.click()
        said.push([box.closest('li').dataset.step, box.checked])
    }
    return said
}""".replace("BOXES", BOXES)


class Hand:
    """One person at one card, in a browser of its own."""

    def __init__(self, address: str, job: str, goes_on: Callable[[], bool]):
        self.address, self.job, self.goes_on = address, job, goes_on
        self.wanted: dict[str, bool] = {}
        self.ticks = self.reloads = self.closed = self.offline = 0

    async def work(self, context: BrowserContext) -> None:
        """Tick, and do what hurried people do, until the time is over; then wait until all is told as saved."""
        pages = [await self._opened(context)]
        while self.goes_on():
            page = random.choice(pages)
            with suppress(Error):
                for step, checked in await page.evaluate(CLICK, [random.randint(1, 12), random.randrange(1000)]):
                    self.wanted[step] = checked
                    self.ticks += 1
            match random.random():
                case x if x < 0.15:
                    self.reloads += 1
                    with suppress(Error):
                        await page.reload()
                        await page.wait_for_selector(BOXES, timeout=20_000)
                case x if x < 0.25 and len(pages) > 1:
                    self.closed += 1
                    await page.close()
                    pages.remove(page)
                case x if x < 0.35 and len(pages) < 2:
                    pages.append(await self._opened(context))
                case x if x < 0.45:
                    self.offline += 1
                    await context.set_offline(True)
                    await asyncio.sleep(random.uniform(0.2, 3))
                    await context.set_offline(False)
                case _:
                    await asyncio.sleep(random.uniform(0.05, 0.6))
            # Two tabs of one person agree before the other one is used: nobody ticks in both within a breath.
            await asyncio.sleep(0.5)
        last = await self._opened(context)
        with suppress(Error):
            await last.get_by_test_id("saved").filter(has_text="Saved").wait_for(timeout=90_000)

    async def _opened(self, context: BrowserContext) -> Page:
        for _ in range(60):
            page = await context.new_page()
            page.on("dialog", lambda dialog: asyncio.ensure_future(dialog.accept()))
            try:
                await page.goto(f"{self.address}/jobs/{self.job}/build")
                await page.wait_for_selector(BOXES, timeout=20_000)
            except Error:
                await page.close()
                await asyncio.sleep(1)
            else:
                return page
        raise TimeoutError(f"{self.job} could not be opened")

    async def compare(self, client: httpx.AsyncClient) -> list[str]:
        """What is not as the screen showed it."""
        ticks: list[dict[str, Any]] = (await client.get(f"/api/jobs/{self.job}")).json()["job"]["build"]["ticks"]
        there = {t["step"] for t in ticks}
        return [
            f"{self.job}: {step} was {'ticked' if done else 'taken back'} last, and is {'not ' if done else ''}there"
            for step, done in self.wanted.items()
            if (step in there) != done
        ]


async def many(address: str, text: str, count: int, until: float, client: httpx.AsyncClient) -> tuple[str, list[str]]:
    """That many hands on jobs of their own until a time; how much they did, and what is not as they saw it."""
    hands = []
    for n in range(count):
        file = json.loads(text)
        file["job"] |= {"id": f"hand-{n}", "title": f"Hand {n}"}
        file["job"]["build"] = {}
        answer = await client.post("/api/jobs/import", json=file)
        assert answer.status_code == 200, answer.text
        hands.append(Hand(address, f"hand-{n}", lambda: time.monotonic() < until))
    async with AsyncExitStack() as stack:
        playwright = await stack.enter_async_context(async_playwright())
        browser = await playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        contexts = [await browser.new_context() for _ in hands]
        for context in contexts:
            await context.add_init_script("localStorage.setItem('person', 'Ines Tarrow')")
        await asyncio.gather(*(h.work(c) for h, c in zip(hands, contexts, strict=True)))
        await browser.close()
    wrong = [line for hand in hands for line in await hand.compare(client)]
    told = {name: sum(getattr(h, name) for h in hands) for name in ("ticks", "reloads", "closed", "offline")}
    return f"{count} hands: " + ", ".join(f"{n} {name}" for name, n in told.items()), wrong
