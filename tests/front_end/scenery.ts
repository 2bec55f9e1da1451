/** A scene as the server answers it, small, for tests. */
import type {
  CameraView,
  CharacterView,
  PieceView,
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
    block_id: null,
    step: 2,
    offset: 0,
    parts: [],
    own_exposures: false,
    keep_key_poses: false,
    step_in_file_time: false,
    ride_way: "off",
    ride_weight: 1,
    ride_keys: [],
    ride_anchor: null,
    ride_plants: false,
    anchor: "hips",
    feet: [],
    front: [0, 0, 1],
    front_deg: null,
    face_joint: "head",
    face_centre: [0, 0.1, 0],
    face_height_m: 0.25,
    calm_joint: "hips",
    source: {
      digest: "a".repeat(64),
      format: "gltf",
      scale: 1,
      rig: null,
      animation: null,
      offsets: "auto",
    },
    timing: {
      start: "1001",
      stretch: "1",
      first: "0",
      last: null,
      repeats: "once",
      backwards: false,
      curve: null,
    },
    file_frames: 95,

    time: "time 1",
    placing: "placing 1",
    showing: { hidden: [], cameras: null, roam_only: false },
    file_cameras: [],
    gone_by: [],
    versions: [],
    compared_with: null,
    corrections: null,
    changed: null,
    rig: "rig 1",
    motion: "motion 1",
    shown: "shown 1",
    strobing: "strobing 1",
    ...change,
  };
}

export function pieceView(change: Partial<PieceView> = {}): PieceView {
  const { source, timing, showing } = characterView();
  return {
    id: "00000000-0000-0000-0000-00000000000d",
    name: "Mill race",
    block_id: null,
    kind: "set piece",
    source,
    timing,
    file_frames: 0,

    time: "time 1",
    placing: "placing 2",
    showing,
    file_cameras: [],
    gone_by: [],
    stepping: null,
    holds: [],
    rig: "rig 2",
    motion: null,
    placed: "carried 2",
    ...change,
  };
}

/** A shot of the cut; its title by its first frame. */
export function shot(
  first: number,
  last: number,
  camera_id: string,
): SceneView["cut"][number] {
  const own = {
    number: 1,
    begins: first,
    first,
    last,
    camera_id,
    name: "",
    title: `${first}`,
  };
  const transition = {
    kind: "cut",
    frames: 0,
    before: 0,
    ease: "even",
    colour: "#000000",
  } as const;
  return {
    ...own,
    note: "",
    state: "open",
    locked: false,
    transition,
    mix: null,
    handles: { before: 0, after: 0 },
  };
}

export function cameraView(change: Partial<CameraView> = {}): CameraView {
  return {
    kind: "camera view",
    id: CAMERA,
    name: "Bank rail 35",
    role: "shot",
    tint: 0,
    pattern: 0,
    locks: [],
    locked: false,
    unkeyed: [],
    keyed_channels: ["x"],
    keys: [{ time: "1001", frame: 1001, shape: "ease" }],
    back: { width_mm: 36, height_mm: 24, gate: "crop", squeeze: 1 },
    glass: {
      shift_x: 0,
      shift_y: 0,
      near_m: 0.01,
      far_m: null,
      orthographic_height_m: null,
      circle_mm: null,
      shutter_deg: 180,
    },
    mount: { kind: "free" },
    steps_with: null,
    mounts_left: [],
    aim: null,
    focus: null,
    framing: null,
    path: "camera 1",
    channels: "channels 1",
    views: [],
    ...change,
  };
}

export function sceneView(change: Partial<SceneView> = {}): SceneView {
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
    room: { headroom_least: 0.02, headroom_most: 0.34, lead_least: 0.3 },
    cameras: [cameraView()],
    characters: [characterView()],
    blocks: [],
    judged: true,
    around: null,
    pieces: [],
    cut: [shot(1001, 1012, CAMERA)],
    shots: "shots 1",
    cut_name: "A",
    strictness: "usual",
    match: null,
    two_cameras: null,
    other_cuts: [],
    timecode: { text: "00:00:00:00", starts_at: 0, numbers: 24, dropped: 0 },
    blend: null,
    speed: null,
    sounds: [],
    marks: [],
    beside: null,
    arc: null,
    also: [],
    arc_judgement: null,
    subjects: null,
    readings: [],
    fallbacks: [],
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
    group_of_slot: new Int32Array(),
    group_of_joint: new Int32Array(),
    bent: new Float32Array(),
    ride_weights: new Float32Array(),
    grips: [],
    key_poses: new Float32Array(),
    lost_key_poses: [],
  };
}

/** An answer in which every camera comes as a part. */
export function sceneAnswer(
  change: Partial<SceneView> = {},
  parts: SceneAnswer["parts"] = {},
): SceneAnswer {
  const { cameras, cut, ...head } = sceneView(change);
  const views = Object.fromEntries(
    cameras.map((camera) => [`camera view of ${camera.id}`, camera]),
  );
  return {
    scene: { ...head, cameras: Object.keys(views) },
    parts: { ...views, [head.shots]: { kind: "shots", shots: cut }, ...parts },
  };
}
