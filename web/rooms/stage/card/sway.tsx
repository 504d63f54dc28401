import { Plus, Trash2 } from 'lucide-react';
import { setLayer } from '../../../../core/edits/layer-edits.ts';
import { settingsOf } from '../../../../core/scene/warps.ts';
import type { Sway } from '../../../../core/document/layer.ts';
import { ownSwaySettings, swaySettings } from '../../../../core/document/layer-settings.ts';
import { boxOf } from '../../../../core/scene/source-pixels.ts';
import { newId, useProject } from '../../../data/project.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import { plainOptions, SmallSelect } from '../../../parts/small-select.tsx';
import type { LayerPart } from './place.tsx';
import { PlainFields } from './plain-fields.tsx';
import { Section } from './section.tsx';

/** Waving regions of a layer: flags, smoke, cloth. */
export function SwaySection(part: LayerPart) {
  const { document, shot, layer, frame } = part;
  const { dispatch } = useProject();
  if (!['piece', 'picture', 'background'].includes(layer.source.kind)) return null;
  const change = (sways: Sway[]): void => dispatch(setLayer('Change sway', shot.id, layer.id, { sways }));
  const add = (): void => {
    const box = boxOf(document, layer, frame);
    const size = Math.max(40, Math.round((box?.width ?? 200) * 0.6));
    const period = Math.round(document.frame.rate * 1.2);
    const wave = { soft: 0, direction: 90, size, strength: Math.round(size * 0.06), period, shade: 0.3 };
    const sway: Sway = { id: newId('sway'), phase: 0, like: null, region: null, pinned: 'left', loops: true, ...wave };
    change([...layer.sways, sway]);
  };
  return (
    <Section name="Sway" note={layer.sways.length > 0 ? String(layer.sways.length) : null}>
      {layer.sways.map((sway) => (
        <OneSway
          key={sway.id}
          part={part}
          sway={sway}
          onChange={(next) => change(layer.sways.map((s) => (s.id === sway.id ? { ...s, ...next } : s)))}
          onRemove={() => change(layer.sways.filter((s) => s.id !== sway.id))}
        />
      ))}
      <Button icon={<Plus size={14} />} disabled={layer.locked || layer.sways.length >= 16} onClick={add}>
        {layer.sways.length === 0 ? 'Let it sway' : 'Another sway'}
      </Button>
    </Section>
  );
}

interface OneSwayProps {
  part: LayerPart;
  sway: Sway;
  onChange(change: Partial<Sway>): void;
  onRemove(): void;
}

function OneSway({ part, sway, onChange, onRemove }: OneSwayProps) {
  const { document, shot, layer, frame } = part;
  const settings = settingsOf(shot, sway);
  const others = shot.layers
    .flatMap((l) => l.sways.map((s) => ({ id: s.id, name: l.name })))
    .filter((s) => s.id !== sway.id);
  const own = sway.like === null;
  const box = boxOf(document, layer, frame);
  return (
    <div className="border-l-2 border-line pl-2">
      {others.length > 0 && (
        <SmallSelect
          label="Waves like"
          value={sway.like ?? ''}
          options={[{ value: '', name: 'itself' }, ...others.map((s) => ({ value: s.id, name: s.name }))]}
          onChange={(like) => onChange(like ? { like } : { ...settings, id: sway.id, phase: sway.phase, like: null })}
        />
      )}
      <PlainFields settings={ownSwaySettings} values={sway} disabled={layer.locked} onChange={onChange} />
      {own && (
        <>
          <PlainFields
            settings={swaySettings}
            values={settings}
            rate={document.frame.rate}
            disabled={layer.locked}
            onChange={onChange}
          />
          <SmallSelect
            label="Region"
            value={sway.region?.form ?? 'all'}
            options={plainOptions(['all', 'rectangle', 'ellipse'] as const)}
            disabled={layer.locked}
            onChange={(form) =>
              onChange(
                form === 'all' || !box
                  ? { region: null }
                  : { region: { ...(sway.region ?? inner(box)), form }, soft: sway.soft || 0.4, pinned: 'none' },
              )
            }
          />
        </>
      )}
      <div className="flex justify-end">
        <IconButton label="Delete sway" disabled={layer.locked} onClick={onRemove}>
          <Trash2 size={14} />
        </IconButton>
      </div>
    </div>
  );
}

const inner = ({ x, y, width, height }: { x: number; y: number; width: number; height: number }) => ({
  form: 'ellipse' as const,
  x: x + width / 4,
  y: y + height / 4,
  width: width / 2,
  height: height / 2,
});
