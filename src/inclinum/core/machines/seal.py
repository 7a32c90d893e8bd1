"""What a signature covers, as one short text: the same job gives the same seal, another one another."""

import hashlib
import json
from typing import Any

from inclinum.core.document import Document


def seal_of(job: Any) -> str:
    """SHA-256 of all that stands in a job but its signature, its name, and which jobs were opened for what was found.

    Fields that hold what a new one would hold count as not there, so that a later format may have more of them.

    Args:
        job: of any kind.
    """
    assert isinstance(job, Document)
    whole = job.model_dump(mode="json", exclude_defaults=True, exclude={"id", "title"})
    whole.get("prove", {}).pop("sign_off", None)
    for found in whole.get("build", {}).get("found", ()):
        found.pop("follow_up", None)
    return hashlib.sha256(json.dumps(whole, sort_keys=True, ensure_ascii=False).encode()).hexdigest()
