/** Two places: the Desk, and the workspace of one scene or of a sequence. The address says which. */
import { Loader } from "@mantine/core";
import { Suspense, lazy, useEffect, useState } from "react";
import { Desk } from "./desk/Desk";
import { DropAnywhere } from "./desk/DropAnywhere";
import { useSession } from "./state/session";
import type { Place } from "./widgets/place";

const Workspace = lazy(() => import("./workspace/Workspace"));

function placeInAddress(): Place | null {
  const [, kind, id] = /^\/(scenes|sequences)\/([0-9a-f-]{36})$/.exec(location.pathname) ?? [];
  return kind && id ? { kind: kind as Place["kind"], id } : null;
}

export function App() {
  const [place, setPlace] = useState(placeInAddress);
  useEffect(() => {
    const follow = () => setPlace(placeInAddress());
    addEventListener("popstate", follow);
    return () => removeEventListener("popstate", follow);
  }, []);
  const open = (to: Place | null) => {
    history.pushState(null, "", to ? `/${to.kind}/${to.id}` : "/");
    setPlace(to);
  };
  const openScene = (id: string) => open({ kind: "scenes", id });
  // Within a sequence another scene may be shown than it was opened with.
  const sceneId = useSession((s) => s.scene?.id) ?? null;
  return (
    <>
      {place ? (
        <Suspense fallback={<Loader m="xl" aria-label="Opening the scene" />}>
          <Workspace
            key={`${place.id} ${location.search}`}
            opened={place}
            onLeave={() => open(null)}
            onOpenScene={openScene}
          />
          {(place.kind === "scenes" || sceneId) && (
            <DropAnywhere
              key={`files ${place.kind === "scenes" ? place.id : sceneId}`}
              sceneId={place.kind === "scenes" ? place.id : sceneId!}
              onMade={openScene}
            />
          )}
        </Suspense>
      ) : (
        <Desk onOpen={openScene} onOpenSequence={(id) => open({ kind: "sequences", id })} />
      )}
      <section id="floating" aria-label="Open lists" />
    </>
  );
}
