"""Looks, shapes and compressed meshes of glTF files: against values worked out by hand and uncompressed twins; what is broken in
them ends in one clear line."""

from __future__ import annotations

import io
import struct
import zlib
from typing import Any

import DracoPy
import meshopt
import numpy as np
import pytest
from PIL import Image
from scipy.interpolate import CubicHermiteSpline

from eddyfield.core.rig.look import MeshPart
from eddyfield.core.rig.rig import Rig
from eddyfield.formats import gltf
from eddyfield.formats.errors import FileError
from eddyfield.web.images import LARGEST_SIDE, reduced

from .builders import Gltf

CORNERS = [[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0]]
TRIANGLES = [0, 1, 2, 0, 2, 3]
UVS = [[0, 1], [1, 1], [1, 0], [0, 0]]


def png(width: int = 2, height: int = 2, color: tuple[int, ...] = (255, 0, 0)) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (width, height), color).save(out, "PNG")
    return out.getvalue()


def claims(width: int, height: int) -> bytes:
    """A small PNG that claims to unpack to more than it should."""
    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    chunks = [(b"IHDR", head), (b"IDAT", zlib.compress(b"\0" * 100_000)), (b"IEND", b"")]
    body = b"".join(struct.pack(">I", len(d)) + n + d + struct.pack(">I", zlib.crc32(n + d)) for n, d in chunks)
    return b"\x89PNG\r\n\x1a\n" + body


def image(g: Gltf, data: bytes) -> None:
    g.json["bufferViews"].append({"buffer": 0, "byteOffset": len(g.data), "byteLength": len(data)})
    g.data += data + b"\0" * (-len(data) % 4)
    g.json.setdefault("images", []).append({"bufferView": len(g.json["bufferViews"]) - 1, "mimeType": "image/png"})


def quad(**primitive: Any) -> Gltf:
    """A square on the ground of a scene of its own, 1 m wide."""
    g = Gltf(scene=0, scenes=[{"nodes": [0]}])
    g.node("square", mesh=0)
    attributes = {
        "POSITION": g.accessor(CORNERS), "NORMAL": g.accessor([[0, 0, 1]] * 4),
        "TEXCOORD_0": g.accessor(UVS), "TEXCOORD_1": g.accessor(np.array(UVS) / 2),
    }  # fmt: skip
    one = {"attributes": attributes, "indices": g.accessor(TRIANGLES, "<u2"), "material": 0, **primitive}
    g.json["meshes"] = [{"primitives": [one]}]
    g.json["materials"] = [
        {"pbrMetallicRoughness": {"baseColorFactor": [0.5, 0.25, 1.0, 0.5], "baseColorTexture": {"index": 0}}}
    ]
    g.json["textures"] = [{"source": 0}]
    image(g, png())
    return g


def rig(g: Gltf) -> Rig:
    return gltf.read(g.glb(), with_mesh=True)


def material(g: Gltf, **members: Any) -> Gltf:
    g.json["materials"][0] |= members
    return g


# --- looks ---


def test_a_look_has_its_image_opacity_and_colours() -> None:
    mesh = rig(quad()).mesh
    assert mesh is not None
    assert mesh.parts == (MeshPart(0, 2, 0, smooth=True),)
    (look,) = mesh.looks
    assert (look.image, look.opacity, look.alpha, look.wrap) == (0, 0.5, "opaque", ("repeat", "repeat"))
    assert mesh.images == (png(),)
    assert np.allclose(mesh.uvs, UVS)
    assert np.allclose(mesh.colors, [0.5, 0.25, 1.0])


def test_what_else_a_look_says() -> None:
    g = material(
        quad(), alphaMode="MASK", alphaCutoff=0.3, doubleSided=True, emissiveFactor=[0.1, 0.2, 0.9], name="cloth",
        extensions={"KHR_materials_unlit": {}, "KHR_materials_emissive_strength": {"emissiveStrength": 2.0}},
    )  # fmt: skip
    g.json["samplers"] = [{"wrapS": 33071, "wrapT": 33648}]
    g.json["textures"] = [{"source": 7, "sampler": 0, "extensions": {"EXT_texture_webp": {"source": 0}}}]
    mesh = rig(g).mesh
    assert mesh is not None
    (look,) = mesh.looks
    assert (look.name, look.alpha, look.cutoff, look.both_sides, look.lit) == ("cloth", "mask", 0.3, True, False)
    assert look.glow == pytest.approx((0.2, 0.4, 1.0)), "no more than a screen can show"
    assert look.wrap == ("clamp", "mirror")


