import { Columns3 } from 'lucide-react';
import { useState } from 'react';
import { cutIntoStrips, type Strips } from '../../../../core/edits/strip-edits.ts';
import { useProject } from '../../../data/project.ts';
import { Button } from '../../../parts/button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import type { LayerPart } from './place.tsx';
import { Section } from './section.tsx';

/** Cuts a picture into strips, each a layer of its own. */
export function StripsSection({ shot, layer }: LayerPart) {
  const { dispatch } = useProject();
  const [strips, setStrips] = useState<Strips>({ count: 5, angle: 90, uneven: 0.3, seed: 1 });
  const field = (label: string, key: keyof Strips, factor: number, limits: object) => (
    <NumberField
      label={label}
      value={strips[key] * factor}
      disabled={layer.locked}
      onChange={(v) =>
        setStrips({ ...strips, [key]: key === 'angle' || key === 'uneven' ? v / factor : Math.round(v) })
      }
      {...limits}
    />
  );
  return (
    <Section name="Strips">
      {field('Strips', 'count', 1, { min: 2, max: 40 })}
      {field('Cuts run at', 'angle', 1, { unit: '°' })}
      {field('Uneven', 'uneven', 100, { unit: '%', min: 0, max: 100, step: 5 })}
      {field('Seed', 'seed', 1, { min: 0, max: 99999 })}
      <Button
        icon={<Columns3 size={14} />}
        disabled={layer.locked}
        title="Each strip becomes a layer; together they lie as the picture did"
        onClick={() => dispatch(cutIntoStrips(shot.id, layer.id, strips))}
      >
        Cut into strips
      </Button>
    </Section>
  );
}
