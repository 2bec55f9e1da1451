/** The drawings of the Card by keys: what is changed in them shows in the Picture. */
import {
  ANOTHER,
  SAME,
  byId,
  choose,
  differs,
  exactly,
  expectNear,
  find,
  goTo,
  keys,
  number,
  picture,
  press,
  question,
  revision,
  saved,
  text,
  typed,
  wait,
} from "./app";
import { apart } from "./drawn";

const byZoom = async () =>
  press(
    exactly(
      "by zoom",
      "label",
      await find("[aria-label='How the size is held']"),
    ),
  );
const onCard = async (name: string) =>
  press(exactly(name, "button", await find(".camera-card")));

test("the size is stepped in the drawing", async () => {
  const start = revision();
  const size = () =>
    parseFloat(
      /([\d.]+) px/.exec(text(".frame-drawing .drawn-size text"))![1]!,
    );
  keys("3");
  await question("How is the framing held?");
  await byZoom();
  await saved(start + 1);
  const [before, was] = [await picture(), size()];
  await typed(await byId("size upper"), "Shift", "ArrowDown");
  await saved(start + 2);
  await wait(() => size() < was - 60, "a smaller size");
  expect(await differs(before)).toBeGreaterThan(ANOTHER);
});

test("how calmly it follows is told in frames and shown", async () => {
  const start = revision();
  keys("3");
  await goTo(1060);
  const before = await picture();
  await question("How is the framing held?");
  expect(text(".camera-card")).toContain("at once");
  await typed(await find("[aria-label='Settles within, frames']"), "End");
  await saved(start + 1);
  await wait(
    () => text(".camera-card").includes("settles within 72 frames"),
    "the frames",
  );
  const away = /Away from it by up to (\d+) px/.exec(text(".camera-card"));
  expect(Number(away?.[1])).toBeGreaterThan(20);
  expect(await differs(before)).toBeGreaterThan(0.002);
});

test("a share of the bob comes along", async () => {
  const start = revision();
  keys("2");
  await question("How is it carried?");
  const bob = /rise and fall\s*([\d.]+) cm · (\d+) px/.exec(
    text("[aria-label='What comes along']"),
  );
  expect(
    Number(bob?.[1]),
    "she bobs by a few centimetres as she steps",
  ).toBeGreaterThan(3);
  expect(Number(bob?.[1])).toBeLessThan(8);
  const heights = async () => {
    const out = [];
    for (const frame of [1012, 1018, 1024]) {
      await goTo(frame);
      out.push(await number("y"));
    }
    await goTo(1001);
    return out;
  };
  await question("Where does it stand?");
  const whole = await heights();
  const thumb = await find(
    "[aria-label='Share of the rise and fall that comes along']",
  );
  await typed(thumb, "Home");
  await saved(start + 1);
  const none = await heights();
  expect(
    Math.max(...whole.map((y, index) => Math.abs(y - none[index]!))),
  ).toBeGreaterThan(0.02);
  for (let share = 1; share <= 8; share++) {
    await typed(thumb, "ArrowRight");
    await saved(start + 1 + share);
  }
  expect(thumb.getAttribute("aria-valuenow")).toBe("8");
  const some = whole.map(
    (y, index) => none[index]! + 0.08 * (y - none[index]!),
  );
  expectNear(await heights(), some, 0.002);
});

test("trying another mount loses nothing", async () => {
  const start = revision();
  keys("1");
  await goTo(1060);
  keys("l");
  await saved(start + 1);
  await question("How is it carried?");
  await onCard("Ease at both ends");
  await saved(start + 2);
  const [before, speed] = [await picture(), text(".speed-strip")];
  await choose("Mount", "crane");
  await saved(start + 3);
  expect(await differs(before), "another mount keeps the picture").toBeLessThan(
    SAME,
  );
  await typed(await byId("crane head"), "Shift", "ArrowUp");
  await saved(start + 4);
  const raised = await picture();
  expect(apart(raised, before)).toBeGreaterThan(ANOTHER);
  await choose("Mount", "rail, as it was left");
  await saved(start + 5);
  expect(await differs(before)).toBeLessThan(SAME);
  expect(text(".speed-strip")).toBe(speed);
  await choose("Mount", "crane, as it was left");
  await saved(start + 6);
  expect(await differs(raised)).toBeLessThan(SAME);
  await choose("Mount", "rail, as it was left");
  await saved(start + 7);
  await onCard("With Oda");
  await saved(start + 8);
  expect(text(".speed-strip")).not.toBe(speed);
});
