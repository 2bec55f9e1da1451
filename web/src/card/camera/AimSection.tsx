/** What does it look at? The aim's targets, their hand-overs, its weight. */
import { Button, Select } from "@mantine/core";
import type { Aim, CameraPart, CameraView, Subject, Target } from "../../api/generated";
import { EASES } from "../../api/tables";
import { edit } from "../../state/edits";
import { session } from "../../state/session";
import { likelySubject } from "../../state/subjects";
import { Fields, NumberField } from "../../widgets/NumberField";
import { SubjectPicker } from "../SubjectPicker";
import { ChannelField } from "./ChannelField";
import { FollowsSwitch } from "./mount/FollowsSwitch";

const HAND_OVER_FRAMES = 12;

export function targetOf(
  subjects: Subject[],
  first: number | null = null,
  last: number | null = null,
): Target {
  return { subjects, first, last, ease: "slow in and out" };
}

export function AimSection({ camera, path, row }: { camera: CameraView; path: CameraPart; row: number }) {
  const locked = camera.locks.includes("angles");
  const set = (aim: Aim | null) =>
    edit({ edit: "aim camera", camera_id: camera.id, aim, frame: session().frame });
  const { aim } = camera;
  if (!aim)
    return (
      <>
        <p className="why">It looks where its angles point.</p>
        <SubjectPicker
          label="Aim at"
          subject={null}
          disabled={locked}
          onChoose={(s) => set({ targets: [targetOf([s])], follows: "motion" })}
        />
      </>
    );
  return (
    <>
      <Targets
        targets={aim.targets}
        locked={locked}
        verb="turns to"
        onChange={(targets) => set({ ...aim, targets })}
      />
      <Fields columns={2}>
        <ChannelField camera={camera} path={path} row={row} name="aim_weight" label="weight" />
      </Fields>
      <FollowsSwitch value={aim.follows} disabled={locked} onChange={(follows) => set({ ...aim, follows })} />
      <Button disabled={locked} onClick={() => set(null)}>
        Release the aim
      </Button>
    </>
  );
}

interface TargetsProps {
  targets: Target[];
  locked: boolean;
  verb: string;
  onChange: (targets: Target[]) => void;
}

/** One target after another; each is a group of one or more subjects, with weights. */
export function Targets({ targets, locked, verb, onChange }: TargetsProps) {
  const change = (index: number, changed: Partial<Target>) =>
    onChange(targets.map((t, i) => (i === index ? { ...t, ...changed } : t)));
  const handOver = () => {
    const { frame } = session();
    const subject = likelySubject();
    if (subject) onChange([...targets, targetOf([subject], frame, frame + HAND_OVER_FRAMES)]);
  };
  return (
    <>
      {targets.map((target, index) => (
        <div key={index} className="target">
          {target.first !== null && target.last !== null && (
            <>
              <Fields columns={2}>
                <NumberField
                  label={`${verb} from`}
                  value={target.first}
                  digits={0}
                  disabled={locked}
                  onSet={(first) => change(index, { first, last: Math.max(first, target.last!) })}
                />
                <NumberField
                  label="to"
                  value={target.last}
                  digits={0}
                  disabled={locked}
                  onSet={(last) => change(index, { last })}
                />
              </Fields>
              <Select
                label="ease"
                data={[...EASES]}
                value={target.ease}
                allowDeselect={false}
                disabled={locked}
                onChange={(ease) => change(index, { ease: ease as Target["ease"] })}
              />
            </>
          )}
          <Subjects
            subjects={target.subjects}
            locked={locked}
            onChange={(subjects) => change(index, { subjects })}
          />
          {index > 0 && (
            <button
              className="toggle"
              disabled={locked}
              onClick={() => onChange(targets.filter((_, i) => i !== index))}
            >
              take this hand-over away
            </button>
          )}
        </div>
      ))}
      <button className="toggle" disabled={locked} onClick={handOver}>
        + hand over from this frame
      </button>
    </>
  );
}

interface SubjectsProps {
  subjects: Subject[];
  locked: boolean;
  onChange: (subjects: Subject[]) => void;
}

/** A group of subjects; weights and offsets show where they matter. */
export function Subjects({ subjects, locked, onChange }: SubjectsProps) {
  const change = (index: number, changed: Subject) =>
    onChange(subjects.map((s, i) => (i === index ? changed : s)));
  return (
    <>
      {subjects.map((subject, index) => (
        <div key={index}>
          <SubjectPicker
            label={`Subject ${index + 1}`}
            subject={subject}
            disabled={locked}
            onChoose={(chosen) => change(index, { ...chosen, weight: subject.weight })}
          />
          {subjects.length > 1 && (
            <div className="saved-view">
              <NumberField
                label=""
                title="weight"
                value={subject.weight}
                digits={2}
                min={0.01}
                disabled={locked}
                onSet={(weight) => change(index, { ...subject, weight })}
              />
              <span className="soft" style={{ flex: 1 }}>
                weight
              </span>
              <button
                className="toggle unbroken"
                disabled={locked}
                onClick={() => onChange(subjects.filter((_, i) => i !== index))}
              >
                take away
              </button>
            </div>
          )}
        </div>
      ))}
      <button
        className="toggle"
        disabled={locked}
        onClick={() => {
          const subject = likelySubject();
          if (subject) onChange([...subjects, subject]);
        }}
      >
        + another subject
      </button>
    </>
  );
}
