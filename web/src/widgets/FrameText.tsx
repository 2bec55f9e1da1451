/** A short text about the current frame, such as its number. */
import { useRef } from "react";
import { useEachFrame } from "../state/eachFrame";

export function FrameText({ of, className }: { of: (frame: number) => string; className?: string }) {
  const text = useRef<HTMLSpanElement>(null);
  useEachFrame((frame) => {
    const now = of(frame);
    if (text.current!.textContent !== now) text.current!.textContent = now;
  });
  return <span ref={text} className={className} />;
}
