"""The shop: its name and its people."""

from fastapi import APIRouter
from pydantic import BaseModel

from inclinum import __version__
from inclinum.api.database import Database
from inclinum.store import jobs

router = APIRouter(tags=["shop"])


class ShopView(BaseModel):
    """The shop as the client greets it."""

    name: str
    people: list[str]
    version: str


@router.get("/shop", operation_id="get_shop")
def get_shop(session: Database) -> ShopView:
    """Name and people."""
    return ShopView(name=jobs.shop_name(session), people=jobs.people(session), version=__version__)
