/** What a DOM without layout and drawing lacks: sizes of a few places, a drawing context that draws nothing, a renderer that notes. */
import { leave, openDemo } from "./app";

/** CSS pixels of what is measured, in a window of 1280 x 800; all lie at the upper left. */
const SIZES: [selector: string, width: number, height: number][] = [
  ["[data-testid=picture]", 746, 420],
  ["[data-testid=sheet-rows]", 318, 700],
  [".plan-drawing", 330, 220],
  ["[data-testid=bench-row]", 746, 90],
];

function sizeOf(element: Element): { width: number; height: number } {
  const found = SIZES.find(([selector]) => element.closest(selector));
  return { width: found?.[1] ?? 0, height: found?.[2] ?? 0 };
}

vi.mock("three", async (original) => ({
  ...(await original<object>()),
  WebGLRenderer: (await import("./drawn")).NotedRenderer,
}));
// The one renderer draws small pictures in its spare time; here it draws the Picture alone.
vi.mock("@/stage/tiles", async (original) => ({
  ...(await original<object>()),
  drawTiles: () => false,
}));
vi.mock("@/stage/readBack", () => ({
  ReadBack: class {
    count = 0;
    copy() {}
    fetch() {}
    forget() {}
  },
}));

Element.prototype.getBoundingClientRect = function () {
  return DOMRect.fromRect({ x: 0, y: 0, ...sizeOf(this) });
};
for (const [name, side] of [
  ["clientWidth", "width"],
  ["clientHeight", "height"],
  ["offsetWidth", "width"],
  ["offsetHeight", "height"],
] as const)
  Object.defineProperty(HTMLElement.prototype, name, {
    configurable: true,
    get(this: HTMLElement) {
      return sizeOf(this)[side];
    },
  });
// Drawings are as large as their own units say.
SVGSVGElement.prototype.getScreenCTM = () => new DOMMatrix();
Element.prototype.setPointerCapture = () => {};
Element.prototype.releasePointerCapture = () => {};
Element.prototype.hasPointerCapture = () => false;
Element.prototype.scrollIntoView = () => {};

/** Answers whatever it is asked for by something that does nothing. */
const idle = (): object =>
  new Proxy(
    {},
    {
      get: (_, name) =>
        name === "measureText"
          ? (text: string) => ({ width: 6 * text.length })
          : () => undefined,
      set: () => true,
    },
  );
const context = idle();
HTMLCanvasElement.prototype.getContext = (() => context) as never;

globalThis.ResizeObserver = class {
  constructor(private readonly told: ResizeObserverCallback) {}
  observe(target: Element) {
    const contentRect = DOMRect.fromRect(sizeOf(target));
    queueMicrotask(() =>
      this.told(
        [{ target, contentRect } as ResizeObserverEntry],
        this as ResizeObserver,
      ),
    );
  }
  unobserve() {}
  disconnect() {}
} as typeof ResizeObserver;

/** Nobody hears anything, and nothing waits for it. */
globalThis.AudioContext = class {
  state = "suspended";
  resume = () => new Promise(() => {});
  decodeAudioData = () => new Promise(() => {});
} as unknown as typeof AudioContext;
Object.defineProperty(document, "fonts", {
  value: new EventTarget(),
  configurable: true,
});

// Newer than the Node that the tests run on.
Map.groupBy ??= <K, T>(
  items: Iterable<T>,
  keyOf: (item: T, index: number) => K,
): Map<K, T[]> => {
  const groups = new Map<K, T[]>();
  let index = 0;
  for (const item of items) {
    const key = keyOf(item, index++);
    groups.set(key, [...(groups.get(key) ?? []), item]);
  }
  return groups;
};

globalThis.Path2D ??= function () {
  return idle();
} as unknown as typeof Path2D;

const reported = vi.spyOn(console, "error");

beforeEach(async () => {
  reported.mockClear();
  await openDemo();
});
afterEach(() => {
  leave();
  expect(reported.mock.calls, "errors that the page reported").toEqual([]);
});
