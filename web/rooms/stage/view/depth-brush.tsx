import { useRef, useState, type PointerEvent } from 'react';
import { setLayer } from '../../../../core/edits/layer-edits.ts';
import type { Relief } from '../../../../core/document/layer.ts';
import { invert, transform } from '../../../../core/scene/matrix.ts';
import { layerMatrix } from '../../../../core/scene/place.ts';
import { pixelsOf } from '../../../../core/scene/source-pixels.ts';
import { uploadPixels } from '../../../data/api.ts';
import { notifyError } from '../../../data/notices.ts';
import { useProject } from '../../../data/project.ts';
import { drag } from '../../../parts/zoom.ts';
import { drawDepth } from '../../../workers/depth-client.ts';
import { useStage } from '../stage-state.ts';
import type { HandlesProps } from './layer-handles.tsx';
import { ViewCatcher } from './view-catcher.tsx';
import { onScreen } from './on-screen.ts';

type Stroke = Relief['strokes'][number];

const layerNow = (shot: string, layer: string) =>
  useProject
    .getState()
    .document?.shots.find((s) => s.id === shot)
    ?.layers.find((l) => l.id === layer);

/** Strokes over the picture at rest that say how near things are; the map is spread anew after each. */
export function DepthBrush({ document, shot, layer, zoom, frame }: HandlesProps) {
  const { dispatch } = useProject();
  const { closeness, depthBrush } = useStage();
  const [live, setLive] = useState<Stroke | null>(null);
  const [busy, setBusy] = useState(false);
  const running = useRef<ReturnType<typeof drawDepth> | null>(null);
  const matrix = layerMatrix(document, shot, layer, { x: 0, y: 0, z: 0 }, frame);
  const pixels = pixelsOf(document, layer.source);
  if (!matrix || !pixels) return null;
  const back = invert(matrix);
  const strokes = layer.relief?.strokes ?? [];
  /** The stroke is kept at once; the map follows, and one that comes too late for a newer stroke is left. */
  const spread = async (next: Stroke[]): Promise<void> => {
    const gesture = `depth ${layer.id} ${next.length} ${Date.now()}`;
    const keep = (file: string | null): void => {
      const now = layerNow(shot.id, layer.id)?.relief;
      const relief: Relief = {
        near: 0.7,
        far: 2,
        behind: null,
        ...now,
        strokes: next,
        file: file ?? now?.file ?? null,
      };
      dispatch(setLayer('Paint depth', shot.id, layer.id, { relief }), gesture);
    };
    keep(null);
    running.current?.cancel();
    // The map lies over the file, which may begin left of or above the picture.
    const moved = next.map((s) => ({
      ...s,
      points: s.points.map(([x, y]): [number, number] => [x - pixels.x, y - pixels.y]),
    }));
    const job = drawDepth(pixels.file, moved);
    running.current = job;
    setBusy(true);
    const made = await job.answer;
    if (!made || running.current !== job) return;
    keep(await uploadPixels(made.map));
    setBusy(false);
  };
  const paint = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    event.stopPropagation();
    const at = (e: { clientX: number; clientY: number }): [number, number] =>
      transform(back, ...zoom.toThing(e.clientX, e.clientY)).map((v) => Math.round(v * 10) / 10) as [number, number];
    const radius = depthBrush / 2 / (zoom.view.scale * Math.hypot(matrix[0], matrix[1]));
    let stroke: Stroke = { closeness, radius, points: [at(event)] };
    setLive(stroke);
    drag(
      event,
      (move) => {
        stroke = { ...stroke, points: [...stroke.points, at(move)] };
        setLive(stroke);
      },
      () => {
        setLive(null);
        spread([...strokes, stroke]).catch((error: unknown) => {
          setBusy(false);
          notifyError(error);
        });
      },
    );
  };
  const line = ({ points }: Stroke): string => points.map((p) => onScreen(zoom, matrix, ...p).join(' ')).join('L');
  return (
    <g>
      <ViewCatcher name="depth-brush" onPress={paint} />
      {busy && (
        <g data-testid="depth-busy">
          <rect x={8} y={8} width={178} height={26} rx={6} className="fill-ink/80" />
          <text x={16} y={26} className="fill-white text-[13px]">
            Working out the distances
          </text>
        </g>
      )}
      {[...strokes, ...(live ? [live] : [])].map((stroke, k) => (
        <path
          key={k}
          d={`M${line(stroke)}${stroke.points.length === 1 ? 'h0.1' : ''}`}
          fill="none"
          strokeLinecap="round"
          strokeLinejoin="round"
          stroke={stroke.closeness > 0.75 ? '#f5f2eb' : stroke.closeness > 0.25 ? '#777b7c' : '#1c2a30'}
          strokeOpacity={0.75}
          strokeWidth={2 * stroke.radius * Math.hypot(matrix[0], matrix[1]) * zoom.view.scale}
        />
      ))}
    </g>
  );
}
