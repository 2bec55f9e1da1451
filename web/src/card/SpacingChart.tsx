/** The spacing between two poses as an animator draws it: a tick a frame along the way, and where the ticks were meant to be. */
import "./spacingChart.css";
import { Select } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import { chartSpacing } from "../api/client";
import type { ShownPart, SpacingChartView } from "../api/generated";
import { INTENTS } from "../api/tables";
import type { Thing } from "../marks/thingHandles";
import { FixButton } from "../widgets/FixButton";
import { correctingCamera } from "../state/correcting";
import { isMeshPoint } from "../state/meshPoints";
import { goTo } from "../state/playback";
import { useCalmFrame } from "../state/calmFrame";
import { part, playRange, session, useSession } from "../state/session";
import { currentView } from "../state/shown";
import { Figure, px } from "../widgets/Figure";

/** Frames, where there are no key poses to go by. */
const USUAL = 12;
/** How wide a tick is for a hand. */
const HOLD = 8;
const [WIDTH, HEIGHT, MARGIN, LINE] = [236, 66, 12, 32];

export function SpacingChart({ thing, joint }: { thing: Thing; joint: string }) {
  const stretch = useStretch(thing);
  const [intent, setIntent] = useState<SpacingChartView["intent"] | null>(null);
  const [own, setOwn] = useState<number[]>([]);
  const [first, last] = stretch;
  // Drawn for one stretch, it says nothing of another.
  const isOwn = intent === "own" && own.length === last - first + 1;
  const meant = intent === "own" && !isOwn ? null : intent;
  const { chart, refused } = useChart(thing.id, joint, stretch, meant, isOwn ? own : NONE);
  const camera = useSession(correctingCamera);
  const draw = (shares: number[]) => {
    setOwn(shares);
    setIntent("own");
  };
  const worst =
    chart && chart.error_px.reduce((w, e, at, all) => (Math.abs(e) > Math.abs(all[w]!) ? at : w), 0);
  return (
    <>
      <h3>
        Spacing from <span className="mono">{first}</span> to <span className="mono">{last}</span>
      </h3>
      {refused && <p className="why">{refused}</p>}
      {chart && (
        <>
          <Ticks chart={chart} draw={draw} />
          <Select
            label="Meant to be"
            size="xs"
            data={[
              { value: "", label: `what fits best: ${bestOf(chart)}` },
              ...INTENTS.map((one, at) => ({
                value: one,
                label: `${one} (off by ${px(chart.fits_px[at])})`,
              })),
              ...(isOwn ? [{ value: "own", label: "as drawn: drag the ticks below the line" }] : []),
            ]}
            value={meant ?? ""}
            allowDeselect={false}
            onChange={(value) => setIntent((value || null) as typeof intent)}
          />
          <Figure label="off by, on the whole" testId="spacing-off">
            {px(rootMeanSquare(chart.error_px))}
          </Figure>
          <Figure label="farthest">
            {worst !== null && (
              <button className="toggle reading-link" onClick={() => goTo(chart.first + worst)}>
                {amount(chart.error_px[worst]!)}, {chart.first + worst}
              </button>
            )}
          </Figure>
          {"shown" in thing && !thing.block_id && camera !== undefined && !isMeshPoint(joint) && (
            <div className="actions">
              <FixButton
                fix={{
                  title: "Space it so",
                  does: `${thing.name} runs so from ${first} to ${last} that ${joint} is spaced as it was meant; the poses at both ends stay`,
                  edit: {
                    edit: "space stretch",
                    character_id: thing.id,
                    joint,
                    camera_id: camera,
                    first: chart.first,
                    last: chart.last,
                    shares: chart.intended,
                  },
                }}
              />
            </div>
          )}
        </>
      )}
    </>
  );
}

const NONE: number[] = [];
const rootMeanSquare = (values: number[]) =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / values.length);
const bestOf = ({ fits_px }: SpacingChartView) => INTENTS[fits_px.indexOf(Math.min(...fits_px))];
const amount = (error: number) => `${px(Math.abs(error))} ${error > 0 ? "ahead" : "behind"}`;

/** What is played where that is set; else from the key pose before the playhead to the next. */
function useStretch(thing: Thing): [number, number] {
  const scene = useSession((s) => s.scene)!;
  const range = useSession((s) => s.range);
  const frame = useCalmFrame();
  const shown = useSession((s) => ("shown" in thing ? part<ShownPart>(s, thing.shown) : null));
  if (range) return playRange({ scene, range });
  const keys = Array.from(shown?.key_poses ?? [], Math.round);
  const before = keys.findLast((key) => key <= frame && key < scene.last);
  const after = keys.find((key) => key > (before ?? frame) + 1);
  const first = before ?? Math.max(scene.first, Math.min(frame, scene.last - USUAL));
  return [first, Math.min(scene.last, after ?? first + USUAL)];
}

