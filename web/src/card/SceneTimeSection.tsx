/** The scene's own time: its ends, its time code, and its rate with what a change of it would cost. */
import "./sceneTime.css";
import { Button, NumberInput, SegmentedControl, Select, TextInput } from "@mantine/core";
import { useEffect, useState } from "react";
import { costOfRate } from "../api/client";
import type { RateChangeView } from "../api/generated";
import { COMMON_RATES } from "../api/tables";
import { edit } from "../state/edits";
import { useSession } from "../state/session";
import { TimeBend } from "./TimeBend";

type Keeps = "times" | "frames";

export function SceneTimeSection() {
  const scene = useSession((s) => s.scene)!;
  return (
    <section aria-label="The scene's time" className="scene-time">
      <h2 className="of-scene">
        The scene <small>{scene.last - scene.first + 1} frames</small>
      </h2>
      <div className="fields" style={{ gridTemplateColumns: "1fr 1fr" }}>
        <SceneEnd label="first frame" value={scene.first} other={scene.last} isFirst />
        <SceneEnd label="last frame" value={scene.last} other={scene.first} />
        <StartTimecode key={scene.timecode.text} text={scene.timecode.text} />
      </div>
      <Rate key={scene.rate} />
      <h3>All of it, over a stretch</h3>
      <TimeBend of="the scene" bend={(stretch) => edit({ edit: "bend scene time", ...stretch })} />
      {scene.sounds.length > 0 && (
        <p className="why">Cuts, marks and sounds come with their moments; a sound itself runs as before.</p>
      )}
    </section>
  );
}

/** The time code of the first frame; with ; before the frames numbers are left out. */
function StartTimecode({ text }: { text: string }) {
  const set = (typed: string) => typed !== text && edit({ edit: "set timecode", text: typed });
  return (
    <TextInput
      size="xs"
      label="time code"
      title="Of the first frame. With ; before the frames it is drop-frame (29.97 and 59.94)"
      defaultValue={text}
      styles={{ input: { fontFamily: "var(--mono)", fontSize: 11.5, paddingInline: 5 } }}
      onBlur={(event) => set(event.currentTarget.value)}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
}

/** Another rate is looked at first: what it would lose or move is listed before it is taken. */
function Rate() {
  const scene = useSession((s) => s.scene)!;
  const [rate, setRate] = useState(scene.rate);
  const [keeps, setKeeps] = useState<Keeps>("times");
  const [found, setFound] = useState<RateChangeView | string | null>(null);
  const isOther = rate !== scene.rate;
  useEffect(() => {
    if (!isOther) return;
    let wanted = true;
    costOfRate(scene.id, rate, keeps)
      .then((view) => wanted && setFound(view))
      .catch((error: Error) => wanted && setFound(error.message));
    return () => {
      wanted = false;
    };
  }, [isOther, scene.id, scene.revision, rate, keeps]);
  const isCommon = COMMON_RATES.some(([value]) => value === scene.rate);
  const change = () => edit({ edit: "set rate", rate, keeps });
  return (
    <>
      <Select
        size="xs"
        label="frames a second"
        aria-label="Frames a second"
        data={[
          ...(isCommon ? [] : [{ value: scene.rate, label: scene.rate }]),
          ...COMMON_RATES.map(([value, label]) => ({ value, label })),
        ]}
        value={rate}
        allowDeselect={false}
        onChange={(value) => value && setRate(value)}
      />
      {isOther && (
        <div className="rate-change" data-testid="rate-change">
          <SegmentedControl
            fullWidth
            size="xs"
            aria-label="What stays"
            value={keeps}
            data={[
              { value: "times", label: "everything at its time" },
              { value: "frames", label: "on its frame" },
            ]}
            onChange={(value) => setKeeps(value as Keeps)}
          />
          {typeof found === "string" && <p role="alert">{found}</p>}
          {found !== null && typeof found === "object" && (
            <>
              <p>
                It then goes from <b className="mono">{found.first}</b> to{" "}
                <b className="mono">{found.last}</b>.{!found.costs.length && " Nothing is lost or moved."}
              </p>
              {found.costs.length > 0 && (
                <ul>
                  {found.costs.map((cost) => (
                    <li key={cost}>{cost}</li>
                  ))}
                </ul>
              )}
            </>
          )}
          <div className="actions">
            <Button disabled={typeof found === "string"} onClick={change}>
              Change the rate
            </Button>
            <Button onClick={() => setRate(scene.rate)}>Leave it</Button>
          </div>
        </div>
      )}
    </>
  );
}

function SceneEnd({
  label,
  value,
  other,
  isFirst = false,
}: {
  label: string;
  value: number;
  other: number;
  isFirst?: boolean;
}) {
  const change = (text: string) => {
    const frame = Number.parseInt(text, 10);
    if (!Number.isFinite(frame) || frame === value) return;
    edit({ edit: "set play range", first: isFirst ? frame : other, last: isFirst ? other : frame });
  };
  return (
    <NumberInput
      key={value}
      size="xs"
      label={label}
      defaultValue={value}
      hideControls
      onBlur={(event) => change(event.currentTarget.value)}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
}
