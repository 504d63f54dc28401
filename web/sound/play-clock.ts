import type { Voice } from './player.ts';

/** Seconds without anything new heard after which the picture goes on without the sound. */
const patience = 0.5;

/**
 * Seconds that have been played: by the machine's clock, and once something is heard by how much of that was, so the
 * two never part. Where a machine's sound stands still, as one that has much to do lets it, the picture goes on by
 * itself, and the sound joins it where it is as soon as it can be heard again.
 */
export class PlayClock {
  private voice: Voice | null = null;
  /** What had been played when the voice began. */
  private before = 0;
  /** The most that was heard of the voice. */
  private most = 0;
  /** What had been played when that was last known, and when that was. */
  private known: { played: number; at: number };
  private alone = false;
  private stopped = false;

  /**
   * @param now seconds of the machine's clock
   * @param speak lets the sound be heard from what has been played when it begins; null where that is not possible
   */
  constructor(
    private readonly now: () => number,
    private readonly speak: (played: () => number) => Promise<Voice | null>,
  ) {
    this.known = { played: 0, at: now() };
  }

  /** Lets the sound be heard, and follows it from then on. */
  async follow(): Promise<void> {
    let before = 0;
    const voice = await this.speak(() => (before = this.byMachine()));
    if (this.stopped) return voice?.stop();
    Object.assign(this, { voice, before, most: -Infinity, alone: false });
    if (voice) this.known = { played: before, at: this.now() };
  }

  private byMachine(): number {
    return this.known.played + this.now() - this.known.at;
  }

  /** What has been played. @param failed is told why the sound could not join again */
  passed(failed: (reason: unknown) => void): number {
    const heard = this.voice?.heard() ?? null;
    const more = heard !== null && heard > this.most;
    if (more) this.most = heard;
    if (more && this.alone) this.join(failed);
    if (!this.voice) return this.byMachine();
    if (more) this.known = { played: this.before + Math.max(0, heard), at: this.now() };
    if (heard === null || this.now() - this.known.at > patience) this.alone = true;
    return this.alone ? this.byMachine() : this.known.played;
  }

  private join(failed: (reason: unknown) => void): void {
    this.voice?.stop();
    this.voice = null;
    this.known = { played: this.byMachine(), at: this.now() };
    this.follow().catch(failed);
  }

  stop(): void {
    this.stopped = true;
    this.voice?.stop();
  }
}
