/** A file on its way in: how far it is, what it was found to hold, or why it cannot be brought in. */
import { useRef, useState } from "react";
import { upload } from "../api/client";
import type { Inspection } from "../api/generated";

export const LARGEST_BYTES = 256 * 2 ** 20;
export const TOO_LARGE = "That is larger than 256 MB, or no file. Drop a .glb, .gltf, .bvh or a USD file.";

const BESIDE = /\.(bin|png|jpe?g|webp)$/i;

/** One for every file that stands for itself, each with what may belong to it. */
export function together(files: File[]): File[][] {
  const beside = files.filter((file) => BESIDE.test(file.name));
  const main = files.filter((file) => !BESIDE.test(file.name));
  return main.length > 1
    ? main.map((file) => (/\.gltf$/i.test(file.name) ? [file, ...beside] : [file]))
    : [files];
}

export interface Bringing {
  /** How much has arrived, from 0 to 1; null while nothing is on its way. */
  share: number | null;
  found: Inspection | null;
  failure: string | null;
  bring: (files: File[]) => void;
  cancel: () => void;
  fail: (why: string) => void;
  leave: () => void;
}

/** Each file that has arrived is `taken`, or, without that, kept as `found`. */
export function useBringing(taken?: (found: Inspection) => void): Bringing {
  const [share, setShare] = useState<number | null>(null);
  const [found, setFound] = useState<Inspection | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const cancel = useRef<() => void>(() => {});
  const bring = async (files: File[]) => {
    setFailure(null);
    setShare(0);
    const groups = taken ? together(files) : [files];
    try {
      for (const [index, group] of groups.entries()) {
        const job = upload(group, (share) => setShare((index + share) / groups.length));
        cancel.current = job.cancel;
        (taken ?? setFound)(await job.done);
      }
    } catch (error) {
      if (!(error instanceof DOMException)) setFailure((error as Error).message);
    } finally {
      setShare(null);
    }
  };
  const leave = () => {
    setFound(null);
    setFailure(null);
  };
  return {
    share,
    found,
    failure,
    bring: (files) => void bring(files),
    cancel: () => cancel.current(),
    fail: setFailure,
    leave,
  };
}
