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
import type {
  CarriedPart,
  CharacterView,
  MotionPart,
  PieceMotionPart,
  PieceView,
  RigPart,
  SceneView,
  ShownPart,
} from "../api/generated";
import { type Part, part, session, setSession } from "../state/session";
import { BESIDE, GHOSTS, GRID, PAPER_GROUND, SHADE, SKY } from "./colours";
import { Figure } from "./figure";
import { type Blur, Defocus } from "./defocus";
import { shading, tintFocus } from "./flatMaterial";
import { PlainBody } from "./plainBody";
import { PlayingDetail } from "./playingDetail";
import { ReadBack } from "./readBack";
import { softDisc } from "./softDisc";
import { type FrameRect, type Sight, projection } from "../optics/lens";

const SHADE_HEIGHT_M = 0.2;
const ONION_POSES = 1;
const TILE_SAMPLES = 4;
/** How large cells of coarser surfaces may be in small pictures. */
const MOST_TILE_PX = 1.5;
/** Of a character's ghosts: the poses before and after, and itself beside another version. */
const TINTS = [...GHOSTS, BESIDE];
const BESIDE_ID = "beside";

export interface Detail {
  /** Middle of the detail on the canvas, CSS pixels. */
  x: number;
  y: number;
  /** Half its size, CSS pixels, and how many CSS pixels a pixel of the delivery frame takes in it. */
  radius: number;
  scale: number;
}

/** How depth of field is shown: the sharp range in metres, and what blurs. */
export interface FocusShown {
  way: "tint" | "blur";
  near: number;
  far: number;
  blur: Blur;
}

/** Poses before and after as ghosts; another version solid in the place of what is performed; plain bodies. */
interface Posing {
  onion: boolean;
  flipped: boolean;
  plain: boolean;
}

export class Stage {
  private readonly renderer: WebGLRenderer;
  private readonly world = new Scene();
  private readonly camera = new Camera();
  private readonly figures = new Map<string, Figure>();
  private readonly bodies = new WeakMap<MotionPart, PlainBody>();
  private showings: { id: string; showing: CharacterView["showing"]; there: boolean }[] = [];
  private readonly shadeGeometry = softDisc();
  private readonly shadeMaterial = new MeshBasicMaterial({
    vertexColors: true,
    transparent: true,
    depthWrite: false,
    color: SHADE,
  });
  private readonly plainGround: (Mesh | GridHelper)[];
  private readonly defocus = new Defocus();
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
  pose(
    scene: SceneView,
    parts: Map<string, Part>,
    frame: number,
    { onion = false, flipped = false, plain = false }: Partial<Posing> = {},
  ): void {
    const row = frame - scene.first;
    const used = new Set<string>();
    for (const piece of scene.pieces) {
      const rig = part<RigPart>({ parts }, piece.rig);
      if (!rig) continue;
      used.add(piece.id);
      const present = this.figures.get(piece.id);
      const figure = present?.rig === rig ? present : this.figure(piece.id, rig, []);
      this.posePiece(figure, piece, parts, row);
    }
    for (const character of scene.characters) {
      const own = part<RigPart>({ parts }, character.rig);
      const motion = part<MotionPart>({ parts }, character.motion);
      const shown = part<ShownPart>({ parts }, character.shown);
      if (!own || !motion || !shown) continue;
      used.add(character.id);
      const rig = plain ? this.plainBody(own, motion, character) : own;
      const present = this.figures.get(character.id);
      const figure = present?.rig === rig ? present : this.figure(character.id, rig, TINTS);
      this.poseCharacter(figure, character, motion, shown, scene.first, row, onion);
      this.fadeIn(
        figure,
        motion,
        shown,
        scene.first,
        row,
        flipped && scene.beside?.character_id === character.id,
      );
    }
    if (this.poseBeside(scene, parts, row, { flipped, plain })) used.add(BESIDE_ID);
    for (const id of this.figures.keys()) if (!used.has(id)) this.drop(id);
    const beside = scene.characters
      .filter(({ id }) => id === scene.beside?.character_id)
      .map(({ showing }) => ({ id: BESIDE_ID, showing }));
    this.showings = [...scene.characters, ...scene.pieces, ...beside].map(({ id, showing }) => ({
      id,
      showing,
      there: !showing.hidden.some(([first, last]) => first! <= frame && frame <= last!),
    }));
    const isBare = scene.pieces.every(
      (piece) => piece.kind !== "set piece" || piece.source.format === "stand-in",
    );
    for (const thing of this.plainGround) thing.visible = isBare;
  }

