/** What a person does: keys, buttons, fields, and drags of the pointer. */
import { fireEvent } from "@testing-library/dom";
import userEvent from "@testing-library/user-event";
import { session } from "@/state/session";
import {
  all,
  byId,
  field,
  find,
  frameNow,
  revision,
  said,
  text,
  wait,
} from "./seeing";

const ROW_PX = 13;
export const user = userEvent.setup({ delay: null, pointerEventsCheck: 0 });

const LETTER = /^[A-Z]$/;
const HELD = { Control: "ctrlKey", Shift: "shiftKey", Alt: "altKey" } as const;

/** Press a key where the focus is; with another held down. */
export function hold(modifier: keyof typeof HELD | null, key: string): void {
  const target = document.activeElement ?? document.body;
  const code = /^[a-z]$/i.test(key)
    ? `Key${key.toUpperCase()}`
    : /^\d$/.test(key)
      ? `Digit${key}`
      : key === " "
        ? "Space"
        : key;
  const init = {
    key,
    code,
    shiftKey: LETTER.test(key),
    ...(modifier ? { [HELD[modifier]]: true } : {}),
  };
  fireEvent.keyDown(target, init);
  fireEvent.keyUp(target, init);
}
export const keys = (...pressed: string[]) =>
  pressed.forEach((key) => hold(null, key));
export const letGo = () =>
  (document.activeElement as HTMLElement | null)?.blur();

export async function press(
  element: Element | Promise<Element>,
): Promise<void> {
  await user.click(await element);
}

interface Held {
  altKey?: boolean;
  shiftKey?: boolean;
  ctrlKey?: boolean;
}

/** The pressed pointer at a place. */
const pointerAt =
  (held: Held = {}) =>
  ([clientX, clientY]: [x: number, y: number]) => ({
    clientX,
    clientY,
    pointerId: 1,
    button: 0,
    buttons: 1,
    isPrimary: true,
    ...held,
  });

/** A drag of the pointer on an element through places, CSS pixels of its own box. */
export function drag(
  element: Element,
  places: [x: number, y: number][],
  held: Held = {},
  letsGo = true,
): void {
  const at = pointerAt(held);
  const [first, ...others] = places;
  fireEvent.pointerMove(element, { ...at(first!), buttons: 0 });
  fireEvent.pointerDown(element, at(first!));
  for (const place of others) fireEvent.pointerMove(element, at(place));
  if (!letsGo) return;
  const last = { ...at(places.at(-1)!), buttons: 0 };
  fireEvent.pointerUp(element, last);
  if (!others.length) fireEvent.click(element, last);
}

/** A line drawn by hand, which shows while it is drawn. */
export async function draw(
  element: Element,
  places: [x: number, y: number][],
): Promise<void> {
  const at = pointerAt();
  const shown = () => new Promise((resolve) => setTimeout(resolve));
  fireEvent.pointerDown(element, at(places[0]!));
  for (const place of places) {
    await shown();
    fireEvent.pointerMove(element, at(place));
  }
  await shown();
  fireEvent.pointerUp(element, at(places.at(-1)!));
}

/** Where a handle stands in its drawing; anything else is held at one place of it. */
function standsAt(element: Element): [x: number, y: number] {
  const [, x, y] =
    /translate\(([-\d.]+)[ ,]+([-\d.]+)\)/.exec(
      element.getAttribute("transform") ?? "",
    ) ?? [];
  return x ? [Number(x), Number(y)] : [100, 100];
}

/** Take hold of a handle and pull it, CSS pixels. */
export async function pull(
  handle: Element | Promise<Element>,
  [dx, dy]: [number, number],
  letsGo = true,
): Promise<void> {
  const element = await handle;
  const [x, y] = standsAt(element);
  drag(element, [[x, y], [x + dx / 2, y + dy / 2], [x + dx, y + dy]], {}, letsGo); // prettier-ignore
}
/** Rest on a mark of the Picture until it lets itself be taken. */
export async function restOn(
  mark: Element | Promise<Element>,
): Promise<Element> {
  const element = await mark;
  fireEvent.pointerOver(element);
  await wait(() => element.classList.contains("rested"), "a mark to take hold of"); // prettier-ignore
  return element;
}
/** The system takes what is in the hand away. */
export const takenAway = (element: Element) =>
  fireEvent.pointerCancel(element, { pointerId: 1 });

export function doubleClick(element: Element, [x, y]: [number, number]): void {
  for (const _ of [1, 2]) drag(element, [[x, y]]);
  fireEvent.doubleClick(element, { clientX: x, clientY: y });
}

/** Move a range's slider, and let it go. */
export function slide(slider: HTMLInputElement, to: number): void {
  fireEvent.pointerDown(slider);
  fireEvent.input(slider, { target: { value: String(to) } });
}
export const slideEnd = (slider: HTMLInputElement) =>
  fireEvent.pointerUp(slider);

/** In the Picture, beside the middle, where what the camera aims at has its mark. */
export async function dragPicture(
  dx: number,
  dy: number,
  held: Held = {},
): Promise<void> {
  drag(await byId("picture"), [[223, 120], [223 + dx / 2, 120 + dy / 2], [223 + dx, 120 + dy]], held); // prettier-ignore
}

