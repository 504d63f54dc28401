import { appendFile } from 'node:fs/promises';
import type { BrowserContext } from 'playwright-core';

/* How much a hand has to do in a scene, counted when PRESSES names a file: bash scripts/test.sh scenes then writes it. */

export interface Presses {
  /** Presses of the pointer, each with its way there. */
  pointer: number;
  /** Key strokes. */
  keys: number;
}

/** Counts what is pressed in all pages of a context. What a test fills in or chooses at once counts as by hand. */
export async function countPresses(context: BrowserContext): Promise<Presses> {
  const presses: Presses = { pointer: 0, keys: 0 };
  await context.exposeFunction('countPress', (kind: keyof Presses, times: number) => {
    presses[kind] += times;
  });
  // What compiles the tests wraps named functions; in the page there is nothing that it wraps them with.
  await context.addInitScript({ content: 'globalThis.__name ??= (named) => named;' });
  await context.addInitScript(() => {
    const count = (kind: string, times: number): void =>
      void (window as unknown as { countPress(kind: string, times: number): void }).countPress(kind, times);
    let lastKey = 0;
    const listen = (type: string, act: (target: EventTarget | null) => void): void =>
      window.addEventListener(type, ({ target }) => act(target), true);
    listen('pointerdown', () => count('pointer', 1));
    listen('keydown', () => {
      lastKey = performance.now();
      count('keys', 1);
    });
    listen('input', (target) => {
      if (performance.now() - lastKey < 100) return;
      // Filled in at once: a press into the field, then its letters. A list is opened and chosen from.
      if (target instanceof HTMLSelectElement) count('pointer', 2);
      else if (target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement) {
        count('pointer', 1);
        count('keys', target.value.length);
      }
    });
  });
  return presses;
}

/**
 * Minutes that a practised hand takes for so many presses, without the waiting: pointing 1.1 s, a press 0.2 s, a key 0.28 s,
 * and 1.35 s of thought before each pointing (Card, Moran and Newell 1980, The keystroke-level model).
 */
export const minutesOf = ({ pointer, keys }: Presses): number => (pointer * (1.1 + 0.2 + 1.35) + keys * 0.28) / 60;

/** Adds a line about a test to the file. */
export const notePresses = (file: string, test: string, presses: Presses): Promise<void> =>
  appendFile(file, `${JSON.stringify({ test, ...presses, minutes: Number(minutesOf(presses).toFixed(1)) })}\n`);
