"""Thread left in a clevis that is screwed out."""

from inclinum.core.bike.limits.case import BikeCase, BikeFinding


def check(case: BikeCase) -> list[BikeFinding]:
    """Less than the part supplier asks for stops the plan."""
    clevis = case.bike.damper.clevis
    if clevis is None:
        return []
    came = case.before.bike.damper.clevis
    left = clevis.thread_mm - (clevis.screwed_out_mm - (came.screwed_out_mm if came else 0.0))
    if left >= clevis.least_thread_mm:
        return []
    most = clevis.screwed_out_mm - (clevis.least_thread_mm - left)
    cures = tuple(case.providing(f"Clevis {most:g} mm out", "rear", "clevis", most)) if most >= 0 else ()
    return [
        BikeFinding(
            id="clevis.thread", axle="rear", severity="stops", what="Too little thread left in the clevis",
            value=round(left, 1), limit=clevis.least_thread_mm, margin=round(left - clevis.least_thread_mm, 1),
            unit="mm", why="The rod pulls out of it, or its thread strips, at a landing.",
            source="the part supplier's figure", cures=cures,
        )
    ]  # fmt: skip
