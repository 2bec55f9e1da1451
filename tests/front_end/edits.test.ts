/** Edits on their way: in order, kept until they are acknowledged, sent again, told when they are refused. */
import { encode } from "@msgpack/msgpack";
import {
  closeScene,
  edit,
  giveUp,
  openScene,
  tryAgain,
  undoOrRedo,
} from "@/state/edits";
import { refreshView } from "@/state/shown";
import { session, setSession } from "@/state/session";
import { CAMERA, SCENE, sceneAnswer } from "./scenery";
import { kept, ok, rename, server, settled, type Answer } from "./server";

test("an edit names the revision it was made on, and the answer's is taken", async () => {
  server.answers = () => ok(8);
  rename("One");
  expect(session().waiting).toBe(1);
  await settled();
  expect(server.asked[0]!.path).toBe(`/api/scenes/${SCENE}/edits`);
  expect(server.asked[0]!.body.revision).toBe(7);
  expect(session()).toMatchObject({ waiting: 0, connected: true });
  expect(session().scene!.revision).toBe(8);
});

test("edits go one after the other, each on the revision that the one before made", async () => {
  let revision = 7;
  server.answers = () => ok(++revision);
  rename("One");
  rename("Two");
  rename("Three");
  await settled();
  expect(server.asked.map((a) => [a.body.edit.name, a.body.revision])).toEqual([
    ["One", 7],
    ["Two", 8],
    ["Three", 9],
  ]);
});

test("what could not be sent is kept, sent again with the same id, and never lost", async () => {
  server.answers = () => "unreachable";
  rename("One");
  rename("Two");
  await settled();
  expect(session()).toMatchObject({ connected: false, waiting: 2 });
  expect(kept().waiting).toHaveLength(2);
  let revision = 7;
  server.answers = () => ok(++revision);
  await vi.advanceTimersByTimeAsync(2000);
  expect(session()).toMatchObject({ connected: true, waiting: 0 });
  const ids = server.asked
    .filter((a) => a.body.edit.name === "One")
    .map((a) => a.body.request_id);
  expect(new Set(ids).size).toBe(1);
  expect(ids.length).toBeGreaterThan(1);
  expect(kept()).toBeUndefined();
});

