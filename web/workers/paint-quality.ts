/** Shares of full resolution at which a shot is played. */
const steps = [1, 0.75, 0.5, 0.35] as const;

/**
 * How finely a playing shot is painted on this machine: a step coarser when frames take longer than there is time for,
 * finer again when there is plenty. Standing still it is always painted in full.
 */
export class PaintQuality {
  private step = 0;
  private slow = 0;
  private quick = 0;

  get share(): number {
    return steps[this.step]!;
  }

  /** @param milliseconds a frame took  @param budget there is for one at the frame rate */
  learn(milliseconds: number, budget: number): void {
    this.slow = milliseconds > budget * 0.95 ? this.slow + 1 : 0;
    this.quick = milliseconds < budget * 0.35 ? this.quick + 1 : 0;
    // One slow frame may be a file being read; three in a row are the machine.
    if (this.slow >= 3 && this.step < steps.length - 1) this.move(1);
    else if (this.quick >= 24 && this.step > 0) this.move(-1);
  }

  private move(by: number): void {
    this.step += by;
    this.slow = 0;
    this.quick = 0;
  }
}
