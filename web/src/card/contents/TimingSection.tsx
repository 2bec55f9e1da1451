/** When does it move: from which frame on, over how many, which part of its file, and how often. */
import { Switch } from "@mantine/core";
import type { Timing } from "../../api/generated";
import { REPEATS } from "../../api/tables";
import { valueOf } from "../../state/chosenKeys";
import type { Thing } from "../../marks/thingHandles";
import { edit } from "../../state/edits";
import { TimeCurve } from "./TimeCurve";
import { Fields, NumberField } from "../../widgets/NumberField";

/** Frames of a file are given to a thousandth. */
const PARTS = 1000;
const asTime = (value: number) => `${Math.round(value * PARTS)}/${PARTS}`;

export function TimingSection({ thing }: { thing: Thing }) {
  const { timing, file_frames: whole } = thing;
  const first = valueOf(timing.first);
  const last = timing.last === null ? whole : valueOf(timing.last);
  const length = last - first;
  const set = (changes: Partial<Timing>) =>
    edit({ edit: "time thing", thing_id: thing.id, timing: { ...timing, ...changes } });
  return (
    <>
      <h3>When does it move?</h3>
      <Fields columns={2}>
        <NumberField
          label="starts on"
          value={valueOf(timing.start)}
          digits={Number.isInteger(valueOf(timing.start)) ? 0 : 2}
          step={1}
          title="The frame of its motion's first moment"
          onSet={(start) => set({ start: String(Math.round(start)) })}
        />
        {whole > 0 && (
          <NumberField
            label="lasts"
            unit="f"
            value={length * valueOf(timing.stretch)}
            digits={2}
            step={1}
            min={length / PARTS}
            max={length * PARTS}
            title={`What is used of it, ${+length.toFixed(2)} frames, is stretched over so many`}
            onSet={(lasts) => set({ stretch: `${Math.round(lasts * PARTS)}/${Math.round(length * PARTS)}` })}
          />
        )}
      </Fields>
      {whole > 0 && (
        <>
          <Fields columns={2}>
            <NumberField
              label="used from"
              unit="f"
              value={first}
              digits={2}
              step={1}
              min={0}
              max={last - 1 / PARTS}
              title="Frames of its file, counted from its first moment"
              onSet={(from) => set({ first: asTime(from) })}
            />
            <NumberField
              label="to"
              unit="f"
              value={last}
              digits={2}
              step={1}
              min={first + 1 / PARTS}
              max={whole}
              title={`Its file has ${+whole.toFixed(2)} frames at this rate`}
              onSet={(to) => set({ last: Math.abs(to - whole) < 1 / PARTS ? null : asTime(to) })}
            />
          </Fields>
          <div className="choices by-words" role="group" aria-label="How often it moves">
            {REPEATS.map((repeats) => (
              <button
                key={repeats}
                aria-pressed={timing.repeats === repeats}
                onClick={() => timing.repeats !== repeats && set({ repeats })}
              >
                {repeats}
              </button>
            ))}
          </div>
          <Switch
            label="backwards"
            checked={timing.backwards}
            onChange={(event) => set({ backwards: event.currentTarget.checked })}
          />
          <TimeCurve thing={thing} />
        </>
      )}
    </>
  );
}
