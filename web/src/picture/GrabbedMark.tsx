/**
 * A mark in the Picture that is dragged to change what it stands for. It takes the hand only once that has rested on it, when
 * it is filled and says what it is: a drag that merely begins there moves the camera, as one anywhere else. Escape, or a
 * gesture that the system cancels, changes nothing.
 */
import { useEffect, useRef, useState } from "react";
import type { Edit } from "../api/client";
import { useHeldEdit } from "../widgets/heldEdit";

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
  const hand = useHeldEdit();
  useEffect(() => () => clearTimeout(timer.current), []);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => event.key === "Escape" && hand.letGo(false);
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [hand]);
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
        if (!hand.isHeld()) setRested(false);
      }}
      onPointerDown={(event) => {
        clearTimeout(timer.current);
        if (event.button !== 0 || !rested || !moved) return;
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        hand.take();
      }}
      onPointerMove={(event) => {
        if (!hand.isHeld()) return;
        event.stopPropagation();
        const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
        hand.show(moved!({ x: event.clientX - box.left, y: event.clientY - box.top }));
      }}
      onPointerUp={(event) => {
        if (hand.isHeld()) event.stopPropagation();
        hand.letGo(true);
      }}
      onPointerCancel={() => hand.letGo(false)}
    >
      <title>{says}</title>
      {children}
    </g>
  );
}
