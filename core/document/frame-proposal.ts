import type { Document } from './document.ts';

/** Frames in common use; a picture near one of these proportions gets it. */
export const commonFrames = [
  { name: '16:9', width: 1920, height: 1080 },
  { name: '1:1', width: 1080, height: 1080 },
  { name: '9:16', width: 1080, height: 1920 },
] as const;

/** How far proportions may differ (as a ratio) and still count as near. */
const near = 1.13;
const longest = 1920;

/** The frame to start with for a picture of this size: a common one, or the picture's own proportions; 30 frames a second. */
export function proposeFrame(width: number, height: number): Document['frame'] {
  const ratio = width / height;
  const common = commonFrames.find((frame) => {
    const difference = ratio / (frame.width / frame.height);
    return Math.max(difference, 1 / difference) <= near;
  });
  if (common) return { width: common.width, height: common.height, rate: 30 };
  const scale = Math.min(1, longest / Math.max(width, height));
  // Video wants even sizes.
  const even = (v: number): number => Math.max(16, Math.round((v * scale) / 2) * 2);
  return { width: even(width), height: even(height), rate: 30 };
}
