/** The frame for figures: while it plays they follow a few times a second, as nobody reads faster and the Picture comes first. */
import { useEffect, useRef, useState } from "react";
import { session, useSession } from "./session";

const EVERY_MS = 250;

export function useCalmFrame(everyMs = EVERY_MS): number {
  const playing = useSession((s) => s.playing);
  const exact = useSession((s) => (s.playing ? null : s.frame));
  const [sampled, setSampled] = useState(session().frame);
  useEffect(() => {
    if (!playing) return;
    const sample = () => setSampled(session().frame);
    sample();
    const timer = setInterval(sample, everyMs);
    return () => clearInterval(timer);
  }, [playing, everyMs]);
  return exact ?? sampled;
}

/** What follows from that frame, a plain value: who asks is drawn anew only when it changes. */
export function useAtCalmFrame<T extends string | number | boolean | undefined>(of: (frame: number) => T): T {
  const latest = useRef(of);
  useEffect(() => {
    latest.current = of;
  });
  const playing = useSession((s) => s.playing);
  const exact = useSession((s) => (s.playing ? null : of(s.frame)));
  const [sampled, setSampled] = useState(() => of(session().frame));
  useEffect(() => {
    if (!playing) return;
    const sample = () => setSampled(latest.current(session().frame));
    sample();
    const timer = setInterval(sample, EVERY_MS);
    return () => clearInterval(timer);
  }, [playing]);
  return playing ? sampled : (exact as T);
}
