/** Keys: each does one thing, and typing is left alone. */
import { SHORTCUTS } from "@/workspace/shortcuts";
import { HIGHEST_ROW, LOWEST_ROW, zoomRows } from "@/state/rowHeight";
import { fresh, session, setSession } from "@/state/session";

const press = (key: string, more: Partial<KeyboardEventInit> = {}) =>
  new KeyboardEvent("keydown", { key, ...more });
const EVERY_KEY = [
  ..."abcdefghijklmnopqrstuvwxyz0123456789 +-=?",
  "Enter",
  "Escape",
  "Home",
  "End",
  "Delete",
  "Backspace",
];

beforeEach(() => setSession({ ...fresh }));

test("no key does two things", () => {
  for (const key of EVERY_KEY) {
    const found = SHORTCUTS.filter((shortcut) => shortcut.match(press(key)));
    expect(found.length, key).toBeLessThanOrEqual(1);
  }
});

test("every shortcut is shown once, with a label and a group", () => {
  expect(new Set(SHORTCUTS.map((s) => s.keys)).size).toBe(SHORTCUTS.length);
  expect(SHORTCUTS.every((s) => s.label.length > 3 && s.group.length > 2)).toBe(
    true,
  );
});

test("plain letters are left to the browser when a command key is held", () => {
  for (const key of "rklpbgmz") {
    const found = SHORTCUTS.filter((shortcut) =>
      shortcut.match(press(key, { ctrlKey: true })),
    );
    expect(found.map((s) => s.label)).toEqual(key === "z" ? ["Undo"] : []);
  }
  const redo = SHORTCUTS.filter((s) =>
    s.match(press("Z", { ctrlKey: true, shiftKey: true })),
  );
  expect(redo.map((s) => s.label)).toEqual(["Redo"]);
});

test("arrows with a command key held do one thing each as well", () => {
  for (const key of ["ArrowUp", "ArrowDown", "ArrowLeft", "ArrowRight"]) {
    for (const held of [
      {},
      { shiftKey: true },
      { altKey: true },
      { altKey: true, shiftKey: true },
    ]) {
      const found = SHORTCUTS.filter((shortcut) =>
        shortcut.match(press(key, held)),
      );
      expect(found.length, `${key} ${JSON.stringify(held)}`).toBe(1);
    }
  }
});

test("rows zoom between their bounds", () => {
  for (let n = 0; n < 30; n++) zoomRows(1.3);
  expect(session().rowHeight).toBe(HIGHEST_ROW);
  for (let n = 0; n < 60; n++) zoomRows(1 / 1.3);
  expect(session().rowHeight).toBe(LOWEST_ROW);
});

test("switches that keys turn", () => {
  const run = (key: string) =>
    SHORTCUTS.find((s) => s.match(press(key)))!.run(press(key));
  for (const [key, name] of [
    ["m", "showMask"],
    ["g", "showSafe"],
    ["a", "showArc"],
    ["o", "showOnion"],
    ["z", "magnify"],
  ] as const) {
    const before = session()[name];
    run(key);
    expect(session()[name]).toBe(!before);
  }
  run("?");
  expect(session().helpOpen).toBe(true);
  run("Enter");
  expect(session().fullPicture).toBe(true);
  run("Escape");
  expect(session()).toMatchObject({ fullPicture: false, magnify: false });
});

test("what the window is set to is remembered, what is looked at is not", () => {
  setSession({ showSafe: false, frame: 40, joint: "lantern" });
  const kept = JSON.parse(localStorage.getItem("eddyfield.window")!) as Record<
    string,
    unknown
  >;
  expect(kept.showSafe).toBe(false);
  expect(kept).not.toHaveProperty("frame");
  expect(kept).not.toHaveProperty("joint");
});

test.each(["KeyA", "KeyB", "KeyE", "KeyT"])(
  "Alt and the place of %s mark one thing",
  (code) => {
    const found = SHORTCUTS.filter((s) =>
      s.match(press("", { altKey: true, code })),
    );
    expect(found.map((s) => s.label)).toEqual([
      "Mark: action, line begins, ends, accent",
    ]);
  },
);

test.each([
  [
    "ArrowLeft",
    { shiftKey: true },
    "Go round the character, over it and under it",
  ],
  [
    "ArrowUp",
    { shiftKey: true, altKey: true },
    "Slide to the sides, up and down",
  ],
  [".", {}, "Move in, out"],
])("%s with %o moves the view", (key, held, label) => {
  const found = SHORTCUTS.filter((s) => s.match(press(key, held)));
  expect(found.map((s) => s.label)).toEqual([label]);
});
