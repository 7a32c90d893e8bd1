"""Computing beside serving: in processes of its own, bounded in time, stopped when nobody waits for it any more.

A prediction holds its interpreter for some 40 ms. The process that answers the browser never computes, so that a save
or a list does not wait behind somebody's drag.
"""

import asyncio
import logging
import multiprocessing
import os
import signal
import time
import traceback
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from functools import cache
from inspect import signature
from typing import Any, NoReturn, Protocol, TypeVar, get_args, get_origin
from urllib.parse import parse_qs

from anyio import to_thread
from fastapi import Request, Response
from fastapi.routing import APIRoute
from pydantic import BaseModel, TypeAdapter
from starlette.exceptions import HTTPException

from inclinum.api.collector import settle
from inclinum.api.errors import AnsweredElsewhere, Refusal, fault, refusal_of

LONGEST_S = 2.0
"""Of a processor, for one answer."""
PAPER_S = 40.0
"""The same for a paper: a card with many notes of one's own has dozens of pages, each some tenths of a second."""
LOOK_EVERY_S = 0.1
"""Of a processor: how soon a worker notices that nobody waits."""
PLACES = 1024
"""Answers that may be under way or waiting at once."""
Result = TypeVar("Result")
log = logging.getLogger("inclinum")


class TooLong(BaseException):
    """The answer took longer than any may."""


class Gone(BaseException):
    """Nobody waits for the answer any more."""


class Computer(Protocol):
    """What computes."""

    async def run(
        self, request: Request, work: Callable[..., Result], *given: Any, longest_s: float = LONGEST_S
    ) -> Result:
        """``work(*given)``, or an error that tells why not."""
        ...


def _outcome(work: Callable[..., Any], given: tuple[Any, ...]) -> tuple[str, Any]:
    """How it went, so that it can cross between processes: what was found, what is wrong, or our own fault."""
    try:
        return "found", work(*given)
    except TooLong:
        sentence = "This takes longer to compute than any answer may. Take entries out, or set less extreme ones."
        return "refused", (422, Refusal(sentence=sentence).model_dump(mode="json"))
    except Exception as error:
        if (answer := refusal_of(error)) is None:
            return "failed", "".join(traceback.format_exception(error))
        return "refused", (answer[0], answer[1].model_dump(mode="json"))


def _found(request: Request, outcome: tuple[str, Any]) -> Any:
    how, what = outcome
    if how == "found":
        return what
    if how == "refused":
        raise AnsweredElsewhere(*what)
    body = fault(request.method, request.url.path, what)
    raise AnsweredElsewhere(500, body.model_dump(mode="json"))


class Inline:
    """Computes in a thread of this process: for one user, and for tests of what is computed."""

    async def run(
        self, request: Request, work: Callable[..., Result], *given: Any, longest_s: float = LONGEST_S
    ) -> Result:
        """``work(*given)``, or an error that tells why not; however long it takes."""
        return _found(request, await to_thread.run_sync(_outcome, work, given))


_shared: Any = None
"""A flag for each place: whether its answer is no longer wanted."""
_place = -1
_until = 0.0


def _ready(shared: Any, begin: Callable[[], None]) -> None:
    """A worker's beginning: it stands back for whoever serves, and looks at the clock."""
    global _shared
    _shared = shared
    begin()
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    signal.signal(signal.SIGPROF, _look)
    os.nice(15)
    settle()


def _look(*_: object) -> None:
    if _place < 0:
        return
    if _shared[_place]:
        raise Gone
    if time.process_time() > _until:
        raise TooLong


def _in_worker(place: int, longest_s: float, work: Callable[..., Any], given: tuple[Any, ...]) -> tuple[str, Any]:
    global _place, _until
    if _shared[place]:
        return "gone", None
    _place, _until = place, time.process_time() + longest_s
    signal.setitimer(signal.ITIMER_PROF, LOOK_EVERY_S, LOOK_EVERY_S)
    try:
        return _outcome(work, given)
    except Gone:
        return "gone", None
    finally:
        _place = -1
        signal.setitimer(signal.ITIMER_PROF, 0)


def _nothing() -> None:
    """Work that only brings a worker up."""


