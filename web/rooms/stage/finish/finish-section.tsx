import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { ClipboardCopy, ClipboardPaste, Library, Plus, X } from 'lucide-react';
import { useState } from 'react';
import { addFinish, pasteFinishes } from '../../../../core/edits/finish-edits.ts';
import type { Finish } from '../../../../core/document/finish-list.ts';
import { finishKind } from '../../../../core/finish/finishes.ts';
import { deleteFinishSet, listFinishSets, saveFinishSet } from '../../../data/api.ts';
import { notify, notifyError } from '../../../data/notices.ts';
import { newId, useProject } from '../../../data/project.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import type { LayerPart } from '../card/place.tsx';
import { Section } from '../card/section.tsx';
import { useStage } from '../stage-state.ts';
import { FinishCard } from './finish-card.tsx';
import { FinishSheet } from './finish-sheet.tsx';

/** The finishes of a layer, in the order they are applied. */
export function FinishSection(part: LayerPart) {
  const { document, shot, layer, frame } = part;
  const { dispatch } = useProject();
  const { copiedFinishes } = useStage();
  const [choosing, setChoosing] = useState(false);
  const { finishes, locked } = layer;
  const names = finishes.map((finish) => finishKind(finish.kind)?.name).join(', ');
  return (
    <Section name="Finish" note={names || null}>
      <ul className="flex flex-col gap-1" aria-label="Finishes">
        {finishes.map((finish, index) => (
          <FinishCard key={finish.id} {...part} finish={finish} index={index} />
        ))}
      </ul>
      {layer.source.kind === 'grade' && finishes.length === 0 && (
        <p className="text-[12px] text-ink-2">Add a finish: it changes the look of everything behind this layer.</p>
      )}
      <div className="flex gap-1">
        <Button className="flex-1" icon={<Plus size={14} />} disabled={locked} onClick={() => setChoosing(true)}>
          Add finish
        </Button>
        <IconButton
          label="Copy finishes"
          disabled={finishes.length === 0}
          onClick={() => {
            useStage.setState({ copiedFinishes: finishes });
            notify('done', 'Copied. Select other layers and paste.');
          }}
        >
          <ClipboardCopy size={15} />
        </IconButton>
        <PasteFinishes shot={shot.id} layers={locked ? [] : [layer.id]} copied={copiedFinishes} />
        <SetsMenu {...part} />
      </div>
      {choosing && (
        <FinishSheet
          document={document}
          shot={shot}
          layer={layer}
          frame={frame}
          onClose={() => setChoosing(false)}
          onChoose={(kind) => {
            setChoosing(false);
            dispatch(addFinish(shot.id, layer.id, kind, newId('finish')));
          }}
        />
      )}
    </Section>
  );
}

/** Lays copied finishes onto layers, behind those they have. */
export function PasteFinishes({ shot, layers, copied }: { shot: string; layers: string[]; copied: readonly Finish[] }) {
  const { dispatch } = useProject();
  const ids = (): string[] => Array.from({ length: copied.length * layers.length }, () => newId('finish'));
  return (
    <IconButton
      label="Paste finishes"
      disabled={copied.length === 0 || layers.length === 0}
      onClick={() => dispatch(pasteFinishes(shot, layers, copied, ids()))}
    >
      <ClipboardPaste size={15} />
    </IconButton>
  );
}

/** Sets of finishes with a name, kept for all projects. */
function SetsMenu({ shot, layer }: LayerPart) {
  const { dispatch } = useProject();
  const client = useQueryClient();
  const sets = useQuery({ queryKey: ['finish-sets'], queryFn: listFinishSets });
  const [naming, setNaming] = useState(false);
  const refresh = () => client.invalidateQueries({ queryKey: ['finish-sets'] });
  const save = (name: string): void => {
    setNaming(false);
    if (name.trim() === '') return;
    saveFinishSet({ name: name.trim(), finishes: layer.finishes }).then(refresh, notifyError);
  };
  if (naming)
    return (
      <input
        autoFocus
        aria-label="Name of the set"
        placeholder="Name of the set"
        maxLength={80}
        className="w-28 rounded-md border border-pine bg-white px-1.5 text-[13px]"
        onBlur={(event) => save(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
          if (event.key === 'Escape') setNaming(false);
          event.stopPropagation();
        }}
      />
    );
  const item = 'flex w-full items-center gap-2 rounded-md px-2 py-1.5 text-left text-[13px] data-focus:bg-paper-2';
  return (
    <Menu>
      <MenuButton
        aria-label="Sets of finishes"
        title="Sets of finishes"
        className="flex size-7 items-center justify-center rounded-md hover:bg-paper-2"
      >
        <Library size={15} />
      </MenuButton>
      <MenuItems
        anchor="bottom end"
        className="z-30 w-56 rounded-lg border border-line bg-paper p-1 shadow-lg outline-none"
      >
        {sets.data?.length === 0 && <p className="px-2 py-1.5 text-[13px] text-ink-2">No sets yet.</p>}
        {sets.data?.map(({ name, finishes }) => (
          <div key={name} className="flex items-center">
            <MenuItem disabled={layer.locked}>
              <button
                type="button"
                className={item}
                onClick={() => {
                  const ids = finishes.map(() => newId('finish'));
                  dispatch(pasteFinishes(shot.id, [layer.id], finishes, ids));
                }}
              >
                {name}
              </button>
            </MenuItem>
            <IconButton
              label={`Delete set ${name}`}
              className="!size-6"
              onClick={() => void deleteFinishSet(name).then(refresh, notifyError)}
            >
              <X size={13} />
            </IconButton>
          </div>
        ))}
        <MenuItem disabled={layer.finishes.length === 0}>
          <button type="button" className={`${item} border-t border-line`} onClick={() => setNaming(true)}>
            Save these as a set
          </button>
        </MenuItem>
      </MenuItems>
    </Menu>
  );
}
