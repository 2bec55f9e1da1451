/** The frame for figures: while it plays they follow a few times a second, as nobody reads faster and the Picture comes first. */
import { useEffect, useRef, useState } from "react";
import { session, useSession } from "./session";

const EVERY_MS = 250;

/** What follows from that frame, a plain value: who asks is drawn anew only when it changes. */
export function useAtCalmFrame<T extends string | number | boolean | undefined>(
  of: (frame: number) => T,
  everyMs = EVERY_MS,
): T {
  const latest = useRef(of);
  useEffect(() => {
    latest.current = of;
  });
  const exact = useSession((s) => (s.playing ? null : of(s.frame)));
  const playing = useSession((s) => s.playing);
  /** Null until the first look while it plays. */
  const [sampled, setSampled] = useState<T | null>(null);
  useEffect(() => {
    if (!playing) return;
    const timer = setInterval(() => setSampled(latest.current(session().frame)), everyMs);
    return () => {
      clearInterval(timer);
      setSampled(null);
    };
  }, [playing, everyMs]);
  if (!playing) return exact as T;
  return sampled ?? of(session().frame);
}

const itself = (frame: number) => frame;
export const useCalmFrame = (everyMs = EVERY_MS): number => useAtCalmFrame(itself, everyMs);
