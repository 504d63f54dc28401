import { useRef, useState } from 'react';
import type { TextChanges } from '../../../../core/document/words.ts';
import { NumberField } from '../../../parts/number-field.tsx';
import { SecondsField } from '../../../parts/seconds-field.tsx';
import { SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import { useTakenOnPress } from '../../../parts/taken-on-press.ts';
import { EasingChoice } from '../card/easing-choice.tsx';
import type { WordsPart } from '../card/text.tsx';

/** Words that change by themselves: a number that counts, or words one after another. */
export function ChangesFields(part: WordsPart) {
  const { document, layer, text, set } = part;
  const { changes } = text;
  const { rate } = document.frame;
  const starts: Record<TextChanges['kind'] | 'none', () => TextChanges | null> = {
    none: () => null,
    number: () => ({
      kind: 'number',
      from: 0,
      to: 100,
      decimals: 0,
      grouped: true,
      begin: 0,
      length: 2 * rate,
      easing: 'ease-out',
    }),
    words: () => ({ kind: 'words', list: [{ text: text.text, frames: rate }], repeats: true }),
  };
  return (
    <>
      <SmallSelect
        label="Changes"
        value={changes?.kind ?? 'none'}
        options={[
          { value: 'none', name: 'no' },
          { value: 'number', name: 'counts' },
          { value: 'words', name: 'a list of words' },
        ]}
        disabled={layer.locked}
        onChange={(kind) => set({ changes: starts[kind]() })}
      />
      <div className="border-l-2 border-line pl-2 empty:hidden">
        {changes?.kind === 'number' && <NumberChange {...part} changes={changes} />}
        {changes?.kind === 'words' && <WordList {...part} changes={changes} />}
      </div>
    </>
  );
}

type Change<Kind extends TextChanges['kind']> = Extract<TextChanges, { kind: Kind }>;

function NumberChange({ document, layer, text, set, changes }: WordsPart & { changes: Change<'number'> }) {
  const { rate } = document.frame;
  const change = (next: Partial<Change<'number'>>): void => set({ changes: { ...changes, ...next } });
  const { locked } = layer;
  return (
    <>
      <NumberField
        label="From"
        digits={changes.decimals}
        value={changes.from}
        disabled={locked}
        onChange={(from) => change({ from })}
      />
      <NumberField
        label="To"
        digits={changes.decimals}
        value={changes.to}
        disabled={locked}
        onChange={(to) => change({ to })}
      />
      <NumberField
        label="Decimals"
        min={0}
        max={6}
        value={changes.decimals}
        disabled={locked}
        onChange={(v) => change({ decimals: Math.round(v) })}
      />
      <SecondsField
        label="Start"
        frames={changes.begin}
        rate={rate}
        least={0}
        disabled={locked}
        onChange={(frames) => change({ begin: frames })}
      />
      <SecondsField
        label="Duration"
        frames={changes.length}
        rate={rate}
        disabled={locked}
        onChange={(frames) => change({ length: frames })}
      />
      <EasingChoice value={changes.easing} onChange={(easing) => change({ easing })} />
      <SwitchRow
        label="Thousands apart"
        on={changes.grouped}
        disabled={locked}
        onChange={(grouped) => change({ grouped })}
      />
      {!text.text.includes('#') && (
        <p className="text-[12px] text-ink-2">Type # in the words where the number is to stand among others.</p>
      )}
    </>
  );
}

/** One line for each entry: how many seconds it stands, and what it reads. */
function WordList({ document, layer, set, changes }: WordsPart & { changes: Change<'words'> }) {
  const { rate } = document.frame;
  const written = changes.list.map(({ text, frames }) => `${Number((frames / rate).toFixed(2))} ${text}`).join('\n');
  const [typed, setTyped] = useState<string | null>(null);
  const give = (): void => {
    if (typed === null) return;
    setTyped(null);
    const list = listOf(typed, rate);
    if (list.length > 0) set({ changes: { ...changes, list } });
  };
  const area = useRef<HTMLTextAreaElement>(null);
  useTakenOnPress(area, typed !== null, give);
  return (
    <>
      <label className="text-[12px] text-ink-2" htmlFor="word-list">
        Each line: seconds, then the words
      </label>
      <textarea
        ref={area}
        id="word-list"
        aria-label="List of words"
        rows={Math.min(8, changes.list.length + 2)}
        className="w-full rounded-md border border-line bg-white px-2 py-1 font-mono text-[12px]"
        value={typed ?? written}
        disabled={layer.locked}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={give}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) give();
        }}
      />
      <SwitchRow
        label="Begins again"
        hint="Else the last words stay"
        on={changes.repeats}
        disabled={layer.locked}
        onChange={(repeats) => set({ changes: { ...changes, repeats } })}
      />
    </>
  );
}

/** Entries as they were typed; a line without seconds stands for one. */
export function listOf(typed: string, rate: number): { text: string; frames: number }[] {
  return typed
    .split('\n')
    .filter((line) => line.trim() !== '')
    .slice(0, 200)
    .map((line) => {
      const [, seconds, text] = /^\s*(?:([\d]+(?:[.,]\d+)?)\s+)?(.*)$/.exec(line)!;
      const frames = Math.round(Number((seconds ?? '1').replace(',', '.')) * rate);
      return { text: text!.slice(0, 400), frames: Math.max(1, Math.min(100_000, frames)) };
    });
}
