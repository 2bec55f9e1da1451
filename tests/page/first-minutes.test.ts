/** What a newcomer meets: the Desk, readings that unfold, prices, and a joint held in the frame. */
import {
  all,
  button,
  chooseJoint,
  comesNear,
  exactly,
  find,
  goTo,
  jointPlace,
  keys,
  load,
  press,
  revision,
  said,
  saved,
  stage,
  text,
  wait,
} from "./app";

test("from a joint's card the camera is turned to it", async () => {
  const start = revision();
  keys("6");
  await goTo(1031);
  await chooseJoint("lantern");
  const held = await jointPlace();
  await press(button("Hold it in the frame"));
  await saved(start + 1);
  await comesNear(jointPlace, held, 1); // where it is seen
  await goTo(1071);
  await comesNear(jointPlace, held, 1); // and there it stays
});

test("readings of one cause unfold under the worst", async () => {
  const rows = () => all(".readings li");
  expect(said(rows()[0])).toMatch(/^strobes/);
  const more = rows()[0]!.querySelector(".more")!;
  expect(said(more)).toContain("more of its held poses");
  await press(more);
  await wait(() => all(".readings li.further"), "the others");
  expect(text(".readings li.further")).toContain("key pose not shown");
  expect(text(".readings li")).toContain("shot 1");
});

test("the price of Ride is in pixels and planted feet pay none", async () => {
  const start = revision();
  const paid = () =>
    parseFloat(text("[data-testid=feet-slide]").split("· ")[1]!);
  await stage("step");
  expect(text(".boxed"), "as it is offered").toContain(
    "feet stay where they stand",
  );
  keys("y");
  await saved(start + 1);
  await press(exactly("Feet stay where they stand", "label"));
  await saved(start + 2);
  await wait(() => paid() > 5, "what it costs without");
  expect(text(".boxed")).toContain("price: feet slide");
  await press(button("What would be best"));
  const best = await find("[data-testid=trying] section");
  expect(said(best)).toMatch(/^(Ride|its feet planted)/);
  await press(best.querySelector("button")!);
  await saved(start + 3);
  await wait(() => paid() < 0.1, "no price any more");
});

test("the Desk says what asks for attention", async () => {
  await load("/");
  const card = () =>
    all("[data-testid=scene-card]").find((c) => /^Crossing(?!,)/.test(said(c)));
  await wait(
    () => said(card()).includes("strobes"),
    "what is told of the crossing",
  );
  expect(said(card())).toContain("6 readings: strobes, off the arc");
});
