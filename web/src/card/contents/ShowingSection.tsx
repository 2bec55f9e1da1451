/** When is it there, and for whom: hidden spans of frames, chosen cameras, or in Roam alone. */
import "./contents.css";
import { MultiSelect, Switch } from "@mantine/core";
import type { Showing } from "../../api/generated";
import type { Thing } from "../../marks/thingHandles";
import { useCalmFrame } from "../../state/calmFrame";
import { edit } from "../../state/edits";
import { type Span, hiddenWith } from "../../state/hiddenSpans";
import { session, useSession } from "../../state/session";
import { NumberField } from "../../widgets/NumberField";

export function ShowingSection({ thing }: { thing: Thing }) {
  const cameras = useSession((s) => s.scene!.cameras);
  const last = useSession((s) => s.scene!.last);
  const frame = useCalmFrame();
  const { showing } = thing;
  const hidden = showing.hidden as Span[];
  const show = (changed: Partial<Showing>) =>
    edit({ edit: "show thing", thing_id: thing.id, showing: { ...showing, ...changed } });
  const now = hidden.find(([from, to]) => from <= frame && frame <= to);
  const toggle = () => {
    const at = session().frame;
    const next = hidden.find(([from]) => from > at);
    const until = now ? now[1] : next ? next[1] : Math.max(at, last);
    show({ hidden: hiddenWith(hidden, at, until, !now) });
  };
  const set = (index: number, changed: Span) =>
    show({ hidden: hidden.map((span, i) => (i === index ? changed : span)) });
  return (
    <>
      <h3>When is it there?</h3>
      <div className="placements">
        <button className="toggle" onClick={toggle}>
          {now ? "there again from this frame" : "hidden from this frame on"}
        </button>
      </div>
      {hidden.map(([from, to], index) => (
        <div key={index} className="span-row">
          <NumberField
            label="hidden from"
            value={from}
            digits={0}
            step={1}
            onSet={(v) => set(index, [Math.round(v), Math.max(Math.round(v), to)])}
          />
          <NumberField
            label="to"
            value={to}
            digits={0}
            step={1}
            onSet={(v) => set(index, [Math.min(from, Math.round(v)), Math.round(v)])}
          />
          <button
            className="toggle"
            aria-label={`There from ${from} to ${to} as well`}
            onClick={() => show({ hidden: hidden.filter((_, i) => i !== index) })}
          >
            ×
          </button>
        </div>
      ))}
      <MultiSelect
        label="Seen by"
        placeholder={showing.cameras ? (showing.cameras.length ? "" : "no camera") : "every camera"}
        data={cameras.map((c) => ({ value: c.id, label: c.name }))}
        value={showing.cameras ?? []}
        disabled={showing.roam_only}
        clearable
        onChange={(ids) => show({ cameras: ids.length ? ids : null })}
      />
      <Switch
        label="Only in Roam, an aid for working"
        checked={showing.roam_only}
        onChange={(event) => show({ roam_only: event.currentTarget.checked })}
      />
    </>
  );
}
