/** The one WebGL context: draws the set and the characters as baked, through any sight, and a magnified detail. */
import {
  Camera,
  Color,
  Fog,
  GridHelper,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  PlaneGeometry,
  SRGBColorSpace,
  Scene,
  WebGLRenderTarget,
  WebGLRenderer,
} from "three";
import type { SceneSent, SceneView } from "../api/generated";
import type { Part } from "../api/part";
import { type ShownAs, session, setSession } from "../state/session";
import { Cast, type Posing } from "./cast";
import { GRID, PAPER_GROUND, SKY, SURROUND } from "./colours";
import { type Blur, Defocus } from "./defocus";
import { shading, showAs, tintFocus } from "./flatMaterial";
import { Mixing } from "./mixing";
import { PlayingDetail } from "./playingDetail";
import { ReadBack } from "./readBack";
import { type FrameRect, type Sight, projection } from "../optics/lens";

const TILE_SAMPLES = 4;
/** How large cells of coarser surfaces may be in small pictures. */
const MOST_TILE_PX = 1.5;

export interface Detail {
  /** Middle of the detail on the canvas, CSS pixels. */
  x: number;
  y: number;
  /** Half its size, CSS pixels, and how many CSS pixels a pixel of the delivery frame takes in it. */
  radius: number;
  scale: number;
}

/** What lies over the picture: that of a second sight, or a colour; by its share 0 to 1. */
export type Over = { sight: Sight; share: number } | { colour: string; share: number };

/** How depth of field is shown: the sharp range in metres, and what blurs. */
export interface FocusShown {
  way: "tint" | "blur";
  near: number;
  far: number;
  blur: Blur;
}

const wayOf = (shownAs: ShownAs) =>
  shownAs === "clay" || shownAs === "silhouette" ? shownAs : "as it comes";

