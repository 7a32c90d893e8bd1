"""One session and one transaction per request."""

from collections.abc import Iterator
from typing import Annotated

from fastapi import Depends, Request
from sqlalchemy.orm import Session


def _session(request: Request) -> Iterator[Session]:
    with request.app.state.sessions.begin() as session:
        yield session


# The function scope commits before the answer is sent: who is told "saved" has it saved.
Database = Annotated[Session, Depends(_session, scope="function")]
