import type { Jitter } from '../../../../core/motion/wander.ts';
import { NumberField } from '../../../parts/number-field.tsx';

/** How quickly something trembles, and the seed that makes it tremble the same way every time. */
export function JitterFields({
  jitter,
  rate,
  onChange,
}: {
  jitter: Pick<Jitter, 'period' | 'seed'>;
  rate: number;
  onChange(change: Partial<Pick<Jitter, 'period' | 'seed'>>): void;
}) {
  return (
    <>
      <NumberField
        label="Interval"
        unit="s"
        digits={2}
        step={0.05}
        min={1 / rate}
        max={60}
        value={jitter.period / rate}
        onChange={(v) => onChange({ period: Math.max(1, v * rate) })}
      />
      <NumberField
        label="Seed"
        min={0}
        max={99999}
        value={jitter.seed}
        onChange={(v) => onChange({ seed: Math.round(v) })}
      />
    </>
  );
}
