"""Where references of the body stand above the ground, as found and as planned."""

from inclinum.core.car.job import Job
from inclinum.core.car.stood import Stood
from inclinum.core.car.vehicle import VehicleStation
from inclinum.core.document.names import SIDES, AxleName
from inclinum.core.kinematics.wheel_angles import rise_at


def hub_to_arch_before(before: Stood, name: AxleName) -> float:
    """Mean of both sides as it was found, mm: the tape's where it was taken, else the vehicle's."""
    stance = before.axle(name)
    return stance.axle.hub_to_arch_mm - stance.baseline


def arch_to_ground_before(before: Stood, name: AxleName) -> float:
    """The same above the ground, mm."""
    return hub_to_arch_before(before, name) + before.axle(name).axle.tyre_radius_mm


def tyre_to_arch_before(job: Job, before: Stood, name: AxleName) -> float:
    """Gap between tyre and arch as it was found, mm: the tape's, else the arch less the loaded radius."""
    read = job.measure.mean(name, "tyre_to_arch")
    return hub_to_arch_before(before, name) - before.axle(name).axle.tyre_radius_mm if read is None else read


def station_before(job: Job, before: Stood, station: VehicleStation) -> float:
    """Height of a station above ground as it was found, mm: the tape's mean, else the vehicle's at this stance."""
    read = [r.value for s in SIDES if (r := job.measure.station(station.name, s))]
    if read:
        return sum(read) / len(read)
    if station.on != "body":
        return station.height_mm
    low = (before.front.baseline, before.rear.baseline)
    return station.height_mm - float(rise_at(station.x_mm, *low, 0.0, before.vehicle.wheelbase_mm))


def station_after(job: Job, before: Stood, after: Stood, station: VehicleStation) -> float:
    """The same as planned, mm: the body turns about the two axles, what hangs on an axle goes with its tyres."""
    came = before.vehicle.station(station.name) or station
    moved = station.height_mm - came.height_mm
    return station_before(job, before, came) + moved + station_rise(after, station)


def station_rise(after: Stood, station: VehicleStation) -> float:
    """What a plan raises a station by, mm."""
    if station.on != "body":
        return after.axle("front" if station.on == "front_axle" else "rear").axle.tyre_growth_mm
    rises = (after.front.ground_rise, after.rear.ground_rise)
    return float(rise_at(station.x_mm, *rises, 0.0, after.vehicle.wheelbase_mm))
