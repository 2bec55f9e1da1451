/** Arrangements of the panes for what one is at: each gives the Picture most of the window. */
import type { RefObject } from "react";
import type { PanelImperativeHandle } from "react-resizable-panels";
import { notify, session, setSession } from "../state/session";
import { frameAspect } from "../optics/lens";

/** Widths in px, as they are to begin with. */
export const SHEET = 336;
export const CARD = 262;
/** What stands above the lower panes besides the frame itself: header, caption, transport, Bench, margins. */
const AROUND_FRAME = 42 + 30 + 38 + 118 + 24;
const LEAST_BELOW = 150;

interface Arrangement {
  name: string;
  /** Sizes in px; 0 folds a pane away. */
  sheet: number;
  card: number;
  below: number | null;
  bench: boolean;
}

export const ARRANGEMENTS: Arrangement[] = [
  { name: "all panes", sheet: SHEET, card: CARD, below: null, bench: true },
  { name: "setting up", sheet: 216, card: 300, below: 210, bench: true },
  { name: "judging", sheet: SHEET, card: CARD, below: 190, bench: false },
  { name: "reviewing", sheet: 0, card: 0, below: 0, bench: true },
];

type Pane = RefObject<PanelImperativeHandle | null>;
let panes: { sheet: Pane; card: Pane; below: Pane } | null = null;
let current = 0;

/** The panes that stand in the window, until they leave it. */
export function holdPanes(standing: NonNullable<typeof panes>): () => void {
  panes = standing;
  return () => {
    panes = null;
  };
}

/** The height that is left below, where the Picture takes what its frame needs at its first width. */
export function belowNaturally(aspect: number): number {
  const frame = (innerWidth - SHEET - CARD - 24) / aspect;
  return Math.max(LEAST_BELOW, innerHeight - AROUND_FRAME - frame);
}

export function arrange(index: number): void {
  const chosen = ARRANGEMENTS[index]!;
  const { scene } = session();
  if (!panes || !scene) return;
  current = index;
  setSession({ showBench: chosen.bench, fullPicture: false });
  const sizes = {
    sheet: chosen.sheet,
    card: chosen.card,
    below: chosen.below ?? belowNaturally(frameAspect(scene)),
  };
  for (const [name, size] of Object.entries(sizes) as [keyof typeof sizes, number][]) {
    const pane = panes[name].current;
    if (!pane) continue;
    if (size === 0) pane.collapse();
    else {
      if (pane.isCollapsed()) pane.expand();
      pane.resize(size);
    }
  }
}

/** The next arrangement, by a key. */
export function arrangeNext(): void {
  const next = (current + 1) % ARRANGEMENTS.length;
  arrange(next);
  notify(`Panes: ${ARRANGEMENTS[next]!.name}.`);
}

const PANES = [".sheet", ".middle", ".plan-pane", ".readings-pane", ".card"];

/** From pane to pane: to the first thing of the next one that takes keys. */
export function goToPane(way: 1 | -1): void {
  const shown = PANES.map((selector) => document.querySelector<HTMLElement>(selector)).filter(
    (pane): pane is HTMLElement => !!pane && pane.offsetWidth > 0 && pane.offsetHeight > 0,
  );
  if (!shown.length) return;
  const here = shown.findIndex((pane) => pane.contains(document.activeElement));
  const next = shown[(here + way + shown.length + (here < 0 && way < 0 ? 1 : 0)) % shown.length]!;
  const first = next.querySelector<HTMLElement>(
    "button:not(:disabled), input:not(:disabled), [tabindex='0'], select, summary",
  );
  if (!first) next.tabIndex = -1;
  (first ?? next).focus();
}
