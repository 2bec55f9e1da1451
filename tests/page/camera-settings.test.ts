/** Settings of cameras: hands, mounts, rails, framing and planes. */
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
  drag,
  dragPicture,
  expectNear,
  find,
  goTo,
  hold,
  jointPlace,
  keys,
  notice,
  now,
  number,
  numbers,
  picture,
  place,
  press,
  question,
  revision,
  said,
  saved,
  stage,
  text,
  told,
  typeNumber,
  typed,
  wait,
  wheel,
} from "./app";

test("a camera walks at eye height and flies", async () => {
  const start = revision();
  keys("6");
  await picture();
  const [x, , z] = await place();
  const turn = ((await number("pan")) * Math.PI) / 180;
  keys("w");
  await wait(() => notice().includes("Walking at 1.6 m"), "how one walks");
  hold("Control", "ArrowUp");
  await saved(start + 1);
  expectNear(
    await place(),
    [x + 0.25 * Math.sin(turn), 1.6, z - 0.25 * Math.cos(turn)],
    0.01,
  );
  hold("Control", "ArrowRight");
  await saved(start + 2);
  expect((await place())[1]).toBe(1.6);
  keys("w", "PageUp");
  await saved(start + 3);
  expectNear((await place())[1], 1.85, 0.001);
  keys("]", "PageUp");
  await saved(start + 4);
  expectNear((await place())[1], 2.35, 0.001);
});

test("undo pressed twice at once undoes twice", async () => {
  const start = revision();
  keys("6");
  const before = await picture();
  for (const count of [1, 2]) {
    await dragPicture(40, 0);
    await saved(start + count);
  }
  expect(await differs(before)).toBeGreaterThan(ANOTHER);
  hold("Control", "z");
  hold("Control", "z");
  await saved(start + 4);
  expect(await differs(before)).toBeLessThan(SAME);
  expect(caption()).not.toContain("moved, not keyed");
});

test("a carried camera holds movements back and trails", async () => {
  const start = revision();
  const height = async () => (await place())[1];
  keys("2");
  await goTo(1052);
  const bobbing = [await height(), await number("roll")];
  await goTo(1040);
  const [before, stood] = [await picture(), await height()];
  await question("How is it carried?");
  for (const [index, movement] of [
    "rise and fall",
    "nodding",
    "leaning",
  ].entries()) {
    await typed(
      await find(`[aria-label='Share of the ${movement} that comes along']`),
      "Home",
    );
    await saved(start + 1 + index);
  }
  expect(
    await differs(before),
    "what is held back stays as it is on this frame",
  ).toBeLessThan(SAME);
  const level = await number("roll");
  await goTo(1052);
  const calm = await picture();
  expect([await height(), await number("roll")]).toEqual([stood, level]);
  expect([stood, level]).not.toEqual(bobbing);
  await goTo(1040);
  await choose("Mount", "trailing");
  await saved(start + 4);
  const shares = all("[aria-label='What comes along'] [role=slider]").map((e) =>
    e.getAttribute("aria-valuenow"),
  );
  expect(shares, "what is held back, stays so").toEqual([
    "100",
    "0",
    "100",
    "0",
    "0",
  ]);
  expect(await differs(before)).toBeLessThan(SAME);
  await typeNumber("half of the way caught up after", "0.6");
  await saved(start + 5);
  await goTo(1052);
  expect(await differs(calm), "it comes late").toBeGreaterThan(ANOTHER);
});

test("a rail has bumps and runs beside the path", async () => {
  const start = revision();
  keys("l");
  await saved(start + 1);
  await goTo(1050);
  const [before, [, height]] = [await picture(), await place()];
  await question("How is it carried?");
  await numbers();
  await press(button("bump here"));
  await saved(start + 2);
  expectNear((await place())[1], height + 0.03, 0.002);
  await typeNumber("high", "120");
  await saved(start + 3);
  expectNear((await place())[1], height + 0.12, 0.002);
  expect(await differs(before)).toBeGreaterThan(ANOTHER);
  await press(button("take this bump away"));
  await saved(start + 4);
  expect(await differs(before)).toBeLessThan(SAME);
  await press(button("Through where it stands"));
  await saved(start + 5);
  expect(
    await differs(before),
    "a rail along her path, the picture kept",
  ).toBeLessThan(SAME);
  await typeNumber("to its left", "-2.5");
  await press(button("Over there"));
  await saved(start + 6);
  const [x, , z] = await place();
  expectNear(x, -2.5, 0.15);
  await press(button("Even run"));
  await saved(start + 7);
  await goTo(1090);
  expect((await place())[2], "along with her").toBeGreaterThan(z + 1);
  await press(button("Plan into the large place"));
  await wait(
    () => all(".plan.large [data-testid^='handle rail']").length === 9,
    "its handles, drawn large",
  );
});

