import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useState, type PointerEvent } from 'react';
import { curveOf, type Easing } from '../../../../core/motion/easing.ts';
import type { Key, PropertyValue } from '../../../../core/motion/property.ts';
import type { Document } from '../../../../core/document/document.ts';
import { easeKeys, speedsOf } from '../../../../core/edits/key-edits.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import { propertyAt, propertyName, propertyPaths, type PropertyPath } from '../../../../core/document/properties.ts';
import { layerValue } from '../../../../core/scene/values.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { ChoiceBar } from '../../../parts/choices.tsx';
import { SmallSelect } from '../../../parts/small-select.tsx';
import { drag } from '../../../parts/zoom.ts';
import { labelWidth, type Track } from './track.tsx';

interface GraphProps {
  document: Document;
  shot: Shot;
  layer: Layer;
  track: Track;
}

const height = 118;
/** One line for each number of a value, told apart by their dashes. */
const dashes = ['', '6 3', '2 3', '8 3 2 3'];

/** Value or speed of one property over the shot; the easing of each way is pulled by its two handles. */
export function Graph({ document, shot, layer, track }: GraphProps) {
  const possible = propertyPaths(layer).filter((path) => path !== 'points');
  const moving = possible.filter((path) => 'keys' in propertyAt(layer, path)!);
  const [wanted, setWanted] = useState<PropertyPath | null>(null);
  const [shows, setShows] = useState<'value' | 'speed'>('value');
  const property = wanted && possible.includes(wanted) ? wanted : (moving[0] ?? 'position');
  const current = propertyAt(layer, property)!;
  const frames = Array.from({ length: shot.length }, (_, f) => f);
  const series: number[][] =
    shows === 'speed'
      ? [speedsOf(current, shot.length, document.frame.rate)]
      : transposed(frames.map((f) => numbersOf(layerValue(shot, layer, property, f))));
  const keys = 'keys' in current ? current.keys : [];
  const all = [
    ...series.flat(),
    ...(shows === 'value' ? keys.flatMap((key, k) => handleValues(key, keys[k + 1])) : []),
  ];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const room = high - low || Math.abs(high) || 1;
  const up = scaleLinear([low - room * 0.12, high + room * 0.12], [height - 4, 4]);
  const draw = line<number>()
    .x((_, f) => track.across(f))
    .y((v) => up(v));
  return (
    <div className="flex">
      <div className="flex shrink-0 flex-col gap-1 border-r border-line p-2" style={{ width: labelWidth }}>
        <SmallSelect
          label=""
          value={property}
          options={possible.map((value) => ({ value, name: propertyName(layer, value) }))}
          onChange={(value) => setWanted(value)}
        />
        <ChoiceBar
          label="Graph of"
          hint="over time"
          choices={[
            { id: 'value', name: 'Value' },
            { id: 'speed', name: 'Speed' },
          ]}
          chosen={shows}
          onChoose={(value) => setShows(value)}
        />
        {shows === 'value' && series.length === 2 && (
          <p className="flex gap-2 text-[11px] text-ink-2">
            {['X', 'Y'].map((axis, k) => (
              <span key={axis} className="flex items-center gap-1">
                {axis}
                <svg width={22} height={4} aria-hidden>
                  <line x2={22} y1={2} y2={2} stroke="#0e5b50" strokeWidth={1.8} strokeDasharray={dashes[k]} />
                </svg>
              </span>
            ))}
          </p>
        )}
      </div>
      <svg className="min-w-0 flex-1" height={height} data-testid="graph">
        {up.ticks(4).map((tick) => (
          <g key={tick}>
            <line x1={0} x2={track.width} y1={up(tick)} y2={up(tick)} stroke="#d3ccbd" />
            <text x={2} y={up(tick) - 2} className="fill-ink-2 font-mono text-[9px]">
              {tick}
            </text>
          </g>
        ))}
        {series.map((values, k) => (
          <path
            key={k}
            d={draw(values) ?? ''}
            fill="none"
            stroke="#0e5b50"
            strokeWidth={1.8}
            strokeDasharray={dashes[k % dashes.length]}
          />
        ))}
        {keys.map((key) => (
          <line
            key={key.frame}
            x1={track.across(key.frame)}
            x2={track.across(key.frame)}
            y1={0}
            y2={height}
            stroke="#0e5b50"
            strokeOpacity={0.35}
          />
        ))}
        {shows === 'value' &&
          keys
            .slice(0, -1)
            .map((key, k) => (
              <EasingHandles
                key={key.frame}
                shot={shot}
                layer={layer}
                property={property}
                from={key}
                to={keys[k + 1]!}
                track={track}
                up={(v) => up(v)}
                down={(y) => up.invert(y)}
              />
            ))}
      </svg>
    </div>
  );
}

