"""What a starter takes, estimated from the power on its label."""

from __future__ import annotations

__all__ = ["cranking_amps"]

# Shaft power over electrical power of a starter while cranking, 0.5 to 0.6 (makers' curves as
# commonly published); and the voltage at which cranking amps are stated. Low confidence.
STARTER_EFFICIENCY = 0.55
CRANKING_V_SHARE = 0.875


def cranking_amps(power_kw: float, system_v: int) -> float:
    """Cranking amps [A] of a warm engine estimated from the starter's power [kW].

    Args:
        power_kw: at the starter's label [kW].
        system_v: its rated volts [V].
    """
    return power_kw * 1000 / (STARTER_EFFICIENCY * CRANKING_V_SHARE * system_v)
