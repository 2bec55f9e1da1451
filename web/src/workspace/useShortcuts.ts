/** Listens for keys, unless somebody is typing or presses a button. */
import { useEffect } from "react";
import { SHORTCUTS } from "./shortcuts";

function typing(target: EventTarget | null): boolean {
  const element = target as HTMLElement | null;
  // A switch takes no letters: with it in focus, keys do what they do elsewhere.
  return !!element?.closest(
    "input:not([type=checkbox]), textarea, select, [role=dialog], [role=listbox], [contenteditable=true]",
  );
}

const SLIDING = /^(Arrow|Home$|End$|Page)/;

/** Arrows and the like belong to a slider that has the focus; those of the Sheet are the playhead's, as everywhere. */
function sliding(event: KeyboardEvent): boolean {
  const element = event.target as HTMLElement | null;
  return SLIDING.test(event.key) && !!element?.closest("[role=slider]:not(.sheet *)");
}

/** The Sheet is paged through, whatever these keys do elsewhere. */
function paging(event: KeyboardEvent): boolean {
  const element = event.target as HTMLElement | null;
  return event.key.startsWith("Page") && !event.shiftKey && !!element?.closest(".sheet");
}

/** Space and Enter belong to a button that has the focus. */
function pressing(event: KeyboardEvent): boolean {
  const element = event.target as HTMLElement | null;
  return (
    (event.key === " " || event.key === "Enter") &&
    !!element?.closest("button, a, [role=switch], [type=checkbox], summary")
  );
}

export function useShortcuts(active: boolean): void {
  useEffect(() => {
    if (!active) return;
    const listen = (event: KeyboardEvent) => {
      // From pane to pane one goes from anywhere.
      const taken = typing(event.target) || pressing(event) || sliding(event) || paging(event);
      if (taken && event.key !== "F6") return;
      const found = SHORTCUTS.find((shortcut) => shortcut.match(event));
      if (!found) return;
      event.preventDefault();
      found.run(event);
    };
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, [active]);
}
