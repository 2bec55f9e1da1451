/** The application on the demo scene, driven as a person would: keys, buttons, fields, and what is told. */
import { readFileSync } from "node:fs";
import http from "node:http";
import { fireEvent } from "@testing-library/dom";
import userEvent from "@testing-library/user-event";
import type { Root } from "react-dom/client";
import { inject } from "vitest";
import { mount } from "@/mount";
import { closeScene } from "@/state/edits";
import { fresh, session, setSession } from "@/state/session";
import { type Drawn, apart, drawn } from "./drawn";

const WAIT_MS = 20_000;
const [SOONEST_MS, LATEST_MS] = [4, 40];
const ROW_PX = 13;
/** Each worker has a server of its own. */
const OF_WORKER =
  (Number(process.env.VITEST_POOL_ID) - 1) % inject("addresses").length;
const address = inject("addresses")[OF_WORKER]!;
export const base = address.split("/sign-in")[0]!;
export const user = userEvent.setup({ delay: null, pointerEventsCheck: 0 });

let cookie = "";
/** While it is set, requests do not reach the server. */
export const network = { without: false };

/** As the page asks: with its cookie, from its origin. */
export function ask(path: string, init: RequestInit = {}): Promise<Response> {
  if (network.without) return Promise.reject(new TypeError("no network"));
  const headers = {
    ...(init.headers as Record<string, string>),
    cookie,
    origin: base,
  };
  return new Promise((resolve, reject) => {
    const request = http.request(
      base + path,
      { method: init.method ?? "GET", headers },
      (answer) => {
        const set = answer.headers["set-cookie"];
        if (set) cookie = set.map((text) => text.split(";")[0]).join("; ");
        const chunks: Uint8Array[] = [];
        answer.on("data", (chunk: Uint8Array) => chunks.push(chunk));
        answer.on("end", () => {
          const body =
            answer.statusCode === 204
              ? null
              : (Buffer.concat(chunks) as unknown as BodyInit);
          resolve(
            new Response(body, {
              status: answer.statusCode,
              headers: answer.headers as HeadersInit,
            }),
          );
        });
      },
    );
    request.on("error", reject);
    void bytesOf(init.body).then((bytes) => request.end(bytes));
    init.signal?.addEventListener("abort", () =>
      request.destroy(new DOMException("aborted", "AbortError")),
    );
  });
}

async function bytesOf(
  body: BodyInit | null | undefined,
): Promise<string | Uint8Array | undefined> {
  if (body instanceof Blob) return new Uint8Array(await body.arrayBuffer());
  return (body as string | undefined) ?? undefined;
}

const postJson = (path: string, body: unknown) =>
  ask(path, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
  });

// --- finding and waiting ---

/** Until something is true, or a list is not empty. */
export async function wait<T>(
  ready: () => T | Promise<T>,
  what: string,
  ms = WAIT_MS,
): Promise<NonNullable<T>> {
  const until = performance.now() + ms;
  for (let pause = SOONEST_MS; ; pause = Math.min(1.3 * pause, LATEST_MS)) {
    let failed: unknown = null;
    try {
      const value = await ready();
      if (Array.isArray(value) ? value.length : value)
        return value as NonNullable<T>;
    } catch (error) {
      failed = error; // the page may be between two states
    }
    if (performance.now() > until)
      throw new Error(
        `waited in vain for: ${what}${failed ? `\n${failed}` : ""}`,
      );
    await new Promise((resolve) => setTimeout(resolve, pause));
  }
}

export const all = (selector: string) => [
  ...document.querySelectorAll<HTMLElement>(selector),
];
export const find = (selector: string) =>
  wait(() => document.querySelector<HTMLElement>(selector), selector);
export const byId = (testId: string) => find(`[data-testid='${testId}']`);
/** What is there at this moment. */
export const now = (selector: string) =>
  document.querySelector<HTMLElement>(selector)!;
export const has = (selector: string) =>
  document.querySelector(selector) !== null;

const BLOCKS =
  /^(ARTICLE|ASIDE|DD|DETAILS|DIV|DL|DT|FIELDSET|FIGCAPTION|FIGURE|FOOTER|H\d|HEADER|LI|MAIN|NAV|OL|P|SECTION|SUMMARY|TABLE|TR|UL)$/;

