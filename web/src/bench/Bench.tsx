/** The row of cameras as small live pictures: click to look through, drag to order, number keys for the first nine. */
import { useEffect, useRef, useState } from "react";
import { IconAnchor, IconLock, IconRoute, IconViewfinder } from "@tabler/icons-react";
import type { CameraPart, CameraView } from "../api/generated";
import { frameAspect } from "../optics/lens";
import { namedSight } from "../state/sight";
import { edit } from "../state/edits";
import { lookThrough, lookThroughCut, numberKey } from "../state/looking";
import { useAtCalmFrame } from "../state/calmFrame";
import { type Session, cutCamera, part, useSession, workedCamera } from "../state/session";
import { LineSwatch } from "../marks/LineSwatch";
import { LivePicture } from "../stage/LivePicture";
import { MakeMenu } from "./MakeMenu";
import { holdTiles } from "../stage/tiles";

const PICTURE = { width: 118, height: 66 };
const STRIDE = PICTURE.width + 12;
const BESIDE = 2;
/** Scrolled by more than this between two screen refreshes, the row is swept through rather than looked at. */
const SWEEP_PIXELS = 40;
const SWEEP_REST_MS = 100;

export function Bench() {
  const scene = useSession((s) => s.scene)!;
  const looking = useSession((s) => s.looking);
  const worked = useSession((s) => workedCamera(s)?.id);
  const cut = useSession((s) => cutCamera(s)?.id);
  const scroller = useRef<HTMLDivElement>(null);
  const [sight, setSight] = useState({ left: 0, width: 700 });
  const [dragged, setDragged] = useState<{ id: string; to: number } | null>(null);
  useEffect(() => {
    const element = scroller.current!;
    let at = element.scrollLeft;
    // Drawn anew only when another camera comes into sight.
    const look = () => {
      if (Math.abs(element.scrollLeft - at) > SWEEP_PIXELS) holdTiles(SWEEP_REST_MS);
      at = element.scrollLeft;
      const [left, width] = [Math.floor(element.scrollLeft / STRIDE) * STRIDE, element.clientWidth];
      setSight((before) => (before.left === left && before.width === width ? before : { left, width }));
    };
    const watch = new ResizeObserver(look);
    watch.observe(element);
    element.addEventListener("scroll", look, { passive: true });
    return () => {
      watch.disconnect();
      element.removeEventListener("scroll", look);
    };
  }, []);
  useEffect(() => {
    const index = scene.cameras.findIndex((c) => c.id === worked);
    const element = scroller.current!;
    const at = index * STRIDE;
    if (index < 0 || looking === "cut") return;
    if (at < element.scrollLeft) element.scrollLeft = at;
    else if (at + STRIDE > element.scrollLeft + element.clientWidth)
      element.scrollLeft = at + STRIDE - element.clientWidth;
  }, [worked, looking, scene.cameras]);

  const first = Math.max(0, Math.floor(sight.left / STRIDE) - BESIDE);
  const last = Math.min(scene.cameras.length - 1, Math.ceil((sight.left + sight.width) / STRIDE) + BESIDE);
  const placeAt = (event: React.DragEvent) => {
    const x = event.clientX - scroller.current!.getBoundingClientRect().left + scroller.current!.scrollLeft;
    return Math.max(0, Math.min(scene.cameras.length, Math.round(x / STRIDE)));
  };
  const move = (camera: CameraView, by: number) => {
    const to = scene.cameras.indexOf(camera) + by;
    if (to >= 0 && to < scene.cameras.length) edit({ edit: "order camera", camera_id: camera.id, index: to });
  };
  return (
    <section className="bench" aria-label="Bench">
      <div className="bench-head">
        <button
          className={looking === "cut" ? "through here" : "through"}
          onClick={lookThroughCut}
          title="Look through the cut (0)"
        >
          <b>Cut</b>
          <span>0</span>
        </button>
        <MakeMenu />
      </div>
      <div
        ref={scroller}
        className="bench-row"
        data-testid="bench-row"
        onDragOver={(event) => {
          if (!dragged) return;
          event.preventDefault();
          const to = placeAt(event);
          if (to !== dragged.to) setDragged({ ...dragged, to });
        }}
        onDrop={(event) => {
          event.preventDefault();
          if (!dragged) return;
          const from = scene.cameras.findIndex((c) => c.id === dragged.id);
          const to = dragged.to > from ? dragged.to - 1 : dragged.to;
          if (to !== from) edit({ edit: "order camera", camera_id: dragged.id, index: to });
          setDragged(null);
        }}
      >
        <div style={{ width: scene.cameras.length * STRIDE + 4, position: "relative", height: "100%" }}>
          {scene.cameras.slice(first, last + 1).map((camera, index) => (
            <BenchCamera
              key={camera.id}
              camera={camera}
              number={first + index + 1}
              left={(first + index) * STRIDE}
              through={looking === "camera" && camera.id === worked}
              inCut={camera.id === cut}
              onDrag={(on) => setDragged(on ? { id: camera.id, to: first + index } : null)}
              onMove={(by) => move(camera, by)}
            />
          ))}
          {dragged && <div className="drop-mark" style={{ left: dragged.to * STRIDE - 1 }} />}
        </div>
      </div>
    </section>
  );
}

