/** What is asked for and kept, what is judged later, and what is in the hand. */
import { encode } from "@msgpack/msgpack";
import { edit, undoOrRedo } from "@/state/edits";
import { endPreview, preview } from "@/state/previews";
import { refreshView } from "@/state/shown";
import type { SceneAnswer } from "@/api/generated";
import { session, setSession } from "@/state/session";
import { CAMERA, CHARACTER, SCENE, cameraView, sceneAnswer } from "./scenery";
import { ok, rename, server, settled, type Answer } from "./server";

test("only parts that are not held are server.asked for, and those that come are kept", async () => {
  server.answers = () =>
    ok(8, { "shown 1": { kind: "shown" }, "camera 1": { kind: "camera" } });
  rename("One");
  await settled();
  server.answers = () => ok(9, { "shown 2": { kind: "shown" } });
  rename("Two");
  await settled();
  const view = `camera view of ${CAMERA}`;
  expect(server.asked.at(-1)!.body.view).toMatchObject({
    known_parts: ["shots 1", "shown 1"],
    cameras_of_revision: 8, // by which the server knows the parts of all cameras
  });
  expect([...session().parts.keys()].sort()).toEqual([
    "camera 1",
    view,
    "shots 1",
    "shown 1",
    "shown 2",
  ]);
  expect(session().scene!.cameras[0]!.name).toBe("Bank rail 35");
});

test("a preview of what another window has stored does not count as held", async () => {
  server.answers = () => ok(9); // stored elsewhere meanwhile
  preview({
    edit: "set camera values",
    camera_id: CAMERA,
    values: { x: 1 },
  });
  await settled();
  endPreview();
  await refreshView();
  expect(server.asked.at(-1)!.body.view.cameras_of_revision).toBe(7);
  await refreshView();
  expect(server.asked.at(-1)!.body.view.cameras_of_revision).toBe(9);
});

test("an answer that counts on what was let go meanwhile is asked for once more, with all of it", async () => {
  const lacking = sceneAnswer({ revision: 8 }, {});
  lacking.scene.cameras = ["camera view of another"];
  const whole = sceneAnswer(
    { revision: 8 },
    { "camera view of another": cameraView({ id: "another", name: "Lens" }) },
  );
  whole.scene.cameras = ["camera view of another"];
  server.answers = ({ body }) => ({
    status: 200,
    body: body.view.cameras_of_revision === null ? whole : lacking,
  });
  await refreshView();
  await settled();
  expect(session().scene!.cameras.map((c) => c.name)).toEqual(["Lens"]);
  expect(server.asked).toHaveLength(2);
});

test("of many parts those of the cameras and those that came last are kept", async () => {
  const parts = (first: number) =>
    Object.fromEntries(
      Array.from({ length: 400 }, (_, n) => [
        `shown ${first + n}`,
        { kind: "shown" },
      ]),
    );
  server.answers = () => ok(8, { ...parts(0), "camera 1": { kind: "camera" } });
  rename("One");
  await settled();
  server.answers = () => ok(9, parts(400));
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
  server.answers = ({ path }) => ({
    status: 200,
    body: sceneAnswer({
      revision: 8,
      readings: (path.endsWith("/view") ? [] : null) as never,
    }),
  });
  rename("One");
  await settled();
  expect(
    server.asked.map((a) => [a.path.split("/").at(-1), a.body.view]),
  ).toMatchObject([["edits", { judged: false }]]);
  expect(session().scene!.readings).toEqual([reading]);
  await vi.advanceTimersByTimeAsync(100);
  expect(server.asked.at(-1)!.path).toContain("/view");
  expect(session().scene!.readings).toEqual([]);
});

test("so does the judgement of the arc, until the new one is there", async () => {
  const parts = new Map(session().parts).set("judged 1", {
    kind: "arc judgement",
  } as never);
  setSession({
    parts,
    scene: { ...session().scene!, arc_judgement: "judged 1" },
  });
  server.answers = ({ path }) => {
    const judged = path.endsWith("/view");
    const body = sceneAnswer({
      revision: 8,
      arc_judgement: "judged 2",
      readings: (judged ? [] : null) as never,
    });
    if (judged) body.parts["judged 2"] = { kind: "arc judgement" };
    return { status: 200, body };
  };
  rename("One");
  await settled();
  expect(session().scene!.arc_judgement).toBe("judged 1");
  await vi.advanceTimersByTimeAsync(100);
  expect(session().scene!.arc_judgement).toBe("judged 2");
  expect(session().parts.has("judged 2")).toBe(true);
});

test("undo and redo say what they did, and what there is not", async () => {
  undoOrRedo("redo");
  await settled();
  expect(session().notice!.text).toBe("There is nothing to redo.");
  expect(server.asked).toHaveLength(0);
  server.answers = () => ok(8);
  undoOrRedo("undo");
  await settled();
  expect(session().notice!.text).toBe("Undone: rename scene");
  expect(server.asked[0]!.path).toBe(`/api/scenes/${SCENE}/undo`);
});

test("undo pressed twice, and right after an edit, is done twice and in its turn", async () => {
  let revision = 7;
  server.answers = () => ok(++revision);
  rename("One");
  undoOrRedo("undo");
  undoOrRedo("undo");
  await settled();
  expect(
    server.asked.map((a) => [a.path.split("/").at(-1), a.body.revision]),
  ).toEqual([
    ["edits", 7],
    ["undo", 8],
    ["undo", 9],
  ]);
  expect(session()).toMatchObject({ waiting: 0 });
});

test("another view asks for the joint and the frozen frame", async () => {
  setSession({ joint: "lantern", frozenFrame: 1005 });
  await refreshView();
  expect(server.asked[0]!.body.view).toMatchObject({
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
  server.answers = () => ok(8);
  rename("One");
  await settled();
  expect(session().scene!.revision).toBe(8);
  const release = late!;
  late = undefined;
  release(ok(7));
  await settled();
  expect(session().scene!.revision, "server.asked again, not taken").toBe(8);
  expect(server.asked.at(-1)!.path).toContain("/view");
});

test("a camera that is made in one action is looked through once it is there", async () => {
  const { makeFaceCamera } = await import("@/state/makeCameras");
  server.answers = ({ body }) => {
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
    server.asked.at(-1)!.body.view,
    "its own figures are server.asked for",
  ).toMatchObject({
    camera_id: session().cameraId,
  });
});

test("a camera that is refused leaves one where one was", async () => {
  const { makeTwoShot } = await import("@/state/makeCameras");
  server.answers = () => ({
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
  server.answers = () => ok(7);
  for (const x of [1, 2, 3, 4]) preview(place(x));
  await settled();
  const sent = server.asked.filter((a) => a.path.endsWith("/preview"));
  expect(
    sent.map(
      (a) => (a.body.edit as unknown as ReturnType<typeof place>).values.x,
    ),
  ).toEqual([1, 4]);
  server.answers = () => ok(8);
  preview(place(5));
  edit(place(5));
  await settled();
  expect(session().scene!.revision).toBe(8);
});
