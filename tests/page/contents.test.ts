/** What is in the scene: let go, stretched, looped, and its time bent. */
import {
  ANOTHER,
  SAME,
  all,
  button,
  byId,
  caption,
  choose,
  differs,
  exactly,
  find,
  goTo,
  has,
  keys,
  letGo,
  now,
  number,
  picture,
  press,
  pull,
  revision,
  said,
  saved,
  text,
  typeNumber,
  typed,
  undo,
  wait,
} from "./app";
import { apart } from "./drawn";

const contents = () => text("[aria-label='What is in the scene']").split("\n");

const oda = async () => press(exactly("Oda", ".contents button"));

test("whom cameras go by lets go first", async () => {
  await oda();
  const start = revision();
  await press(find("[aria-label='Let go and take out']"));
  await saved(start + 1);
  await wait(
    () => !all(".contents button").some((b) => said(b) === "Oda"),
    "Oda gone",
  );
  expect(contents().join()).toContain("Quill");
  letGo();
  await undo(1);
  await wait(
    () => all(".contents button").some((b) => said(b) === "Oda"),
    "Oda back",
  );
});

test("a performance is stretched, looped and run backwards", async () => {
  await oda();
  const start = revision();
  await goTo(1031);
  const before = await picture();
  await typeNumber("lasts", "190");
  await saved(start + 1);
  expect(await differs(before), "she is half as far").toBeGreaterThan(ANOTHER);
  await press(exactly("loop", ".thing-card .choices button"));
  await saved(start + 2);
  await press(exactly("backwards", ".thing-card label"));
  await saved(start + 3);
  letGo();
  await undo(3);
  expect(await differs(before), "as it was").toBeLessThan(SAME);
});

test("time is frozen over a stretch and its curve is worked by keys", async () => {
  await oda();
  const start = revision();
  const point = () => all(".time-curve rect")[1]!;
  await goTo(1061);
  const later = await picture();
  await goTo(1031);
  const before = await picture();
  await press(exactly("freeze", ".thing-card .choices button"));
  await saved(start + 1);
  await find(".time-curve");
  expect(
    await differs(before),
    "the frame on which it begins stays",
  ).toBeLessThan(SAME);
  letGo();
  await goTo(1061);
  expect(await differs(later), "she is twelve frames behind").toBeGreaterThan(
    ANOTHER,
  );
  await typed(point(), "Shift", "ArrowRight");
  await saved(start + 2);
  await typed(point(), "ArrowRight");
  await saved(start + 3);
  await typed(point(), "ArrowRight");
  await saved(start + 4);
  expect(point().getAttribute("aria-label")).toContain(
    "42.0 frames of its file have passed",
  );
  expect(
    await differs(later),
    "caught up: it slides through what was frozen",
  ).toBeLessThan(SAME);
  await press(button("No curve"));
  await saved(start + 5);
  await wait(() => !has(".time-curve"), "as its file has it");
});

test("a prop is taken into a hand and put down", async () => {
  await press(find("[aria-label='Bring in']"));
  await press(exactly("Ball", ".mantine-Menu-item"));
  await find(".comes-in");
  const before = revision();
  await press(button("Bring it in"));
  await saved(before + 1);
  await find(".thing-card");
  await goTo(1010);
  const start = revision();
  const place = () =>
    now(".plan-drawing [data-testid='handle thing']").outerHTML;
  await choose("Taken on this frame by", "Oda hand_r");
  await saved(start + 1);
  letGo();
  await goTo(1040);
  const carried = place();
  await press(button("put down on this frame"));
  await saved(start + 2);
  await wait(() => place() === carried, "no jump");
  await goTo(1080);
  await wait(() => place() === carried, "it stays where it was put down");
  await goTo(1020);
  await wait(() => place() !== carried, "and is carried before that");
});

async function standIn(shape: string): Promise<void> {
  await press(find("[aria-label='Bring in']"));
  await press(exactly(shape, ".mantine-Menu-item"));
  await find(".comes-in");
}
async function broughtIn(shape: string): Promise<void> {
  const start = revision();
  await standIn(shape);
  await press(button("Bring it in"));
  await saved(start + 1);
  await find(".thing-card");
}

test("a stand-in is seen before it is brought in and leaves no trace otherwise", async () => {
  const [before, start] = [await picture(), revision()];
  await standIn("Wall");
  await wait(
    async () => (await differs(before)) === Infinity,
    "the wall as it would stand",
  );
  const wide = await picture();
  await typeNumber("width", "1");
  await wait(async () => (await differs(wide)) > 0.5, "a narrower one");
  await press(button("Leave it"));
  await wait(async () => (await differs(before)) === 0, "nothing of it left");
  expect(revision()).toBe(start);
});

test("what has come in is moved by its marks, keyed and taken out", async () => {
  const onPlan = () => find(".plan-drawing [data-testid='handle thing']");
  const before = await picture();
  await broughtIn("Box");
  const start = revision();
  const [x, z] = [await number("x"), await number("z")];
  const there = await picture();
  expect(apart(there, before)).toBe(Infinity);
  await pull(find(".overlay.hands [data-testid='handle thing']"), [120, 0]);
  await saved(start + 1);
  const moved = await number("x");
  expect([moved, await number("z")]).not.toEqual([x, z]);
  expect(await differs(there), "seen where it was put").toBeGreaterThan(ANOTHER); // prettier-ignore
  await pull(onPlan(), [0, -30]);
  await saved(start + 2);
  await wait(async () => (await number("x")) !== moved, "moved on the Plan");
  await typed(await byId("handle thing turn"), "ArrowUp");
  await saved(start + 3);
  await wait(async () => (await number("turn")) !== 0, "turned by keys");
  await press(button("Set key"));
  await saved(start + 4);
  await goTo(1040);
  await typeNumber("height", "1.5");
  await saved(start + 5);
  await goTo(1001);
  await wait(async () => (await number("height")) === 0, "as keyed first");
  await goTo(1030);
  await wait(async () => {
    const height = await number("height");
    return height > 0 && height < 1.5;
  }, "on its way");
  await press(find("[aria-label='Take out']"));
  await saved(start + 6);
  await goTo(1001);
  await wait(async () => (await differs(before)) === 0, "as before it came");
});

test("a thing is hidden from a frame on and from cameras", async () => {
  await goTo(1010);
  const before = await picture();
  await broughtIn("Box");
  const start = revision();
  await goTo(1020);
  await press(button("hidden from this frame on"));
  await saved(start + 1);
  await goTo(1010);
  expect(await differs(before), "still there before that").toBe(Infinity);
  await button("hidden from this frame on");
  await goTo(1020);
  await button("there again from this frame");
  await goTo(1010);
  await press(find(".thing-card input[role=switch]"));
  await saved(start + 2);
  await wait(async () => (await differs(before)) === 0, "no camera sees it");
  keys("r");
  await wait(() => caption().startsWith("ROAM"), "roaming");
  const roaming = await picture();
  await press(find(".thing-card input[role=switch]"));
  await saved(start + 3);
  expect(await differs(roaming), "in Roam it is there all along").toBe(0);
  expect(roaming.size).toBe(before.size + 1);
});

test("characters are shown as plain bodies in the same pose", async () => {
  keys("3");
  await goTo(1043);
  const before = await picture();
  keys("h", "h", "h");
  await wait(() => text(".notice").includes("plain body"), "that it is said");
  expect(await differs(before), "other figures").toBeGreaterThan(ANOTHER);
  expect(await differs(before, ["lens", "place"])).toBe(0);
  keys("h");
  await wait(async () => (await differs(before)) === 0, "as it comes");
});
