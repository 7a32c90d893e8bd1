"""Constants of nature, each once."""

from scipy import constants

GRAVITY: float = constants.g
"""Standard acceleration of free fall, m/s², by which loads and masses are told in one another."""
