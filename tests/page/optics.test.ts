/** Lenses, delivery frames, and moves that the optics ask for. */
import {
  SAME,
  all,
  button,
  caption,
  choose,
  differs,
  exactly,
  expectNear,
  find,
  goTo,
  hold,
  keys,
  number,
  picture,
  press,
  question,
  revision,
  said,
  saved,
  text,
  typeNumber,
  wait,
  wheel,
} from "./app";

async function roamTo(placement: string, further = 0): Promise<void> {
  keys("r");
  hold("Alt", placement);
  if (further) await wheel(further);
  await picture();
}

/** Put the camera that is worked on where Roam looks from, and key it. */
async function keyHere(frame: number): Promise<void> {
  const start = revision();
  await goTo(frame);
  keys("p");
  await saved(start + 1);
  keys("k");
  await saved(start + 2);
}

async function newCameraKeyed(): Promise<void> {
  const start = revision();
  keys("n");
  await saved(start + 1);
  await wait(() => caption().startsWith("CAMERA"), "the new camera");
  keys("k");
  await saved(start + 2);
}

/** Take the fix that a reading offers. */
async function fix(kind: string): Promise<void> {
  const row = await wait(
    () => all("[aria-label=Readings] li").find((li) => said(li).includes(kind)),
    kind,
  );
  await press(row.querySelectorAll("button")[1]!);
}
const listed = (kind: string) => text("[aria-label=Readings]").includes(kind);

test("focal length, field of view and planes", async () => {
  const start = revision();
  keys("6");
  await question("What does the lens do?");
  await press(
    exactly("85", "button", await find("[aria-label='Focal lengths']")),
  );
  await saved(start + 1);
  expect(caption()).toContain("85 mm");
  expectNear(
    await number("view across"),
    (2 * Math.atan(18 / 85) * 180) / Math.PI,
    0.01,
  );
  await typeNumber("view across", "60");
  await saved(start + 2);
  expect(caption()).toContain("31 mm");
  const before = await picture();
  await typeNumber("far plane (0: none)", "4");
  await saved(start + 3);
  expect(await differs(before), "what is far is cut off").toBeGreaterThan(
    0.001,
  );
  await wait(
    () => listed("far plane cuts off"),
    "what the far plane does, judged",
  );
});

test("a straight chord becomes an orbit", async () => {
  const start = revision();
  await roamTo("2");
  await newCameraKeyed();
  await roamTo("3");
  await keyHere(1030);
  await wait(() => listed("straight chord"), "the reading");
  await goTo(1001);
  const first = await picture();
  await fix("straight chord");
  await saved(start + 5);
  await wait(() => !listed("straight chord"), "no chord any more");
  expect(caption(), "it goes round by keys of its own").not.toContain("orbit");
  expect(await differs(first), "the end pictures stay").toBeLessThan(SAME);
});

test("an aim that bobs is given a calmer joint", async () => {
  const start = revision();
  keys("6");
  await question("What does it look at?");
  await choose("Subject 1", "Oda foot_l");
  await saved(start + 1);
  await wait(() => listed("aim bobs"), "the reading");
  await fix("aim bobs");
  await saved(start + 2);
  await wait(() => !listed("aim bobs"), "no bobbing any more");
});

test("a dolly zoom holds the size", async () => {
  const start = revision();
  /** Of the subject, px, as the curve of the Card tells it at this frame. */
  const size = () => Number(/(\d+) px/.exec(all("h4").map(said).find((h) => /size/i.test(h) && / px/.test(h))!)![1]); // prettier-ignore
  await roamTo("1", 500);
  await newCameraKeyed();
  await roamTo("1");
  await keyHere(1040);
  await question("Dolly zoom");
  await goTo(1001);
  const held = size();
  await typeNumber("to frame", "1040");
  await press(button("Solve the zoom"));
  await saved(start + 5);
  for (const frame of [1020, 1040]) {
    await goTo(frame);
    expectNear(size(), held, 1);
  }
  await goTo(1001);
  const wide = caption();
  await goTo(1040);
  expect(caption(), "while the focal length changes").not.toBe(wide);
});
