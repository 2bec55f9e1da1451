/** What the Sheet, the Bench and the messages tell. */
import {
  byId,
  chooseJoint,
  find,
  goTo,
  hold,
  keys,
  notice,
  press,
  revision,
  saved,
} from "./app";

test("a row of the Sheet is told in words", async () => {
  await chooseJoint("lantern");
  await goTo(1043);
  const rows = await byId("sheet-rows");
  const words = () => rows.getAttribute("aria-valuetext")!;
  expect(rows.getAttribute("role")).toBe("slider");
  expect(rows.getAttribute("aria-valuenow")).toBe("1043");
  for (const part of [
    "frame 1043",
    "cut: Bank rail 35",
    "Oda: new pose",
    "lantern moves 10.3 px",
    "off the arc 11.0 px",
  ])
    expect(words()).toContain(part);
  await goTo(1024);
  expect(words()).toContain("Oda: holds the pose of 1023; key of Bank rail 35");
});

test("what was done to keys and cameras is told", async () => {
  const start = revision();
  keys("1", "l");
  await saved(start + 1);
  await goTo(1024);
  hold("Alt", "ArrowDown");
  await saved(start + 2);
  expect(notice()).toBe("Key of Bank rail 35 moved from 1024 to 1025.");
  keys("Delete");
  await saved(start + 3);
  expect(notice()).toContain("Key of Bank rail 35 at 1025 deleted");
  keys("6");
  await press(find("[aria-label='Delete the camera']"));
  await saved(start + 4);
  expect(notice()).toContain("is deleted");
});
