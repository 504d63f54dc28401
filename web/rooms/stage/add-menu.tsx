import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import {
  Circle,
  Contrast,
  Images,
  MessageCircle,
  Move,
  PaintBucket,
  PenTool,
  Plus,
  Shapes,
  Sparkles,
  Square,
  Type,
} from 'lucide-react';
import { useRef, useState, type ReactNode } from 'react';
import { addLayer, type NewContent } from '../../../core/edits/arrange-edits.ts';
import { plainWords } from '../../../core/document/words.ts';
import { newBubble } from '../../../core/edits/bubble-edits.ts';
import { nameOfWords } from '../../../core/edits/layer-edits.ts';
import type { Document } from '../../../core/document/document.ts';
import { layerValue } from '../../../core/scene/values.ts';
import type { Shot } from '../../../core/document/shot.ts';
import { storeDrawing } from '../../data/api.ts';
import { notify, notifyError } from '../../data/notices.ts';
import { newId, useProject } from '../../data/project.ts';
import { measured } from '../../workers/faces.ts';
import { addDrawing } from '../../../core/edits/drawing-edits.ts';
import { addProp } from '../../../core/edits/prop-edits.ts';
import { addShape } from '../../../core/edits/shape-edits.ts';
import { hangables, hangInShot } from '../../../core/edits/lift-edit.ts';
import { HangSheet } from './sheet/hang-sheet.tsx';
import { PropSheet } from './props/prop-sheet.tsx';
import { ShapeSheet } from './shapes/shape-sheet.tsx';
import { selectedLayers, useStage } from './stage-state.ts';

type MenuEntry = [name: string, icon: ReactNode, act: () => void];

async function text(height: number, face: string): Promise<NewContent> {
  const setting = { ...plainWords, text: 'Your text', face, size: Math.round(height / 9) };
  const box = await measured(setting);
  return { source: { ...setting, box }, colour: [245, 242, 235, 1], pivot: [box.width / 2, box.height / 2] };
}

/** What there is to hang once more, and layers that need no picture: shapes, words, a colour, and a carrier for others. */
export function AddMenu({ document, shot }: { document: Document; shot: Shot }) {
  const { dispatch } = useProject();
  const { selection, selectLayer, frame } = useStage();
  const { width, height } = document.frame;
  const side = Math.round(Math.min(width, height) * 0.35);
  // New layers hang where the selected one does, in front of it.
  const beside = selectedLayers(shot, selection)[0];
  const depth = beside ? layerValue(shot, beside, 'depth', frame) : 3;
  // A grade changes all that is behind it: it begins in front of everything.
  const nearest = Math.min(3, ...shot.layers.map((layer) => layerValue(shot, layer, 'depth', frame))) * 0.9;
  const add = (name: string, content: NewContent, at = depth): string => {
    const id = newId('layer');
    dispatch(addLayer(shot.id, { id, name, depth: at }, content));
    selectLayer(id);
    return id;
  };
  const addForm = (kind: string, width = side): void => {
    const id = newId('layer');
    dispatch(addShape(shot.id, kind, { id, depth, width }));
    selectLayer(id);
  };
  const addWords = async (inBubble: boolean): Promise<void> => {
    const { source, ...content } = await text(inBubble ? height / 2 : height, inBubble ? 'comic' : 'grotesque');
    const id =
      inBubble && source.kind === 'text'
        ? add('Bubble', { ...content, colour: [28, 42, 48, 1], source: { ...source, bubble: newBubble(source) } })
        : add(nameOfWords('Your text'), { ...content, source });
    // Whoever adds words goes on to type them.
    useStage.setState({ writing: id });
  };
  const file = useRef<HTMLInputElement>(null);
  const addFile = async (svg: File): Promise<void> => {
    const { file: hash, name, box, left } = await storeDrawing(svg);
    const id = newId('layer');
    dispatch(addDrawing(shot.id, { id, name, depth }, hash, box));
    selectLayer(id);
    if (left.length > 0) notify('problem', `${svg.name} is here without its ${left.join(', ')}.`);
  };
  const [choosing, setChoosing] = useState<'shape' | 'prop' | 'hang' | null>(null);
  const items: MenuEntry[] = [
    ...(hangables(document).length > 0
      ? [['Piece or picture', <Images key="h" size={15} />, () => setChoosing('hang')] as MenuEntry]
      : []),
    ['Rectangle', <Square key="r" size={15} />, () => addForm('rectangle')],
    ['Ellipse', <Circle key="e" size={15} />, () => addForm('ellipse')],
    ['Shape', <Shapes key="s" size={15} />, () => setChoosing('shape')],
    ['Text', <Type key="t" size={15} />, () => void addWords(false).catch(notifyError)],
    ['Speech bubble', <MessageCircle key="b" size={15} />, () => void addWords(true).catch(notifyError)],
    ['Drawing (SVG)', <PenTool key="d" size={15} />, () => file.current!.click()],
    ['Prop', <Sparkles key="pr" size={15} />, () => setChoosing('prop')],
    [
      'Colour',
      <PaintBucket key="c" size={15} />,
      () => void add('Colour', { source: { kind: 'colour' }, colour: [68, 100, 138, 1] }, 40),
    ],
    ['Grade layer', <Contrast key="g" size={15} />, () => void add('Grade', { source: { kind: 'grade' } }, nearest)],
    ['Carrier', <Move key="m" size={15} />, () => void add('Carrier', { source: { kind: 'carrier' } })],
  ];
  return (
    <>
      <Menu>
        <MenuButton
          aria-label="New layer"
          title="New layer"
          className="flex size-9 items-center justify-center rounded-md border border-line hover:bg-paper-2"
        >
          <Plus size={16} />
        </MenuButton>
        <MenuItems
          anchor="bottom end"
          className="z-20 max-h-[70vh]! w-44 overflow-y-auto rounded-md border border-line bg-paper p-1 shadow-lg outline-none"
        >
          {items.map(([name, icon, act]) => (
            <MenuItem key={name}>
              <button
                type="button"
                onClick={act}
                className="flex h-8 w-full items-center gap-2 rounded-md px-2 text-left text-[13px] data-focus:bg-paper-2"
              >
                {icon}
                {name}
              </button>
            </MenuItem>
          ))}
        </MenuItems>
      </Menu>
      <input
        ref={file}
        type="file"
        accept=".svg,image/svg+xml"
        className="hidden"
        aria-label="Drawing file"
        onChange={(event) => {
          const svg = event.target.files?.[0];
          event.target.value = '';
          if (svg) addFile(svg).catch(notifyError);
        }}
      />
      {choosing === 'hang' && (
        <HangSheet
          document={document}
          onClose={() => setChoosing(null)}
          onChoose={(one) => {
            setChoosing(null);
            const id = newId('layer');
            dispatch(hangInShot(shot.id, one, id));
            selectLayer(id);
          }}
        />
      )}
      {choosing === 'shape' && (
        <ShapeSheet
          document={document}
          shot={shot}
          onClose={() => setChoosing(null)}
          onChoose={(kind) => {
            setChoosing(null);
            addForm(kind);
          }}
        />
      )}
      {choosing === 'prop' && (
        <PropSheet
          document={document}
          shot={shot}
          frame={frame}
          depth={depth}
          onClose={() => setChoosing(null)}
          onChoose={(kind) => {
            setChoosing(null);
            const id = newId('layer');
            dispatch(addProp(shot.id, kind, { id, depth }));
            selectLayer(id);
          }}
        />
      )}
    </>
  );
}
