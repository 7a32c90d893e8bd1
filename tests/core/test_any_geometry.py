"""Any vehicle that is accepted gives an answer or a sentence: points moved off their archetype by up to 80 mm."""

import random
from collections.abc import Callable

import pytest
from pydantic import ValidationError

from inclinum.core.car.alignment import align
from inclinum.core.car.job import Job
from inclinum.core.document.errors import DomainError
from inclinum.core.machines import KINDS, card_of, prediction_of, proof_of

CAR = KINDS["car"]
OPTIONS = {choice.name: [option.key for option in choice.options] for choice in CAR.choices}


def shaken(draw: random.Random, rear: str, by: float) -> Job | None:
    """A job on a vehicle of random archetypes, its points up to that many mm away; None where that is refused."""
    chosen = {name: draw.choice(keys) for name, keys in OPTIONS.items()} | {"rear": rear}
    try:
        vehicle = CAR.made(chosen, "Shaken", "")
        document = vehicle.model_dump(mode="json")
        for end in ("front", "rear"):
            points = document[end]["linkage"].get("points") or {}
            for name, at in points.items():
                if isinstance(at, list) and len(at) == 3:
                    points[name] = [x + draw.uniform(-by, by) for x in at]
        brief = CAR.brief("Owner", vehicle, None).model_dump(mode="json")
        return Job.model_validate({"id": "shaken", "title": "Shaken", "vehicle": document, "brief": brief, "plan": {}})
    except (DomainError, ValidationError):
        return None


def told(compute: Callable[[Job], object], job: Job) -> str:
    """What comes of it: an answer, or why there is none. Any other error is a fault."""
    try:
        compute(job)
    except (DomainError, ValidationError) as error:
        return str(error)
    return "answered"


@pytest.mark.parametrize("rear", OPTIONS["rear"])
def test_whatever_is_accepted_is_answered_or_refused_in_a_sentence(rear: str) -> None:
    draw = random.Random(rear)
    for by in (3.0, 10.0, 80.0):
        job = shaken(draw, rear, by)
        outcomes = [told(compute, job) for compute in (prediction_of, card_of, proof_of, align)] if job else []
        assert all(outcome == "answered" or len(outcome.split()) > 3 for outcome in outcomes), outcomes
        assert by > 3 or "answered" in outcomes or not job
