/** Guides over the Picture, measuring, and how hands move. */
import { Button, Switch } from "@mantine/core";
import { toggleMeasuring, toggleWalking } from "../../state/hands";
import { type Guide, type GuideLine, session, setSession, useSession } from "../../state/session";
import { NumberField } from "../../widgets/NumberField";

const GUIDES: { name: Guide; label: string }[] = [
  { name: "thirds", label: "thirds (T)" },
  { name: "centre", label: "centre (C)" },
  { name: "own", label: "own lines" },
];

export function toggleGuide(name: Guide): void {
  const { guides } = session();
  setSession({ guides: guides.includes(name) ? guides.filter((g) => g !== name) : [...guides, name] });
}

export function GuidesSection() {
  const guides = useSession((s) => s.guides);
  const lines = useSession((s) => s.guideLines);
  const measuring = useSession((s) => s.measuring !== null);
  const walkHeight = useSession((s) => s.walkHeight);
  const speed = useSession((s) => s.speed);
  const set = (changed: GuideLine[]) => setSession({ guideLines: changed });
  const add = (way: GuideLine["way"]) => {
    set([...lines, { way, at: 0.5 }]);
    if (!guides.includes("own")) toggleGuide("own");
  };
  return (
    <>
      {GUIDES.map(({ name, label }) => (
        <Switch
          key={name}
          label={label}
          size="xs"
          my={5}
          checked={guides.includes(name)}
          onChange={() => toggleGuide(name)}
        />
      ))}
      {lines.map((line, index) => (
        <div key={index} className="saved-view">
          <NumberField
            label=""
            title="share of the frame"
            value={line.at * 100}
            unit="%"
            digits={1}
            min={0}
            max={100}
            onSet={(v) => set(lines.map((l, i) => (i === index ? { ...l, at: v / 100 } : l)))}
          />
          <span className="soft" style={{ flex: 1 }}>
            {line.way === "across" ? "across, from the top" : "down, from the left"}
          </span>
          <button className="toggle" onClick={() => set(lines.filter((_, i) => i !== index))}>
            take away
          </button>
        </div>
      ))}
      <div className="actions">
        <Button onClick={() => add("across")}>+ line across</Button>
        <Button onClick={() => add("down")}>+ line down</Button>
      </div>
      <div className="actions">
        <Button variant={measuring ? "filled" : "default"} onClick={toggleMeasuring}>
          Measure <kbd>D</kbd>
        </Button>
        <Button
          variant={walkHeight === null ? "default" : "filled"}
          onClick={toggleWalking}
          title="Ctrl with the arrow keys goes; otherwise it flies"
        >
          Walk <kbd>W</kbd>
        </Button>
      </div>
      {walkHeight !== null && (
        <NumberField
          label="eye height"
          value={walkHeight}
          unit="m"
          onSet={(v) => setSession({ walkHeight: v })}
        />
      )}
      <NumberField
        label="speed of hands"
        value={speed}
        unit="×"
        digits={2}
        min={0.05}
        max={20}
        onSet={(v) => setSession({ speed: v })}
      />
    </>
  );
}
