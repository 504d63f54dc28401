import type { PointerEvent } from 'react';
import { doubtful, placeInClip, type Track } from '../../../../core/document/track.ts';
import { addTrack, framesAround, markTrack } from '../../../../core/edits/track-edits.ts';
import { clipOf, pictureOf } from '../../../../core/scene/clip-of.ts';
import { invert, transform, type Matrix } from '../../../../core/scene/matrix.ts';
import { cameraAt, layerMatrix } from '../../../../core/scene/place.ts';
import { clipFrameOf, tracksOf } from '../../../../core/scene/points-of-clip.ts';
import { startFollowing } from '../../../data/following.ts';
import { newId, useProject } from '../../../data/project.ts';
import { drag } from '../../../parts/zoom.ts';
import { useStage } from '../stage-state.ts';
import type { HandlesProps } from './layer-handles.tsx';
import { onScreen } from './on-screen.ts';
import { ViewCatcher } from './view-catcher.tsx';

/** Half the side of the patch around a newly marked point, as a share of the clip's shorter side. */
const usualPatch = 0.024;

/** A press in the view marks what is to be followed through the clip. */
export function PointMarker({ document, shot, layer, zoom, frame }: HandlesProps) {
  const { dispatch, id: project } = useProject();
  const picture = pictureOf(document, layer);
  const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
  const index = clipFrameOf(document, layer, frame);
  if (!picture?.clip || !matrix || index === null) return null;
  const { width, height } = picture;
  const mark = (event: PointerEvent): void => {
    if (event.button !== 0 || zoom.panning) return;
    event.stopPropagation();
    const at = transform(invert(matrix), ...zoom.toThing(event.clientX, event.clientY));
    if (at[0] < 0 || at[1] < 0 || at[0] > width || at[1] > height) return;
    const id = newId('point');
    const track: Track = {
      id,
      picture: picture.id,
      name: `Point ${tracksOf(document, layer).length + 1}`,
      radius: Math.max(8, Math.round(Math.min(width, height) * usualPatch)),
      marks: [{ frame: index, at }],
      points: [],
    };
    const edit = addTrack(track);
    dispatch(edit);
    if (project) startFollowing(project, edit.apply(document), id, [0, picture.clip!.frames]);
    useStage.setState({ tool: 'move', point: id });
  };
  return <ViewCatcher name="mark-point" onPress={mark} />;
}

/** The way of the chosen point, doubted stretches dashed, and a handle to put it right in the frame that is seen. */
export function FollowedPoint({ document, shot, layer, zoom, frame }: HandlesProps) {
  const point = useStage((state) => state.point);
  const { dispatch, latest, id: project } = useProject();
  const track = tracksOf(document, layer).find((one) => one.id === point);
  const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
  const index = clipFrameOf(document, layer, frame);
  if (!track || !matrix || index === null) return null;
  const at = placeInClip(track, index);
  const [x, y] = onScreen(zoom, matrix, ...at);
  const half = Math.max(7, track.radius * zoom.view.scale * Math.hypot(matrix[0], matrix[1]));
  const marked = track.marks.some((mark) => mark.frame === index);
  const inDoubt = track.points.length > 0 && track.points[index * 3 + 2]! >= doubtful;
  const mend = (event: PointerEvent): void => {
    if (event.button !== 0 || layer.locked) return;
    event.stopPropagation();
    const from = transform(invert(matrix), ...zoom.toThing(event.clientX, event.clientY));
    const gesture = `mend ${track.id} ${Date.now()}`;
    let moved = false;
    drag(
      event,
      (move) => {
        const to = transform(invert(matrix), ...zoom.toThing(move.clientX, move.clientY));
        moved = true;
        dispatch(markTrack(track.id, index, [at[0] + to[0] - from[0], at[1] + to[1] - from[1]]), gesture);
      },
      () => {
        const now = latest();
        const mended = now.tracks.find((one) => one.id === track.id);
        if (!moved || !mended || !project) return;
        startFollowing(project, now, track.id, framesAround(mended, index, clipOf(now, layer)!.frames));
      },
    );
  };
  return (
    <g data-testid="followed-point" data-at={`${x},${y}`}>
      <PointWay track={track} zoom={zoom} matrix={matrix} />
      <rect
        x={x - half}
        y={y - half}
        width={2 * half}
        height={2 * half}
        rx={3}
        fill="transparent"
        stroke={inDoubt ? '#ae3b27' : '#d99a00'}
        strokeWidth={1.5}
        strokeDasharray={inDoubt ? '4 3' : undefined}
        className="pointer-events-auto cursor-move"
        onPointerDown={mend}
      >
        <title>Drag to where the point really is; the frames around are followed again</title>
      </rect>
      <path d={`M${x - 5} ${y}H${x + 5}M${x} ${y - 5}V${y + 5}`} stroke="#1c2a30" strokeOpacity={0.5} strokeWidth={3} />
      <path d={`M${x - 5} ${y}H${x + 5}M${x} ${y - 5}V${y + 5}`} stroke="#f5f2eb" strokeWidth={1.3} />
      {marked && <circle cx={x + half} cy={y - half} r={3.5} fill="#0e5b50" stroke="#f5f2eb" />}
    </g>
  );
}

function PointWay({ track, zoom, matrix }: { track: Track; zoom: HandlesProps['zoom']; matrix: Matrix }) {
  const count = track.points.length / 3;
  const step = Math.max(1, Math.ceil(count / 1500));
  const pieces: { doubted: boolean; places: string[] }[] = [];
  for (let f = 0; f < count; f += step) {
    const doubted = track.points[f * 3 + 2]! >= doubtful;
    const place = onScreen(zoom, matrix, track.points[f * 3]!, track.points[f * 3 + 1]!).join(' ');
    const last = pieces.at(-1);
    if (last && last.doubted === doubted) last.places.push(place);
    else {
      last?.places.push(place);
      pieces.push({ doubted, places: [place] });
    }
  }
  return pieces.map(({ doubted, places }, k) => (
    <g key={k}>
      <path d={`M${places.join('L')}`} fill="none" stroke="#1c2a30" strokeOpacity={0.45} strokeWidth={3} />
      <path
        d={`M${places.join('L')}`}
        fill="none"
        stroke={doubted ? '#ae3b27' : '#f5f2eb'}
        strokeWidth={1.3}
        strokeDasharray={doubted ? '3 3' : undefined}
      />
    </g>
  ));
}