@pytest.mark.parametrize(
    ("transform", "first"),
    [
        ({"offset": [0.5, 0.25]}, (0.5, 1.25)),
        ({"scale": [2, 3]}, (0.0, 3.0)),
        ({"rotation": np.pi / 2}, (1.0, 0.0)),
        ({"rotation": np.pi / 2, "scale": [1, 2], "offset": [1, 1]}, (3.0, 1.0)),
        ({"texCoord": 1}, (0.0, 0.5)),
    ],
)
def test_coordinates_are_transformed(transform: dict[str, Any], first: tuple[float, float]) -> None:
    """Of the corner at u 0, v 1. A quarter turn is counter-clockwise as seen, v running downwards: (0, 1) goes to (1, 0)."""
    g = quad()
    texture = {"index": 0, "extensions": {"KHR_texture_transform": transform}}
    g.json["materials"][0]["pbrMetallicRoughness"]["baseColorTexture"] = texture
    mesh = rig(g).mesh
    assert mesh is not None
    assert mesh.uvs[0] == pytest.approx(first, abs=1e-6)


def test_parts_that_look_alike_are_one_and_others_are_not() -> None:
    g = quad()
    (one,) = g.json["meshes"][0]["primitives"]
    flat = {**one, "attributes": {"POSITION": one["attributes"]["POSITION"]}, "material": 1}
    g.json["materials"].append({"name": "plain"})
    g.json["meshes"][0]["primitives"] = [one, one, flat]
    mesh = rig(g).mesh
    assert mesh is not None
    assert mesh.parts == (MeshPart(0, 4, 0, smooth=True), MeshPart(4, 6, 1, smooth=False))
    assert [look.image for look in mesh.looks] == [0, None]


