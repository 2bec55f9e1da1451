/** Looking at the motion: arcs side by side, the subject's part apart from the camera's, frames flipped, spacing. */
import {
  SAME,
  all,
  button,
  caption,
  chooseJoint,
  differs,
  dragPicture,
  exactly,
  field,
  find,
  frameNow,
  goTo,
  has,
  keys,
  load,
  now,
  pick,
  picture,
  press,
  pull,
  revision,
  said,
  saved,
  stage,
  text,
  undo,
  wait,
} from "./app";
import { apart } from "./drawn";

const choice = async (group: string, name: string) =>
  press(exactly(name, `[aria-label='${group}'] label`));
const others = () => all("[data-testid=arc-also]");

test("arcs stay beside each other and fade around the playhead", async () => {
  await chooseJoint("hand_r");
  keys("A");
  await chooseJoint("lantern");
  keys("A");
  await chooseJoint("head");
  await wait(() => others().length === 2, "two arcs that stayed");
  expect(others().map((e) => e.getAttribute("aria-label"))).toEqual([
    "hand_r",
    "lantern",
  ]);
  await wait(
    () => all("[data-testid=arc] > rect").length === 48,
    "a mark on every exposure",
  );
  await choice("Frames of the arc around the playhead", "± 6");
  await goTo(1048);
  const around = await wait(
    () => all("[data-testid=arc-line] > path"),
    "the frames around",
  );
  expect(around.length).toBe(12);
  const strengths = around.map((e) =>
    Number(e.getAttribute("stroke-opacity") ?? 1),
  );
  expect(strengths[5]).toBeGreaterThan(0.8);
  expect(strengths[0]).toBeLessThan(0.4);
  await load(location.pathname);
  await wait(() => others().length === 2, "the same after a reload");
  await stage("judge");
  await press(find("[aria-label='Let the arc of Oda hand_r go']"));
  await wait(() => others().length === 1, "one fewer");
});

test("the subject and the camera play apart", async () => {
  const camera = ["lens", "place"];
  await goTo(1020);
  keys("I");
  await wait(
    () => caption().includes("camera still on 1020"),
    "what the caption says of it",
  );
  const here = await picture();
  await goTo(1024);
  const still = await picture();
  expect(apart(still, here, camera), "the ground stands still").toBe(0);
  expect(apart(still, here), "she walks on").toBeGreaterThan(0.01);
  keys("I");
  await wait(
    () => caption().includes("camera alone on 1024"),
    "what the caption says of it",
  );
  await goTo(1020);
  const alone = await picture();
  expect(apart(alone, here, camera), "the camera as on 1020").toBeLessThan(
    SAME,
  );
  keys("I");
  await wait(() => !caption().includes("alone"), "both together again");
  expect(await differs(alone), "she stood as on 1024").toBeGreaterThan(0.01);
});

test("two frames are flipped by a key", async () => {
  await goTo(1020);
  keys("F");
  await goTo(1048);
  keys("F");
  expect(frameNow()).toBe(1020);
  keys("F");
  expect(frameNow()).toBe(1048);
  await goTo(1030);
  keys("F");
  expect(frameNow(), "from wherever one is, to the one of before").toBe(1020);
  keys("F");
  expect(frameNow()).toBe(1030);
});

test("the spacing between two poses is charted", async () => {
  const off = () => parseFloat(text("[data-testid=spacing-off]"));
  await chooseJoint("hand_r");
  await goTo(1030);
  const ticks = (await wait(() => all(".spacing-chart .is"), "a chart")).length;
  expect(all(".spacing-chart .meant").length).toBe(ticks);
  const best = off();
  await press(field("Meant to be"));
  const options = (await wait(() => all("[role=option]"), "what it can be meant to be")).map(said).filter((o) => o.includes("off by")); // prettier-ignore
  const offs = options.map((option) => parseFloat(option.split("off by ")[1]!));
  expect(Math.min(...offs)).toBe(best);
  await pick(options[offs.indexOf(Math.max(...offs))]!);
  await wait(() => off() === Math.max(...offs), "off by more");
  await press(find(".reading-link"));
  expect(frameNow()).toBeGreaterThanOrEqual(1001);
  expect(frameNow()).toBeLessThanOrEqual(1096);
});

