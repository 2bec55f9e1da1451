/** A scene as the server answers it, small, for tests. */
import type {
  CharacterView,
  SceneAnswer,
  SceneView,
  ShownPart,
} from "@/api/generated";

export const CAMERA = "00000000-0000-0000-0000-00000000000a";
export const CHARACTER = "00000000-0000-0000-0000-00000000000b";
export const SCENE = "00000000-0000-0000-0000-00000000000c";

export function characterView(
  change: Partial<CharacterView> = {},
): CharacterView {
  return {
    id: CHARACTER,
    name: "Oda",
    step: 2,
    offset: 0,
    keep_key_poses: false,
    ride_way: "off",
    ride_weight: 1,
    ride_anchor: null,
    anchor: "hips",
    feet: [],
    front: [0, 0, 1],
    rig: "rig 1",
    motion: "motion 1",
    shown: "shown 1",
    strobing: "strobing 1",
    ...change,
  };
}

export function sceneView(change: Partial<SceneView> = {}): SceneView {
  const camera = {
    id: CAMERA,
    name: "Bank rail 35",
    role: "shot",
    locked: false,
    unkeyed: false,
    keys: [{ time: "1001", frame: 1001, shape: "ease" as const }],
    back_width_mm: 36,
    back_height_mm: 24,
    gate: "crop",
    near_m: 0.01,
    path: "camera 1",
  };
  return {
    id: SCENE,
    name: "Crossing",
    revision: 7,
    undo: null,
    redo: null,
    rate: "24",
    rate_float: 24,
    first: 1001,
    last: 1012,
    width: 1920,
    height: 1080,
    pixel_aspect: 1,
    cameras: [camera],
    characters: [characterView()],
    set_pieces: [],
    cut: [{ first: 1001, camera_id: CAMERA }],
    arc: null,
    readings: [],
    ...change,
  };
}

export function shownOnTwos(): ShownPart {
  const starts = Int32Array.from(
    { length: 12 },
    (_, row) => 1001 + row - (row % 2),
  );
  return {
    kind: "shown",
    exposure_start: starts,
    carried: new Float32Array(12 * 16),
    key_poses: new Float32Array(),
    lost_key_poses: [],
  };
}

export function sceneAnswer(
  change: Partial<SceneView> = {},
  parts: SceneAnswer["parts"] = {},
): SceneAnswer {
  return { scene: sceneView(change), parts };
}
