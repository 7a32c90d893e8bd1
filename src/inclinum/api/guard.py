"""What every request passes first: is it meant for this server, does it come from its own pages, is it of a size."""

import base64
import hashlib
import json
import re
from collections.abc import Iterable
from pathlib import Path
from time import monotonic

from anyio import CapacityLimiter, fail_after
from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from inclinum.api.errors import Refusal
from inclinum.jobfile import LARGEST_BYTES, Twice, may_be_unwritable, once, unwritable

OUR_NAMES = ("127.0.0.1", "localhost", "[::1]")
"""Names under which this server may be addressed. Another name that leads here is somebody else's page."""
LANES = {"list": 3, "read": 2, "write": 4, "computed": 400, "photo": 2, "paper": 1}
"""Requests of a sort that are worked on at once."""
ARRIVING = 100
"""Bodies that may be on their way at once."""
BODY_S = 30.0
"""A body has arrived by then, or nobody waits for it."""
LEAST_BYTES_PER_S = 4_000
"""A body comes at least as quickly, once it had a moment to begin."""
BEGIN_S = 5.0
QUICK = ("/api/shop", "/api/jobs", "/api/vehicles")
HEADERS = {
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "X-Frame-Options": "DENY",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
}


def content_policy(client: Path | None) -> str:
    """The Content-Security-Policy: only our own files, and word for word the scripts that stand in our own page and the
    few styles that the built client's own elements carry."""
    scripts, styles = [], set()
    if client:
        scripts = re.findall(r"<script>(.*?)</script>", (client / "index.html").read_text(), re.S)
        for built in (client / "_app").rglob("*.js"):
            styles |= set(re.findall(r'<\w[^<>`]* style="([^"$]+)"', built.read_text()))
    return (
        f"default-src 'self'; script-src 'self'{_hashes(scripts)}; style-src 'self'; "
        f"style-src-attr 'unsafe-hashes'{_hashes(sorted(styles))}; img-src 'self' data: blob:; "
        "font-src 'self'; connect-src 'self'; object-src 'none'; base-uri 'self'; form-action 'self'; "
        "frame-ancestors 'none'"
    )


def _hashes(texts: Iterable[str]) -> str:
    return "".join(f" 'sha256-{base64.b64encode(hashlib.sha256(t.encode()).digest()).decode()}'" for t in texts)


