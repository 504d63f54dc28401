import { Circle, Square, Trash2 } from 'lucide-react';
import { ellipse, rectangle } from '../../../../core/path/forms.ts';
import { plainShape, type Shape } from '../../../../core/path/shapes.ts';
import { setLayer } from '../../../../core/edits/layer-edits.ts';
import { boxOf } from '../../../../core/scene/source-pixels.ts';
import { newId, useProject } from '../../../data/project.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { SmallSelect } from '../../../parts/small-select.tsx';
import type { LayerPart } from './place.tsx';
import { Section } from './section.tsx';

/** Outlines that show only part of a layer; they are moved and sized in the view. */
export function MaskSection({ document, shot, layer, frame }: LayerPart) {
  const { dispatch } = useProject();
  const box = boxOf(document, layer, frame);
  if (!box) return null;
  const change = (masks: Shape[], step = 'Change mask'): void => dispatch(setLayer(step, shot.id, layer.id, { masks }));
  const inner = { x: box.x + box.width / 4, y: box.y + box.height / 4, width: box.width / 2, height: box.height / 2 };
  const add = (path: Shape['path']): void =>
    change(
      [...layer.masks, { ...plainShape, id: newId('mask'), path, how: layer.masks.length === 0 ? 'within' : 'add' }],
      'Add mask',
    );
  return (
    <Section name="Masks" note={layer.masks.length > 0 ? String(layer.masks.length) : null}>
      {layer.masks.map((mask) => {
        const set = (part: Partial<Shape>): void =>
          change(layer.masks.map((other) => (other.id === mask.id ? { ...other, ...part } : other)));
        return (
          <div key={mask.id} className="border-l-2 border-line pl-2">
            <SmallSelect
              label="Joins"
              value={mask.how}
              options={[
                { value: 'add', name: 'added' },
                { value: 'take', name: 'taken away' },
                { value: 'within', name: 'kept within' },
              ]}
              disabled={layer.locked}
              onChange={(how) => set({ how })}
            />
            <NumberField
              label="Feather"
              unit="px"
              min={0}
              max={600}
              value={mask.feather}
              disabled={layer.locked}
              onChange={(feather) => set({ feather })}
            />
            <NumberField
              label="Grow"
              unit="px"
              min={-200}
              max={200}
              value={mask.grow}
              disabled={layer.locked}
              onChange={(grow) => set({ grow })}
              after={
                <IconButton
                  label="Delete mask"
                  className="!size-6"
                  disabled={layer.locked}
                  onClick={() => change(layer.masks.filter((other) => other.id !== mask.id))}
                >
                  <Trash2 size={13} />
                </IconButton>
              }
            />
          </div>
        );
      })}
      <div className="flex gap-1">
        <Button
          className="flex-1"
          icon={<Square size={13} />}
          disabled={layer.locked}
          onClick={() => add(rectangle(inner))}
        >
          Rectangle
        </Button>
        <Button
          className="flex-1"
          icon={<Circle size={13} />}
          disabled={layer.locked}
          onClick={() => add(ellipse(inner))}
        >
          Ellipse
        </Button>
      </div>
    </Section>
  );
}
