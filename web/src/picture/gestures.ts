/** Hands in the Picture: orbit, slide, turn, roll, move in; choose a joint. In Roam they move one's own view, else the camera. */
import { type RefObject, useCallback, useEffect, useRef, useState } from "react";
import type { Vector3 } from "three";
import type { CameraView, CharacterView, PieceView, RigPart } from "../api/generated";
import type { Edit } from "../api/client";
import { type LockGroup, whyLocked } from "../state/actions";
import { edit } from "../state/edits";
import { cancelPreview, preview } from "../state/previews";
import { refreshView } from "../state/shown";
import {
  type Side,
  handSight,
  pivotNow,
  poseFraming,
  poseFrom,
  subjectNow,
  workedPose,
} from "../state/looking";
import { stop } from "../state/playback";
import { judging, notify, part, session, setSession, workedCamera } from "../state/session";
import { shownJoints } from "../state/joints";
import { type FoundPoint, meshPointAt } from "../state/meshPoints";
import {
  NEAREST_M,
  type FrameRect,
  pixelsPerMetre,
  onCanvas,
  rayThrough,
  toFrame,
  toScreen,
} from "../optics/lens";
import { type Pose, movedIn, orbited, slid, turned, walked } from "../optics/pose";
import { currentSight } from "../state/sight";

const DEGREES_PER_PIXEL = 0.3;
const TURN_PER_PIXEL = 0.08;
const CLICK_PIXELS = 4;
const PICK_PIXELS = 16;
const WHEEL_SHARE = 0.0012;
const WHEEL_REST_MS = 350;

type Way = "orbit" | "slide" | "turn" | "roll";

interface Drag {
  x: number;
  y: number;
  way: Way;
  from: Pose;
  pivot: Vector3;
  moved: boolean;
}

export interface HoveredJoint {
  thing: CharacterView | PieceView;
  name: string;
  place: Vector3;
  x: number;
  y: number;
}

/** What a gesture pushes. Going round turns the camera too, unless an aim or a lock turns it anyway. */
const PUSHES: Record<Way | "in", LockGroup[]> = {
  orbit: ["place", "angles"],
  slide: ["place"],
  in: ["place"],
  turn: ["angles"],
  roll: ["angles"],
};

/** The pose a gesture starts from; null, with the reason told, where it may not move. */
function movable(way: Way | "in"): Pose | null {
  const state = session();
  if (state.looking === "roam") return state.roam;
  const camera = workedCamera(state);
  if (!camera) return null;
  const turned = camera.aim !== null || camera.framing !== null;
  const why = whyLocked(camera, way === "orbit" && turned ? ["place"] : PUSHES[way]);
  if (why) notify(why, "warning");
  return why ? null : (state.provisional ?? workedPose());
}

/** Whether something else than the hand has a say in where the camera stands. */
function constrained(camera: CameraView): boolean {
  return camera.mount.kind !== "free" || camera.aim !== null || camera.framing !== null;
}

function placing(camera: CameraView, pose: Pose): Edit {
  return { edit: "place camera", camera_id: camera.id, pose, frame: session().frame, keep_offset: true };
}

/** The pose in the hand, while the core works out where mount, aim and lock let it be. */
let inHand: Pose | null = null;

function show(pose: Pose): void {
  const state = session();
  const camera = workedCamera(state);
  if (state.looking === "roam") setSession({ roam: pose });
  else if (camera && constrained(camera)) {
    inHand = pose;
    setSession({ gesturing: true });
    preview(placing(camera, pose));
  } else setSession({ provisional: pose, gesturing: true });
}

/** Send the camera's new place; in Roam there is nothing to send. */
function settle(): void {
  setSession({ gesturing: false });
  const state = session();
  const camera = workedCamera(state);
  const pose = state.provisional ?? inHand;
  inHand = null;
  if (state.looking === "roam" || !pose || !camera) return;
  edit(placing(camera, pose));
}

/** As if a gesture had not been. */
function putBack(from: Pose): void {
  inHand = null;
  setSession({ gesturing: false });
  if (session().looking === "roam") setSession({ roam: from });
  else cancelPreview();
}

let resting = 0;

/** Show a pose now, and send it when the hand has rested. */
function showAndSettle(pose: Pose): void {
  stop();
  show(pose);
  clearTimeout(resting);
  resting = window.setTimeout(settle, WHEEL_REST_MS);
}

