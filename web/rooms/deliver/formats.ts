import type { Document } from '../../../core/document/document.ts';
import { exportFormats, type ExportFormat } from '../../../core/formats/exports.ts';

export interface ExportSize {
  /** The longer side. */
  edge: number;
  width: number;
  height: number;
}

/** Longer sides people ask for. */
const common = [640, 960, 1280, 1920, 3840];

/** Sizes worth offering: the frame's own first, the next larger one, then smaller ones; video needs even numbers. */
export function sizesFor(document: Document, format: ExportFormat): ExportSize[] {
  const { width, height } = document.frame;
  const own = Math.max(width, height);
  const larger = common.filter((edge) => edge > own).slice(0, 1);
  const small = exportFormats[format].mostEdge !== null;
  const edges = small ? [640, 480, 320] : [own, ...larger, 1280, 960, 640];
  const fitting = [...new Set(edges)].filter((edge) => edge <= own || (larger.includes(edge) && !small));
  return (fitting.length > 0 ? fitting : [own]).map((edge) => {
    const scale = edge / own;
    const even = (v: number): number => Math.max(2, Math.round((v * scale) / 2) * 2);
    return { edge, width: even(width), height: even(height) };
  });
}
