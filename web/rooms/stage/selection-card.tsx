import type { Document } from '../../../core/document/document.ts';
import type { Shot } from '../../../core/document/shot.ts';
import { CameraCard } from './card/camera-card.tsx';
import { LayerCard } from './card/layer-card.tsx';
import { SeveralCard } from './card/several-card.tsx';
import { SoundCard } from './sound/sound-card.tsx';
import { ShotCard } from './card/shot-card.tsx';
import { selectedLayers, useStage } from './stage-state.ts';

/** One card about what is selected. */
export function SelectionCard({ document, shot }: { document: Document; shot: Shot }) {
  const { selection, frame } = useStage();
  const layers = selectedLayers(shot, selection);
  const sound = selection?.kind === 'sound' && document.sounds.find(({ id }) => id === selection.id);
  return (
    <aside className="overflow-auto border-l border-line p-3" aria-label="Selection">
      {layers.length > 1 ? (
        <SeveralCard document={document} shot={shot} layers={layers} frame={frame} />
      ) : layers[0] ? (
        <LayerCard document={document} shot={shot} layer={layers[0]} frame={frame} />
      ) : selection?.kind === 'camera' ? (
        <CameraCard document={document} shot={shot} frame={frame} />
      ) : sound ? (
        <SoundCard document={document} shot={shot} sound={sound} />
      ) : (
        <ShotCard document={document} shot={shot} />
      )}
    </aside>
  );
}
