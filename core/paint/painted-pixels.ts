import type { Studio } from './surface.ts';

/** Bytes of painted contents that are kept. */
const keptBytes = 96e6;
/** Names of contents that were met once. */
const mostMet = 400;

/** Painted contents of one studio, the one used longest ago first; null for what was met once. */
class PaintedPixels {
  private readonly store = new Map<string, Uint8ClampedArray | null>();
  private bytes = 0;

  find(name: string): Uint8ClampedArray | null {
    const found = this.store.get(name) ?? null;
    if (found) this.put(name, found);
    return found;
  }

  /** What is painted a second time will be wanted again: its finishes change from frame to frame. */
  painted(name: string, pixels: Uint8ClampedArray): void {
    if (this.store.get(name)) return;
    const again = this.store.has(name);
    this.put(name, again ? pixels.slice() : null);
    if (again) this.bytes += pixels.length;
    for (const [old, data] of this.store) {
      if ((this.bytes <= keptBytes && this.store.size <= mostMet) || old === name) break;
      this.store.delete(old);
      this.bytes -= data?.length ?? 0;
    }
  }

  private put(name: string, data: Uint8ClampedArray | null): void {
    this.store.delete(name);
    this.store.set(name, data);
  }
}

const ofStudios = new WeakMap<object, PaintedPixels>();

/**
 * Pixels of contents that stand still while their finishes change: they are painted and read once, not with every frame.
 * Nothing that was kept may be written to.
 */
export function paintedPixels<Image>(studio: Studio<Image>): PaintedPixels {
  const known = ofStudios.get(studio) ?? new PaintedPixels();
  ofStudios.set(studio, known);
  return known;
}
