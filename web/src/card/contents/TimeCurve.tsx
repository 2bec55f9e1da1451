/**
 * How the time of a performance runs: the scene's frames downwards, as in the Sheet, those of its file across. A stretch of it is
 * slowed, sped up, frozen or turned round; its points are dragged, or moved by arrow keys.
 */
import "./timeCurve.css";
import { Button } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import type { TimePart, Timing } from "../../api/generated";
import type { Thing } from "../../marks/thingHandles";
import { valueOf } from "../../state/chosenKeys";
import { edit } from "../../state/edits";
import { useCalmFrame } from "../../state/calmFrame";
import { part, useSession } from "../../state/session";
import { useHeldEdit } from "../../widgets/heldEdit";
import { TimeBend } from "../TimeBend";

const [WIDTH, HEIGHT, MARGIN] = [230, 170, 10];

export function TimeCurve({ thing }: { thing: Thing }) {
  const passed = useSession((s) => part<TimePart>(s, thing.time)?.passed);
  const { timing } = thing;
  const keys = timing.curve?.keys ?? [];
  return (
    <>
      <TimeBend
        of={thing.name}
        bend={(stretch) => edit({ edit: "bend time", thing_id: thing.id, ...stretch })}
      />
      {keys.length > 0 && passed && (
        <>
          <Drawing thing={thing} passed={passed} />
          <div className="actions">
            <Button
              onClick={() =>
                edit({ edit: "time thing", thing_id: thing.id, timing: { ...timing, curve: null } })
              }
            >
              No curve
            </Button>
          </div>
        </>
      )}
    </>
  );
}

function Drawing({ thing, passed }: { thing: Thing; passed: Float64Array }) {
  const scene = useSession((s) => s.scene)!;
  const frame = useCalmFrame();
  const hold = useHeldEdit();
  const held = useRef<number | null>(null);
  const [at, setAt] = useState<number | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const { timing } = thing;
  const keys = timing.curve!.keys;
  const values = [...passed, ...keys.map((key) => key.value), 0];
  const [low, high] = [Math.min(...values), Math.max(...values, 1)];
  const across = (value: number) => MARGIN + ((value - low) / (high - low)) * (WIDTH - 2 * MARGIN);
  const down = (time: number) =>
    MARGIN + ((time - scene.first) / Math.max(1, scene.last - scene.first)) * (HEIGHT - 2 * MARGIN);
  const line = Array.from(
    passed,
    (value, row) => `${across(value).toFixed(1)} ${down(scene.first + row).toFixed(1)}`,
  );
  // Keys come faster than answers: each goes on from where the one before will have been.
  const latest = useRef(timing);
  const waiting = useSession((s) => s.waiting);
  useEffect(() => {
    if (!waiting) latest.current = timing;
  }, [timing, waiting]);
  const stepped = (index: number, frames: number, value: number) => {
    const key = latest.current.curve!.keys[index]!;
    latest.current = moved(index, valueOf(key.time) + frames, key.value + value, latest.current);
    edit(change(latest.current));
  };
  const moved = (index: number, frames: number, value: number, from = timing): Timing => {
    const { keys } = from.curve!;
    const [before, after] = [keys[index - 1], keys[index + 1]];
    const least = before ? valueOf(before.time) + 1 : scene.first;
    const most = after ? valueOf(after.time) - 1 : scene.last;
    const time = String(Math.max(least, Math.min(most, Math.round(frames))));
    const changed = keys.map((key, n) => (n === index ? { ...key, time, value } : key));
    return { ...from, curve: { ...from.curve!, keys: changed } };
  };
  const change = (to: Timing) => ({ edit: "time thing", thing_id: thing.id, timing: to }) as const;
  const handAt = (event: React.PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    const x = ((event.clientX - box.left) / box.width) * WIDTH;
    const y = ((event.clientY - box.top) / box.height) * HEIGHT;
    return {
      value: low + ((x - MARGIN) / (WIDTH - 2 * MARGIN)) * (high - low),
      frames: scene.first + ((y - MARGIN) / (HEIGHT - 2 * MARGIN)) * (scene.last - scene.first),
    };
  };
  const letGo = (saves: boolean) => {
    if (held.current === null) return;
    held.current = null;
    hold.letGo(saves);
  };
  return (
    <svg
      ref={svg}
      className="time-curve"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="group"
      aria-label="How its time runs: frames of the scene downwards, of its file across"
      onPointerMove={(event) => {
        if (held.current === null) return;
        const { frames, value } = handAt(event);
        hold.show(change(moved(held.current, frames, value)));
      }}
      onPointerUp={() => letGo(true)}
      onPointerCancel={() => letGo(false)}
    >
      <line className="now" x1={0} x2={WIDTH} y1={down(frame)} y2={down(frame)} />
      <path d={`M${line.join("L")}`} />
      {keys.map((key, index) => (
        <rect
          key={index}
          className={at === index ? "at" : undefined}
          x={across(key.value) - 5}
          y={down(valueOf(key.time)) - 5}
          width={10}
          height={10}
          tabIndex={0}
          role="button"
          aria-label={`Frame ${key.time}: ${key.value.toFixed(1)} frames of its file have passed`}
          onFocus={() => setAt(index)}
          onBlur={() => setAt(null)}
          onPointerDown={(event) => {
            event.stopPropagation();
            svg.current!.setPointerCapture(event.pointerId);
            held.current = index;
            hold.take();
          }}
          onKeyDown={(event) => {
            const step = event.shiftKey ? 10 : 1;
            const by = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[
              event.key
            ];
            if (event.key === "Delete" && keys.length > 2) {
              const left = keys.filter((_, n) => n !== index);
              edit(change({ ...timing, curve: { ...timing.curve!, keys: left } }));
            } else if (by) stepped(index, by[0]! * step, by[1]! * step);
            else return;
            event.preventDefault();
            event.stopPropagation();
          }}
        />
      ))}
    </svg>
  );
}
