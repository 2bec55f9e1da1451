/**
 * Matte, flat-lit: sky, ground and one sun, worked out once a corner rather than once a pixel, which is what makes the
 * Picture play at full rate without a graphics card.
 */
import { Color, MeshBasicMaterial, Vector3 } from "three";

const SKY = new Color("#fffaf0").multiplyScalar(0.88);
const GROUND = new Color("#aaa697").multiplyScalar(0.7);
const SUN = new Color("#fff1da").multiplyScalar(0.42);
const SUN_DIRECTION = new Vector3(-4, 7, -1.5).normalize();

export function flatMaterial(): MeshBasicMaterial {
  const material = new MeshBasicMaterial({ vertexColors: true, fog: false });
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, {
      skyLight: { value: SKY },
      groundLight: { value: GROUND },
      sunLight: { value: SUN },
      sunDirection: { value: SUN_DIRECTION },
    });
    shader.vertexShader = shader.vertexShader
      .replace(
        "#include <common>",
        "#include <common>\nuniform vec3 skyLight, groundLight, sunLight, sunDirection;",
      )
      .replace(
        "#include <project_vertex>",
        `#include <project_vertex>
        vec3 facing = normalize(mat3(modelMatrix) * objectNormal);
        vColor.rgb *= mix(groundLight, skyLight, 0.5 + 0.5 * facing.y) + sunLight * max(0.0, dot(facing, sunDirection));`,
      );
  };
  return material;
}
