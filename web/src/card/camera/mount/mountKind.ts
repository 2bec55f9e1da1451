/** A kind of mount as the Card shows it. A file here named `...Mount.tsx` that exports its kinds as `KINDS` is found by itself. */
import type { ReactNode } from "react";
import type { Kind, Of, SettingsProps } from "./mounting";

export interface MountKind<K extends Kind = Kind> {
  kind: K;
  /** Where it stands among the others. */
  place: number;
  settings: (mount: Of<K>, props: SettingsProps) => ReactNode;
}

const files = import.meta.glob<{ KINDS: MountKind<never>[] }>("./*Mount.tsx", { eager: true });
/** Each is asked only for the settings of its own kind. */
export const MOUNT_KINDS = (
  Object.values(files).flatMap((file) => file.KINDS) as unknown as MountKind[]
).sort((a, b) => a.place - b.place);
