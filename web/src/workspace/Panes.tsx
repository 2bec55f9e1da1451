/** The panes of the window: pulled to size by their edges, by pointer or by arrow keys, folded away, and remembered. */
import { useEffect } from "react";
import { Group, Panel, Separator, useDefaultLayout, usePanelRef } from "react-resizable-panels";
import { Bench } from "../bench/Bench";
import { ShrunkPicture } from "../bench/Companions";
import { Card } from "../card/Card";
import { PictureArea } from "../picture/PictureArea";
import { Plan } from "../plan/Plan";
import { ReadingsPanel } from "../readings/ReadingsPanel";
import { Sheet } from "../sheet/Sheet";
import { useSession } from "../state/session";
import { CARD, SHEET, belowNaturally, holdPanes } from "./arrangements";

/** Where the browser keeps nothing, neither does this. */
const storage = {
  getItem(key: string): string | null {
    try {
      return localStorage.getItem(key);
    } catch {
      return null;
    }
  },
  setItem(key: string, value: string): void {
    try {
      localStorage.setItem(key, value);
    } catch {
      // A window that keeps nothing.
    }
  },
};

const remembered = (id: string) => ({ id: `eddyfield.${id}`, storage, onlySaveAfterUserInteractions: true });

export function Panes() {
  const largePlan = useSession((s) => s.largePlan);
  const showBench = useSession((s) => s.showBench);
  const aspect = useSession((s) => (s.scene!.width * s.scene!.pixel_aspect) / s.scene!.height);
  const [sheet, card, below] = [usePanelRef(), usePanelRef(), usePanelRef()];
  const across = useDefaultLayout(remembered("across"));
  const down = useDefaultLayout(remembered("down"));
  const beside = useDefaultLayout(remembered("beside"));
  useEffect(() => holdPanes({ sheet, card, below }), [sheet, card, below]);
  return (
    <Group className="panes" orientation="horizontal" {...across}>
      <Panel
        id="sheet-pane"
        panelRef={sheet}
        defaultSize={SHEET}
        minSize={200}
        maxSize={560}
        collapsible
        groupResizeBehavior="preserve-pixel-size"
      >
        <Sheet />
      </Panel>
      <Separator className="edge" aria-label="Edge of the Sheet" />
      <Panel id="middle-pane" minSize={380}>
        <Group orientation="vertical" {...down}>
          <Panel id="picture-pane" minSize={280}>
            <div className={showBench ? "middle" : "middle without-bench"}>
              <PictureArea />
              {showBench && <Bench />}
            </div>
          </Panel>
          <Separator className="edge level" aria-label="Edge of the Plan and the Readings" />
          <Panel
            id="below-pane"
            panelRef={below}
            defaultSize={belowNaturally(aspect)}
            minSize={90}
            collapsible
          >
            <Group orientation="horizontal" {...beside}>
              <Panel id="plan-pane" defaultSize="45%" minSize={150}>
                {largePlan ? <ShrunkPicture /> : <Plan />}
              </Panel>
              <Separator className="edge" aria-label="Edge between the Plan and the Readings" />
              <Panel id="readings-pane" minSize={150}>
                <ReadingsPanel />
              </Panel>
            </Group>
          </Panel>
        </Group>
      </Panel>
      <Separator className="edge" aria-label="Edge of the Card" />
      <Panel
        id="card-pane"
        panelRef={card}
        defaultSize={CARD}
        minSize={236}
        maxSize={460}
        collapsible
        groupResizeBehavior="preserve-pixel-size"
      >
        <Card />
      </Panel>
    </Group>
  );
}
