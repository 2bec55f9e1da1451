/** What became better and worse from one state of a scene to another, reading by reading. */
import type { ChangeView, ReadingView } from "../api/generated";
import { READING_TITLES } from "../api/tables";
import { amountOf, figuresOf } from "../state/readingText";
import { cameraNamed, useSession } from "../state/session";

const WORDS: Record<ChangeView["status"], string> = {
  new: "new",
  worse: "worse",
  better: "better",
  gone: "gone",
  same: "the same",
};

export function Changes({ changes }: { changes: ChangeView[] }) {
  if (!changes.length) return <p>Nothing becomes better or worse by the readings of the cut.</p>;
  const count = (status: ChangeView["status"]) => changes.filter((c) => c.status === status).length;
  const heads = (["new", "worse", "better", "gone"] as const).filter((status) => count(status));
  return (
    <>
      <h2 className="what-changes">
        {heads.map((status) => `${count(status)} ${WORDS[status]}`).join(" · ")}
      </h2>
      <ul className="readings changes" data-testid="version-changes">
        {changes.map((change, index) => (
          <li key={index} className={change.status}>
            <b className="status">{WORDS[change.status]}</b>
            <span className="what">
              <b>{READING_TITLES[change.reading.kind]}</b>
              <Where reading={change.reading} />
            </span>
            <span className="mono size">
              {change.was && `${amountOf(change.was)} → `}
              {amountOf(change.reading)}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

function Where({ reading }: { reading: ReadingView }) {
  const camera = useSession((s) => cameraNamed(s, reading.camera_id)?.name);
  const { subject, first, last } = reading;
  const words = [
    subject,
    camera !== subject && camera,
    first === last ? first : `${first}–${last}`,
    ...figuresOf(reading),
  ];
  return <span className="soft">{words.filter(Boolean).join(" · ")}</span>;
}
