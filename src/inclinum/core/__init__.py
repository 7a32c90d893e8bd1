"""The rules and arithmetic of ride-height work: no input or output, no web, no database.

Units inside: millimetre, newton, N/mm, N·mm, kilogram, second, radian. Axes as ISO 8855: x forward,
y left, z up. Wheel travel is positive in bump.
"""
