import type { PointerEvent } from 'react';
import { valueAt, type Key, type Point } from '../../../../core/motion/property.ts';
import { setKeyHandles } from '../../../../core/edits/key-edits.ts';
import { setProperty } from '../../../../core/edits/layer-edits.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import { positionMovedBy } from '../../../../core/scene/move.ts';
import { cameraAt, layerMatrix } from '../../../../core/scene/place.ts';
import { layerValue } from '../../../../core/scene/values.ts';
import { transform } from '../../../../core/scene/matrix.ts';
import { useProject } from '../../../data/project.ts';
import { drag } from '../../../parts/zoom.ts';
import { useStage } from '../stage-state.ts';
import { BendHandle } from './bend-handle.tsx';
import type { HandlesProps } from './layer-handles.tsx';
import { frameOnScreen } from './on-screen.ts';

/** The way a layer goes, with a dot for every frame, its keyframes to be dragged and the handles of their curves. */
export function MotionPath(props: HandlesProps) {
  const { layer, zoom, frame } = props;
  const { keys: chosen } = useStage();
  if (!('keys' in layer.position) || layer.position.keys.length < 2) return null;
  const { keys } = layer.position;
  // The path is drawn as the camera sees it now: it would be no line if every point had a camera of its own.
  const seen = seenPlace(props);
  if (!seen) return null;
  const [first, last] = [keys[0]!.frame, keys.at(-1)!.frame];
  const step = Math.max(1, Math.ceil((last - first) / 400));
  const points: Point[] = [];
  for (let f = first; f <= last; f += step) points.push(seen(valueAt(layer.position, f)));
  points.push(seen(keys.at(-1)!.value));
  const line = points.map((p) => frameOnScreen(zoom, ...p).join(' ')).join('L');
  return (
    <g data-testid="motion-path">
      <path d={`M${line}`} fill="none" stroke="#1c2a30" strokeOpacity={0.45} strokeWidth={3} />
      <path d={`M${line}`} fill="none" stroke="#f5f2eb" strokeWidth={1.3} />
      {/* Dots so near to one another that they would be a line say nothing about speed. */}
      {points.slice(0, -1).map((p, k) => {
        const [x, y] = frameOnScreen(zoom, ...p);
        const next = frameOnScreen(zoom, ...points[k + 1]!);
        if (Math.hypot(next[0] - x, next[1] - y) < 3.5) return null;
        return <circle key={k} cx={x} cy={y} r={1.6} fill="#1c2a30" />;
      })}
      {!layer.locked &&
        keys.map((key, k) => (
          <PathKey
            key={key.frame}
            {...props}
            at={key}
            previous={keys[k - 1]}
            next={keys[k + 1]}
            seen={seen}
            chosen={chosen.some((c) => c.layer === layer.id && c.property === 'position' && c.frame === key.frame)}
            current={key.frame === frame}
          />
        ))}
    </g>
  );
}

/** From a position of the layer to where its pivot is seen now, in frame pixels. */
function seenPlace({ document, shot, layer, frame }: HandlesProps): ((place: Point) => Point) | null {
  const camera = cameraAt(shot, frame);
  const look = (place: Point): Point | null => {
    const moved: Layer = { ...layer, position: { value: place } };
    const there = { ...shot, layers: shot.layers.map((l) => (l.id === layer.id ? moved : l)) };
    const matrix = layerMatrix(document, there, moved, camera, frame);
    return matrix && transform(matrix, ...layerValue(there, moved, 'pivot', frame));
  };
  const [o, x, y] = [look([0, 0]), look([1000, 0]), look([0, 1000])];
  if (!o || !x || !y) return null;
  return ([u, v]) => [
    o[0] + ((x[0] - o[0]) * u + (y[0] - o[0]) * v) / 1000,
    o[1] + ((x[1] - o[1]) * u + (y[1] - o[1]) * v) / 1000,
  ];
}

interface PathKeyProps extends HandlesProps {
  at: Key<Point>;
  previous: Key<Point> | undefined;
  next: Key<Point> | undefined;
  seen(place: Point): Point;
  chosen: boolean;
  current: boolean;
}

