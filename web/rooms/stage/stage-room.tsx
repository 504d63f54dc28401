import { Clapperboard } from 'lucide-react';
import { useDeferredValue, useEffect, useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { valueAt } from '../../../core/motion/property.ts';
import { bareFrames } from '../../../core/scene/bare.ts';
import type { Shot } from '../../../core/scene/document.ts';
import { addKey, removeKey, removeLayer, setProperty } from '../../../core/scene/layer-edits.ts';
import { useDocument, useProject } from '../../data/project.ts';
import { Button } from '../../parts/button.tsx';
import { arrowOf, useKeys } from '../../parts/keys.ts';
import { MainAction } from '../project-frame.tsx';
import { DepthRack } from './depth-rack.tsx';
import { usePlayback } from './playback.ts';
import { SelectionCard } from './selection-card.tsx';
import { useStage } from './stage-state.ts';
import { StageView } from './stage-view.tsx';
import { Timeline } from './timeline.tsx';

export function StageRoom() {
  const document = useDocument();
  const { id } = useProject();
  const navigate = useNavigate();
  const shot = document.shots[0]!;
  usePlayback(document, shot);
  useStageKeys(shot);
  const deferred = useDeferredValue(document);
  const bare = useMemo(() => bareFrames(deferred, deferred.shots[0]!), [deferred]);
  useEffect(() => () => useStage.setState({ playing: false, selection: null, key: null, frame: 0 }), []);

  return (
    <div className="grid h-full grid-cols-[248px_minmax(0,1fr)_232px] grid-rows-[minmax(0,1fr)_216px]">
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
        <StageView document={document} shot={shot} />
      ) : (
        <p className="flex items-center justify-center bg-field text-white">
          <Link className="underline" to={`/project/${id}/cut`}>
            Lift something out in the Cut room
          </Link>
          , and it hangs here.
        </p>
      )}
      <SelectionCard document={document} shot={shot} />
      <div className="col-span-3 min-h-0">
        <Timeline document={document} shot={shot} bare={bare} />
      </div>
    </div>
  );
}

function useStageKeys(shot: Shot): void {
  const { dispatch } = useProject();
  useKeys((event) => {
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    const { frame, selection, key, setFrame, setPlaying, selectKey, select } = useStage.getState();
    const layer = selection?.kind === 'layer' ? shot.layers.find((l) => l.id === selection.id) : undefined;
    const arrow = arrowOf(event);
    const goTo = (next: number): void => {
      setPlaying(false);
      setFrame(Math.max(0, Math.min(shot.length - 1, next)));
    };
    if (event.key === ',') goTo(frame - 1);
    else if (event.key === '.') goTo(frame + 1);
    else if (event.key === 'Home') goTo(0);
    else if (event.key === 'End') goTo(shot.length - 1);
    else if (arrow && layer && !layer.locked) {
      event.preventDefault();
      const [x, y] = valueAt(layer.position, frame);
      dispatch(
        setProperty(shot.id, layer.id, 'position', frame, [x + arrow[0], y + arrow[1]]),
        `nudge ${layer.id} ${frame}`,
      );
    } else if (event.key.toLowerCase() === 'p' && layer) {
      dispatch(addKey(shot.id, layer.id, 'position', frame, valueAt(layer.position, frame)));
    } else if ((event.key === 'Delete' || event.key === 'Backspace') && layer) {
      if (key) dispatch(removeKey(shot.id, layer.id, key.property, key.frame));
      else dispatch(removeLayer(shot.id, layer.id));
      if (key) selectKey(null);
      else select(null);
    } else if (event.key === 'Escape') select(null);
  });
}
