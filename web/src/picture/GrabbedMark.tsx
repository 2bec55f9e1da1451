/**
 * A mark in the Picture that is dragged to change what it stands for. It takes the hand only once that has rested on it, when
 * it is filled and says what it is: a drag that merely begins there moves the camera, as one anywhere else. Escape, or a
 * gesture that the system cancels, changes nothing.
 */
import { useEffect, useRef, useState } from "react";
import type { Edit } from "../api/client";
import { cancelPreview, edit, preview } from "../state/edits";
import { setSession } from "../state/session";

const RESTS_MS = 180;

interface GrabbedMarkProps {
  /** In the Picture, CSS pixels. */
  at: [number, number];
  says: string;
  /** The edit that brings it to a point of the Picture; null where it cannot be moved. */
  moved: ((to: { x: number; y: number }) => Edit) | null;
  testId?: string;
  children: React.ReactNode;
}

export function GrabbedMark({ at, says, moved, testId, children }: GrabbedMarkProps) {
  const [rested, setRested] = useState(false);
  const timer = useRef(0);
  const held = useRef<{ last: Edit | null } | null>(null);
  useEffect(() => () => clearTimeout(timer.current), []);
  const letGo = (saves: boolean) => {
    const hold = held.current;
    held.current = null;
    if (!hold) return;
    setSession({ gesturing: false });
    if (saves && hold.last) edit(hold.last);
    else cancelPreview();
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => event.key === "Escape" && letGo(false);
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, []);
  const className = ["handle", !moved && "still", rested && "rested"].filter(Boolean).join(" ");
  return (
    <g
      transform={`translate(${at[0].toFixed(1)} ${at[1].toFixed(1)})`}
      className={className}
      data-testid={testId}
      onPointerEnter={() => {
        timer.current = window.setTimeout(() => setRested(true), RESTS_MS);
      }}
      onPointerLeave={() => {
        clearTimeout(timer.current);
        if (!held.current) setRested(false);
      }}
      onPointerDown={(event) => {
        clearTimeout(timer.current);
        if (event.button !== 0 || !rested || !moved) return;
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = { last: null };
        setSession({ gesturing: true });
      }}
      onPointerMove={(event) => {
        const hold = held.current;
        if (!hold) return;
        event.stopPropagation();
        const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
        hold.last = moved!({ x: event.clientX - box.left, y: event.clientY - box.top });
        preview(hold.last);
      }}
      onPointerUp={(event) => {
        if (held.current) event.stopPropagation();
        letGo(true);
      }}
      onPointerCancel={() => letGo(false)}
    >
      <title>{says}</title>
      {children}
    </g>
  );
}