/** The same by keys: go round in degrees, slide in shares of the character's size, roll in degrees, move in by a share. */
export function nudgeView(way: "orbit" | "slide" | "in" | "roll", right: number, up: number): void {
  const from = inHand ?? movable(way);
  if (!from) return;
  const { speed } = session();
  const { radius } = subjectNow();
  const pivot = pivotNow();
  if (way === "orbit") showAndSettle(orbited(from, pivot, right * speed, up * speed));
  else if (way === "slide") showAndSettle(slid(from, right * radius * speed, up * radius * speed));
  else if (way === "roll") showAndSettle({ ...from, roll: from.roll + right * speed });
  else showAndSettle(movedIn(from, pivot, up * speed));
}

/** Walk on the ground at the eye height, or fly where none is set; in steps. */
export function walkView(ahead: number, right: number, up: number): void {
  const from = inHand ?? movable("slide");
  if (!from) return;
  const { speed, walkHeight } = session();
  showAndSettle(walked(from, ahead * speed, right * speed, up * speed, walkHeight));
}

export function placeViewFrom(side: Side): void {
  const from = movable("orbit");
  if (from) showAndSettle(poseFrom(side, from.focal_mm));
}

export function placeViewFraming(what: "body" | "head"): void {
  const from = movable("slide");
  if (from) showAndSettle(poseFraming(what, from));
}

/** Take the roll out. */
export function levelView(): void {
  const from = movable("roll");
  if (from) showAndSettle({ ...from, roll: 0 });
}

/** What the next click on a joint is for, other than its arc; told in the Picture. */
export interface Picking {
  what: string;
  take: (joint: HoveredJoint) => void;
  /** Where it is to be a point on a mesh, and no joint. */
  takeMesh?: (point: FoundPoint) => void;
  /** Where a place on the ground will do as well. */
  takePlace?: (place: Vector3) => void;
}
let picking: Picking | null = null;

export function pickInPicture(next: Picking): void {
  picking = next;
  notify(`Click ${next.what} in the Picture. Esc leaves it.`);
}

export function endPicking(): void {
  picking = null;
}

export function useGestures(
  area: RefObject<HTMLDivElement | null>,
  rect: FrameRect,
  onPointer: (at: { x: number; y: number } | null) => void,
) {
  const drag = useRef<Drag | null>(null);
  const [hovered, setHovered] = useState<HoveredJoint | null>(null);

  const onWheel = useCallback((event: WheelEvent) => {
    event.preventDefault();
    const from = inHand ?? movable("in");
    if (!from) return;
    showAndSettle(movedIn(from, pivotNow(), -event.deltaY * WHEEL_SHARE * session().speed));
  }, []);
  useEffect(() => {
    const element = area.current;
    element?.addEventListener("wheel", onWheel, { passive: false });
    return () => element?.removeEventListener("wheel", onWheel);
  }, [area, onWheel]);

  const at = (event: React.PointerEvent) => {
    const box = area.current!.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const onPointerDown = (event: React.PointerEvent) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const way: Way = event.altKey
      ? "roll"
      : event.shiftKey
        ? "slide"
        : event.ctrlKey || event.metaKey
          ? "turn"
          : "orbit";
    const state = session();
    const from = state.looking === "roam" ? state.roam : (state.provisional ?? workedPose());
    if (from) drag.current = { ...at(event), way, from, pivot: pivotNow(), moved: false };
  };
  const onPointerMove = (event: React.PointerEvent) => {
    const here = at(event);
    onPointer(here);
    const held = drag.current;
    if (!held) {
      setHovered(nearestJoint(here, rect));
      return;
    }
    const [dx, dy] = [here.x - held.x, here.y - held.y];
    if (!held.moved) {
      if (Math.hypot(dx, dy) < CLICK_PIXELS) return;
      const from = movable(held.way);
      if (!from) {
        drag.current = null;
        return;
      }
      stop();
      held.moved = true;
      held.from = from;
      setHovered(null);
    }
    show(dragged(held, dx, dy, here, rect));
  };
  const onPointerUp = (event: React.PointerEvent) => {
    const held = drag.current;
    drag.current = null;
    if (held?.moved) settle();
    else if (held) pick(at(event), rect);
  };
  const onPointerCancel = () => {
    const held = drag.current;
    drag.current = null;
    if (held?.moved) putBack(held.from);
  };
  const onPointerLeave = () => {
    setHovered(null);
    onPointer(null);
  };
  return {
    handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel, onPointerLeave },
    hovered,
  };
}

