import { Columns3 } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { Edit } from '../../../../core/edits/edit.ts';
import {
  cutAlongLines,
  cutIntoStrips,
  cutIntoTiles,
  type Strips,
  type Tiles,
} from '../../../../core/edits/strip-edits.ts';
import { useProject } from '../../../data/project.ts';
import { Button } from '../../../parts/button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import { useStage } from '../stage-state.ts';
import type { LayerPart } from './place.tsx';
import { Section } from './section.tsx';
import { ToolRow } from './tool-row.tsx';

type Into = 'strips' | 'tiles' | 'lines';

/** Cuts a picture into strips, tiles, or along drawn lines, each part a layer of its own; all of them are selected then. */
export function StripsSection({ shot, layer }: LayerPart) {
  const { dispatch } = useProject();
  const { select, cutLines } = useStage();
  const [into, setInto] = useState<Into>('strips');
  const [strips, setStrips] = useState<Strips>({ count: 5, angle: 90, uneven: 0.3, seed: 1 });
  const [tiles, setTiles] = useState<Tiles>({ columns: 4, rows: 3, uneven: 0, seed: 1 });
  const [shadow, setShadow] = useState(false);
  // Lines are drawn for one layer.
  useEffect(() => () => useStage.setState({ cutLines: [] }), [layer.id]);
  const field = (label: string, value: number, set: (v: number) => void, limits: object) => (
    <NumberField label={label} value={value} disabled={layer.locked} onChange={set} {...limits} />
  );
  const whole = (set: (v: number) => void) => (v: number) => set(Math.round(v));
  const cuts: Record<Into, () => Edit> = {
    strips: () => cutIntoStrips(shot.id, layer.id, strips, shadow),
    tiles: () => cutIntoTiles(shot.id, layer.id, tiles, shadow),
    lines: () => cutAlongLines(shot.id, layer.id, cutLines, shadow),
  };
  const cut = (): void => {
    const before = new Set(shot.layers.map((l) => l.id));
    dispatch(cuts[into]());
    const now = useProject.getState().document?.shots.find((s) => s.id === shot.id)?.layers ?? [];
    useStage.setState({ tool: 'move', cutLines: [] });
    select({ kind: 'layers', ids: now.map((l) => l.id).filter((id) => id === layer.id || !before.has(id)) });
  };
  return (
    <Section name="Cut apart">
      <SmallSelect<Into>
        label="Into"
        value={into}
        options={[
          { value: 'strips', name: 'strips' },
          { value: 'tiles', name: 'tiles' },
          { value: 'lines', name: 'along drawn lines' },
        ]}
        disabled={layer.locked}
        onChange={setInto}
      />
      {into === 'strips' && (
        <>
          {field(
            'Strips',
            strips.count,
            whole((count) => setStrips({ ...strips, count })),
            { min: 2, max: 40 },
          )}
          {field('Cuts run at', strips.angle, (angle) => setStrips({ ...strips, angle }), { unit: '°' })}
        </>
      )}
      {into === 'tiles' && (
        <>
          {field(
            'Columns',
            tiles.columns,
            whole((columns) => setTiles({ ...tiles, columns })),
            { min: 1, max: 12 },
          )}
          {field(
            'Rows',
            tiles.rows,
            whole((rows) => setTiles({ ...tiles, rows })),
            { min: 1, max: 12 },
          )}
        </>
      )}
      {into === 'lines' ? (
        <>
          <ToolRow
            label={cutLines.length === 1 ? 'One line' : `${cutLines.length} lines`}
            tool="cut"
            name="Draw"
            disabled={layer.locked}
            after={<span className="size-6" />}
          />
          <p className="text-[12px] text-ink-2">Drag lines across the picture; each cuts all the way through.</p>
        </>
      ) : (
        <>
          {field(
            'Unevenness',
            (into === 'strips' ? strips : tiles).uneven * 100,
            (v) =>
              into === 'strips' ? setStrips({ ...strips, uneven: v / 100 }) : setTiles({ ...tiles, uneven: v / 100 }),
            { unit: '%', min: 0, max: 100, step: 5 },
          )}
          {field(
            'Seed',
            (into === 'strips' ? strips : tiles).seed,
            whole((seed) => (into === 'strips' ? setStrips({ ...strips, seed }) : setTiles({ ...tiles, seed }))),
            { min: 0, max: 99999 },
          )}
        </>
      )}
      <SwitchRow label="Shadow under each" on={shadow} disabled={layer.locked} onChange={setShadow} />
      <Button
        icon={<Columns3 size={14} />}
        disabled={layer.locked || (into === 'lines' && cutLines.length === 0)}
        title="Each part becomes a layer; together they lie as the picture did"
        onClick={cut}
      >
        {{ strips: 'Cut into strips', tiles: 'Cut into tiles', lines: 'Cut along the lines' }[into]}
      </Button>
    </Section>
  );
}
