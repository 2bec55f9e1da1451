/** How coarse heavy surfaces may be drawn while it plays: as fine as they are, until frames have to be dropped for it. */
const CELLS_PX = [0, 2, 4, 6];
const DROPPED_A_STEP = 4;

export class PlayingDetail {
  private step = 0;
  private counted = 0;

  /** The largest cells, px, of a picture that is drawn now; `dropped` is how many frames were since it plays. */
  mostPx(playing: boolean, dropped: number): number {
    if (!playing || dropped < this.counted) this.counted = 0;
    if (!playing) return 0;
    if (dropped >= this.counted + DROPPED_A_STEP) {
      this.counted = dropped;
      this.step = Math.min(this.step + 1, CELLS_PX.length - 1);
    }
    return CELLS_PX[this.step]!;
  }
}
