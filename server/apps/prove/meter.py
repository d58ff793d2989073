"""A meter that is connected to this server: asked over HTTP, where the settings name one."""

from __future__ import annotations

import json
import urllib.error
import urllib.request
from typing import NoReturn

from django.conf import settings
from pydantic import BaseModel, Field, ValidationError
from strom_engine.errors import Problem, StromError
from strom_engine.prove import ProvingTest

from apps.prove.schemas import MeterOut

__all__ = ["read_meter"]

PATIENCE_S = 5.0


class _Answer(BaseModel):
    value: float = Field(ge=-1e6, le=1e6, allow_inf_nan=False)
    unit: str = Field(max_length=4)
    instrument: str = Field(max_length=60)


def read_meter(test: ProvingTest) -> MeterOut:
    """Take the reading of a test from the connected meter.

    Raises StromError: none is connected, it does not answer, or shows another unit.
    """
    if not settings.METER_URL:
        _refuse("no meter is connected to this server")
    if test.probe is None or test.state is None:
        _refuse(f"{test.title} is looked at, not measured")
    body = {
        "probe": {k: v for k, v in vars(test.probe).items() if v},
        "state": test.state.model_dump(mode="json"),
        "charged": dict(test.charged),
    }
    request = urllib.request.Request(
        f"{settings.METER_URL}/reading",
        json.dumps(body).encode(),
        {"Content-Type": "application/json", "Authorization": f"Bearer {settings.METER_TOKEN}"},
    )
    try:
        with urllib.request.urlopen(request, timeout=PATIENCE_S) as response:
            told = _Answer.model_validate_json(response.read(10_000))
    except urllib.error.HTTPError as error:
        _refuse(f"the meter refuses: {error.read(500).decode(errors='replace')}")
    except (OSError, ValidationError) as error:
        _refuse(f"the meter does not answer: {error}")
    if told.unit != test.unit:
        _refuse(f"the meter shows {told.unit}, wanted {test.unit}: turn its dial")
    return MeterOut(value=told.value, unit=told.unit, instrument=told.instrument)


def _refuse(why: str) -> NoReturn:
    raise StromError(why, (Problem("meter", why),))
