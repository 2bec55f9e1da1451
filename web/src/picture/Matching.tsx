/**
 * Both sides of a cut over the Picture: the last frame before it and the first one after it, beside or over each other, with
 * where each character is and how fast; the incoming move is slid in time while the figures follow.
 */
import "./matching.css";
import { Button, SegmentedControl } from "@mantine/core";
import { useState } from "react";
import type { MatchPart } from "../api/generated";
import { frameAspect } from "../optics/lens";
import { LivePicture } from "../stage/LivePicture";
import { edit } from "../state/edits";
import { endMatching, matchCut, shotsAround } from "../state/matching";
import { type Session, cameraNamed, part, setSession, useSession } from "../state/session";
import { namedSight } from "../state/sight";
import { useHeldEdit } from "../widgets/heldEdit";
import { PlaceMarks } from "./PlaceMarks";

const GAP = 14;
const FOOT = 146;
/** So far the incoming move can be slid at once, frames. */
const FARTHEST = 24;

type Subject = MatchPart["match"]["subjects"][number];

export function Matching({ width, height }: { width: number; height: number }) {
  const matching = useSession((s) => s.matching);
  const scene = useSession((s) => s.scene)!;
  const found = useSession((s) => part<MatchPart>(s, s.scene?.match)?.match ?? null);
  if (!matching) return null;
  const shots = shotsAround(scene.cut, matching.first);
  const aspect = frameAspect(scene);
  const room = height - FOOT - 2 * GAP;
  const wide = matching.over
    ? Math.min(width - 2 * GAP, room * aspect)
    : Math.min((width - 3 * GAP) / 2, room * aspect);
  const size = { width: Math.floor(wide), height: Math.floor(wide / aspect) };
  const match = found?.first === matching.first ? found : null;
  return (
    <div className="matching" data-testid="matching" onPointerDown={(event) => event.stopPropagation()}>
      {shots ? (
        <>
          <div
            className={matching.over ? "pictures over" : "pictures"}
            style={matching.over ? size : undefined}
          >
            <Side shot={shots[0]} frame={matching.first - 1} size={size} />
            <Side shot={shots[1]} frame={matching.first} size={size} />
            {match && matching.over && <Marks subjects={match.subjects} size={size} sides="both" />}
            {match && !matching.over && (
              <>
                <div className="marks" style={{ ...size, left: 0 }}>
                  <Marks subjects={match.subjects} size={size} sides="before" />
                </div>
                <div className="marks" style={{ ...size, right: 0 }}>
                  <Marks subjects={match.subjects} size={size} sides="after" />
                </div>
              </>
            )}
          </div>
          <Foot shots={shots} match={match} />
        </>
      ) : (
        <p>
          No shot begins on {matching.first} any more. <Button onClick={endMatching}>Close</Button>
        </p>
      )}
    </div>
  );
}

interface SideProps {
  shot: { camera_id: string; title: string };
  frame: number;
  size: { width: number; height: number };
}

function Side({ shot, frame, size }: SideProps) {
  const camera = useSession((s) => cameraNamed(s, shot.camera_id));
  return (
    <figure>
      <LivePicture
        {...size}
        label={`${camera?.name ?? ""} on ${frame}`}
        frame={() => frame}
        sight={(state: Session) => namedSight({ ...state, frame }, shot.camera_id)}
        shows={(state: Session) =>
          JSON.stringify([
            cameraNamed(state, shot.camera_id)?.path,
            state.shownAs,
            state.scene!.characters.map((c) => [c.motion, c.shown]),
            state.scene!.pieces.map((p) => [p.motion, p.placed]),
          ])
        }
      />
      <figcaption>
        <b className="mono">{frame}</b> {shot.title} · {camera?.name}
      </figcaption>
    </figure>
  );
}

/** Where each character is on either side. */
function Marks({
  subjects,
  size,
  sides,
}: {
  subjects: Subject[];
  size: { width: number; height: number };
  sides: "before" | "after" | "both";
}) {
  const scene = useSession((s) => s.scene)!;
  const at = (place: Subject["before"]): [number, number] | null =>
    place && [(place[0] * size.width) / scene.width, (place[1] * size.height) / scene.height];
  const of = subjects.map(({ character_id: id, name, before, after }) => ({
    id,
    name,
    before: at(before),
    after: at(after),
  }));
  return (
    <svg viewBox={`0 0 ${size.width} ${size.height}`} aria-hidden>
      <PlaceMarks of={of} sides={sides} right={size.width} />
    </svg>
  );
}

