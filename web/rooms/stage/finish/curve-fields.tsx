import { scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Document } from '../../../../core/document/document.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import { curveTable } from '../../../../core/finish/curves.ts';
import type { FinishKind } from '../../../../core/finish/finish.ts';
import type { Point } from '../../../../core/motion/property.ts';
import { stillOf } from '../../../../core/scene/source-pixels.ts';
import { fileUrl } from '../../../data/api.ts';
import { arrowOf } from '../../../parts/keys.ts';
import { ChoiceBar } from '../../../parts/choices.tsx';

interface CurveFieldsProps {
  document: Document;
  layer: Layer;
  kind: FinishKind;
  values: Record<string, unknown>;
  onChange(key: string, value: Point[], gesture: string): void;
}

const [width, height] = [220, 130];
const across = scaleLinear([0, 1], [4, width - 4]);
const up = scaleLinear([0, 1], [height - 4, 4]);
const strokes: Record<string, string> = { all: '#1c2a30', red: '#ae3b27', green: '#0e5b50', blue: '#44648a' };

/** The curves of a finish, one at a time, drawn over the histogram of what they get. */
export function CurveFields({ document, layer, kind, values, onChange }: CurveFieldsProps) {
  const curves = Object.entries(kind.settings).filter(([, setting]) => setting.kind === 'curve');
  const [chosen, setChosen] = useState(curves[0]?.[0] ?? '');
  const histogram = useHistogram(curves.length > 0 ? stillOf(document, layer.source) : null);
  const [key, setting] = curves.find(([name]) => name === chosen) ?? curves[0] ?? [];
  if (!key || !setting) return null;
  return (
    <>
      <ChoiceBar
        label="Curve of"
        hint="channel"
        choices={curves.map(([id, { name }]) => ({ id, name: name.split(' ')[0]! }))}
        chosen={key}
        onChoose={setChosen}
      />
      <Curve
        name={setting.name}
        stroke={strokes[key] ?? '#1c2a30'}
        points={values[key] as Point[]}
        shares={histogram?.[key] ?? null}
        disabled={layer.locked}
        onChange={(points, gesture) => onChange(key, points, gesture)}
      />
    </>
  );
}

interface CurveProps {
  name: string;
  stroke: string;
  points: Point[];
  shares: number[] | null;
  disabled: boolean;
  onChange(points: Point[], gesture: string): void;
}

