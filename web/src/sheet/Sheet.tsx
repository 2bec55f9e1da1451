/** The exposure sheet: time runs downwards, a row a frame; every column speaks of the frame of its row. */
import { useMantineColorScheme } from "@mantine/core";
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { CAMERA_CHANNELS } from "../api/tables";
import { chooseThing } from "../state/contents";
import { goTo, stop } from "../state/playback";
import {
  type SheetSide,
  chosenCharacter,
  part,
  setSession,
  useSession,
  workedCamera,
} from "../state/session";
import type { SpeedPart } from "../api/generated";
import { CAMERA_SPEED, speedText } from "./drawCameraSpeed";
import { useEachFrame } from "../state/eachFrame";
import { exposed } from "../state/exposing";
import { zoomRows } from "../state/rowHeight";
import { useCalmFrame } from "../state/calmFrame";
import { FrameText } from "../widgets/FrameText";
import { useCurveHands } from "./curveHands";
import { chosenCurve, curveText, keyedOf, sampled } from "./curves";
import { useCutHands } from "./cutHands";
import { useLayerHands } from "./layerHands";
import { layersOf } from "./layers";
import { useExposureHands } from "./exposureHands";
import { COLUMNS, SHEET_WIDTH, groupColumns, headsStand } from "./columns";
import { keyColumns, laidOut } from "./keyColumns";
import { useKeyHands } from "./keyHands";
import { drawSheet } from "./drawSheet";
import { rowText } from "./rowText";

const SPOKEN_EVERY_MS = 500;

