"""Thread left in a clevis that is screwed out."""

from inclinum.core.bike.limits.case import BikeCase, BikeFinding


def check(case: BikeCase) -> list[BikeFinding]:
    """Less than the part supplier asks for stops the plan."""
    clevis = case.bike.damper.clevis
    if clevis is None:
        return []
    left, least = clevis.thread_mm, clevis.least_thread_mm
    if left >= least:
        return []
    most = clevis.screwed_out_mm - (least - left)
    cures = tuple(case.providing(f"Clevis {most:g} mm out", "rear", "clevis", most)) if most >= 0 else ()
    deeper = case.providing(f"Eye on until {least:g} mm of thread is in it", "rear", "eye thread", least, anew=False)
    cures = (*cures, *deeper)
    return [
        BikeFinding(
            id="clevis.thread", axle="rear", severity="stops", what="Too little thread left in the clevis",
            value=round(left, 1), limit=clevis.least_thread_mm, margin=round(left - clevis.least_thread_mm, 1),
            unit="mm", why="The rod pulls out of it, or its thread strips, at a landing.",
            source="the part supplier's figure", cures=cures,
        )
    ]  # fmt: skip
