"""Demo data into an empty database."""

from sqlalchemy import Engine

from inclinum.demo import PEOPLE, SHOP_NAME, demo_bike_jobs, demo_bikes, demo_fleet, demo_jobs, demo_kind_jobs
from inclinum.jobfile import BikeFile, JobFile
from inclinum.store import jobs, shop, vehicles
from inclinum.store.database import session_maker


def load_demo(engine: Engine) -> bool:
    """Found the demo shop and put its jobs in, when nothing was ever put in; whether it did."""
    with session_maker(engine).begin() as session:
        if not shop.is_empty(session):
            return False
        shop.found_shop(session, SHOP_NAME, PEOPLE)
        for vehicle, owner in demo_fleet():
            vehicles.create(session, vehicle, owner, PEOPLE[2])
        for job in (*demo_kind_jobs(), *demo_jobs()):
            jobs.create(session, JobFile(job=job), PEOPLE[2], note="loaded as demo data")
        for job in demo_bike_jobs():
            jobs.create(session, BikeFile(job=job), PEOPLE[1], note="loaded as demo data")
        for vehicle, owner in demo_bikes():
            vehicles.create(session, vehicle, owner, PEOPLE[2])
    return True