class Guard:
    """Refuses other hosts' names, other pages' requests, and what is too large; adds the headers that keep pages apart.

    A crowd waits here, where waiting costs nothing, and not in the middle of its work: saves do not stand in the way of
    lists, nor either in the way of what is computed elsewhere.

    Args:
        app: what is guarded.
        names: host names, without port, that are ours.
        policy: the Content-Security-Policy of every answer.
        computed: addresses that are answered by computing processes.
    """

    def __init__(self, app: ASGIApp, names: Iterable[str], policy: str, computed: Iterable[str] = ()):
        self.app, self.names = app, frozenset(names)
        self._computed = frozenset(computed)
        self._arriving = CapacityLimiter(ARRIVING)
        self._lanes = {lane: CapacityLimiter(places) for lane, places in LANES.items()}
        self.headers = HEADERS | {"Content-Security-Policy": policy}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """As ASGI wants it."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return

        async def with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                MutableHeaders(scope=message).update(self.headers)
            await send(message)

        headers = Headers(scope=scope)
        if refused := self._refused(scope, headers):
            await _refuse(*refused)(scope, receive, with_headers)
            return
        # What is still on its way holds no place in a lane: a request half-sent stands in nobody's way.
        body = b""
        if scope["method"] not in ("GET", "HEAD", "OPTIONS", "DELETE") or headers.get("content-length"):
            async with self._arriving:
                arrived = await _in_time(headers, receive)
            if isinstance(arrived, tuple):
                await _refuse(*arrived)(scope, receive, with_headers)
                return
            body = arrived
        lane = self._lane(scope)
        if lane == "write" and "json" in headers.get("content-type", "") and (key := _twice(body)):
            told = f"“{key}” stands twice in one place; one of them would be lost. Nothing was done."
            await _refuse(422, told)(scope, receive, with_headers)
            return
        waiting: list[Message] = [{"type": "http.request", "body": body, "more_body": False}]

        async def again() -> Message:
            return waiting.pop() if waiting else await receive()

        async with self._lanes[lane]:
            await self.app(scope, again, with_headers)

    def _lane(self, scope: Scope) -> str:
        if scope["path"] == "/api/photos" and scope["method"] == "POST":
            return "photo"
        if scope["path"].endswith(".pdf"):
            return "paper"  # one after the other: whoever drags meanwhile has a processor left
        if scope["path"] in self._computed or scope["path"].endswith(("/card", "/openapi.json")):
            return "computed"
        if scope["method"] not in ("GET", "HEAD", "OPTIONS"):
            return "write"
        return "list" if scope["path"] in QUICK or not scope["path"].startswith("/api/") else "read"

    def _refused(self, scope: Scope, headers: Headers) -> tuple[int, str] | None:
        host = headers.get("host", "")
        if re.sub(r":\d*$", "", host).lower() not in self.names:
            return 421, "This address is not one of this server; open it as http://127.0.0.1 with its port."
        origin = headers.get("origin")
        if origin is not None and origin.lower() != f"{scope['scheme']}://{host.lower()}":
            return 403, "The request comes from a page on another address; nothing was done."
        if headers.get("sec-fetch-site") == "cross-site" and scope["method"] not in ("GET", "HEAD"):
            return 403, "The request comes from a page on another address; nothing was done."
        if "\x00" in scope["path"] or b"%00" in scope.get("query_string", b""):
            return 404, "There is nothing at this address."
        return None


def _twice(body: bytes) -> str | None:
    """A key that stands twice in one object; None where none does, or where the body is no JSON."""
    try:
        json.loads(body, object_pairs_hook=once)
    except Twice as error:
        return error.key
    except (ValueError, RecursionError):
        return None  # whoever reads it says what is wrong with it
    return None


async def _in_time(headers: Headers, receive: Receive) -> bytes | tuple[int, str]:
    """The whole body, or why it is refused; one that does not come is waited for no longer than any body may take."""
    try:
        with fail_after(BODY_S):
            return await _body(headers, receive)
    except TimeoutError:
        return SLOW


SLOW = (408, "The rest of the request did not come; nothing was done. Send it again.")


async def _body(headers: Headers, receive: Receive) -> bytes | tuple[int, str]:
    """The whole body, or why it is refused, before anything of it is parsed."""
    began = monotonic()
    too_large = (
        413,
        f"That is larger than {LARGEST_BYTES / 1e6:.0f} MB, more than anything that is kept; nothing was done.",
    )
    length = headers.get("content-length", "0")
    if not (length.isascii() and length.isdigit()) or int(length) > LARGEST_BYTES:
        return too_large
    parts: list[bytes] = []
    size = 0
    while True:
        waited = monotonic() - began
        try:
            # Due at the least rate: what has come so far buys as much time.
            with fail_after(max(0.0, BEGIN_S + size / LEAST_BYTES_PER_S - waited)):
                message = await receive()
        except TimeoutError:
            return SLOW
        if message["type"] == "http.disconnect":
            return 400, "The request was cut off."
        parts.append(message.get("body", b""))
        size += len(parts[-1])
        if size > LARGEST_BYTES:
            return too_large
        if not message.get("more_body"):
            break
    body = b"".join(parts)
    if may_be_unwritable(body):
        try:
            path = unwritable(json.loads(body))
        except (ValueError, RecursionError):
            path = None  # whoever reads it says what is wrong with it
        if path:
            return 422, f"{path}: this text holds a character that is no text; type it again."
    return body


def _refuse(status: int, sentence: str) -> JSONResponse:
    return JSONResponse(Refusal(sentence=sentence).model_dump(mode="json"), status)
