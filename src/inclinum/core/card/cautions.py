"""Cautions, each said once here and shown at the step where it matters."""

STANDS = "Stands on the maker's rated points, on firm ground, before anyone reaches under. Never a jack alone."
SPRING = (
    "A compressed spring holds enough energy to kill. Sound compressor of the right size, hooks opposite, safety "
    "strap on, nobody in line with it. When in doubt, a shop with the tool does it."
)
FALLING = "What hangs on it drops when the last fastener leaves: support it, fingers clear."
HOSES = "Brake hoses and sensor wires never carry weight: unclip them first and tie the hub up."
DRIVE_SHAFT = "Do not let the hub swing out: shafts and joints have an end. Tie it."
BRAKES = (
    "Brakes and steering were disturbed: pump the pedal hard, steer lock to lock, try both at walking pace "
    "before the road."
)
CERTIFICATE = (
    "A plan is not a certificate. Maker's and part supplier's figures, local rules and licensed practice come first."
)
RUBBER = "Rubber bushes tightened with the wheel hanging are wound up for good: squeak, tear, wrong height."
HEAT = "No flame near dampers, springs, hoses or seals."
AIR = "Air under pressure throws what it holds: gauge at nothing before a line or a bag is opened. Never run it empty."
TORSION = (
    "A twisted bar swings its arm with the weight of the vehicle: jack and strap on the arm, nobody in its way, hands "
    "off the lever."
)
SUBFRAME = "A subframe falls with all that hangs on it: a jack that cannot tip, two people, never timber."
WELDING = (
    "Fire, fumes, and a structure that carries people: a licensed welder, no fuel or gas near it, springs, dampers and "
    "hoses out of the heat."
)
INSPECTED = (
    "What was welded is looked at by a licensed inspector where local rules ask for it: the tool judges no seam."
)
