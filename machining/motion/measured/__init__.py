"""A machine's times measured at the machine: what is run there, and the values that fit it."""

from .fit import Fitted, fit
from .runs import Run, Timed, runs_for
from .values import NAMES, Values, names_of

__all__ = ["NAMES", "Fitted", "Run", "Timed", "Values", "fit", "names_of", "runs_for"]
