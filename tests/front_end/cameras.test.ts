/** Cameras in the browser: their handles and the edits that move them, locks, comparing, and looking around. */
import { Vector3 } from "three";
import type { CameraPart, CameraView, RigPart, Subject } from "@/api/generated";
import { compareLast, flickViews } from "@/picture/Compare";
import { handlesOf, rulingTarget } from "@/marks/handles";
import { whyLocked } from "@/state/actions";
import { changeSpeed, toggleMeasuring, toggleWalking } from "@/state/hands";
import { DASHES, TINTS, dashesOf, patternOf, tokenOf } from "@/state/lines";
import {
  lookThrough,
  lookThroughCut,
  lookThroughNumber,
  toggleRoam,
} from "@/state/looking";
import { fresh, session, setSession } from "@/state/session";
import {
  faceSubject,
  jointSubject,
  likelySubject,
  pointSubject,
  subjectChoices,
  subjectTitle,
  valueOf,
} from "@/state/subjects";
import {
  CAMERA,
  CHARACTER,
  cameraView,
  characterView,
  sceneView,
  pieceView,
} from "./scenery";

const OTHER = "00000000-0000-0000-0000-00000000000d";
const FRAMES = 12;

type Rail = Extract<CameraView["mount"], { kind: "rail" }>;
const RAIL: Rail = {
  kind: "rail",
  points: [
    [0, 1, 0],
    [2, 1, 0],
    [4, 1, 1],
  ],
  closed: false,
  height_m: 0,
  facing: "own",
  bumps: [],
};

function cameraPart(change: Partial<CameraPart> = {}): CameraPart {
  const world = new Float32Array(FRAMES * 16);
  for (let row = 0; row < FRAMES; row++)
    for (const i of [0, 5, 10, 15]) world[row * 16 + i] = 1;
  return {
    kind: "camera",
    world_from_camera: world,
    pose: Float32Array.from({ length: FRAMES * 7 }, (_, i) => i % 7),
    pixels_per_slope: new Float32Array(FRAMES * 2).fill(1000),
    depths: new Float32Array(FRAMES * 4).fill(5),
    view_height_m: new Float32Array(),
    values: {},
    reached: new Uint8Array(FRAMES).fill(7),
    wanted_px: new Float32Array(),
    aim_places: new Float32Array(),
    mount_places: new Float32Array(),
    framing_places: new Float32Array(),
    held_px: new Float32Array(),
    away_px: new Float32Array(),
    held_size_px: new Float32Array(),
    along: new Float32Array(),
    along_px: new Float32Array(),
    rail: new Float32Array(),
    rail_length_m: 0,
    rail_speed: new Float32Array(),
    ...change,
  };
}

function stateWith(camera: CameraView, change: Partial<CameraPart> = {}) {
  return {
    frame: 1004,
    scene: sceneView({ cameras: [camera] }),
    parts: new Map([[camera.path, cameraPart(change)]]),
  };
}

beforeEach(() => {
  vi.stubGlobal("fetch", () => new Promise(() => {}));
  setSession({ ...fresh, parts: new Map(), frame: 1004 });
});

afterEach(() => {
  vi.unstubAllGlobals();
});

// --- handles ---

test("every camera can be moved by its own handle, and stays on its mount", () => {
  const camera = cameraView();
  const [handle] = handlesOf(stateWith(camera), camera);
  expect(handle!.id).toBe("camera");
  expect(handle!.place.toArray()).toEqual([0, 1, 2]);
  expect(handle!.moved!(new Vector3(7, 8, 9))).toMatchObject({
    edit: "place camera",
    camera_id: CAMERA,
    frame: 1004,
    keep_offset: true,
    pose: { x: 7, y: 8, z: 9, pan: 3, focal_mm: 6 },
  });
});