def test_images_are_sent_no_larger_than_they_can_be_seen() -> None:
    small = png(64, 32)
    assert reduced(small).tobytes() == small, "as it is"
    with Image.open(io.BytesIO(reduced(png(LARGEST_SIDE * 2, LARGEST_SIDE // 2)).tobytes())) as told:
        assert told.size == (LARGEST_SIDE, LARGEST_SIDE // 4)
        assert told.convert("RGB").getpixel((5, 5)) == pytest.approx((255, 0, 0), abs=4)
    with Image.open(io.BytesIO(reduced(claims(LARGEST_SIDE * 2, 50)).tobytes())) as told:
        assert told.size == (1, 1), "what cannot be unpacked is shown without"


# --- shapes ---


def shaped(interpolation: str = "LINEAR") -> Gltf:
    """The square with two shapes on two primitives: one sparse, one of whole numbers; the second begins at a weight of 0.25."""
    g = quad()
    (one,) = g.json["meshes"][0]["primitives"]
    up = g.accessor([[0, 0, 0], [0, 0, 0], [0, 2, 0], [0, 0, 0]])
    sparse_at, sparse_by = g.accessor([3], "<u2"), g.accessor([[1.0, 0, 0]])
    views = [g.json["accessors"][a]["bufferView"] for a in (sparse_at, sparse_by)]
    g.json["accessors"].append(
        {"componentType": 5126, "count": 4, "type": "VEC3", "sparse": {
            "count": 1, "indices": {"bufferView": views[0], "componentType": 5123}, "values": {"bufferView": views[1]}}}
    )  # fmt: skip
    sparse = len(g.json["accessors"]) - 1
    small = g.accessor([[127, 0, 0]] + [[0, 0, 0]] * 3, "|i1", stride=4, normalized=True)
    one["targets"] = [{"POSITION": up, "NORMAL": up}, {"POSITION": sparse}]
    other = {**one, "targets": [{"POSITION": small, "NORMAL": small}, {"POSITION": sparse}]}
    g.json["meshes"] = [
        {"primitives": [one, other], "weights": [0.0, 0.25], "extras": {"targetNames": ["smile", "blink"], "x": [{}]}}
    ]
    values = [[0, 0], [1, 0.5], [0.5, 1]]
    if interpolation == "CUBICSPLINE":
        values = [row for key in values for row in ([0.3, -1], key, [2, 1])]
    g.animate((0, "weights", [0, 1, 3], np.reshape(values, (-1, 1)), interpolation))
    return g


def test_shapes_go_over_all_primitives_by_what_they_move() -> None:
    mesh = rig(shaped()).mesh
    assert mesh is not None
    smile, blink = mesh.shapes
    assert (smile.name, blink.name) == ("smile", "blink")
    assert smile.vertices.tolist() == [2, 4]
    assert np.allclose(smile.moves, [[0, 2, 0], [1, 0, 0]])
    assert np.allclose(smile.turns, smile.moves)
    assert blink.vertices.tolist() == [3, 7]
    assert blink.turns.size == 0


def test_weights_follow_their_curves() -> None:
    at = np.array([0.0, 0.25, 1.0, 1.5, 2.9, 9.0])
    linear = np.stack([np.interp(at, [0, 1, 3], [0, 1, 0.5]), np.interp(at, [0, 1, 3], [0, 0.5, 1])], axis=-1)
    assert np.allclose(rig(shaped()).motion.shape_weights(at), linear)
    step = np.array([[0, 0], [0, 0], [1, 0.5], [1, 0.5], [1, 0.5], [0.5, 1]])
    assert np.allclose(rig(shaped("STEP")).motion.shape_weights(at), step)
    keys = np.array([[0, 0], [1, 0.5], [0.5, 1]])
    into, out = np.tile([0.3, -1], (3, 1)), np.tile([2.0, 1.0], (3, 1))
    cubic = rig(shaped("CUBICSPLINE")).motion.shape_weights(at)
    for first, (a, b) in enumerate(((0.0, 1.0), (1.0, 3.0))):
        inside = (at >= a) & (at <= b)
        spline = CubicHermiteSpline([a, b], keys[first : first + 2], [out[first], into[first + 1]])
        assert np.allclose(cubic[inside], spline(at[inside])), "by another way of evaluating it"
    still = shaped()
    still.json["animations"] = []
    assert np.allclose(rig(still).motion.shape_weights(at), [0.0, 0.25])


# --- compressed ---


def draco(g: Gltf) -> Gltf:
    """The same with its square compressed; the accessors have no data of their own any more."""
    (one,) = g.json["meshes"][0]["primitives"]
    data = DracoPy.encode(
        np.array(CORNERS, dtype=np.float32), np.array(TRIANGLES, dtype=np.uint32).reshape(-1, 3), quantization_bits=0,
        preserve_order=True, generic_attributes={7: np.array(UVS, dtype=np.float32)},
    )  # fmt: skip
    place = next(a["unique_id"] for a in DracoPy.decode(data).attributes if a["attribute_type"] == 0)
    g.json["bufferViews"].append({"buffer": 0, "byteOffset": len(g.data), "byteLength": len(data)})
    g.data += data + b"\0" * (-len(data) % 4)
    packed = {"bufferView": len(g.json["bufferViews"]) - 1, "attributes": {"POSITION": place, "TEXCOORD_0": 7}}
    one["extensions"] = {"KHR_draco_mesh_compression": packed}
    for index in (one["attributes"]["POSITION"], one["attributes"]["TEXCOORD_0"], one["indices"]):
        del g.json["accessors"][index]["bufferView"]
    g.json["extensionsRequired"] = ["KHR_draco_mesh_compression"]
    return g


def test_draco_unpacks_to_its_uncompressed_twin() -> None:
    twin, mesh = rig(quad()).mesh, rig(draco(quad())).mesh
    assert twin is not None
    assert mesh is not None
    for name in ("positions", "normals", "uvs", "triangles", "colors"):
        assert np.allclose(getattr(mesh, name), getattr(twin, name), atol=1e-6), name


def packed_view(g: Gltf, view: int, mode: str, count: int, stride: int) -> None:
    """Compress one buffer view where it is: what it was stays, as the fallback that nobody reads."""
    part = g.json["bufferViews"][view]
    raw = np.frombuffer(bytes(g.data), np.uint8, part["byteLength"], part["byteOffset"])
    values = (
        raw.reshape(count, stride)
        if mode == "ATTRIBUTES"
        else raw.view("<u2" if stride == 2 else "<u4").astype(np.uint32)
    )
    data = meshopt.encode_gltf_buffer(np.ascontiguousarray(values), mode)
    part["extensions"] = {
        "EXT_meshopt_compression": {
            "buffer": 0, "byteOffset": len(g.data), "byteLength": len(data), "byteStride": stride, "count": count, "mode": mode,
        }
    }  # fmt: skip
    g.data += data + b"\0" * (-len(data) % 4)


def test_meshopt_unpacks_to_its_uncompressed_twin_animations_too() -> None:
    twin, g = rig(shaped()), shaped()
    (one, _) = g.json["meshes"][0]["primitives"]
    sampler = g.json["animations"][0]["samplers"][0]
    views = {name: g.json["accessors"][index]["bufferView"] for name, index in {
        "positions": one["attributes"]["POSITION"], "indices": one["indices"], "weights": sampler["output"],
    }.items()}  # fmt: skip
    packed_view(g, views["positions"], "ATTRIBUTES", 4, 12)
    packed_view(g, views["indices"], "TRIANGLES", 6, 2)
    packed_view(g, views["weights"], "ATTRIBUTES", 6, 4)
    for view in views.values():  # nothing of what was there before is read
        part = g.json["bufferViews"][view]
        g.data[part["byteOffset"] : part["byteOffset"] + part["byteLength"]] = b"\xff" * part["byteLength"]
    read = rig(g)
    assert read.mesh is not None
    assert twin.mesh is not None
    assert np.array_equal(read.mesh.positions, twin.mesh.positions)
    at = np.linspace(0, 3, 7)
    assert np.array_equal(read.motion.shape_weights(at), twin.motion.shape_weights(at))
    assert sorted(map(sorted, read.mesh.triangles.tolist())) == sorted(map(sorted, twin.mesh.triangles.tolist()))


# --- broken and hostile ---


def with_image(data: bytes) -> Gltf:
    g = quad()
    g.json["images"] = []
    image(g, data)
    return g


def textured(**texture: Any) -> Gltf:
    g = quad()
    g.json["textures"] = [texture]
    return g


def targeted(*targets: Any) -> Gltf:
    g = quad()
    g.json["meshes"][0]["primitives"][0]["targets"] = list(targets)
    return g


def garbled(g: Gltf, name: str, at: int = 12) -> Gltf:
    part = (
        g.json["bufferViews"][-1]
        if name == "draco"
        else g.json["bufferViews"][0]["extensions"]["EXT_meshopt_compression"]
    )
    first = part["byteOffset"] + min(at, part["byteLength"] // 2)
    g.data[first : first + 8] = b"\xff" * min(8, part["byteLength"] // 2)
    return g


def meshopted(**members: Any) -> Gltf:
    g = quad()
    packed_view(g, 0, "ATTRIBUTES", 4, 12)
    g.json["bufferViews"][0]["extensions"]["EXT_meshopt_compression"] |= members
    return g


def dracoed(**members: Any) -> Gltf:
    g = draco(quad())
    g.json["meshes"][0]["primitives"][0]["extensions"]["KHR_draco_mesh_compression"] |= members
    return g


def many_images(count: int) -> Gltf:
    g = quad()
    g.json["images"] = [g.json["images"][0]] * count
    g.json["textures"] = [{"source": n} for n in range(count)]
    g.json["materials"] = [{"pbrMetallicRoughness": {"baseColorTexture": {"index": n}}} for n in range(count)]
    (one,) = g.json["meshes"][0]["primitives"]
    g.json["meshes"][0]["primitives"] = [{**one, "material": n} for n in range(count)]
    return g


BROKEN: dict[str, Gltf] = {
    "an image of 60,000 pixels a side": with_image(claims(60_000, 60_000)),
    "an image that unpacks to gigabytes": with_image(claims(16_000, 16_000 * 8)),
    "an image that is none": with_image(b"not an image at all"),
    "an empty image": with_image(b""),
    "an image cut off in its head": with_image(png()[:20]),
    "an image of another kind": with_image(b"GIF89a" + b"\0" * 40),
    "an image without data": (lambda g: (g.json.update(images=[{}]), g)[1])(quad()),
    "an image outside": (lambda g: (g.json.update(images=[{"uri": "../../secret.png"}]), g)[1])(quad()),
    "an image of the network": (lambda g: (g.json.update(images=[{"uri": "file:///etc/passwd"}]), g)[1])(quad()),
    "an image in a view that is not there": (lambda g: (g.json.update(images=[{"bufferView": 99}]), g)[1])(quad()),
    "an image that is not there": textured(source=9),
    "a sampler that is not there": textured(source=0, sampler=3),
    "a texture that is not there": material(quad(), pbrMetallicRoughness={"baseColorTexture": {"index": 4}}),
    "a material that is not there": quad(material=5),
    "more images than anything has": many_images(70),
    "fewer coordinates than points": (
        lambda g: (g.json["meshes"][0]["primitives"][0]["attributes"].update(TEXCOORD_0=g.accessor([[0, 0]])), g)[1]
    )(quad()),
    "a shape of fewer points": (lambda g: (g.json["meshes"][0]["primitives"][0].update(
        targets=[{"POSITION": g.accessor([[0, 0, 0]])}]), g)[1])(quad()),
    "a shape that is not there": targeted({"POSITION": 99}),
    "a shape that is no shape": targeted("up"),
    "more shapes than any face has": targeted(*[{"POSITION": 0}] * 1001),
    "fewer weights than keys": (lambda g: (g.json["accessors"][g.json["animations"][0]["samplers"][0]["output"]].update(count=2),
                                           g)[1])(shaped()),
    "draco garbage": garbled(draco(quad()), "draco"),
    "draco cut off": (lambda g: (g.json["bufferViews"][-1].update(byteLength=20), g)[1])(draco(quad())),
    "draco without a view": dracoed(bufferView=99),
    "draco without an attribute": dracoed(attributes={"POSITION": 3}),
    "draco of another count": (lambda g: (g.json["accessors"][0].update(count=400), g)[1])(draco(quad())),
    "meshopt garbage": garbled(meshopted(), "meshopt", 0),
    "meshopt cut off": meshopted(byteLength=5),
    "meshopt beyond its buffer": meshopted(byteOffset=10**9),
    "meshopt of a buffer that is not there": meshopted(buffer=7),
    "meshopt that unpacks to terabytes": meshopted(count=2**39),
    "meshopt of an odd stride": meshopted(byteStride=7),
    "meshopt of odd triangles": meshopted(mode="TRIANGLES", byteStride=2, count=4),
    "meshopt of no known mode": meshopted(mode="POINTS"),
    "a JPEG of 60,000 pixels a side": with_image(
        b"\xff\xd8\xff\xc0\x00\x11\x08\xea\x60\xea\x60\x03" + bytes(9) + b"\xff\xd9"
    ),
    "a shape of more points": (lambda g: (g.json["accessors"][0].update(count=10**9), g)[1])(targeted({"POSITION": 0})),
    "a PNG with a head of no size": with_image(png()[:16] + bytes(8) + png()[24:]),
    "a JPEG that ends in its head": with_image(b"\xff\xd8\xff\xc0\x00\x11\x08"),
    "a WebP of no known kind": with_image(b"RIFF\x20\0\0\0WEBPVP9 " + b"\0" * 24),
    "draco of terabytes": (lambda g: (g.json["accessors"][0].update(count=2**40), g)[1])(draco(quad())),
    "draco in a view beyond its buffer": (lambda g: (g.json["bufferViews"][-1].update(byteOffset=10**9), g)[1])(draco(quad())),
}  # fmt: skip


@pytest.mark.parametrize("name", BROKEN)
def test_what_is_broken_ends_in_one_clear_line(name: str) -> None:
    with pytest.raises(FileError) as told:
        rig(BROKEN[name])
    assert "\n" not in str(told.value)
    assert told.value.remedy
