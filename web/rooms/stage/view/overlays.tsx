import type { Document } from '../../../../core/document/document.ts';
import type { Zoom } from '../../../parts/zoom.ts';
import { useStage } from '../stage-state.ts';
import { frameOnScreen } from './on-screen.ts';

/** Shares of the frame inside which action, and inside which words, are safe (SMPTE ST 2046-1). */
const safe = [0.93, 0.9] as const;

/** Safe area, thirds, and the lines that a dragged layer has caught. */
export function Overlays({
  document,
  zoom,
  caught,
}: {
  document: Document;
  zoom: Zoom;
  caught: { x: number | null; y: number | null };
}) {
  const { overlays } = useStage();
  const { width, height } = document.frame;
  const [left, top] = frameOnScreen(zoom, 0, 0);
  const [right, bottom] = frameOnScreen(zoom, width, height);
  const line = (x1: number, y1: number, x2: number, y2: number, key: string, strong = false) => (
    <g key={key}>
      <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="#1c2a30" strokeOpacity={0.4} strokeWidth={strong ? 3.5 : 2.5} />
      <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={strong ? '#d99a00' : '#f5f2eb'} strokeWidth={strong ? 1.5 : 1} />
    </g>
  );
  return (
    <g>
      {overlays.thirds &&
        [1 / 3, 2 / 3].flatMap((t) => [
          line(left + (right - left) * t, top, left + (right - left) * t, bottom, `x${t}`),
          line(left, top + (bottom - top) * t, right, top + (bottom - top) * t, `y${t}`),
        ])}
      {overlays.safe &&
        safe.map((share) => {
          const [w, h] = [(right - left) * share, (bottom - top) * share];
          const box = { x: (left + right - w) / 2, y: (top + bottom - h) / 2, width: w, height: h, fill: 'none' };
          return (
            <g key={share} data-testid="safe-area">
              <rect {...box} stroke="#1c2a30" strokeOpacity={0.4} strokeWidth={2.5} />
              <rect {...box} stroke="#f5f2eb" strokeDasharray={share === safe[1] ? '6 4' : undefined} />
            </g>
          );
        })}
      {caught.x !== null &&
        line(left + caught.x * zoom.view.scale, top, left + caught.x * zoom.view.scale, bottom, 'cx', true)}
      {caught.y !== null &&
        line(left, top + caught.y * zoom.view.scale, right, top + caught.y * zoom.view.scale, 'cy', true)}
    </g>
  );
}
