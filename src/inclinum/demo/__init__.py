"""The demo shop on an invented island: everything in here is made up, names and numbers alike."""

from inclinum.demo.bikes import demo_bike_jobs, demo_bikes
from inclinum.demo.fleet import demo_fleet
from inclinum.demo.jobs import demo_jobs
from inclinum.demo.kinds import demo_kind_jobs
from inclinum.demo.shop import OWNERS, PEOPLE, SHOP_NAME

__all__ = ["OWNERS", "PEOPLE", "SHOP_NAME", "demo_bike_jobs", "demo_bikes", "demo_fleet", "demo_jobs", "demo_kind_jobs"]
