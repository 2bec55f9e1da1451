/** Reads pictures back from the graphics memory without waiting for them. */
import { type WebGLRenderTarget, type WebGLRenderer } from "three";

interface Waiting {
  buffer: WebGLBuffer;
  drawn: WebGLSync;
  size: number;
  taken: (pixels: Uint8Array) => void;
}

/** What the renderer knows of a target: where it stands once all samples of a pixel are one. */
interface Resolved {
  __webglFramebuffer: WebGLFramebuffer;
}

/**
 * A picture is copied into a buffer behind everything that was drawn before it, and fetched once that is done. Fetching
 * still waits for whatever is being drawn just then: the best moment is before the next Picture.
 */
export class ReadBack {
  private readonly gl: WebGL2RenderingContext;
  private waiting: Waiting[] = [];

  constructor(private readonly renderer: WebGLRenderer) {
    this.gl = renderer.getContext() as WebGL2RenderingContext;
  }

  /** Copy what was drawn into a target; its pixels (RGBA, bottom row first) are handed over by a later `fetch`. */
  copy(target: WebGLRenderTarget, taken: (pixels: Uint8Array) => void): void {
    const { gl, renderer } = this;
    const { width, height } = target;
    const size = width * height * 4;
    const buffer = gl.createBuffer();
    const { __webglFramebuffer: resolved } = renderer.properties.get(target) as Resolved;
    renderer.state.bindFramebuffer(gl.FRAMEBUFFER, resolved);
    gl.bindBuffer(gl.PIXEL_PACK_BUFFER, buffer);
    gl.bufferData(gl.PIXEL_PACK_BUFFER, size, gl.STREAM_READ);
    gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, 0);
    gl.bindBuffer(gl.PIXEL_PACK_BUFFER, null);
    renderer.setRenderTarget(null);
    const drawn = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0)!;
    gl.flush();
    this.waiting.push({ buffer, drawn, size, taken });
  }

  /** Hand over what is done. */
  fetch(): void {
    const { gl } = this;
    this.waiting = this.waiting.filter(({ buffer, drawn, size, taken }) => {
      if (gl.clientWaitSync(drawn, 0, 0) === gl.TIMEOUT_EXPIRED) return true;
      const pixels = new Uint8Array(size);
      gl.bindBuffer(gl.PIXEL_PACK_BUFFER, buffer);
      gl.getBufferSubData(gl.PIXEL_PACK_BUFFER, 0, pixels);
      gl.bindBuffer(gl.PIXEL_PACK_BUFFER, null);
      gl.deleteBuffer(buffer);
      gl.deleteSync(drawn);
      taken(pixels);
      return false;
    });
  }

  /** What was under way went with the graphics memory. */
  forget(): void {
    this.waiting = [];
  }

  get count(): number {
    return this.waiting.length;
  }
}