/** Press on the curve for a new point, drag points, Delete takes the chosen one away; arrow keys move it. */
function Curve({ name, stroke, points, shares, disabled, onChange }: CurveProps) {
  const box = useRef<SVGSVGElement>(null);
  const table = curveTable(points);
  const way = line<number>(
    (_, v) => across(v / 255),
    (y) => up(y / 255),
  )([...table])!;
  const most = Math.max(...(shares ?? [1]));
  const hill = area<number>(
    (_, v) => across(v / 255),
    up(0),
    (n) => up((n / most) * 0.9),
  );
  const at = (event: { clientX: number; clientY: number }): Point => {
    const { left, top } = box.current!.getBoundingClientRect();
    const clamp = (v: number): number => Math.max(0, Math.min(1, Math.round(v * 255) / 255));
    return [clamp(across.invert(event.clientX - left)), clamp(up.invert(event.clientY - top))];
  };
  /** A point where it is wanted, never past its neighbours. */
  const moved = (list: readonly Point[], k: number, [x, y]: Point): Point[] => {
    const [low, high] = [(list[k - 1]?.[0] ?? -1) + 1 / 255, (list[k + 1]?.[0] ?? 2) - 1 / 255];
    const next: Point = [Math.max(0, low, Math.min(1, high, x)), Math.max(0, Math.min(1, y))];
    return list.map((point, n) => (n === k ? next : point));
  };
  const grab = (event: PointerEvent, k: number, from: Point[]): void => {
    event.preventDefault();
    event.stopPropagation();
    const gesture = `curve ${Date.now()}`;
    const svg = box.current!;
    // What stays in the document holds the pointer: the points are drawn anew with every move.
    svg.setPointerCapture(event.pointerId);
    const move = (e: globalThis.PointerEvent): void => onChange(moved(from, k, at(e)), gesture);
    svg.addEventListener('pointermove', move);
    svg.addEventListener('pointerup', () => svg.removeEventListener('pointermove', move), { once: true });
  };
  const press = (event: PointerEvent): void => {
    if (disabled || event.button !== 0 || points.length >= 16) return;
    const [x] = at(event);
    if (points.some((p) => Math.abs(p[0] - x) < 2 / 255)) return;
    const next = [...points, at(event)].sort((a, b) => a[0] - b[0]);
    onChange(next, `curve point ${Date.now()}`);
    grab(
      event,
      next.findIndex((p) => p[0] === x),
      next,
    );
  };
  const onKey = (event: KeyboardEvent, k: number): void => {
    const arrow = arrowOf(event.nativeEvent, 1 / 255, 10 / 255);
    const removed = (event.key === 'Delete' || event.key === 'Backspace') && points.length > 2;
    if (disabled || (!arrow && !removed)) return;
    event.preventDefault();
    event.stopPropagation();
    if (removed)
      onChange(
        points.filter((_, n) => n !== k),
        `curve delete ${Date.now()}`,
      );
    else onChange(moved(points, k, [points[k]![0] + arrow![0], points[k]![1] - arrow![1]]), `curve keys ${k}`);
  };
  return (
    <svg
      ref={box}
      width={width}
      height={height}
      className="touch-none self-center rounded-md border border-line bg-white"
      aria-label={`${name} curve`}
      data-testid="curve"
      onPointerDown={press}
    >
      {shares && <path d={hill(shares)!} fill="#d3ccbd" />}
      <path d={`M${across(0)} ${up(0)}L${across(1)} ${up(1)}`} stroke="#d3ccbd" strokeDasharray="3 3" />
      <path d={way} fill="none" stroke={stroke} strokeWidth={1.6} />
      {points.map(([x, y], k) => (
        <circle
          key={k}
          cx={across(x)}
          cy={up(y)}
          r={5}
          tabIndex={0}
          role="slider"
          aria-label={`Point ${k + 1}`}
          aria-valuetext={`${Math.round(x * 255)} becomes ${Math.round(y * 255)}`}
          aria-valuenow={Math.round(y * 255)}
          fill="#fff"
          stroke="#d99a00"
          strokeWidth={2}
          className="cursor-move"
          onPointerDown={(event) => !disabled && grab(event, k, points)}
          onKeyDown={(event) => onKey(event, k)}
        />
      ))}
    </svg>
  );
}

/** How the levels of a stored picture are spread, for light and each channel; null while it is not known. */
function useHistogram(file: string | null): Record<string, number[]> | null {
  const [found, setFound] = useState<Record<string, number[]> | null>(null);
  useEffect(() => {
    if (!file) return;
    let wanted = true;
    const image = new Image();
    image.src = fileUrl(file, 256);
    image
      .decode()
      .then(() => wanted && setFound(histogramOf(image)))
      // Without the picture there is a curve without hills; the room says elsewhere that it is missing.
      .catch(() => undefined);
    return () => {
      wanted = false;
    };
  }, [file]);
  return file ? found : null;
}

function histogramOf(image: HTMLImageElement): Record<string, number[]> {
  const canvas = new OffscreenCanvas(image.naturalWidth, image.naturalHeight);
  const context = canvas.getContext('2d')!;
  context.drawImage(image, 0, 0);
  const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
  const counts = { all: 0, red: 1, green: 2, blue: 3 };
  const out = Object.fromEntries(Object.keys(counts).map((name) => [name, new Array<number>(256).fill(0)]));
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3]! < 128) continue;
    const light = Math.round(0.2126 * data[i]! + 0.7152 * data[i + 1]! + 0.0722 * data[i + 2]!);
    out.all![light]!++;
    ['red', 'green', 'blue'].forEach((name, c) => out[name]![data[i + c]!]!++);
  }
  return out;
}
