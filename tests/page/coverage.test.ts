/** Other cuts, both sides of a cut, and the scene's own time. */
import {
  ANOTHER,
  SAME,
  all,
  button,
  byId,
  differs,
  field,
  find,
  goTo,
  has,
  hold,
  keys,
  letGo,
  notice,
  pick,
  picture,
  press,
  revision,
  said,
  saved,
  slide,
  slideEnd,
  stage,
  text,
  typed,
  undo,
  wait,
} from "./app";

async function cutAt(frame: number, camera: string): Promise<void> {
  const start = revision();
  keys(camera);
  await goTo(frame);
  keys("c");
  await saved(start + 1);
}

test("both sides of a cut are seen and the incoming move is slid", async () => {
  await cutAt(1050, "6");
  const start = revision();
  hold("Alt", "h");
  await byId("matching");
  await wait(
    () => text(".matching table").includes("background"),
    "its figures",
  );
  const captions = all(".matching figcaption").map((c) =>
    said(c).replace(/\s+/g, " "),
  );
  expect(captions).toEqual([
    "1049 010 · Bank rail 35",
    "1050 020 · Dolly zoom Oda",
  ]);
  const speed = () => {
    const row = all(".matching tbody tr").find((r) =>
      said(r).startsWith("background"),
    )!;
    return said(row.querySelectorAll("td")[2]);
  };
  const before = speed();
  const slider = (await find(
    ".matching input[type=range]",
  )) as HTMLInputElement;
  slide(slider, Number(slider.value) - 10);
  await wait(() => speed() !== before, "the figure follows the hand");
  slideEnd(slider);
  await saved(start + 1);
  hold("Control", "z");
  await wait(() => speed() === before, "undone");
  await press(
    all(".matching label").find((label) =>
      said(label).includes("over each other"),
    )!,
  );
  await find(".matching .over .way");
  letGo();
  keys("Escape");
  await wait(() => !has("[data-testid=matching]"), "closed");
});

test("a change of rate is listed before it is made and undone", async () => {
  const start = revision();
  await goTo(1071);
  const seen = await picture();
  await stage("time");
  await press(field("frames a second"));
  await pick("12");
  await wait(
    () => text("[data-testid=rate-change]").includes("1001 to 1048"),
    "where it would end",
  );
  expect(text("[data-testid=rate-change]")).toContain(
    "Quill shows a new pose on every frame",
  );
  expect(revision(), "nothing is changed yet").toBe(start);
  await press(button("Change the rate"));
  await saved(start + 1);
  await goTo(1036);
  expect(said(all(".caption .mono")[1]), "the same time, counted at 12").toBe(
    "00:00:02:11",
  );
  expect(await differs(seen), "and what was seen at that time").toBeLessThan(
    ANOTHER,
  );
  await undo(1);
  await goTo(1071);
  expect(await differs(seen), "undone").toBeLessThan(SAME);
});

test("time code begins where it is wanted", async () => {
  const start = revision();
  await stage("time");
  await typed(await field("time code"), "Control", "a", "01:00:00:00", "Enter");
  await saved(start + 1);
  await goTo(1026);
  expect(said(all(".caption .mono")[1])).toBe("01:00:01:01");
  await typed(await field("time code"), "Control", "a", "01:00:00;00", "Enter");
  await wait(
    () => notice().includes("no drop-frame time code at 24"),
    "why not",
  );
});
