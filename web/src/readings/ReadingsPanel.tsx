/** Readings: what was measured and is out of bounds, the worst first, with the fix where there is one. */
import { Button } from "@mantine/core";
import type { CameraView, ReadingView } from "../api/generated";
import { PixelsOf } from "../card/Figure";
import { setRide } from "../state/actions";
import { edit } from "../state/edits";
import { goTo } from "../state/playback";
import { useCalmFrame } from "../state/calmFrame";
import { cameraNamed, session, useSession } from "../state/session";
import { jointSubject } from "../state/subjects";

export function ReadingsPanel() {
  const readings = useSession((s) => s.scene!.readings);
  const joint = useSession((s) => s.joint);
  const sorted = [...readings].sort((a, b) => hurt(b) - hurt(a));
  return (
    <section className="panel" aria-label="Readings">
      <h2>
        Readings · {readings.length} <small>sorted by how much they hurt</small> <PixelsOf />
      </h2>
      <ul className="readings">
        {sorted.map((reading, index) => (
          <Row key={index} reading={reading} />
        ))}
        {!sorted.length && (
          <li className="empty">
            Nothing is out of bounds{joint ? "" : ". Choose a joint to have its arc judged as well"}.
          </li>
        )}
      </ul>
    </section>
  );
}

/** How many times over its threshold, so that pixels, metres and shares can stand in one list. */
function hurt({ threshold, size, unit, first, last, remark }: ReadingView): number {
  if (remark) return -1;
  if (threshold > 0) return Math.abs(size) / threshold;
  // Where any amount is too much, how long it lasts counts as well.
  return (unit === "px" ? Math.abs(size) / 10 : 1) + (last - first) / 100;
}

function Row({ reading }: { reading: ReadingView }) {
  const { kind, subject, first, last } = reading;
  const frame = useCalmFrame();
  const camera = useSession((s) => cameraNamed(s, reading.camera_id)?.name);
  const here = frame >= first && frame <= last;
  const where = [subject, camera, first === last ? first : `${first}–${last}`];
  const figures = reading.figures.map(({ title, value, unit }) =>
    [title, unit === "share" ? `${(value * 100).toFixed(0)} %` : `${+value.toFixed(1)} ${unit}`.trim()].join(
      " ",
    ),
  );
  return (
    <li className={[here && "here", reading.remark && "remark"].filter(Boolean).join(" ") || undefined}>
      <button className="what" onClick={() => goTo(first)} title={reading.note || undefined}>
        <b>{kind}</b>
        <span className="soft">{[...where, ...figures].filter(Boolean).join(" · ")}</span>
        {reading.note && <span className="soft">{reading.note}</span>}
      </button>
      <span className="mono size">{amount(reading)}</span>
      <FixButton reading={reading} />
    </li>
  );
}

function FixButton({ reading }: { reading: ReadingView }) {
  const camera = useSession((s) => cameraNamed(s, reading.camera_id));
  if (reading.fix === "ride") return <Button onClick={() => setRide("rigid")}>Ride</Button>;
  const { joint } = reading;
  if (!camera || camera.locked || !joint) return null;
  if (reading.fix === "use joint")
    return (
      <Button onClick={() => goBy(camera, reading, joint)} title={`Go by ${joint} instead`}>
        Use {joint}
      </Button>
    );
  if (reading.fix === "orbit")
    return (
      <Button onClick={() => orbit(camera, reading, joint)} title="An orbit with the same end pictures">
        Orbit
      </Button>
    );
  return null;
}

function owner(name: string): string | undefined {
  return session().scene?.characters.find((c) => name.startsWith(c.name))?.id;
}

/** Let the camera go by another joint: what carries it with the picture kept, or what it aims at. */
function goBy(camera: CameraView, reading: ReadingView, joint: string): void {
  const { frame } = session();
  const { mount, aim } = camera;
  if (reading.kind.startsWith("carrie") && (mount.kind === "carried" || mount.kind === "trailing")) {
    const subject = { ...mount.subject, joint };
    edit({ edit: "mount camera", camera_id: camera.id, mount: { ...mount, subject }, frame, keep: true });
  } else if (aim) {
    const targets = aim.targets.map((target) => ({
      ...target,
      subjects: target.subjects.map((s) =>
        s.kind === "joint" && reading.subject.endsWith(s.joint ?? "") ? { ...s, joint } : s,
      ),
    }));
    edit({ edit: "aim camera", camera_id: camera.id, aim: { ...aim, targets }, frame });
  }
}

function orbit(camera: CameraView, { subject, first, last }: ReadingView, joint: string): void {
  const id = owner(subject);
  if (!id) return;
  edit({ edit: "orbit instead", camera_id: camera.id, first, last, subject: jointSubject(id, joint) });
}

function amount({ size, unit, kind }: ReadingView): string {
  if (unit === "m") return Math.abs(size) < 1 ? `${(size * 1000).toFixed(0)} mm` : `${size.toFixed(2)} m`;
  if (unit === "frames") return kind === "key pose not shown" ? "" : `${+size.toFixed(2)} fr`;
  if (unit === "share") return `${(size * 100).toFixed(0)} %`;
  const signed = kind === "strobes" ? size : Math.abs(size);
  return `${signed.toFixed(1)} px`;
}
