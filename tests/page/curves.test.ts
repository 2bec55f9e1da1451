/** The curves of a camera's keys in the Sheet: seen, dragged, and the speed of the camera beside them. */
import type { ChannelsPart } from "@/api/generated";
import { session } from "@/state/session";
import {
  ANOTHER,
  SAME,
  byId,
  differs,
  doubleClick,
  drag,
  find,
  goTo,
  has,
  keys,
  letGo,
  notice,
  now,
  picture,
  revision,
  rowOf,
  saved,
  text,
  undo,
  user,
  wait,
} from "./app";

const CRANE_KEY = "5";
const [FIRST_KEYED, LAST_KEYED] = [1066, 1096];
/** Of the column of curves, px from the left edge of the Sheet. */
const [LEFT, WIDTH] = [176, 142];
/** Fitted with six hundredths of the range on both sides. */
const [LOW, HIGH] = [0.06 / 1.12, 1.06 / 1.12];

/** What the head of the curve says of the playhead's frame. */
const atPlayhead = () => text(".curve-head .mono");
const place = (frame: number, share: number): [number, number] => [
  LEFT + WIDTH * share,
  rowOf(frame),
];

async function dragKey(
  [x, y]: [number, number],
  dx: number,
  dy: number,
): Promise<void> {
  drag(await byId("sheet-rows"), [[x, y], [x + dx / 2, y + dy / 2], [x + dx, y + dy]]); // prettier-ignore
}

async function openCurves(camera: string): Promise<HTMLSelectElement> {
  keys(camera, "K", "K");
  return (await find(".curve-head select")) as HTMLSelectElement;
}

test("a key is dragged on its curve in value and time", async () => {
  const curve = await openCurves(CRANE_KEY);
  await goTo(LAST_KEYED);
  expect(curve.value, "the first that changes").toBe("arm_pitch");
  expect(atPlayhead()).toMatch(/^44°/);
  const [start, before] = [revision(), await picture()];
  await dragKey(place(LAST_KEYED, HIGH), -40, 0);
  await saved(start + 1);
  expect(await differs(before), "the crane stands lower").toBeGreaterThan(
    ANOTHER,
  );
  expect(parseFloat(atPlayhead())).toBeGreaterThan(25);
  expect(parseFloat(atPlayhead())).toBeLessThan(40);
  await goTo(LAST_KEYED - 2);
  await dragKey(place(FIRST_KEYED, LOW), 0, 4 * 13);
  await saved(start + 2);
  await goTo(FIRST_KEYED + 4);
  const begins = atPlayhead().split("°")[0];
  await goTo(FIRST_KEYED);
  expect(
    atPlayhead().split("°")[0],
    "it holds until its key, four frames later",
  ).toBe(begins);
  await undo(2);
  await goTo(LAST_KEYED);
  await wait(() => atPlayhead().startsWith("44°"), "taken back");
});

test("a locked camera says so", async () => {
  const curve = await openCurves("1");
  await user.selectOptions(curve, "pan");
  letGo();
  drag(await byId("sheet-rows"), [place(1001, HIGH)]);
  await wait(() => notice().includes("is locked"), "why it stays");
  keys("K");
  await wait(() => !has(".curve-head"), "spacing and slip again");
});

test("the speed of the camera stands against how fast the background may go", async () => {
  await openCurves(CRANE_KEY);
  await goTo((FIRST_KEYED + LAST_KEYED) / 2);
  await find(".curve-head option[value='camera speed']");
  await user.selectOptions(now(".curve-head select"), "camera speed");
  await wait(() => atPlayhead().includes("m/s"), "its speed in figures");
  const [background, speed] = atPlayhead()
    .replace("px", " ")
    .replace("m/s", "")
    .split(/\s+(?=\S+$)/);
  expect(Number(speed), "the crane goes up").toBeGreaterThan(0.5);
  expect(Number(speed)).toBeLessThan(6);
  const [px, limit] = background!.split("/").map(Number);
  expect(px).toBeGreaterThan(1);
  expect(limit, "1920 / (7 x 24), at a shutter of 180 degrees").toBe(11);
  letGo();
  await goTo(FIRST_KEYED - 20);
  await wait(
    () => atPlayhead().endsWith("0.0m/s"),
    "it stands still before its keys",
  );
});

test("handles bend a curve and a double click sets a key that changes nothing", async () => {
  await openCurves(CRANE_KEY);
  const middle = Math.floor((FIRST_KEYED + LAST_KEYED) / 2);
  await goTo(middle);
  const [start, before] = [revision(), await picture()];
  const crane = () => {
    const { scene, parts } = session();
    const { channels } = scene!.cameras.find((c) => c.name.startsWith("Crane"))!; // prettier-ignore
    return (parts.get(channels) as ChannelsPart).keyed.arm_pitch!;
  };
  doubleClick(await byId("sheet-rows"), place(middle, 0.3));
  await saved(start + 1);
  await wait(() => crane().times.length === 3, "a key more");
  expect(await differs(before), "the curve runs as it ran").toBeLessThan(SAME);
  await goTo(FIRST_KEYED);
  drag(await byId("sheet-rows"), [place(FIRST_KEYED, LOW)]);
  await dragKey(place(FIRST_KEYED + (middle - FIRST_KEYED) / 3, LOW), 60, 0);
  await saved(start + 2);
  await goTo(FIRST_KEYED + 6);
  await wait(() => parseFloat(atPlayhead()) > 5, "under way earlier");
});
