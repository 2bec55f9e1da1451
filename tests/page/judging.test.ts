/** Judging and stepping: arcs, exposures and Ride. */
import {
  all,
  ask,
  button,
  byId,
  caption,
  chooseJoint,
  differs,
  doubleClick,
  drag,
  dragPicture,
  exactly,
  expectNear,
  find,
  frameNow,
  goTo,
  has,
  hold,
  jointPlace,
  keys,
  letGo,
  load,
  now,
  picture,
  press,
  revision,
  rowOf,
  said,
  saved,
  stage,
  text,
  typeNumber,
  typed,
  undo,
  user,
  wait,
} from "./app";

const arcPath = () => now("[data-testid=arc-line]").getAttribute("d")!;
const slip = () => Number(text("[data-testid=slip-rms]"));
const marks = () => all("[data-testid=arc] > rect").length;

test("the arc has a mark a frame and the card's figures are right", async () => {
  await chooseJoint("lantern");
  await goTo(1043);
  await wait(() => marks() === 48, "new poses on twos");
  expect(all("[data-testid=arc] > path").length, "a stroke a held frame").toBe(
    48,
  );
  expect(all("[data-testid=arc-line]").length).toBe(1);
  await byId("arc-now");
  expect(text("[data-testid=arc-fault]")).toContain("off the arc");
  expect(text("[data-testid=arc-fault]")).toContain("1043");
  const link = (await button("Arc as CSV")).getAttribute("href")!;
  const [names, ...lines] = (await (await ask(link)).text())
    .trim()
    .split("\n")
    .map((line) => line.trim().split(","));
  const row = (index: number, name: string) =>
    Number(lines[index]![names!.indexOf(name)]);
  expectNear(
    Number(text("[data-testid=spacing-here]")),
    row(42, "spacing_px"),
    0.051,
  );
  expectNear(
    parseFloat(text("[data-testid=camera-share]")),
    row(42, "camera_share_px"),
    0.051,
  );
  expectNear(await jointPlace(), [row(42, "x_px"), row(42, "y_px")], 0.05);
  const spread = lines.slice(1).map((_, index) => row(index + 1, "spacing_px"));
  const mean = spread.reduce((sum, value) => sum + value, 0) / spread.length;
  for (const value of [Math.min(...spread), Math.max(...spread), mean])
    expect(text(".card .body")).toContain(`${value.toFixed(1)} px`);
});

test("the arc is frozen and follows the camera", async () => {
  await chooseJoint("hips");
  await goTo(1049);
  const through = arcPath();
  keys("i");
  await wait(
    () => caption().includes("arc frozen on 1049"),
    "the caption says that it is frozen",
  );
  await wait(() => arcPath() !== through, "another path");
  const across = arcPath().replace("M", "").split("L").map(parseFloat);
  const steps = across.slice(1).map((x, index) => x - across[index]!);
  expect(
    Math.min(...steps),
    "frozen, she walks across the picture; through the cut it is a knot",
  ).toBeGreaterThan(-0.5);
  keys("i");
  await wait(() => arcPath() === through, "the path through the cut again");
  const start = revision();
  keys("l");
  await saved(start + 1);
  await dragPicture(60, 0);
  await saved(start + 2);
  expect(arcPath()).not.toBe(through);
});

test("stepping changes what is held", async () => {
  await chooseJoint("head");
  await stage("step");
  const start = revision();
  await press(button("threes"));
  await saved(start + 1);
  expect(marks()).toBe(32);
  letGo();
  keys("ArrowRight");
  expect(frameNow()).toBe(1004);
  await press(button("ones"));
  await saved(start + 2);
  expect(marks()).toBe(96);
  expect(text(".card .body")).toContain("nothing is held");
  await press(button("twos"));
  await saved(start + 3);
  await typed(await find(".card input"), "ArrowUp");
  await saved(start + 4);
  letGo();
  keys("Home", "ArrowRight");
  expect(frameNow(), "the grid moved by a frame").toBe(1002);
});

test("a part and a prop get exposures of their own", async () => {
  await stage("step");
  await goTo(1042);
  const start = revision();
  const held = await picture();
  await typed(
    await find("[aria-label='A part with exposures of its own']"),
    "scarf_1",
    "ArrowDown",
    "Enter",
  );
  await saved(start + 1);
  expect(text("[data-testid=own-exposures] b")).toBe("scarf_1");
  expect(
    await differs(held),
    "a scarf that moves on while she is held",
  ).toBeGreaterThan(0.001);
  const withScarf = await picture();
  const lantern = (await find(
    "[aria-label='Exposures of Lantern pole']",
  )) as HTMLSelectElement;
  await user.selectOptions(lantern, "on ones");
  await saved(start + 2);
  expect(await differs(withScarf), "and a lantern").toBeGreaterThan(0.001);
  await press(find("[aria-label='scarf_1 with the body again']"));
  await saved(start + 3);
  expect(has("[data-testid=own-exposures]")).toBe(false);
  await load(location.pathname);
  await stage("step");
  const anew = (await find(
    "[aria-label='Exposures of Lantern pole']",
  )) as HTMLSelectElement;
  expect(anew.selectedOptions[0]!.text).toBe("on ones");
});

