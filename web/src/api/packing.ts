/** MessagePack with raw arrays, as the server packs them: one extension a kind of number. */
import { Decoder, ExtensionCodec } from "@msgpack/msgpack";

const codec = new ExtensionCodec();

/** A copy, as the bytes need not lie where the numbers must begin. */
function aligned(bytes: Uint8Array): ArrayBuffer {
  return bytes.slice().buffer;
}

const KINDS: [number, (bytes: Uint8Array) => unknown][] = [
  [1, (bytes) => new Float32Array(aligned(bytes))],
  [2, (bytes) => new Int32Array(aligned(bytes))],
  [3, (bytes) => new Uint8Array(aligned(bytes))],
  [4, (bytes) => new Uint16Array(aligned(bytes))],
  [5, (bytes) => new Uint32Array(aligned(bytes))],
  [6, (bytes) => new Float64Array(aligned(bytes))],
];
for (const [type, decode] of KINDS) codec.register({ type, encode: () => null, decode });

const decoder = new Decoder({ extensionCodec: codec });

export function unpack(data: ArrayBuffer): unknown {
  return decoder.decode(new Uint8Array(data));
}
