/** What is told, found and drawn, once it is there. */
import { type Drawn, apart, drawn } from "./drawn";
import { network } from "./network";

const WAIT_MS = 20_000;
const [SOONEST_MS, LATEST_MS] = [4, 40];

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

/** Of a picture to another: the same but for rounding; clearly another. */
export const SAME = 0.002;
export const ANOTHER = 0.02;
export const caption = () => text("[data-testid=caption]");
export const title = () => text(".header h1");
export const notice = () => text(".notice");
export const frameNow = () => Number(said(all(".caption .mono")[0]));
export const revision = () =>
  Number(/rev (\d+)/.exec(text(".header [role=status]"))![1]);

/** What the renderer was asked for, once nothing new is asked for, of it or of the server. */
export async function picture(): Promise<Drawn> {
  const canvas = await find("[data-testid=picture] canvas");
  let last: string | undefined;
  for (let still = 0; still < 2;) {
    await new Promise((resolve) => setTimeout(resolve, 20));
    const isStill = canvas.dataset.drawn === last && network.underway === 0;
    still = isStill ? still + 1 : 0;
    last = canvas.dataset.drawn;
  }
  return drawn();
}
export const differs = async (before: Drawn, what?: string[]) =>
  apart(await picture(), before, what);

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
