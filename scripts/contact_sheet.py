"""Every archetype in every view, as found and planned and at both ends of its travel, on one page to be looked at.

Run: .venv/bin/python scripts/contact_sheet.py FOLDER [--dark] [--only KEY…]; open the PNG files it writes there.
"""

import argparse
import re
from collections.abc import Iterator
from pathlib import Path

from playwright.sync_api import sync_playwright

from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.job import BikeBrief, BikeJob
from inclinum.core.bike.machine import ENDS
from inclinum.core.bike.prediction import assess as assess_bike
from inclinum.core.bike.views import machine_view
from inclinum.core.car.archetypes import ARCHETYPES, vehicle_of
from inclinum.core.car.changes import begin
from inclinum.core.car.job import AxleAim, Brief, Job
from inclinum.core.car.prediction import assess
from inclinum.core.car.views import axle_view
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.quantity import Length
from inclinum.core.shapes import VIEWS, Seen, Shape
from inclinum.report.shapes import svg_of

TOKENS, LOOKS = "web/src/app.css", "web/src/lib/draw/shapes.css"
TILE = (400, 300)


def job_of(key: str, end: AxleName) -> Job:
    """A vehicle with one end of an archetype, and the first change its list offers that raises it."""
    size = "off_roader" if "axle" in key else "car"
    front, rear = (key, "trailing") if end == "front" else ("strut_front", key)
    vehicle = vehicle_of(front, rear, size, key)
    nothing = AxleAim(by="none")
    job = Job(id="sheet", title=key, vehicle=vehicle, brief=Brief(owner="Shop", front=nothing, rear=nothing))
    for kind in ("seat_spacer", "block", "torsion_reindex", "air_height"):
        try:
            planned = begin(kind, end, vehicle, ())
        except DomainError:
            continue
        return job.model_copy(update={"plan": job.plan.model_copy(update={"changes": (planned,)})})
    return job


def tiles(key: str, end: AxleName) -> Iterator[str]:
    """Pictures of an archetype at one end."""
    stood = assess(job_of(key, end))
    for view in VIEWS:
        seen = axle_view(stood.before, stood.after, end, view)
        for n, word in ((0, "full droop"), (seen.at_ride, "ride"), (len(seen.frames) - 1, "full bump")):
            yield tile(seen, seen.frames[n], f"{key}, {end}: {view}, {word}")


def tile(seen: Seen, shapes: list[Shape], caption: str) -> str:
    """One picture with its words."""
    drawn = svg_of(shapes, seen.low, seen.high, TILE[0], TILE[1] - 26)
    return f"<figure>{drawn}<figcaption>{caption}</figcaption></figure>"


def page(pictures: list[str], *, dark: bool) -> str:
    """The page they stand on."""
    tokens = re.findall(r"^(?::root|\[data-theme='dark'\]) \{.*?^\}", Path(TOKENS).read_text(), flags=re.M | re.S)
    style = " ".join(tokens) + Path(LOOKS).read_text()
    return (
        f'<html data-theme="{"dark" if dark else "light"}"><style>{style}'
        f"body {{ margin: 0; background: var(--chalk); color: var(--ink); font: 13px sans-serif }}"
        f"figure {{ display: inline-block; width: {TILE[0]}px; height: {TILE[1]}px; margin: 4px }}</style>"
        f"<body>{''.join(pictures)}</body></html>"
    )


def bike_tiles(key: str) -> Iterator[str]:
    """Pictures of a two-wheeler: each end at both ends of its travel and where it rides."""
    brief = BikeBrief(owner="Shop", rear_drop=Length.model_validate("0"))
    stood = assess_bike(BikeJob(id="sheet", title=key, vehicle=BIKES[key].bike(key, "X-1"), brief=brief))
    for end in ENDS:
        seen = machine_view(stood, end, "side")
        for n, word in ((0, "full droop"), (seen.at_ride, "ride"), (len(seen.frames) - 1, "full bump")):
            yield tile(seen, seen.frames[n], f"{key}: {end}, {word}")


def main() -> None:
    """Write one PNG an archetype."""
    wanted = argparse.ArgumentParser(description=__doc__)
    wanted.add_argument("folder", type=Path)
    wanted.add_argument("--dark", action="store_true")
    wanted.add_argument("--only", nargs="*", default=[])
    given = wanted.parse_args()
    given.folder.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as p:
        browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])
        sheet = browser.new_page(viewport={"width": 3 * (TILE[0] + 14), "height": 3 * (TILE[1] + 12)})
        for key, archetype in ARCHETYPES.items():
            for end in archetype.where:
                if given.only and key not in given.only:
                    continue
                sheet.set_content(page(list(tiles(key, end)), dark=given.dark))
                sheet.screenshot(path=given.folder / f"{key}-{end}.png", full_page=True)
        for key in BIKES:
            if not given.only or key in given.only:
                sheet.set_content(page(list(bike_tiles(key)), dark=given.dark))
                sheet.screenshot(path=given.folder / f"{key}.png", full_page=True)
        browser.close()


if __name__ == "__main__":
    main()
