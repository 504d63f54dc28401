import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignHorizontalDistributeCenter,
  AlignStartHorizontal,
  AlignStartVertical,
  AlignVerticalDistributeCenter,
  CopyPlus,
  Group,
  Trash2,
} from 'lucide-react';
import { useState, type ReactNode } from 'react';
import {
  alignLayers,
  distributeLayers,
  duplicateLayers,
  flipLayers,
  groupLayers,
  type Alignment,
} from '../../../../core/edits/arrange-edits.ts';
import { scatterLayers, staggerLayers } from '../../../../core/edits/key-edits.ts';
import { removeLayers } from '../../../../core/edits/layer-edits.ts';
import type { Document } from '../../../../core/document/document.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { newId, useProject } from '../../../data/project.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { SeveralArrive } from '../arrive/several-arrive.tsx';
import { PasteFinishes } from '../finish/finish-section.tsx';
import { useStage } from '../stage-state.ts';
import { CopyToShot } from './copy-to-shot.tsx';
import { ChosenKeys } from './chosen-keys.tsx';
import { Section } from './section.tsx';
import { SeveralLook, SeveralTies, SeveralTime } from './several-fields.tsx';
import { SlideApart } from './slide-apart.tsx';

const alignments: [Alignment, string, ReactNode][] = [
  ['left', 'Align left', <AlignStartVertical key="l" size={15} />],
  ['centre', 'Align centres across', <AlignCenterVertical key="c" size={15} />],
  ['right', 'Align right', <AlignEndVertical key="r" size={15} />],
  ['top', 'Align tops', <AlignStartHorizontal key="t" size={15} />],
  ['middle', 'Align middles', <AlignCenterHorizontal key="m" size={15} />],
  ['bottom', 'Align bottoms', <AlignEndHorizontal key="b" size={15} />],
];

/** Lines a layer up with the frame, or several with one another. */
export function AlignButtons({ shot, ids, frame }: { shot: Shot; ids: string[]; frame: number }) {
  const { dispatch } = useProject();
  return (
    <div className="flex flex-wrap gap-0.5">
      {alignments.map(([alignment, label, icon]) => (
        <IconButton key={alignment} label={label} onClick={() => dispatch(alignLayers(shot.id, ids, alignment, frame))}>
          {icon}
        </IconButton>
      ))}
    </div>
  );
}

interface SeveralCardProps {
  document: Document;
  shot: Shot;
  layers: Layer[];
  frame: number;
}

/** What can be done to several layers at once. */
export function SeveralCard({ document, shot, layers, frame }: SeveralCardProps) {
  const { dispatch } = useProject();
  const { select, selectLayer, copiedFinishes } = useStage();
  const [stagger, setStagger] = useState(2);
  const [seed, setSeed] = useState(1);
  const free = layers.filter((layer) => !layer.locked);
  const ids = free.map((layer) => layer.id);
  const part = { document, shot, layers: free, frame };
  const group = (): void => {
    const id = newId('group');
    dispatch(groupLayers(shot.id, ids, { id, name: 'Group' }));
    selectLayer(id);
  };
  const duplicate = (): void => {
    const copies = ids.map((of) => ({ of, id: newId('layer') }));
    dispatch(duplicateLayers(shot.id, copies));
    select({ kind: 'layers', ids: copies.map((copy) => copy.id) });
  };
  return (
    <>
      <h2 className="mb-1 font-semibold">{layers.length} layers</h2>
      <ChosenKeys shot={shot} layers={layers} />
      <Section name="Place">
        <AlignButtons shot={shot} ids={ids} frame={frame} />
        <div className="flex gap-0.5">
          <IconButton
            label="Distribute horizontally"
            onClick={() => dispatch(distributeLayers(shot.id, ids, 'across', frame))}
          >
            <AlignHorizontalDistributeCenter size={15} />
          </IconButton>
          <IconButton
            label="Distribute vertically"
            onClick={() => dispatch(distributeLayers(shot.id, ids, 'down', frame))}
          >
            <AlignVerticalDistributeCenter size={15} />
          </IconButton>
          <PasteFinishes shot={shot.id} layers={ids} copied={copiedFinishes} />
          <Button className="ml-auto" onClick={() => dispatch(flipLayers(shot.id, ids, 'sideways'))}>
            Flip
          </Button>
        </div>
      </Section>
      <SeveralLook {...part} />
      <SeveralTime {...part} />
      <SeveralArrive {...part} />
      <SeveralTies {...part} />
      <section className="border-t border-line py-2">
        <h3 className="text-[13px] font-semibold text-pine">One after the other</h3>
        <NumberField label="Frames" min={-200} max={200} value={stagger} onChange={(v) => setStagger(Math.round(v))} />
        <Button
          className="w-full"
          title="Each layer's keyframes and bar start some frames after those of the one selected before it"
          onClick={() => dispatch(staggerLayers(shot.id, ids, stagger))}
        >
          Stagger
        </Button>
        <NumberField label="Seed" min={0} max={9999} value={seed} onChange={(v) => setSeed(Math.round(v))} />
        <Button
          className="w-full"
          title="Each layer starts up to so many frames later, at random by the seed"
          onClick={() => dispatch(scatterLayers(shot.id, ids, Math.abs(stagger), seed))}
        >
          Scatter
        </Button>
      </section>
      <SlideApart shot={shot} ids={ids} frame={frame} width={document.frame.width} rate={document.frame.rate} />
      <section className="flex flex-col gap-1 border-t border-line py-2">
        <Button icon={<Group size={14} />} title="Group (Ctrl G)" onClick={group}>
          Group
        </Button>
        <Button icon={<CopyPlus size={14} />} onClick={duplicate}>
          Duplicate
        </Button>
        <CopyToShot document={document} shot={shot} ids={ids} />
        <Button
          look="danger"
          icon={<Trash2 size={14} />}
          onClick={() => {
            dispatch(removeLayers(shot.id, ids));
            select(null);
          }}
        >
          Delete layers
        </Button>
      </section>
    </>
  );
}
