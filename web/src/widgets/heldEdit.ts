/**
 * Something in the hand: what it would change is shown, worked out by the core, and saved when it is let go; let go without
 * saving (Escape, or a gesture that the system cancels), it changes nothing.
 */
import { useRef } from "react";
import type { Edit } from "../api/client";
import { edit } from "../state/edits";
import { cancelPreview, preview } from "../state/previews";
import { setSession } from "../state/session";

export interface HeldEdit {
  take: () => void;
  isHeld: () => boolean;
  show: (change: Edit | null) => void;
  letGo: (saves: boolean) => void;
}

export function useHeldEdit(): HeldEdit {
  const held = useRef<{ last: Edit | null } | null>(null);
  const hand = useRef<HeldEdit>({
    take: () => {
      held.current = { last: null };
      setSession({ gesturing: true });
    },
    isHeld: () => held.current !== null,
    show: (change) => {
      if (!held.current) return;
      held.current.last = change;
      if (change) preview(change);
    },
    letGo: (saves) => {
      const hold = held.current;
      held.current = null;
      if (!hold) return;
      setSession({ gesturing: false });
      if (saves && hold.last) edit(hold.last);
      else cancelPreview();
    },
  });
  return hand.current;
}
