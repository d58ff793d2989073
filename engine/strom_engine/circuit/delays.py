"""How soon gear that moves by itself answers, where its own document gives no figure.

Usual delays of such gear (makers' data as commonly published, low confidence); what they decide is
how soon a part answers, not whether.
"""

from __future__ import annotations

__all__ = [
    "COIL_S",
    "CONVERTER_S",
    "INVERTER_CUT_OUT_S",
    "INVERTER_RETURN_S",
    "INVERTER_RETURN_V",
    "ONE_WAY_S",
    "PROTECTION_LOW_S",
    "PROTECTION_RETRY_S",
    "PROTECTION_RETURN_S",
    "PROTECTION_S",
]

CONVERTER_S = 5.0  # a dc-dc charger looks at its input for some seconds before it starts or stops
ONE_WAY_S = 2.0
INVERTER_CUT_OUT_S = 5.0
INVERTER_RETURN_S = 30.0
INVERTER_RETURN_V = 1.5  # above its cut-out, of a 12 V system
COIL_S = 0.2
PROTECTION_S = 2.0
PROTECTION_LOW_S = 5.0
PROTECTION_RETURN_S = 30.0
PROTECTION_RETRY_S = 60.0
