/** Hands on the exposure column: the edge of a hold is dragged, so that one pose stays longer and the next comes later. */
import { useRef, useState } from "react";
import { expose, exposed, exposing, startsOf } from "../state/exposing";
import { goTo } from "../state/playback";
import { session } from "../state/session";
import { useHeldEdit } from "../widgets/heldEdit";
import { COLUMNS } from "./columns";

const REACH_PX = 4;

interface Held {
  thing: NonNullable<ReturnType<typeof exposed>>;
  start: number;
  /** The frames that it may be moved to: between the poses before and after. */
  least: number;
  most: number;
}

export interface ExposureHands {
  /** What a hand would take hold of, px from the left edge of the Sheet and from its first row. */
  at: (x: number, y: number, row: number) => Held | null;
  take: (held: Held) => void;
  isHeld: () => boolean;
  move: (y: number, row: number) => void;
  letGo: (saves: boolean) => void;
  /** A new pose on a frame, or none any more; false where the column does not lie there. */
  toggleAt: (x: number, frame: number) => boolean;
  over: boolean;
  setOver: (over: boolean) => void;
}

const inColumn = (x: number) => x >= COLUMNS.exposures && x < COLUMNS.camera - 8;

export function useExposureHands(): ExposureHands {
  const hold = useHeldEdit();
  const held = useRef<Held | null>(null);
  const [over, setOver] = useState(false);
  return {
    at: (x, y, row) => {
      const thing = exposed(session());
      const { scene } = session();
      if (!thing || thing.block_id || !scene || !inColumn(x)) return null;
      const starts = startsOf(thing);
      const at = starts.findIndex((start) => Math.abs((start - scene.first) * row - y) <= REACH_PX);
      if (at < 1) return null;
      const most = (starts[at + 1] ?? scene.last + 1) - 1;
      return { thing, start: starts[at]!, least: starts[at - 1]! + 1, most };
    },
    take: (taken) => {
      held.current = taken;
      hold.take();
    },
    isHeld: () => held.current !== null,
    move: (y, row) => {
      const { thing, start, least, most } = held.current!;
      const to = Math.max(least, Math.min(most, session().scene!.first + Math.round(y / row)));
      hold.show(to === start ? null : exposing(thing, { add: [to], remove: [start] }));
      goTo(to);
    },
    letGo: (saves) => {
      if (!held.current) return;
      held.current = null;
      hold.letGo(saves);
    },
    toggleAt: (x, frame) => {
      const thing = exposed(session());
      if (!thing || !inColumn(x)) return false;
      expose(thing, startsOf(thing).includes(frame) ? { remove: [frame] } : { add: [frame] });
      return true;
    },
    over,
    setOver: (now) => now !== over && setOver(now),
  };
}