export function Sheet() {
  const scene = useSession((s) => s.scene)!;
  const parts = useSession((s) => s.parts);
  const character = useSession((s) => chosenCharacter(s));
  const shownThing = useSession((s) => exposed(s));
  const camera = useSession((s) => workedCamera(s));
  const joint = useSession((s) => s.joint);
  const chosenKeys = useSession((s) => s.chosenKeys);
  const row = useSession((s) => s.rowHeight);
  const { colorScheme } = useMantineColorScheme();
  const scroller = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [top, setTop] = useState(0);
  const [height, setHeight] = useState(0);
  const cutHands = useCutHands();
  const exposureHands = useExposureHands();
  const layerHands = useLayerHands();
  const curveHands = useCurveHands();
  const keyHands = useKeyHands();
  const side = useSession((s) => s.sheetSide);
  const strip = useSession((s) => s.looks.strip);
  const folded = useSession((s) => s.foldedColumns);
  const curveChannel = useSession((s) => s.curveChannel);
  const { held } = curveHands;
  const { box: keyBox } = keyHands;
  const curves = useMemo(
    () =>
      side === "curves"
        ? { channel: curveChannel, before: held?.before ?? null, scale: held?.scale ?? null }
        : null,
    [side, curveChannel, held],
  );
  const count = scene.last - scene.first + 1;
  const frame = useCalmFrame(SPOKEN_EVERY_MS);

  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setHeight(Math.round(entry!.contentRect.height)));
    watch.observe(scroller.current!);
    return () => watch.disconnect();
  }, []);
  useLayoutEffect(() => {
    if (!height) return;
    const view = {
      scene,
      character,
      exposed: shownThing,
      camera,
      parts,
      joint,
      chosenKeys,
      keyBox,
      side,
      strip,
      folded,
      curves,
      row,
      top,
      height,
    };
    drawSheet(canvas.current!, view);
  }, [
    scene,
    character,
    shownThing,
    camera,
    parts,
    joint,
    chosenKeys,
    keyBox,
    side,
    strip,
    folded,
    curves,
    row,
    top,
    height,
    colorScheme,
  ]);
  useFollowPlayhead(scroller, row, height);

  const frameAt = (event: React.PointerEvent) => {
    const y = event.clientY - scroller.current!.getBoundingClientRect().top + scroller.current!.scrollTop;
    return Math.max(scene.first, Math.min(scene.last, scene.first + Math.floor(y / row)));
  };
  const heightAt = (event: React.MouseEvent) =>
    event.clientY - scroller.current!.getBoundingClientRect().top + scroller.current!.scrollTop;
  const cuttable = (event: React.PointerEvent) => {
    const x = event.clientX - scroller.current!.getBoundingClientRect().left;
    if (x < COLUMNS.cut - 4 || x >= COLUMNS.exposures - 4) return null;
    return cutHands.at(heightAt(event), row, { shift: event.shiftKey, alt: event.altKey });
  };
  const onPointerDown = (event: React.PointerEvent) => {
    if (event.button !== 0) return;
    const x = event.clientX - scroller.current!.getBoundingClientRect().left;
    if (x > SHEET_WIDTH) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    stop();
    const ofCut = cuttable(event);
    if (ofCut) return cutHands.take(ofCut);
    const exposure = exposureHands.at(x, heightAt(event), row);
    if (exposure) return exposureHands.take(exposure);
    const layer = layerHands.at(x, heightAt(event), row, event.altKey);
    if (layer) return layerHands.take(layer);
    if (curves && x >= COLUMNS.spacing && curveHands.take(x, heightAt(event), row)) return;
    if (keyHands.take(x, heightAt(event), row, modifiersOf(event))) return;
    goTo(frameAt(event));
  };
  const onPointerMove = (event: React.PointerEvent) => {
    if (cutHands.isHeld()) return cutHands.move(heightAt(event), row);
    if (exposureHands.isHeld()) return exposureHands.move(heightAt(event), row);
    if (layerHands.isHeld()) return layerHands.move(heightAt(event), row);
    if (curveHands.isHeld()) {
      const x = event.clientX - scroller.current!.getBoundingClientRect().left;
      return curveHands.move(x, heightAt(event), row, modifiersOf(event));
    }
    if (keyHands.isHeld()) {
      const x = event.clientX - scroller.current!.getBoundingClientRect().left;
      return keyHands.move(x, heightAt(event), row, modifiersOf(event));
    }
    if (event.buttons !== 1) {
      const x = event.clientX - scroller.current!.getBoundingClientRect().left;
      exposureHands.setOver(exposureHands.at(x, heightAt(event), row) !== null);
      layerHands.setOver(layerHands.at(x, heightAt(event), row, false) !== null);
      return cutHands.setOver(cuttable(event) !== null);
    }
    goTo(frameAt(event));
  };
  const onPointerUp = () => {
    cutHands.letGo(true);
    exposureHands.letGo(true);
    layerHands.letGo(true);
    curveHands.letGo(true);
    keyHands.letGo(true, row);
  };
  return (
    <section className="sheet" aria-label="Exposure sheet">
      <Heads joint={joint} character={shownThing?.name ?? ""} />
      {side === "curves" && <CurveHead />}
      <div
        ref={scroller}
        className="rows"
        data-testid="sheet-rows"
        tabIndex={0}
        role="slider"
        aria-label="Frame"
        aria-orientation="vertical"
        aria-valuemin={scene.first}
        aria-valuemax={scene.last}
        aria-valuenow={frame}
        aria-valuetext={rowText({ scene, parts, character, camera, joint }, frame)}
        onScroll={(event) => setTop(event.currentTarget.scrollTop)}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={onPointerUp}
        onPointerCancel={() => {
          cutHands.letGo(false);
          exposureHands.letGo(false);
          layerHands.letGo(false);
          curveHands.letGo(false);
          keyHands.letGo(false, row);
        }}
        onDoubleClick={(event) => {
          const x = event.clientX - scroller.current!.getBoundingClientRect().left;
          if (curves && x >= COLUMNS.spacing) curveHands.addAt(heightAt(event), row);
          else exposureHands.toggleAt(x, scene.first + Math.floor(heightAt(event) / row));
        }}
        onWheel={(event) => event.ctrlKey && zoomRows(event.deltaY < 0 ? 1.2 : 1 / 1.2)}
        style={
          {
            "--row": `${row}px`,
            cursor: cutHands.over || exposureHands.over || layerHands.over ? "ns-resize" : undefined,
          } as React.CSSProperties
        }
      >
        <canvas ref={canvas} aria-hidden />
        <div style={{ height: Math.max(0, count * row - height) }} />
        <Playhead row={row} />
      </div>
    </section>
  );
}

