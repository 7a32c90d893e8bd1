"""Listens to a wrench, and keeps the last clicks for whoever asks; tells when it is not there."""

import asyncio
import time
from collections import deque
from contextlib import suppress
from datetime import UTC, datetime

from inclinum.core.document import Document, Moment
from inclinum.core.document.errors import DomainError
from inclinum.wrench.protocol import ALIVE_EVERY_S, LONGEST_LINE, Hello, Pulled, read

AGAIN_S = 0.5
SILENT_S = 3 * ALIVE_EVERY_S
"""A wrench that has said nothing for so long is not there."""
TWICE_S = 2.0
"""Two clicks nearer than this are one bolt pulled twice. Our judgement."""
KEPT = 50


class Pull(Document):
    """A click that was heard.

    Args:
        n: number of it, counting on.
        doubt: why it does not count; empty where it does.
    """

    n: int
    at: Moment
    torque_nm: float
    angle_deg: float
    doubt: str = ""


class Listener:
    """Hears one wrench.

    Args:
        host, port: where it is.
    """

    def __init__(self, host: str, port: int):
        self.host, self.port = host, port
        self.wrench: Hello | None = None
        """Which one is there; None while none is."""
        self.known: Hello | None = None
        """Which one was there last."""
        self._pulls: deque[Pull] = deque(maxlen=KEPT)
        self._last = -TWICE_S
        self._count = 0

    def pulls(self, after: int) -> list[Pull]:
        """Clicks after the nth, oldest first."""
        return [p for p in self._pulls if p.n > after]

    @property
    def count(self) -> int:
        """Clicks heard so far."""
        return self._count

    async def listen(self) -> None:
        """For ever: what is away is looked for again."""
        while True:
            with suppress(OSError, DomainError, asyncio.IncompleteReadError, asyncio.LimitOverrunError, TimeoutError):
                await self._hear()
            self.wrench = None
            await asyncio.sleep(AGAIN_S)

    async def _hear(self) -> None:
        reader, writer = await asyncio.open_connection(self.host, self.port, limit=LONGEST_LINE)
        try:
            while True:
                line = await asyncio.wait_for(reader.readuntil(b"\n"), SILENT_S)
                said = read(line)
                if isinstance(said, Hello):
                    self.wrench = self.known = said
                elif isinstance(said, Pulled):
                    self._heard(said)
        finally:
            writer.close()

    def _heard(self, said: Pulled) -> None:
        now = time.monotonic()
        doubt = ""
        if self.wrench and not self.wrench.least_nm <= said.torque_nm <= self.wrench.most_nm:
            doubt = (
                f"{said.torque_nm:g} N·m is outside the range of this wrench, {self.wrench.least_nm:g} to "
                f"{self.wrench.most_nm:g} N·m: it does not count. Take another wrench."
            )
        elif now - self._last < TWICE_S:
            doubt = f"Clicked twice within {TWICE_S:g} s: the second one does not count. Slacken and pull it once."
        self._last = now
        self._count += 1
        self._pulls.append(
            Pull(n=self._count, at=datetime.now(UTC), torque_nm=said.torque_nm, angle_deg=said.angle_deg, doubt=doubt)
        )
