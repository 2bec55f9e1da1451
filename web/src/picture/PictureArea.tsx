/** The Picture with its caption and its controls. */
import type { Matrix4 } from "three";
import { useEffect, useMemo, useRef, useState } from "react";
import { Companions } from "../bench/Companions";
import { drawTiles, whenTileIsShown } from "../stage/tiles";
import { PlanDrawing } from "../plan/Plan";
import { type Session, session, useSession, workedCamera } from "../state/session";
import type { CameraPart, CameraView, SceneView } from "../api/generated";
import { Caption } from "./Caption";
import { Compare } from "./Compare";
import { Coverage } from "./Coverage";
import { LaidOver } from "./LaidOver";
import { Matching } from "./Matching";
import { Trying } from "./Trying";
import { Overlay } from "./Overlay";
import { SequenceStrip } from "./SequenceStrip";
import { Transport } from "./Transport";
import { type FrameRect, type Sight, fittedFrame, frameAspect, usedBack } from "../optics/lens";
import { useGestures } from "./gestures";
import { type FocusShown, type Over, Stage } from "../stage/stage";
import { coverageRow, coverageSight } from "../state/coverage";
import { withCameraHeld } from "../state/judgingLooks";
import { laidSight } from "../state/laidOver";
import { tryingFrame, tryingRects } from "../state/trying";
import { currentSight, cutSight, namedSight, workedPath } from "../state/sight";
import { fetchedAhead } from "../state/sequence";
import { blendAt, mixAt, veilOf } from "../state/transitions";
import { useThumbnail } from "./thumbnail";

const MARGIN = 12;
const DETAIL_RADIUS = 110;
const TILE_WAIT_MS = 8;

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
  const trying = useSession((s) => s.trying !== null);
  const share = useSession((s) => s.looks.camera);
  const aspect = frameAspect(scene);
  const beside = useSession((s) => s.coverage?.length ?? 0);
  const row = useMemo(
    () => (beside ? coverageRow(scene, beside, size.width, size.height) : null),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- of the scene its format alone
    [beside, aspect, size],
  );
  const main = useMemo(() => ({ width: size.width, height: row?.top ?? size.height }), [size, row]);
  const rect = useMemo(() => fittedFrame(main.width, main.height, aspect, MARGIN), [main, aspect]);

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
    let posed: number | null = null;
    function ask() {
      asked ||= requestAnimationFrame(draw);
    }
    function draw() {
      asked = 0;
      if (!made) return;
      const state = session();
      const standing = withCameraHeld(state);
      const sight = currentSight(standing);
      if (!state.scene || !sight) return;
      if (state.trying) {
        const at = tryingFrame(state.trying);
        const rects = tryingRects(state.trying, size.width, size.height);
        made.apart(
          state.trying.ways.flatMap(({ scene, parts }, index) => {
            const seen = cutSight({ ...state, scene, parts, frame: at });
            return seen ? [{ scene, parts, frame: at, sight: seen, rect: rects[index]! }] : [];
          }),
        );
        canvas.current!.dataset.drawn = `trying ${at}`;
        return ask();
      }
      // Before anything is drawn that would have to be waited for.
      made.fetchTiles();
      const { camera: share, heldFrame, onionBy, onionCount } = state.looks;
      made.pose(state.scene, state.parts, share === "alone" ? heldFrame : state.frame, {
        onion: state.showOnion && !state.playing ? { count: onionCount, by: onionBy } : null,
        flipped: state.flipped,
        plain: state.shownAs === "plain body",
        silhouette: state.shownAs === "silhouette",
        echo: state.looks.echo ? echoOf(state, sight) : null,
      });
      posed = share === "alone" ? heldFrame : state.frame;
      const framed = fittedFrame(main.width, main.height, aspect, MARGIN);
      const grown = detail && { ...detail, radius: DETAIL_RADIUS, scale: 1 / devicePixelRatio };
      const { under, over } = mixed(standing, sight);
      made.render(state.scene, under, framed, grown, focusShown(state), over);
      if (row)
        made.row(
          state.scene,
          row.top,
          row.rects.flatMap((at, index) => {
            const seen = coverageSight(state, state.coverage?.[index] ?? "");
            return seen ? [{ sight: seen, rect: at }] : [];
          }),
        );
      canvas.current!.dataset.drawn = `${state.looking} ${state.frame} ${state.drawn}`;
      askTiles();
    }
    let asksTiles: ReturnType<typeof setTimeout> | undefined;
    // After the Picture has gone to the screen.
    function askTiles(wait = 0) {
      asksTiles ??= setTimeout(() => {
        asksTiles = undefined;
        const state = session();
        if (!made || posed !== state.frame) return; // it is drawn again in a moment, and the tiles after it
        if (!state.playing) made.fetchTiles();
        const next = fetchedAhead();
        if (next) made.prepare(next.answer.scene, next.parts);
        const more = drawTiles(made, state) || (!state.playing && made.tilesUnderWay > 0);
        if (more) askTiles(TILE_WAIT_MS);
      }, wait);
    }
    redraw.current = draw;
    whenTileIsShown(askTiles);
    ask();
    const release = useSession.subscribe(ask);
    return () => {
      release();
      cancelAnimationFrame(asked);
      clearTimeout(asksTiles);
    };
  }, [size, main, row, aspect, detail]);

  const { handlers, hovered } = useGestures(area, rect, setPointer);
  useThumbnail(stage, redraw);
  const largePlan = useSession((s) => s.largePlan);
  const showCompanions = useSession((s) => s.showCompanions);
  const inSequence = useSession((s) => s.sequence !== null);
  return (
    <>
      <Caption />
      <div className={showCompanions ? "picture-row with-companions" : "picture-row"}>
        {largePlan && (
          <div className="plan large">
            <PlanDrawing />
          </div>
        )}
        <div
          ref={area}
          className={largePlan ? "picture behind" : "picture"}
          data-testid="picture"
          {...handlers}
        >
          <canvas ref={canvas} aria-label="Picture" />
          {size.width > 0 && !trying && <Mask rect={rect} size={main} closed={showMask} />}
          {size.width > 0 && !trying && share === "moves" && (
            <Overlay rect={rect} size={size} hovered={hovered} />
          )}
          {detail && <DetailRing x={detail.x} y={detail.y} />}
          {size.width > 0 && !trying && <LaidOver rect={rect} />}
          {row && <Coverage rects={row.rects} />}
          {size.width > 0 && <Compare width={size.width} />}
          {size.width > 0 && <Matching width={size.width} height={size.height} />}
          {size.width > 0 && <Trying width={size.width} height={size.height} />}
        </div>
        {showCompanions && <Companions />}
      </div>
      <Transport />
      {inSequence && <SequenceStrip />}
    </>
  );
}

