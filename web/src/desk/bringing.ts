/** A file on its way in: how far it is, what it was found to hold, or why it cannot be brought in. */
import { useRef, useState } from "react";
import { upload } from "../api/client";
import type { Inspection } from "../api/generated";

export const LARGEST_BYTES = 256 * 2 ** 20;
export const TOO_LARGE = "That is larger than 256 MB, or no file. Drop a .glb, .gltf or .bvh.";

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

export function useBringing(): Bringing {
  const [share, setShare] = useState<number | null>(null);
  const [found, setFound] = useState<Inspection | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const cancel = useRef<() => void>(() => {});
  const bring = async (files: File[]) => {
    setFailure(null);
    setShare(0);
    const job = upload(files, setShare);
    cancel.current = job.cancel;
    try {
      setFound(await job.done);
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
