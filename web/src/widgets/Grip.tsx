/**
 * Something in a small drawing that can be taken hold of: what it would change is shown while it is in the hand and saved
 * when it lets go. Escape, or a gesture that the system cancels, changes nothing. Arrow keys move it, with Shift ten times
 * as far.
 */
import { useRef } from "react";
import type { Edit } from "../api/client";
import { edit } from "../state/edits";
import { useHeldEdit } from "./heldEdit";

export interface Point {
  x: number;
  y: number;
}

interface GripProps {
  /** What it is, and what it says now, for who cannot see it. */
  label: string;
  value: string;
  now: number;
  /** Where it is in the drawing, and how far an arrow key moves it, in the drawing's units. */
  at: Point;
  step: number;
  disabled?: boolean;
  /** The edit that brings it to a point of the drawing. */
  moved: (to: Point) => Edit | null;
  removed?: () => Edit;
  testId?: string;
  children: React.ReactNode;
}

const COARSE = 10;
const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

export function Grip({ label, value, now, at, step, disabled, moved, removed, testId, children }: GripProps) {
  const hand = useHeldEdit();
  /** Where it was taken: the pointer, and the thing itself. */
  const taken = useRef<{ from: Point; start: Point }>({ from: at, start: at });
  return (
    <g
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-label={label}
      aria-valuetext={value}
      aria-valuenow={Math.round(now * 1000) / 1000}
      aria-disabled={disabled}
      className={disabled ? "grip still" : "grip"}
      data-testid={testId}
      onPointerDown={(event) => {
        if (disabled || event.button !== 0) return;
        event.stopPropagation();
        if (event.altKey && removed) {
          edit(removed());
          return;
        }
        event.currentTarget.setPointerCapture(event.pointerId);
        taken.current = { from: inDrawing(event), start: at };
        hand.take();
      }}
      onPointerMove={(event) => {
        if (!hand.isHeld()) return;
        const to = inDrawing(event);
        const { from, start } = taken.current;
        hand.show(moved({ x: start.x + to.x - from.x, y: start.y + to.y - from.y }));
      }}
      onPointerUp={() => hand.letGo(true)}
      onPointerCancel={() => hand.letGo(false)}
      onKeyDown={(event) => {
        if (event.key === "Escape" && hand.isHeld()) {
          event.stopPropagation();
          hand.letGo(false);
          return;
        }
        if (disabled) return;
        if (event.key === "Delete" && removed) {
          event.stopPropagation();
          edit(removed());
          return;
        }
        const arrow = ARROWS[event.key];
        if (!arrow || event.ctrlKey || event.metaKey || event.altKey) return;
        event.preventDefault();
        event.stopPropagation();
        const far = step * (event.shiftKey ? COARSE : 1);
        const change = moved({ x: at.x + arrow[0] * far, y: at.y + arrow[1] * far });
        if (change) edit(change);
      }}
    >
      <title>{`${label}: ${value}`}</title>
      {children}
    </g>
  );
}

/** A pointer in the units of the drawing it is over. */
function inDrawing(event: React.PointerEvent<SVGElement>): Point {
  const svg = event.currentTarget.ownerSVGElement!;
  const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
  return { x, y };
}

/** A line through points as the `d` of a path; it breaks where one is not known. */
export function lineThrough(points: Iterable<readonly [number, number]>): string {
  let [out, pen] = ["", false];
  for (const [x, y] of points) {
    if (!Number.isFinite(x) || !Number.isFinite(y)) pen = false;
    else {
      out += `${pen ? "L" : "M"}${x.toFixed(1)} ${y.toFixed(1)}`;
      pen = true;
    }
  }
  return out;
}
