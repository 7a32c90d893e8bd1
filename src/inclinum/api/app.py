"""The application: API under /api, the client for everything else."""

import json
from functools import cache
from pathlib import Path

from fastapi import APIRouter, FastAPI, Request
from fastapi.middleware.gzip import GZipMiddleware
from fastapi.responses import FileResponse, HTMLResponse, Response
from sqlalchemy import Engine
from starlette.exceptions import HTTPException
from starlette.routing import Match, Mount
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

from inclinum import __version__
from inclinum.api import (
    align,
    build,
    corrections,
    errors,
    jobs,
    kinds,
    measure,
    part_bench,
    photos,
    plan,
    prove,
    shop,
    vehicles,
    wrench,
)
from inclinum.api.computing import Computer, Inline
from inclinum.api.database import Store
from inclinum.api.guard import OUR_NAMES, Guard, content_policy
from inclinum.store.database import session_maker

MODULES = (shop, kinds, jobs, corrections, vehicles, measure, plan, align, build, prove, part_bench, photos, wrench)
DOCS = """<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>Inclinum API</title>
<link rel="stylesheet" href="/docs/swagger-ui.css"></head>
<body><div id="api"></div>
<script src="/docs/swagger-ui-bundle.js"></script><script src="/docs/start.js"></script></body>
</html>
"""


def create_app(
    engine: Engine | None,
    client: Path | None = None,
    computer: Computer | None = None,
    bench: wrench.Bench | None = None,
) -> FastAPI:
    """The application on a database.

    Args:
        engine: the database; None makes an application that computes and describes itself, but keeps nothing.
        client: folder of the built client, served when given.
        computer: what computes; a thread of this process when left out.
        bench: the wrench that is listened to, where there is one.
    """
    app = FastAPI(
        title="Inclinum", version=__version__, docs_url=None, redoc_url=None, openapi_url=None,
        responses=errors.ALWAYS, lifespan=wrench.lifespan,
    )  # fmt: skip
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=5)
    errors.install(app)
    app.get("/api/openapi.json", include_in_schema=False)(_openapi)
    for module in MODULES:
        app.include_router(module.router, prefix="/api")
    computed = [f"/api{r.path}" for m in MODULES for r in getattr(m, "computed", APIRouter()).routes]  # type: ignore[attr-defined]
    app.add_middleware(Guard, names=OUR_NAMES, policy=content_policy(client), computed=computed)
    app.state.computer = computer or Inline()
    app.state.wrench = bench
    if engine is not None:
        app.state.store = Store(session_maker(engine))
    if client is not None:
        app.get("/api/docs", include_in_schema=False)(_docs)
        app.mount("/", Client(directory=client, html=True))
    return app


@cache
def description() -> bytes:
    """The API's own description. It takes a second or two to put together."""
    return json.dumps(create_app(None).openapi(), ensure_ascii=False).encode()


METHODS = ("GET", "POST", "PUT", "DELETE")


def _answers(scope: Scope, method: str) -> bool:
    """Whether the API has something at an address for another method."""
    asked = {**scope, "method": method, "root_path": ""}
    routes = [r for r in scope["app"].router.routes if not isinstance(r, Mount)]
    return any(route.matches(asked)[0] is Match.FULL for route in routes)


async def _openapi(request: Request) -> Response:
    found = await request.app.state.computer.run(request, description)
    return Response(found, media_type="application/json")


async def _docs() -> Response:
    return HTMLResponse(DOCS)


class Client(StaticFiles):
    """Built files as they are; every other address is the client's own, and gets its page."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        """A file, or the client's page for an address inside it."""
        if path.startswith("api/") or path == "api":
            others = {m for m in METHODS if _answers(scope, m)}
            if others:
                raise HTTPException(405, headers={"Allow": ", ".join(sorted(others))})
            raise HTTPException(404, "There is nothing at this address of the API.")
        try:
            response = await super().get_response(path, scope)
        except Exception as error:
            # A job's id may have a dot in it; a file's name that is not there is no page.
            page = path.startswith(("jobs/", "vehicles/")) or "." not in path.rpartition("/")[2]
            if getattr(error, "status_code", None) != 404 or not page:
                raise
            response = FileResponse(Path(str(self.directory)) / "index.html")
        fixed = path.startswith("_app/immutable/")
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable" if fixed else "no-cache"
        return response
