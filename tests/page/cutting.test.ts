/** The cut: made by keys, by hands in the Sheet, and from the list of shots. */
import {
  ANOTHER,
  all,
  ask,
  button,
  byId,
  caption,
  differs,
  drag,
  field,
  find,
  frameNow,
  goTo,
  has,
  hold,
  keys,
  letGo,
  notice,
  now,
  picture,
  press,
  revision,
  rowOf,
  said,
  saved,
  stage,
  typeNumber,
  typed,
  wait,
} from "./app";
import { apart } from "./drawn";

const CUT_X = 64;

async function cut(frame: number, key: string): Promise<void> {
  const start = revision();
  await goTo(frame);
  keys(key, "c");
  await saved(start + 1);
}

type Shot = [name: string, camera: string, first: number, last: number];

/** Every shot, as the server has it. */
async function shots(): Promise<Shot[]> {
  const answer = await ask(
    `/api/scenes/${location.pathname.split("/")[2]}/cut`,
  );
  const { shots } = (await answer.json()) as {
    shots: { name: string; camera: string; first: number; last: number }[];
  };
  return shots.map(({ name, camera, first, last }) => [
    name,
    camera,
    first,
    last,
  ]);
}
const spans = async () =>
  (await shots()).map(([, , first, last]) => [first, last]);

async function dragInCut(
  frame: number,
  by: number,
  inside = 0,
  held = {},
): Promise<void> {
  const y = rowOf(frame) - 6 + inside;
  drag(await byId("sheet-rows"), [[CUT_X, y], [CUT_X, y + 6.5 * by], [CUT_X, y + 13 * by]], held); // prettier-ignore
}

test("a cut is made by two keys and seen on the very frame", async () => {
  await goTo(1048);
  const bank = await picture();
  await cut(1048, "2");
  expect(caption()).toMatch(/^CUT · 020 · Face Oda 85/);
  const face = await picture();
  expect(apart(face, bank)).toBeGreaterThan(ANOTHER);
  keys("ArrowUp");
  await wait(
    () => caption().startsWith("CUT · 010 · Bank rail 35"),
    "the frame before is the other camera's",
  );
  keys("ArrowDown");
  expect(await differs(face)).toBe(0);
  keys("c");
  await wait(
    () => notice().includes("shows Face Oda 85 on 1048 already"),
    "that it is so already",
  );
  hold("Alt", "c");
  await wait(
    () => caption().startsWith("CUT · Bank rail 35"),
    "one shot again",
  );
  hold("Control", "z");
  await wait(
    () => caption().startsWith("CUT · 020 · Face Oda 85"),
    "taken back",
  );
  expect((await shots()).map((shot) => shot.slice(1))).toEqual([
    ["Bank rail 35", 1001, 1047],
    ["Face Oda 85", 1048, 1096],
  ]);
});

test("edges are rolled and shots slid in the Sheet", async () => {
  await cut(1030, "2");
  await cut(1050, "3");
  const start = revision();
  await goTo(1050);
  await dragInCut(1050, 4);
  await saved(start + 1);
  expect(await spans()).toEqual([[1001, 1029], [1030, 1053], [1054, 1096]]); // prettier-ignore
  expect(frameNow(), "one sees the first picture of what begins there").toBe(
    1054,
  );
  await goTo(1040);
  await dragInCut(1040, -3, 6, { shiftKey: true });
  await saved(start + 2);
  expect(await spans(), "as long as it was").toEqual([[1001, 1026], [1027, 1050], [1051, 1096]]); // prettier-ignore
  await goTo(1051);
  await dragInCut(1051, 0);
  expect(revision(), "a click moves nothing").toBe(start + 2);
  hold("Alt", "ArrowLeft");
  await wait(() => frameNow() === 1027, "the shot before");
  for (const frame of [1051, 1001, 1027]) {
    hold("Alt", "ArrowRight");
    await wait(
      () => frameNow() === frame,
      `the next shot, round at the end: ${frame}`,
    );
  }
});

test("shots are named, moved, locked and joined in their list", async () => {
  await cut(1040, "2");
  const start = revision();
  await stage("time");
  const rows = () => all(".shot-row").map(said);
  await wait(() => rows().length === 2, "two shots");
  expect(rows()[0]).toContain("Bank rail 35");
  expect(rows()[1]).toContain("Face Oda 85");
  expect(rows()[1]).toContain("57 f");
  expect(rows()[1]).toContain("2.38 s");
  await typed(await field("name"), "lantern", "Enter");
  await saved(start + 1);
  await wait(
    () => caption().startsWith("CUT · lantern · Face"),
    "its name over the Picture",
  );
  await typeNumber("from", "1044");
  await saved(start + 2);
  expect((await shots()).map(([name, , first]) => [name, first])).toEqual([["010", 1001], ["lantern", 1044]]); // prettier-ignore
  await wait(() => frameNow() === 1044, "it stays with the shot");
  expect(has(".notice.warning"), "set once, not twice").toBe(false);
  await press(button("Lock the shot"));
  await saved(start + 3);
  await wait(
    () => now("[aria-label='Camera of the shot']").hasAttribute("disabled"),
    "its camera stays",
  );
  await goTo(1060);
  keys("3", "c");
  await wait(() => notice().includes("Shot lantern is locked"), "why not");
  keys("0");
  await press(button("Unlock the shot"));
  await saved(start + 4);
  await typed(
    await find("[aria-label='Note on the shot']"),
    "hold on her eyes",
  );
  letGo();
  await saved(start + 5);
  await press(button("Join it to the shot before"));
  await saved(start + 6);
  await wait(
    () => rows().length === 1 && rows()[0]!.includes("Bank rail 35"),
    "one again",
  );
});