const SIDES: [SheetSide, string][] = [
  ["keys", "The camera's keys by what they are of, in the place of spacing and slip"],
  ["curves", "The curves of the camera's keys, in the place of spacing and slip"],
  [
    "layers",
    "What the scene is made of, side by side: when each moves, is there, or is held; in the place of spacing and slip",
  ],
  ["sound", "What is heard, and the marks on the frames, in the place of spacing and slip"],
];

const modifiersOf = (event: React.PointerEvent) => ({
  shift: event.shiftKey,
  alt: event.altKey,
  ctrl: event.ctrlKey || event.metaKey,
});

const HEADS = { keys: "Keys of", poses: "Key poses of", places: "Keyed:" } as const;
const toggled = (folded: string[], id: string) =>
  folded.includes(id) ? folded.filter((other) => other !== id) : [...folded, id];

/** Each head keeps within its column. */
function Heads({ joint, character }: { joint: string | null; character: string }) {
  const side = useSession((s) => s.sheetSide);
  const recording = useSession((s) => s.recording);
  const strip = useSession((s) => s.looks.strip);
  const scene = useSession((s) => s.scene);
  const parts = useSession((s) => s.parts);
  const camera = useSession((s) => workedCamera(s));
  const folded = useSession((s) => s.foldedColumns);
  const sounds = useSession((s) => s.scene!.sounds);
  const columns: [keyof typeof COLUMNS, number, string, string, string?][] = [
    ["frame", COLUMNS.cut, "frame", "--graphite"],
    ["cut", COLUMNS.exposures, "cut", "--graphite"],
    ["exposures", COLUMNS.camera, character, "--red"],
    ["camera", COLUMNS.spacing, "keys", "--blue"],
  ];
  if (side === "spacing")
    columns.push(
      ["spacing", COLUMNS.slip, strip, "--red", joint ? `${joint}, px` : undefined],
      ["slip", SHEET_WIDTH, "slip", "--ochre", "px"],
    );
  const layers = side === "layers" ? layersOf(scene!) : [];
  const stands = headsStand(side === "sound" ? sounds.length : layers.length);
  return (
    <div className={["heads", recording && "recording", stands && "standing"].filter(Boolean).join(" ")}>
      {side === "keys" &&
        laidOut(keyColumns({ scene, parts }, camera), folded).map(
          ({ column, left, width, folded: isFolded }) => (
            <button
              key={column.id}
              className={`head of-group ${column.kind}`}
              style={{ left, width }}
              aria-expanded={!isFolded}
              title={`${HEADS[column.kind]} ${column.title}: a click ${isFolded ? "unfolds" : "folds"} it`}
              onClick={() => setSession({ foldedColumns: toggled(folded, column.id) })}
            >
              {isFolded ? "·" : column.title}
            </button>
          ),
        )}
      {side === "sound" &&
        groupColumns(sounds).map(({ group, left, middle }) => (
          <span
            key={group.sound.id}
            className="head of-sound"
            style={{ left, width: 2 * (middle - left) }}
            title={group.sound.name}
          >
            {group.sound.name}
          </span>
        ))}
      {side === "layers" &&
        groupColumns(layers).map(({ group, left, middle }) => (
          <button
            key={group.id}
            className={`head of-group ${group.kind}`}
            style={{ left, width: 2 * (middle - left) }}
            title={group.name}
            onClick={() => !group.sound && chooseThing(group.id)}
          >
            {group.name}
          </button>
        ))}
      {columns.map(([column, end, name, color, about]) => {
        const left = COLUMNS[column] + (column === "frame" ? 10 : 0);
        return (
          <span
            key={column}
            className="head"
            style={{ left, maxWidth: end - left - 4, color: `var(${color})` }}
            title={about ? `${name} ${about}` : name}
          >
            {name} {about && <small className="soft">{about}</small>}
          </span>
        );
      })}
      <span className="zoom">
        {SIDES.map(([shown, title]) => (
          <button
            key={shown}
            className="toggle"
            aria-pressed={side === shown}
            title={`${title} (Shift K goes on)`}
            onClick={() => setSession({ sheetSide: side === shown ? "spacing" : shown })}
          >
            {shown}
          </button>
        ))}
        <button className="toggle" onClick={() => zoomRows(1 / 1.3)} aria-label="Shorter rows">
          −
        </button>
        <button className="toggle" onClick={() => zoomRows(1.3)} aria-label="Taller rows">
          +
        </button>
      </span>
    </div>
  );
}

