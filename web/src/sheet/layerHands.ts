/**
 * Hands on the layers: dragged, a motion, a scene that plays inside or a sound begins earlier or later; an edge of where something
 * is there is moved; with Alt a stretch is hidden, or there again. A click chooses it.
 */
import { useRef, useState } from "react";
import type { Edit } from "../api/client";
import type { Thing } from "../marks/thingHandles";
import { chooseThing } from "../state/contents";
import { type Span, edgeDragged, edgesOf, hiddenWith } from "../state/hiddenSpans";
import { goTo } from "../state/playback";
import { later } from "../state/chosenKeys";
import { session } from "../state/session";
import { useHeldEdit } from "../widgets/heldEdit";
import { groupColumns } from "./columns";
import { type Layer, layersOf, spanOf } from "./layers";

const REACH_PX = 4;

interface Held {
  layer: Layer;
  /** The frame that it was taken hold of on. */
  from: number;
  way: "move" | "edge" | "hide";
}

export interface LayerHands {
  /** What a hand would take hold of, px from the left edge of the Sheet and from its first row. */
  at: (x: number, y: number, row: number, alt: boolean) => Held | null;
  take: (held: Held) => void;
  isHeld: () => boolean;
  move: (y: number, row: number) => void;
  letGo: (saves: boolean) => void;
  over: boolean;
  setOver: (over: boolean) => void;
}

export function useLayerHands(): LayerHands {
  const hold = useHeldEdit();
  const held = useRef<Held | null>(null);
  const [over, setOver] = useState(false);
  return {
    at: (x, y, row, alt) => {
      const { scene, sheetSide } = session();
      if (!scene || sheetSide !== "layers") return null;
      const found = groupColumns(layersOf(scene)).find(
        ({ left, middle }) => x >= left && x < 2 * middle - left,
      )?.group;
      const from = scene.first + Math.floor(y / row);
      const span = found && spanOf(found, scene);
      if (!found || !span || from < span[0] || from > span[1]) return null;
      if (alt && found.thing) return { layer: found, from, way: "hide" };
      const edges = edgesOf((found.thing?.showing.hidden ?? []) as Span[]);
      const edge = edges.find((at) => Math.abs((at - scene.first) * row - y) <= REACH_PX);
      return edge === undefined
        ? { layer: found, from, way: "move" }
        : { layer: found, from: edge, way: "edge" };
    },
    take: (taken) => {
      held.current = taken;
      if (!taken.layer.sound) chooseThing(taken.layer.id);
      goTo(taken.from);
      hold.take();
    },
    isHeld: () => held.current !== null,
    move: (y, row) => {
      const { layer, from, way } = held.current!;
      const { first, last } = session().scene!;
      const under = first + (way === "edge" ? Math.round(y / row) : Math.floor(y / row));
      const frame = Math.max(first, Math.min(last + (way === "edge" ? 1 : 0), under));
      if (way === "move") hold.show(frame === from ? null : moved(layer, frame - from));
      else if (layer.thing) hold.show(shown(layer.thing, from, frame, way));
      goTo(Math.min(last, frame));
    },
    letGo: (saves) => {
      if (!held.current) return;
      held.current = null;
      hold.letGo(saves);
    },
    over,
    setOver: (now) => now !== over && setOver(now),
  };
}

function moved({ thing, block, sound }: Layer, by: number): Edit | null {
  if (block) {
    const { first, last } = session().scene!;
    const start = Math.max(first, Math.min(last, block.first + by));
    return { edit: "move block", block_id: block.id, start };
  }
  if (sound) {
    const { id, name, start, first_s, last_s, gain_db, muted } = sound.sound;
    return { edit: "set sound", sound_id: id, name, start: start + by, first_s, last_s, gain_db, muted };
  }
  if (!thing || !(thing.file_frames > 0)) return null;
  const { timing } = thing;
  return { edit: "time thing", thing_id: thing.id, timing: { ...timing, start: later(timing.start, by) } };
}

function shown(thing: Thing, from: number, to: number, way: "edge" | "hide"): Edit | null {
  const hidden = thing.showing.hidden as Span[];
  const isHidden = hidden.some(([first, last]) => first <= from && from <= last);
  const now =
    way === "edge"
      ? edgeDragged(hidden, from, to)
      : hiddenWith(hidden, Math.min(from, to), Math.max(from, to), !isHidden);
  if (JSON.stringify(now) === JSON.stringify(hidden)) return null;
  return { edit: "show thing", thing_id: thing.id, showing: { ...thing.showing, hidden: now } };
}
