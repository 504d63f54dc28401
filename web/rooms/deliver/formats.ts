import type { Document } from '../../../core/document/document.ts';

export const formats = {
  mp4: { name: 'MP4', purpose: 'For a video or a chat', hint: 'H.264, plays everywhere' },
  webm: { name: 'WebM', purpose: 'For a page', hint: 'VP9, smaller at the same look' },
  gif: { name: 'GIF', purpose: 'Where video is not allowed', hint: 'Loops by itself, 15 frames a second' },
  png: { name: 'PNG', purpose: 'A poster', hint: 'One frame, as a still picture' },
} as const;

export type Format = keyof typeof formats;

export interface ExportSize {
  /** The longer side. */
  edge: number;
  width: number;
  height: number;
}

/** Sizes worth offering: the frame's own first, then smaller ones; video needs even numbers. */
export function sizesFor(document: Document, format: Format): ExportSize[] {
  const { width, height } = document.frame;
  const own = Math.max(width, height);
  const edges = format === 'gif' ? [640, 480, 320] : [own, 1280, 960, 640];
  const fitting = [...new Set(edges)].filter((edge) => edge <= own);
  return (fitting.length > 0 ? fitting : [own]).map((edge) => {
    const scale = edge / own;
    const even = (v: number): number => Math.max(2, Math.round((v * scale) / 2) * 2);
    return { edge, width: even(width), height: even(height) };
  });
}

/** A file size for people: three digits and a unit. */
export function sizeOf(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  if (bytes < 999_500) return `${Math.round(bytes / 1000)} kB`;
  const mega = bytes / 1e6;
  return mega < 1000 ? `${mega.toFixed(mega < 10 ? 2 : 1)} MB` : `${(mega / 1000).toFixed(2)} GB`;
}
