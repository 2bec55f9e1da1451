/** Edits on their way: in order, kept until they are acknowledged, sent again, told when they are refused. */
import { encode } from "@msgpack/msgpack";
import {
  closeScene,
  edit,
  giveUp,
  heardOfChange,
  openScene,
  preview,
  refreshView,
  tryAgain,
  undoOfOthers,
  undoOrRedo,
} from "@/state/edits";
import type { SceneAnswer } from "@/api/generated";
import { fresh, session, setSession } from "@/state/session";
import { CAMERA, CHARACTER, SCENE, cameraView, sceneAnswer } from "./scenery";

interface Asked {
  path: string;
  body: {
    revision: number;
    request_id: string;
    edit: { edit: string; name: string };
    view: {
      held: string[];
      cameras_of_revision: number | null;
      camera_id: string | null;
    };
  };
}

type Answer = { status: number; body: unknown } | "unreachable";

let asked: Asked[] = [];
let answers: (request: Asked) => Answer;

const ok = (revision: number, parts: Record<string, unknown> = {}): Answer => ({
  status: 200,
  body: sceneAnswer({ revision, undo: "rename scene" }, parts),
});
/** What is kept in local storage of the edits of this scene, whichever window's it is. */
const kept = () =>
  Object.keys(localStorage)
    .filter((name) => name.startsWith(`eddyfield.unsent.${SCENE}`))
    .map((name) => JSON.parse(localStorage.getItem(name)!))[0];
const rename = (name: string) => edit({ edit: "rename scene", name });
const settled = () => vi.advanceTimersByTimeAsync(10);