test("rail points are moved, added between, and removed down to two", () => {
  const camera = cameraView({ mount: RAIL });
  const rail = Float32Array.from([0, 1, 0, 1, 1, -0.1, 2, 1, 0, 3, 1, 0.4]);
  const handles = handlesOf(stateWith(camera, { rail }), camera);
  expect(handles.map((h) => h.id)).toEqual([
    "camera",
    "add 0",
    "add 1",
    "rail 0",
    "rail 1",
    "rail 2",
  ]);
  const named = new Map(handles.map((h) => [h.id, h]));
  expect(named.get("rail 1")!.moved!(new Vector3(2, 3, 4))).toMatchObject({
    edit: "mount camera",
    keep: false,
    mount: {
      points: [
        [0, 1, 0],
        [2, 3, 4],
        [4, 1, 1],
      ],
    },
  });
  expect(named.get("add 0")!.place.x).toBeCloseTo(1);
  const added = named.get("add 1")!.moved!(new Vector3(3, 1, 1));
  expect(added).toMatchObject({
    mount: {
      points: [
        [0, 1, 0],
        [2, 1, 0],
        [3, 1, 1],
        [4, 1, 1],
      ],
    },
  });
  expect(named.get("rail 0")!.removed!()).toMatchObject({
    mount: {
      points: [
        [2, 1, 0],
        [4, 1, 1],
      ],
    },
  });
  const short = cameraView({
    mount: { ...RAIL, points: RAIL.points.slice(1) },
  });
  const least = handlesOf(stateWith(short), short);
  expect(least.filter((h) => h.removed)).toEqual([]);
});

test("a closed rail has a place to add a point on its last span as well", () => {
  const camera = cameraView({ mount: { ...RAIL, closed: true } });
  const handles = handlesOf(stateWith(camera), camera);
  expect(handles.filter((h) => h.kind === "add point")).toHaveLength(3);
  expect(handles.filter((h) => h.removed)).toEqual([]);
});

test("what is locked has handles that do not move", () => {
  const camera = cameraView({ mount: RAIL, locks: ["place"] });
  const handles = handlesOf(stateWith(camera), camera);
  expect(handles.map((h) => h.id)).toEqual([
    "camera",
    "rail 0",
    "rail 1",
    "rail 2",
  ]);
  expect(handles.every((h) => h.moved === null)).toBe(true);
});

test("a crane is moved by its base, an orbit by its pivot", () => {
  const crane = cameraView({
    mount: {
      kind: "crane",
      base: [1, 0.9, 2],
      heading: 0,
      follow_pitch: false,
      follow_yaw: false,
    },
  });
  const base = handlesOf(stateWith(crane), crane)[1]!;
  expect(base.moved!(new Vector3(5, 1, 5))).toMatchObject({
    mount: { kind: "crane", base: [5, 1, 5] },
  });
  const pivot = jointSubject(CHARACTER, "hips");
  const orbit = cameraView({
    mount: { kind: "orbit", pivot, follows: "motion" },
  });
  const places = new Float32Array(FRAMES * 3).fill(1);
  const handle = handlesOf(
    stateWith(orbit, { mount_places: places }),
    orbit,
  )[1]!;
  expect(handle.moved!(new Vector3(1, 1.5, 0))).toMatchObject({
    mount: { pivot: { joint: "hips", offset: [0, 0.5, -1] } },
  });
});

test("the target that rules on the frame is the one that is dragged", () => {
  const target = (subject: Subject, first: number | null) => ({
    subjects: [subject],
    first,
    last: first && first + 4,
    ease: "even" as const,
  });
  const targets = [
    target(jointSubject(CHARACTER, "chest"), null),
    target(pointSubject([1, 2, 3]), 1003),
    target(faceSubject(characterView()), 1009),
  ];
  expect([1001, 1003, 1008, 1012].map((f) => rulingTarget(targets, f))).toEqual(
    [0, 1, 1, 2],
  );
  const camera = cameraView({ aim: { targets, follows: "motion" } });
  const aim_places = new Float32Array(FRAMES * 3);
  const state = stateWith(camera, { aim_places });
  const handle = handlesOf(state, camera).find((h) => h.kind === "target")!;
  const edit = handle.moved!(new Vector3(0, 1, 0));
  expect(edit).toMatchObject({ edit: "aim camera", frame: 1004 });
  expect(edit).toHaveProperty(
    ["aim", "targets", 1, "subjects", 0, "offset"],
    [1, 3, 3],
  );
  expect(edit).toHaveProperty(["aim", "targets", 0], targets[0]);
  const late = handlesOf({ ...state, frame: 1012 }, camera);
  expect(
    late.at(-1)!.moved,
    "an offset in the joint's own axes is not dragged",
  ).toBeNull();
});

// --- what goes by what ---

