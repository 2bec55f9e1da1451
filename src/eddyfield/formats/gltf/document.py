"""The JSON of a glTF file, as far as Eddyfield reads it. Unknown members are passed over."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, field_validator

Index = Annotated[int, Field(ge=0)]
Count = Annotated[int, Field(ge=0, le=2**40)]


class Part(BaseModel):
    model_config = ConfigDict(extra="ignore", allow_inf_nan=False, frozen=True, defer_build=True)


class Asset(Part):
    version: str
    min_version: str | None = Field(None, alias="minVersion")


class Buffer(Part):
    byte_length: Count = Field(alias="byteLength")
    uri: str | None = None


class MeshoptView(Part):
    buffer: Index
    byte_length: Count = Field(alias="byteLength")
    byte_offset: Count = Field(0, alias="byteOffset")
    byte_stride: Annotated[int, Field(ge=1, le=256)] = Field(alias="byteStride")
    count: Count
    mode: Literal["ATTRIBUTES", "TRIANGLES", "INDICES"]
    filter: Literal["NONE", "OCTAHEDRAL", "QUATERNION", "EXPONENTIAL", "COLOR"] = "NONE"


class BufferViewExtensions(Part):
    meshopt: MeshoptView | None = Field(None, alias="EXT_meshopt_compression")


class BufferView(Part):
    extensions: BufferViewExtensions = BufferViewExtensions.model_validate({})
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
    weights: list[float] | None = None


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


class DracoMesh(Part):
    buffer_view: Index = Field(alias="bufferView")
    attributes: dict[str, Index]


class PrimitiveExtensions(Part):
    draco: DracoMesh | None = Field(None, alias="KHR_draco_mesh_compression")


class Primitive(Part):
    extensions: PrimitiveExtensions = PrimitiveExtensions.model_validate({})
    attributes: dict[str, Index]
    indices: Index | None = None
    material: Index | None = None
    mode: int = 4
    targets: list[dict[str, Index]] = []


class MeshExtras(Part):
    target_names: list[str] = Field([], alias="targetNames")


class Mesh(Part):
    name: str | None = None
    primitives: list[Primitive]
    weights: list[float] = []
    extras: MeshExtras | None = None

    @field_validator("extras", mode="before")
    @classmethod
    def _only_known(cls, extras: Any) -> Any:
        """Extras may hold anything: only names of targets are taken from them."""
        names = extras.get("targetNames") if isinstance(extras, dict) else None
        return {"targetNames": [str(n) for n in names]} if isinstance(names, list) else None


class TextureTransform(Part):
    offset: Annotated[list[float], Field(min_length=2, max_length=2)] = [0.0, 0.0]
    rotation: float = 0.0
    scale: Annotated[list[float], Field(min_length=2, max_length=2)] = [1.0, 1.0]
    coordinates: Index | None = Field(None, alias="texCoord")


class TextureInfoExtensions(Part):
    transform: TextureTransform | None = Field(None, alias="KHR_texture_transform")


class TextureInfo(Part):
    index: Index
    own_coordinates: Index = Field(0, alias="texCoord")
    extensions: TextureInfoExtensions = TextureInfoExtensions.model_validate({})

    @property
    def coordinates(self) -> int:
        """Which set of coordinates it goes by."""
        transform = self.extensions.transform
        own = transform.coordinates if transform else None
        return self.own_coordinates if own is None else own


class WebpTexture(Part):
    source: Index


class TextureExtensions(Part):
    webp: WebpTexture | None = Field(None, alias="EXT_texture_webp")


class Texture(Part):
    source: Index | None = None
    sampler: Index | None = None
    extensions: TextureExtensions = TextureExtensions.model_validate({})


class TextureSampler(Part):
    wrap_s: int = Field(10497, alias="wrapS")
    wrap_t: int = Field(10497, alias="wrapT")


class ImageFile(Part):
    uri: str | None = None
    buffer_view: Index | None = Field(None, alias="bufferView")


class EmissiveStrength(Part):
    strength: Annotated[float, Field(ge=0)] = Field(1.0, alias="emissiveStrength")


class MaterialExtensions(Part):
    unlit: dict[str, Any] | None = Field(None, alias="KHR_materials_unlit")
    emissive_strength: EmissiveStrength | None = Field(None, alias="KHR_materials_emissive_strength")


class BaseColor(Part):
    texture: TextureInfo | None = Field(None, alias="baseColorTexture")
    factor: Annotated[list[float], Field(min_length=4, max_length=4)] = Field(
        [1.0, 1.0, 1.0, 1.0], alias="baseColorFactor"
    )


class Material(Part):
    name: str | None = None
    alpha_mode: str = Field("OPAQUE", alias="alphaMode")
    alpha_cutoff: float = Field(0.5, alias="alphaCutoff")
    double_sided: bool = Field(False, alias="doubleSided")
    emissive: Annotated[list[float], Field(min_length=3, max_length=3)] = Field([0.0, 0.0, 0.0], alias="emissiveFactor")
    extensions: MaterialExtensions = MaterialExtensions.model_validate({})
    base: BaseColor = Field(BaseColor.model_validate({}), alias="pbrMetallicRoughness")


class Sampler(Part):
    input: Index
    output: Index
    interpolation: str = "LINEAR"


class AnimationPointer(Part):
    pointer: str


class TargetExtensions(Part):
    pointer: AnimationPointer | None = Field(None, alias="KHR_animation_pointer")


class Target(Part):
    node: Index | None = None
    path: str
    extensions: TargetExtensions = TargetExtensions.model_validate({})


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
    textures: list[Texture] = []
    samplers: list[TextureSampler] = []
    images: list[ImageFile] = []
    accessors: list[Accessor] = []
    buffer_views: list[BufferView] = Field([], alias="bufferViews")
    buffers: list[Buffer] = []
    extensions_used: list[str] = Field([], alias="extensionsUsed")
    extensions_required: list[str] = Field([], alias="extensionsRequired")
