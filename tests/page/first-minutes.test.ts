/** What a newcomer meets: the Desk, readings that unfold, prices, and a joint held in the frame. */
import { readFileSync } from "node:fs";
import {
  ANOTHER,
  SAME,
  all,
  button,
  byId,
  caption,
  chooseJoint,
  comesNear,
  demoFile,
  differs,
  dropFile,
  exactly,
  find,
  goTo,
  has,
  hold,
  jointPlace,
  keys,
  letGo,
  load,
  now,
  picture,
  press,
  pull,
  revision,
  said,
  saved,
  stage,
  text,
  title,
  undo,
  user,
  wait,
} from "./app";
import { apart } from "./drawn";

/** Her crossing without the kink in it. */
const SECOND = "oda-crossing-2.glb";
const WALK = readFileSync("../tests/formats/walk.bvh", "utf8");

test("from a joint's card the camera is turned to it", async () => {
  const start = revision();
  keys("6");
  await goTo(1031);
  await chooseJoint("lantern");
  const held = await jointPlace();
  await press(button("Hold it in the frame"));
  await saved(start + 1);
  await comesNear(jointPlace, held, 1); // where it is seen
  await goTo(1071);
  await comesNear(jointPlace, held, 1); // and there it stays
});

test("readings of one cause unfold under the worst", async () => {
  const rows = () => all(".readings li");
  expect(said(rows()[0])).toMatch(/^strobes/);
  const more = rows()[0]!.querySelector(".more")!;
  expect(said(more)).toContain("more of its held poses");
  await press(more);
  await wait(() => all(".readings li.further"), "the others");
  expect(text(".readings li.further")).toContain("key pose not shown");
  expect(text(".readings li")).toContain("shot 1");
});

test("the price of Ride is in pixels and planted feet pay none", async () => {
  const start = revision();
  const paid = () =>
    parseFloat(text("[data-testid=feet-slide]").split("· ")[1]!);
  await stage("step");
  expect(text(".boxed"), "as it is offered").toContain(
    "feet stay where they stand",
  );
  keys("y");
  await saved(start + 1);
  await press(exactly("Feet stay where they stand", "label"));
  await saved(start + 2);
  await wait(() => paid() > 5, "what it costs without");
  expect(text(".boxed")).toContain("price: feet slide");
  await press(button("What would be best"));
  const best = await find("[data-testid=trying] section");
  expect(said(best)).toMatch(/^(Ride|its feet planted)/);
  await press(best.querySelector("button")!);
  await saved(start + 3);
  await wait(() => paid() < 0.1, "no price any more");
});

test("the Desk says what asks for attention", async () => {
  await load("/");
  const card = () =>
    all("[data-testid=scene-card]").find((c) => /^Crossing(?!,)/.test(said(c)));
  await wait(
    () => said(card()).includes("strobes"),
    "what is told of the crossing",
  );
  expect(said(card())).toContain("6 readings: strobes, off the arc");
});

test("a broken file is told on the Desk", async () => {
  await press(button("Eddyfield"));
  const input = await find(".drop input[type=file]");
  await user.upload(
    input,
    new File(
      [new Uint8Array([0x67, 0x6c, 0x54, 0x46, 2, 0, 0, 0])],
      "broken.glb",
    ),
  );
  await wait(() => text("[role=alert]").includes("cut off"), "the reason");
});

test("a joint with another name is shown for approval and one that is lost is stood in for", async () => {
  const renamedFile = Buffer.from(
    Buffer.from(demoFile(SECOND))
      .toString("latin1")
      .replace('"name":"head"', '"name":"kopf"'),
    "latin1",
  );
  const start = revision();
  keys("2");
  const face = await picture();
  await dropFile("oda_kopf.glb", renamedFile);
  const renamed = await byId("renamed-joints");
  expect(said(renamed)).toContain("head is now kopf");
  await press(renamed.querySelector("input")!);
  await wait(
    () =>
      text("[data-testid=goes-by-lost]").includes("Face Oda 85 goes by head"),
    "who goes by it",
  );
  expect(text("[data-testid=goes-by-lost]")).toContain("hips stands in");
  await press(button("Bring it in"));
  await saved(start + 1);
  await wait(
    () => text(".readings").includes("joint is lost"),
    "that it is told",
  );
  expect(
    apart(await picture(), face, ["place"]),
    "it goes by her hips",
  ).toBeGreaterThan(ANOTHER);
  keys("2");
  await undo(1);
  await dropFile("oda_kopf.glb", renamedFile);
  await byId("renamed-joints");
  await press(button("Bring it in"));
  await saved(start + 3);
  expect(
    apart(await picture(), face, ["place"]),
    "the face is held under its new name",
  ).toBeLessThan(SAME);
});

test("the version before is seen beside and flipped by a key", async () => {
  const start = revision();
  await dropFile("oda_v2.glb", demoFile(SECOND));
  await byId("version-changes");
  await press(button("Bring it in"));
  await saved(start + 1);
  await chooseJoint("hand_r");
  await goTo(1043);
  const [alone, arc] = [
    await picture(),
    now("[data-testid=arc-line]").getAttribute("d"),
  ];
  keys("s");
  const beside = await find("[data-testid=arc-beside] path");
  await wait(
    () => caption().includes("first version as a ghost"),
    "what the caption says of it",
  );
  expect(
    beside.getAttribute("d"),
    "the kink is in one of the two alone",
  ).not.toBe(arc);
  const withGhost = await picture();
  expect(apart(withGhost, alone), "one figure more").toBe(Infinity);
  hold("Shift", "s");
  await wait(() => caption().includes("first version solid"), "flipped");
  keys("s");
  await wait(() => !has("[data-testid=arc-beside]"), "without");
  expect(await differs(alone), "as it was").toBe(0);
});

