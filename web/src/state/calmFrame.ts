/** The frame for figures: while it plays they follow a few times a second, as nobody reads faster and the Picture comes first. */
import { useEffect, useState } from "react";
import { session, useSession } from "./session";

const EVERY_MS = 250;

export function useCalmFrame(everyMs = EVERY_MS): number {
  const playing = useSession((s) => s.playing);
  const exact = useSession((s) => (s.playing ? null : s.frame));
  const [sampled, setSampled] = useState(session().frame);
  useEffect(() => {
    if (!playing) return;
    const timer = setInterval(() => setSampled(session().frame), everyMs);
    return () => clearInterval(timer);
  }, [playing, everyMs]);
  return exact ?? sampled;
}
