import { ChevronDown, ChevronUp, Download, Eye, EyeOff, Trash2, Upload } from 'lucide-react';
import { readSvg, writeSvg } from '../../../../core/formats/svg/outlines.ts';
import { cornered, smoothed } from '../../../../core/path/edit-path.ts';
import type { Path } from '../../../../core/path/path.ts';
import { plainShape, type Shape } from '../../../../core/path/shapes.ts';
import { newId } from '../../../data/project.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import { ChoiceBar } from '../../../parts/choices.tsx';
import { download } from '../../../parts/download.ts';
import { FileButton } from '../../../parts/file-button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import type { CutPanelProps } from '../cut-tools.ts';

const hows = [
  { id: 'add', name: 'Add' },
  { id: 'take', name: 'Take away' },
  { id: 'within', name: 'Keep in' },
] as const;

export const howNames: Record<Shape['how'], string> = { add: 'Added', take: 'Away', within: 'Within' };

/** The outlines of the open step, in order, and the settings of the chosen one. */
export function ShapeList(props: CutPanelProps) {
  const { shapes, changeShapes, outline, setOutline, setTool, session, piece } = props;
  const chosen = shapes.find((shape) => shape.id === outline.shape) ?? null;
  const choose = (id: string): void => {
    setOutline({ shape: id, points: new Set() });
    setTool('points');
  };
  const move = (index: number, by: -1 | 1): void => {
    const moved = [...shapes];
    const [shape] = moved.splice(index, 1);
    moved.splice(index + by, 0, shape!);
    changeShapes(moved, 'Reorder outlines');
  };
  return (
    <>
      {shapes.length > 0 && (
        <ol className="flex max-h-40 flex-col gap-1 overflow-auto" aria-label="Outlines">
          {shapes.map((shape, k) => (
            <li
              key={shape.id}
              className={`flex items-center rounded-md border bg-white ${shape === chosen ? 'border-pine' : 'border-line'}`}
            >
              <button
                type="button"
                className="min-w-0 flex-1 truncate px-1.5 py-1 text-left text-[12px]"
                aria-pressed={shape === chosen}
                onClick={() => choose(shape.id)}
              >
                {k + 1} {howNames[shape.how]}
              </button>
              <IconButton label={`Outline ${k + 1} earlier`} disabled={k === 0} onClick={() => move(k, -1)}>
                <ChevronUp size={13} />
              </IconButton>
              <IconButton
                label={`Outline ${k + 1} later`}
                disabled={k === shapes.length - 1}
                onClick={() => move(k, 1)}
              >
                <ChevronDown size={13} />
              </IconButton>
              <IconButton
                label={shape.muted ? `Use outline ${k + 1} again` : `Leave outline ${k + 1} out`}
                onClick={() =>
                  changeShapes(
                    shapes.map((s) => (s === shape ? { ...s, muted: !s.muted } : s)),
                    shape.muted ? 'Use outline' : 'Mute outline',
                  )
                }
              >
                {shape.muted ? <EyeOff size={13} /> : <Eye size={13} />}
              </IconButton>
              <IconButton
                label={`Delete outline ${k + 1}`}
                onClick={() =>
                  changeShapes(
                    shapes.filter((s) => s !== shape),
                    'Remove outline',
                  )
                }
              >
                <Trash2 size={13} className="text-brick" />
              </IconButton>
            </li>
          ))}
        </ol>
      )}
      {chosen && <ChosenShape {...props} shape={chosen} />}
      <div className="grid grid-cols-2 gap-1.5">
        <SvgIn {...props} />
        <Button
          icon={<Download size={13} />}
          disabled={shapes.length === 0 || !session.pixels}
          className="px-1"
          onClick={() => {
            const { width, height } = session.pixels!.picture;
            download(
              new Blob(
                [
                  writeSvg(
                    shapes.filter((s) => !s.muted),
                    width,
                    height,
                  ),
                ],
                { type: 'image/svg+xml' },
              ),
              `${piece?.name ?? 'Outlines'}.svg`,
            );
          }}
        >
          SVG out
        </Button>
      </div>
    </>
  );
}

function ChosenShape({ shape, shapes, changeShapes, outline }: CutPanelProps & { shape: Shape }) {
  const change = (part: Partial<Shape>, name: string): void =>
    changeShapes(
      shapes.map((s) => (s.id === shape.id ? { ...s, ...part } : s)),
      name,
      `${name}-${shape.id}`,
    );
  const all = new Set(shape.path.points.keys());
  const points = outline.points.size > 0 ? outline.points : all;
  const reshape = (path: Path, name: string): void => change({ path }, name);
  return (
    <>
      <ChoiceBar
        label="How it joins"
        choices={hows}
        chosen={shape.how}
        hint="with what is above it"
        onChoose={(how) => change({ how }, 'Change outline')}
      />
      <NumberField
        label="Feather"
        unit="px"
        min={0}
        max={600}
        value={shape.feather}
        onChange={(feather) => change({ feather }, 'Feather')}
      />
      <NumberField
        label="Grow"
        unit="px"
        min={-200}
        max={200}
        value={shape.grow}
        onChange={(grow) => change({ grow }, 'Grow outline')}
      />
      <NumberField
        label="Opacity"
        unit="%"
        min={0}
        max={100}
        value={shape.opacity * 100}
        onChange={(v) => change({ opacity: v / 100 }, 'Outline opacity')}
      />
      <div className="grid grid-cols-2 gap-1.5">
        <Button className="px-1" onClick={() => reshape(smoothed(shape.path, points), 'Smooth points')}>
          Smooth
        </Button>
        <Button className="px-1" onClick={() => reshape(cornered(shape.path, points), 'Corner points')}>
          Corner
        </Button>
      </div>
      <Button onClick={() => reshape(smoothed(shape.path, all), 'Curve through points')}>
        Curve through my points
      </Button>
    </>
  );
}

/** Outlines from an SVG file join those that are there. */
function SvgIn({ session, shapes, changeShapes, setOutline, setTool }: CutPanelProps) {
  const take = async (file: File): Promise<void> => {
    const { width, height } = session.pixels!.picture;
    const read = readSvg(await file.text(), width, height);
    const made = read.map(({ path, how }): Shape => ({ ...plainShape, id: newId('shape'), path, how }));
    changeShapes([...shapes, ...made], 'Outlines from SVG');
    setOutline({ shape: made[0]!.id, points: new Set() });
    setTool('points');
  };
  return (
    <FileButton
      label="SVG file"
      accept=".svg,image/svg+xml"
      icon={<Upload size={13} />}
      className="px-1"
      disabled={!session.pixels}
      onFile={take}
    >
      SVG in
    </FileButton>
  );
}
