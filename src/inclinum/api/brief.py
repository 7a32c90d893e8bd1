"""Stage 1: the brief."""

from fastapi import APIRouter

from inclinum.api.saving import add_save_route
from inclinum.core.car.job import Brief

router = APIRouter(tags=["brief"])
add_save_route(router, "brief", Brief)
