import { useState } from 'react';
import { changeText } from '../../../../core/edits/layer-edits.ts';
import type { LayerSource } from '../../../../core/document/layer.ts';
import { faces } from '../../../../core/text/faces.ts';
import { notifyError } from '../../../data/notices.ts';
import { useProject } from '../../../data/project.ts';
import { NumberField } from '../../../parts/number-field.tsx';
import { plainOptions, SmallSelect } from '../../../parts/small-select.tsx';
import { loadFace, measuredNow } from '../../../workers/faces.ts';
import type { LayerPart } from './place.tsx';
import { Section } from './section.tsx';

type Text = Extract<LayerSource, { kind: 'text' }>;

/** The words of a text layer and how they are set. */
export function TextSection({ shot, layer }: LayerPart) {
  const { dispatch } = useProject();
  const text = layer.source as Text;
  const [typed, setTyped] = useState<string | null>(null);
  const set = (part: Partial<Text>): void => {
    // The room it takes is measured from its face, with whatever else was set until that is there.
    loadFace(part.face ?? text.face)
      .then(() => dispatch(changeText(shot.id, layer.id, part, measuredNow)))
      .catch(notifyError);
  };
  const give = (): void => {
    if (typed !== null && typed !== text.text) set({ text: typed });
    setTyped(null);
  };
  return (
    <Section name="Text">
      <textarea
        aria-label="Words"
        rows={2}
        className="w-full rounded-md border border-line bg-white px-2 py-1 text-[13px]"
        value={typed ?? text.text}
        disabled={layer.locked}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={give}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) give();
        }}
      />
      <SmallSelect
        label="Font"
        value={text.face}
        options={plainOptions(faces)}
        disabled={layer.locked}
        onChange={(face) => set({ face })}
      />
      <NumberField
        label="Size"
        unit="px"
        min={4}
        max={2000}
        value={text.size}
        disabled={layer.locked}
        onChange={(size) => set({ size })}
      />
      <SmallSelect
        label="Align"
        value={text.align}
        options={plainOptions(['left', 'centre', 'right'] as const)}
        disabled={layer.locked}
        onChange={(align) => set({ align })}
      />
      <NumberField
        label="Letter spacing"
        unit="%"
        min={-50}
        max={300}
        value={text.tracking * 100}
        disabled={layer.locked}
        onChange={(v) => set({ tracking: v / 100 })}
      />
      <NumberField
        label="Line spacing"
        unit="%"
        min={50}
        max={400}
        value={text.leading * 100}
        disabled={layer.locked}
        onChange={(v) => set({ leading: v / 100 })}
      />
    </Section>
  );
}