class Workers:
    """Computes in processes forked from this one, with everything it has imported.

    Made before the server's threads are, since a process with threads cannot be forked safely; for the same reason a
    worker that dies is not replaced here: ``when_broken`` is called, and whoever looks after this process starts it
    again.

    Args:
        when_broken: called when a worker died.
        count: of processes; one for each processor when left out.
        begin: what each of them does first.
    """

    def __init__(
        self, when_broken: Callable[[], None], count: int | None = None, begin: Callable[[], None] = lambda: None
    ):
        context = multiprocessing.get_context("fork")
        self._flags = context.RawArray("b", PLACES)
        self._free = list(range(PLACES))
        self._pool = ProcessPoolExecutor(count or os.cpu_count() or 2, context, _ready, (self._flags, begin))
        self._pool.submit(_nothing).result()
        self._when_broken = when_broken

    async def run(
        self, request: Request, work: Callable[..., Result], *given: Any, longest_s: float = LONGEST_S
    ) -> Result:
        """``work(*given)``, or an error that tells why not; stopped when it takes too long or the asker hangs up."""
        if not self._free:
            raise HTTPException(503, "Too much is being computed just now; try again in a moment.")
        place = self._free.pop()
        self._flags[place] = 0
        try:
            future = self._pool.submit(_in_worker, place, longest_s, work, given)
        except BrokenProcessPool:
            self._broken()
        future.add_done_callback(lambda _: self._free.append(place))
        answer = asyncio.wrap_future(future)
        hung_up = asyncio.ensure_future(_hung_up(request))
        try:
            await asyncio.wait({answer, hung_up}, return_when=asyncio.FIRST_COMPLETED)
            if not answer.done():
                raise HTTPException(499, "Nobody waits for the answer any more.")
            return _found(request, answer.result())
        except BrokenProcessPool:
            self._broken()
        finally:
            hung_up.cancel()
            if not answer.done():
                self._flags[place] = 1
                answer.cancel()

    def _broken(self) -> NoReturn:
        log.error("a computing process died; starting anew")
        self._when_broken()
        raise HTTPException(503, "Computing is started anew just now; try again in a moment.")

    def close(self) -> None:
        """Let the processes go."""
        self._pool.shutdown(wait=False, cancel_futures=True)


async def _hung_up(request: Request) -> None:
    """Returns when the asker has hung up. The body has been read by now."""
    while (await request.receive())["type"] != "http.disconnect":
        pass


@cache
def _readers(function: Callable[..., Any]) -> tuple[TypeAdapter[Any], ...]:
    """Of the body, and of what the address asks where the function takes that too."""
    return tuple(TypeAdapter(p.annotation) for p in signature(function).parameters.values())


@cache
def _asked(function: Callable[..., Any]) -> tuple[type[BaseModel], ...]:
    """The documents that the address asks by."""
    annotated = [p.annotation for p in signature(function).parameters.values()][1:]
    return tuple(get_args(a)[0] for a in annotated)


def _told(query: str, of: type[BaseModel]) -> dict[str, str | list[str]]:
    """What an address says of a document: a list where the document has one, or where a name is there twice."""
    several = {name for name, field in of.model_fields.items() if get_origin(field.annotation) is tuple}
    told = parse_qs(query, keep_blank_values=True)
    return {name: given if name in several or len(given) > 1 else given[0] for name, given in told.items()}


@cache
def _writer(function: Callable[..., Any]) -> TypeAdapter[Any]:
    return TypeAdapter(signature(function).return_annotation)


def answer_json(function: Callable[..., Any], body: bytes, query: str = "") -> bytes:
    """A route's function on a body, both as JSON: read, worked out and written in one place.

    Args:
        function: of the body, and perhaps of a document that the address asks by.
        body: as it came.
        query: of the address.
    """
    of_body, *of_query = _readers(function)
    asked = [reader.validate_python(_told(query, of)) for reader, of in zip(of_query, _asked(function), strict=True)]
    found = function(of_body.validate_json(body), *asked)
    if isinstance(found, BaseModel):
        # The core made it valid; checking it again would double the time of a live drag.
        return found.model_dump_json().encode()
    return found.encode() if isinstance(found, str) else _writer(function).dump_json(found)


class Computed(APIRoute):
    """A route whose function works its answer out from the body alone: all of it happens where computing is done."""

    def get_route_handler(self) -> Callable[[Request], Any]:
        """As Starlette wants it."""
        function = self.endpoint
        plain = signature(function).return_annotation is str

        async def handle(request: Request) -> Response:
            body = await request.body()
            content = await computer_of(request).run(request, answer_json, function, body, request.url.query)
            return Response(content, media_type="text/csv" if plain else "application/json")

        return handle


def computer_of(request: Request) -> Computer:
    """What computes for the application."""
    return request.app.state.computer
