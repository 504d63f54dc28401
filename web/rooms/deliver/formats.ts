import type { Document } from '../../../core/document/document.ts';
import { exportFormats, type ExportFormat } from '../../../core/formats/exports.ts';

export interface ExportSize {
  /** The longer side. */
  edge: number;
  width: number;
  height: number;
}

/** Sizes worth offering: the frame's own first, then smaller ones; video needs even numbers. */
export function sizesFor(document: Document, format: ExportFormat): ExportSize[] {
  const { width, height } = document.frame;
  const own = Math.max(width, height);
  const edges = exportFormats[format].mostEdge === null ? [own, 1280, 960, 640] : [640, 480, 320];
  const fitting = [...new Set(edges)].filter((edge) => edge <= own);
  return (fitting.length > 0 ? fitting : [own]).map((edge) => {
    const scale = edge / own;
    const even = (v: number): number => Math.max(2, Math.round((v * scale) / 2) * 2);
    return { edge, width: even(width), height: even(height) };
  });
}
