"""The JSON of a glTF file, as far as Eddyfield reads it. Unknown members are passed over."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

Index = Annotated[int, Field(ge=0)]
Count = Annotated[int, Field(ge=0, le=2**40)]


class Part(BaseModel):
    model_config = ConfigDict(extra="ignore", allow_inf_nan=False, frozen=True)


class Asset(Part):
    version: str
    min_version: str | None = Field(None, alias="minVersion")


class Buffer(Part):
    byte_length: Count = Field(alias="byteLength")
    uri: str | None = None


class BufferView(Part):
    buffer: Index
    byte_length: Count = Field(alias="byteLength")
    byte_offset: Count = Field(0, alias="byteOffset")
    byte_stride: Annotated[int, Field(ge=1, le=2**20)] | None = Field(None, alias="byteStride")


class SparseIndices(Part):
    buffer_view: Index = Field(alias="bufferView")
    byte_offset: Count = Field(0, alias="byteOffset")
    component_type: int = Field(alias="componentType")


class SparseValues(Part):
    buffer_view: Index = Field(alias="bufferView")
    byte_offset: Count = Field(0, alias="byteOffset")


class Sparse(Part):
    count: Count
    indices: SparseIndices
    values: SparseValues


class Accessor(Part):
    component_type: int = Field(alias="componentType")
    count: Count
    type: Literal["SCALAR", "VEC2", "VEC3", "VEC4", "MAT2", "MAT3", "MAT4"]
    buffer_view: Index | None = Field(None, alias="bufferView")
    byte_offset: Count = Field(0, alias="byteOffset")
    normalized: bool = False
    sparse: Sparse | None = None


class Node(Part):
    name: str | None = None
    children: list[Index] = []
    matrix: Annotated[list[float], Field(min_length=16, max_length=16)] | None = None
    translation: Annotated[list[float], Field(min_length=3, max_length=3)] | None = None
    rotation: Annotated[list[float], Field(min_length=4, max_length=4)] | None = None
    scale: Annotated[list[float], Field(min_length=3, max_length=3)] | None = None
    mesh: Index | None = None
    skin: Index | None = None
    camera: Index | None = None


class SceneRoots(Part):
    name: str | None = None
    nodes: list[Index] = []


class Skin(Part):
    joints: list[Index]
    inverse_bind_matrices: Index | None = Field(None, alias="inverseBindMatrices")
    skeleton: Index | None = None


class Perspective(Part):
    yfov: float | None = None
    znear: float | None = None


class Orthographic(Part):
    ymag: float | None = None
    znear: float | None = None


class Camera(Part):
    name: str | None = None
    type: str = ""
    perspective: Perspective | None = None
    orthographic: Orthographic | None = None


class Primitive(Part):
    attributes: dict[str, Index]
    indices: Index | None = None
    material: Index | None = None
    mode: int = 4
    targets: list[Any] = []


class Mesh(Part):
    name: str | None = None
    primitives: list[Primitive]


class BaseColor(Part):
    factor: Annotated[list[float], Field(min_length=4, max_length=4)] = Field(
        [1.0, 1.0, 1.0, 1.0], alias="baseColorFactor"
    )


class Material(Part):
    base: BaseColor = Field(BaseColor.model_validate({}), alias="pbrMetallicRoughness")


class Sampler(Part):
    input: Index
    output: Index
    interpolation: str = "LINEAR"


class Target(Part):
    node: Index | None = None
    path: str


class AnimationChannel(Part):
    sampler: Index
    target: Target


class Animation(Part):
    name: str | None = None
    channels: list[AnimationChannel]
    samplers: list[Sampler]


class Document(Part):
    asset: Asset
    scene: Index | None = None
    scenes: list[SceneRoots] = []
    nodes: list[Node] = []
    meshes: list[Mesh] = []
    skins: list[Skin] = []
    cameras: list[Camera] = []
    animations: list[Animation] = []
    materials: list[Material] = []
    accessors: list[Accessor] = []
    buffer_views: list[BufferView] = Field([], alias="bufferViews")
    buffers: list[Buffer] = []
    extensions_used: list[str] = Field([], alias="extensionsUsed")
    extensions_required: list[str] = Field([], alias="extensionsRequired")
