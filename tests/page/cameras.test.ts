/** Cameras: made, carried, aimed, held. */
import {
  ANOTHER,
  SAME,
  all,
  button,
  byId,
  caption,
  choose,
  chooseJoint,
  differs,
  drag,
  dragPicture,
  exactly,
  expectNear,
  field,
  find,
  goTo,
  has,
  hold,
  jointPlace,
  keys,
  notice,
  now,
  picture,
  press,
  pull,
  question,
  restOn,
  revision,
  said,
  saved,
  stage,
  text,
  typeNumber,
  undo,
  wait,
  wheel,
} from "./app";
import { apart } from "./drawn";

test("cameras are made in one action", async () => {
  const start = revision();
  const made = [
    ["Face camera, its place only", "Face Oda 85 (2)"],
    ["Over Oda’s shoulder at Quill", "Over Oda's shoulder 50"],
  ] as const;
  for (const [index, [entry, name]] of made.entries()) {
    await press(find("[title^='New camera']"));
    await press(button(entry));
    await saved(start + 1 + index);
    await wait(() => caption().startsWith(`CAMERA · ${name}`), name);
  }
  keys("r");
  hold("Alt", "2");
  await picture();
  keys("n");
  await saved(start + 3);
  await wait(
    () => caption().startsWith("CAMERA · "),
    "the new camera in the Picture",
  );
  await wait(
    () => !text("[aria-label=Readings]").includes("· Bank rail"),
    "readings of the new camera",
  );
  const name = () => said(all("[data-testid=caption] b")[0]);
  expect(caption().split("\n")[0], "named by what it shows").toContain("Oda");
  keys("C");
  await saved(start + 4);
  await wait(
    () => caption().includes("(2)"),
    `a copy with a name of its own, not ${name()}`,
  );
  await press(button("Delete the camera"));
  await saved(start + 5);
  expect(caption()).toMatch(/^CUT/);
});

test("a camera of the cut is replaced when it is deleted", async () => {
  const start = revision();
  await press(button("Delete the camera"));
  await wait(
    () => text("[role=dialog]").includes("The cut uses it from 1001"),
    "the reason",
  );
  await choose("Replace it by", "Crane up 28");
  await press(button("Replace and delete"));
  await saved(start + 1);
  expect(caption()).toMatch(/^CUT · Crane up 28/);
  await undo(1);
  expect(caption()).toMatch(/^CUT · Bank rail 35/);
});

test("another mount keeps the picture", async () => {
  const start = revision();
  keys("l");
  await saved(start + 1);
  await goTo(1030);
  const before = await picture();
  await question("How is it carried?");
  for (const [index, kind] of [
    "crane",
    "orbit",
    "carried",
    "trailing",
    "free",
  ].entries()) {
    await choose("Mount", kind);
    await saved(start + 2 + index);
    expect(await differs(before), kind).toBeLessThan(SAME);
    if (kind !== "free") expect(caption()).toContain(kind);
  }
});

test("a point on the ground is aimed at by a click", async () => {
  const start = revision();
  keys("6");
  const before = await picture();
  await question("What does it look at?");
  await choose("Subject 1", "a point, by a click on the ground");
  drag(await byId("picture"), [[193, 340]]);
  await saved(start + 1);
  expect(await differs(before)).toBeGreaterThan(ANOTHER);
  await typeNumber("y", "1.5");
  await saved(start + 2);
  expect((await field("y")).value).toBe("1.5 m");
});

test("a joint is held from the Card and baked", async () => {
  const start = revision();
  keys("6");
  await question("How is the framing held?");
  await choose("Hold", "Oda head");
  await saved(start + 1);
  await chooseJoint("head");
  await goTo(1013);
  const at = await jointPlace();
  await goTo(1073);
  expectNear(await jointPlace(), at, 2); // on a new pose she is where she was
  await stage("set up");
  await press(button("Bake to few keys"));
  await saved(start + 2);
  await wait(
    () => text(".card").includes("Nothing is held"),
    "the lock gone, keys in its place",
  );
  expectNear(await jointPlace(), at, 2.5);
});

test("a group is locked and says why when it is pushed", async () => {
  const start = revision();
  keys("6");
  await press(exactly("place", "button", await find("[aria-label=Locks]")));
  await saved(start + 1);
  const before = await picture();
  await dragPicture(80, 0);
  await wait(() => notice().includes("The place of"), "which group is locked");
  keys("Escape");
  expect(await differs(before)).toBeLessThan(SAME);
});

const onPlan = (name: string) =>
  find(`.plan-drawing [data-testid='handle ${name}']`);

test("a rail's point is dragged on the Plan", async () => {
  const start = revision();
  const points = () => all("[data-testid^='handle rail']").length;
  const rail = () => now("[data-testid=plan-rail]").getAttribute("d");
  keys("l");
  await saved(start + 1);
  await goTo(1036);
  const [before, drawn] = [await picture(), rail()];
  await pull(onPlan("rail 1"), [0, -26]);
  await saved(start + 2);
  await wait(() => rail() !== drawn, "another rail");
  expect(await differs(before), "the camera went with it").toBeGreaterThan(ANOTHER); // prettier-ignore
  await press(button("Plan into the large place"));
  const between = await find(".plan.large [data-testid='handle add 2']");
  const few = points();
  await pull(between, [0, -30]);
  await saved(start + 3);
  await wait(() => points() === few + 1, "a point more");
  drag(await find(".plan.large [data-testid='handle rail 3']"), [[0, 0]], { altKey: true }); // prettier-ignore
  await saved(start + 4);
  await wait(() => points() === few, "taken out again");
  keys("Escape");
  await undo(3);
  await wait(
    async () => (await differs(before)) < SAME,
    "undone, the picture is the same again",
  );
});

test("a locked handle says why", async () => {
  await pull(onPlan("rail 2"), [0, -20]);
  await wait(
    () => text(".notice").includes("locked"),
    "why it cannot be moved",
  );
});

test("a crane is moved by its base in Roam", async () => {
  const start = revision();
  keys("5");
  await goTo(1070);
  const before = await picture();
  keys("r");
  hold("Alt", "6");
  for (let back = 0; back < 4; back++) await wheel(900);
  await picture();
  await pull(
    find("[data-testid=picture] [data-testid='handle crane base']"),
    [40, 10],
  );
  await saved(start + 1);
  keys("r");
  await wait(() => caption().startsWith("CAMERA · Crane up"), "the crane");
  expect(await differs(before)).toBeGreaterThan(ANOTHER);
});

test("what a camera aims at is dragged and let go", async () => {
  const start = revision();
  keys("5");
  await goTo(1050);
  const before = await picture();
  await pull(restOn(byId("aim-mark")), [0, -50]);
  await saved(start + 1);
  const after = await picture();
  expect(apart(after, before)).toBeGreaterThan(ANOTHER);
  await question("What does it look at?");
  await press(button("Release the aim"));
  await saved(start + 2);
  expect(await differs(after), "let go, it looks as it did").toBeLessThan(SAME);
  expect(has("[data-testid=aim-mark]")).toBe(false);
});