  render(
    scene: SceneView,
    sight: Sight,
    rect: FrameRect,
    detail: Detail | null,
    focus: FocusShown | null = null,
  ): void {
    const height = this.height * this.renderer.getPixelRatio();
    const { playing, dropped } = session();
    const most = this.playingDetail.mostPx(playing, dropped);
    this.look(sight, projection(sight, scene, rect, this.width, this.height), { height, most });
    this.renderer.setScissorTest(false);
    this.renderer.setViewport(0, 0, this.width, this.height);
    tintFocus(focus?.way === "tint" ? focus : null);
    shading.encodes.value = focus?.way !== "blur";
    shading.clay.value = session().shownAs === "clay";
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
    if (detail) this.renderDetail(scene, sight, rect, detail);
    tintFocus(null);
    shading.encodes.value = true;
    shading.clay.value = false;
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
    for (const figure of this.figures.values()) figure.dispose();
    for (const target of this.tileTargets.values()) target.dispose();
    this.defocus.dispose();
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
    for (const { id, showing, there } of this.showings) {
      const seen = sight.by === null || (!showing.roam_only && (showing.cameras?.includes(sight.by) ?? true));
      const figure = this.figures.get(id);
      if (!figure) continue;
      figure.group.visible = there && seen;
      if (there && seen) figure.refine(this.camera, cells.height, cells.most);
    }
  }

  private drop(id: string): void {
    const figure = this.figures.get(id);
    if (!figure) return;
    this.world.remove(figure.group);
    figure.dispose();
    this.figures.delete(id);
  }

  /** A figure for a thing of the scene; it takes the place of an earlier one. */
  private figure(id: string, rig: RigPart, tints: string[]): Figure {
    this.drop(id);
    const figure = new Figure(rig, tints);
    this.figures.set(id, figure);
    this.world.add(figure.group);
    return figure;
  }

  /** A piece as it is carried, and as its own file moves it. */
  private posePiece(figure: Figure, piece: PieceView, parts: Map<string, Part>, row: number): void {
    const placed = part<CarriedPart>({ parts }, piece.placed);
    const motion = part<PieceMotionPart>({ parts }, piece.motion);
    if (!placed) return;
    const moves = placed.world_from_file.length > 16;
    const now = `${piece.placed} ${piece.motion} ${moves || motion ? row : ""}`;
    if (figure.shows === now) return;
    figure.shows = now;
    const size = figure.rig.slot_count * 16;
    const at = moves ? row * 16 : 0;
    figure.show(
      motion ? motion.skin.subarray(row * size, (row + 1) * size) : figure.rig.rest_matrices,
      placed.world_from_file.subarray(at, at + 16),
      motion?.shapes.subarray(row * figure.rig.shapes.length, (row + 1) * figure.rig.shapes.length),
    );
  }

  /** The other version of a performance, solid where the two were flipped; false where there is none. */
  private poseBeside(
    scene: SceneView,
    parts: Map<string, Part>,
    row: number,
    { flipped, plain }: Pick<Posing, "flipped" | "plain">,
  ): boolean {
    const { beside } = scene;
    const own = part<RigPart>({ parts }, beside?.rig);
    const motion = part<MotionPart>({ parts }, beside?.motion);
    const shown = part<ShownPart>({ parts }, beside?.shown);
    const character = scene.characters.find(({ id }) => id === beside?.character_id);
    if (!own || !motion || !shown || !character) return false;
    const rig = plain ? this.plainBody(own, motion, character) : own;
    const present = this.figures.get(BESIDE_ID);
    const figure = present?.rig === rig ? present : this.figure(BESIDE_ID, rig, TINTS);
    this.poseCharacter(figure, { ...character, feet: [] }, motion, shown, scene.first, row, false);
    this.fadeIn(figure, motion, shown, scene.first, row, !flipped);
    return true;
  }

