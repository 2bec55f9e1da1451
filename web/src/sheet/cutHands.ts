/** Hands on the cut column: edges are rolled, whole shots slid or slipped; all are shown while they are held. */
import { useRef, useState } from "react";
import type { Shot } from "../state/cutting";
import { goTo } from "../state/playback";
import { session } from "../state/session";
import { useHeldEdit } from "../widgets/heldEdit";

const REACH_PX = 5;

interface Held {
  shot: Shot;
  /** With Shift a shot slides between its neighbours, with Alt its camera's move slips under it. */
  way: "roll" | "slide" | "slip";
  from: number;
}

export interface CutHands {
  /** What a hand would take hold of at a height in the Sheet, px from its first row. */
  at: (y: number, row: number, keys: { shift: boolean; alt: boolean }) => Held | null;
  take: (held: Held) => void;
  isHeld: () => boolean;
  move: (y: number, row: number) => void;
  letGo: (saves: boolean) => void;
  /** Over something that can be taken hold of. */
  over: boolean;
  setOver: (over: boolean) => void;
}

export function useCutHands(): CutHands {
  const hold = useHeldEdit();
  const held = useRef<Held | null>(null);
  const [over, setOver] = useState(false);
  return {
    at: (y, row, { shift, alt }) => {
      const scene = session().scene!;
      const inner = scene.cut.filter((shot) => shot.first > scene.first);
      const from = scene.first + Math.floor(y / row);
      const edge = inner.find((shot) => Math.abs((shot.first - scene.first) * row - y) <= REACH_PX);
      if (alt) {
        const slipped = scene.cut.find((shot) => shot.first <= from && from <= shot.last);
        return slipped ? { shot: slipped, way: "slip", from } : null;
      }
      if (edge && !shift) return { shot: edge, way: "roll", from: edge.first };
      const within = inner.find((shot) => shot.first <= from && from <= shot.last);
      return shift && within ? { shot: within, way: "slide", from } : null;
    },
    take: (taken) => {
      held.current = taken;
      hold.take();
    },
    isHeld: () => held.current !== null,
    move: (y, row) => {
      const { shot, way, from } = held.current!;
      const { first: start, last } = session().scene!;
      // A cut lies between two rows, a hand within one.
      const at = start + (way === "roll" ? Math.round(y / row) : Math.floor(y / row));
      const frame = Math.max(start, Math.min(last, at));
      const by = frame - from;
      const first = shot.begins;
      if (!by) hold.show(null);
      else if (way === "slip") hold.show({ edit: "slip shot", first, by: String(by) });
      else
        hold.show(
          way === "slide" ? { edit: "slide shot", first, by } : { edit: "roll cut", first, to: frame },
        );
      // What slips stays in its frames: the picture that one looks at is the one on the playhead.
      if (way !== "slip") goTo(way === "slide" ? shot.first + by : frame);
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
