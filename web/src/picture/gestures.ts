/** Hands in the Picture: orbit, slide, turn, move in; choose a joint. In Roam they move one's own view, else the camera. */
import { type RefObject, useCallback, useEffect, useRef, useState } from "react";
import type { RigPart } from "../api/generated";
import { whyLocked } from "../state/actions";
import { edit, refreshView } from "../state/edits";
import { cutPose, subjectNow } from "../state/looking";
import { stop } from "../state/playback";
import { chosenCharacter, cutCamera, notify, part, session, setSession } from "../state/session";
import { shownJoints } from "./joints";
import { type FrameRect, toScreen } from "./lens";
import { type Pose, movedIn, orbited, slid, turned } from "./pose";
import { currentSight } from "./sight";

const DEGREES_PER_PIXEL = 0.3;
const TURN_PER_PIXEL = 0.08;
const CLICK_PIXELS = 4;
const PICK_PIXELS = 16;
const WHEEL_SHARE = 0.0012;
const WHEEL_REST_MS = 350;

type Way = "orbit" | "slide" | "turn";

interface Drag {
  x: number;
  y: number;
  way: Way;
  from: Pose;
  moved: boolean;
}

export interface HoveredJoint {
  name: string;
  x: number;
  y: number;
}

/** The pose a gesture starts from; null, with the reason told, where it may not move. */
function movable(): Pose | null {
  const state = session();
  if (state.looking === "roam") return state.roam;
  const camera = cutCamera(state);
  if (!camera) return null;
  if (camera.locked) {
    notify(whyLocked(camera.name), "warning");
    return null;
  }
  return state.provisional ?? cutPose();
}

function show(pose: Pose): void {
  if (session().looking === "roam") setSession({ roam: pose });
  else setSession({ provisional: pose, gesturing: true });
}

/** Send the camera's new place; in Roam there is nothing to send. */
function settle(): void {
  setSession({ gesturing: false });
  const state = session();
  const camera = cutCamera(state);
  if (state.looking === "roam" || !state.provisional || !camera) return;
  edit({ edit: "place camera", camera_id: camera.id, pose: state.provisional });
}

let resting = 0;

/** Show a pose now, and send it when the hand has rested. */
function showAndSettle(pose: Pose): void {
  stop();
  show(pose);
  clearTimeout(resting);
  resting = window.setTimeout(settle, WHEEL_REST_MS);
}

/** The same by keys: go round the character in degrees, slide in shares of its size, or move in by a share of the way. */
export function nudgeView(way: "round" | "slide" | "in", right: number, up: number): void {
  const from = movable();
  if (!from) return;
  const { middle, radius } = subjectNow();
  if (way === "round") showAndSettle(orbited(from, middle, right, up));
  else if (way === "slide") showAndSettle(slid(from, right * radius, up * radius));
  else showAndSettle(movedIn(from, middle, up));
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
    const from = movable();
    if (!from) return;
    showAndSettle(movedIn(from, subjectNow().middle, -event.deltaY * WHEEL_SHARE));
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
    const way: Way = event.shiftKey ? "slide" : event.ctrlKey || event.metaKey ? "turn" : "orbit";
    const state = session();
    const from = (state.looking === "roam" ? state.roam : (state.provisional ?? cutPose()))!;
    drag.current = { ...at(event), way, from, moved: false };
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
      const from = movable();
      if (!from) {
        drag.current = null;
        return;
      }
      stop();
      held.moved = true;
      held.from = from;
      setHovered(null);
    }
    show(dragged(held, dx, dy, rect));
  };
  const onPointerUp = (event: React.PointerEvent) => {
    const held = drag.current;
    drag.current = null;
    if (held?.moved) settle();
    else if (held) pick(nearestJoint(at(event), rect));
  };
  const onPointerLeave = () => {
    setHovered(null);
    onPointer(null);
  };
  return {
    handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel: onPointerUp, onPointerLeave },
    hovered,
  };
}

function dragged(held: Drag, dx: number, dy: number, rect: FrameRect): Pose {
  const { middle } = subjectNow();
  if (held.way === "turn") return turned(held.from, -dx * TURN_PER_PIXEL, dy * TURN_PER_PIXEL);
  if (held.way === "slide") {
    const depth = Math.hypot(held.from.x - middle.x, held.from.y - middle.y, held.from.z - middle.z);
    const perPixel = (depth * 20.25) / held.from.focal_mm / rect.height;
    return slid(held.from, -dx * perPixel, dy * perPixel);
  }
  return orbited(held.from, middle, -dx * DEGREES_PER_PIXEL, dy * DEGREES_PER_PIXEL);
}

function nearestJoint(at: { x: number; y: number }, rect: FrameRect): HoveredJoint | null {
  const state = session();
  const { scene } = state;
  const sight = currentSight(state);
  const rig = part<RigPart>(state, chosenCharacter(state)?.rig);
  if (!scene || !sight || !rig || state.playing) return null;
  let best: HoveredJoint | null = null;
  let least = PICK_PIXELS;
  shownJoints(state).forEach((place, joint) => {
    const seen = toScreen(place, sight, scene);
    if (!seen) return;
    const x = rect.x + (seen.x * rect.width) / scene.width;
    const y = rect.y + (seen.y * rect.height) / scene.height;
    const distance = Math.hypot(x - at.x, y - at.y);
    if (distance < least) {
      least = distance;
      best = { name: rig.joints[joint]!, x, y };
    }
  });
  return best;
}

function pick(joint: HoveredJoint | null): void {
  if (!joint) return;
  setSession({ joint: joint.name, workStage: "judge", showArc: true });
  void refreshView();
}
