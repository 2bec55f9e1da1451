/** A second camera over the Picture: which one comes first, what is asked for, and how the two change places. */
import type { CameraPart } from "@/api/generated";
import { withCameraHeld } from "@/state/judgingLooks";
import {
  changePlaces,
  laidSight,
  layOver,
  toggleLaidOver,
} from "@/state/laidOver";
import { lookThrough, lookThroughCut, toggleRoam } from "@/state/looking";
import {
  type Session,
  session,
  setSession,
  workedCamera,
} from "@/state/session";
import { currentView } from "@/state/shown";
import { CAMERA, cameraView, sceneView } from "./scenery";
import "./server";

const OTHER = "00000000-0000-0000-0000-00000000000d";
const laid = () => session().laidOver?.cameraId;

beforeEach(() =>
  setSession({
    scene: sceneView({
      cameras: [cameraView(), cameraView({ id: OTHER, name: "Crane" })],
    }),
  }),
);

test("over the cut lies the camera that it does not show, half of it, and the server is asked for the two", () => {
  lookThroughCut();
  toggleLaidOver();
  expect(session().laidOver).toEqual({ cameraId: OTHER, share: 0.5 });
  expect(currentView().laid_over).toBe(OTHER);
  toggleLaidOver();
  expect(session().laidOver).toBeNull();
  expect(currentView().laid_over).toBeNull();
});

test("over a camera that is looked through lies the cut's", () => {
  lookThrough(OTHER);
  toggleLaidOver();
  expect(laid()).toBe(CAMERA);
});

test("another is laid over by as much as the one before", () => {
  setSession({ laidOver: { cameraId: OTHER, share: 0.8 } });
  layOver(CAMERA);
  expect(session().laidOver).toEqual({ cameraId: CAMERA, share: 0.8 });
});

test("the two change places, and back", () => {
  lookThrough(CAMERA);
  layOver(OTHER);
  changePlaces();
  expect([workedCamera(session())?.id, laid()]).toEqual([OTHER, CAMERA]);
  changePlaces();
  expect([workedCamera(session())?.id, laid()]).toEqual([CAMERA, OTHER]);
});

test("with the cameras held still, each stands as it did on that frame", () => {
  const world = new Float32Array(12 * 16);
  for (let row = 0; row < 12; row++) {
    for (const i of [0, 5, 10, 15]) world[row * 16 + i] = 1;
    world[row * 16 + 12] = row; // a metre to the right with every frame
  }
  const path = {
    kind: "camera",
    world_from_camera: world,
    pose: new Float32Array(12 * 7),
    pixels_per_slope: new Float32Array(12 * 2).fill(1000),
    view_height_m: new Float32Array(),
  } as unknown as CameraPart;
  lookThroughCut();
  layOver(OTHER);
  setSession({
    parts: new Map([...session().parts, ["camera 1", path]]),
    frame: 1009,
    looks: { ...session().looks, camera: "held still", heldFrame: 1004 },
  });
  const x = (state: Session) => laidSight(state)!.world.elements[12];
  expect(x(withCameraHeld(session()))).toBe(3);
  setSession({ looks: { ...session().looks, camera: "moves" } });
  expect(x(withCameraHeld(session()))).toBe(8);
});

test("where there is nothing to lay over, it is said what to do", () => {
  toggleRoam();
  toggleLaidOver();
  expect(session().notice?.text).toMatch(/Look through/);
  expect(session().laidOver).toBeNull();
  setSession({ scene: sceneView(), looking: "cut" });
  toggleLaidOver();
  expect(session().notice?.text).toMatch(/make another/);
});
