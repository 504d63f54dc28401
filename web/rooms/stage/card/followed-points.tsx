import { Crosshair, StepForward, Trash2, X } from 'lucide-react';
import { doubtfulFrames, type Track } from '../../../../core/document/track.ts';
import {
  addCarrierAt,
  removeTrack,
  renameTrack,
  setTrackRadius,
  steadyLayer,
} from '../../../../core/edits/track-edits.ts';
import { clipOf } from '../../../../core/scene/clip-of.ts';
import { clipFrameOf, tracksOf } from '../../../../core/scene/points-of-clip.ts';
import { startFollowing, useFollowing } from '../../../data/following.ts';
import { newId, useProject } from '../../../data/project.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import { NameField } from '../../../parts/name-field.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { SmallSelect } from '../../../parts/small-select.tsx';
import { useStage } from '../stage-state.ts';
import type { LayerPart } from './place.tsx';
import { Section } from './section.tsx';

/** Points followed through the clip a layer shows: marked in the view, mended there, and used by whatever is to go along. */
export function FollowedPoints(part: LayerPart) {
  const { document, layer, shot } = part;
  const { tool, point, setTool } = useStage();
  const { dispatch } = useProject();
  if (!clipOf(document, layer)) return null;
  const tracks = tracksOf(document, layer);
  const marking = tool === 'follow';
  return (
    <Section name="Followed points" note={tracks.length > 0 ? String(tracks.length) : null}>
      <Button
        className={marking ? '!border-pine !bg-white !text-pine' : ''}
        icon={<Crosshair size={14} />}
        aria-pressed={marking}
        title="Press in the view on what is to be followed through the clip"
        onClick={() => setTool(marking ? 'move' : 'follow')}
      >
        Follow a point
      </Button>
      {tracks.map((track) => (
        <OnePoint key={track.id} {...part} track={track} chosen={track.id === point} others={tracks} />
      ))}
      {tracks.length > 0 && (
        <>
          <SmallSelect
            label="Steady by"
            value={layer.steady?.point ?? ''}
            options={[{ value: '', name: 'nothing' }, ...tracks.map(({ id, name }) => ({ value: id, name }))]}
            disabled={layer.locked}
            onChange={(id) => dispatch(steadyLayer(shot.id, layer.id, id ? { point: id, second: null } : null))}
          />
          {layer.steady && tracks.length > 1 && (
            <SmallSelect
              label="Turn and size by"
              value={layer.steady.second ?? ''}
              options={[
                { value: '', name: 'nothing' },
                ...tracks.filter(({ id }) => id !== layer.steady!.point).map(({ id, name }) => ({ value: id, name })),
              ]}
              disabled={layer.locked}
              onChange={(id) =>
                dispatch(steadyLayer(shot.id, layer.id, { point: layer.steady!.point, second: id || null }))
              }
            />
          )}
        </>
      )}
    </Section>
  );
}

interface OnePointProps extends LayerPart {
  track: Track;
  chosen: boolean;
  others: readonly Track[];
}

function OnePoint(part: OnePointProps) {
  const { track, chosen } = part;
  const { dispatch } = useProject();
  const running = useFollowing((state) => state.running[track.id]);
  return (
    <div className={`border-l-2 pl-2 ${chosen ? 'border-pine' : 'border-line'}`} data-point={track.id}>
      <div className="flex h-7 items-center gap-1">
        <button
          type="button"
          aria-pressed={chosen}
          aria-label={`Show ${track.name}`}
          title="Show its way in the view"
          onClick={() => useStage.setState({ point: chosen ? null : track.id })}
          className={`size-4 shrink-0 rounded-full border-2 ${chosen ? 'border-pine bg-pine/30' : 'border-line hover:border-pine'}`}
        />
        <NameField
          label="Name of the point"
          value={track.name}
          onChange={(name) => dispatch(renameTrack(track.id, name))}
          className="flex-1 text-[13px]"
        />
        <IconButton
          label={`Delete ${track.name}`}
          className="!size-6"
          onClick={() => {
            running?.cancel();
            dispatch(removeTrack(track.id));
          }}
        >
          <Trash2 size={13} />
        </IconButton>
      </div>
      {running ? <Following share={running.share} onCancel={running.cancel} /> : <State {...part} />}
      {chosen && <PointTools {...part} />}
    </div>
  );
}

function Following({ share, onCancel }: { share: number; onCancel(): void }) {
  return (
    <div className="flex h-7 items-center gap-2 text-[12px] text-ink-2">
      <progress className="h-1.5 flex-1 accent-pine" max={1} value={share} aria-label="Following the point" />
      <IconButton label="Cancel following" className="!size-6" onClick={onCancel}>
        <X size={13} />
      </IconButton>
    </div>
  );
}

/** Whether it was followed, and the frames to be looked at. */
function State({ document, shot, layer, frame, track }: OnePointProps) {
  const project = useProject((state) => state.id);
  const { setFrame, setPlaying } = useStage();
  const clip = clipOf(document, layer)!;
  if (track.points.length === 0)
    return (
      <Button onClick={() => project && startFollowing(project, document, track.id, [0, clip.frames])}>
        Follow it
      </Button>
    );
  const doubted = doubtfulFrames(track);
  if (doubted.length === 0) return <p className="text-[12px] text-ink-2">Followed through the whole clip</p>;
  const seen = new Map<number, number>();
  for (let f = shot.length - 1; f >= 0; f--) seen.set(clipFrameOf(document, layer, f)!, f);
  const stops = doubted.flatMap((one) => seen.get(one) ?? []).sort((a, b) => a - b);
  const next = stops.find((f) => f > frame) ?? stops[0];
  return (
    <div className="flex h-7 items-center gap-1 text-[12px] text-brick">
      <span className="flex-1">{doubted.length === 1 ? '1 frame in doubt' : `${doubted.length} frames in doubt`}</span>
      <IconButton
        label="Next frame in doubt"
        className="!size-6"
        disabled={next === undefined}
        onClick={() => {
          setPlaying(false);
          setFrame(next!);
          useStage.setState({ point: track.id });
        }}
      >
        <StepForward size={13} />
      </IconButton>
    </div>
  );
}

function PointTools({ document, shot, layer, frame, track, others }: OnePointProps) {
  const { dispatch, id: project } = useProject();
  const { selectLayer } = useStage();
  const clip = clipOf(document, layer)!;
  const carrier = (second: Track | null): void => {
    const id = newId('carrier');
    dispatch(addCarrierAt(shot.id, layer.id, track.id, second?.id ?? null, frame, { id, name: track.name }));
    selectLayer(id);
  };
  const [second] = others.filter((one) => one.id !== track.id);
  return (
    <>
      <NumberField
        label="Patch size"
        unit="px"
        min={6}
        max={400}
        value={track.radius * 2}
        onChange={(v) => {
          const radius = Math.max(3, Math.round(v / 2));
          if (radius === track.radius) return;
          const edit = setTrackRadius(track.id, radius);
          dispatch(edit);
          if (project) startFollowing(project, edit.apply(document), track.id, [0, clip.frames]);
        }}
      />
      <div className="flex gap-1">
        <Button
          className="flex-1 !px-1"
          title="A layer without a picture that goes with the point: fasten anything to it"
          onClick={() => carrier(null)}
        >
          Add carrier
        </Button>
        {second && (
          <Button
            className="flex-1 !px-1"
            title={`A carrier that also turns and grows as ${track.name} and ${second.name} lie`}
            onClick={() => carrier(second)}
          >
            With turn
          </Button>
        )}
      </div>
    </>
  );
}
