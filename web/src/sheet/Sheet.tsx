/** The exposure sheet: time runs downwards, a row a frame; every column speaks of the frame of its row. */
import { useMantineColorScheme } from "@mantine/core";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { moveCameraKey } from "../state/actions";
import { goTo, stop } from "../state/playback";
import { chosenCharacter, setSession, useSession, workedCamera } from "../state/session";
import { useEachFrame } from "../state/eachFrame";
import { zoomRows } from "../state/rowHeight";
import { useCalmFrame } from "../state/calmFrame";
import { useCutHands } from "./cutHands";
import { COLUMNS, SHEET_WIDTH, drawSheet } from "./drawSheet";
import { rowText } from "./rowText";

const SPOKEN_EVERY_MS = 500;

export function Sheet() {
  const scene = useSession((s) => s.scene)!;
  const parts = useSession((s) => s.parts);
  const character = useSession((s) => chosenCharacter(s));
  const camera = useSession((s) => workedCamera(s));
  const joint = useSession((s) => s.joint);
  const selectedKey = useSession((s) => s.selectedKey);
  const row = useSession((s) => s.rowHeight);
  const { colorScheme } = useMantineColorScheme();
  const scroller = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [top, setTop] = useState(0);
  const [height, setHeight] = useState(0);
  const [draggedTo, setDraggedTo] = useState<{ time: string; frame: number } | null>(null);
  const cutHands = useCutHands();
  const count = scene.last - scene.first + 1;
  const frame = useCalmFrame(SPOKEN_EVERY_MS);

  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setHeight(Math.round(entry!.contentRect.height)));
    watch.observe(scroller.current!);
    return () => watch.disconnect();
  }, []);
  useLayoutEffect(() => {
    if (!height) return;
    const view = { scene, character, camera, parts, joint, selectedKey, draggedTo, row, top, height };
    drawSheet(canvas.current!, view);
  }, [scene, character, camera, parts, joint, selectedKey, draggedTo, row, top, height, colorScheme]);
  useFollowPlayhead(scroller, row, height);

  const frameAt = (event: React.PointerEvent) => {
    const y = event.clientY - scroller.current!.getBoundingClientRect().top + scroller.current!.scrollTop;
    return Math.max(scene.first, Math.min(scene.last, scene.first + Math.floor(y / row)));
  };
  const heightAt = (event: React.PointerEvent) =>
    event.clientY - scroller.current!.getBoundingClientRect().top + scroller.current!.scrollTop;
  const cuttable = (event: React.PointerEvent) => {
    const x = event.clientX - scroller.current!.getBoundingClientRect().left;
    if (x < COLUMNS.cut - 4 || x >= COLUMNS.exposures - 4) return null;
    return cutHands.at(heightAt(event), row, event.shiftKey);
  };
  const onPointerDown = (event: React.PointerEvent) => {
    if (event.button !== 0) return;
    const x = event.clientX - scroller.current!.getBoundingClientRect().left;
    if (x > SHEET_WIDTH) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    stop();
    const ofCut = cuttable(event);
    if (ofCut) return cutHands.take(ofCut);
    const frame = frameAt(event);
    const key = camera?.keys.find((k) => Math.round(k.frame) === frame);
    const onKeys = x >= COLUMNS.camera && x < COLUMNS.spacing;
    setSession({ selectedKey: onKeys && key ? key.time : null });
    if (onKeys && key) setDraggedTo({ time: key.time, frame });
    goTo(frame);
  };
  const onPointerMove = (event: React.PointerEvent) => {
    if (cutHands.isHeld()) return cutHands.move(heightAt(event), row);
    if (event.buttons !== 1) return cutHands.setOver(cuttable(event) !== null);
    const frame = frameAt(event);
    if (draggedTo) setDraggedTo({ ...draggedTo, frame });
    goTo(frame);
  };
  const onPointerUp = () => {
    cutHands.letGo(true);
    if (draggedTo && String(draggedTo.frame) !== draggedTo.time)
      moveCameraKey(draggedTo.time, draggedTo.frame);
    setDraggedTo(null);
  };
  return (
    <section className="sheet" aria-label="Exposure sheet">
      <Heads joint={joint} character={character?.name ?? ""} />
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
          setDraggedTo(null);
        }}
        onWheel={(event) => event.ctrlKey && zoomRows(event.deltaY < 0 ? 1.2 : 1 / 1.2)}
        style={
          { "--row": `${row}px`, cursor: cutHands.over ? "ns-resize" : undefined } as React.CSSProperties
        }
      >
        <canvas ref={canvas} aria-hidden />
        <div style={{ height: Math.max(0, count * row - height) }} />
        <Playhead row={row} />
      </div>
    </section>
  );
}

/** Each head keeps within its column. */
function Heads({ joint, character }: { joint: string | null; character: string }) {
  const columns: [keyof typeof COLUMNS, number, string, string, string?][] = [
    ["frame", COLUMNS.cut, "frame", "--graphite"],
    ["cut", COLUMNS.exposures, "cut", "--graphite"],
    ["exposures", COLUMNS.camera, character, "--red"],
    ["camera", COLUMNS.spacing, "keys", "--blue"],
    ["spacing", COLUMNS.slip, "spacing", "--red", joint ? `${joint}, px` : undefined],
    ["slip", SHEET_WIDTH, "slip", "--ochre", "px"],
  ];
  return (
    <div className="heads">
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
