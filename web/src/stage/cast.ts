/** Who and what is on the stage: the figures of a scene's characters, props and set pieces, posed as baked. */
import { type Camera, Matrix4, Mesh, MeshBasicMaterial, type Object3D, type Scene } from "three";
import type {
  CarriedPart,
  CharacterView,
  MotionPart,
  PieceMotionPart,
  PieceView,
  RigPart,
  SceneSent,
  SceneView,
  ShownPart,
} from "../api/generated";
import { bentJoints, bentSkin } from "../optics/bent";
import type { Part } from "../api/part";
import { part } from "../state/session";
import { BESIDE, ECHO, GHOSTS, SHADE } from "./colours";
import { MOST_ONION, type OnionBy } from "../state/looks";
import { Figure, type Tint } from "./figure";
import { PlainBody } from "./plainBody";
import { softDisc } from "./softDisc";

const SHADE_HEIGHT_M = 0.2;
/** The farther away in time, the fainter. */
const FAINTER = [0.26, 0.18, 0.13, 0.1];
/** Of a character's ghosts: the poses before, those after, and itself beside another version. */
const TINTS: Tint[] = [
  ...FAINTER.map((opacity) => ({ tint: GHOSTS.before, opacity })),
  ...FAINTER.map((opacity) => ({ tint: GHOSTS.after, opacity })),
  { tint: BESIDE, opacity: FAINTER[0]! },
  { tint: ECHO, opacity: 0.45 },
];
const BESIDE_GHOST = TINTS.length - 2;
const ECHO_GHOST = TINTS.length - 1;
const BESIDE_ID = "beside";

/** How many poses before and after, and which. */
export interface Onion {
  count: number;
  by: OnionBy;
}

/** Poses before and after as ghosts; another version solid in the place of what is performed; plain bodies. */
export interface Posing {
  onion: Onion | null;
  flipped: boolean;
  plain: boolean;
  /** The set is left out. */
  silhouette: boolean;
  /** Held poses as well where they stood in the picture on the row on which they were new: what carries them there. */
  echo: ((row: number) => Matrix4 | null) | null;
}

export class Cast {
  private readonly figures = new Map<string, Figure>();
  /** Figures of a scene that is shown next. */
  private readonly waiting = new Map<string, Figure>();
  private readonly bodies = new WeakMap<MotionPart, PlainBody>();
  private showings: { id: string; showing: CharacterView["showing"]; there: boolean }[] = [];
  private readonly shadeGeometry = softDisc();
  private readonly shadeMaterial = new MeshBasicMaterial({
    vertexColors: true,
    transparent: true,
    depthWrite: false,
    color: SHADE,
  });

  constructor(private readonly world: Scene) {}

  /** Bring the figures in line with the scene and pose them for a frame. */
  pose(
    scene: SceneView,
    parts: Map<string, Part>,
    frame: number,
    { onion = null, flipped = false, plain = false, silhouette = false, echo = null }: Partial<Posing> = {},
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
      this.poseEcho(figure, motion, shown, scene.first, row, echo);
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
    const pieces = scene.pieces.filter(({ kind }) => !silhouette || kind === "prop");
    for (const piece of scene.pieces)
      if (!pieces.includes(piece)) this.figures.get(piece.id)!.group.visible = false;
    this.showings = [...scene.characters, ...pieces, ...beside].map(({ id, showing }) => ({
      id,
      showing,
      there: !showing.hidden.some(([first, last]) => first! <= frame && frame <= last!),
    }));
  }

  /** Make one figure that a scene needs which is shown next, by and by all of them; answers what was made. */
  prepare(scene: SceneSent, parts: Map<string, Part>): Object3D | null {
    const things = [
      ...scene.pieces.map(({ id, rig }) => ({ id, rig, tints: [] as Tint[] })),
      ...scene.characters.map(({ id, rig }) => ({ id, rig, tints: TINTS })),
    ];
    for (const id of this.waiting.keys()) if (!things.some((thing) => thing.id === id)) this.forget(id);
    for (const { id, rig, tints } of things) {
      const own = part<RigPart>({ parts }, rig);
      if (!own || this.waiting.get(id)?.rig === own || this.figures.get(id)?.rig === own) continue;
      this.forget(id);
      const figure = new Figure(own, tints);
      this.waiting.set(id, figure);
      return figure.group;
    }
    return null;
  }

