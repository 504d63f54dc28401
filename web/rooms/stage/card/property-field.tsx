import { addKey, emptyValue, removeKey } from '../../../../core/edits/layer-edits.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import { propertyAt, propertyName, type PropertyPath } from '../../../../core/document/properties.ts';
import { layerValue } from '../../../../core/scene/values.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { IconButton } from '../../../parts/button.tsx';

interface KeyToggleProps {
  shot: Shot;
  layer: Layer;
  property: PropertyPath;
  frame: number;
}

/** Sets or removes a keyframe for a property at the playhead. */
export function KeyToggle({ shot, layer, property, frame }: KeyToggleProps) {
  const { dispatch } = useProject();
  const current = propertyAt(layer, property);
  const keys = current && 'keys' in current ? current.keys : [];
  const there = keys.some((key) => key.frame === frame);
  const name = propertyName(layer, property);
  // Corners that were never moved can have a key where they are.
  const value = current ? layerValue(shot, layer, property, frame) : emptyValue(property);
  return (
    <IconButton
      label={there ? `Delete ${name} keyframe here` : `${name} keyframe here`}
      pressed={there}
      disabled={layer.locked || (!current && property !== 'corners')}
      className="!size-6"
      onClick={() =>
        dispatch(
          there ? removeKey(shot.id, layer.id, property, frame) : addKey(shot.id, layer.id, property, frame, value),
        )
      }
    >
      <KeyTab filled={there} animated={keys.length > 0} />
    </IconButton>
  );
}

/** A small upright tab: filled where there is a keyframe, outlined where the property has keyframes elsewhere. */
export function KeyTab({ filled, animated }: { filled: boolean; animated: boolean }) {
  return (
    <svg width={9} height={14} aria-hidden>
      <path
        d="M1.5 4.5 4.5 1.5 7.5 4.5V12.5H1.5Z"
        fill={filled ? '#0e5b50' : 'none'}
        stroke={filled || animated ? '#0e5b50' : '#5b6a70'}
        strokeWidth={1.4}
      />
    </svg>
  );
}
