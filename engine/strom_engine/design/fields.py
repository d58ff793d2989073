"""Field types shared by the document: identifiers, numbers with limits, the frozen base."""

from __future__ import annotations

import re
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints

__all__ = [
    "Frozen",
    "Identifier",
    "Name",
    "Polarity",
    "Positive",
    "PostRef",
    "Share",
    "Stud",
    "Temperature",
    "Text",
]


_UNPRINTABLE = re.compile("[\x00-\x08\x0b-\x1f\ud800-\udfff]")


def _printable(text: str) -> str:
    """Text that can be kept and shown: no control characters, no half characters."""
    if _UNPRINTABLE.search(text):
        raise ValueError("holds control characters or broken ones")
    return text


Text = Annotated[str, AfterValidator(_printable), Field(max_length=2000)]

Identifier = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}$")]
Name = Annotated[
    str,
    StringConstraints(min_length=1, max_length=60, strip_whitespace=True),
    AfterValidator(_printable),
]
PostRef = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}\.[a-z0-9_]{1,20}$")]
Positive = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Temperature = Annotated[float, Field(ge=-40, le=90, allow_inf_nan=False)]
Polarity = Literal["pos", "neg", "any"]
Stud = Literal["M4", "M5", "M6", "M8", "M10", "M12"]


class Frozen(BaseModel):
    """Base of everything in the document: immutable, nothing unknown let in."""

    model_config = ConfigDict(frozen=True, extra="forbid")
