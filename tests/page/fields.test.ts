/** What is typed into fields and slid, what is measured, and what a page remembers. */
import {
  byId,
  caption,
  chooseJoint,
  comesNear,
  drag,
  dragPicture,
  field,
  find,
  frameNow,
  goTo,
  has,
  jointPlace,
  keys,
  load,
  now,
  number,
  question,
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

test.each(["36", "12"])(
  "what is slid goes with the hand whatever the back is: %s mm",
  async (back) => {
    let start = revision();
    const saves = async () => saved((start += 1));
    keys("6", "n");
    await saves();
    await wait(() => !caption().includes("Dolly zoom"), "the new camera");
    await chooseJoint("hips");
    await stage("set up");
    await question("What does the lens do?");
    if (back !== "36") {
      await typeNumber("back wide", back);
      await saves();
    }
    const [x] = await jointPlace();
    await dragPicture(60, 0, { shiftKey: true });
    await saves();
    const safe = now("[data-testid=safe-lines] rect").getAttribute("width");
    const slid = (60 * 1920) / (Number(safe) / 0.93);
    await comesNear(async () => (await jointPlace())[0] - x, slid, 0.01 * slid);
  },
);

test("two places are measured", async () => {
  keys("d");
  const area = await byId("picture");
  for (const x of [313, 493]) drag(area, [[x, 270]]);
  await wait(
    () => text("[data-testid=measure]").includes(" m · level"),
    "the distance",
  );
  keys("Escape");
  await wait(() => !has("[data-testid=measure]"), "done with");
});

test("a sound that is none says so", async () => {
  await stage("time");
  await user.upload(
    await find(".sounds input[type=file]"),
    new File(["no sound at all"], "noise.wav"),
  );
  await wait(
    () => text(".notice").includes("no sound that can be read"),
    "why it cannot be brought in",
  );
});
