import { easingNames, type Easing } from '../../../../core/motion/easing.ts';
import { SmallSelect } from '../../../parts/small-select.tsx';

const names: Partial<Record<string, string>> = {
  'wind-up': 'wind up',
  'wind-up-overshoot': 'wind up, overshoot',
};

/** How the way to the next keyframe is travelled; null where several ways are travelled each in its own. */
export function EasingChoice({ value, onChange }: { value: Easing | null; onChange(easing: Easing): void }) {
  const own = value !== null && typeof value !== 'string';
  return (
    <SmallSelect
      label="Easing"
      value={own ? 'own' : value}
      options={[
        ...(own ? [{ value: 'own' as const, name: 'own curve' }] : []),
        ...easingNames.map((name) => ({ value: name, name: names[name] ?? name })),
      ]}
      onChange={(next) => next !== 'own' && onChange(next)}
    />
  );
}