/** What an element says, a line for each block. */
export function said(element: Element | null | undefined): string {
  const read = (node: Node): string => {
    if (node.nodeType === Node.TEXT_NODE) return node.textContent ?? "";
    if (
      node.nodeType !== Node.ELEMENT_NODE ||
      /^(STYLE|SCRIPT)$/.test(node.nodeName)
    )
      return "";
    const inside = [...node.childNodes].map(read).join("");
    return BLOCKS.test(node.nodeName)
      ? `\n${inside}\n`
      : node.nodeName === "BR"
        ? "\n"
        : inside;
  };
  return element
    ? read(element)
        .replace(/[ \t]+/g, " ")
        .replace(/\s*\n\s*/g, "\n")
        .trim()
    : "";
}
export const text = (selector: string) =>
  said(document.querySelector(selector));

export const button = (name: string, within: ParentNode = document) =>
  wait(
    () =>
      [...within.querySelectorAll<HTMLElement>("button, a")].find(
        (b) => said(b).includes(name) || b.getAttribute("aria-label") === name,
      ),
    name,
  );
/** The button, label or option that says just this. */
export const exactly = (
  name: string,
  selector = "button",
  within: ParentNode = document,
) =>
  wait(
    () =>
      [...within.querySelectorAll<HTMLElement>(selector)].find(
        (e) => said(e) === name,
      ),
    name,
  );

/** The input that a label is of; the first after it, as one reads. */
export async function field(label: string): Promise<HTMLInputElement> {
  return wait(() => {
    const named = all("label").find((e) => said(e) === label);
    const inputs = all("input, select") as HTMLInputElement[];
    return inputs.find(
      (e) =>
        named &&
        named.compareDocumentPosition(e) & Node.DOCUMENT_POSITION_FOLLOWING,
    );
  }, label);
}

// --- doing ---

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
/** A key on an element, wherever the focus is. */
export const fireKey = (element: Element, key: string) =>
  fireEvent.keyDown(element, { key, code: key });
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

/** A drag of the pointer on an element through places, CSS pixels of its own box. */
export function drag(
  element: Element,
  places: [x: number, y: number][],
  held: Held = {},
): void {
  const at = ([x, y]: [number, number]) => ({
    clientX: x,
    clientY: y,
    pointerId: 1,
    button: 0,
    buttons: 1,
    isPrimary: true,
    ...held,
  });
  const [first, ...others] = places;
  fireEvent.pointerMove(element, { ...at(first!), buttons: 0 });
  fireEvent.pointerDown(element, at(first!));
  for (const place of others) fireEvent.pointerMove(element, at(place));
  const last = { ...at(places.at(-1)!), buttons: 0 };
  fireEvent.pointerUp(element, last);
  if (!others.length) fireEvent.click(element, last);
}

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

