import { LogIn, LogOut, X } from 'lucide-react';
import { useState } from 'react';
import { changeArrival, setArrival, setLeaving } from '../../../../core/edits/arrival-edits.ts';
import { inOne } from '../../../../core/edits/edit.ts';
import type { Document } from '../../../../core/document/document.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import { SecondsField } from '../../../parts/seconds-field.tsx';
import { sameValue } from '../card/same-value.ts';
import { Section } from '../card/section.tsx';
import { ArrivalSheet } from './arrival-sheet.tsx';

type Side = 'arrive' | 'leave';

interface SeveralArriveProps {
  document: Document;
  shot: Shot;
  /** Those that are not locked. */
  layers: Layer[];
}

/** One way to come or go for several layers at once, as one step. */
export function SeveralArrive({ document, shot, layers }: SeveralArriveProps) {
  const { dispatch } = useProject();
  const [choosing, setChoosing] = useState<Side | null>(null);
  const ids = layers.map((layer) => layer.id);
  if (layers.length === 0) return null;
  // What is shown on a thing that is not words, all of them can do.
  const shown = [...layers].sort((a, b) => Number(a.source.kind === 'text') - Number(b.source.kind === 'text'));
  const duration = (side: Side, label: string) => {
    const those = layers.filter((layer) => layer[side]);
    const lengths = those.map((layer) => layer[side]!.length);
    if (those.length === 0) return null;
    return (
      <SecondsField
        label={label}
        frames={lengths[0]!}
        mixed={sameValue(lengths) === null}
        rate={document.frame.rate}
        onChange={(length) => dispatch(inOne(those.map((layer) => changeArrival(shot.id, layer.id, side, { length }))))}
      />
    );
  };
  const choose = (side: Side, kind: string | null): void =>
    dispatch((side === 'leave' ? setLeaving : setArrival)(shot.id, ids, kind));
  const way = (side: Side) => (
    <div className="flex gap-1">
      <Button
        className="flex-1"
        icon={side === 'leave' ? <LogOut size={14} /> : <LogIn size={14} />}
        onClick={() => setChoosing(side)}
      >
        {side === 'leave' ? 'Choose how they leave' : 'Choose how they arrive'}
      </Button>
      {layers.some((layer) => layer[side]) && (
        <IconButton label={side === 'leave' ? 'Remove leaving' : 'Remove arrival'} onClick={() => choose(side, null)}>
          <X size={14} />
        </IconButton>
      )}
    </div>
  );
  return (
    <Section name="Arrive & Leave">
      {way('arrive')}
      {duration('arrive', 'Arrival duration')}
      {way('leave')}
      {duration('leave', 'Leaving duration')}
      {choosing && (
        <ArrivalSheet
          document={document}
          shot={shot}
          layers={shown}
          leaving={choosing === 'leave'}
          onClose={() => setChoosing(null)}
          onChoose={(kind) => {
            setChoosing(null);
            choose(choosing, kind);
          }}
        />
      )}
    </Section>
  );
}