const numbersOf = (value: PropertyValue): number[] => (typeof value === 'number' ? [value] : value);
const transposed = (rows: number[][]): number[][] => (rows[0] ?? []).map((_, k) => rows.map((row) => row[k]!));

/** Values at which the handles of a way lie, so that they are within the graph. */
function handleValues(from: Key<PropertyValue>, to: Key<PropertyValue> | undefined): number[] {
  const curve = to && curveOf(from.easing);
  if (!curve) return [];
  const [a, b] = [numbersOf(from.value), numbersOf(to.value)];
  const k = mostChanged(a, b);
  return [curve[1], curve[3]].map((y) => a[k]! + (b[k]! - a[k]!) * y);
}

/** The number of a value that changes most between two keys: the one whose easing is drawn. */
const mostChanged = (a: number[], b: number[]): number =>
  a.reduce((best, v, n) => (Math.abs(b[n]! - v) > Math.abs(b[best]! - a[best]!) ? n : best), 0);

interface EasingHandlesProps {
  shot: Shot;
  layer: Layer;
  property: PropertyPath;
  from: Key<PropertyValue>;
  to: Key<PropertyValue>;
  track: Track;
  up(value: number): number;
  down(y: number): number;
}

/** Two handles that bend the way from one keyframe to the next; shown for the number that changes most. */
function EasingHandles({ shot, layer, property, from, to, track, up, down }: EasingHandlesProps) {
  const { dispatch } = useProject();
  const [a, b] = [numbersOf(from.value), numbersOf(to.value)];
  const k = mostChanged(a, b);
  const curve = curveOf(from.easing);
  if (!curve || a[k] === b[k]) return null;
  const [x0, x1] = [track.across(from.frame), track.across(to.frame)];
  const at = (x: number, y: number): [number, number] => [x0 + (x1 - x0) * x, up(a[k]! + (b[k]! - a[k]!) * y)];
  const pull = (event: PointerEvent, which: 0 | 2): void => {
    event.stopPropagation();
    const svg = (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect();
    const gesture = `ease ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      const next: Easing = [...curve];
      next[which] = Number(Math.max(0, Math.min(1, (move.clientX - svg.left - x0) / (x1 - x0))).toFixed(3));
      const value = down(move.clientY - svg.top);
      next[(which + 1) as 1 | 3] = Number(((value - a[k]!) / (b[k]! - a[k]!)).toFixed(3));
      const ref = { layer: layer.id, property, frame: from.frame };
      dispatch(easeKeys(shot.id, [ref], next), gesture);
    });
  };
  const [start, end] = [at(0, 0), at(1, 1)];
  const first = at(curve[0], curve[1]);
  const second = at(curve[2], curve[3]);
  return (
    <g>
      <line x1={start[0]} y1={start[1]} x2={first[0]} y2={first[1]} stroke="#d99a00" strokeWidth={1.2} />
      <line x1={end[0]} y1={end[1]} x2={second[0]} y2={second[1]} stroke="#d99a00" strokeWidth={1.2} />
      {(
        [
          [first, 0],
          [second, 2],
        ] as const
      ).map(([[x, y], which]) => (
        <circle
          key={which}
          cx={x}
          cy={y}
          r={5}
          data-ease={which}
          className="cursor-move fill-paper stroke-saffron"
          strokeWidth={2}
          onPointerDown={(event) => pull(event, which)}
        >
          <title>Pull to ease the way to the next keyframe</title>
        </circle>
      ))}
    </g>
  );
}
