import type { Document, Picture } from './document.ts';

/** Frames in common use; a picture near one of these proportions gets it. */
export const commonFrames = [
  { name: '16:9', width: 1920, height: 1080 },
  { name: '1:1', width: 1080, height: 1080 },
  { name: '9:16', width: 1080, height: 1920 },
] as const;

/** Frames a second of a project, unless a clip that is one of the usual ones asks for its own. */
const plainRate = 30;
const usualRates = { least: 23, most: 60 };
/** Seconds a first shot is long: for a picture, and at most for a clip. */
const [plainLength, longestClip] = [6, 60];

/** How far proportions may differ (as a ratio) and still count as near. */
const near = 1.13;
const longest = 1920;

/** The frame to start with for a picture of this size: a common one, or the picture's own proportions. */
export function proposeFrame(width: number, height: number): Document['frame'] {
  const ratio = width / height;
  const common = commonFrames.find((frame) => {
    const difference = ratio / (frame.width / frame.height);
    return Math.max(difference, 1 / difference) <= near;
  });
  if (common) return { width: common.width, height: common.height, rate: plainRate };
  const scale = Math.min(1, longest / Math.max(width, height));
  // Video wants even sizes.
  const even = (v: number): number => Math.max(16, Math.round((v * scale) / 2) * 2);
  return { width: even(width), height: even(height), rate: plainRate };
}

/** The frame and the seconds to start with for a first picture; a clip is shown at its own pace, once. */
export function proposeStart({ width, height, clip }: Pick<Picture, 'width' | 'height' | 'clip'>): {
  frame: Document['frame'];
  seconds: number;
} {
  const frame = proposeFrame(width, height);
  if (!clip || clip.frames < 2) return { frame, seconds: plainLength };
  const rate = Math.round(clip.rate);
  const usual = rate >= usualRates.least && rate <= usualRates.most;
  // In whole frames of the shot, so that its last is the clip's last.
  const shown = usual ? rate : plainRate;
  const frames = Math.max(1, Math.round((clip.frames / clip.rate) * shown));
  return { frame: { ...frame, rate: shown }, seconds: Math.min(longestClip, frames / shown) };
}
