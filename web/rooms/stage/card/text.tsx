import { Ungroup } from 'lucide-react';
import { useRef, useState } from 'react';
import { canTakeApart, takeApart } from '../../../../core/edits/take-apart.ts';
import { changeText } from '../../../../core/edits/layer-edits.ts';
import type { LayerSource } from '../../../../core/document/layer.ts';
import { lettersOf } from '../../../../core/text/lettering.ts';
import { notifyError } from '../../../data/notices.ts';
import { useProject } from '../../../data/project.ts';
import { Button } from '../../../parts/button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { plainOptions, SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import { loadFace, measuredNow } from '../../../workers/faces.ts';
import { useStage } from '../stage-state.ts';
import { AlongFields } from '../words/along-fields.tsx';
import { BubbleFields } from '../words/bubble-fields.tsx';
import { ChangesFields } from '../words/changes-fields.tsx';
import { FontChoice } from '../words/font-choice.tsx';
import { LetterFields } from '../words/letter-fields.tsx';
import { useFacesOf } from '../words/use-faces.ts';
import type { LayerPart } from './place.tsx';
import { useTakenOnPress } from '../../../parts/taken-on-press.ts';
import { Section } from './section.tsx';

export type Text = Extract<LayerSource, { kind: 'text' }>;

/** What the parts of the card that set words are given. */
export interface WordsPart extends LayerPart {
  text: Text;
  set(part: Partial<Text>): void;
}

/** The words of a text layer and how they are set. */
export function TextSection(part: LayerPart) {
  const { document, shot, layer } = part;
  const { dispatch } = useProject();
  const text = layer.source as Text;
  const { writing } = useStage();
  useFacesOf(document);
  const set = (next: Partial<Text>): void => {
    // The room it takes is measured from its face, with whatever else was set until that is there.
    loadFace(next.face ?? text.face)
      .then(() => dispatch(changeText(shot.id, layer.id, next, measuredNow)))
      .catch(notifyError);
  };
  const words: WordsPart = { ...part, text, set };
  return (
    <Section name="Text">
      <Words {...words} />
      <Button
        disabled={layer.locked}
        data-while-typing
        aria-pressed={writing === layer.id}
        title="Type in the view (double-click on the words)"
        onClick={() => useStage.setState({ writing: writing === layer.id ? null : layer.id })}
      >
        Edit in the view
      </Button>
      <LetterFields {...words} />
      <FontChoice {...words} />
      <MissingLetters text={text} />
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
        options={plainOptions(['left', 'centre', 'right', 'justified'] as const)}
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
      <SwitchRow
        label="Wrap lines"
        hint="Breaks lines at the width of the box; drag its sides while editing in the view"
        on={text.wrap !== null}
        disabled={layer.locked}
        onChange={(on) => set({ wrap: on ? Math.max(40, Math.round(text.box.width)) : null })}
      />
      {text.wrap !== null && (
        <NumberField
          label="Box width"
          unit="px"
          min={10}
          max={20_000}
          value={text.wrap}
          disabled={layer.locked}
          onChange={(wrap) => set({ wrap })}
        />
      )}
      <AlongFields {...words} />
      <ChangesFields {...words} />
      <BubbleFields {...words} />
      <Button
        icon={<Ungroup size={14} />}
        disabled={layer.locked || !canTakeApart(layer)}
        title="Every letter becomes a layer of its own; how they arrive becomes keyframes"
        onClick={() => dispatch(takeApart(shot.id, layer.id, 'letter'))}
      >
        Take apart into letters
      </Button>
    </Section>
  );
}

function Words({ layer, text, set }: WordsPart) {
  const [typed, setTyped] = useState<string | null>(null);
  const give = (): void => {
    if (typed !== null && typed !== text.text) set({ text: typed });
    setTyped(null);
  };
  const area = useRef<HTMLTextAreaElement>(null);
  useTakenOnPress(area, typed !== null, give);
  return (
    <textarea
      ref={area}
      aria-label="Words"
      rows={2}
      dir="auto"
      className="w-full rounded-md border border-line bg-white px-2 py-1 text-[13px]"
      value={typed ?? text.text}
      disabled={layer.locked}
      maxLength={2000}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={give}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) give();
      }}
    />
  );
}

/** Which letters no font has. */
function MissingLetters({ text }: { text: Text }) {
  const missing = lettersOf(text)?.letters.filter((letter) => letter.missing) ?? [];
  if (missing.length === 0) return null;
  const letters = [...new Set(missing.map((letter) => text.text.slice(letter.from, letter.to)))].join(' ');
  return (
    <p className="text-[12px] text-brick" role="status">
      No font here has {letters}: shown as an empty frame.
    </p>
  );
}