test("a performance that is used in two scenes changes in both", async () => {
  const start = revision();
  await press(exactly("Oda", ".contents button"));
  await wait(
    () => text("[data-testid=other-uses]").includes("Oda in “Crossing, cut”"),
    "where else she crosses",
  );
  await dropFile("oda_v2.glb", demoFile(SECOND));
  await byId("version-changes");
  await wait(
    () => text("[role=dialog]").includes("also for Oda in “Crossing, cut”"),
    "that it is used elsewhere",
  );
  await press(button("Bring it in"));
  await saved(start + 1);
  await wait(
    () => text("[data-testid=other-uses]").includes("Oda in “Crossing, cut”"),
    "both are the second now",
  );
  await press((await byId("other-uses")).querySelector("button")!);
  await wait(() => title() === "Crossing, cut", "the other use, a step away");
  const there = revision();
  await press(button("Undo next version of a performance (Ctrl Z)"));
  await saved(there + 1);
});

test("the Desk says what comes next", async () => {
  await press(button("Eddyfield"));
  const next = await byId("next-step");
  await wait(
    () => said(next).startsWith("Next: open “Crossing” and "),
    "what comes next",
  );
  await press(next.querySelector("button")!);
  await byId("sheet-rows");
});

test("a broken file is told in words of files and taken once it is mended", async () => {
  await press(button("Eddyfield"));
  const brought = async (text: string) =>
    user.upload(
      await find(".drop input[type=file]"),
      new File([text], "walk.bvh"),
    );
  await brought(WALK.replace("}\nMOTION", "}\n}\nMOTION"));
  await wait(
    () =>
      text("[role=alert]").startsWith(
        "“walk.bvh” cannot be brought in. The file is damaged, or was cut off on its way here.",
      ),
    "what is wrong",
  );
  await brought(WALK);
  await wait(
    () => text("[role=dialog]").includes("joints"),
    "what the mended file holds",
  );
  await press(button("Leave it"));
});

test("a next version says what becomes better and takes the place of the one before", async () => {
  const start = revision();
  await chooseJoint("lantern");
  const kinked = () => /off the arc.*· 1043/.test(text(".readings"));
  await wait(kinked, "the kink");
  await dropFile("oda_v2.glb", demoFile(SECOND));
  await wait(
    () => /gone\s*off the arc/.test(text("[data-testid=version-changes]")),
    "what would change",
  );
  await wait(
    async () =>
      ((await find("[role=dialog] input")) as HTMLInputElement).value === "Oda",
    "whose next version it is",
  );
  await press(button("Bring it in"));
  await saved(start + 1);
  await wait(() => !kinked(), "the kink gone");
  expect(caption(), "everything else stays").toMatch(/^CUT · Bank rail 35/);
  await stage("set up");
  await press(exactly("Oda", ".contents button"));
  await wait(
    () => text(".version + .version").startsWith("oda_v2.glb"),
    "both versions",
  );
  await wait(
    () =>
      text(".thing-card").includes(
        "frames differ from the version before; most, ",
      ),
    "what it changed",
  );
  const straight = await picture();
  const look = await exactly("look", ".version .toggle"); // at the first one
  await press(look);
  await wait(() => look.getAttribute("aria-pressed") === "true", "looking");
  await goTo(1043);
  await press(look);
  expect(revision(), "looking changes nothing").toBe(start + 1);
  await goTo(1001);
  await wait(async () => (await differs(straight)) < SAME, "as it was");
  letGo();
  await undo(1);
  await wait(kinked, "the version before");
});

test("a drag that begins on a mark by accident moves the camera", async () => {
  const start = revision();
  keys("5");
  await goTo(1050);
  const before = await picture();
  await pull(byId("aim-mark"), [60, 0]);
  await saved(start + 1);
  const last = (await find("[aria-label^='Undo']")).getAttribute("aria-label");
  expect(last).toContain("place camera");
  expect(await differs(before)).toBeGreaterThan(ANOTHER);
});

test("a version that is looked at stays through other cameras, until something else is in the hand", async () => {
  const start = revision();
  await dropFile("oda_v2.glb", demoFile(SECOND));
  await byId("version-changes");
  await press(button("Bring it in"));
  await saved(start + 1);
  await stage("set up");
  await press(exactly("Oda", ".contents button"));
  await find(".version + .version");
  await goTo(1043); // where the two differ
  const straight = await picture();
  const bodies = [...straight.keys()].filter((name) => name.includes("/"));
  const look = () => exactly("look", ".version .toggle"); // at the first one
  await press(look());
  await wait(async () => (await differs(straight)) > ANOTHER, "the kinked arm");
  const kinked = await picture();
  keys("3");
  await wait(async () => (await differs(kinked, ["place"])) > ANOTHER, "another camera"); // prettier-ignore
  expect(await differs(kinked, bodies), "the first version").toBeLessThan(SAME);
  const said = text("[data-testid=caption]");
  expect(said).toContain("Oda as in ");
  await press(button("Oda as in "));
  await wait(
    async () => (await differs(straight, bodies)) < SAME,
    "the second, which is performed",
  );
  await press(exactly("Oda", ".contents button"));
  await press(look());
  await wait(async () => (await differs(straight, bodies)) > ANOTHER, "the kinked arm again"); // prettier-ignore
  keys("5");
  await pull(byId("aim-mark"), [60, 0]);
  await saved(start + 2);
  await wait(
    async () => (await differs(straight, bodies)) < SAME,
    "what is performed",
  );
  expect(text("[data-testid=caption]")).not.toContain("Oda as in ");
});
