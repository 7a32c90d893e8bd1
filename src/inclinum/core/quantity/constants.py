"""Constants of nature, each once."""

from scipy import constants

ATMOSPHERE: float = constants.atm * 1e-6
"""Standard atmosphere, N/mm²."""
GRAVITY: float = constants.g
"""Standard acceleration of free fall, m/s², by which loads and masses are told in one another."""
