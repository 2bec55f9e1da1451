/** Where else the same performance is used, each a step away; the browser goes back. */
import type { Thing } from "../../marks/thingHandles";
import { setSession, useSession } from "../../state/session";
import { goToScene } from "../../state/within";
import { type Use, useOtherUses, titleOfUse } from "../../state/uses";

export function OtherUses({ thing }: { thing: Thing }) {
  const sceneId = useSession((s) => s.scene!.id);
  const uses = useOtherUses(thing.id, thing.source.digest);
  if (!uses.length) return null;
  const go = (use: Use) => {
    if (use.scene_id === sceneId) return setSession({ thingId: use.thing_id });
    goToScene(use.scene_id);
  };
  return (
    <p className="why other-uses" data-testid="other-uses">
      The same file is performed by{" "}
      {uses.map((use, index) => (
        <span key={use.thing_id}>
          {index > 0 && ", "}
          <button className="link" onClick={() => go(use)}>
            {titleOfUse(use, sceneId)}
          </button>
        </span>
      ))}
      . Its next version can be brought in everywhere at once.
    </p>
  );
}
