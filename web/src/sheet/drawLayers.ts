/** Draws the layers: where each is there, over which frames its motion runs, and whose hands a prop is in. */
import { type Thing, isPiece } from "../marks/thingHandles";
import type { Span } from "../state/hiddenSpans";
import { groupColumns } from "./columns";
import type { SheetView } from "./drawSheet";
import { drawWave } from "./drawSounds";
import { layersOf, motionOf, spanOf } from "./layers";

type Pen = CanvasRenderingContext2D;
type Ink = (token: string) => string;
const WIDEST = 16;

export function drawLayers(pen: Pen, ink: Ink, view: SheetView): void {
  const { scene } = view;
  for (const { group: layer, left, middle } of groupColumns(layersOf(scene))) {
    const half = Math.min(WIDEST, 2 * (middle - left) - 4) / 2;
    const bar = ([first, last]: Span, token: string, inset = 0) => {
      const [from, to] = [(first - scene.first) * view.row, (last + 1 - scene.first) * view.row];
      pen.fillStyle = ink(token);
      pen.fillRect(middle - half + inset, from + 1, 2 * (half - inset), Math.max(2, to - from - 2));
    };
    if (layer.thing) drawThing(layer.thing, view, bar);
    else if (layer.sound) drawWave(pen, ink, view, layer.sound, left, middle);
    else if (layer.block) {
      const [first, last] = spanOf(layer, scene);
      bar([first, last], "--rule");
      for (const edge of [first, last + 1]) {
        pen.fillStyle = ink("--graphite");
        pen.fillRect(middle - half, (edge - scene.first) * view.row - 1, 2 * half, 2);
      }
    }
  }
}

function drawThing(
  thing: Thing,
  { scene }: SheetView,
  bar: (span: Span, token: string, inset?: number) => void,
): void {
  const tint = isPiece(thing) ? "--rule" : "--red-tint";
  let at = scene.first;
  for (const [first, last] of thing.showing.hidden as Span[]) {
    if (first > at) bar([at, first - 1], tint);
    at = Math.max(at, last + 1);
  }
  if (at <= scene.last) bar([at, scene.last], tint);
  const motion = motionOf(thing, scene);
  if (motion) bar([motion[0], Math.max(motion[0], motion[1] - 1)], isPiece(thing) ? "--soft" : "--red", 5);
  if (!isPiece(thing)) return;
  thing.holds.forEach((hold, index) => {
    const until = (thing.holds[index + 1]?.first ?? scene.last + 1) - 1;
    if (hold.character_id) bar([hold.first, until], "--red", 5);
  });
}
