/**
 * Matte, flat-lit: sky, ground and one sun, worked out and made ready for the screen once a corner rather than once a pixel,
 * which is what makes the Picture play at full rate without a graphics card. What is out of focus can be hatched over: before
 * it in blue, slanting, behind it in ochre, dotted.
 */
import { Color, LinearSRGBColorSpace, MeshBasicMaterial, type Texture, Vector3 } from "three";
import { CLAY, LIGHT, OUT_OF_FOCUS, SILHOUETTE } from "./colours";

const SKY = new Color(LIGHT.sky).multiplyScalar(0.88);
const GROUND = new Color(LIGHT.ground).multiplyScalar(0.7);
const SUN = new Color(LIGHT.sun).multiplyScalar(0.42);
const SUN_DIRECTION = new Vector3(-4, 7, -1.5).normalize();

/** The transfer function of sRGB. */
const ENCODED = `vec3 encoded(vec3 light) {
  return mix(pow(light, vec3(1.0 / 2.4)) * 1.055 - 0.055, light * 12.92, vec3(lessThanEqual(light, vec3(0.0031308))));
}`;

/** Shared by all materials. */
export const shading = {
  /** Whether colours leave as the screen takes them (sRGB) or in proportion to light, for what works on with them. */
  encodes: { value: true },
  /** Form alone: everything of one colour, without its looks. */
  clay: { value: false },
  clayColor: { value: new Color(CLAY) },
  /** Not even form: the outline alone, in one dark colour. */
  silhouette: { value: false },
  silhouetteColor: { value: new Color(SILHOUETTE) },
  /** Depths in metres between which it is sharp. */
  sharpNear: { value: 0 },
  sharpFar: { value: 1e9 },
  beforeTint: { value: asOnScreen(OUT_OF_FOCUS.before) },
  behindTint: { value: asOnScreen(OUT_OF_FOCUS.behind) },
};
const materials = new Set<MeshBasicMaterial>();
let tinted = false;

/** Hatch what lies outside of a range of depths, or nothing. Without it the pixels cost nothing for it. */
export function tintFocus(sharp: { near: number; far: number } | null): void {
  shading.sharpNear.value = sharp?.near ?? 0;
  shading.sharpFar.value = sharp?.far ?? 1e9;
  if (tinted === (sharp !== null)) return;
  tinted = sharp !== null;
  for (const material of materials) setTinted(material);
}

function setTinted(material: MeshBasicMaterial): void {
  material.defines = { ...material.userData.defines, ...(tinted ? { TINTED: "" } : {}) };
  material.needsUpdate = true;
}

/** What a look adds: an image, light of its own, and whether the light of the scene falls on it. */
export interface Surfacing {
  map?: Texture | undefined;
  glow?: [number, number, number];
  lit?: boolean;
}

export function flatMaterial({ map, glow = [0, 0, 0], lit = true }: Surfacing = {}): MeshBasicMaterial {
  const material = new MeshBasicMaterial({ vertexColors: true, fog: false, ...(map ? { map } : {}) });
  material.userData.defines = { ...(map ? { TEXTURED: "" } : {}), ...(lit ? {} : { UNLIT: "" }) };
  setTinted(material);
  materials.add(material);
  material.addEventListener("dispose", () => materials.delete(material));
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, {
      skyLight: { value: SKY },
      groundLight: { value: GROUND },
      sunLight: { value: SUN },
      sunDirection: { value: SUN_DIRECTION },
      glow: { value: new Color(...glow) },
      ...shading,
    });
    shader.vertexShader = shader.vertexShader
      .replace(
        "#include <common>",
        `#include <common>
        uniform bool encodes, clay, silhouette;
        uniform vec3 glow, clayColor, silhouetteColor;
        uniform vec3 skyLight, groundLight, sunLight, sunDirection;
        varying float axialDepth;
        ${ENCODED}`,
      )
      .replace(
        "#include <project_vertex>",
        `#include <project_vertex>
        axialDepth = -mvPosition.z;
        vec3 facing = normalize(mat3(modelMatrix) * objectNormal);
        vec3 light = mix(groundLight, skyLight, 0.5 + 0.5 * facing.y) + sunLight * max(0.0, dot(facing, sunDirection));
        #ifdef UNLIT
          if (!clay) light = vec3(1.0);
        #endif
        vColor.rgb = silhouette ? silhouetteColor : clay ? clayColor * light : vColor.rgb * light;
        #ifndef TEXTURED
          if (!clay) vColor.rgb = min(vColor.rgb + glow, vec3(1.0));
          if (encodes) vColor.rgb = encoded(vColor.rgb);
        #endif`,
      );
    shader.fragmentShader = shader.fragmentShader
      .replace(
        "#include <common>",
        `#include <common>
        uniform float sharpNear, sharpFar;
        uniform vec3 beforeTint, behindTint;
        varying float axialDepth;
        #ifdef TEXTURED
          uniform bool encodes, clay;
          uniform vec3 glow;
          ${ENCODED}
        #endif`,
      )
      .replace(
        "#include <map_fragment>",
        `vec3 withoutImage = diffuseColor.rgb;
        #include <map_fragment>
        #ifdef TEXTURED
          if (clay) diffuseColor.rgb = withoutImage;
        #endif`,
      )
      .replace(
        "#include <opaque_fragment>",
        `#ifdef TEXTURED
          if (!clay) outgoingLight = min(outgoingLight + glow, vec3(1.0));
          if (encodes) outgoingLight = encoded(outgoingLight);
        #endif
        #ifdef TINTED
          if (axialDepth < sharpNear) {
            float line = step(fract((gl_FragCoord.x + gl_FragCoord.y) / 9.0), 0.28);
            outgoingLight = mix(outgoingLight, beforeTint, 0.42 + 0.4 * line);
          } else if (axialDepth > sharpFar) {
            vec2 cell = fract(gl_FragCoord.xy / 8.0) - 0.5;
            float dot_ = 1.0 - step(0.16, length(cell));
            outgoingLight = mix(outgoingLight, behindTint, 0.36 + 0.45 * dot_);
          }
        #endif
        #include <opaque_fragment>`,
      )
      .replace("#include <colorspace_fragment>", "");
  };
  return material;
}

/** A colour by its numbers on the screen. */
function asOnScreen(hex: string): Color {
  return new Color().setStyle(hex, LinearSRGBColorSpace);
}

/** How everything is shown until it is said otherwise: as it comes, its form alone, or its outline alone. */
export function showAs(way: "as it comes" | "clay" | "silhouette"): void {
  shading.silhouette.value = way === "silhouette";
  shading.clay.value = way !== "as it comes";
}