function Foot({
  shots,
  match,
}: {
  shots: NonNullable<ReturnType<typeof shotsAround>>;
  match: MatchPart["match"] | null;
}) {
  const cut = useSession((s) => s.scene!.cut);
  const { first, over } = useSession((s) => s.matching)!;
  const firsts = cut.slice(1).map((shot) => shot.first);
  const at = firsts.indexOf(first);
  const go = (by: 1 | -1) => matchCut(firsts[(at + by + firsts.length) % firsts.length]!);
  return (
    <div className="foot">
      <div className="line">
        <Button disabled={firsts.length < 2} onClick={() => go(-1)} aria-label="Cut before">
          ‹
        </Button>
        <b className="mono">
          {shots[0].title} | {shots[1].title}
        </b>
        <Button disabled={firsts.length < 2} onClick={() => go(1)} aria-label="Next cut">
          ›
        </Button>
        <SegmentedControl
          size="xs"
          aria-label="How the two are shown"
          value={over ? "over" : "beside"}
          data={[
            { value: "beside", label: "side by side" },
            { value: "over", label: "over each other" },
          ]}
          onChange={(value) => setSession({ matching: { first, over: value === "over" } })}
        />
        <Slide key={first} shot={shots[1]} />
        <span className="spacer" />
        <Button onClick={endMatching} title="Alt H, or Escape">
          Close
        </Button>
      </div>
      {match && <Figures match={match} first={shots[1].begins} />}
    </div>
  );
}

/** The move that comes in, earlier or later: the picture and the figures follow the hand. */
function Slide({ shot }: { shot: { begins: number; camera_id: string; locked: boolean } }) {
  const hold = useHeldEdit();
  const [by, setBy] = useState(0);
  const camera = useSession((s) => cameraNamed(s, shot.camera_id));
  const disabled = shot.locked || !camera?.keys.length || camera.locked;
  const slip = (value: number) => ({ edit: "slip shot", first: shot.begins, by: String(value) }) as const;
  return (
    <label
      className="slide"
      title={disabled ? "Its camera is locked, or has no keys" : "Arrow keys slide it too"}
    >
      incoming move
      <input
        type="range"
        min={-FARTHEST}
        max={FARTHEST}
        step={1}
        value={by}
        disabled={disabled}
        onPointerDown={() => hold.take()}
        onChange={(event) => {
          const value = Number(event.currentTarget.value);
          if (hold.isHeld()) {
            setBy(value);
            hold.show(value ? slip(value) : null);
          } else edit(slip(value - by)); // by a key: at once
        }}
        onPointerUp={(event) => {
          event.currentTarget.blur(); // keys are the window's again
          hold.letGo(true);
          setBy(0);
        }}
        onPointerCancel={() => {
          hold.letGo(false);
          setBy(0);
        }}
      />
      <span className="mono">{by ? `${by > 0 ? "+" : ""}${by} f` : "0 f"}</span>
    </label>
  );
}

const px = (value: number | null) => (value === null ? "–" : value.toFixed(1));

function Figures({ match, first }: { match: MatchPart["match"]; first: number }) {
  return (
    <table>
      <thead>
        <tr>
          <th />
          <th>place jumps</th>
          <th>speed before</th>
          <th>after</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {match.subjects.map((subject) => (
          <tr key={subject.character_id}>
            <th>{subject.name}</th>
            <td>{subject.jump_px === null ? "not in both" : `${subject.jump_px.toFixed(0)} px`}</td>
            <td>{px(subject.speed_before_px)} px/f</td>
            <td>{px(subject.speed_after_px)} px/f</td>
            <td>
              {subject.jump_px !== null && (
                <Button
                  title="Turn the camera that comes in, over its whole move alike"
                  onClick={() => edit({ edit: "match place", first, character_id: subject.character_id })}
                >
                  Match its place
                </Button>
              )}
            </td>
          </tr>
        ))}
        <tr>
          <th>background</th>
          <td />
          <td>{px(match.background_before_px)} px/f</td>
          <td>{px(match.background_after_px)} px/f</td>
          <td />
        </tr>
      </tbody>
    </table>
  );
}