export async function typeInto(
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

/** A file that the demo was made from. */
export const demoFile = (name: string): Uint8Array =>
  readFileSync(`${inject("vars")[OF_WORKER]}/demo/${name}`);

/** Let a file go over the scene. */
export async function dropFile(name: string, data: Uint8Array): Promise<void> {
  const input = await find("input[aria-label='Rig file dropped on the scene']");
  await user.upload(input, new File([data as BlobPart], name));
}

// --- seeing ---

/** Of a picture to another: the same but for rounding; clearly another. */
export const SAME = 0.002;
export const ANOTHER = 0.02;
export const caption = () => text("[data-testid=caption]");
export const title = () => text(".header h1");
export const notice = () => text(".notice");
export const frameNow = () => Number(said(all(".caption .mono")[0]));
export const revision = () =>
  Number(/rev (\d+)/.exec(text(".header [role=status]"))![1]);

/** All readings, those under the worst of their cause unfolded. */
export async function told(): Promise<string> {
  for (const more of all(".readings .more[aria-expanded=false]"))
    await press(more);
  return text("[aria-label=Readings]");
}

/** What the renderer was asked for, once nothing new is asked for. */
export async function picture(): Promise<Drawn> {
  const canvas = await find("[data-testid=picture] canvas");
  let last: string | undefined;
  for (let still = 0; still < 3;) {
    await new Promise((resolve) => setTimeout(resolve, 20));
    still = canvas.dataset.drawn === last ? still + 1 : 0;
    last = canvas.dataset.drawn;
  }
  return drawn();
}
export const differs = async (before: Drawn) => apart(await picture(), before);

export function expectNear(
  value: number | number[],
  wanted: number | number[],
  most: number,
): void {
  const [values, all] = [[value].flat(), [wanted].flat()];
  expect(values.length).toBe(all.length);
  const furthest = Math.max(
    ...values.map((one, index) => Math.abs(one - all[index]!)),
  );
  expect(furthest, `${value} near ${wanted}`).toBeLessThanOrEqual(most);
}

/** Like `expectNear`, once it has come there. */
export async function comesNear(
  read: () => Promise<number | number[]>,
  wanted: number | number[],
  most: number,
): Promise<void> {
  const until = performance.now() + WAIT_MS / 4;
  for (;;) {
    const value = await read();
    const late = performance.now() > until;
    const all = [wanted].flat();
    if (
      late ||
      [value].flat().every((one, index) => Math.abs(one - all[index]!) <= most)
    )
      return expectNear(value, wanted, most);
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
}

// --- beginning ---

/** Sends a form as the page's own requests go. */
class Upload {
  readonly upload = {};
  status = 0;
  responseText = "";
  onload = () => {};
  onerror = () => {};
  private to: [method: string, path: string] = ["POST", ""];

  open(method: string, path: string): void {
    this.to = [method, path];
  }
  send(form: FormData): void {
    void this.sent(form).then(
      () => this.onload(),
      () => this.onerror(),
    );
  }
  private async sent(form: FormData): Promise<void> {
    const [method, path] = this.to;
    const packed = new Response(form);
    const headers = { "Content-Type": packed.headers.get("Content-Type")! };
    const answer = await ask(path, {
      method,
      headers,
      body: new Blob([await packed.arrayBuffer()]),
    });
    this.status = answer.status;
    this.responseText = await answer.text();
  }
}

/** What other windows do is not followed. */
class Unheard {
  addEventListener() {}
  close() {}
}

const DEMO = "Crossing";
let root: Root | null = null;

/** Of the scene that tests open, whatever they call it. */
let demo = "";

/** Undo whatever earlier tests did to the demo's scenes. */
async function undoAll(): Promise<void> {
  const { scenes } = (await (await ask("/api/scenes")).json()) as {
    scenes: { id: string; name: string; revision: number }[];
  };
  demo ||= scenes.find(({ name }) => name === DEMO)!.id;
  for (const scene of scenes) {
    let now = scene.revision;
    while (now > 1) {
      const answer = await postJson(`/api/scenes/${scene.id}/undo`, {
        revision: now,
        view: { judged: false },
      });
      if (answer.status === 422) break;
      if (!answer.ok) throw new Error(await answer.text());
      now += 1;
    }
  }
}

/** The page anew, as when it is reloaded. */
export async function load(path: string): Promise<void> {
  // What a window keeps is there before it is left: a page that is reloaded is not taken down piece by piece.
  const kept = JSON.parse(
    localStorage.getItem("eddyfield.window") ?? "{}",
  ) as object;
  leave();
  history.replaceState(null, "", path);
  setSession({ ...fresh, parts: new Map(), ...kept });
  const element = document.body.appendChild(document.createElement("div"));
  root = mount(element);
}

export function leave(): void {
  root?.unmount();
  root = null;
  closeScene();
  document.body.replaceChildren();
}

/** The demo scene is opened as it was loaded, at its first frame. */
export async function openDemo(): Promise<void> {
  (
    window as unknown as { happyDOM: { setURL(url: string): void } }
  ).happyDOM.setURL(base);
  vi.stubGlobal("fetch", ask);
  vi.stubGlobal("EventSource", Unheard);
  vi.stubGlobal("XMLHttpRequest", Upload);
  if (!cookie) await ask(address.slice(base.length));
  network.without = false;
  localStorage.clear();
  sessionStorage.clear();
  await undoAll();
  await load(`/scenes/${demo}`);
  await byId("sheet-rows");
  await wait(
    () =>
      document.querySelector<HTMLElement>("[data-testid=picture] canvas")!
        .dataset.drawn,
    "a first picture",
  );
  await wait(
    () => !text(".readings-pane").includes("Being judged"),
    "its readings",
  );
}
