"""The application: API under /api, the client for everything else."""

from pathlib import Path

from fastapi import FastAPI, HTTPException
from fastapi.middleware.gzip import GZipMiddleware
from fastapi.responses import FileResponse, Response
from sqlalchemy import Engine
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

from inclinum import __version__
from inclinum.api import align, bikes, brief, build, errors, jobs, measure, plan, prove, shop, vehicles
from inclinum.store.database import session_maker


def create_app(engine: Engine | None, client: Path | None = None) -> FastAPI:
    """The application on a database.

    Args:
        engine: the database; None makes an application that can only describe itself.
        client: folder of the built client, served when given.
    """
    app = FastAPI(title="Inclinum", version=__version__, docs_url="/api/docs", openapi_url="/api/openapi.json")
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=5)
    errors.install(app)
    for module in (shop, jobs, vehicles, brief, measure, plan, align, build, prove, bikes):
        app.include_router(module.router, prefix="/api")
    if engine is not None:
        app.state.sessions = session_maker(engine)
    if client is not None:
        app.mount("/", Client(directory=client, html=True))
    return app


class Client(StaticFiles):
    """Built files as they are; every other address is the client's own, and gets its page."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        """A file, or the client's page for an address inside it."""
        if path.startswith("api/"):
            raise HTTPException(404, "There is nothing at this address of the API.")
        try:
            response = await super().get_response(path, scope)
        except Exception as error:
            if getattr(error, "status_code", None) != 404 or "." in path.rpartition("/")[2]:
                raise
            response = FileResponse(Path(str(self.directory)) / "index.html")
        fixed = path.startswith("_app/immutable/")
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable" if fixed else "no-cache"
        return response
