/** What is in the scene: let go, stretched, looped, and its time bent. */
import {
  ANOTHER,
  SAME,
  all,
  button,
  choose,
  differs,
  exactly,
  find,
  goTo,
  has,
  letGo,
  now,
  picture,
  press,
  revision,
  said,
  saved,
  text,
  typeNumber,
  typed,
  undo,
  wait,
} from "./app";

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
