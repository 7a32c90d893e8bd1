"""The shop: its name and its people."""

from fastapi import APIRouter
from pydantic import BaseModel
from sqlalchemy.orm import Session

from inclinum import __version__
from inclinum.api.database import Database
from inclinum.store import shop

router = APIRouter(tags=["shop"])


class ShopView(BaseModel):
    """The shop as the client greets it."""

    name: str
    people: list[str]
    version: str


@router.get("/shop", operation_id="get_shop")
async def get_shop(store: Database) -> ShopView:
    """Name and people."""
    return await store(_view)


def _view(session: Session) -> ShopView:
    return ShopView(name=shop.shop_name(session), people=shop.people(session), version=__version__)
