/** What other windows do, and what was missed of it. */
import { undoOfOthers, undoOrRedo } from "@/state/edits";
import { heardOfChange } from "@/state/following";
import { session, setSession } from "@/state/session";
import { CAMERA, SCENE } from "./scenery";
import { ok, rename, server, settled } from "./server";

const elsewhere = {
  scene_id: SCENE,
  revision: 8,
  way: "done" as const,
  edit: "rename scene",
  who: "Ada",
  window_id: "00000000-0000-0000-0000-0000000000ff",
  remark: "",
};

test("what another window did is shown, and whose it was is said", async () => {
  server.answers = () => ok(8);
  heardOfChange(elsewhere);
  await settled();
  expect(server.asked.map((a) => a.path)).toEqual([
    `/api/scenes/${SCENE}/view`,
  ]);
  expect(session().scene!.revision).toBe(8);
  expect(session().notice?.text).toBe("Ada: rename scene");
  heardOfChange({ ...elsewhere, revision: 9, way: "undone", who: "" });
  expect(session().notice?.text).toBe("Another window: undone: rename scene");
  const remark = "Oda: 1 gone";
  heardOfChange({ ...elsewhere, revision: 10, remark });
  expect(session().notice?.text).toBe("Ada: rename scene. Oda: 1 gone");
});

test("what is known, or is of another scene, or was done here, is not server.asked for again", async () => {
  heardOfChange({ ...elsewhere, revision: 7 });
  heardOfChange({ ...elsewhere, scene_id: CAMERA });
  heardOfChange({
    ...elsewhere,
    window_id: sessionStorage.getItem("eddyfield.window-id"),
  });
  await settled();
  expect(server.asked).toEqual([]);
});

test("limits that another window has set are gone by, and who set them is said", async () => {
  server.answers = () => ok(7);
  const own = sessionStorage.getItem("eddyfield.window-id");
  heardOfChange({ who: "Ada", window_id: own });
  await settled();
  expect(server.asked).toEqual([]);
  heardOfChange({ who: "Ada", window_id: elsewhere.window_id });
  await settled();
  expect(server.asked.map((a) => a.path)).toContain(`/api/scenes/${SCENE}/view`); // prettier-ignore
  expect(session().notice?.text).toBe("Ada: limits of the production");
});

test("what was missed while nobody listened is shown, and that there was something is said", async () => {
  server.answers = () => ok(9);
  heardOfChange("listening");
  await settled();
  expect(session().scene!.revision).toBe(9);
  expect(session().notice?.text).toBe("Another window has changed the scene.");
});

test("after a break in the stream the scene is looked at again, but not under an edit that is on its way", async () => {
  heardOfChange("listening");
  await settled();
  expect(server.asked).toHaveLength(1);
  server.answers = () => "unreachable";
  rename("One");
  await settled();
  server.asked = [];
  heardOfChange(elsewhere);
  await settled();
  expect(server.asked.filter((a) => a.path.endsWith("/view"))).toEqual([]);
  server.answers = () => ok(8);
  await vi.advanceTimersByTimeAsync(2000);
});

test("an edit that is made as soon as the scene is there is not lost", async () => {
  vi.resetModules(); // a window that was just opened
  const fresh = {
    ...(await import("@/state/edits")),
    ...(await import("@/state/session")),
  };
  let tries = 0;
  server.answers = ({ path }) =>
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
  server.answers = () => ({ status: 428, body: refusal });
  undoOrRedo("undo");
  await settled();
  expect(session()).toMatchObject({ asking: refusal, waiting: 0, refused: [] });
  server.answers = () => ok(8);
  server.asked = [];
  undoOfOthers();
  await settled();
  expect(server.asked[0]!.body).toMatchObject({ of_others: true });
  expect(session().asking).toBeNull();
  expect(session().scene!.revision).toBe(8);
});