beforeEach(async () => {
  vi.useFakeTimers();
  localStorage.clear();
  asked = [];
  answers = () => ok(7);
  vi.stubGlobal("fetch", async (path: string, init: RequestInit) => {
    const request = {
      path,
      body: JSON.parse(String(init.body)) as Asked["body"],
    };
    asked.push(request);
    const answer = answers(request);
    if (answer === "unreachable") throw new TypeError("no network");
    const packed =
      answer.status === 200 ? encode(answer.body) : JSON.stringify(answer.body);
    return new Response(packed as BodyInit, { status: answer.status });
  });
  setSession({ ...fresh, parts: new Map() });
  await openScene(SCENE);
  await settled();
  asked = [];
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

test("an edit names the revision it was made on, and the answer's is taken", async () => {
  answers = () => ok(8);
  rename("One");
  expect(session().waiting).toBe(1);
  await settled();
  expect(asked[0]!.path).toBe(`/api/scenes/${SCENE}/edits`);
  expect(asked[0]!.body.revision).toBe(7);
  expect(session()).toMatchObject({ waiting: 0, connected: true });
  expect(session().scene!.revision).toBe(8);
});

test("edits go one after the other, each on the revision that the one before made", async () => {
  let revision = 7;
  answers = () => ok(++revision);
  rename("One");
  rename("Two");
  rename("Three");
  await settled();
  expect(asked.map((a) => [a.body.edit.name, a.body.revision])).toEqual([
    ["One", 7],
    ["Two", 8],
    ["Three", 9],
  ]);
});

test("what could not be sent is kept, sent again with the same id, and never lost", async () => {
  answers = () => "unreachable";
  rename("One");
  rename("Two");
  await settled();
  expect(session()).toMatchObject({ connected: false, waiting: 2 });
  expect(kept().waiting).toHaveLength(2);
  let revision = 7;
  answers = () => ok(++revision);
  await vi.advanceTimersByTimeAsync(2000);
  expect(session()).toMatchObject({ connected: true, waiting: 0 });
  const ids = asked
    .filter((a) => a.body.edit.name === "One")
    .map((a) => a.body.request_id);
  expect(new Set(ids).size).toBe(1);
  expect(ids.length).toBeGreaterThan(1);
  expect(kept()).toBeUndefined();
});

test("a database that is away counts as out of reach", async () => {
  answers = () => ({ status: 503, body: { message: "away", remedy: "" } });
  rename("One");
  await settled();
  expect(session()).toMatchObject({ connected: false, waiting: 1 });
  answers = () => ok(8);
  await vi.advanceTimersByTimeAsync(2000);
  expect(session().waiting).toBe(0);
});

test("what a window that is gone left unsent is sent on the revision it was made on", async () => {
  const id = "11111111-1111-1111-1111-111111111111";
  const waiting = [
    { id, edit: { edit: "rename scene", name: "Left" }, revision: 5 },
  ];
  localStorage.setItem(
    `eddyfield.unsent.${SCENE}.gone`,
    JSON.stringify({ waiting, refused: [] }),
  );
  answers = () => ok(8);
  await openScene(SCENE);
  await settled();
  expect(asked.at(-1)!.body).toMatchObject({
    request_id: id,
    revision: 5,
    edit: { name: "Left" },
  });
});

test("a window that is open keeps its own unsent edits", async () => {
  const waiting = [
    { id: "1", edit: { edit: "rename scene", name: "Theirs" }, revision: 5 },
  ];
  const theirs = `eddyfield.unsent.${SCENE}.open`;
  localStorage.setItem(theirs, JSON.stringify({ waiting, refused: [] }));
  vi.stubGlobal("navigator", {
    locks: {
      query: async () => ({ held: [{ name: "eddyfield.window.open" }] }),
      request: async () => undefined,
    },
  });
  await openScene(SCENE);
  await settled();
  expect(asked.filter((a) => a.path.endsWith("/edits"))).toHaveLength(0);
  expect(localStorage.getItem(theirs)).not.toBeNull();
});

test("edits kept from before they knew their revision wait for a decision", async () => {
  const old = [{ id: "1", edit: { edit: "rename scene", name: "Old" } }];
  localStorage.setItem(`eddyfield.unsent.${SCENE}`, JSON.stringify(old));
  await openScene(SCENE);
  await settled();
  expect(session().refused).toMatchObject([{ id: "1", edit: { name: "Old" } }]);
  expect(asked.filter((a) => a.path.endsWith("/edits"))).toHaveLength(0);
});

test("edits made without a connection keep their revision, and never go over another window's", async () => {
  answers = () => "unreachable";
  rename("Mine");
  rename("Mine too");
  await settled();
  // Another window has renamed the scene twice meanwhile, and this one looks again.
  answers = ({ path, body }) =>
    path.endsWith("/edits") && body.revision !== 9
      ? { status: 409, body: { message: "Changed elsewhere.", remedy: "" } }
      : ok(path.endsWith("/edits") ? 10 : 9);
  await refreshView();
  await vi.advanceTimersByTimeAsync(2000);
  const sent = asked.filter((a) => a.path.endsWith("/edits"));
  expect(new Set(sent.map((a) => a.body.revision))).toEqual(new Set([7]));
  expect(session()).toMatchObject({ waiting: 0 });
  expect(
    session().refused.map((r) => [
      (r.edit as { name: string }).name,
      r.reason.trim(),
    ]),
  ).toEqual([
    ["Mine", "Changed elsewhere."],
    ["Mine too", "Changed elsewhere."],
  ]);
  expect(kept().refused).toHaveLength(2);
  const [first, second] = session().refused;
  tryAgain(first!.id);
  await settled();
  expect(asked.at(-1)!.body).toMatchObject({
    revision: 9,
    edit: { name: "Mine" },
  });
  giveUp(second!.id);
  expect(session().refused).toHaveLength(0);
  expect(kept()).toBeUndefined();
});

test("one that is refused for itself does not take the others along", async () => {
  let revision = 7;
  answers = ({ body }) =>
    body.edit.name === "Bad"
      ? { status: 422, body: { message: "Not so.", remedy: "" } }
      : ok(++revision);
  rename("One");
  rename("Bad");
  rename("Two");
  await settled();
  const sent = asked.filter((a) => a.path.endsWith("/edits"));
  expect(sent.map((a) => [a.body.edit.name, a.body.revision])).toEqual([
    ["One", 7],
    ["Bad", 8],
    ["Two", 8],
  ]);
  expect(session()).toMatchObject({ waiting: 0, refused: [] });
});

test("signed out, edits wait for signing in", async () => {
  answers = () => ({
    status: 401,
    body: { message: "You are not signed in.", remedy: "" },
  });
  rename("One");
  await settled();
  expect(session()).toMatchObject({ signedOut: true, waiting: 1 });
  expect(kept().waiting).toHaveLength(1);
  answers = () => ok(8);
  await vi.advanceTimersByTimeAsync(2000);
  expect(session()).toMatchObject({ signedOut: false, waiting: 0 });
});

test("an undo whose answer is lost is sent again under its id", async () => {
  answers = () => "unreachable";
  undoOrRedo("undo");
  await settled();
  answers = () => ok(8);
  await vi.advanceTimersByTimeAsync(2000);
  const sent = asked.filter((a) => a.path.endsWith("/undo"));
  expect(sent.length).toBeGreaterThan(1);
  expect(new Set(sent.map((a) => a.body.request_id)).size).toBe(1);
  expect(new Set(sent.map((a) => a.body.revision))).toEqual(new Set([7]));
});

test("a late answer does not land in another scene", async () => {
  const other = "99999999-9999-4999-8999-999999999999";
  let release: ((answer: Answer) => void) | undefined;
  const usual = globalThis.fetch;
  vi.stubGlobal("fetch", async (path: string, init: RequestInit) => {
    if (!path.includes(`${SCENE}/edits`)) return usual(path, init);
    const late = await new Promise<Answer>((resolve) => (release = resolve));
    return new Response(encode((late as { body: unknown }).body) as BodyInit, {
      status: 200,
    });
  });
  rename("One");
  await settled();
  closeScene();
  answers = () => ({
    status: 200,
    body: sceneAnswer({ id: other, revision: 3 }),
  });
  await openScene(other);
  release!(ok(8));
  await settled();
  expect(session().scene!.id).toBe(other);
  expect(session().scene!.revision).toBe(3);
  expect(
    kept().waiting,
    "it is sent again, under its id, when the scene is opened",
  ).toHaveLength(1);
});

test("spoilt storage does not keep a scene from opening", async () => {
  localStorage.setItem(`eddyfield.unsent.${SCENE}`, "{not json");
  await openScene(SCENE);
  expect(session()).toMatchObject({ waiting: 0 });
});

test("a refusal is told in the server's words, and the provisional camera goes", async () => {
  answers = () => ({
    status: 422,
    body: {
      message: "“Bank rail 35” is locked.",
      remedy: "Unlock it first (L).",
    },
  });
  setSession({
    provisional: { x: 0, y: 0, z: 0, pan: 0, tilt: 0, roll: 0, focal_mm: 35 },
  });
  edit({ edit: "lock camera", camera_id: CAMERA, locks: ["place"] });
  await settled();
  expect(session().notice).toEqual({
    tone: "warning",
    text: "“Bank rail 35” is locked. Unlock it first (L).",
  });
  expect(session()).toMatchObject({ provisional: null, waiting: 0 });
});

test("a camera in the hand stays there when the answer to an earlier move comes", async () => {
  const inHand = { x: 1, y: 2, z: 3, pan: 0, tilt: 0, roll: 0, focal_mm: 35 };
  answers = () => ok(8);
  setSession({ provisional: inHand, gesturing: true });
  rename("Meanwhile");
  await settled();
  expect(session().provisional).toEqual(inHand);
  setSession({ gesturing: false });
  answers = () => ok(9);
  rename("After");
  await settled();
  expect(session().provisional).toBeNull();
});

test("after a conflict the newest state is fetched, and nothing is sent over it", async () => {
  answers = ({ path }) =>
    path.endsWith("/edits")
      ? {
          status: 409,
          body: { message: "Changed elsewhere.", remedy: "Again." },
        }
      : ok(12);
  rename("Mine");
  rename("Mine too");
  await settled();
  expect(asked.map((a) => a.path.split("/").at(-1))).toEqual(["edits", "view"]);
  expect(session().scene!.revision).toBe(12);
  expect(session().notice!.text).toContain("Changed elsewhere.");
});

test("only parts that are not held are asked for, and those that come are kept", async () => {
  answers = () =>
    ok(8, { "shown 1": { kind: "shown" }, "camera 1": { kind: "camera" } });
  rename("One");
  await settled();
  answers = () => ok(9, { "shown 2": { kind: "shown" } });
  rename("Two");
  await settled();
  const view = `camera view of ${CAMERA}`;
  expect(asked.at(-1)!.body.view).toMatchObject({
    held: ["shown 1"],
    cameras_of_revision: 8, // by which the server knows the parts of all cameras
  });
  expect([...session().parts.keys()].sort()).toEqual([
    "camera 1",
    view,
    "shown 1",
    "shown 2",
  ]);
  expect(session().scene!.cameras[0]!.name).toBe("Bank rail 35");
});

test("a preview of what another window has stored does not count as held", async () => {
  answers = () => ok(9); // stored elsewhere meanwhile
  preview({
    edit: "set camera values",
    camera_id: CAMERA,
    values: { x: 1 },
  });
  await settled();
  await refreshView();
  expect(asked.at(-1)!.body.view.cameras_of_revision).toBe(7);
  await refreshView();
  expect(asked.at(-1)!.body.view.cameras_of_revision).toBe(9);
});

test("of many parts those of the cameras and those that came last are kept", async () => {
  const parts = (first: number) =>
    Object.fromEntries(
      Array.from({ length: 400 }, (_, n) => [
        `shown ${first + n}`,
        { kind: "shown" },
      ]),
    );
  answers = () => ok(8, { ...parts(0), "camera 1": { kind: "camera" } });
  rename("One");
  await settled();
  answers = () => ok(9, parts(400));
  rename("Two");
  await settled();
  const held = session().parts;
  expect(held.size).toBeLessThan(520);
  expect(held.has("shown 799")).toBe(true);
  expect(held.has("shown 0")).toBe(false);
  expect(held.has("camera 1")).toBe(true);
  expect(held.has(`camera view of ${CAMERA}`)).toBe(true);
});

test("an edit's answer is the picture; readings stay until they are judged anew", async () => {
  const reading = {
    kind: "strobes",
  } as unknown as SceneAnswer["scene"]["readings"];
  setSession({
    scene: { ...session().scene!, readings: [reading] as never },
  });
  answers = ({ path }) => ({
    status: 200,
    body: sceneAnswer({
      revision: 8,
      readings: (path.endsWith("/view") ? [] : null) as never,
    }),
  });
  rename("One");
  await settled();
  expect(
    asked.map((a) => [a.path.split("/").at(-1), a.body.view]),
  ).toMatchObject([["edits", { judged: false }]]);
  expect(session().scene!.readings).toEqual([reading]);
  await vi.advanceTimersByTimeAsync(100);
  expect(asked.at(-1)!.path).toContain("/view");
  expect(session().scene!.readings).toEqual([]);
});

test("undo and redo say what they did, and what there is not", async () => {
  undoOrRedo("redo");
  await settled();
  expect(session().notice!.text).toBe("There is nothing to redo.");
  expect(asked).toHaveLength(0);
  answers = () => ok(8);
  undoOrRedo("undo");
  await settled();
  expect(session().notice!.text).toBe("Undone: rename scene");
  expect(asked[0]!.path).toBe(`/api/scenes/${SCENE}/undo`);
});

test("undo pressed twice, and right after an edit, is done twice and in its turn", async () => {
  let revision = 7;
  answers = () => ok(++revision);
  rename("One");
  undoOrRedo("undo");
  undoOrRedo("undo");
  await settled();
  expect(asked.map((a) => [a.path.split("/").at(-1), a.body.revision])).toEqual(
    [
      ["edits", 7],
      ["undo", 8],
      ["undo", 9],
    ],
  );
  expect(session()).toMatchObject({ waiting: 0 });
});

test("another view asks for the joint and the frozen frame", async () => {
  setSession({ joint: "lantern", frozenFrame: 1005 });
  await refreshView();
  expect(asked[0]!.body.view).toMatchObject({
    joint: "lantern",
    frozen_frame: 1005,
  });
});

test("an answer that an edit has overtaken does not bring the past back", async () => {
  let late: ((value: Answer) => void) | undefined;
  const slow = new Promise<Answer>((resolve) => (late = resolve));
  const usual = globalThis.fetch;
  vi.stubGlobal("fetch", async (path: string, init: RequestInit) => {
    if (!path.endsWith("/view") || !late) return usual(path, init);
    const answer = (await slow) as { status: number; body: unknown };
    return new Response(encode(answer.body) as BodyInit, { status: 200 });
  });
  void refreshView();
  answers = () => ok(8);
  rename("One");
  await settled();
  expect(session().scene!.revision).toBe(8);
  const release = late!;
  late = undefined;
  release(ok(7));
  await settled();
  expect(session().scene!.revision, "asked again, not taken").toBe(8);
  expect(asked.at(-1)!.path).toContain("/view");
});

test("a camera that is made in one action is looked through once it is there", async () => {
  const { makeFaceCamera } = await import("@/state/makeCameras");
  answers = ({ body }) => {
    const asks = body.edit as unknown as { camera_id: string } | undefined;
    const id = asks?.camera_id ?? session().cameraId!;
    const made = cameraView({ id, name: "Face Oda 85" });
    return {
      status: 200,
      body: sceneAnswer({ revision: 8, cameras: [cameraView(), made] }),
    };
  };
  makeFaceCamera(CHARACTER, true);
  expect(session().looking).toBe("cut");
  await settled();
  expect(session().looking).toBe("camera");
  expect(session().scene!.cameras[1]!.id).toBe(session().cameraId);
  expect(session().notice!.text).toContain("Face Oda 85 is made");
  expect(
    asked.at(-1)!.body.view,
    "its own figures are asked for",
  ).toMatchObject({
    camera_id: session().cameraId,
  });
});

test("a camera that is refused leaves one where one was", async () => {
  const { makeTwoShot } = await import("@/state/makeCameras");
  answers = () => ({
    status: 422,
    body: { message: "A two-shot shows two characters.", remedy: "" },
  });
  makeTwoShot(CHARACTER, CHARACTER);
  await settled();
  expect(session()).toMatchObject({ looking: "cut", waiting: 0 });
  expect(session().notice!.text).toContain("two characters");
});

test("previews come one at a time, the newest wins, and letting go ends them", async () => {
  const place = (x: number) => ({
    edit: "set camera values" as const,
    camera_id: CAMERA,
    values: { x },
  });
  answers = () => ok(7);
  for (const x of [1, 2, 3, 4]) preview(place(x));
  await settled();
  const sent = asked.filter((a) => a.path.endsWith("/preview"));
  expect(
    sent.map(
      (a) => (a.body.edit as unknown as ReturnType<typeof place>).values.x,
    ),
  ).toEqual([1, 4]);
  answers = () => ok(8);
  preview(place(5));
  edit(place(5));
  await settled();
  expect(session().scene!.revision).toBe(8);
});

const elsewhere = {
  scene_id: SCENE,
  revision: 8,
  way: "done" as const,
  edit: "rename scene",
  who: "Ada",
  window_id: "00000000-0000-0000-0000-0000000000ff",
};

test("what another window did is shown, and whose it was is said", async () => {
  answers = () => ok(8);
  heardOfChange(elsewhere);
  await settled();
  expect(asked.map((a) => a.path)).toEqual([`/api/scenes/${SCENE}/view`]);
  expect(session().scene!.revision).toBe(8);
  expect(session().notice?.text).toBe("Ada: rename scene");
  heardOfChange({ ...elsewhere, revision: 9, way: "undone", who: "" });
  expect(session().notice?.text).toBe("Another window: undone: rename scene");
});

test("what is known, or is of another scene, or was done here, is not asked for again", async () => {
  heardOfChange({ ...elsewhere, revision: 7 });
  heardOfChange({ ...elsewhere, scene_id: CAMERA });
  heardOfChange({
    ...elsewhere,
    window_id: sessionStorage.getItem("eddyfield.window-id"),
  });
  await settled();
  expect(asked).toEqual([]);
});

test("what was missed while nobody listened is shown, and that there was something is said", async () => {
  answers = () => ok(9);
  heardOfChange("listening");
  await settled();
  expect(session().scene!.revision).toBe(9);
  expect(session().notice?.text).toBe("Another window has changed the scene.");
});

test("after a break in the stream the scene is looked at again, but not under an edit that is on its way", async () => {
  heardOfChange("listening");
  await settled();
  expect(asked).toHaveLength(1);
  answers = () => "unreachable";
  rename("One");
  await settled();
  asked = [];
  heardOfChange(elsewhere);
  await settled();
  expect(asked.filter((a) => a.path.endsWith("/view"))).toEqual([]);
  answers = () => ok(8);
  await vi.advanceTimersByTimeAsync(2000);
});

test("an edit that is made as soon as the scene is there is not lost", async () => {
  vi.resetModules(); // a window that was just opened
  const fresh = {
    ...(await import("@/state/edits")),
    ...(await import("@/state/session")),
  };
  let tries = 0;
  answers = ({ path }) =>
    path.endsWith("/view") || ++tries > 1 ? ok(7 + tries) : "unreachable";
  fresh.useSession.subscribe((now, before) => {
    if (now.scene && !before.scene)
      setTimeout(() => fresh.edit({ edit: "rename scene", name: "Early" }), 0);
  });
  const slow = <T>(value: T) =>
    new Promise<T>((done) => setTimeout(() => done(value), 5));
  const locks = {
    query: () => slow({ held: [] }),
    request: async (_: string, __: object, granted: (lock: object) => void) =>
      granted({}),
  };
  vi.stubGlobal("navigator", { locks });
  await Promise.all([fresh.openScene(SCENE), vi.advanceTimersByTimeAsync(20)]);
  await vi.advanceTimersByTimeAsync(4000);
  expect(tries).toBe(2);
  expect(fresh.session()).toMatchObject({ waiting: 0, connected: true });
});

test("an undo that would take back what others did asks first", async () => {
  const refusal = {
    message: "On it stands more.",
    remedy: "Undo all of it?",
    revision: null,
    edits_since: [],
    asks: true,
  };
  setSession({ scene: { ...session().scene!, undo: "rename scene" } });
  answers = () => ({ status: 428, body: refusal });
  undoOrRedo("undo");
  await settled();
  expect(session()).toMatchObject({ asking: refusal, waiting: 0, refused: [] });
  answers = () => ok(8);
  asked = [];
  undoOfOthers();
  await settled();
  expect(asked[0]!.body).toMatchObject({ of_others: true });
  expect(session().asking).toBeNull();
  expect(session().scene!.revision).toBe(8);
});
