/**
 * Handles that can be taken hold of, drawn over Roam or the Plan; with Shift held a point is lifted. Arrow keys move the one
 * that has the focus, with Shift ten times as far, Page Up and Page Down lift it, Delete removes it. Escape, or a gesture
 * that the system cancels, changes nothing.
 */
import { useRef } from "react";
import type { Vector3 } from "three";
import { edit } from "../state/edits";
import { notify } from "../state/session";
import { useHeldEdit } from "../widgets/heldEdit";
import type { Handle } from "./handles";

interface DotsProps {
  handles: Handle[];
  /** Where a place is drawn, CSS pixels; null where it is not in sight. */
  draw: (place: Vector3) => [number, number] | null;
  /** The place under a point of the drawing, for something that was at `from`; `lift` moves it up and down instead. */
  find: (at: { x: number; y: number }, from: Vector3, lift: boolean) => Vector3 | null;
}

export function HandleDots({ handles, draw, find }: DotsProps) {
  const hand = useHeldEdit();
  /** As it was when it was taken: what is shown meanwhile moves it. */
  const taken = useRef<Handle | null>(null);
  const local = (event: React.PointerEvent) => {
    const box = (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const onDown = (handle: Handle) => (event: React.PointerEvent) => {
    event.stopPropagation();
    event.preventDefault();
    if (event.altKey && handle.removed) {
      edit(handle.removed());
      return;
    }
    if (!handle.moved) {
      tellWhyStill(handle);
      return;
    }
    event.currentTarget.setPointerCapture(event.pointerId);
    taken.current = handle;
    (event.currentTarget as SVGElement).focus({ preventScroll: true });
    hand.take();
  };
  const onMove = (event: React.PointerEvent) => {
    const handle = taken.current;
    if (!hand.isHeld() || !handle) return;
    event.stopPropagation();
    const to = find(local(event), handle.place, event.shiftKey);
    if (to) hand.show(handle.moved!(to));
  };
  const letGo = (event: React.SyntheticEvent, saves: boolean) => {
    if (!hand.isHeld()) return;
    event.stopPropagation();
    hand.letGo(saves);
  };
  const onKey = (handle: Handle, at: [number, number]) => (event: React.KeyboardEvent) => {
    if (event.key === "Escape" && hand.isHeld()) return letGo(event, false);
    const arrow = STEPS[event.key];
    const removes = event.key === "Delete" && handle.removed;
    if ((!arrow && !removes) || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    if (removes) edit(removes());
    else if (!handle.moved) tellWhyStill(handle);
    else {
      const far = STEP_PX * (event.shiftKey ? COARSE : 1);
      const [right, down, lift] = arrow!;
      const to = find({ x: at[0] + right * far, y: at[1] + down * far }, handle.place, lift);
      if (to) edit(handle.moved(to));
    }
  };
  return (
    <g className="handles">
      {handles.map((handle) => {
        const at = draw(handle.place);
        if (!at) return null;
        return (
          <g
            key={handle.id}
            transform={`translate(${at[0].toFixed(1)} ${at[1].toFixed(1)})`}
            data-testid={`handle ${handle.id}`}
            className={handle.moved ? "handle" : "handle still"}
            role="button"
            tabIndex={0}
            aria-label={`${handle.label}: ${spoken(handle.place)}`}
            aria-keyshortcuts="ArrowLeft ArrowRight ArrowUp ArrowDown PageUp PageDown Delete"
            onKeyDown={onKey(handle, at)}
            onPointerDown={onDown(handle)}
            onPointerMove={onMove}
            onPointerUp={(event) => letGo(event, true)}
            onPointerCancel={(event) => letGo(event, false)}
          >
            <title>{titleOf(handle)}</title>
            <circle r={11} fill="transparent" />
            <Mark kind={handle.kind} ink={handle.ink} />
          </g>
        );
      })}
    </g>
  );
}

const STEP_PX = 2;
const COARSE = 10;
/** To the right, down, and whether up and down lift it, in the drawing. */
const STEPS: Record<string, [number, number, boolean]> = {
  ArrowLeft: [-1, 0, false],
  ArrowRight: [1, 0, false],
  ArrowUp: [0, -1, false],
  ArrowDown: [0, 1, false],
  PageUp: [0, -1, true],
  PageDown: [0, 1, true],
};

const spoken = ({ x, y, z }: Vector3) => `at ${[x, y, z].map((v) => v.toFixed(2)).join(", ")} m`;

function tellWhyStill(handle: Handle): void {
  notify(`The ${handle.label} cannot be moved: what holds it is locked, or goes with a joint.`, "warning");
}

const HOW: Partial<Record<Handle["kind"], string>> = {
  "add point": "drag",
  "thing turn": "drag or arrow keys turn it",
};

function titleOf(handle: Handle): string {
  if (!handle.moved) return handle.label;
  const how = HOW[handle.kind] ?? "drag or arrow keys move it, Shift drag lifts it";
  return `${handle.label}: ${how}${handle.removed ? ", Alt click removes it" : ""}`;
}

function Mark({ kind, ink }: Pick<Handle, "kind" | "ink">) {
  const own = { stroke: "var(--over-halo)", strokeWidth: 1.2, fill: `var(--${ink ?? "blue"})` };
  if (kind === "thing") return <path d="M-12 0L0 -6L12 0L0 6Z" fillOpacity={0.85} {...own} />;
  if (kind === "thing turn") return <path d="M0 -6L5.5 4.5L0 2L-5.5 4.5Z" {...own} />;
  const line = { stroke: "var(--over-halo)", strokeWidth: 1.2, fill: "var(--blue)" };
  if (kind === "camera")
    return <circle r={9.5} fill="none" stroke="var(--blue)" strokeWidth={1.4} strokeDasharray="5 2.5" />;
  if (kind === "rail point") return <rect x={-5} y={-5} width={10} height={10} {...line} />;
  if (kind === "add point")
    return <path d="M-4 0h8M0 -4v8" stroke="var(--blue)" strokeWidth={2} fill="none" opacity={0.75} />;
  if (kind === "crane base") return <path d="M0 -7L7 6H-7Z" {...line} />;
  return (
    <g fill="none">
      <circle r={6.5} stroke="var(--over-halo)" strokeWidth={4} />
      <circle r={6.5} stroke="var(--blue)" strokeWidth={2} />
      <circle r={1.8} fill="var(--blue)" />
    </g>
  );
}
