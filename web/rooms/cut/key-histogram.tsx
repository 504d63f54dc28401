import { scaleLinear } from 'd3-scale';
import { area, curveStepAfter } from 'd3-shape';
import { drag } from '../../parts/zoom.ts';

interface KeyHistogramProps {
  histogram: { most: number; shares: number[] };
  low: number;
  high: number;
  names: [string, string];
  onChange(low: number, high: number): void;
}

const [width, height] = [184, 64];

/** How the picture's pixels lie between screen and subject, or dark and light, with the two thresholds to drag. */
export function KeyHistogram({ histogram, low, high, names, onChange }: KeyHistogramProps) {
  const { most, shares } = histogram;
  const x = scaleLinear([0, most], [0, width]);
  // The largest heap would press all others flat; the root keeps small ones visible.
  const y = scaleLinear([0, Math.sqrt(Math.max(...shares, 0.001))], [height - 2, 4]);
  const shape = area<number>()
    .x((_, i) => x((i / shares.length) * most))
    .y0(height)
    .y1((share) => y(Math.sqrt(share)))
    .curve(curveStepAfter);
  const move = (which: 'low' | 'high', value: number): void => {
    const clamped = Math.round(Math.max(0, Math.min(most, value)));
    if (which === 'low') onChange(Math.min(clamped, high - 1), high);
    else onChange(low, Math.max(clamped, low + 1));
  };
  const threshold = (which: 'low' | 'high', value: number, name: string) => (
    <g
      role="slider"
      tabIndex={0}
      aria-label={name}
      aria-valuenow={value}
      aria-valuemin={0}
      aria-valuemax={most}
      className="cursor-ew-resize"
      onKeyDown={(event) => {
        const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
        if (!step) return;
        event.preventDefault();
        event.stopPropagation();
        move(which, value + step * (event.shiftKey ? 10 : 1));
      }}
      onPointerDown={(event) => {
        const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
        drag(event, (e) => move(which, x.invert(((e.clientX - box.left) / box.width) * width)));
      }}
    >
      <rect x={x(value) - 8} y={0} width={16} height={height} fill="transparent" />
      <path d={`M${x(value)} 0V${height}`} stroke="#d99a00" strokeWidth={2} />
      <rect x={x(value) - 3} y={which === 'low' ? height - 12 : 0} width={6} height={12} rx={1} fill="#d99a00" />
    </g>
  );
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full rounded-md border border-line bg-white"
      aria-label="Histogram"
    >
      <path d={shape(shares) ?? ''} fill="#44648a" fillOpacity={0.55} />
      <path d={`M${x(low)} ${height}L${x(high)} 0`} stroke="#1c2a30" strokeWidth={1} strokeDasharray="3 3" />
      {threshold('low', low, names[0])}
      {threshold('high', high, names[1])}
    </svg>
  );
}