/** What carries something from where the picture showed it on another row to where that is in the world now. */
function echoOf(state: Session, now: Sight): (row: number) => Matrix4 | null {
  return (row) => {
    const then = currentSight({ ...state, frame: state.scene!.first + row });
    // Over a cut nothing is compared.
    return then?.by === now.by ? now.world.clone().multiply(then.world.clone().invert()) : null;
  };
}

/** What is drawn, and what lies over it: another camera, or the shot that takes over through the cut. */
function mixed(state: Session, sight: Sight): { under: Sight; over: Over | null } {
  const laid = laidSight(state);
  if (laid) return { under: sight, over: { sight: laid, share: state.laidOver!.share } };
  const mix = state.looking === "cut" && !state.provisional ? mixAt(state.scene, state.frame) : null;
  if (mix?.transition.kind === "dip")
    return {
      under: sight,
      over: { colour: mix.transition.colour, share: veilOf(mix.share) },
    };
  const [from, to] = [mix?.from, mix?.to].map((shot) => (shot ? namedSight(state, shot.camera_id) : null));
  if (mix?.transition.kind !== "dissolve" || !from || !to) return { under: sight, over: null };
  return { under: from, over: { sight: to, share: mix.share } };
}

/** What is sharp through the camera that is worked on; the blur is left out while it plays. */
function focusShown(state: Session): FocusShown | null {
  const { focusTint, scene, frame, looking, playing } = state;
  const camera = workedCamera(state);
  const path = workedPath(state);
  if (focusTint === "off" || looking === "roam" || !scene || !camera || !path) return null;
  if (camera.glass.orthographic_height_m !== null) return null;
  const moving = looking === "cut" ? blendAt(state, frame) : null;
  const row = moving ? moving.row : frame - scene.first;
  const { depths } = moving?.blend ?? path;
  const [focusM, near, far] = [0, 1, 2].map((i) => depths[row * 4 + i]!);
  return {
    way: focusTint === "blur" && !playing ? "blur" : "tint",
    near: near!,
    far: far!,
    blur: {
      focusM: focusM!,
      discAtInfinityPx: moving ? moving.blend.disc_px[row]! : discAtInfinity(scene, camera, path, row),
      near: Math.max(camera.glass.near_m, 0.02),
      far: camera.glass.far_m ?? 400,
    },
  };
}

/** b / w * W for a point at infinity: f^2 / (N (s - f)). */
function discAtInfinity(scene: SceneView, camera: CameraView, path: CameraPart, row: number): number {
  const focal = path.pose[row * 7 + 6]!;
  const gap = Math.max(1, path.depths[row * 4]! * 1000 - focal);
  const used = usedBack(camera.back, frameAspect(scene));
  return ((focal * focal) / (path.values.aperture![row]! * gap) / used.width) * scene.width;
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
  // One piece with a hole in it.
  const { x, y, width, height } = rect;
  const outer = `0 0, ${size.width}px 0, ${size.width}px ${size.height}px, 0 ${size.height}px, 0 0`;
  const [right, bottom] = [x + width, y + height];
  const hole = `${x}px ${y}px, ${right}px ${y}px, ${right}px ${bottom}px, ${x}px ${bottom}px, ${x}px ${y}px`;
  return (
    <div
      className={closed ? "mask" : "mask open"}
      style={{ ...size, clipPath: `polygon(evenodd, ${outer}, ${hole})` }}
    />
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