test("subjects have titles, and values that lead back to them", () => {
  const rig = { joints: ["hips", "head", "hand_l"] } as unknown as RigPart;
  const scene = sceneView({
    pieces: [pieceView({ id: OTHER })],
  });
  const groups = subjectChoices({ scene, parts: new Map([["rig 1", rig]]) });
  expect(groups.map((g) => g.group)).toEqual(["Oda", "Props and set"]);
  for (const { items } of groups)
    for (const { value, subject, label } of items) {
      expect(valueOf(subject)).toBe(value);
      expect(subjectTitle(scene, subject)).toBe(label);
    }
  expect(subjectTitle(scene, pointSubject([1, 2, 3]))).toBe(
    "point 1.00, 2.00, 3.00",
  );
  expect(valueOf(pointSubject([1, 2, 3]))).toBeNull();
  expect(valueOf(null)).toBeNull();
});

test("the chosen joint is the likely subject, else the face", () => {
  expect(likelySubject()).toBeNull();
  setSession({ scene: sceneView() });
  expect(likelySubject()).toEqual(faceSubject(characterView()));
  setSession({ joint: "lantern" });
  expect(likelySubject()).toEqual(jointSubject(CHARACTER, "lantern"));
});

// --- locks and lines ---

test("a lock says why, by what is pushed", () => {
  const locked = cameraView({
    locks: ["place", "angles", "lens"],
    locked: true,
  });
  expect(whyLocked(locked)).toContain("nothing moves it");
  const partly = cameraView({ locks: ["angles"] });
  expect(whyLocked(partly)).toBeNull();
  expect(whyLocked(partly, ["place"])).toBeNull();
  expect(whyLocked(partly, ["place", "angles"])).toContain(
    "The angles of “Bank rail 35” are locked",
  );
  expect(whyLocked(cameraView({ locks: ["lens"] }), ["lens"])).toContain(
    "The lens of",
  );
});

test("a camera's tint and line follow its numbers, all around", () => {
  const seen = new Set<string>();
  for (let tint = 0; tint < TINTS.length; tint++)
    for (let pattern = 0; pattern < DASHES.length; pattern++)
      seen.add(`${tokenOf({ tint, pattern })} ${dashesOf({ tint, pattern })}`);
  expect(seen.size).toBe(TINTS.length * DASHES.length);
  expect(patternOf({ tint: 0, pattern: 7 })).toBe(
    patternOf({ tint: 0, pattern: 1 }),
  );
});

// --- looking ---

test("one looks through a camera by its number, and back through the cut", () => {
  setSession({
    scene: sceneView({ cameras: [cameraView(), cameraView({ id: OTHER })] }),
  });
  lookThroughNumber(2);
  expect(session()).toMatchObject({ looking: "camera", cameraId: OTHER });
  lookThroughNumber(9);
  expect(session().cameraId, "there is no ninth").toBe(OTHER);
  lookThrough("nobody");
  expect(session().cameraId).toBe(OTHER);
  lookThroughCut();
  expect(session()).toMatchObject({ looking: "cut", cameraId: null });
});

test("Roam leads back to where one came from, and keeps its view", () => {
  const camera = cameraView();
  setSession(stateWith(camera));
  toggleRoam();
  expect(session().looking).toBe("roam");
  expect(session().roam).toMatchObject({ x: 0, y: 1, z: 2 });
  setSession({ roam: { ...session().roam!, x: 9 } });
  toggleRoam();
  expect(session().looking).toBe("cut");
  lookThrough(CAMERA);
  toggleRoam();
  expect(session().roam!.x, "the view of before").toBe(9);
  toggleRoam();
  expect(session()).toMatchObject({ looking: "camera", cameraId: CAMERA });
});

test("two saved views are flicked", () => {
  const views = ["one", "two", "three"].map((id) => ({
    id,
    name: id,
    path: id,
  }));
  compareLast(cameraView({ views: views.slice(0, 1) }));
  expect(session().comparing, "one is nothing to compare").toBeNull();
  compareLast(cameraView({ views }));
  expect(session().comparing!.views).toEqual(["two", "three"]);
  flickViews();
  expect(session().comparing!.views).toEqual(["three", "two"]);
});

// --- hands ---

test("hands are slower and faster within bounds, walk and measure", () => {
  for (let n = 0; n < 20; n++) changeSpeed(2);
  expect(session().speed).toBe(20);
  for (let n = 0; n < 20; n++) changeSpeed(0.5);
  expect(session().speed).toBe(0.05);
  toggleWalking();
  expect(session().walkHeight).toBe(1.6);
  toggleWalking();
  expect(session().walkHeight).toBeNull();
  toggleMeasuring();
  expect(session().measuring).toEqual([]);
  toggleMeasuring();
  expect(session().measuring).toBeNull();
});