test("a database that is away counts as out of reach", async () => {
  server.answers = () => ({
    status: 503,
    body: { message: "away", remedy: "" },
  });
  rename("One");
  await settled();
  expect(session()).toMatchObject({ connected: false, waiting: 1 });
  server.answers = () => ok(8);
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
  server.answers = () => ok(8);
  await openScene(SCENE);
  await settled();
  expect(server.asked.at(-1)!.body).toMatchObject({
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
  expect(server.asked.filter((a) => a.path.endsWith("/edits"))).toHaveLength(0);
  expect(localStorage.getItem(theirs)).not.toBeNull();
});

test("edits kept from before they knew their revision wait for a decision", async () => {
  const old = [{ id: "1", edit: { edit: "rename scene", name: "Old" } }];
  localStorage.setItem(`eddyfield.unsent.${SCENE}`, JSON.stringify(old));
  await openScene(SCENE);
  await settled();
  expect(session().refused).toMatchObject([{ id: "1", edit: { name: "Old" } }]);
  expect(server.asked.filter((a) => a.path.endsWith("/edits"))).toHaveLength(0);
});

test("edits made without a connection keep their revision, and never go over another window's", async () => {
  server.answers = () => "unreachable";
  rename("Mine");
  rename("Mine too");
  await settled();
  // Another window has renamed the scene twice meanwhile, and this one looks again.
  server.answers = ({ path, body }) =>
    path.endsWith("/edits") && body.revision !== 9
      ? { status: 409, body: { message: "Changed elsewhere.", remedy: "" } }
      : ok(path.endsWith("/edits") ? 10 : 9);
  await refreshView();
  await vi.advanceTimersByTimeAsync(2000);
  const sent = server.asked.filter((a) => a.path.endsWith("/edits"));
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
  expect(server.asked.at(-1)!.body).toMatchObject({
    revision: 9,
    edit: { name: "Mine" },
  });
  giveUp(second!.id);
  expect(session().refused).toHaveLength(0);
  expect(kept()).toBeUndefined();
});

test("one that is refused for itself does not take the others along", async () => {
  let revision = 7;
  server.answers = ({ body }) =>
    body.edit.name === "Bad"
      ? { status: 422, body: { message: "Not so.", remedy: "" } }
      : ok(++revision);
  rename("One");
  rename("Bad");
  rename("Two");
  await settled();
  const sent = server.asked.filter((a) => a.path.endsWith("/edits"));
  expect(sent.map((a) => [a.body.edit.name, a.body.revision])).toEqual([
    ["One", 7],
    ["Bad", 8],
    ["Two", 8],
  ]);
  expect(session()).toMatchObject({ waiting: 0, refused: [] });
});

test("signed out, edits wait for signing in", async () => {
  server.answers = () => ({
    status: 401,
    body: { message: "You are not signed in.", remedy: "" },
  });
  rename("One");
  await settled();
  expect(session()).toMatchObject({ signedOut: true, waiting: 1 });
  expect(kept().waiting).toHaveLength(1);
  server.answers = () => ok(8);
  await vi.advanceTimersByTimeAsync(2000);
  expect(session()).toMatchObject({ signedOut: false, waiting: 0 });
});

test("an undo whose answer is lost is sent again under its id", async () => {
  server.answers = () => "unreachable";
  undoOrRedo("undo");
  await settled();
  server.answers = () => ok(8);
  await vi.advanceTimersByTimeAsync(2000);
  const sent = server.asked.filter((a) => a.path.endsWith("/undo"));
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
  server.answers = () => ({
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
  server.answers = () => ({
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
  server.answers = () => ok(8);
  setSession({ provisional: inHand, gesturing: true });
  rename("Meanwhile");
  await settled();
  expect(session().provisional).toEqual(inHand);
  setSession({ gesturing: false });
  server.answers = () => ok(9);
  rename("After");
  await settled();
  expect(session().provisional).toBeNull();
});

test("after a conflict the newest state is fetched, and nothing is sent over it", async () => {
  server.answers = ({ path }) =>
    path.endsWith("/edits")
      ? {
          status: 409,
          body: { message: "Changed elsewhere.", remedy: "Again." },
        }
      : ok(12);
  rename("Mine");
  rename("Mine too");
  await settled();
  expect(server.asked.map((a) => a.path.split("/").at(-1))).toEqual([
    "edits",
    "view",
  ]);
  expect(session().scene!.revision).toBe(12);
  expect(session().notice!.text).toContain("Changed elsewhere.");
});

test("a scene opens with its picture, is said to be judged once it is, and takes what came as a change", async () => {
  closeScene();
  setSession({ scene: null, parts: new Map() });
  const { cameras } = sceneAnswer().scene;
  server.answers = ({ body }) => {
    const answer = sceneAnswer();
    if (body.view.judged === false)
      return {
        status: 200,
        body: { ...answer, scene: { ...answer.scene, readings: null } },
      };
    const change = {
      kind: "change",
      base: cameras[0],
      splices: [{ path: ["name"], at: null, removed: 0, items: "Wide" }],
    };
    return { status: 200, body: { ...answer, parts: { other: change } } };
  };
  await openScene(SCENE);
  expect(server.asked[0]!.body.view.judged).toBe(false);
  expect(session().scene!.judged).toBe(false);
  await vi.advanceTimersByTimeAsync(100);
  await settled();
  expect(session().scene!.judged).toBe(true);
  expect(session().parts.get("other")).toMatchObject({
    name: "Wide",
    id: CAMERA,
  });
});

test("of two answers that cross, that of the later question stays", async () => {
  const told: ((name: string) => void)[] = [];
  vi.stubGlobal(
    "fetch",
    () =>
      new Promise<Response>((resolve) =>
        told.push((name) =>
          resolve(
            new Response(
              new Uint8Array(encode(sceneAnswer({ revision: 7, name }))),
            ),
          ),
        ),
      ),
  );
  void refreshView();
  void refreshView();
  await settled();
  told[1]!("later");
  await settled();
  expect(session().scene!.name).toBe("later");
  told[0]!("earlier");
  await settled();
  expect(session().scene!.name).toBe("later");
});
