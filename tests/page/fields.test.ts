/** What is typed into fields, and what a page remembers. */
import {
  caption,
  chooseJoint,
  field,
  frameNow,
  goTo,
  keys,
  load,
  number,
  revision,
  saved,
  stage,
  text,
  typeNumber,
  typed,
  user,
  wait,
} from "./app";

test("numbers take sums and units and say what they cannot take", async () => {
  const start = revision();
  keys("6");
  await typeNumber("y", "1 m + 30 cm");
  await saved(start + 1);
  expect(await number("y")).toBe(1.3);
  await typeNumber("roll", "180/4");
  await saved(start + 2);
  expect(await number("roll")).toBe(45);
  await typeNumber("y", "two");
  await wait(
    () => text(".camera-card").includes("a number, in m"),
    "what it takes",
  );
  await user.keyboard("{Escape}");
  expect(await number("y")).toBe(1.3);
  await typed(await field("y"), "ArrowUp");
  await saved(start + 3);
  await wait(async () => (await number("y")) === 1.4, "a step");
  await typed(await field("y"), "Shift", "ArrowUp");
  await saved(start + 4);
  await wait(async () => (await number("y")) === 2.4, "a coarse one");
});

test("a scene opens where it was left, however soon one comes back", async () => {
  keys("3");
  await goTo(1033);
  await chooseJoint("head");
  await load(location.pathname);
  await wait(
    () => caption().includes("Two-shot") && frameNow() === 1033,
    "the same camera and frame",
  );
  await stage("judge");
  await wait(() => text(".card h2").startsWith("head"), "the same joint");
});
