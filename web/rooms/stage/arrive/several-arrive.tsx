import { LogIn, LogOut } from 'lucide-react';
import { useState } from 'react';
import { changeArrival, setArrival, setLeaving } from '../../../../core/edits/arrival-edits.ts';
import { inOne } from '../../../../core/edits/edit.ts';
import type { Document } from '../../../../core/document/document.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { Button } from '../../../parts/button.tsx';
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
  const first = layers[0];
  if (!first) return null;
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
  return (
    <Section name="Arrive & Leave">
      <Button className="w-full" icon={<LogIn size={14} />} onClick={() => setChoosing('arrive')}>
        Choose how they arrive
      </Button>
      {duration('arrive', 'Arrives in')}
      <Button className="w-full" icon={<LogOut size={14} />} onClick={() => setChoosing('leave')}>
        Choose how they leave
      </Button>
      {duration('leave', 'Leaves in')}
      {choosing && (
        <ArrivalSheet
          document={document}
          shot={shot}
          layer={first}
          leaving={choosing === 'leave'}
          onClose={() => setChoosing(null)}
          onChoose={(kind) => {
            setChoosing(null);
            dispatch((choosing === 'leave' ? setLeaving : setArrival)(shot.id, ids, kind));
          }}
        />
      )}
    </Section>
  );
}