/** Where the middle of a frame's row is in the Sheet. */
export const rowOf = (frame: number) =>
  (frame - session().scene!.first + 0.5) * ROW_PX -
  document.querySelector("[data-testid=sheet-rows]")!.scrollTop;

/** The wheel over the Picture. */
export async function wheel(delta: number): Promise<void> {
  fireEvent.wheel(await byId("picture"), { deltaY: delta });
}

/** By the Sheet: a click on the row of the frame. */
export async function goTo(frame: number): Promise<void> {
  const rows = await byId("sheet-rows");
  rows.scrollTop = Math.max(0, (frame - session().scene!.first) * ROW_PX - 300);
  fireEvent.scroll(rows);
  drag(rows, [[20, rowOf(frame)]]);
  await wait(() => frameNow() === frame, `frame ${frame}`);
}

export const stage = async (name: string) =>
  press(find(`[id='stage-${name}']`));

/** Undo what was done in this window last, one after another. */
export async function undo(count: number): Promise<void> {
  for (let left = count; left > 0; left--) {
    const now = revision();
    hold("Control", "z");
    await saved(now + 1);
  }
}

export const saved = (least: number) =>
  wait(
    () =>
      revision() >= least && text(".header [role=status]").includes("saved"),
    `revision ${least}`,
  );

/** Choose in a list by its label and the option's name. */
export async function choose(list: string, option: string): Promise<void> {
  await press(find(`input[aria-label='${list}']`));
  await pick(option);
}
export async function pick(option: string): Promise<void> {
  const options = () =>
    all("[aria-expanded=true][aria-controls]").flatMap((list) => [
      ...(document
        .getElementById(list.getAttribute("aria-controls")!)
        ?.querySelectorAll("[role=option]") ?? []),
    ]);
  fireEvent.click(
    await wait(() => options().find((e) => said(e) === option), option),
  );
}

async function typeInto(
  input: HTMLElement,
  value: string,
  end = "{Enter}",
): Promise<void> {
  await user.click(input);
  (input as HTMLInputElement).select();
  await user.keyboard(value.replace(/[{[]/g, "$&$&") + end);
}
const NAMED =
  /^(Enter|Escape|Home|End|Delete|Backspace|Tab|Page(Up|Down)|Arrow(Up|Down|Left|Right))$/;

/** Give an element the focus and type; keys by their names, all else as text. */
export async function typed(
  element: HTMLElement,
  ...what: string[]
): Promise<void> {
  element.focus();
  if (what[0] === "Control" && what[1] === "a") {
    (element as HTMLInputElement).select();
    what = what.slice(2);
  }
  let shift = false;
  for (const item of what) {
    if (item === "Shift") shift = true;
    else if (NAMED.test(item))
      await user.keyboard(shift ? `{Shift>}{${item}}{/Shift}` : `{${item}}`);
    else
      await user.keyboard(item === " " ? " " : item.replace(/[{[]/g, "$&$&"));
  }
}
export const typeNumber = async (label: string, value: string) =>
  typeInto(await field(label), value);
export const number = async (label: string) =>
  parseFloat((await field(label)).value);

/** Open one question of the Card. */
export async function question(asked: string): Promise<void> {
  const found = await wait(
    () =>
      all(".camera-card button[aria-expanded]").find((b) =>
        said(b).includes(asked),
      ),
    asked,
  );
  if (found.getAttribute("aria-expanded") !== "true") await press(found);
}

/** Open the numbers behind the drawings. */
export async function numbers(): Promise<void> {
  const behind = (await find(".numbers")) as HTMLDetailsElement;
  if (!behind.open) await press(behind.querySelector("summary")!);
}

const LANTERN_POLE = /^(lantern|lantern_ring|pole_tip|pole)$/;

/** Of Oda, or of her lantern. */
export async function chooseJoint(name: string): Promise<void> {
  await stage("judge");
  const whose = LANTERN_POLE.test(name) ? "Lantern pole" : "Oda";
  if ((await field("Character or prop")).value !== whose) {
    await press(field("Character or prop"));
    await pick(whose);
    await wait(() => all("label").length && session().scene, whose);
  }
  await press(field("Joint"));
  await pick(name);
  await wait(() => text(".card h2").startsWith(name), `the card of ${name}`);
  letGo();
  await byId("arc-line");
}

/** The chosen joint on the delivery frame, px, as drawn. */
export async function jointPlace(): Promise<[number, number]> {
  const mark = await byId("chosen-joint");
  return [Number(mark.dataset.x), Number(mark.dataset.y)];
}

/** Where the camera stands that is worked on, as its Card says. */
export async function place(): Promise<[x: number, y: number, z: number]> {
  return [await number("x"), await number("y"), await number("z")];
}

/** Let a file go over the scene. */
export async function dropFile(name: string, data: Uint8Array): Promise<void> {
  const input = await find("input[aria-label='Rig file dropped on the scene']");
  await user.upload(input, new File([data as BlobPart], name));
}

/** All readings, those under the worst of their cause unfolded. */
export async function told(): Promise<string> {
  for (const more of all(".readings .more[aria-expanded=false]"))
    await press(more);
  return text("[aria-label=Readings]");
}
