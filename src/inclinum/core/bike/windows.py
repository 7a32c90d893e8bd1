"""Sag windows by use: what the shop starts from until it writes its own. They are our judgement, not a maker's."""

from inclinum.core.bike.job import BikeJob, SagWindow
from inclinum.core.bike.machine import End, Use

_ROWS: tuple[tuple[Use, End, float, float, float, float, float, str], ...] = (
    ("road", "rear", 0.24, 0.33, 0.05, 0.15, 2.0, "enough droop for a dip taken at speed"),
    ("road", "front", 0.24, 0.34, 0.10, 0.24, 1.9, "the brakes take the rest of the travel"),
    ("touring", "rear", 0.26, 0.36, 0.06, 0.17, 1.8, "comfort with luggage on"),
    ("touring", "front", 0.26, 0.36, 0.12, 0.26, 1.8, "comfort with luggage on"),
    ("commuting", "rear", 0.24, 0.35, 0.05, 0.18, 2.0, "two up now and then"),
    ("commuting", "front", 0.22, 0.35, 0.10, 0.26, 1.9, "potholes and brakes"),
    ("enduro", "rear", 0.28, 0.36, 0.07, 0.14, 1.7, "grip over roots, room for landings"),
    ("enduro", "front", 0.22, 0.32, 0.08, 0.20, 1.7, "grip over roots, room for landings"),
    ("trail", "rear", 0.27, 0.35, 0.06, 0.14, 1.7, "grip over roots, room for landings"),
    ("trail", "front", 0.20, 0.32, 0.07, 0.20, 1.7, "grip over roots, room for landings"),
    ("trials", "rear", 0.25, 0.38, 0.06, 0.20, 1.7, "stood on, seldom sat on"),
    ("trials", "front", 0.18, 0.32, 0.06, 0.22, 1.7, "stood on, seldom sat on"),
    ("downhill", "rear", 0.28, 0.36, 0.04, 0.14, 1.6, "deep in the travel on steep ground"),
    ("downhill", "front", 0.16, 0.26, 0.03, 0.14, 1.7, "weight is on the front where it is steep"),
)

USUAL_WINDOWS: dict[tuple[Use, End], SagWindow] = {
    (use, end): SagWindow(
        use=use, end=end, laden_low=a, laden_high=b, unladen_low=c, unladen_high=d, frequency_hz=f, reason=why
    )
    for use, end, a, b, c, d, f, why in _ROWS
}


def window_of(job: BikeJob, end: End) -> SagWindow:
    """The shop's own window for the job's use, or ours."""
    own = next((w for w in job.brief.windows if (w.use, w.end) == (job.brief.use, end)), None)
    return own or USUAL_WINDOWS[job.brief.use, end]
