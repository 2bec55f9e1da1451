/** Hands on scenes that play inside: dragged along the frames, they begin earlier or later; a click chooses one. */
import { useRef } from "react";
import { chooseThing } from "../state/contents";
import { goTo } from "../state/playback";
import { session, workedCamera } from "../state/session";
import { useHeldEdit } from "../widgets/heldEdit";
import { type KeyColumn, keyColumns, laidOut } from "./keyColumns";

const ACROSS_PX = 8;

interface Held {
  block: NonNullable<KeyColumn["block"]>;
  from: number;
}

export interface BlockHands {
  /** Takes the block that plays there, px from the left edge of the Sheet and its first row; false where there is none. */
  take: (x: number, y: number, row: number) => boolean;
  isHeld: () => boolean;
  move: (y: number, row: number) => void;
  letGo: (saves: boolean) => void;
}

export function useBlockHands(): BlockHands {
  const hold = useHeldEdit();
  const held = useRef<Held | null>(null);
  return {
    take: (x, y, row) => {
      const state = session();
      const frame = state.scene!.first + Math.floor(y / row);
      const found = laidOut(keyColumns(state, workedCamera(state)), state.foldedColumns).find(
        ({ column, middle }) => column.block && Math.abs(middle - x) <= ACROSS_PX,
      )?.column.block;
      if (!found || state.sheetSide !== "keys" || frame < found.first || frame > found.last) return false;
      held.current = { block: found, from: frame };
      chooseThing(found.id);
      hold.take();
      return true;
    },
    isHeld: () => held.current !== null,
    move: (y, row) => {
      const { block, from } = held.current!;
      const { first, last } = session().scene!;
      const to = block.first + first + Math.floor(y / row) - from;
      const start = Math.max(first, Math.min(last, to));
      hold.show(start === block.first ? null : { edit: "move block", block_id: block.id, start });
      goTo(start);
    },
    letGo: (saves) => {
      if (!held.current) return;
      held.current = null;
      hold.letGo(saves);
    },
  };
}
