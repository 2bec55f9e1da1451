/** Over the Picture, while a second camera lies over it: which one, how much of it, and what it makes of each character. */
import "./laidOver.css";
import { Select } from "@mantine/core";
import { IconArrowsExchange, IconX } from "@tabler/icons-react";
import type { TwoCamerasPart } from "../api/generated";
import type { FrameRect } from "../optics/lens";
import { useCalmFrame } from "../state/calmFrame";
import { edit } from "../state/edits";
import { changePlaces, layOver } from "../state/laidOver";
import { goTo } from "../state/playback";
import { part, setSession, useSession, workedCamera } from "../state/session";
import { px } from "../widgets/Figure";
import { PlaceMarks } from "./PlaceMarks";

type Subject = TwoCamerasPart["subjects"][number];

export function LaidOver({ rect }: { rect: FrameRect }) {
  const laidOver = useSession((s) => s.laidOver);
  const scene = useSession((s) => s.scene)!;
  const looking = useSession((s) => s.looking);
  const playing = useSession((s) => s.playing);
  const apart = useSession((s) => s.looks.camera !== "moves");
  const found = useSession((s) => part<TwoCamerasPart>(s, s.scene?.two_cameras));
  const row = Math.min(useCalmFrame(), scene.last) - scene.first;
  if (!laidOver || looking === "roam") return null;
  const grown = rect.width / scene.width;
  const place = (of: Float32Array): [number, number] | null => {
    const [x, y] = of.subarray(2 * row, 2 * row + 2);
    return Number.isNaN(x) ? null : [rect.x + x! * grown, rect.y + (y! * rect.height) / scene.height];
  };
  return (
    <>
      {!playing && !apart && found && (
        <svg
          className="laid-marks"
          role="img"
          aria-label={found.subjects.map((subject) => saidOf(subject, row)).join("; ")}
        >
          <PlaceMarks
            sides="both"
            right={rect.x + rect.width}
            of={found.subjects.map((subject) => ({
              id: subject.character_id,
              name: saidOf(subject, row),
              before: place(subject.one_px),
              after: place(subject.other_px),
            }))}
          />
        </svg>
      )}
      <section
        className="laid-over"
        aria-label="The camera that is laid over"
        style={{ left: rect.x + 8, top: rect.y + rect.height - 8 }}
        onPointerDown={(event) => event.stopPropagation()}
        onPointerMove={(event) => event.stopPropagation()}
      >
        <Head cameraId={laidOver.cameraId} share={laidOver.share} />
        {!apart && found && <Figures found={found} row={row} />}
      </section>
    </>
  );
}

function Head({ cameraId, share }: { cameraId: string; share: number }) {
  const cameras = useSession((s) => s.scene!.cameras);
  return (
    <div className="head">
      <Select
        size="xs"
        aria-label="Which camera lies over the picture"
        placeholder="that camera is gone"
        allowDeselect={false}
        value={cameraId}
        data={cameras.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(id) => id && layOver(id)}
        // Keys are the window's again.
        onDropdownClose={() => (document.activeElement as HTMLElement | null)?.blur()}
      />
      <input
        type="range"
        aria-label="How much of it is seen, per cent"
        title={`${Math.round(share * 100)} % of the picture that lies over`}
        min={0}
        max={100}
        value={Math.round(share * 100)}
        onChange={(event) =>
          setSession({ laidOver: { cameraId, share: Number(event.currentTarget.value) / 100 } })
        }
        onPointerUp={(event) => event.currentTarget.blur()}
      />
      <button
        className="toggle"
        title="Look through this one, and lay the other over it (Shift L)"
        aria-label="The two change places"
        onClick={changePlaces}
      >
        <IconArrowsExchange size={15} />
      </button>
      <button
        className="toggle"
        title="Alt L, or Escape"
        aria-label="No camera over"
        onClick={() => layOver(null)}
      >
        <IconX size={14} />
      </button>
    </div>
  );
}

function Figures({ found, row }: { found: TwoCamerasPart; row: number }) {
  const laid = useSession((s) => s.laidOver!.cameraId);
  const under = useSession((s) => workedCamera(s)?.id);
  const throughCut = useSession((s) => s.looking === "cut");
  const first = useSession((s) => s.scene!.first);
  if (under === laid) return <p className="why">Here it is the same camera.</p>;
  const hopping = found.subjects.find((subject) => subject.hops[row]);
  const frame = first + row;
  return (
    <>
      <div className="line">
        <span
          className="soft"
          title="What stands still goes over the screen so fast, a frame: in the picture below, in the one over it"
        >
          background <b>{px(found.background_one_px[row])}</b> against{" "}
          <b>{px(found.background_other_px[row])}</b>
        </span>
        {found.subjects.map(({ character_id, name, nearest_frame: nearest, apart_px }) =>
          nearest === null ? null : (
            <button
              key={character_id}
              className="toggle"
              title={`There its two places are ${px(apart_px[nearest - first])} apart`}
              onClick={() => goTo(nearest)}
            >
              {name} nearest on {nearest}
            </button>
          ),
        )}
        {throughCut && (
          <button
            className="toggle"
            title={`From ${frame} on the cut shows it`}
            onClick={() => edit({ edit: "cut to", frame, camera_id: laid })}
          >
            Cut to it on {frame}
          </button>
        )}
      </div>
      {hopping && (
        <div className="hops">A cut here hops: {hopping.name} from hardly aside, and hardly larger.</div>
      )}
    </>
  );
}

/** What the second picture makes of a character: how far off its place in the first, how large, from how far aside. */
function saidOf(subject: Subject, row: number): string {
  const [apart, larger, aside] = [subject.apart_px, subject.times_as_large, subject.aside_deg].map(
    (of) => of[row]!,
  );
  if (Number.isNaN(apart!)) return subject.name;
  return `${subject.name} · ${px(apart, 0)} · × ${larger!.toFixed(2)} · ${aside!.toFixed(0)}°`;
}
