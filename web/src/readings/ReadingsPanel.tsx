/** Readings: what was measured and is out of bounds, the worst first, with the fix where there is one. */
import { Fragment, useMemo, useState } from "react";
import type { ReadingView } from "../api/generated";
import { READING_MEANINGS, READING_TITLES } from "../api/tables";
import { PixelsOf } from "../widgets/Figure";
import { goTo } from "../state/playback";
import { useAtCalmFrame } from "../state/calmFrame";
import { amountOf, figuresOf } from "../state/readingText";
import { refreshView } from "../state/shown";
import { type Sieve, SieveChoice, sieved } from "./Sieve";
import { Accept } from "./Accept";
import { FixButton } from "../widgets/FixButton";
import { StrictnessChoice } from "./Strictness";
import { SinceLastLook } from "./SinceLastLook";
import { Why } from "./Why";
import { SequenceReadings } from "./SequenceReadings";
import { cameraNamed, judging, session, setSession, thingNamed, useSession } from "../state/session";

export function ReadingsPanel() {
  const readings = useSession((s) => s.scene!.readings);
  const judged = useSession((s) => s.scene!.judged);
  const inSequence = useSession((s) => s.sequence !== null);
  const [ofAll, setOfAll] = useState(false);
  const [since, setSince] = useState(false);
  const [sieve, setSieve] = useState<Sieve>(null);
  const all = useMemo(() => readings.filter((reading) => reading.accepted === null), [readings]);
  const told = useMemo(() => sieved(all, sieve), [all, sieve]);
  const accepted = useMemo(() => readings.filter((reading) => reading.accepted !== null), [readings]);
  const causes = useMemo(() => byCause(told), [told]);
  const scope = inSequence && (
    <button
      className="toggle"
      aria-pressed={ofAll}
      title="The readings of all scenes of the sequence in one list"
      onClick={() => setOfAll(!ofAll)}
    >
      whole sequence
    </button>
  );
  if (inSequence && ofAll)
    return (
      <section className="panel readings-pane" aria-label="Readings">
        <h2>
          Readings <small>of every scene, sorted by how much they hurt</small> {scope}
        </h2>
        <SequenceReadings />
      </section>
    );
  return (
    <section className="panel readings-pane" aria-label="Readings">
      <h2>
        <span title={`The worst first, of ${causes.length === 1 ? "one cause" : `${causes.length} causes`}`}>
          Readings · {told.length}
        </span>{" "}
        <span className="pixels-of">
          <PixelsOf />
        </span>{" "}
        {scope}
        <span className="spacer" />
        <button
          className="toggle"
          aria-pressed={since}
          title="What became new, worse, better, and what is gone since the last look"
          onClick={() => setSince(!since)}
        >
          changes
        </button>
        <StrictnessChoice />
        <SieveChoice readings={all} sieve={sieve} choose={setSieve} />
      </h2>
      {since && <SinceLastLook readings={all} close={() => setSince(false)} />}
      <ul className="readings" hidden={since}>
        {causes.map((readings) => (
          <CauseRows key={readings[0]!.cause} readings={readings} />
        ))}
        {accepted.length > 0 && <AcceptedRows readings={accepted} />}
        {!readings.length && (
          <li className="empty">
            {judged ? "Nothing is out of bounds: no arc, no framing, no contact." : "Being judged…"}
          </li>
        )}
      </ul>
    </section>
  );
}

/** Readings of one cause each, in the order of what hurts most of it. */
function byCause(readings: ReadingView[]): ReadingView[][] {
  return [...Map.groupBy(readings, (reading) => reading.cause).values()];
}

/** The reading that hurts most of what one cause brings; the others unfold. */
function CauseRows({ readings }: { readings: ReadingView[] }) {
  const [unfolded, setUnfolded] = useState(false);
  const [worst, ...others] = readings;
  return (
    <>
      <Row reading={worst!}>
        {others.length > 0 && (
          <button className="toggle more" aria-expanded={unfolded} onClick={() => setUnfolded(!unfolded)}>
            {unfolded ? "fold" : `${others.length} more of its ${worst!.cause_title}`}
          </button>
        )}
      </Row>
      {unfolded && others.map((reading, index) => <Row key={index} reading={reading} isFurther />)}
    </>
  );
}

/** What somebody lets stand, folded. */
function AcceptedRows({ readings }: { readings: ReadingView[] }) {
  const [unfolded, setUnfolded] = useState(false);
  return (
    <>
      <li className="further">
        <button className="toggle more" aria-expanded={unfolded} onClick={() => setUnfolded(!unfolded)}>
          {unfolded
            ? "fold"
            : readings.length === 1
              ? "one that may stand"
              : `${readings.length} that may stand`}
        </button>
      </li>
      {unfolded && readings.map((reading, index) => <Row key={index} reading={reading} isFurther />)}
    </>
  );
}

interface RowProps {
  reading: ReadingView;
  isFurther?: boolean;
  children?: React.ReactNode;
}

function Row({ reading, isFurther, children }: RowProps) {
  const { kind, subject, first, last } = reading;
  const [open, setOpen] = useState(false);
  const here = useAtCalmFrame((frame) => frame >= first && frame <= last);
  const camera = useSession((s) => cameraNamed(s, reading.camera_id)?.name);
  // An arc is a joint's: whose it is, is said before it.
  const owner = useSession((s) => subject === reading.joint && thingNamed(s, reading.character_id)?.name);
  const pieces = [
    owner ? `${owner} ${subject}` : subject,
    camera !== subject && camera,
    reading.shot && `shot ${reading.shot}`,
    first === last ? first : `${first}–${last}`,
    ...figuresOf(reading),
  ].filter(Boolean);
  return (
    <li
      className={
        [here && "here", reading.remark && "remark", isFurther && "further"].filter(Boolean).join(" ") ||
        undefined
      }
    >
      <button
        className="what"
        aria-expanded={open}
        onClick={() => {
          show(reading);
          setOpen(!open);
        }}
        title={READING_MEANINGS[kind]}
      >
        <b>{READING_TITLES[kind]}</b>
        <span className="soft">
          {pieces.map((piece, index) => (
            <Fragment key={index}>
              <span className="piece">{index < pieces.length - 1 ? `${piece} ·` : piece}</span>{" "}
            </Fragment>
          ))}
        </span>
        {reading.note && <span className="soft note">{reading.note}</span>}
        {reading.accepted !== null && <span className="soft note">May stand: {reading.accepted.reason}</span>}
      </button>
      <span className="mono size">{amountOf(reading)}</span>
      {reading.fixes.map((fix) => (
        <FixButton key={fix.title} fix={fix} />
      ))}
      {!reading.remark && <Accept reading={reading} />}
      {open && <Why reading={reading} />}
      {children}
    </li>
  );
}

/** On the frame on which it is worst, with the arc of the joint that it is about. */
function show({ frame, joint, character_id }: ReadingView): void {
  const { scene } = session();
  goTo(frame);
  if (!joint || !character_id) return;
  setSession({ ...judging(scene, character_id, joint), showArc: true });
  void refreshView();
}
