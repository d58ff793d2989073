"""An alternator warms up under load, gives less, and is held back where a probe tells of it."""

from __future__ import annotations

import math

from strom_engine.design import Alternator
from strom_engine.faults import Failing

__all__ = ["AMBIENT_C", "LIMIT_C", "failing_share", "heat_share", "settles_c", "warmer"]

# An engine space while the engine runs, over the temperature aboard.
ENGINE_SPACE_K = 25.0
AMBIENT_C = 20.0
# The output on the label holds cold, the hot output at about this temperature of the windings.
COLD_C, HOT_C = 25.0, 95.0
# Above this a machine ages fast; a regulator with a probe holds it back from somewhat below.
LIMIT_C = 105.0
HELD_FROM_C = 95.0
HELD_BACK_K = 20.0
HELD_BACK_TO = 0.4
# Small frames stand 50 to 70 % of their label for good: with a hot output of 75 % and 45 degC
# around them, 67 % are (105 - 45) / (0.67 / 0.75)^2 = 75 K at full hot output and full speed.
RISE_K = 75.0
# The fan turns with the machine: heat passes over by about the 0.6th power of the speed of the air
# (forced convection; R. Hilpert 1933). Below a third of full speed no less is counted.
FAN_POWER = 0.6
SLOWEST_SHARE = 1 / 3
# What fades as it warms up is whole at the temperature of the engine space, and as weak as it gets
# when the windings are as hot as under full load.
WHOLE_UP_TO_C, FADED_C = 45.0, 85.0
TIME_CONSTANT_S = 900.0  # a quarter of an hour (makers' curves as commonly published)


def failing_share(failing: Failing | None, temperature_c: float) -> float:
    """What a machine gives at a temperature [degC], as a share of what it should [-]."""
    if failing is None:
        return 1.0
    warm = (temperature_c - WHOLE_UP_TO_C) / (FADED_C - WHOLE_UP_TO_C)
    return failing.cold + (failing.warm - failing.cold) * min(1.0, max(0.0, warm))


def settles_c(part: Alternator, current_a: float, aboard_c: float | None, rpm: float) -> float:
    """Temperature [degC] that a current [A] leads to: ambient + rise x (I / I_hot)^2.

    The rise is that at full speed; a slower fan carries less off.

    The figures are usual ones of small-frame machines; medium confidence.
    """
    around = (AMBIENT_C if aboard_c is None else aboard_c) + ENGINE_SPACE_K
    speed = min(1.0, max(SLOWEST_SHARE, rpm / part.full_rpm))
    rise_k = RISE_K / math.pow(speed, FAN_POWER)
    return around + rise_k * (current_a / (part.rated_a * part.hot_share)) ** 2


def warmer(from_c: float, to_c: float, seconds: float) -> float:
    """Temperature [degC] after some time [s] on the way from one to another."""
    return to_c + (from_c - to_c) * math.exp(-seconds / TIME_CONSTANT_S)


def heat_share(part: Alternator, temperature_c: float) -> float:
    """Output at a temperature [degC] over the hot output [-]; a probe holds it near the limit."""
    per_k = (1 - part.hot_share) / (HOT_C - COLD_C)
    share = max(0.0, 1 - per_k * (temperature_c - COLD_C)) / part.hot_share
    if part.temperature_probe and temperature_c > HELD_FROM_C:
        over = min(1.0, (temperature_c - HELD_FROM_C) / HELD_BACK_K)
        share *= 1 - (1 - HELD_BACK_TO) * over
    return share
