/** The keys of a camera in the Sheet: many at once, by groups, set by moving the camera, and what is typed of them. */
import {
  ANOTHER,
  SAME,
  all,
  button,
  byId,
  caption,
  differs,
  drag,
  exactly,
  field,
  find,
  frameNow,
  goTo,
  has,
  hold,
  keys,
  letGo,
  notice,
  number,
  picture,
  press,
  revision,
  rowOf,
  said,
  saved,
  stage,
  text,
  typeNumber,
  undo,
  wait,
} from "./app";

const ZOOM_KEY = "6";
/** Middle of the column of all keys, px from the left of the Sheet. */
const ALL_KEYS_X = 146;

const head = (title: string) =>
  wait(() => all(".heads .of-group").find((h) => said(h) === title), title);
const width = async (title: string) =>
  parseFloat((await head(title)).style.width);
const middle = async (title: string) =>
  parseFloat((await head(title)).style.left) + (await width(title)) / 2;
const chosen = () => all(".keys h3").map(said).find((h) => h.includes("ey")) ?? ""; // prettier-ignore

async function dragKeys(
  from: [x: number, frame: number],
  to: [x: number, frame: number],
  held = {},
): Promise<void> {
  const at = ([x, frame]: [number, number]): [number, number] => [
    x,
    rowOf(frame),
  ];
  const [start, end] = [at(from), at(to)];
  drag(
    await byId("sheet-rows"),
    [start, [(start[0] + end[0]) / 2, (start[1] + end[1]) / 2], end],
    held,
  );
}

beforeEach(async () => {
  await stage("time");
  keys(ZOOM_KEY);
});

test("a box of one group is moved and taken back", async () => {
  keys("K");
  await goTo(1060);
  // Beside the camera's groups stand the key poses of both; folded, they leave the groups more room.
  const wide = await width("lens");
  for (const name of ["Oda", "Quill"]) await press(head(name));
  await wait(
    async () => (await width("lens")) > 1.2 * wide,
    "room for the lens",
  );
  const lens = await middle("lens");
  await dragKeys([lens - 16, 1070.6], [lens + 16, 1074.6]);
  await wait(
    () => chosen() === "4 keys of lens, 1071 to 1074",
    "four keys of the lens",
  );
  const [start, before] = [revision(), await picture()];
  await dragKeys([lens, 1072], [lens, 1078]);
  await saved(start + 1);
  expect(chosen(), "they stay chosen where they are").toBe(
    "4 keys of lens, 1077 to 1080",
  );
  await goTo(1060);
  expect(
    await differs(before),
    "what lies before them runs as before",
  ).toBeLessThan(1e-6);
});

test("all keys are stretched, run backwards and copied", async () => {
  await goTo(1046);
  const [begins, lens] = [await picture(), text(".caption .facts")];
  hold("Control", "a");
  await wait(() => chosen() === "29 keys, 1046 to 1074", "all of them");
  const start = revision();
  await press(button("Backwards"));
  await saved(start + 1);
  expect(await differs(begins), "it begins as it ended").toBeGreaterThan(
    ANOTHER,
  );
  expect(text(".caption .facts")).not.toBe(lens);
  await goTo(1074);
  await wait(() => text(".caption .facts") === lens, "and ends as it began");
  await goTo(1046);
  await dragKeys([ALL_KEYS_X, 1074], [ALL_KEYS_X, 1060], { altKey: true });
  await saved(start + 2);
  hold("Control", "c");
  await goTo(1070);
  hold("Control", "v");
  await saved(start + 3);
  expect(chosen(), "the copy is chosen").toMatch(/^29 keys, 1070 to 10/);
});

test("moving a camera while recording sets keys and says so", async () => {
  await goTo(1080);
  hold("Alt", "k");
  await wait(
    () => has(".caption.recording") && has(".sheet .heads.recording"),
    "hatched in both places",
  );
  const start = revision();
  keys(".");
  await saved(start + 1);
  expect(caption()).not.toContain("moved, not keyed");
  await wait(
    () => notice().includes("you are recording"),
    "the first key says so",
  );
  hold("Shift", "PageUp");
  await wait(() => frameNow() === 1074, "the key before");
  hold("Shift", "PageDown");
  await wait(() => frameNow() === 1080, "the key that was recorded");
  await press(find(".caption.recording .toggle"));
  await wait(() => !has(".caption.recording"), "recording has ended");
  letGo();
  keys(",");
  await saved(start + 2);
  expect(caption(), "standing on a key, that key changes").not.toContain(
    "moved, not keyed",
  );
  await goTo(1085);
  keys(".");
  await saved(start + 3);
  await wait(
    () => caption().includes("moved, not keyed"),
    "elsewhere it waits for K or B",
  );
});

test("a key's value and how steep its curve is are typed", async () => {
  await goTo(1046);
  const [start, before] = [revision(), await picture()];
  await typeNumber("x, ease", "1.2");
  await saved(start + 1);
  expect((await field("x, ease")).value).toBe("1.2 m");
  expect(await differs(before), "the camera stands elsewhere").toBeGreaterThan(
    ANOTHER,
  );
  hold("Control", "a");
  await press(exactly("curve", ".keys .shapes button"));
  await saved(start + 2);
  await goTo(1052);
  const between = await picture();
  await goTo(1046);
  await typeNumber("leaves by", "0.2");
  await saved(start + 3);
  expect(await number("leaves by")).toBe(0.2);
  await goTo(1052);
  expect(await differs(between), "it leaves faster").toBeGreaterThan(0.01);
});

test("the time of a camera and of the scene is bent", async () => {
  await goTo(1064);
  const earlier = await picture();
  await goTo(1062);
  const [start, lasts] = [revision(), text(".scene-time small")];
  const freeze = async (whose: string) =>
    press(
      exactly(
        "freeze",
        "button",
        await find(`[aria-label="Time of ${whose} from 1062 to 1074"]`),
      ),
    );
  await freeze("Dolly zoom Oda");
  await saved(start + 1);
  await goTo(1076);
  await wait(() => text(".key-list").includes("1080"), "its keys come later");
  expect(await differs(earlier), "while all else ran on").toBeGreaterThan(
    ANOTHER,
  );
  await undo(1);
  await goTo(1062);
  await freeze("the scene");
  await saved(start + 3);
  await wait(() => text(".scene-time small") !== lasts, "it lasts longer");
  expect(text(".scene-time small")).toBe(`${parseInt(lasts) + 12} frames`);
  await goTo(1076);
  expect(
    await differs(earlier),
    "everything stood still for twelve frames",
  ).toBeLessThan(SAME);
});
