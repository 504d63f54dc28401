import { changeProp, type PropSource } from '../../../../core/edits/prop-edits.ts';
import { setProperty } from '../../../../core/edits/layer-edits.ts';
import { propPath } from '../../../../core/document/properties.ts';
import { propKind } from '../../../../core/props/props.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import { askedOf, isKeyed, valuesAt, type LayerGift } from '../../../../core/settings/setting.ts';
import { heldFrame } from '../../../../core/scene/values.ts';
import { useProject } from '../../../data/project.ts';
import { NumberField } from '../../../parts/number-field.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import type { LayerPart } from '../card/place.tsx';
import { KeyToggle } from '../card/property-field.tsx';
import { Section } from '../card/section.tsx';
import { MarksField } from './marks-field.tsx';
import { SettingField } from '../card/setting-field.tsx';

/** The layers that can give what a setting takes. */
const othersFor = ({ shot, layer }: LayerPart, gives: LayerGift): Layer[] =>
  shot.layers.filter(
    (other) =>
      other.id !== layer.id &&
      (gives === 'path'
        ? other.source.kind === 'shape'
        : !['colour', 'grade', 'prop'].includes(other.source.kind) &&
          (gives === 'place' || other.source.kind !== 'carrier')),
  );

/** How a prop is set; every number of it can have keyframes. */
export function PropSection(part: LayerPart) {
  const { shot, layer, frame } = part;
  const { dispatch } = useProject();
  const source = layer.source as PropSource;
  const kind = propKind(source.made.prop);
  if (!kind) return <p className="text-[12px] text-brick">This version does not know this prop.</p>;
  const { locked } = layer;
  const values = valuesAt(kind.settings, source.made.settings, heldFrame(layer, frame)) as Record<string, unknown>;
  const change = (key: string, value: unknown, gesture?: string): void => {
    const joined = gesture && `${layer.id} ${key} ${gesture}`;
    if (isKeyed(kind.settings[key]!))
      dispatch(setProperty(shot.id, layer.id, propPath(key), frame, value as number), joined);
    else dispatch(changeProp(shot.id, layer.id, {}, { [key]: value as string }), joined);
  };
  const side = (label: string, key: 'width' | 'height') => (
    <NumberField
      label={label}
      unit="px"
      min={8}
      max={20_000}
      value={source[key]}
      disabled={locked}
      onChange={(v) => dispatch(changeProp(shot.id, layer.id, { [key]: v }))}
      after={<span className="size-6" />}
    />
  );
  return (
    <Section name="Prop" note={kind.name}>
      <p className="text-[12px] text-ink-2">{kind.purpose}</p>
      {askedOf(kind.settings, values).map(([key, setting]) =>
        setting.kind === 'strokes' ? (
          <MarksField key={key} {...part} name={key} setting={setting} />
        ) : (
          <SettingField
            key={key}
            setting={setting}
            layers={setting.kind === 'layer' ? othersFor(part, setting.gives) : undefined}
            value={values[key]}
            disabled={locked}
            onChange={(value, gesture) => change(key, value, gesture)}
            after={
              isKeyed(setting) ? (
                <KeyToggle shot={shot} layer={layer} property={propPath(key)} frame={frame} />
              ) : undefined
            }
          />
        ),
      )}
      {kind.slab && (
        <>
          <NumberField
            label="Nearest at"
            unit="%"
            min={5}
            max={100}
            value={source.near * 100}
            disabled={locked}
            onChange={(v) => dispatch(changeProp(shot.id, layer.id, { near: v / 100 }))}
            after={<span className="size-6" />}
          />
          <NumberField
            label="Farthest at"
            unit="%"
            min={100}
            max={5000}
            value={source.far * 100}
            disabled={locked}
            onChange={(v) => dispatch(changeProp(shot.id, layer.id, { far: v / 100 }))}
            after={<span className="size-6" />}
          />
        </>
      )}
      {side('Width', 'width')}
      {side('Height', 'height')}
      <SwitchRow
        label="Loops with the shot"
        hint="Ends as it began, so that no seam is seen"
        on={source.loops}
        disabled={locked}
        onChange={(loops) => dispatch(changeProp(shot.id, layer.id, { loops }))}
      />
    </Section>
  );
}
