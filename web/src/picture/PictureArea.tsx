/** The Picture with its caption and its controls. */
import { useEffect, useMemo, useRef, useState } from "react";
import { session, setSession, useSession } from "../state/session";
import { Caption } from "./Caption";
import { Overlay } from "./Overlay";
import { Transport } from "./Transport";
import { type FrameRect, fittedFrame } from "./lens";
import { useGestures } from "./gestures";
import { Stage } from "./stage";
import { currentSight } from "./sight";
import { useThumbnail } from "./thumbnail";

const MARGIN = 12;
const DETAIL_RADIUS = 110;

export function PictureArea() {
  const area = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const stage = useRef<Stage | null>(null);
  const redraw = useRef<() => void>(() => {});
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [pointer, setPointer] = useState<{ x: number; y: number } | null>(null);
  const scene = useSession((s) => s.scene)!;
  const magnify = useSession((s) => s.magnify);
  const showMask = useSession((s) => s.showMask);
  const aspect = (scene.width * scene.pixel_aspect) / scene.height;
  const rect = useMemo(() => fittedFrame(size.width, size.height, aspect, MARGIN), [size, aspect]);

  useEffect(() => {
    const made = new Stage(canvas.current!);
    stage.current = made;
    const watch = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      setSize({ width: Math.round(width), height: Math.round(height) });
    });
    watch.observe(area.current!);
    return () => {
      watch.disconnect();
      made.dispose();
      stage.current = null;
    };
  }, []);

  // Drawn on demand: whenever something that shows has changed, once a screen refresh.
  const detail = magnify && pointer ? pointer : null;
  useEffect(() => {
    const made = stage.current;
    if (!made || !size.width) return;
    made.resize(size.width, size.height, Math.min(devicePixelRatio, 2));
    let asked = 0;
    const draw = () => {
      asked = 0;
      const state = session();
      const sight = currentSight(state);
      if (!state.scene || !sight) return;
      made.pose(state.scene, state.parts, state.frame, state.showOnion && !state.playing);
      const framed = fittedFrame(size.width, size.height, aspect, MARGIN);
      const grown = detail && { ...detail, radius: DETAIL_RADIUS, scale: 1 / devicePixelRatio };
      made.render(state.scene, sight, framed, grown);
      canvas.current!.dataset.drawn = `${state.looking} ${state.frame} ${state.drawn}`;
    };
    redraw.current = draw;
    const ask = () => {
      asked ||= requestAnimationFrame(draw);
    };
    ask();
    const release = useSession.subscribe(ask);
    return () => {
      release();
      cancelAnimationFrame(asked);
    };
  }, [size, aspect, detail]);

  const { handlers, hovered } = useGestures(area, rect, setPointer);
  useThumbnail(stage, redraw);
  return (
    <>
      <Caption />
      <div ref={area} className="picture" data-testid="picture" {...handlers}>
        <canvas ref={canvas} aria-label="Picture" />
        {size.width > 0 && <Mask rect={rect} size={size} closed={showMask} />}
        {size.width > 0 && <Overlay rect={rect} size={size} hovered={hovered} />}
        {detail && <DetailRing x={detail.x} y={detail.y} />}
        <NoticeLine />
      </div>
      <Transport />
    </>
  );
}

/** The surround beside the delivery frame: closed, or see-through. */
function Mask({
  rect,
  size,
  closed,
}: {
  rect: FrameRect;
  size: { width: number; height: number };
  closed: boolean;
}) {
  const name = closed ? "maskpart" : "maskpart open";
  const right = size.width - rect.x - rect.width;
  const bottom = size.height - rect.y - rect.height;
  return (
    <>
      <div className={name} style={{ left: 0, right: 0, top: 0, height: rect.y }} />
      <div className={name} style={{ left: 0, right: 0, bottom: 0, height: bottom }} />
      <div className={name} style={{ left: 0, width: rect.x, top: rect.y, height: rect.height }} />
      <div className={name} style={{ right: 0, width: right, top: rect.y, height: rect.height }} />
    </>
  );
}

function DetailRing({ x, y }: { x: number; y: number }) {
  return (
    <div
      aria-hidden="true"
      style={{
        position: "absolute",
        left: x - DETAIL_RADIUS,
        top: y - DETAIL_RADIUS,
        width: 2 * DETAIL_RADIUS,
        height: 2 * DETAIL_RADIUS,
        border: "2px solid var(--graphite)",
        borderRadius: 4,
        pointerEvents: "none",
      }}
    >
      <span
        style={{
          position: "absolute",
          left: 4,
          bottom: 2,
          background: "var(--paper)",
          padding: "0 4px",
          borderRadius: 2,
        }}
        className="mono"
      >
        1:1
      </span>
    </div>
  );
}

function NoticeLine() {
  const notice = useSession((s) => s.notice);
  useEffect(() => {
    if (!notice) return;
    const timer = setTimeout(() => setSession({ notice: null }), notice.tone === "warning" ? 9000 : 4500);
    return () => clearTimeout(timer);
  }, [notice]);
  return (
    <div aria-live="polite">{notice && <div className={`notice ${notice.tone}`}>{notice.text}</div>}</div>
  );
}