interface BenchCameraProps {
  camera: CameraView;
  number: number;
  left: number;
  through: boolean;
  inCut: boolean;
  onDrag: (on: boolean) => void;
  onMove: (by: number) => void;
}

function BenchCamera({ camera, number, left, through, inCut, onDrag, onMove }: BenchCameraProps) {
  const aspect = useSession((s) => frameAspect(s.scene!));
  // The picture keeps the delivery frame's shape within the room there is.
  const width = Math.min(PICTURE.width, PICTURE.height * aspect);
  const height = width / aspect;
  const unkeyed = camera.unkeyed.length > 0;
  const key = numberKey(number);
  const first = useSession((s) => s.scene!.first);
  const path = useSession((s) => part<CameraPart>(s, camera.path));
  const focal = useAtCalmFrame((frame) => path?.pose[(frame - first) * 7 + 6]?.toFixed(0));
  return (
    <button
      className={through ? "bench-camera here" : "bench-camera"}
      style={{ left, width: PICTURE.width }}
      data-testid="bench-camera"
      aria-pressed={through}
      title={`${camera.name}${key && ` (${key})`}. Drag, or Alt with an arrow key, to order.`}
      draggable
      onDragStart={(event) => {
        event.dataTransfer.effectAllowed = "move";
        event.dataTransfer.setData("text/plain", camera.name);
        onDrag(true);
      }}
      onDragEnd={() => onDrag(false)}
      onClick={() => lookThrough(camera.id)}
      onKeyDown={(event) => {
        if (!event.altKey || (event.key !== "ArrowLeft" && event.key !== "ArrowRight")) return;
        event.stopPropagation();
        event.preventDefault();
        onMove(event.key === "ArrowLeft" ? -1 : 1);
      }}
    >
      <span className="shot" style={{ width: PICTURE.width, height: PICTURE.height }}>
        <LivePicture
          width={Math.round(width)}
          height={Math.round(height)}
          label={camera.name}
          sight={(state: Session) => namedSight(state, camera.id)}
          shows={() => camera.path}
        />
        <i className="number">{number}</i>
        {inCut && <i className="number in-cut">cut</i>}
        <span className="marks">
          {unkeyed && (
            <i className="mark moved" title="moved, not keyed">
              !
            </i>
          )}
          {camera.mount.kind !== "free" && <Mark title={camera.mount.kind} icon={<IconRoute size={11} />} />}
          {camera.aim && <Mark title="aims" icon={<IconViewfinder size={11} />} />}
          {camera.framing && <Mark title="framing held" icon={<IconAnchor size={11} />} />}
          {camera.locks.length > 0 && (
            <Mark title={`${camera.locks.join(", ")} locked`} icon={<IconLock size={11} />} />
          )}
        </span>
      </span>
      <span className="name">
        <LineSwatch camera={camera} />
        <b>{camera.name}</b>
      </span>
      <span className="soft about">
        {[camera.role, lensOf(camera, focal), camera.mount.kind === "free" ? null : camera.mount.kind]
          .filter(Boolean)
          .join(" · ")}
      </span>
    </button>
  );
}

function lensOf(camera: CameraView, focal: string | undefined): string | null {
  if (camera.glass.orthographic_height_m !== null) return "parallel";
  return focal === undefined ? null : `${focal} mm`;
}

function Mark({ title, icon }: { title: string; icon: React.ReactNode }) {
  return (
    <i className="mark" title={title}>
      {icon}
    </i>
  );
}
