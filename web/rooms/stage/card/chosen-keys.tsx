import { easeKeys, removeKeys, type KeyRef } from '../../../../core/edits/key-edits.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import { propertyAt, propertyName } from '../../../../core/document/properties.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { Button } from '../../../parts/button.tsx';
import { useStage } from '../stage-state.ts';
import { EasingChoice } from './easing-choice.tsx';
import { sameValue } from './same-value.ts';

/** The keyframes chosen in the timeline, of one layer or of several: how they are travelled from. */
export function ChosenKeys({ shot, layers }: { shot: Shot; layers: readonly Layer[] }) {
  const { dispatch } = useProject();
  const { keys, selectKeys } = useStage();
  const easings = keys.map((ref) => keyOf(layers, ref)?.easing).filter((easing) => easing !== undefined);
  const first = keys[0];
  if (!first || easings.length === 0) return null;
  const of = layers.find((layer) => layer.id === first.layer);
  return (
    <section className="mb-1 rounded-md border border-saffron bg-white/70 p-2">
      <h3 className="text-[13px] font-semibold">
        {keys.length === 1 && of
          ? `${propertyName(of, first.property)} keyframe at ${first.frame}`
          : `${keys.length} keyframes`}
      </h3>
      <EasingChoice value={sameValue(easings)} onChange={(easing) => dispatch(easeKeys(shot.id, keys, easing))} />
      <Button
        className="mt-1 w-full"
        onClick={() => {
          dispatch(removeKeys(shot.id, keys));
          selectKeys([]);
        }}
      >
        {keys.length === 1 ? 'Delete keyframe' : 'Delete keyframes'}
      </Button>
    </section>
  );
}

function keyOf(layers: readonly Layer[], ref: KeyRef) {
  const layer = layers.find((one) => one.id === ref.layer);
  const property = layer && propertyAt(layer, ref.property);
  return property && 'keys' in property ? property.keys.find((key) => key.frame === ref.frame) : undefined;
}
