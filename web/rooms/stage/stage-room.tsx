import type { Layer } from '../../../core/document/layer.ts';
import { Clapperboard } from 'lucide-react';
import { useEffect } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { valueAt } from '../../../core/motion/property.ts';
import { filmStartOf } from '../../../core/scene/sequence.ts';
import { duplicateLayers, groupLayers, ungroup } from '../../../core/edits/arrange-edits.ts';
import { inOne } from '../../../core/edits/edit.ts';
import { copiedKeys, keyFramesOf, pasteKeys, removeKeys } from '../../../core/edits/key-edits.ts';
import { addKey, removeLayers, setLayer, setProperty, trimBar } from '../../../core/edits/layer-edits.ts';
import { removeSound } from '../../../core/edits/sound-edits.ts';
import { setMarkers, setWorkArea } from '../../../core/edits/shot-edits.ts';
import type { Shot } from '../../../core/document/shot.ts';
import { newId, useDocument, useProject } from '../../data/project.ts';
import { useMix } from '../../sound/use-mix.ts';
import { Button } from '../../parts/button.tsx';
import { arrowOf, useKeys } from '../../parts/keys.ts';
import { MainAction } from '../main-action.tsx';
import { DepthRack } from './depth-rack.tsx';
import { EmptyShot } from './empty-shot.tsx';
import { usePlayback } from './playback.ts';
import { SelectionCard } from './selection-card.tsx';
import { ShotStrip } from './shot-strip.tsx';
import { ViewBar } from './view/view-bar.tsx';
import { frameNow, selectedLayers, useShot, useStage } from './stage-state.ts';
import { StageView } from './stage-view.tsx';
import { Timeline } from './time/timeline.tsx';
import { useBareFrames } from './time/use-bare-frames.ts';

export function StageRoom() {
  const document = useDocument();
  const { id } = useProject();
  const navigate = useNavigate();
  const shot = useShot(document);
  const timelineHeight = useStage((state) => state.timelineHeight);
  const filmStart = filmStartOf(document, shot.id);
  usePlayback(document, shot, useMix(document, null), filmStart);
  useStageKeys(shot);
  const bare = useBareFrames(document, shot);
  // Something that was just made is first seen moving; coming back later it stands still.
  const { state, pathname } = useLocation() as { state: { play?: boolean } | null; pathname: string };
  useEffect(() => {
    if (!state?.play) return;
    useStage.getState().setPlaying(true);
    void navigate(pathname, { replace: true, state: null });
  }, [state, pathname, navigate]);
  useEffect(
    () => () =>
      useStage.setState({
        playing: false,
        selection: null,
        keys: [],
        frame: 0,
        shot: null,
        tool: 'move',
        timeView: null,
      }),
    [],
  );

  return (
    <div
      className="grid h-full grid-cols-[248px_minmax(0,1fr)_248px]"
      style={{ gridTemplateRows: `minmax(0,1fr) auto ${timelineHeight}px` }}
    >
      <MainAction>
        <Button
          look="primary"
          icon={<Clapperboard size={15} />}
          onClick={() => void navigate(`/project/${id}/deliver`)}
        >
          Deliver
        </Button>
      </MainAction>
      <DepthRack document={document} shot={shot} />
      {shot.layers.length > 0 ? (
        <StageView key={shot.id} document={document} shot={shot} />
      ) : (
        <EmptyShot document={document} shot={shot} />
      )}
      <SelectionCard document={document} shot={shot} />
      <div className="col-span-3 flex items-center justify-between border-t border-line pr-2">
        <ShotStrip document={document} shot={shot} />
        {shot.layers.length > 0 && <ViewBar document={document} shot={shot} />}
      </div>
      <div className="col-span-3 min-h-0">
        <Timeline document={document} shot={shot} bare={bare} filmStart={filmStart} />
      </div>
    </div>
  );
}

