import { RotateCcw } from 'lucide-react';
import { spansWith } from '../../../../core/text/spans.ts';
import type { Span } from '../../../../core/document/words.ts';
import { Button } from '../../../parts/button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { ColourField } from '../card/colour-field.tsx';
import type { WordsPart } from '../card/text.tsx';
import { useStage } from '../stage-state.ts';

/** What is different about the letters that are selected in the view. */
export function LetterFields({ layer, text, set }: WordsPart) {
  const { writing, letters } = useStage();
  if (writing !== layer.id || !letters || letters.from === letters.to) return null;
  const { from, to } = letters;
  const own = Object.assign({}, ...text.spans.filter((s) => s.from <= from && s.to > from)) as Partial<Span>;
  const change = (next: { [K in keyof Omit<Span, 'from' | 'to'>]?: Span[K] | null }): void =>
    set({ spans: spansWith(text.spans, from, to, next) });
  const share = (label: string, value: number, give: (v: number | null) => void, limits: object, plain: number) => (
    <NumberField
      label={label}
      unit="%"
      value={value * 100}
      {...limits}
      onChange={(v) => give(v / 100 === plain ? null : v / 100)}
    />
  );
  return (
    <div
      className="rounded-md border border-saffron bg-white/70 p-2"
      role="group"
      aria-label="Selected letters"
      data-while-typing
    >
      <h3 className="truncate text-[13px] font-semibold">“{text.text.slice(from, to)}”</h3>
      <ColourField
        label="Colour of the letters"
        value={own.colour ?? [255, 255, 255, 1]}
        onChange={(colour) => change({ colour: colour as Span['colour'] })}
      />
      {share('Letter size', own.size ?? 1, (size) => change({ size }), { min: 5, max: 2000, step: 5 }, 1)}
      {share('Lift', own.lift ?? 0, (lift) => change({ lift }), { min: -500, max: 500 }, 0)}
      {share('Extra spacing', own.spacing ?? 0, (spacing) => change({ spacing }), { min: -50, max: 300 }, 0)}
      <Button
        icon={<RotateCcw size={14} />}
        className="mt-1 w-full"
        onClick={() => change({ colour: null, size: null, lift: null, spacing: null })}
      >
        Like the others
      </Button>
    </div>
  );
}
