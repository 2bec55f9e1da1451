/** A preview of real blur: the picture is drawn with its depths, and every pixel gathers what its disc reaches. */
import {
  DepthTexture,
  HalfFloatType,
  Mesh,
  OrthographicCamera,
  PlaneGeometry,
  Scene,
  ShaderMaterial,
  Vector2,
  type WebGLRenderer,
  WebGLRenderTarget,
} from "three";

const TAPS = 40;
const LARGEST_DISC_PX = 60;

/** The lens as far as blur goes: focus in metres, and the disc of a point at infinity in pixels of the canvas. */
export interface Blur {
  focusM: number;
  discAtInfinityPx: number;
  near: number;
  far: number;
}

export class Defocus {
  private readonly target = new WebGLRenderTarget(1, 1, {
    type: HalfFloatType,
    depthTexture: new DepthTexture(1, 1),
  });
  private readonly screen = new Scene();
  private readonly camera = new OrthographicCamera(-1, 1, 1, -1, 0, 1);
  private readonly material = new ShaderMaterial({
    depthTest: false,
    depthWrite: false,
    uniforms: {
      picture: { value: this.target.texture },
      depths: { value: this.target.depthTexture },
      size: { value: new Vector2(1, 1) },
      focus: { value: 1 },
      disc: { value: 0 },
      near: { value: 0.1 },
      far: { value: 100 },
    },
    vertexShader: "varying vec2 at; void main() { at = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }",
    fragmentShader: `
      uniform sampler2D picture, depths;
      uniform vec2 size;
      uniform float focus, disc, near, far;
      varying vec2 at;
      float depthAt(vec2 place) {
        float z = texture2D(depths, place).r * 2.0 - 1.0;
        return 2.0 * near * far / (far + near - z * (far - near));
      }
      float radiusAt(float depth) {
        return min(0.5 * disc * abs(depth - focus) / depth, ${LARGEST_DISC_PX.toFixed(1)});
      }
      void main() {
        float own = depthAt(at);
        float reach = radiusAt(own);
        vec3 sum = texture2D(picture, at).rgb;
        float weight = 1.0;
        for (int i = 1; i <= ${TAPS}; i++) {
          float share = sqrt(float(i) / ${TAPS.toFixed(1)});
          float turn = float(i) * 2.399963;
          float away = share * max(reach, ${(LARGEST_DISC_PX / 3).toFixed(1)});
          vec2 place = at + vec2(cos(turn), sin(turn)) * away / size;
          float depth = depthAt(place);
          float spread = radiusAt(depth);
          // What lies before bleeds over what lies behind; what lies behind never over what is sharp before it.
          float counts = smoothstep(away - 1.0, away + 1.0, depth < own ? spread : reach);
          sum += texture2D(picture, place).rgb * counts;
          weight += counts;
        }
        gl_FragColor = vec4(sum / weight, 1.0);
        #include <colorspace_fragment>
      }`,
  });

  constructor() {
    this.screen.add(new Mesh(new PlaneGeometry(2, 2), this.material));
  }

  /** Draw with `paint` into the target, then blurred onto the canvas, which is `width` x `height` device pixels. */
  render(renderer: WebGLRenderer, width: number, height: number, blur: Blur, paint: () => void): void {
    this.target.setSize(width, height);
    renderer.setRenderTarget(this.target);
    paint();
    renderer.setRenderTarget(null);
    const { uniforms } = this.material;
    (uniforms.size!.value as Vector2).set(width, height);
    uniforms.focus!.value = blur.focusM;
    uniforms.disc!.value = blur.discAtInfinityPx;
    uniforms.near!.value = blur.near;
    uniforms.far!.value = blur.far;
    renderer.render(this.screen, this.camera);
  }

  dispose(): void {
    this.target.dispose();
    this.material.dispose();
  }
}
