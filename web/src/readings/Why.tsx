/** Why a reading is told: its meaning, its figures, and a small picture of what it was worked out from. */
import { useEffect, useState } from "react";
import { whyTold } from "../api/client";
import type { ReadingView, WhySeriesView, WhyArcView } from "../api/generated";
import { READING_MEANINGS } from "../api/tables";
import { amountOf } from "../state/readingText";
import { session, useSession } from "../state/session";
import { currentView, report } from "../state/shown";

const [WIDTH, HEIGHT, PAD] = [300, 96, 10];
const BARS = { width: 70, height: 60 };
const OF = { subject: "the subject's", camera: "the camera's", both: "both's" };

export function Why({ reading }: { reading: ReadingView }) {
  const found = useWhy(reading);
  const { threshold, least, unit, fault_of: of } = reading;
  const told = [
    threshold > 0 && `from ${amountOf({ size: threshold, unit })} on`,
    least !== null && least > threshold && `least to be told here ${amountOf({ size: least, unit })}`,
    of && `${OF[of]} fault`,
  ].filter(Boolean);
  return (
    <div className="why-told" data-testid="why">
      <p>
        {READING_MEANINGS[reading.kind]} {told.length > 0 && <span>Told {told.join(", ")}.</span>}
      </p>
      {found?.way === "arc" && <Arc why={found} frame={reading.frame} />}
      {found?.way === "series" && <Series why={found} reading={reading} />}
    </div>
  );
}

type Found = WhyArcView | WhySeriesView;

/** Asked for anew when the scene was changed; what there is stays until then. */
function useWhy(reading: ReadingView): Found | null {
  const [found, setFound] = useState<Found | null>(null);
  const revision = useSession((s) => s.scene!.revision);
  const { kind, first, last, frame, character_id, camera_id, joint, as_seen } = reading;
  useEffect(() => {
    let wanted = true;
    const told = { kind, first, last, frame, character_id, camera_id, joint, as_seen };
    whyTold(session().scene!.id, { ...told, seen_through: currentView().camera_id ?? null })
      .then((why) => wanted && setFound(why))
      .catch((error: unknown) => wanted && report(error));
    return () => {
      wanted = false;
    };
  }, [kind, first, last, frame, character_id, camera_id, joint, as_seen, revision]);
  return found;
}

type Point = [number, number];

const pairs = (flat: readonly (number | null)[]): (Point | null)[] =>
  Array.from({ length: flat.length / 2 }, (_, at) => {
    const [x, y] = [flat[2 * at]!, flat[2 * at + 1]!];
    return x === null || y === null ? null : [x, y];
  });

const line = (points: (Point | null)[]) =>
  points.map((p, at) => (p ? `${at && points[at - 1] ? "L" : "M"}${p[0]} ${p[1]}` : "")).join("");

/** The track with a tick on every frame, the curve that was fitted without the fault, and what the fit leaves. */
function Arc({ why, frame }: { why: WhyArcView; frame: number }) {
  const places = pairs(why.places);
  const [before, after] = [pairs(why.before), pairs(why.after)];
  const all = [...places, ...before, ...after].filter((p) => p !== null);
  const [xs, ys] = [all.map((p) => p[0]), all.map((p) => p[1])];
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [wide, tall] = [Math.max(...xs) - left || 1, Math.max(...ys) - top || 1];
  const scale = Math.min((WIDTH - BARS.width - 3 * PAD) / wide, (HEIGHT - 2 * PAD) / tall);
  const at = (p: Point | null): Point | null =>
    p && [PAD + (p[0] - left) * scale, PAD + (p[1] - top) * scale];
  const fault = at(places[frame - why.first] ?? null);
  const wanted = at(why.wanted as Point);
  const most = Math.max(...why.left_px, 0.01);
  const bar = BARS.width / why.left_px.length;
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="img"
        aria-label="The frames around the fault, and the curve fitted to them"
      >
        <path className="track" d={line(places.map(at))} />
        <path className="fit" d={line(before.map(at))} />
        <path className="fit" d={line(after.map(at))} />
        {fault && wanted && <path className="off" d={line([fault, wanted])} />}
        {places.map((p, index) => {
          const here = at(p);
          return (
            here && (
              <circle
                key={index}
                className={index === frame - why.first ? "fault" : "tick"}
                cx={here[0]}
                cy={here[1]}
                r={index === frame - why.first ? 4.5 : 2.2}
              />
            )
          );
        })}
        <g transform={`translate(${WIDTH - BARS.width - PAD} ${PAD})`}>
          {why.left_px.map((px, index) => (
            <rect
              key={index}
              className="left"
              x={index * bar}
              y={BARS.height - (px / most) * BARS.height}
              width={bar - 1.5}
              height={(px / most) * BARS.height}
            />
          ))}
          <path className="axis" d={`M0 ${BARS.height}h${BARS.width}`} />
          <text x={BARS.width / 2} y={BARS.height + 12}>
            left at most {most.toFixed(2)} px
          </text>
        </g>
      </svg>
      <figcaption>
        Dots: frames <span className="mono">{why.first}</span> to{" "}
        <span className="mono">{why.first + places.length - 1}</span>. Line: the smooth motion that the other
        eight frames ask for.
      </figcaption>
    </figure>
  );
}

/** Values frame by frame, with the limit for them. */
function Series({ why, reading }: { why: WhySeriesView; reading: ReadingView }) {
  const known = why.values.filter((v) => v !== null);
  const low = why.limit === null ? Math.min(...known) : 0;
  const high = Math.max(...known, why.limit ?? -Infinity) || 1;
  const step = (WIDTH - 2 * PAD) / Math.max(1, why.values.length);
  const y = (value: number) => HEIGHT - 2 * PAD - ((value - low) / (high - low || 1)) * (HEIGHT - 4 * PAD);
  return (
    <figure>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label="Frame by frame, with the limit">
        {why.values.map((value, index) => {
          if (value === null) return null;
          const frame = why.first + index;
          const inside = frame >= reading.first && frame <= reading.last;
          return (
            <rect
              key={index}
              className={inside ? "over" : "left"}
              x={PAD + index * step}
              y={Math.min(y(value), y(low) - 1)}
              width={Math.max(0.6, step - (step > 3 ? 1 : 0))}
              height={Math.max(1, y(low) - y(value))}
            />
          );
        })}
        <path className="axis" d={`M${PAD} ${y(low)}H${WIDTH - PAD}`} />
        {why.limit !== null && <path className="limit" d={`M${PAD} ${y(why.limit)}H${WIDTH - PAD}`} />}
        <text className="start" x={PAD} y={HEIGHT - 4}>
          {why.first}
        </text>
        <text className="end" x={WIDTH - PAD} y={HEIGHT - 4}>
          {why.first + why.values.length - 1}
        </text>
        <text className="start" x={PAD} y={PAD}>
          {amountOf({ size: high, unit: why.unit })}
          {why.limit !== null && ` · limit ${amountOf({ size: why.limit, unit: why.unit })}`}
        </text>
      </svg>
    </figure>
  );
}
