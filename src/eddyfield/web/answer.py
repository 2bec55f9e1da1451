"""What every answer is, and how arrays travel in it."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, WithJsonSchema

Float32s = Annotated[Any, WithJsonSchema({"tsType": "Float32Array"})]
Float64s = Annotated[Any, WithJsonSchema({"tsType": "Float64Array"})]
Int32s = Annotated[Any, WithJsonSchema({"tsType": "Int32Array"})]
Uint8s = Annotated[Any, WithJsonSchema({"tsType": "Uint8Array"})]
Uint16s = Annotated[Any, WithJsonSchema({"tsType": "Uint16Array"})]
Uint32s = Annotated[Any, WithJsonSchema({"tsType": "Uint32Array"})]


class Answer(BaseModel):
    model_config = ConfigDict(extra="forbid", arbitrary_types_allowed=True, defer_build=True)
