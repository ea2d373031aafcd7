"""What readings and tests are made of."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

Finite = Annotated[float, Field(allow_inf_nan=False)]


class ReadingModel(BaseModel):
    """What readings are made of: fixed, and nothing in them that is not known."""

    model_config = ConfigDict(frozen=True, extra="forbid")
