"""A digital wrench at the hoist: whether it is there, and its clicks."""

import asyncio
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager, suppress
from typing import Annotated, Literal

from fastapi import APIRouter, FastAPI, Query, Request
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session
from starlette.exceptions import HTTPException

from inclinum.api.database import By, Database
from inclinum.api.saving import LARGEST_ID
from inclinum.wrench import Listener, Pull, SimulatedWrench

router = APIRouter(tags=["wrench"])


class Bench:
    """The wrench of this shop: here a simulated one, heard over its socket like any other."""

    def __init__(self) -> None:
        self.simulated = SimulatedWrench()
        self.listener: Listener | None = None

    @asynccontextmanager
    async def running(self) -> AsyncIterator[None]:
        """Plugged in and listened to."""
        await self.simulated.plug()
        self.listener = Listener("127.0.0.1", self.simulated.port)
        hearing = asyncio.create_task(self.listener.listen())
        try:
            yield
        finally:
            hearing.cancel()
            with suppress(asyncio.CancelledError):
                await hearing
            await self.simulated.unplug()


@asynccontextmanager
async def lifespan(app: FastAPI) -> AsyncIterator[None]:
    """While the application serves."""
    bench: Bench | None = getattr(app.state, "wrench", None)
    if bench is None:
        yield
        return
    async with bench.running():
        yield


class WrenchView(BaseModel):
    """What is known of the wrench, and its clicks since the last look."""

    state: Literal["none", "ready", "away"]
    name: str = ""
    simulated: bool = False
    least_nm: float | None = None
    most_nm: float | None = None
    count: int = 0
    """Clicks heard so far."""
    pulls: list[Pull] = []


def _bench(request: Request) -> Bench | None:
    return getattr(request.app.state, "wrench", None)


@router.get("/wrench", operation_id="wrench")
async def wrench(
    request: Request,
    after: Annotated[int, Query(ge=0, le=LARGEST_ID, description="number of the last click that was seen")] = 0,
) -> WrenchView:
    """Whether a wrench is there, and what it clicked at since."""
    bench = _bench(request)
    if bench is None or bench.listener is None:
        return WrenchView(state="none")
    listener = bench.listener
    which = listener.wrench or listener.known
    return WrenchView(
        state="ready" if listener.wrench else "away",
        name=which.name if which else "",
        simulated=which.simulated if which else True,
        least_nm=which.least_nm if which else None,
        most_nm=which.most_nm if which else None,
        count=listener.count,
        pulls=listener.pulls(after),
    )


class Simulate(BaseModel):
    """Something done with the simulated wrench."""

    plugged: bool | None = None
    torque_nm: float | None = Field(default=None, ge=0, le=3000)
    angle_deg: float = Field(default=0, ge=0, le=3600)


def _known(session: Session, by: str) -> None:
    """Nothing but that the acting person is looked up."""


@router.post("/wrench/simulated", operation_id="simulate_wrench", status_code=204)
async def simulate(request: Request, body: Simulate, store: Database, by: By) -> None:
    """Click the simulated wrench, plug it in or pull its plug; somebody of the shop does."""
    bench = _bench(request)
    if bench is None:
        raise HTTPException(404, "No simulated wrench runs here.")
    await store(_known, by=by)
    if body.plugged is not None:
        await (bench.simulated.plug() if body.plugged else bench.simulated.unplug())
    if body.torque_nm is not None:
        await bench.simulated.pull(body.torque_nm, body.angle_deg)
