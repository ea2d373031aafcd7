"""What every model of the engine book shares."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

Point = tuple[float, float]
Id = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]*$", max_length=60)]
Finite = Annotated[float, Field(allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, allow_inf_nan=False)]
AtLeastZero = Annotated[float, Field(ge=0, allow_inf_nan=False)]


class BookModel(BaseModel):
    """Frozen, and refuses keys it does not know: a misspelt fact must not be silently ignored."""

    model_config = ConfigDict(frozen=True, extra="forbid")
