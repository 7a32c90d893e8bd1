"""Force over length, every kind of spring."""

from inclinum.core.springs.bump_stop import BumpStop
from inclinum.core.springs.coil import CoilSpring, bind_margin_wanted, wire_rate, wire_solid_length

__all__ = ["BumpStop", "CoilSpring", "bind_margin_wanted", "wire_rate", "wire_solid_length"]
