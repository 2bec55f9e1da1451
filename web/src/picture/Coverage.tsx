/** The heads of the pictures beside the large one: which camera each shows, and looking through it. */
import "./coverage.css";
import { Select } from "@mantine/core";
import { IconX } from "@tabler/icons-react";
import type { FrameRect } from "../optics/lens";
import { coverageTitle, otherCutValue } from "../state/coverage";
import { lookThrough } from "../state/looking";
import { session, setSession, useSession } from "../state/session";

export function Coverage({ rects }: { rects: FrameRect[] }) {
  const scene = useSession((s) => s.scene)!;
  const coverage = useSession((s) => s.coverage);
  if (!coverage) return null;
  const set = (at: number, value: string | null) => {
    const changed = session().coverage!.flatMap((old, index) => (index === at ? (value ?? []) : old));
    setSession({ coverage: changed.length ? changed : null });
  };
  const stop = (event: React.PointerEvent) => event.stopPropagation();
  return (
    <div
      className="coverage"
      data-testid="coverage"
      onPointerDown={stop}
      onPointerMove={stop}
      onPointerUp={stop}
    >
      {rects.map((rect, at) => (
        <div key={at} className="beside" style={{ left: rect.x, top: rect.y - 24, width: rect.width }}>
          <div className="head">
            <Select
              size="xs"
              variant="unstyled"
              aria-label={`What picture ${at + 2} shows`}
              allowDeselect={false}
              value={coverage[at]}
              data={[
                ...(scene.other_cuts.length
                  ? [
                      {
                        group: "Other cuts",
                        items: scene.other_cuts.map(({ id, name }) => ({
                          value: otherCutValue(id),
                          label: `cut ${name}`,
                        })),
                      },
                    ]
                  : []),
                { group: "Cameras", items: scene.cameras.map((c) => ({ value: c.id, label: c.name })) },
              ]}
              onChange={(value) => set(at, value)}
              // Keys are the window's again.
              onDropdownClose={() => (document.activeElement as HTMLElement | null)?.blur()}
              comboboxProps={{ width: 230, position: "top-start" }}
            />
            <button
              className="toggle"
              aria-label={`Take ${coverageTitle(scene, coverage[at]!)} away`}
              onClick={() => set(at, null)}
            >
              <IconX size={13} />
            </button>
          </div>
          <button
            className="through"
            style={{ height: rect.height }}
            aria-label={`Look through ${coverageTitle(scene, coverage[at]!)}`}
            disabled={!scene.cameras.some(({ id }) => id === coverage[at])}
            onClick={() => lookThrough(coverage[at]!)}
          />
        </div>
      ))}
    </div>
  );
}
