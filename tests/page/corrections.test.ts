/** How strictly a scene is judged, and the exposures of a prop. */
import { fireEvent } from "@testing-library/dom";
import {
  ANOTHER,
  SAME,
  all,
  ask,
  button,
  byId,
  chooseJoint,
  differs,
  exactly,
  find,
  frameNow,
  goTo,
  has,
  keys,
  load,
  picture,
  press,
  pull,
  restOn,
  revision,
  said,
  saved,
  stage,
  text,
  typeNumber,
  undo,
  wait,
} from "./app";

const KINKED = 1043;
const listed = (kind: string) =>
  all(".readings .what").some((row) => said(row).startsWith(kind));

test("a scene is judged more strictly and the production sets a limit", async () => {
  await wait(() => listed("strobes"), "what strobes");
  await press(button("as usual"));
  await find("[data-testid=strictness] .limits");
  await typeNumber("slip of held poses", "25");
  await wait(() => !listed("strobes"), "within that limit");
  await press(button("Take back"));
  await wait(() => listed("strobes"), "what strobes, as before");
  const back = (await button("Take back")) as HTMLButtonElement;
  expect(back.disabled, "there is no more to be taken back").toBe(true);
  await typeNumber("slip of held poses", "25");
  await wait(() => !listed("strobes"), "within that limit again");
  await press(button("All as usual"));
  await wait(() => listed("strobes"), "what strobes again");
  const start = revision();
  await press(
    exactly(
      "as final",
      "[aria-label='How strictly this scene is judged'] label",
    ),
  );
  await saved(start + 1);
  expect(text("[data-testid=strictness]")).toContain("0.7 of the limit");
  keys("Escape");
  await button("as final");
});

test("the exposures of a prop are shown and changed in the Sheet", async () => {
  await chooseJoint("lantern");
  await wait(
    () => text(".sheet .heads").includes("Lantern pole"),
    "its column",
  );
  const start = revision();
  await goTo(1042);
  const before = await picture();
  keys("P");
  await saved(start + 1);
  expect(await differs(before), "another pose of the lantern").toBeGreaterThan(
    0.001,
  );
  await stage("step");
  expect(text(".card h2"), "hers are as they were").not.toContain(
    "an exposure list",
  );
});

test("a kinked arc is found, looked into and corrected", async () => {
  const start = revision();
  const off = () => parseFloat(text("[data-testid=off-arc]"));
  await press(
    wait(
      () => all(".readings .what").find((e) => said(e).startsWith("off the arc")), // prettier-ignore
      "the kink",
    ),
  );
  expect(frameNow()).toBe(KINKED);
  await find("[data-testid=why] svg circle.fault");
  await stage("judge");
  await wait(() => Math.abs(off()) > 10, "the figure");
  const before = await picture();
  const fix = await exactly("Correct it", ".readings li button");
  fireEvent.pointerMove(fix, { movementX: 3 });
  await wait(
    () => /gone\s*off the arc/.test(text("[data-testid=effect]")),
    "what it makes better",
  );
  expect(text("[data-testid=effect]")).toContain("Raises nothing");
  await wait(
    async () => (await differs(before)) > ANOTHER,
    "the arm where it should be",
  );
  expect(revision()).toBe(start);
  await press(fix);
  await saved(start + 1);
  await wait(() => !listed("off the arc"), "no more in the list");
  await wait(() => Math.abs(off()) < 1, "nor in the figures");
  expect(await differs(before)).toBeGreaterThan(ANOTHER);
  await wait(() => !has("[data-testid=arc-fault]"), "nor on the arc");
  await press((await byId("correction")).querySelector("button")!);
  const atSource = await byId("at-source");
  await wait(
    () => said(atSource).includes("upper_arm_r turned"),
    "what to do where it is animated",
  );
  expect(said(atSource)).toContain("on that frame alone");
  await press(find("[aria-label^='Take the correction']"));
  await saved(start + 2);
  await wait(() => listed("off the arc"), "the fault again");
  await undo(1);
  await wait(() => !listed("off the arc"), "corrected again");
  await load(location.pathname);
  await stage("judge");
  await byId("correction");
});

test("a joint is pushed in the Picture by hand and by number", async () => {
  await chooseJoint("hand_r");
  await goTo(1060);
  const start = revision();
  const before = await picture();
  const across = async () => Number((await byId("arc-hand")).dataset.x);
  const mark = (await byId("arc-hand")).querySelector(".handle")!;
  await pull(restOn(mark), [24, -18], false);
  await wait(
    () => text("[data-testid=arc-hand] text").includes("px"),
    "how far",
  );
  await wait(async () => (await differs(before)) > ANOTHER, "the arm in the hand"); // prettier-ignore
  expect(revision()).toBe(start);
  keys("Escape");
  await wait(async () => (await differs(before)) < SAME, "as it was");
  expect(revision()).toBe(start);
  await pull(restOn(mark), [24, -18]);
  await saved(start + 1);
  const pushed = await across();
  await typeNumber("right", "-5");
  await saved(start + 2);
  await wait(async () => (await across()) < pushed, "to the left");
  expect(all("[data-testid=correction]").length, "pushed again it is the same one").toBe(1); // prettier-ignore
  await goTo(1070);
  await typeNumber("down", "-900");
  await wait(() => /hand_r stays .* px short: bones keep/.test(text(".notice")), "how far it came"); // prettier-ignore
  await undo(1);
  await stage("hand over");
  const link = await button("Corrections as CSV");
  const [head, ...rows] = (await (await ask(link.getAttribute("href")!)).text()).trim().split(/\r?\n/).map((row) => row.split(",")); // prettier-ignore
  const column = (name: string) => rows.map((row) => row[head!.indexOf(name)]);
  expect(new Set(column("changed_joint"))).toEqual(
    new Set(["upper_arm_r", "forearm_r", "hand_r"]),
  );
  for (const [name, frame] of [
    ["frame", "1060"],
    ["first", "1057"],
    ["last", "1063"],
  ])
    // prettier-ignore
    expect(new Set(column(name!))).toEqual(new Set([frame]));
  expect(Number(column("world_y_mm")[0])).toBeGreaterThan(20);
});