test("a hand is seen from the head", async () => {
  const line = () => now("[data-testid=arc-line]").getAttribute("d")!;
  const widest = (drawn: string) => {
    const x = drawn.split(/[ML]/).filter(Boolean).map(parseFloat);
    return Math.max(...x) - Math.min(...x);
  };
  await chooseJoint("head");
  keys("A");
  await chooseJoint("hand_r");
  await goTo(1030);
  const far = line();
  await press(field("As seen from"));
  await pick("head");
  await wait(() => line() !== far, "seen from the head");
  const near = line();
  expect(widest(near), "the way of the body is taken out").toBeLessThan(
    0.7 * widest(far),
  );
  await goTo(1060);
  expect(line(), "it goes along with the head").not.toBe(near);
});

test("onion skins show as many poses as asked for", async () => {
  await stage("judge");
  await goTo(1048);
  const skins = async () => {
    const [now, figures] = [await picture(), [] as string[]];
    for (const name of now.keys()) if (!plain.has(name)) figures.push(name);
    return figures.length;
  };
  const plain = await picture();
  keys("o");
  await wait(async () => (await skins()) > 0, "a skin before and after");
  const one = await skins();
  await choice("How many before and after", "4");
  await wait(async () => (await skins()) === 4 * one, "four times as many");
  const four = await picture();
  await choice("Onion skin of", "key poses");
  await wait(async () => (await differs(four)) > SAME, "those of key poses");
});

test("what slips is seen twice", async () => {
  await goTo(1080);
  const held = await picture();
  keys("Y");
  await wait(
    async () => (await differs(held)) > SAME,
    "where the pose stood when it was new",
  );
  await goTo(1079);
  keys("Y");
  const fresh = await picture();
  keys("Y");
  expect(await differs(fresh), "a new pose has no other place").toBe(0);
});

test("spacing is drawn by hand and given to the motion", async () => {
  const off = () => parseFloat(text("[data-testid=spacing-off]"));
  await chooseJoint("hand_l");
  await goTo(1055);
  const start = revision();
  const holds = await wait(
    () => all(".spacing-chart .hold"),
    "ticks to take hold of",
  );
  await pull(holds[0]!, [16, 0]);
  await wait(
    () => text(".spacing-chart").includes("as drawn"),
    "what was drawn",
  );
  await wait(() => off() > 1, "how far off");
  const drawn = off();
  await press(button("Space it so"));
  await saved(start + 1);
  await wait(() => off() < 0.2, "as it was meant");
  await undo(1);
  await wait(() => Math.abs(off() - drawn) < 0.2, "as it was");
});

test("an arc is seen in the world from Roam and on the Plan", async () => {
  const inRoam = () =>
    document.querySelector("[data-testid=roam-arc] path")?.getAttribute("d");
  await chooseJoint("hand_r");
  await goTo(1050);
  const flat = await find("[data-testid=plan-arc] path");
  await wait(
    () => flat.getAttribute("d")!.match(/L/g)!.length === 95,
    "the arc on the Plan",
  );
  keys("r");
  await wait(
    () => all("[data-testid=roam-arc] rect").length === 48,
    "the arc in Roam, with its marks",
  );
  const before = inRoam();
  await dragPicture(90, 0);
  await wait(() => inRoam() !== before, "the same arc from elsewhere");
  keys("r");
  await chooseJoint("lantern");
  keys("r");
  await wait(inRoam, "that of what she holds");
  keys("a");
  await wait(
    () => !has("[data-testid=roam-arc], [data-testid=plan-arc]"),
    "none where arcs are off",
  );
});
