/** How strictly a scene is judged, and the exposures of a prop. */
import {
  all,
  button,
  chooseJoint,
  differs,
  exactly,
  find,
  goTo,
  keys,
  picture,
  press,
  revision,
  said,
  saved,
  stage,
  text,
  typeNumber,
  wait,
} from "./app";

const listed = (kind: string) =>
  all(".readings .what").some((row) => said(row).startsWith(kind));

test("a scene is judged more strictly and the production sets a limit", async () => {
  await wait(() => listed("strobes"), "what strobes");
  await press(button("as usual"));
  await find("[data-testid=strictness] .limits");
  await typeNumber("slip of held poses", "25");
  await wait(() => !listed("strobes"), "within that limit");
  await press(button("All as usual"));
  await wait(() => listed("strobes"), "what strobes again");
  const start = revision();
  await press(
    exactly(
      "as final",
      "[aria-label='How strictly this scene is judged'] label",
    ),
  );
  await saved(start + 1);
  expect(text("[data-testid=strictness]")).toContain("0.7 of the limit");
  keys("Escape");
  await button("as final");
});

test("the exposures of a prop are shown and changed in the Sheet", async () => {
  await chooseJoint("lantern");
  await wait(
    () => text(".sheet .heads").includes("Lantern pole"),
    "its column",
  );
  const start = revision();
  await goTo(1042);
  const before = await picture();
  keys("P");
  await saved(start + 1);
  expect(await differs(before), "another pose of the lantern").toBeGreaterThan(
    0.001,
  );
  await stage("step");
  expect(text(".card h2"), "hers are as they were").not.toContain(
    "an exposure list",
  );
});
