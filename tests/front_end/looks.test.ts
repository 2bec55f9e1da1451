/** How motion is looked at: arcs that stay, the subject and the camera apart, two frames flipped, and what was seen last. */
import { keepArc, letArcGo, nextShare } from "@/state/judgingLooks";
import { sieved } from "@/readings/Sieve";
import { looksOf, lookedAt } from "@/state/lastLook";
import { FRESH_LOOKS, MOST_ALSO } from "@/state/looks";
import { flipFrames } from "@/state/poses";
import { currentView } from "@/state/shown";
import { session, setSession } from "@/state/session";
import { SCENE } from "./scenery";
import "./server";

const kept = () => session().looks.alsoArcs.map(({ joint }) => joint);
const choose = (joint: string) => setSession({ joint });

test("arcs stay in the order in which they were kept, and go one by one", () => {
  for (const joint of ["hand", "foot", "head"]) {
    choose(joint);
    keepArc();
  }
  expect(kept()).toEqual(["hand", "foot", "head"]);
  expect(currentView().also).toHaveLength(3);
  choose("foot");
  keepArc();
  expect(kept()).toEqual(["hand", "head"]);
  letArcGo(0);
  expect(kept()).toEqual(["head"]);
});

test("without a joint nothing is kept, and there is an end to how many", () => {
  setSession({ joint: null });
  keepArc();
  expect(kept()).toEqual([]);
  expect(session().notice?.text).toContain("Choose a joint");
  for (let n = 0; n <= MOST_ALSO; n++) {
    choose(`joint ${n}`);
    keepArc();
  }
  expect(kept()).toHaveLength(MOST_ALSO);
  expect(session().notice?.text).toContain("Let one go first");
});

test("arcs of what is not in the scene are not asked for", () => {
  const gone = { thing_id: "nobody", joint: "hand" };
  setSession({ looks: { ...FRESH_LOOKS, alsoArcs: [gone] } });
  expect(currentView().also).toEqual([]);
});

test("the camera is held still where one is, then goes alone, then all moves again", () => {
  const { first } = session().scene!;
  setSession({ frame: first + 3 });
  nextShare();
  expect(session().looks).toMatchObject({
    camera: "held still",
    heldFrame: first + 3,
  });
  setSession({ frame: first + 5 });
  nextShare();
  expect(session().looks).toMatchObject({
    camera: "alone",
    heldFrame: first + 5,
  });
  nextShare();
  expect(session().looks.camera).toBe("moves");
});

test("two frames are flipped, and the kept one is let go where it stands", () => {
  const { first } = session().scene!;
  const go = (frame: number) => setSession({ frame: first + frame });
  go(2);
  flipFrames();
  go(7);
  flipFrames();
  expect(session().frame).toBe(first + 2);
  flipFrames();
  expect(session().frame).toBe(first + 7);
  go(2);
  flipFrames();
  expect(session().notice?.text).toContain("no longer");
  go(9);
  flipFrames();
  expect(session().frame).toBe(first + 9);
});

test("a look keeps what was listed then, for this scene alone", () => {
  expect(looksOf(SCENE)).toEqual([]);
  const reading = {
    kind: "strobes",
    subject: "Oda",
    first: 1,
    last: 9,
    size: 4,
    unit: "px",
    threshold: 1,
    character_id: null,
    camera_id: null,
    joint: null,
    remark: false,
    fixes: [],
  };
  lookedAt(SCENE, 12, [reading as never]);
  const look = looksOf(SCENE)[0]!;
  expect(look.revision).toBe(12);
  expect(look.seen).toHaveLength(1);
  expect(look.seen[0]).not.toHaveProperty("fixes");
  expect(looksOf("another")).toEqual([]);
  lookedAt(SCENE, 13, []);
  expect(looksOf(SCENE).map(({ revision }) => revision)).toEqual([13, 12]);
  localStorage.setItem(`eddyfield.look.${SCENE}`, JSON.stringify(look));
  expect(looksOf(SCENE)).toHaveLength(1);
  localStorage.setItem(`eddyfield.look.${SCENE}`, "no JSON");
  expect(looksOf(SCENE)).toEqual([]);
});

test("readings are sieved by who, by cause, by shot and by the played range", () => {
  const at = (first: number, shot: number, character_id: string | null) =>
    ({
      first,
      last: first + 2,
      shot,
      character_id,
      camera_id: null,
      cause_title: "arc",
    }) as never;
  const all = [at(1, 1, "oda"), at(20, 2, "quill"), at(40, 2, "oda")];
  const kept = (sieve: string | null) =>
    sieved(all, sieve).map(({ first }) => first);
  expect(kept(null)).toEqual([1, 20, 40]);
  expect(kept("who oda")).toEqual([1, 40]);
  expect(kept("cause arc")).toEqual([1, 20, 40]);
  expect(kept("shot 2")).toEqual([20, 40]);
  expect(kept("range 3 21")).toEqual([1, 20]);
});