  /** The plain body that goes by a motion. */
  private plainBody(rig: RigPart, motion: MotionPart, character: CharacterView): RigPart {
    let body = this.bodies.get(motion);
    if (!body) {
      const head = { joint: rig.joints.indexOf(character.face_joint), diameter: character.face_height_m };
      this.bodies.set(motion, (body = new PlainBody(rig, motion.joints, head)));
    }
    return body.rig;
  }

  /** The skin matrices of a pose: as the core has them, or those of a plain body. */
  private skinOf(rig: RigPart, motion: MotionPart, pose: number): Float32Array {
    const body = this.bodies.get(motion);
    if (body?.rig === rig) return body.skin(pose);
    const size = rig.slot_count * 16;
    return motion.skin.subarray(pose * size, (pose + 1) * size);
  }

  private fadeIn(
    figure: Figure,
    motion: MotionPart,
    shown: ShownPart,
    first: number,
    row: number,
    faded: boolean,
  ): void {
    const pose = (shown.exposure_start[row] ?? first) - first;
    figure.fade(
      faded,
      this.skinOf(figure.rig, motion, pose),
      shown.carried.subarray(row * 16, row * 16 + 16),
    );
  }

  private poseCharacter(
    figure: Figure,
    character: CharacterView,
    motion: MotionPart,
    shown: ShownPart,
    first: number,
    row: number,
    onion: boolean,
  ): void {
    const poseRow = (at: number) => (shown.exposure_start[at] ?? first) - first;
    const jointSize = figure.rig.joints.length * 3;
    const skinOf = (at: number) => this.skinOf(figure.rig, motion, poseRow(at));
    const carriedOf = (at: number) => shown.carried.subarray(at * 16, at * 16 + 16);
    const joints = motion.joints.subarray(poseRow(row) * jointSize, (poseRow(row) + 1) * jointSize);
    const shapes = figure.rig.shapes.length;
    const weights = motion.shapes.subarray(poseRow(row) * shapes, (poseRow(row) + 1) * shapes);
    figure.show(skinOf(row), carriedOf(row), weights);
    const [before, after] = onion ? neighbours(shown.exposure_start, row, first, ONION_POSES) : [null, null];
    figure.showGhost(0, before === null ? null : skinOf(before), before === null ? null : carriedOf(before));
    figure.showGhost(1, after === null ? null : skinOf(after), after === null ? null : carriedOf(after));
    this.shade(figure, character, joints, carriedOf(row));
  }

  /** Soft contact shade on the ground (y = 0) below each foot; it fades as the foot rises. */
  private shade(
    figure: Figure,
    character: CharacterView,
    joints: Float32Array,
    carried: ArrayLike<number>,
  ): void {
    let discs = figure.shades;
    if (!discs.length && character.feet.length) {
      discs = character.feet.map(() => new Mesh(this.shadeGeometry, this.shadeMaterial.clone()));
      figure.shades.push(...discs);
      figure.group.add(...discs);
    }
    const ride = new Matrix4().fromArray(Array.from(carried));
    character.feet.forEach((joint, index) => {
      const disc = discs[index]!;
      disc.position.fromArray(joints, joint * 3).applyMatrix4(ride);
      const near = Math.max(0, 1 - Math.max(0, disc.position.y) / SHADE_HEIGHT_M);
      disc.position.y = 0.006;
      disc.position.z += 0.03;
      disc.scale.setScalar(0.17 + 0.1 * (1 - near));
      (disc.material as MeshBasicMaterial).opacity = 0.55 * near;
      disc.visible = near > 0;
    });
  }
}

/** Rows of the new poses before and after the one that is shown. */
function neighbours(
  starts: Int32Array,
  row: number,
  first: number,
  steps: number,
): [number | null, number | null] {
  const isNew = (at: number) => starts[at] === first + at;
  let before = (starts[row] ?? first) - first;
  let after: number | null = row;
  for (let n = 0; n < steps; n++) {
    before -= 1;
    while (before > 0 && !isNew(before)) before--;
    let next: number | null = after === null ? null : after + 1;
    while (next !== null && next < starts.length && !isNew(next)) next++;
    after = next !== null && next < starts.length ? next : null;
  }
  return [before >= 0 ? before : null, after];
}