function dragged(held: Drag, dx: number, dy: number, here: { x: number; y: number }, rect: FrameRect): Pose {
  const { speed } = session();
  const { pivot, from } = held;
  if (held.way === "turn") return turned(from, -dx * TURN_PER_PIXEL * speed, dy * TURN_PER_PIXEL * speed);
  if (held.way === "slide") {
    // What is at the pivot's depth goes with the hand, through whatever back is looked through.
    const scene = session().scene!;
    const sight = handSight(from);
    const depth = -pivot.clone().applyMatrix4(sight.world.clone().invert()).z;
    const [across, up] = pixelsPerMetre(sight, scene, Math.max(depth, NEAREST_M));
    const scale = scene.width / rect.width;
    return slid(from, ((-dx * scale) / across) * speed, ((dy * scene.height) / rect.height / up) * speed);
  }
  if (held.way === "roll") {
    // Around the middle of the frame, as one would turn the picture.
    const [cx, cy] = [rect.x + rect.width / 2, rect.y + rect.height / 2];
    const turn = Math.atan2(here.y - cy, here.x - cx) - Math.atan2(held.y - cy, held.x - cx);
    const degrees = ((((turn * 180) / Math.PI + 540) % 360) - 180) * speed;
    return { ...from, roll: from.roll - degrees };
  }
  return orbited(from, pivot, -dx * DEGREES_PER_PIXEL * speed, dy * DEGREES_PER_PIXEL * speed);
}

function nearestJoint(at: { x: number; y: number }, rect: FrameRect): HoveredJoint | null {
  const state = session();
  const { scene } = state;
  const sight = currentSight(state);
  if (!scene || !sight || state.playing) return null;
  let best: HoveredJoint | null = null;
  let least = PICK_PIXELS;
  for (const thing of [...scene.characters, ...scene.pieces.filter((piece) => piece.kind === "prop")]) {
    const rig = part<RigPart>(state, thing.rig);
    shownJoints(state, thing).forEach((place, joint) => {
      const seen = toScreen(place, sight, scene);
      if (!seen) return;
      const [x, y] = onCanvas(seen, rect, scene);
      const distance = Math.hypot(x - at.x, y - at.y);
      if (distance < least) {
        least = distance;
        best = { thing, name: rig!.joints[joint]!, place, x, y };
      }
    });
  }
  return best;
}

function pick(at: { x: number; y: number }, rect: FrameRect): void {
  const state = session();
  const joint = nearestJoint(at, rect);
  if (state.measuring) {
    const place = joint?.place ?? groundUnder(at, rect);
    if (!place) notify("There is no ground there to measure on.");
    else {
      const { x, y, z } = place;
      const point = { x, y, z, name: joint?.name ?? "ground" };
      setSession({ measuring: [...(state.measuring.length > 1 ? [] : state.measuring), point] });
    }
    return;
  }
  if (picking?.takeMesh) {
    const [sight, { scene }] = [currentSight(state), state];
    const within = (PICK_PIXELS * (scene?.width ?? 0)) / rect.width;
    const found = sight && scene && meshPointAt(state, toFrame(at, rect, scene), within, sight);
    if (!found) return;
    picking.takeMesh(found);
    picking = null;
    return;
  }
  if (picking) {
    const place = joint || !picking.takePlace ? null : groundUnder(at, rect);
    if (joint) picking.take(joint);
    else if (place) picking.takePlace?.(place);
    else return;
    picking = null;
    return;
  }
  if (!joint) return;
  setSession({ ...judging(state.scene, joint.thing.id, joint.name), workStage: "judge", showArc: true });
  void refreshView();
}

/** Where the line of sight meets the ground, y = 0. */
function groundUnder(at: { x: number; y: number }, rect: FrameRect): Vector3 | null {
  const state = session();
  const sight = currentSight(state);
  if (!state.scene || !sight) return null;
  const { from, along } = rayThrough(toFrame(at, rect, state.scene), sight, state.scene);
  const far = -from.y / along.y;
  return far > 0 && far < 1000 ? from.clone().addScaledVector(along, far) : null;
}
