/** How strictly the scene is judged, and from when on the production has something told. */
import { Button, Popover, SegmentedControl } from "@mantine/core";
import { useState } from "react";
import { productionLimits, setProductionLimits } from "../api/client";
import type { LimitsTold, SceneView } from "../api/generated";
import { STRICTNESSES, STRICTNESS_MEANINGS, STRICTNESS_TITLES } from "../api/tables";
import { edit } from "../state/edits";
import { notify, useSession } from "../state/session";
import { refreshView, report } from "../state/shown";
import { knownWindowId } from "../state/windowId";
import { Fields, NumberField } from "../widgets/NumberField";

type Strictness = SceneView["strictness"];
export function StrictnessChoice() {
  const strictness = useSession((s) => s.scene!.strictness);
  const [told, setTold] = useState<LimitsTold | null>(null);
  const [opened, setOpened] = useState(false);
  /** What this window can take back: until somebody else sets others. */
  const [before, setBefore] = useState<Record<string, number>[]>([]);
  const lookUp = () =>
    productionLimits()
      .then((now) => {
        if (JSON.stringify(now.changed) !== JSON.stringify(told?.changed)) setBefore([]);
        setTold(now);
      })
      .catch(report);
  const open = () => {
    setOpened(!opened);
    if (!opened) void lookUp();
  };
  const change = (values: Record<string, number>, earlier = [...before, told!.changed]) =>
    setProductionLimits({ values, was: told!.changed, window_id: knownWindowId() })
      .then((now) => {
        setBefore(earlier);
        setTold(now);
        return refreshView();
      })
      .catch((error: unknown) => {
        report(error);
        return lookUp();
      });
  return (
    <Popover opened={opened} onChange={setOpened} position="top-end" width={380} withArrow trapFocus>
      <Popover.Target>
        <button
          className="toggle"
          aria-expanded={opened}
          title="How strictly this scene is judged, and the limits of the production"
          onClick={open}
        >
          {STRICTNESS_TITLES[strictness]}
        </button>
      </Popover.Target>
      <Popover.Dropdown className="strictness" data-testid="strictness">
        <h3>This scene is judged</h3>
        <SegmentedControl
          fullWidth
          size="xs"
          aria-label="How strictly this scene is judged"
          data={STRICTNESSES.map((value) => ({ value, label: STRICTNESS_TITLES[value] }))}
          value={strictness}
          onChange={(value) => edit({ edit: "judge scene", strictness: value as Strictness })}
        />
        <p className="why">{STRICTNESS_MEANINGS[strictness]}</p>
        {told && (
          <>
            <h3>
              Limits of the production <span className="soft">in every scene of it</span>
            </h3>
            <div className="limits">
              <Fields columns={2}>
                {told.limits.map((limit) => (
                  <NumberField
                    key={limit.name}
                    label={limit.title}
                    value={limit.value}
                    unit={limit.unit}
                    digits={3}
                    step={limit.usual / 10}
                    min={limit.least}
                    max={limit.most}
                    title={`Told ${limit.told_above ? "above" : "below"} it, ${[limit.unit, limit.of].filter(Boolean).join(" ")}; usually ${limit.usual}`}
                    onSet={(value) => void change({ ...told.changed, [limit.name]: value })}
                  />
                ))}
              </Fields>
            </div>
            <Button
              size="compact-xs"
              mr={6}
              disabled={!before.length}
              title="The limits as they were before this window set them last"
              onClick={() => void change(before.at(-1)!, before.slice(0, -1))}
            >
              Take back
            </Button>
            <Button
              size="compact-xs"
              disabled={!Object.keys(told.changed).length}
              onClick={() => {
                void change({});
                notify("All limits are as usual again.");
              }}
            >
              All as usual
            </Button>
          </>
        )}
      </Popover.Dropdown>
    </Popover>
  );
}
