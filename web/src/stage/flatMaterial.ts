/**
 * Matte, flat-lit: sky, ground and one sun, worked out once a corner rather than once a pixel, which is what makes the
 * Picture play at full rate without a graphics card. What is out of focus can be hatched over: before it in blue,
 * slanting, behind it in ochre, dotted.
 */
import { Color, MeshBasicMaterial, Vector3 } from "three";

const SKY = new Color("#fffaf0").multiplyScalar(0.88);
const GROUND = new Color("#aaa697").multiplyScalar(0.7);
const SUN = new Color("#fff1da").multiplyScalar(0.42);
const SUN_DIRECTION = new Vector3(-4, 7, -1.5).normalize();

/** Depths in metres between which it is sharp; `strength` 0 shows no tint. Shared by all materials. */
export const focusUniforms = {
  sharpNear: { value: 0 },
  sharpFar: { value: 1e9 },
  strength: { value: 0 },
  beforeTint: { value: new Color("#2a65a5") },
  behindTint: { value: new Color("#b8731a") },
};

export function flatMaterial(): MeshBasicMaterial {
  const material = new MeshBasicMaterial({ vertexColors: true, fog: false });
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, {
      skyLight: { value: SKY },
      groundLight: { value: GROUND },
      sunLight: { value: SUN },
      sunDirection: { value: SUN_DIRECTION },
      ...focusUniforms,
    });
    shader.vertexShader = shader.vertexShader
      .replace(
        "#include <common>",
        "#include <common>\nuniform vec3 skyLight, groundLight, sunLight, sunDirection;\nvarying float axialDepth;",
      )
      .replace(
        "#include <project_vertex>",
        `#include <project_vertex>
        axialDepth = -mvPosition.z;
        vec3 facing = normalize(mat3(modelMatrix) * objectNormal);
        vColor.rgb *= mix(groundLight, skyLight, 0.5 + 0.5 * facing.y) + sunLight * max(0.0, dot(facing, sunDirection));`,
      );
    shader.fragmentShader = shader.fragmentShader
      .replace(
        "#include <common>",
        `#include <common>
        uniform float sharpNear, sharpFar, strength;
        uniform vec3 beforeTint, behindTint;
        varying float axialDepth;`,
      )
      .replace(
        "#include <opaque_fragment>",
        `if (strength > 0.0) {
          if (axialDepth < sharpNear) {
            float line = step(fract((gl_FragCoord.x + gl_FragCoord.y) / 9.0), 0.28);
            outgoingLight = mix(outgoingLight, beforeTint, strength * (0.42 + 0.4 * line));
          } else if (axialDepth > sharpFar) {
            vec2 cell = fract(gl_FragCoord.xy / 8.0) - 0.5;
            float dot_ = 1.0 - step(0.16, length(cell));
            outgoingLight = mix(outgoingLight, behindTint, strength * (0.36 + 0.45 * dot_));
          }
        }
        #include <opaque_fragment>`,
      );
  };
  return material;
}