test("riding takes the strobing away and shows its price", async () => {
  await chooseJoint("head");
  await stage("step");
  expect(slip()).toBeGreaterThan(5);
  expect(Number(text("[data-testid=reversals]"))).toBeGreaterThan(30);
  await goTo(1041);
  const atPose = await jointPlace();
  keys("ArrowDown");
  const [x, y] = await jointPlace();
  expect(Math.hypot(x - atPose[0], y - atPose[1])).toBeGreaterThan(3);
  const start = revision();
  const before = await picture();
  keys("y");
  await saved(start + 1);
  expectNear(await jointPlace(), atPose, 0.05);
  await wait(() => slip() === 0, "what strobes, judged anew");
  expect(text("[data-testid=reversals]")).toBe("0");
  expect(
    text("[data-testid=feet-slide]"),
    "feet stay where they stand",
  ).toMatch(/^0 mm/);
  expect(
    parseFloat(text("[data-testid=legs-stretch]")),
    "and legs hardly grow",
  ).toBeLessThan(1);
  const planted = await picture();
  await press(exactly("Feet stay where they stand", "label"));
  await saved(start + 2);
  await wait(
    () => parseInt(text("[data-testid=feet-slide]")) > 5,
    "the price, in millimetres",
  );
  expect(
    await differs(planted),
    "the legs are seen to go along",
  ).toBeGreaterThan(0.005);
  hold("Control", "z");
  await saved(start + 3);
  expect(await differs(before), "and the Picture shows it").toBeGreaterThan(
    0.005,
  );
  await press(find("[aria-label='Ride the camera']"));
  await saved(start + 4);
  expect(await differs(before)).toBeLessThan(1e-5);
});

test("Ride is eased in where it strobes and its weight is keyed", async () => {
  await stage("step");
  await goTo(1041);
  const start = revision();
  keys("y");
  await saved(start + 1);
  await press(button("Only where it strobes"));
  await saved(start + 2);
  await wait(
    () => text("[data-testid=ride-keys]").includes("1095: 100 %"),
    "its keys",
  );
  await wait(() => slip() === 0, "nothing slips");
  await typeNumber("weight on 1041", "0");
  await saved(start + 3);
  await wait(() => slip() > 0.1, "what slips with less of it");
  await press(button("Take this key away"));
  await saved(start + 4);
  await wait(() => slip() === 0, "nothing again");
  await press(button("Throughout"));
  await saved(start + 5);
  await wait(() => !has("[data-testid=ride-keys]"), "no keys");
});

test("exposures are drawn by hand in the Sheet", async () => {
  await stage("step");
  const start = revision();
  const rows = await byId("sheet-rows");
  const column = 110;
  const exposures = () => text("[data-testid=exposure-list]");
  drag(rows, [
    [column, 130],
    [column, 137],
    [column, 143],
  ]); // prettier-ignore -- where the pose of 1011 begins
  await saved(start + 1);
  expect(exposures()).toContain("1 on ones, 46 on twos, 1 on threes");
  doubleClick(rows, [column, rowOf(1020)]);
  await saved(start + 2);
  expect(exposures()).toContain("3 on ones, 45 on twos, 1 on threes");
  letGo();
  keys("Home", ...Array<string>(9).fill("ArrowDown"), "P"); // in the middle of the hold that is three long
  await saved(start + 3);
  expect(exposures(), "a pose of its own on 1010").toContain(
    "4 on ones, 46 on twos",
  );
  await undo(3);
  expect(has("[data-testid=exposure-list]")).toBe(false);
  await press(all("[aria-label^='Hold poses from'] button")[3]!);
  await saved(start + 7);
  expect(exposures()).toContain("on fours");
});

test("the shot is taken out", async () => {
  await stage("hand over");
  await wait(
    () => text("[data-testid=export-notes]").includes("film back"),
    "what the format cannot carry",
  );
  const taken = async (name: string) =>
    Buffer.from(
      await (
        await ask((await button(name)).getAttribute("href")!)
      ).arrayBuffer(),
    );
  const shot = await taken("Shot as .glb");
  const described = JSON.parse(
    shot.subarray(20, 20 + shot.readUInt32LE(12)).toString(),
  ) as { cameras: { name: string }[]; nodes: { name: string }[] };
  expect(described.cameras[0]!.name).toBe("Bank rail 35");
  expect(described.nodes.map(({ name }) => name)).toContain("lantern");
  const slips = (await taken("Slip as CSV")).toString().trim().split("\n");
  expect(slips.length).toBe(97);
});

test.each(["Ride", "Ride along the picture", "Ride, all key poses"])(
  "what would be best is tried, shown and taken: %s",
  async (way) => {
    await stage("step");
    const start = revision();
    const [slips, lost] = [slip(), text("[data-testid=keys-lost]")];
    await press(button("What would be best"));
    const ways = await wait(
      () => all("[data-testid=trying] section"),
      "the ways",
    );
    expect(ways.length).toBe(6);
    expect(said(ways[0])).toMatch(/^Ride, all key poses\s*best/);
    expect(revision(), "nothing is stored by trying").toBe(start);
    const shown = () => now("[data-testid=picture] canvas").dataset.drawn;
    const first = shown();
    await wait(() => shown() !== first, "that they play");
    await press(
      find(`[data-testid=trying] section[aria-label='${way}'] button`),
    );
    await saved(start + 1);
    expect(has("[data-testid=trying]")).toBe(false);
    if (way.startsWith("Ride")) {
      await wait(() => slip() < 0.1 * slips, "held poses stand still");
      expect(text("[data-testid=reversals]")).toBe("0");
      if (way === "Ride")
        expect(text("[data-testid=feet-slide]")).toContain("0 mm");
      await wait(
        () =>
          !all(".readings .what").some((r) => said(r).startsWith("strobes")),
        "no more in the list",
      );
      expect(text("[data-testid=feet-slide]")).toContain("0 mm");
    }
    if (way.includes("key pose"))
      await wait(
        () => text("[data-testid=keys-lost]") === "none",
        `no lost key pose instead of ${lost}`,
      );
  },
);
