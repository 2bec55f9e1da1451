/** The drawings of the Card by hand: what is pulled in them shows in the Picture. */
import {
  ANOTHER,
  SAME,
  all,
  button,
  byId,
  caption,
  choose,
  chooseJoint,
  comesNear,
  differs,
  draw,
  exactly,
  find,
  goTo,
  has,
  jointPlace,
  keys,
  now,
  picture,
  press,
  pull,
  question,
  revision,
  saved,
  stage,
  takenAway,
  text,
  typed,
  wait,
} from "./app";
import { apart } from "./drawn";

test("a face is held at the left third at the size it has", async () => {
  const start = revision();
  keys("6");
  await goTo(1030);
  await question("How is the framing held?");
  await choose("Hold", "Oda head");
  await saved(start + 1);
  await chooseJoint("head");
  await stage("set up");
  const before = await picture();
  expect(caption()).toContain("85 mm");
  await press(
    exactly("by zoom", "label", await find("[aria-label='How the size is held']")), // prettier-ignore
  );
  await saved(start + 2);
  expect(await differs(before), "the size that it has").toBeLessThan(SAME);
  expect(caption()).toContain("85 mm");
  const [x, y] = await jointPlace();
  const width = Number(
    now(".frame-drawing .drawn-frame").getAttribute("width"),
  );
  await pull(byId("framing mark"), [-width / 6, 0]);
  await saved(start + 3);
  await comesNear(jointPlace, [x - 320, y], 1);
  expect(await differs(before)).toBeGreaterThan(ANOTHER);
  await typed(await byId("framing mark"), "ArrowRight");
  await saved(start + 4);
  await wait(
    async () => (await jointPlace())[0] > x - 320 + 4,
    "a step to the right, by a key",
  );
});

test("a room has any shape and its corners go", async () => {
  const start = revision();
  const shape = () =>
    now("[data-testid=held-place] polygon").getAttribute("points");
  keys("6");
  await question("How is the framing held?");
  await choose("Hold", "Oda head");
  await saved(start + 1);
  await press(button("Let it wander"));
  await saved(start + 2);
  const before = shape();
  await pull(byId("slack corner 0"), [25, 18]);
  await saved(start + 3);
  await wait(() => shape() !== before, "another shape");
  await typed(await byId("slack corner 4"), "Delete");
  await saved(start + 4);
  await wait(
    () => all(".frame-drawing .drawn-corner").length === 7,
    "a corner fewer",
  );
});

test("a crane is raised, swung and let lean in its drawings", async () => {
  const start = revision();
  keys("5");
  await question("How is it carried?");
  const before = await picture();
  await pull(byId("crane head"), [0, -20]);
  await saved(start + 1);
  const up = await picture();
  expect(apart(up, before)).toBeGreaterThan(ANOTHER);
  await pull(byId("crane swing"), [12, -8]);
  await saved(start + 2);
  const swung = await picture();
  expect(apart(swung, up)).toBeGreaterThan(ANOTHER);
  const level = await find("[role=switch][aria-label='The head stays level']");
  expect(level.getAttribute("aria-checked")).toBe("true");
  await press(level);
  await saved(start + 3);
  expect(await differs(swung), "another head keeps the picture").toBeLessThan(
    SAME,
  );
  expect(level.getAttribute("aria-checked")).toBe("false");
});

test.each([
  ["5", "crane head"],
  ["6", "picture"],
])(
  "a drag that the system cancels changes nothing: %s, %s",
  async (camera, taken) => {
    const start = revision();
    keys(camera);
    await question("How is it carried?");
    const before = await picture();
    const held = await byId(taken);
    await pull(held, [40, -25], false);
    await wait(async () => (await differs(before)) > ANOTHER, "in the hand");
    takenAway(held);
    await wait(async () => (await differs(before)) < SAME, "as it was");
    expect(revision()).toBe(start);
  },
);

test("a rail is drawn by hand on the Plan", async () => {
  const start = revision();
  keys("6", "n");
  await saved(start + 1);
  await wait(() => !caption().includes("Dolly zoom"), "the new camera");
  const before = await picture();
  await question("How is it carried?");
  await press(button("Draw a rail on the Plan"));
  const plan = await find(".plan.large [data-testid=rail-stroke] rect");
  await draw(
    plan,
    Array.from({ length: 13 }, (_, step) => [75 + 12 * step, 130 - 3 * (step % 2)]), // prettier-ignore
  );
  await saved(start + 2);
  await wait(() => caption().includes(" rail"), "a camera on a rail");
  expect(has("[data-testid=rail-stroke]"), "drawn, it is done with").toBe(false); // prettier-ignore
  const points = all(".plan-drawing [data-testid^='handle rail']").length;
  expect(points).toBeGreaterThanOrEqual(4);
  expect(points).toBeLessThanOrEqual(12);
  expect(await differs(before), "the camera stands on it").toBeGreaterThan(
    SAME,
  );
  await press(
    exactly("Ease at both ends", "button", await find(".camera-card")),
  );
  await saved(start + 3);
  await wait(() => text(".speed-strip").includes("m/s"), "its speed");
});
