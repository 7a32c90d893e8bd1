"""Bodies and joints: from points to pose over travel, batched."""

from inclinum.core.linkage.body import Adjustment, Body, Link, PlaneOnBody, PlaneOnChassis, Poses
from inclinum.core.linkage.corner import Arm, Corner, Motion, Spanned
from inclinum.core.linkage.kinds import Linkage, SemiTrailingLinkage, StrutLinkage, corner_of

__all__ = [
    "Adjustment",
    "Arm",
    "Body",
    "Corner",
    "Link",
    "Linkage",
    "Motion",
    "PlaneOnBody",
    "PlaneOnChassis",
    "Poses",
    "SemiTrailingLinkage",
    "Spanned",
    "StrutLinkage",
    "corner_of",
]
