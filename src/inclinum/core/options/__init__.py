"""What reaches this height: ranked ways."""

from inclinum.core.options.reach import Way, ways, with_ways

__all__ = ["Way", "ways", "with_ways"]
