"""The outside of a glTF file: the .glb container, the JSON in it, and the buffers it refers to."""

from __future__ import annotations

import base64
import binascii
import struct
from typing import Any
from urllib.parse import unquote

import orjson
from pydantic import ValidationError

from ..errors import DamagedFile, FileError, OfOtherKind
from ..format import Resolver
from ..limits import MOST_NODES, MOST_UNPACKED, Total
from .document import Document

MAGIC, JSON_CHUNK, BIN_CHUNK = b"glTF", 0x4E4F534A, 0x004E4942
READABLE_EXTENSIONS = frozenset({
    "KHR_mesh_quantization", "KHR_materials_unlit", "KHR_texture_transform", "EXT_texture_webp", "KHR_draco_mesh_compression",
    "EXT_meshopt_compression", "KHR_materials_emissive_strength", "KHR_animation_pointer",
})  # fmt: skip


def open_document(data: bytes) -> tuple[Document, bytes | None]:
    """The JSON, checked, and the bytes of the container's own buffer if there is one."""
    if data[:4] == MAGIC:
        text, binary = _chunks(data)
    else:
        text, binary = data, None
    text = text.removeprefix(b"\xef\xbb\xbf").rstrip(b"\x00 \t\r\n")
    try:
        raw = orjson.loads(text)
    except orjson.JSONDecodeError as error:
        raise OfOtherKind("glTF", f"Its JSON cannot be read ({error}).") from None
    if not isinstance(raw, dict):
        raise OfOtherKind("glTF", "Its JSON is not an object.")
    if not isinstance(raw.get("asset"), dict):
        raise OfOtherKind("glTF", "It does not say its version (“asset”).")
    nodes = raw.get("nodes")
    if isinstance(nodes, list):  # before they are looked through
        Total("nodes", MOST_NODES, "Bring in fewer at a time.").add(len(nodes))
    try:
        document = Document.model_validate(raw)
    except ValidationError as error:
        first = error.errors(include_url=False, include_input=False)[0]
        where = ".".join(str(p) for p in first["loc"])
        raise DamagedFile(f"The glTF is not valid at {where}: {first['msg'][:200]}.") from None
    if not document.asset.version.startswith("2.") or (document.asset.min_version or "2.0") not in ("2.0",):
        raise FileError(f"The file is glTF {document.asset.version[:20]}.", "Only glTF 2.0 can be read; export as 2.0.")
    for name in document.extensions_required:
        if name not in READABLE_EXTENSIONS:
            raise FileError(
                f"The file requires the extension {name[:80]}, which is not supported.", "Export without it."
            )
    return document, binary


def _chunks(data: bytes) -> tuple[bytes, bytes | None]:
    if len(data) < 20:
        raise DamagedFile("The .glb is cut off within its header.")
    version, length = struct.unpack_from("<II", data, 4)
    if version != 2:
        raise FileError(f"The .glb is of version {version}.", "Only version 2 can be read; export as glTF 2.0.")
    if length > len(data):
        raise FileError(
            f"The .glb is cut off: it should have {length:,} bytes and has {len(data):,}.", "Copy it again."
        )
    at, text, binary = 12, None, None
    while at + 8 <= length:
        size, kind = struct.unpack_from("<II", data, at)
        at += 8
        if at + size > length:
            raise DamagedFile("The .glb is cut off within a chunk.")
        if kind == JSON_CHUNK and text is None:
            text = data[at : at + size]
        elif kind == BIN_CHUNK and binary is None:
            binary = data[at : at + size]
        at += size + (-size % 4)
    if text is None:
        raise DamagedFile("The .glb holds no JSON.")
    return text, binary


def load_buffers(document: Document, binary: bytes | None, resolve: Resolver | None) -> list[bytes | None]:
    """The bytes of each buffer; None where a buffer has none of its own (a mere placeholder)."""
    out: list[bytes | None] = []
    fetched: dict[str, bytes] = {}
    total = Total("bytes", MOST_UNPACKED, "Bring in fewer at a time.")
    for index, buffer in enumerate(document.buffers):
        own = binary if index == 0 else None
        if buffer.uri is not None and buffer.uri not in fetched:
            fetched[buffer.uri] = fetch(buffer.uri, resolve)
            total.add(len(fetched[buffer.uri]))
        data = own if buffer.uri is None else fetched[buffer.uri]
        if data is not None and len(data) < buffer.byte_length:
            raise DamagedFile(f"Buffer {index} should have {buffer.byte_length:,} bytes and has {len(data):,}.")
        out.append(data)
    return out


def fetch(uri: str, resolve: Resolver | None) -> bytes:
    """What an address holds, inside the file or beside it; never farther away. Raises ``FileError``."""
    if uri.startswith("data:"):
        head, comma, body = uri.partition(",")
        if not comma:
            raise DamagedFile("Something embedded has no data.")
        try:
            if head.endswith(";base64"):
                return base64.b64decode(unquote(body), validate=True)
            return unquote(body, encoding="latin-1").encode("latin-1")
        except (binascii.Error, ValueError):
            raise DamagedFile("Something embedded is not valid base64.") from None
    name = unquote(uri)
    shown = name[:120]
    parts = name.replace("\\", "/").split("/")
    if ":" in parts[0] or name.startswith(("/", "\\")) or ".." in parts or "\x00" in name:
        raise FileError(f"“{shown}” lies outside the file's own folder.", "Put it beside the file.")
    if resolve is None:
        raise FileError(f"The file needs “{shown}”, which did not come with it.", "Give both files, or export as .glb.")
    return resolve(name)


def embedded(data: bytes, resolve: Resolver) -> bytes:
    """A .gltf with its external buffers and images put inside, so that it stands alone; a buffer that is named often is put in
    once."""
    document, _ = open_document(data)
    raw = orjson.loads(data.removeprefix(b"\xef\xbb\xbf"))
    first_of: dict[str, int] = {}
    for index, buffer in enumerate(document.buffers):
        if buffer.uri is not None and not buffer.uri.startswith("data:"):
            if buffer.uri in first_of:
                del raw["buffers"][index]["uri"]
                _read_from(raw, index, first_of[buffer.uri])
                continue
            first_of[buffer.uri] = index
            content = base64.b64encode(fetch(buffer.uri, resolve)).decode()
            raw["buffers"][index]["uri"] = f"data:application/octet-stream;base64,{content}"
    total = Total("bytes of images", MOST_UNPACKED, "Bring it in with fewer or smaller images.")
    for index, image in enumerate(document.images):
        if image.uri is not None and not image.uri.startswith("data:"):
            found = fetch(image.uri, resolve)
            total.add(len(found))
            content = base64.b64encode(found).decode()
            raw["images"][index]["uri"] = f"data:application/octet-stream;base64,{content}"
    return orjson.dumps(raw)


def _read_from(raw: dict[str, Any], index: int, other: int) -> None:
    """Let all that is read from a buffer be read from another one, which holds the same."""
    for view in raw.get("bufferViews", []):
        packed = view.get("extensions", {}).get("EXT_meshopt_compression", {})
        for part in (view, packed):
            if part.get("buffer") == index:
                part["buffer"] = other