function PathKey(props: PathKeyProps) {
  const { document, shot, layer, zoom, frame, at, previous, next, seen, chosen, current } = props;
  const { dispatch } = useProject();
  const { selectKeys } = useStage();
  const [x, y] = frameOnScreen(zoom, ...seen(at.value));
  const camera = cameraAt(shot, frame);
  const unseen = (dx: number, dy: number, from: Point): Point | null => {
    const still: Layer = { ...layer, position: { value: from } };
    const there = { ...shot, layers: shot.layers.map((l) => (l.id === layer.id ? still : l)) };
    return positionMovedBy(document, there, still, camera, frame, [dx, dy]);
  };
  const follow = (event: PointerEvent, from: Point, take: (place: Point) => void): void => {
    event.stopPropagation();
    const start = zoom.toThing(event.clientX, event.clientY);
    drag(event, (move) => {
      const [mx, my] = zoom.toThing(move.clientX, move.clientY);
      const place = unseen(mx - start[0], my - start[1], from);
      if (place) take(place);
    });
  };
  const moveKey = (event: PointerEvent): void => {
    selectKeys([{ layer: layer.id, property: 'position', frame: at.frame }]);
    const gesture = `path ${layer.id} ${Date.now()}`;
    if (event.altKey) {
      // Alt pulls handles out of a corner, both ways alike.
      follow(event, at.value, ([px, py]) => {
        const out: Point = [px - at.value[0], py - at.value[1]];
        dispatch(setKeyHandles(shot.id, layer.id, at.frame, { out, in: [-out[0], -out[1]] }), gesture);
      });
      return;
    }
    follow(event, at.value, (place) => dispatch(setProperty(shot.id, layer.id, 'position', at.frame, place), gesture));
  };
  const moveHandle = (event: PointerEvent, side: 'in' | 'out', handle: Point): void => {
    const gesture = `bend ${layer.id} ${Date.now()}`;
    const from: Point = [at.value[0] + handle[0], at.value[1] + handle[1]];
    follow(event, from, ([px, py]) => {
      const moved: Point = [px - at.value[0], py - at.value[1]];
      const other = side === 'in' ? 'out' : 'in';
      const far = Math.hypot(...(at[other] ?? [0, 0]));
      const length = Math.hypot(...moved) || 1;
      const smooth: Point = [(-moved[0] / length) * far, (-moved[1] / length) * far];
      const both = !event.altKey && at[other] ? { [other]: smooth } : {};
      dispatch(setKeyHandles(shot.id, layer.id, at.frame, { [side]: moved, ...both }), gesture);
    });
  };
  const toggleBend = (): void => {
    if (at.in || at.out) {
      dispatch(setKeyHandles(shot.id, layer.id, at.frame, { in: null, out: null }));
      return;
    }
    const before = previous?.value ?? at.value;
    const after = next?.value ?? at.value;
    const out: Point = [(after[0] - before[0]) / 6, (after[1] - before[1]) / 6];
    dispatch(setKeyHandles(shot.id, layer.id, at.frame, { out, in: [-out[0], -out[1]] }));
  };
  return (
    <g>
      {(chosen || current) &&
        (['in', 'out'] as const).map((side) => {
          const handle = at[side];
          if (!handle) return null;
          return (
            <BendHandle
              key={side}
              from={[x, y]}
              at={frameOnScreen(zoom, ...seen([at.value[0] + handle[0], at.value[1] + handle[1]]))}
              title="Bend the path (Alt: this side only)"
              onPointerDown={(event) => moveHandle(event, side, handle)}
            />
          );
        })}
      {/* The tab stands on its place, so that the pivot of the layer that is there now can be reached below it. */}
      <path
        d={`M${x - 5} ${y - 20}L${x} ${y - 25}L${x + 5} ${y - 20}V${y - 10}H${x - 5}Z`}
        data-path-key={at.frame}
        className="pointer-events-auto cursor-move"
        fill={chosen ? '#d99a00' : '#0e5b50'}
        stroke="#f5f2eb"
        strokeWidth={1.2}
        onPointerDown={moveKey}
        onDoubleClick={toggleBend}
      >
        <title>{`Keyframe at ${at.frame}: drag to move, double-click bends or straightens the path`}</title>
      </path>
    </g>
  );
}
