/** Pictures over each other: a second one by its share, or a plain colour. */
import {
  Color,
  type ColorRepresentation,
  Mesh,
  MeshBasicMaterial,
  OrthographicCamera,
  PlaneGeometry,
  SRGBColorSpace,
  Scene,
  type WebGLRenderer,
  WebGLRenderTarget,
} from "three";

export class Mixing {
  private readonly target = new WebGLRenderTarget(1, 1, {
    colorSpace: SRGBColorSpace,
    samples: navigator.webdriver ? 0 : 4,
  });
  private readonly screen = new Scene();
  private readonly camera = new OrthographicCamera(-1, 1, 1, -1, 0, 1);
  private readonly picture = new MeshBasicMaterial({ map: this.target.texture });
  private readonly plain = new MeshBasicMaterial();
  private readonly sheet = new Mesh(new PlaneGeometry(2, 2), this.picture);

  constructor() {
    for (const material of [this.picture, this.plain]) {
      material.transparent = true;
      material.depthTest = material.depthWrite = false;
      material.fog = material.toneMapped = false;
    }
    this.screen.add(this.sheet);
  }

  /** Lay what `paint` draws over what is there already; width and height in pixels of the canvas. */
  over(renderer: WebGLRenderer, width: number, height: number, share: number, paint: () => void): void {
    this.target.setSize(Math.round(width), Math.round(height));
    renderer.setRenderTarget(this.target);
    paint();
    renderer.setRenderTarget(null);
    this.picture.opacity = share;
    this.sheet.material = this.picture;
    renderer.render(this.screen, this.camera);
  }

  veil(renderer: WebGLRenderer, colour: ColorRepresentation, share: number): void {
    this.plain.color = new Color(colour);
    this.plain.opacity = share;
    this.sheet.material = this.plain;
    renderer.render(this.screen, this.camera);
  }

  dispose(): void {
    this.target.dispose();
    this.picture.dispose();
    this.plain.dispose();
    this.sheet.geometry.dispose();
  }
}
