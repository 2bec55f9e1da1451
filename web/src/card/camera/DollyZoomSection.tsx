/** Dolly zoom: a subject's size over a range is given, and the lens or the move is solved; its size is drawn over time. */
import { Button, SegmentedControl, Select } from "@mantine/core";
import { useState } from "react";
import type { CameraView, Subject, SubjectsPart, Target } from "../../api/generated";
import { edit } from "../../state/edits";
import { goTo } from "../../state/playback";
import { chosenCharacter, part, playRange, session, useSession } from "../../state/session";
import { bodySubject } from "../../state/subjects";
import { Fields, NumberField } from "../../widgets/NumberField";
import { SubjectPicker } from "../SubjectPicker";
import { EASES } from "../../api/tables";

export function DollyZoomSection({ camera }: { camera: CameraView }) {
  const scene = useSession((s) => s.scene)!;
  const subjects = useSession((s) => part<SubjectsPart>(s, s.scene?.subjects));
  const [subject, setSubject] = useState<Subject | null>(null);
  const [range, setRange] = useState<[number, number]>(() => playRange(session()));
  const [given, setGiven] = useState<"move" | "lens">("move");
  const [sizes, setSizes] = useState<[number, number]>([0, 0]);
  const [ease, setEase] = useState<Target["ease"]>("even");
  const chosen = chosenCharacter({ scene });
  const ruling = subject ?? (chosen && bodySubject(chosen.id));
  if (camera.glass.orthographic_height_m !== null)
    return <p className="why">A parallel view has no dolly zoom.</p>;
  const framing = camera.framing;
  if (framing?.size)
    return (
      <>
        <p className="why">
          The held framing keeps the size of its subject, so a dolly zoom changes nothing.
        </p>
        <Button
          size="compact-xs"
          variant="default"
          onClick={() =>
            edit({
              edit: "hold framing",
              camera_id: camera.id,
              framing: { ...framing, size: null },
              frame: session().frame,
            })
          }
        >
          Let the held size go
        </Button>
      </>
    );
  const solve = () =>
    ruling &&
    edit({
      edit: "dolly zoom",
      camera_id: camera.id,
      wanted: {
        subject: ruling,
        first: range[0],
        last: range[1],
        given,
        share_from: sizes[0] > 0 ? sizes[0] / 100 : null,
        share_to: sizes[1] > 0 ? sizes[1] / 100 : null,
        ease,
      },
    });
  const index = Math.max(
    0,
    scene.characters.findIndex((c) => c.id === ruling?.owner_id),
  );
  const curve = subjects?.characters[index]?.size_px;
  return (
    <>
      <SubjectPicker label="Subject" subject={ruling} onChoose={setSubject} />
      <Fields columns={2}>
        <NumberField
          label="from frame"
          value={range[0]}
          digits={0}
          onSet={(v) => setRange([v, Math.max(v, range[1])])}
        />
        <NumberField
          label="to frame"
          value={range[1]}
          digits={0}
          onSet={(v) => setRange([Math.min(v, range[0]), v])}
        />
        <NumberField
          label="size from (0: as it is)"
          value={sizes[0]}
          unit="%"
          digits={1}
          min={0}
          onSet={(v) => setSizes([v, sizes[1]])}
        />
        <NumberField
          label="size to (0: the same)"
          value={sizes[1]}
          unit="%"
          digits={1}
          min={0}
          onSet={(v) => setSizes([sizes[0], v])}
        />
      </Fields>
      <Select
        label="ease"
        data={[...EASES]}
        value={ease}
        allowDeselect={false}
        onChange={(value) => setEase(value as Target["ease"])}
      />
      <SegmentedControl
        fullWidth
        size="xs"
        my={6}
        aria-label="What is given"
        value={given}
        data={[
          { value: "move", label: "the move is given" },
          { value: "lens", label: "the zoom is given" },
        ]}
        onChange={(value) => setGiven(value as "move")}
      />
      <Button
        onClick={solve}
        disabled={!ruling || camera.locks.includes(given === "move" ? "lens" : "place")}
      >
        Solve the {given === "move" ? "zoom" : "move"}
      </Button>
      {curve && <SizeCurve sizes={curve} first={scene.first} height={scene.height} />}
    </>
  );
}

/** Apparent size against frame. */
function SizeCurve({ sizes, first, height }: { sizes: Float32Array; first: number; height: number }) {
  const frame = useSession((s) => s.frame);
  const [wide, high] = [232, 74];
  const known = Array.from(sizes).filter(Number.isFinite);
  const most = Math.max(1, ...known) * 1.08;
  const x = (row: number) => (row / Math.max(1, sizes.length - 1)) * wide;
  const y = (size: number) => high - 12 - (size / most) * (high - 20);
  let d = "";
  let broken = true;
  sizes.forEach((size, row) => {
    if (Number.isFinite(size)) d += `${broken ? "M" : "L"}${x(row).toFixed(1)} ${y(size).toFixed(1)}`;
    broken = !Number.isFinite(size);
  });
  const here = sizes[frame - first];
  return (
    <>
      <h4>
        Apparent size <span className="spacer" />
        <span className="mono">
          {here && Number.isFinite(here)
            ? `${here.toFixed(0)} px, ${((here / height) * 100).toFixed(0)} %`
            : "–"}
        </span>
      </h4>
      <svg
        width={wide}
        height={high}
        role="img"
        aria-label="Apparent size against frame"
        data-testid="size-curve"
        style={{ cursor: "pointer" }}
        onClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          goTo(first + Math.round(((event.clientX - box.left) / box.width) * (sizes.length - 1)));
        }}
      >
        <path d={`M0 ${high - 12}H${wide}`} stroke="var(--rule)" />
        <path d={d} fill="none" stroke="var(--red)" strokeWidth={1.6} />
        <path d={`M${x(frame - first)} 0V${high - 12}`} stroke="var(--graphite)" />
        <text x={0} y={high - 1} fontSize={10.5} fill="var(--soft)" fontFamily="var(--mono)">
          {first}
        </text>
        <text
          x={wide}
          y={high - 1}
          fontSize={10.5}
          textAnchor="end"
          fill="var(--soft)"
          fontFamily="var(--mono)"
        >
          {first + sizes.length - 1}
        </text>
      </svg>
    </>
  );
}