/** Which channel's curve is worked on, its value at the playhead, and how fast it changes there. */
function CurveHead() {
  const parts = useSession((s) => s.parts);
  const camera = useSession((s) => workedCamera(s));
  const wanted = useSession((s) => s.curveChannel);
  const first = useSession((s) => s.scene!.first);
  const rate = useSession((s) => s.scene!.rate_float);
  const keyed = keyedOf(parts, camera);
  const chosen = chosenCurve(parts, camera, wanted);
  const values = camera && chosen ? sampled(parts, camera, chosen[0]) : null;
  const ofCamera = useSession((s) => part<SpeedPart>(s, s.scene!.speed));
  const showsSpeed = wanted === CAMERA_SPEED && ofCamera !== null;
  if (!chosen && !ofCamera)
    return <p className="curve-head why">{camera?.name ?? "The camera"} has no keys yet (K).</p>;
  return (
    <div className="curve-head">
      <select
        aria-label="Channel of the curve"
        value={showsSpeed ? CAMERA_SPEED : chosen?.[0]}
        onChange={(event) => setSession({ curveChannel: event.currentTarget.value })}
      >
        {keyed.map(([name]) => (
          <option key={name} value={name}>
            {CAMERA_CHANNELS[name].title}
          </option>
        ))}
        {ofCamera && <option value={CAMERA_SPEED}>camera</option>}
      </select>
      <FrameText
        className="mono"
        of={(frame) => {
          const row = Math.max(0, frame - first);
          if (showsSpeed) return speedText(ofCamera, row);
          return chosen ? curveText(chosen[0], values, row, rate) : "";
        }}
      />
    </div>
  );
}

function Playhead({ row }: { row: number }) {
  const first = useSession((s) => s.scene!.first);
  const rule = useRef<HTMLDivElement>(null);
  useEachFrame((frame) => {
    rule.current!.style.transform = `translateY(${(frame - first) * row + row / 2}px)`;
  });
  return <div ref={rule} className="rule" data-testid="playhead" />;
}

/** Scroll so that the playhead stays in sight. */
function useFollowPlayhead(scroller: React.RefObject<HTMLDivElement | null>, row: number, height: number) {
  const first = useSession((s) => s.scene!.first);
  const followed = useRef("");
  useEachFrame((frame) => {
    const element = scroller.current;
    const now = `${frame - first} ${row} ${height}`;
    if (!element || !height || now === followed.current) return; // it may be scrolled away from where it stands
    followed.current = now;
    const y = (frame - first) * row;
    if (y < element.scrollTop + row) element.scrollTop = Math.max(0, y - height * 0.3);
    else if (y > element.scrollTop + height - 2 * row) element.scrollTop = y - height * 0.7;
  });
}
