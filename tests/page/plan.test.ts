/** The Plan by keys and by hand. */
import {
  ANOTHER,
  all,
  differs,
  find,
  goTo,
  hold,
  keys,
  letGo,
  now,
  picture,
  pull,
  revision,
  saved,
  takenAway,
  typed,
  undo,
  wait,
} from "./app";

const rail = () => now("[data-testid=plan-rail]").getAttribute("d");
const handle = (name: string) =>
  find(`.plan-drawing [data-testid='handle ${name}']`);

/** Look through the first camera of the Bench and let it go. */
async function unlocked(): Promise<number> {
  const start = revision();
  keys("1", "l");
  await saved(start + 1);
  return start + 1;
}

test("handles on the Plan are moved and removed by keys", async () => {
  const start = await unlocked();
  const points = () => all("[data-testid^='handle rail']").length;
  await goTo(1060);
  const [before, drawn] = [await picture(), rail()];
  const point = await handle("rail 2");
  expect(point.getAttribute("tabindex")).toBe("0");
  expect(point.getAttribute("aria-label")).toContain("rail point 3: at");
  point.focus();
  hold("Shift", "ArrowUp");
  await saved(start + 1);
  await wait(() => rail() !== drawn, "another rail");
  expect(await differs(before), "the camera goes with it").toBeGreaterThan(ANOTHER); // prettier-ignore
  await typed(await handle("rail 2"), "PageUp");
  await saved(start + 2);
  const many = points();
  await typed(await handle("rail 1"), "Delete");
  await saved(start + 3);
  await wait(() => points() === many - 1, "a point fewer");
  letGo();
  await undo(3);
  await wait(() => rail() === drawn, "the rail as it was");
});

test("a handle that the system takes away changes nothing", async () => {
  const start = await unlocked();
  const drawn = rail();
  const point = await handle("rail 2");
  await pull(point, [0, -24], false);
  await wait(() => rail() !== drawn, "the rail in the hand");
  takenAway(point);
  await wait(() => rail() === drawn, "the rail as it was");
  expect(revision()).toBe(start);
});
