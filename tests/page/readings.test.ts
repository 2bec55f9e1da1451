/** The list of readings: found, sieved, let stand, explained and mended. */
import { fireEvent } from "@testing-library/dom";
import {
  SAME,
  all,
  button,
  differs,
  find,
  frameNow,
  goTo,
  has,
  keys,
  picture,
  press,
  revision,
  said,
  saved,
  text,
  typed,
  user,
  wait,
} from "./app";

const marks = () => all("[data-testid=arc] > rect").length;

test("a fault is found in the list and shown by a click", async () => {
  await goTo(1010);
  const row = await wait(
    () => all(".readings .what").find((b) => said(b).includes("off the arc")),
    "the kink, unasked",
  );
  expect(said(row)).toContain("1043");
  expect(row.title).toContain("beside the arc");
  await press(row);
  await wait(() => frameNow() === 1043, "its frame");
  const here = () => row.closest("li")!.classList.contains("here");
  await wait(here, "told to be here");
  keys("ArrowLeft");
  await wait(() => !here(), "and no more beside it");
  keys("ArrowRight");
  await wait(
    () =>
      all("[data-testid=arc-fault]").some((t) =>
        said(t).includes("off the arc"),
      ),
    "drawn on its arc",
  );
});

test("figures stand on the frame that is shown as soon as it plays", async () => {
  const strobes = await wait(
    () => all(".readings li").find((li) => said(li).startsWith("strobes")),
    "what strobes",
  );
  const here = () => strobes.classList.contains("here");
  expect(here(), "it begins two frames later").toBe(false);
  await goTo(1043);
  await wait(here, "told to be here");
  let lost = false;
  new MutationObserver(() => (lost ||= !here())).observe(strobes, {
    attributes: true,
  });
  keys(" ");
  await find("[aria-label=Pause]");
  await new Promise((resolve) => setTimeout(resolve, 100));
  keys(" ");
  await find("[aria-label=Play]");
  expect(lost).toBe(false);
});

test("a reading is let stand for a reason and told again", async () => {
  const kink = () =>
    wait(
      () => all(".readings li").find((li) => said(li).includes("off the arc")),
      "the kink",
    );
  const start = revision();
  const count = text(".readings-pane h2");
  await press((await kink()).querySelector("[aria-label='Let it stand']")!);
  await typed(
    await find("[aria-label='Why it may stand']"),
    "she trips",
    "Enter",
  );
  await saved(start + 1);
  await wait(() => text(".readings-pane h2") !== count, "one less");
  await press(
    all(".readings .more").find((b) => said(b).includes("may stand"))!,
  );
  expect(said(await kink())).toContain("May stand: she trips");
  await press(button("Tell again", await kink()));
  await saved(start + 2);
  await wait(() => text(".readings-pane h2") === count, "told again");
});

test("the list is sieved", async () => {
  const choice = (await find(
    "[aria-label='Which readings are listed']",
  )) as HTMLSelectElement;
  const allOfThem = text(".readings-pane h2");
  await user.selectOptions(choice, "Quill");
  await wait(() => text(".readings-pane h2") !== allOfThem, "fewer");
  expect(
    all(".readings .what").every((row) => said(row).includes("Quill")),
  ).toBe(true);
  await user.selectOptions(choice, choice.options[0]!);
  await wait(() => text(".readings-pane h2") === allOfThem, "all again");
});

test("why a reading is told is drawn beside it", async () => {
  const row = (kind: string) =>
    all(".readings .what").find((r) => said(r).startsWith(kind))!;
  await wait(() => row("off the arc"), "a kinked arc in the list");
  await press(row("off the arc"));
  expect(frameNow()).toBe(1043);
  const off = await wait(
    () => all("[data-testid=why] svg circle.fault"),
    "the frame that is off",
  );
  expect(off.length).toBe(1);
  expect(all("[data-testid=why] svg circle.tick").length).toBe(14);
  await wait(() => marks() > 0, "and the arc in the Picture");
  await press(row("off the arc"));
  expect(has("[data-testid=why]")).toBe(false);
  await press(row("strobes"));
  expect(
    (await wait(() => all("[data-testid=why] rect.over"), "what slips")).length,
  ).toBe(1094 - 1003 + 1);
});

test("a fix is shown before it is taken and what changed is told", async () => {
  const start = revision();
  const ride = () => all(".readings li button").find((e) => said(e) === "Ride");
  const fix = await wait(ride, "the fix");
  await press(button("changes"));
  await press(button("Looked through"));
  await goTo(1048);
  const before = await picture();
  fireEvent.pointerMove(fix, { movementX: 3 });
  await wait(
    () => /gone\s*strobes/.test(text("[data-testid=effect]")),
    "what it would make better",
  );
  expect(text("[data-testid=effect]")).toContain("Raises nothing");
  await wait(
    async () => (await differs(before)) > SAME,
    "what it would look like",
  );
  expect(revision()).toBe(start);
  fireEvent.pointerOut(fix);
  await wait(async () => (await differs(before)) < SAME, "as it is stored");
  await press(fix);
  await saved(start + 1);
  await wait(() => !ride(), "no more in the list");
  await press(button("changes"));
  await wait(
    () => text("[data-testid=since] h2").includes("1 gone"),
    "what changed",
  );
});