  /**
   * For a view of a camera (null: of none, in Roam): who is seen by it, and how finely. `cells`: of a picture so many pixels high,
   * how many a cell of a coarser surface may be.
   */
  show(by: string | null, view: Camera, cells: { height: number; most: number }): void {
    for (const { id, showing, there } of this.showings) {
      const seen = by === null || (!showing.roam_only && (showing.cameras?.includes(by) ?? true));
      const figure = this.figures.get(id);
      if (!figure) continue;
      figure.group.visible = there && seen;
      if (there && seen) figure.refine(view, cells.height, cells.most);
    }
  }

  dispose(): void {
    for (const figure of [...this.figures.values(), ...this.waiting.values()]) figure.dispose();
  }

  private drop(id: string): void {
    const figure = this.figures.get(id);
    if (!figure) return;
    this.world.remove(figure.group);
    figure.dispose();
    this.figures.delete(id);
  }

  private forget(id: string): void {
    this.waiting.get(id)?.dispose();
    this.waiting.delete(id);
  }

  /** A figure for a thing of the scene; it takes the place of an earlier one. */
  private figure(id: string, rig: RigPart, tints: Tint[]): Figure {
    this.drop(id);
    const ready = this.waiting.get(id);
    const figure = ready?.rig === rig ? ready : new Figure(rig, tints);
    this.waiting.delete(id);
    if (ready && ready !== figure) ready.dispose();
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
    this.poseCharacter(figure, { ...character, feet: [] }, motion, shown, scene.first, row, null);
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
    const skin = this.skinOf(figure.rig, motion, pose);
    figure.fade(
      BESIDE_GHOST,
      faded,
      figure.rig.slot_count === shown.group_of_slot.length ? bentSkin(skin, shown, row) : skin,
      shown.carried.subarray(row * 16, row * 16 + 16),
    );
  }

  /** A pose that is held, as it stood in the picture when it was new. */
  private poseEcho(
    figure: Figure,
    motion: MotionPart,
    shown: ShownPart,
    first: number,
    row: number,
    echo: Posing["echo"],
  ): void {
    const start = (shown.exposure_start[row] ?? first) - first;
    const moved = start === row ? null : echo?.(start);
    if (!moved) return figure.showGhost(ECHO_GHOST, null, null);
    const skin = this.skinOf(figure.rig, motion, start);
    moved.multiply(new Matrix4().fromArray(shown.carried, start * 16));
    figure.showGhost(ECHO_GHOST, skin, moved.elements);
  }

  private poseCharacter(
    figure: Figure,
    character: CharacterView,
    motion: MotionPart,
    shown: ShownPart,
    first: number,
    row: number,
    onion: Onion | null,
  ): void {
    const poseRow = (at: number) => (shown.exposure_start[at] ?? first) - first;
    const jointSize = figure.rig.joints.length * 3;
    const jointsOf = (at: number) =>
      bentJoints(motion.joints.subarray(poseRow(at) * jointSize, (poseRow(at) + 1) * jointSize), shown, at);
    const skinOf = (at: number) => {
      const plain = this.bodies.get(motion);
      if (plain?.rig === figure.rig && shown.bent.length) return plain.skinOf(jointsOf(at));
      return bentSkin(this.skinOf(figure.rig, motion, poseRow(at)), shown, at);
    };
    const carriedOf = (at: number) => shown.carried.subarray(at * 16, at * 16 + 16);
    const joints = jointsOf(row);
    const shapes = figure.rig.shapes.length;
    const weights = motion.shapes.subarray(poseRow(row) * shapes, (poseRow(row) + 1) * shapes);
    figure.show(skinOf(row), carriedOf(row), weights);
    const [before, after] = onion ? neighbours(shown, row, first, onion) : [[], []];
    for (let n = 0; n < MOST_ONION; n++)
      [before[n], after[n]].forEach((at, side) => {
        const there = at !== undefined;
        figure.showGhost(side * MOST_ONION + n, there ? skinOf(at) : null, there ? carriedOf(at) : null);
      });
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

/** Rows of the poses before the one that is shown and of those after it, the nearest first. */
function neighbours(
  { exposure_start: starts, key_poses }: ShownPart,
  row: number,
  first: number,
  { count, by }: Onion,
): [number[], number[]] {
  const here = by === "frames" ? row : (starts[row] ?? first) - first;
  const keys = new Set(Array.from(key_poses, (frame) => Math.round(frame) - first));
  const counts = (at: number) =>
    by === "frames" || (by === "key poses" ? keys.has(at) : starts[at] === first + at);
  const along = (step: 1 | -1) => {
    const found: number[] = [];
    for (let at = (step > 0 ? row : here) + step; at >= 0 && at < starts.length; at += step) {
      if (found.length === count) break;
      if (counts(at)) found.push(at);
    }
    return found;
  };
  return [along(-1), along(1)];
}