export class Stage {
  private readonly renderer: WebGLRenderer;
  private readonly world = new Scene();
  private readonly camera = new Camera();
  private readonly cast = new Cast(this.world);
  private readonly plainGround: (Mesh | GridHelper)[];
  private readonly defocus = new Defocus();
  private readonly mixing = new Mixing();
  private readonly playingDetail = new PlayingDetail();
  private readonly readBack: ReadBack;
  private readonly tileTargets = new Map<string, WebGLRenderTarget>();
  private width = 1;
  private height = 1;

  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({
      canvas,
      antialias: !navigator.webdriver,
      powerPreference: "high-performance",
    });
    this.renderer.autoClear = false;
    this.renderer.debug.onShaderError = (gl, program, ...shaders) => {
      const logs = [gl.getProgramInfoLog(program), ...shaders.map((shader) => gl.getShaderInfoLog(shader))];
      // Without any reason the graphics process died while it linked: the loss is told next, and all is made again.
      if (logs.some((log) => log)) console.error("A shader program does not link:", ...logs);
    };
    this.readBack = new ReadBack(this.renderer);
    // When the graphics process had to be started anew everything is made again, but only what is asked for is drawn.
    canvas.addEventListener("webglcontextrestored", () => {
      this.readBack.forget();
      setSession({ drawn: session().drawn + 1 });
    });
    this.world.background = new Color(SKY);
    // Plain ground fades into the distance; a set stands clear.
    this.world.fog = new Fog(SKY, 9, 34);
    const ground = new Mesh(new PlaneGeometry(200, 200), new MeshBasicMaterial({ color: PAPER_GROUND }));
    ground.rotation.x = -Math.PI / 2;
    ground.position.y = -0.004;
    this.plainGround = [ground, new GridHelper(60, 60, GRID.axes, GRID.lines)];
    this.world.add(...this.plainGround);
    this.camera.matrixAutoUpdate = false;
    this.camera.matrixWorldAutoUpdate = false;
  }

  resize(width: number, height: number, density: number): void {
    this.width = width;
    this.height = height;
    this.renderer.setPixelRatio(density);
    this.renderer.setSize(width, height, false);
  }

  /** Bring the figures in line with the scene and pose them for a frame. */
  pose(scene: SceneView, parts: Map<string, Part>, frame: number, posing: Partial<Posing> = {}): void {
    this.cast.pose(scene, parts, frame, posing);
    const isBare = scene.pieces.every(
      (piece) => piece.kind !== "set piece" || piece.source.format === "stand-in",
    );
    for (const thing of this.plainGround) thing.visible = isBare && !posing.silhouette;
  }

  /** Make what a scene needs that is shown next, a figure at a time. */
  prepare(scene: SceneSent, parts: Map<string, Part>): void {
    const made = this.cast.prepare(scene, parts);
    if (!made) return;
    // Compiled as it will be drawn, and drawn once where nobody sees it, so that it is in the graphics memory when it is wanted.
    this.renderer.compile(made, this.camera, this.world);
    const apart = new Scene();
    apart.add(made);
    this.renderer.setRenderTarget(this.tileTarget(1, 1));
    this.renderer.render(apart, this.camera);
    this.renderer.setRenderTarget(null);
    apart.remove(made);
  }

  render(
    scene: SceneView,
    sight: Sight,
    rect: FrameRect,
    detail: Detail | null,
    focus: FocusShown | null = null,
    over: Over | null = null,
  ): void {
    const height = this.height * this.renderer.getPixelRatio();
    const { playing, dropped } = session();
    const most = this.playingDetail.mostPx(playing, dropped);
    this.look(sight, projection(sight, scene, rect, this.width, this.height), { height, most });
    this.renderer.setScissorTest(false);
    this.renderer.setViewport(0, 0, this.width, this.height);
    tintFocus(focus?.way === "tint" ? focus : null);
    shading.encodes.value = focus?.way !== "blur";
    showAs(wayOf(session().shownAs));
    const paint = () => {
      this.renderer.clear();
      this.renderer.render(this.world, this.camera);
    };
    if (focus?.way === "blur") {
      const density = this.renderer.getPixelRatio();
      const [width, height] = [this.width * density, this.height * density];
      const grow = (rect.width / scene.width) * density;
      const blur = { ...focus.blur, discAtInfinityPx: focus.blur.discAtInfinityPx * grow };
      this.defocus.render(this.renderer, width, height, blur, paint);
    } else paint();
    if (over && "sight" in over) {
      this.look(over.sight, projection(over.sight, scene, rect, this.width, this.height), { height, most });
      const width = this.width * this.renderer.getPixelRatio();
      shading.encodes.value = false; // writing into the target does
      this.mixing.over(this.renderer, width, height, over.share, () => {
        this.renderer.clear();
        this.renderer.render(this.world, this.camera);
      });
      shading.encodes.value = true;
    } else if (over) this.mixing.veil(this.renderer, over.colour, over.share);
    if (detail) this.renderDetail(scene, sight, rect, detail);
    tintFocus(null);
    shading.encodes.value = true;
    showAs("as it comes");
  }

  /**
   * Pictures below the one that was drawn last, of the same frame and in the same task, so that all are in step. The canvas from
   * `top` down is theirs.
   */
  row(scene: SceneView, top: number, pictures: { sight: Sight; rect: FrameRect }[]): void {
    const clear = this.renderer.getClearColor(new Color());
    this.renderer.setScissorTest(true);
    this.renderer.setScissor(0, 0, this.width, this.height - top);
    this.renderer.setClearColor(SURROUND);
    this.renderer.clear();
    this.renderer.setClearColor(clear);
    showAs(wayOf(session().shownAs));
    for (const { sight, rect } of pictures) {
      const frame = { x: 0, y: 0, width: rect.width, height: rect.height };
      const matrix = projection(sight, scene, frame, rect.width, rect.height);
      this.look(sight, matrix, { height: rect.height, most: MOST_TILE_PX });
      const bottom = this.height - rect.y - rect.height;
      this.renderer.setScissor(rect.x, bottom, rect.width, rect.height);
      this.renderer.setViewport(rect.x, bottom, rect.width, rect.height);
      this.renderer.clear();
      this.renderer.render(this.world, this.camera);
    }
    this.renderer.setScissorTest(false);
    showAs("as it comes");
  }

  /** Pictures of different scenes, and nothing else: each posed and drawn by itself, in the same task. */
  apart(
    pictures: {
      scene: SceneView;
      parts: Map<string, Part>;
      frame: number;
      sight: Sight;
      rect: FrameRect;
    }[],
  ): void {
    const clear = this.renderer.getClearColor(new Color());
    this.renderer.setScissorTest(false);
    this.renderer.setViewport(0, 0, this.width, this.height);
    this.renderer.setClearColor(SURROUND);
    this.renderer.clear();
    this.renderer.setClearColor(clear);
    for (const { scene, parts, frame, sight, rect } of pictures) {
      this.pose(scene, parts, frame);
      this.row(scene, this.height, [{ sight, rect }]);
    }
  }

  /**
   * A small picture of the delivery frame, handed over by a later `fetchTiles`. It has a target of its own and is read back
   * without waiting for it.
   */
  tile(
    scene: SceneView,
    sight: Sight,
    width: number,
    height: number,
    taken: (picture: ImageData) => void,
  ): void {
    const target = this.tileTarget(width, height);
    const frame = { x: 0, y: 0, width, height };
    this.look(sight, projection(sight, scene, frame, width, height), { height, most: MOST_TILE_PX });
    this.renderer.setRenderTarget(target);
    this.renderer.clear();
    shading.encodes.value = false; // writing into the target does
    this.renderer.render(this.world, this.camera);
    shading.encodes.value = true;
    this.readBack.copy(target, (raw) => {
      const picture = new ImageData(width, height);
      for (let row = 0; row < height; row++)
        picture.data.set(
          raw.subarray((height - 1 - row) * width * 4, (height - row) * width * 4),
          row * width * 4,
        );
      taken(picture);
    });
  }

  /** Hand over the small pictures that are done. */
  fetchTiles(): void {
    this.readBack.fetch();
  }

  get tilesUnderWay(): number {
    return this.readBack.count;
  }

  /** A still of the delivery frame as a PNG. The canvas is used for it: draw again in the same task, so that nobody sees. */
  still(scene: SceneView, sight: Sight, width: number, height: number): Promise<Blob | null> {
    const [ownWidth, ownHeight, density] = [this.width, this.height, this.renderer.getPixelRatio()];
    this.resize(width, height, 1);
    this.render(scene, sight, { x: 0, y: 0, width, height }, null);
    const blob = new Promise<Blob | null>((resolve) => this.renderer.domElement.toBlob(resolve, "image/png"));
    this.resize(ownWidth, ownHeight, density);
    return blob;
  }

  dispose(): void {
    this.cast.dispose();
    for (const target of this.tileTargets.values()) target.dispose();
    this.defocus.dispose();
    this.mixing.dispose();
    this.renderer.dispose();
  }

  private tileTarget(width: number, height: number): WebGLRenderTarget {
    const size = `${width} x ${height}`;
    let target = this.tileTargets.get(size);
    if (!target) {
      const samples = navigator.webdriver ? 0 : TILE_SAMPLES;
      target = new WebGLRenderTarget(width, height, { colorSpace: SRGBColorSpace, samples });
      this.tileTargets.set(size, target);
    }
    return target;
  }

  private renderDetail(scene: SceneView, sight: Sight, rect: FrameRect, detail: Detail): void {
    const { x, y, radius, scale } = detail;
    // The point under the middle of the detail stays where it is; around it the frame is larger.
    const grow = (scale * scene.width) / rect.width;
    const enlarged = {
      x: x - (x - rect.x) * grow,
      y: y - (y - rect.y) * grow,
      width: rect.width * grow,
      height: rect.height * grow,
    };
    const size = 2 * radius;
    const shifted = { ...enlarged, x: enlarged.x - (x - radius), y: enlarged.y - (y - radius) };
    this.look(sight, projection(sight, scene, shifted, size, size), { height: size, most: 0 });
    const bottom = this.height - (y + radius);
    this.renderer.setScissorTest(true);
    this.renderer.setScissor(x - radius, bottom, size, size);
    this.renderer.setViewport(x - radius, bottom, size, size);
    this.renderer.clear();
    this.renderer.render(this.world, this.camera);
    this.renderer.setScissorTest(false);
  }

  /** `cells`: of a picture so many pixels high, how many a cell of a coarser surface may be. */
  private look(sight: Sight, matrix: Matrix4, cells: { height: number; most: number }): void {
    this.camera.matrixWorld.copy(sight.world);
    this.camera.matrixWorldInverse.copy(sight.world).invert();
    this.camera.projectionMatrix.copy(matrix);
    this.camera.projectionMatrixInverse.copy(matrix).invert();
    this.cast.show(sight.by, this.camera, cells);
  }
}
