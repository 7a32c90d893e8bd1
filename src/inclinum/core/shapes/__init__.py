"""What a part looks like: plain shapes to scale, each with a role, seen from the side, from behind or from above."""

from inclinum.core.shapes.parts import Ball, Bar, Coil, Curve, Disc, Part, Ribbon
from inclinum.core.shapes.photograph import PlacedPhotograph, SidePhotograph, placed
from inclinum.core.shapes.picture import bounds, picture
from inclinum.core.shapes.seen import By, Near, Seen, Spot, Told, Whose
from inclinum.core.shapes.shape import Role, Shape
from inclinum.core.shapes.view import ABOVE, BEHIND, FROM_THE_RIGHT, SIDE, VIEWS, View, ViewName

__all__ = [
    "ABOVE",
    "BEHIND",
    "FROM_THE_RIGHT",
    "SIDE",
    "VIEWS",
    "Ball",
    "Bar",
    "By",
    "Coil",
    "Curve",
    "Disc",
    "Near",
    "Part",
    "PlacedPhotograph",
    "Ribbon",
    "Role",
    "Seen",
    "Shape",
    "SidePhotograph",
    "Spot",
    "Told",
    "View",
    "ViewName",
    "Whose",
    "bounds",
    "picture",
    "placed",
]