function useStageKeys(shot: Shot): void {
  const { dispatch } = useProject();
  useKeys((event) => {
    const stage = useStage.getState();
    const { selection, keys, copied } = stage;
    const frame = frameNow();
    const layers = selectedLayers(shot, selection);
    const free = layers.filter((layer) => !layer.locked);
    const ids = free.map((layer) => layer.id);
    if (event.altKey) return;
    if (event.ctrlKey || event.metaKey) {
      const commands: Record<string, (() => void) | false> = {
        c: keys.length > 0 && (() => useStage.setState({ copied: copiedKeys(shot, keys) })),
        v: copied.length > 0 && (() => dispatch(pasteKeys(shot.id, copied, ids, frame))),
        d: ids.length > 0 && (() => duplicate(ids)),
        g: ids.length > 0 && (() => (event.shiftKey ? ungroupAll(layers) : group(ids))),
        a: () => stage.select({ kind: 'layers', ids: shot.layers.map((l) => l.id) }),
      };
      const command = commands[event.key.toLowerCase()];
      if (!command) return;
      event.preventDefault();
      return command();
    }
    const goTo = (next: number): void => {
      stage.setPlaying(false);
      stage.setFrame(Math.max(0, Math.min(shot.length - 1, next)));
    };
    const arrow = arrowOf(event);
    if (arrow && free.length > 0) {
      event.preventDefault();
      const edits = free.map((layer) => {
        const [x, y] = valueAt(layer.position, frame);
        return setProperty(shot.id, layer.id, 'position', frame, [x + arrow[0], y + arrow[1]]);
      });
      return dispatch(inOne(edits), `nudge ${ids.join()} ${frame}`);
    }
    const stops = [...new Set(layers.flatMap(keyFramesOf))].sort((a, b) => a - b);
    const area = shot.workArea ?? { first: 0, end: shot.length };
    const acts: Record<string, () => void> = {
      ',': () => goTo(frame - 1),
      '.': () => goTo(frame + 1),
      '<': () => goTo(stops.filter((f) => f < frame).at(-1) ?? frame),
      '>': () => goTo(stops.find((f) => f > frame) ?? frame),
      Home: () => goTo(0),
      End: () => goTo(shot.length - 1),
      p: () => {
        const edits = free.map((layer) => addKey(shot.id, layer.id, 'position', frame, valueAt(layer.position, frame)));
        dispatch(inOne(edits));
      },
      s: () => {
        dispatch(inOne(layers.map((layer) => setLayer('Solo', shot.id, layer.id, { solo: !layer.solo }))));
      },
      d: () => free.length === 1 && stage.setTool(stage.tool === 'path' ? 'move' : 'path'),
      m: () => dispatch(setMarkers(shot.id, [...shot.markers, { frame, name: String(shot.markers.length + 1) }])),
      i: () => dispatch(setWorkArea(shot.id, { first: frame, end: Math.max(frame + 1, area.end) })),
      o: () => dispatch(setWorkArea(shot.id, { first: Math.min(area.first, frame), end: frame + 1 })),
      x: () => dispatch(setWorkArea(shot.id, null)),
      b: () =>
        dispatch(
          inOne(
            free.map((layer) => trimBar(shot.id, layer.id, 'first', frame)),
            'Trim layer',
          ),
        ),
      e: () =>
        dispatch(
          inOne(
            free.map((layer) => trimBar(shot.id, layer.id, 'end', frame + 1)),
            'Trim layer',
          ),
        ),
      Escape: () => (stage.tool === 'move' ? stage.select(null) : stage.setTool('move')),
    };
    const act = acts[event.key.length === 1 ? event.key.toLowerCase() : event.key];
    if (act) return act();
    if (event.key !== 'Delete' && event.key !== 'Backspace') return;
    if (keys.length > 0) {
      dispatch(removeKeys(shot.id, keys));
      stage.selectKeys([]);
    } else if (selection?.kind === 'sound') {
      dispatch(removeSound(selection.id));
      stage.select(null);
    } else if (ids.length > 0) {
      dispatch(removeLayers(shot.id, ids));
      stage.select(null);
    }
  });
  const duplicate = (ids: string[]): void => {
    const copies = ids.map((of) => ({ of, id: newId('layer') }));
    dispatch(duplicateLayers(shot.id, copies));
    useStage.getState().select({ kind: 'layers', ids: copies.map((copy) => copy.id) });
  };
  const ungroupAll = (layers: Layer[]): void => {
    for (const layer of layers) if (layer.source.kind === 'group') dispatch(ungroup(shot.id, layer.id));
    useStage.getState().select(null);
  };
  const group = (ids: string[]): void => {
    const id = newId('group');
    dispatch(groupLayers(shot.id, ids, { id, name: 'Group' }));
    useStage.getState().selectLayer(id);
  };
}
