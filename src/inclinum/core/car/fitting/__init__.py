"""An axle with its readings taken in, and what that says of heights and angles."""

from inclinum.core.car.fitting.fitted_axle import AxleFit, Consequence, FitMiss, FitNext, TapeRow, fit_axle

__all__ = ["AxleFit", "Consequence", "FitMiss", "FitNext", "TapeRow", "fit_axle"]
