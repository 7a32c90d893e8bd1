"""A simulated wrench: stands in for one where there is none, and says so."""

import asyncio
from contextlib import suppress

from inclinum.wrench.protocol import ALIVE_EVERY_S, Alive, Hello, Pulled, line_of

HELLO = Hello(name="Simulated wrench", simulated=True, least_nm=20, most_nm=200)


class SimulatedWrench:
    """A server on loopback that speaks as a wrench does.

    Args:
        port: to listen at; any free one when 0.
    """

    def __init__(self, port: int = 0):
        self.port = port
        self._server: asyncio.Server | None = None
        self._heard: set[asyncio.StreamWriter] = set()

    async def plug(self) -> None:
        """Be there; nothing where it is already."""
        if self._server is None:
            self._server = await asyncio.start_server(self._meet, "127.0.0.1", self.port)
            self.port = self._server.sockets[0].getsockname()[1]

    async def unplug(self) -> None:
        """Be gone, in the middle of whatever was said."""
        if self._server is not None:
            self._server.close()
            self._server = None
        for writer in self._heard.copy():
            writer.transport.abort()
        self._heard.clear()

    async def pull(self, torque_nm: float, angle_deg: float = 0.0) -> None:
        """Click at a torque, N·m, after so many degrees."""
        for writer in self._heard.copy():
            await _say(writer, Pulled(torque_nm=torque_nm, angle_deg=angle_deg))

    async def _meet(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        _ = reader
        await _say(writer, HELLO)
        self._heard.add(writer)
        # A program that ends cancels this: for a server's connections that is no news.
        with suppress(asyncio.CancelledError):
            while writer in self._heard:
                await asyncio.sleep(ALIVE_EVERY_S)
                await _say(writer, Alive())


async def _say(writer: asyncio.StreamWriter, said: Hello | Alive | Pulled) -> None:
    # Who hung up hears nothing more; they come back by themselves.
    with suppress(ConnectionError, RuntimeError):
        writer.write(line_of(said))
        await writer.drain()
