import { shapePath } from '../../../../core/document/properties.ts';
import type { ShapeSetting } from '../../../../core/document/shape-setting.ts';
import { setProperty } from '../../../../core/edits/layer-edits.ts';
import { changeShape } from '../../../../core/edits/shape-edits.ts';
import { heldFrame } from '../../../../core/scene/values.ts';
import { askedOf, isKeyed, valuesAt } from '../../../../core/settings/setting.ts';
import { shapeKind } from '../../../../core/shapes/shape-kinds.ts';
import { useProject } from '../../../data/project.ts';
import { NumberField } from '../../../parts/number-field.tsx';
import type { LayerPart } from '../card/place.tsx';
import { KeyToggle } from '../card/property-field.tsx';
import { Section } from '../card/section.tsx';
import { SettingField } from '../card/setting-field.tsx';

/** The numbers a shape is made from; every one can have keyframes. */
export function ShapeSection({ shot, layer, frame, made }: LayerPart & { made: ShapeSetting }) {
  const { dispatch } = useProject();
  const kind = shapeKind(made.shape);
  if (!kind) return <p className="text-[12px] text-brick">This version does not know this shape.</p>;
  const { locked } = layer;
  const values = valuesAt(kind.settings, made.settings, heldFrame(layer, frame)) as Record<string, unknown>;
  const side = (label: string, key: 'width' | 'height') => (
    <NumberField
      label={label}
      unit="px"
      min={1}
      max={20_000}
      value={made[key]}
      disabled={locked}
      onChange={(v) => dispatch(changeShape(shot.id, layer.id, { [key]: v }))}
      after={<span className="size-6" />}
    />
  );
  return (
    <Section name="Shape" note={kind.name}>
      {askedOf(kind.settings, values).map(([key, setting]) => (
        <SettingField
          key={key}
          setting={setting}
          value={values[key]}
          disabled={locked}
          onChange={(value, gesture) => {
            const joined = gesture && `${layer.id} ${key} ${gesture}`;
            if (isKeyed(setting))
              dispatch(setProperty(shot.id, layer.id, shapePath(key), frame, value as number), joined);
            else dispatch(changeShape(shot.id, layer.id, {}, { [key]: value as number }), joined);
          }}
          after={
            isKeyed(setting) ? (
              <KeyToggle shot={shot} layer={layer} property={shapePath(key)} frame={frame} />
            ) : undefined
          }
        />
      ))}
      {side('Width', 'width')}
      {side('Height', 'height')}
    </Section>
  );
}