test("the framing breathes in a room and is blended in", async () => {
  const start = revision();
  keys("1", "l");
  await saved(start + 1);
  await goTo(1021);
  await chooseJoint("head");
  const unheld = await jointPlace();
  await stage("set up");
  await question("How is the framing held?");
  await choose("Hold", "Oda head");
  await saved(start + 2);
  await comesNear(jointPlace, unheld, 3);
  await numbers();
  await typeNumber("across", "50");
  await saved(start + 3);
  await typeNumber("down", "40");
  await saved(start + 4);
  await comesNear(jointPlace, [960, 0.4 * 1080], 3);
  await press(button("Let it wander"));
  await saved(start + 5);
  await comesNear(jointPlace, unheld, 3); // in a room of a quarter of the frame, where she was
  await typeNumber("weight", "0");
  await saved(start + 6);
  await comesNear(jointPlace, unheld, 2);
  await press(find("[aria-label='Set a key on weight']"));
  await saved(start + 7);
  await goTo(1040);
  await typeNumber("weight", "1");
  await saved(start + 8);
  await press(find("[aria-label='Set a key on weight']"));
  await saved(start + 9);
  await goTo(1030);
  const half = await number("weight");
  expect(half).toBeGreaterThan(0.2);
  expect(half).toBeLessThan(0.8);
  await goTo(1021);
  await comesNear(jointPlace, unheld, 2); // nothing is held yet where its weight is 0
});

test("the picture is rolled by hand and levelled", async () => {
  const start = revision();
  keys("6");
  const [before, stood] = [await picture(), await place()];
  await dragPicture(30, 60, { altKey: true });
  await saved(start + 1);
  const rolled = Math.abs(await number("roll"));
  expect(rolled).toBeGreaterThan(10);
  expect(rolled).toBeLessThan(30);
  expect(await place()).toEqual(stood);
  expect(await differs(before)).toBeGreaterThan(ANOTHER);
  hold("Alt", "0");
  await saved(start + 2);
  await wait(async () => (await number("roll")) === 0, "level");
  expect(await differs(before)).toBeLessThan(SAME);
  keys("<");
  await saved(start + 3);
  await wait(async () => Math.abs(await number("roll")) === 1, "a degree");
});

test("the joint in focus is picked in the Picture", async () => {
  const start = revision();
  keys("3");
  await goTo(1041);
  await chooseJoint("hand_l");
  const cross = now("[data-testid=chosen-joint] circle");
  const at: [number, number] = [Number(cross.getAttribute("cx")), Number(cross.getAttribute("cy"))]; // prettier-ignore
  await stage("set up");
  await question("What is sharp?");
  await press(find("button[aria-label='Click Subject 1 in the Picture']"));
  await wait(
    () => text(".notice").includes("Esc leaves it"),
    "what is to be clicked",
  );
  drag(await byId("picture"), [at]);
  await saved(start + 1);
  const sharp = (await find(
    "input[aria-label='Subject 1']",
  )) as HTMLInputElement;
  await wait(() => sharp.value === "Oda hand_l", "her hand");
  expect(
    now("[id='stage-set up']").getAttribute("aria-selected"),
    "the click was for the focus alone",
  ).toBe("true");
});

test("a camera has a tint and a line of its own", async () => {
  const start = revision();
  const line = () =>
    all("[data-testid=bench-camera]")
      .find((camera) => said(camera).includes("Dolly zoom Oda"))
      ?.querySelector(".swatch path")?.outerHTML;
  keys("6");
  const before = await wait(line, "its line on the Bench");
  await press(find("[aria-label='Its tint and line']"));
  await press(find("[aria-label='Tint 2, level']"));
  await saved(start + 1);
  await wait(() => line() !== before, "the new line on the Bench");
});

test("the near plane cuts a wall away", async () => {
  const start = revision();
  const isHidden = async () => /body hidden\s*Oda/.test(await told());
  await goTo(1080);
  keys("r");
  hold("Alt", "2");
  for (let back = 0; back < 3; back++) await wheel(700);
  await picture();
  keys("n");
  await saved(start + 1);
  await wait(() => caption().startsWith("CAMERA"), "the new camera");
  const walled = await picture();
  await wait(isHidden, "that the mill is in the way");
  const [away] = await place();
  await question("What does the lens do?");
  await typeNumber("near plane", String(away - 1.5));
  await saved(start + 2);
  expect(await differs(walled)).toBeGreaterThan(ANOTHER);
  await wait(async () => !(await isHidden()), "her in sight again");
  await typeNumber("near plane", "60");
  await saved(start + 3);
  await wait(
    async () => (await told()).includes("near plane cuts in"),
    "that it cuts into her",
  );
});
