import { movePivot, setDepth, setProperty } from '../../../../core/edits/layer-edits.ts';
import type { Animated } from '../../../../core/document/layer.ts';
import { layerSettings } from '../../../../core/document/layer-settings.ts';
import { layerValue } from '../../../../core/scene/values.ts';
import { useProject } from '../../../data/project.ts';
import { useStage } from '../stage-state.ts';
import type { LayerPart } from './place.tsx';
import { KeyToggle } from './property-field.tsx';
import { SettingField } from './setting-field.tsx';

/** The field of what every layer has, with the mark of its keyframe. */
export function LayerField({ document, shot, layer, frame, property }: LayerPart & { property: Animated }) {
  const { dispatch } = useProject();
  const keepLook = useStage((state) => state.keepLook);
  const change = (value: unknown, gesture?: string): void => {
    if (property === 'depth') dispatch(setDepth(shot.id, layer.id, value as number, frame, !keepLook));
    else if (property === 'pivot') dispatch(movePivot(shot.id, layer.id, value as [number, number], frame));
    else {
      const edit = setProperty(shot.id, layer.id, property, frame, value as never);
      dispatch(edit, gesture && `${property} ${layer.id} ${gesture}`);
    }
  };
  return (
    <SettingField
      setting={layerSettings[property]}
      value={layerValue(shot, layer, property, frame)}
      disabled={layer.locked}
      reach={20 * Math.max(document.frame.width, document.frame.height)}
      onChange={change}
      after={<KeyToggle shot={shot} layer={layer} property={property} frame={frame} />}
    />
  );
}
