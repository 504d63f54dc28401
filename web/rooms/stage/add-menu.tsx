import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import {
  ArrowBigRight,
  Bookmark,
  Circle,
  Cloud,
  Contrast,
  Droplets,
  Hexagon,
  MessageCircle,
  Move,
  PaintBucket,
  Plus,
  Sparkles,
  Square,
  Star,
  Sun,
  Type,
  Waves,
} from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { ellipse, polygon, rectangle } from '../../../core/path/forms.ts';
import type { Path } from '../../../core/path/path.ts';
import { arrow, blob, burst, dripEdge, ribbon, speechBubble, star, wave } from '../../../core/path/ready-shapes.ts';
import { addLayer, type NewContent } from '../../../core/edits/arrange-edits.ts';
import { plainWords } from '../../../core/document/layer.ts';
import { nameOfWords } from '../../../core/edits/layer-edits.ts';
import type { Document } from '../../../core/document/document.ts';
import { layerValue } from '../../../core/scene/values.ts';
import { numbersOfPath } from '../../../core/document/points.ts';
import type { Shot } from '../../../core/document/shot.ts';
import { notifyError } from '../../data/notices.ts';
import { newId, useProject } from '../../data/project.ts';
import { measured } from '../../workers/faces.ts';
import { addProp } from '../../../core/edits/prop-edits.ts';
import { PropSheet } from './props/prop-sheet.tsx';
import { selectedLayers, useStage } from './stage-state.ts';

const readyShapes: [string, ReactNode, (box: { x: number; y: number; width: number; height: number }) => Path][] = [
  ['Star', <Star key="st" size={15} />, star],
  ['Burst', <Sun key="bu" size={15} />, burst],
  ['Arrow', <ArrowBigRight key="ar" size={15} />, arrow],
  ['Ribbon', <Bookmark key="ri" size={15} />, ribbon],
  ['Wave', <Waves key="wa" size={15} />, wave],
  ['Blob', <Cloud key="bl" size={15} />, blob],
  ['Drip edge', <Droplets key="dr" size={15} />, dripEdge],
  ['Speech bubble', <MessageCircle key="sp" size={15} />, speechBubble],
];

const plain = { kind: 'shape', closed: true, filled: true, gradient: null, stroke: null } as const;

function shape(path: Path): NewContent {
  const xs = path.points.map((p) => p.at[0]);
  const ys = path.points.map((p) => p.at[1]);
  const pivot: [number, number] = [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
  return { source: plain, points: numbersOfPath(path), colour: [217, 154, 0, 1], pivot };
}

async function text(height: number): Promise<NewContent> {
  const setting = { ...plainWords, text: 'Your text', face: 'grotesque', size: Math.round(height / 9) };
  const box = await measured(setting);
  return { source: { ...setting, box }, colour: [245, 242, 235, 1], pivot: [box.width / 2, box.height / 2] };
}

/** Layers that need no picture: shapes, words, a colour, and a carrier for others. */
export function AddMenu({ document, shot }: { document: Document; shot: Shot }) {
  const { dispatch } = useProject();
  const { selection, selectLayer, frame } = useStage();
  const { width, height } = document.frame;
  const side = Math.round(Math.min(width, height) * 0.35);
  const box = { x: 0, y: 0, width: side, height: side };
  // New layers hang where the selected one does, in front of it.
  const beside = selectedLayers(shot, selection)[0];
  const depth = beside ? layerValue(shot, beside, 'depth', frame) : 3;
  // A grade changes all that is behind it: it begins in front of everything.
  const nearest = Math.min(3, ...shot.layers.map((layer) => layerValue(shot, layer, 'depth', frame))) * 0.9;
  const add = (name: string, content: NewContent, at = depth): void => {
    const id = newId('layer');
    dispatch(addLayer(shot.id, { id, name, depth: at }, content));
    selectLayer(id);
  };
  const [choosing, setChoosing] = useState(false);
  const items: [string, ReactNode, () => void][] = [
    ['Rectangle', <Square key="r" size={15} />, () => add('Rectangle', shape(rectangle(box)))],
    ['Ellipse', <Circle key="e" size={15} />, () => add('Ellipse', shape(ellipse(box)))],
    ['Polygon', <Hexagon key="p" size={15} />, () => add('Polygon', shape(polygon(box, 6)))],
    ...readyShapes.map(([name, icon, make]): [string, ReactNode, () => void] => [
      name,
      icon,
      () => add(name, shape(make(box))),
    ]),
    [
      'Text',
      <Type key="t" size={15} />,
      () =>
        void text(height)
          .then((content) => add(nameOfWords('Your text'), content))
          .catch((error: unknown) => notifyError(error)),
    ],
    ['Prop', <Sparkles key="pr" size={15} />, () => setChoosing(true)],
    [
      'Colour',
      <PaintBucket key="c" size={15} />,
      () => add('Colour', { source: { kind: 'colour' }, colour: [68, 100, 138, 1] }, 40),
    ],
    ['Grade layer', <Contrast key="g" size={15} />, () => add('Grade', { source: { kind: 'grade' } }, nearest)],
    ['Carrier', <Move key="m" size={15} />, () => add('Carrier', { source: { kind: 'carrier' } })],
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
      {choosing && (
        <PropSheet
          document={document}
          shot={shot}
          frame={frame}
          depth={depth}
          onClose={() => setChoosing(false)}
          onChoose={(kind) => {
            setChoosing(false);
            const id = newId('layer');
            dispatch(addProp(shot.id, kind, { id, depth }));
            selectLayer(id);
          }}
        />
      )}
    </>
  );
}
