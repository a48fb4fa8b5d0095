"""What the trade disagrees about of a whole plan: one machine or two, indexed or in several setups.
Each way that is not planned as a plan of its own, with its numbers.
"""

from .told import other_ways as other_ways