function useChart(
  thing_id: string,
  joint: string,
  [first, last]: [number, number],
  intent: SpacingChartView["intent"] | null,
  own: number[],
): { chart: SpacingChartView | null; refused: string | null } {
  const [found, setFound] = useState<{ chart: SpacingChartView | null; refused: string | null }>({
    chart: null,
    refused: null,
  });
  const arc = useSession((s) => s.scene!.arc);
  useEffect(() => {
    let wanted = true;
    const request = { thing_id, joint, camera_id: currentView().camera_id ?? null, first, last, intent, own };
    chartSpacing(session().scene!.id, request)
      .then((chart) => wanted && setFound({ chart, refused: null }))
      .catch(
        (error: unknown) =>
          wanted &&
          setFound({ chart: null, refused: error instanceof Error ? error.message : String(error) }),
      );
    return () => {
      wanted = false;
    };
  }, [thing_id, joint, first, last, intent, own, arc]);
  return found;
}

const clamp = (value: number, least: number, most: number) => Math.max(least, Math.min(most, value));

/** Above the line a tick for every frame, below it where that was meant to be; the two joined where they are apart. */
function Ticks({ chart, draw }: { chart: SpacingChartView; draw: (shares: number[]) => void }) {
  const frame = useCalmFrame();
  const x = (share: number) => MARGIN + share * (WIDTH - 2 * MARGIN);
  const held = useRef<number | null>(null);
  /** One tick elsewhere, between its neighbours. */
  const move = (at: number, share: number) => {
    const [before, after] = [chart.intended[at - 1]!, chart.intended[at + 1]!];
    draw(chart.intended.map((now, other) => (other === at ? clamp(share, before, after) : now)));
  };
  const shareAt = (event: React.PointerEvent<SVGElement>) => {
    const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
    return (((event.clientX - box.left) / box.width) * WIDTH - MARGIN) / (WIDTH - 2 * MARGIN);
  };
  const inner = (at: number) => at > 0 && at < chart.intended.length - 1;
  return (
    <svg
      className="spacing-chart"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="group"
      aria-label={`Spacing from ${chart.first} to ${chart.last}, and ${chart.intent} below it`}
    >
      <path className="way" d={`M${x(0)} ${LINE}H${x(1)}`} />
      {chart.share.map((share, at) => (
        <g key={at} className={chart.first + at === frame ? "here" : undefined}>
          <path className="is" d={`M${x(share)} ${LINE}v-15`} />
          <path className="meant" d={`M${x(chart.intended[at]!)} ${LINE + 4}v11`} />
          <path className="off" d={`M${x(share)} ${LINE}L${x(chart.intended[at]!)} ${LINE + 4}`} />
          {inner(at) && (
            <rect
              className="hold"
              role="slider"
              tabIndex={0}
              aria-label={`Where ${chart.first + at} was meant to be`}
              aria-valuenow={Math.round(chart.intended[at]! * 1000) / 10}
              aria-valuetext={`${(chart.intended[at]! * 100).toFixed(1)} % of the way`}
              x={x(chart.intended[at]!) - HOLD / 2}
              y={LINE + 3}
              width={HOLD}
              height={16}
              onPointerDown={(event) => {
                event.currentTarget.setPointerCapture(event.pointerId);
                held.current = at;
              }}
              onPointerMove={(event) => {
                if (held.current === at) move(at, shareAt(event));
              }}
              onPointerUp={() => (held.current = null)}
              onPointerCancel={() => (held.current = null)}
              onKeyDown={(event) => {
                const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
                if (!way) return;
                event.preventDefault();
                event.stopPropagation();
                move(at, chart.intended[at]! + way * (event.shiftKey ? 0.05 : 0.01));
              }}
            >
              <title>Drag it to where it was meant to be</title>
            </rect>
          )}
        </g>
      ))}
      <text x={x(0)} y={12} textAnchor="start">
        {chart.first}
      </text>
      <text x={x(1)} y={12} textAnchor="end">
        {chart.last}
      </text>
      <text x={x(0.5)} y={HEIGHT - 4} textAnchor="middle">
        {chart.intent === "own" ? "as drawn" : chart.intent}, over {chart.length_px.toFixed(0)} px
      </text>
    </svg>
  );
}
