/** A scene plays inside another: it comes in, is put somewhere, and is worked on where it is. */
import {
  SAME,
  all,
  ask,
  button,
  byId,
  caption,
  differs,
  drag,
  exactly,
  find,
  goTo,
  has,
  keys,
  load,
  number,
  picture,
  press,
  pull,
  revision,
  saved,
  text,
  title,
  typed,
  wait,
} from "./app";

test("a scene comes in, is moved, opened in place and taken out", async () => {
  const [before, start] = [await picture(), revision()];
  await press(find("[aria-label='Bring in']"));
  await press(exactly("Landing", ".mantine-Menu-item"));
  await saved(start + 1);
  await wait(() => text("[data-testid=came]").includes("Oda 2"), "who came");
  keys("r"); // where its mark can be taken hold of
  await wait(() => caption().includes("ROAM"), "roaming");
  await pull(find(".plan-drawing [data-testid='handle thing']"), [60, 20]);
  await saved(start + 2);
  await wait(async () => Math.abs(await number("x")) > 0.3, "its new place");
  keys("r");
  expect(await differs(before), "what came with it").toBe(Infinity);

  // Dragged along the frames of the Sheet, it begins later.
  await press(exactly("layers", ".zoom .toggle"));
  const column = await wait(
    () => all(".head.of-group").find((e) => e.title.includes("Landing")),
    "its column",
  );
  const middle = parseFloat(column.style.left) + parseFloat(column.style.width) / 2; // prettier-ignore
  drag(await byId("sheet-rows"), [[middle, 6], [middle, 66], [middle, 136]]); // prettier-ignore
  await saved(start + 3);
  await wait(async () => (await number("begins on")) === 1011, "later");

  // Inside of it, it is changed with what surrounds it in sight, and the way back is one step.
  await press(button("Open in place"));
  await wait(() => title() === "Landing", "the other scene");
  expect(text(".crumbs")).toContain("Crossing");
  const inside = await picture();
  const [own] = await wait(() => all(".content.of-character"), "its own");
  await press(own!);
  await typed(await find("[aria-label='Name']"), "Control", "a", "Ferry keeper", "Enter"); // prettier-ignore
  await exactly("Ferry keeper", ".content");
  await saved(2);
  await press(find(".crumbs button:nth-of-type(2)"));
  await wait(() => title() === "Crossing", "back again");
  await press(find(".content.of-block"));
  await wait(
    () => text("[data-testid=came]").includes("Ferry keeper"),
    "its new name here",
  );
  await press(find("[aria-label='Take out']"));
  await wait(() => !has(".content.of-block"), "out");
  await goTo(1001);
  await wait(async () => (await differs(before)) < SAME, "as it was");

  // Alone, the other scene has nothing around it.
  const { scenes } = (await (await ask("/api/scenes")).json()) as {
    scenes: { id: string; name: string }[];
  };
  await load(`/scenes/${scenes.find(({ name }) => name === "Landing")!.id}`);
  await wait(() => title() === "Landing", "alone");
  await wait(
    async () => (await picture()).size < inside.size,
    "without what surrounded it",
  );
});
