import type { Bubble } from '../../../../core/document/words.ts';
import { newBubble, pointTailAt, setBubble } from '../../../../core/edits/bubble-edits.ts';
import { bubbleForms, type BubbleForm } from '../../../../core/path/bubble.ts';
import { useProject } from '../../../data/project.ts';
import { NumberField } from '../../../parts/number-field.tsx';
import { SmallSelect } from '../../../parts/small-select.tsx';
import { ColourField } from '../card/colour-field.tsx';
import type { WordsPart } from '../card/text.tsx';

type Colour = Bubble['colour'];

/** The bubble around the words: its form, its room, and what its tail points at. */
export function BubbleFields({ shot, layer, text }: WordsPart) {
  const { dispatch } = useProject();
  const { bubble } = text;
  const { locked } = layer;
  const change = (next: Partial<Bubble>, gesture?: string): void =>
    dispatch(setBubble(shot.id, layer.id, { ...bubble!, ...next }), gesture && `bubble ${layer.id} ${gesture}`);
  const targets = shot.layers.filter(
    (l) => l.id !== layer.id && l.source.kind !== 'colour' && l.source.kind !== 'grade',
  );
  const pixels = (label: string, value: number, give: (v: number) => void, [min, max] = [0, 2000]) => (
    <NumberField label={label} unit="px" min={min} max={max} value={value} disabled={locked} onChange={give} />
  );
  return (
    <>
      <SmallSelect<BubbleForm | 'none'>
        label="Bubble"
        value={bubble?.form ?? 'none'}
        options={[{ value: 'none', name: 'none' }, ...bubbleForms.map((value) => ({ value, name: value }))]}
        disabled={locked}
        onChange={(form) =>
          dispatch(setBubble(shot.id, layer.id, form === 'none' ? null : { ...(bubble ?? newBubble(text)), form }))
        }
      />
      {bubble && (
        <div className="border-l-2 border-line pl-2">
          {pixels('Padding', bubble.padding, (padding) => change({ padding }))}
          <ColourField
            label="Bubble colour"
            value={bubble.colour}
            disabled={locked}
            onChange={(colour, gesture) => change({ colour: colour as Colour }, gesture)}
          />
          {pixels(
            'Line',
            bubble.stroke?.width ?? 0,
            (width) =>
              change({ stroke: width > 0 ? { width, colour: bubble.stroke?.colour ?? [28, 42, 48, 1] } : null }),
            [0, 200],
          )}
          {bubble.stroke && (
            <ColourField
              label="Line colour"
              value={bubble.stroke.colour}
              disabled={locked}
              onChange={(colour, gesture) =>
                change({ stroke: { ...bubble.stroke!, colour: colour as Colour } }, gesture)
              }
            />
          )}
          <SmallSelect
            label="Tail"
            value={bubble.tail ? (bubble.tail.to ?? 'free') : 'none'}
            options={[
              { value: 'none', name: 'none' },
              { value: 'free', name: 'at a point' },
              ...targets.map((l) => ({ value: l.id, name: `at ${l.name}` })),
            ]}
            disabled={locked}
            onChange={(to) => {
              if (to === 'none') change({ tail: null });
              else dispatch(pointTailAt(shot.id, layer.id, to === 'free' ? null : to));
            }}
          />
          {bubble.tail &&
            pixels('Tail width', bubble.tail.width, (width) => change({ tail: { ...bubble.tail!, width } }), [1, 2000])}
        </div>
      )}
    </>
  );
}
