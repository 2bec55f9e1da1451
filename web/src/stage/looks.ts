/** The materials of a rig's parts: its looks, with their images, which come a moment later than the rest. */
import {
  ClampToEdgeWrapping,
  DoubleSide,
  LinearMipmapNearestFilter,
  type Material,
  MirroredRepeatWrapping,
  RepeatWrapping,
  SRGBColorSpace,
  Texture,
  type Wrapping,
} from "three";
import type { RigPart } from "../api/generated";
import { session, setSession } from "../state/session";
import { flatMaterial } from "./flatMaterial";
import { meshParts } from "./surface";

type Look = RigPart["looks"][number];
const WRAPPING: Record<"repeat" | "clamp" | "mirror", Wrapping> = {
  repeat: RepeatWrapping,
  clamp: ClampToEdgeWrapping,
  mirror: MirroredRepeatWrapping,
};

/** One for each part of the mesh, in their order. */
export function materialsOf(rig: RigPart): Material[] {
  return meshParts(rig).map(({ look }) => {
    const known = look === null ? undefined : rig.looks[look];
    return known ? materialOf(rig, known) : flatMaterial();
  });
}

function materialOf(rig: RigPart, look: Look): Material {
  const image = look.image === null ? undefined : rig.images[look.image];
  const texture = image && textureOf(image, look);
  const material = flatMaterial({ map: texture, glow: look.glow as [number, number, number], lit: look.lit });
  material.opacity = look.opacity;
  if (look.both_sides) material.side = DoubleSide;
  if (look.alpha === "mask") material.alphaTest = look.cutoff;
  if (look.alpha === "blend") {
    material.transparent = true;
    material.depthWrite = false;
  }
  if (texture) material.addEventListener("dispose", () => texture.dispose());
  return material;
}

function textureOf(file: Uint8Array, look: Look): Texture {
  const texture = new Texture();
  [texture.wrapS, texture.wrapT] = look.wrap.map((way) => WRAPPING[way]) as [Wrapping, Wrapping];
  texture.colorSpace = SRGBColorSpace;
  texture.flipY = false;
  texture.minFilter = LinearMipmapNearestFilter;
  createImageBitmap(new Blob([file as BlobPart]), { premultiplyAlpha: "none", colorSpaceConversion: "none" })
    .then((bitmap) => {
      texture.image = bitmap;
      texture.needsUpdate = true;
      setSession({ drawn: session().drawn + 1 });
    })
    .catch(() => {}); // without its image it shows its colour
  return texture;
}
