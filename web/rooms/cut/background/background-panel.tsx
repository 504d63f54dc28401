import { Brush, Eraser, Link2, MoveDiagonal, Sparkles, Stamp, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { padToRatio } from '../../../../core/rebuild/widen.ts';
import type { Document, Picture } from '../../../../core/document/document.ts';
import { boundsBefore, emptyGuides, type PlateStep } from '../../../../core/document/plate.ts';
import { padToCover } from '../../../../core/scene/seen.ts';
import { notify } from '../../../data/notices.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import { Chapters } from '../../../parts/chapters.tsx';
import { BrushSize, Slider } from '../../../parts/slider.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { useBackgroundTools, type BackgroundTool, type Chapter } from './background-tools.ts';

interface PanelProps {
  document: Document;
  picture: Picture;
  busy: boolean;
  /** Whether the background has transparent parts, which widening fills too. */
  transparent: boolean;
  onMake(): void;
  onBehind(change: Partial<Extract<PlateStep, { kind: 'behind' }>>): void;
}

const chapters: { id: Chapter; name: string; hint: string }[] = [
  { id: 'rebuild', name: 'Rebuild a region', hint: 'Paint over it; its surroundings go on' },
  { id: 'retouch', name: 'Retouch', hint: 'Small things gone, clone, heal' },
  { id: 'widen', name: 'Widen and level', hint: 'More picture past its borders' },
  { id: 'behind', name: 'Background behind pieces', hint: 'What lifting a piece uncovers' },
];

/** What can be done to a background, one chapter open at a time. */
export function BackgroundPanel(props: PanelProps) {
  const { chapter, set, clear } = useBackgroundTools();
  const behind = props.picture.background?.steps.find((s) => s.kind === 'behind');
  const bodies: Record<Chapter, ReactNode> = {
    rebuild: <RebuildTools {...props} />,
    retouch: <RetouchTools />,
    widen: <WidenTools {...props} />,
    behind: <BehindTools {...props} step={behind ?? null} />,
  };
  const open = (id: Chapter): void => {
    const tools: Record<Chapter, BackgroundTool | null> = {
      rebuild: 'region',
      retouch: 'gone',
      widen: null,
      behind: null,
    };
    const steps = props.picture.background?.steps ?? [];
    const behindStep = steps.find((s) => s.kind === 'behind');
    clear();
    set({ chapter: id, tool: tools[id] });
    if (id === 'behind' && behindStep) set({ step: behindStep.id, guides: behindStep.guides });
  };
  return (
    <aside className="flex flex-col gap-2 overflow-auto border-r border-line p-3" aria-label="Background tools">
      <h2 className="font-semibold">What should be there?</h2>
      <Chapters chapters={chapters} open={chapter} onOpen={open}>
        {bodies[chapter]}
      </Chapters>
    </aside>
  );
}

function ToolButton({
  tool,
  icon,
  children,
  shortcut,
  disabled,
}: {
  tool: BackgroundTool;
  icon: ReactNode;
  children: ReactNode;
  shortcut?: string;
  disabled?: boolean;
}) {
  const { tool: held, set } = useBackgroundTools();
  const pressed = held === tool;
  return (
    <button
      type="button"
      aria-pressed={pressed}
      disabled={disabled}
      title={shortcut ? `${String(children)} (${shortcut})` : String(children)}
      onClick={() => set({ tool: pressed ? null : tool })}
      className={`flex h-8 items-center gap-1.5 rounded-md border px-2 text-[13px] whitespace-nowrap disabled:opacity-45 ${pressed ? 'border-pine bg-pine text-white' : 'border-line bg-white hover:bg-paper-2'}`}
    >
      {icon}
      {children}
    </button>
  );
}

function ToolSize() {
  const { radius, set } = useBackgroundTools();
  return <BrushSize name="Size" radius={radius} onChange={(v) => set({ radius: v })} />;
}

function RebuildTools({ busy, onMake }: PanelProps) {
  const { region, guides, step, set, clear } = useBackgroundTools();
  const marks = guides.from.length + guides.never.length + guides.lines.length;
  return (
    <>
      <ToolButton tool="region" icon={<Brush size={14} />} shortcut="R">
        Paint over it
      </ToolButton>
      <ToolSize />
      <GuideTools />
      {region.length + marks > 0 && (
        <div className="flex items-center justify-between text-[12px] text-ink-2">
          <span>
            {region.length} {region.length === 1 ? 'stroke' : 'strokes'}, {marks} {marks === 1 ? 'guide' : 'guides'}
          </span>
          <IconButton label="Remove all marks" onClick={clear}>
            <Trash2 size={14} />
          </IconButton>
        </div>
      )}
      <Button look="primary" disabled={busy || region.length === 0} title="Rebuild (M)" onClick={onMake}>
        {step ? 'Rebuild again' : 'Rebuild'}
      </Button>
      {step && (
        <Button
          onClick={() => {
            clear();
            set({ tool: 'region' });
          }}
        >
          Paint another region
        </Button>
      )}
    </>
  );
}

/** Says where texture may come from, and what must run through. */
function GuideTools() {
  return (
    <>
      <h3 className="text-[12px] font-semibold text-ink-2">Guides, if the takes go wrong</h3>
      <div className="flex flex-wrap gap-1.5">
        <ToolButton tool="from" icon={<span aria-hidden>+</span>}>
          Sample from
        </ToolButton>
        <ToolButton tool="never" icon={<span aria-hidden>−</span>}>
          Never sample
        </ToolButton>
      </div>
      <ToolButton tool="line" icon={<Link2 size={14} />} shortcut="G">
        Line that runs through
      </ToolButton>
    </>
  );
}

export function RetouchTools() {
  const { tool, soft, source, set } = useBackgroundTools();
  const copies = tool === 'clone' || tool === 'heal';
  return (
    <>
      <ToolButton tool="gone" icon={<Eraser size={14} />} shortcut="B">
        Brush away
      </ToolButton>
      <div className="grid grid-cols-2 gap-1.5">
        <ToolButton tool="clone" icon={<Stamp size={14} />} shortcut="C">
          Clone
        </ToolButton>
        <ToolButton tool="heal" icon={<Sparkles size={14} />} shortcut="H">
          Heal
        </ToolButton>
      </div>
      <ToolSize />
      {copies && (
        <Slider
          label="Softness"
          value={Math.round(soft * 100)}
          max={100}
          shown={`${Math.round(soft * 100)} %`}
          onChange={(v) => set({ soft: v / 100 })}
        />
      )}
      <p className="text-[12px] text-ink-2">
        {copies
          ? source
            ? 'Paint; what lies beside the source comes over. Alt and a press take another source.'
            : 'Hold Alt and press where to copy from (or Alt Enter at the crosshair).'
          : 'Paint over letters, twigs, spots. Each stroke is gone as you let go.'}
      </p>
    </>
  );
}

const ratios = [
  { name: '16:9', ratio: 16 / 9 },
  { name: '3:2', ratio: 3 / 2 },
  { name: '1:1', ratio: 1 },
  { name: '9:16', ratio: 9 / 16 },
];

function WidenTools({ document, picture, busy, transparent, onMake }: PanelProps) {
  const { pad, step, set } = useBackgroundTools();
  // A step that is opened again counts from what was there before it.
  const bounds = boundsBefore(picture, step);
  const total = pad.left + pad.top + pad.right + pad.bottom;
  const cut = document.pieces.some((p) => p.picture === picture.id) || picture.background !== null;
  const toFrame = (): void => {
    const needed = padToCover(document, document.shots[0]!, picture.id, bounds);
    if (!needed) return notify('problem', 'This background hangs in no shot yet, so there is no frame to fill.');
    if (Object.values(needed).every((v) => v === 0))
      notify('done', 'The background covers the frame in the whole shot already.');
    set({ pad: needed });
  };
  return (
    <>
      <div className="grid grid-cols-4 gap-1.5">
        {ratios.map(({ name, ratio }) => (
          <Button
            key={name}
            className="px-0"
            onClick={() => set({ pad: padToRatio(bounds.width, bounds.height, ratio) })}
          >
            {name}
          </Button>
        ))}
      </div>
      <Button icon={<MoveDiagonal size={14} />} onClick={toFrame}>
        To what the frame shows
      </Button>
      {(['left', 'top', 'right', 'bottom'] as const).map((side) => (
        <NumberField
          key={side}
          label={`${side[0]!.toUpperCase()}${side.slice(1)}`}
          unit="px"
          min={0}
          max={8192}
          step={10}
          value={pad[side]}
          onChange={(v) => set({ pad: { ...pad, [side]: Math.round(v) } })}
        />
      ))}
      <Button look="primary" disabled={busy || (total === 0 && !transparent)} title="Widen (M)" onClick={onMake}>
        {step ? 'Widen again' : total === 0 && transparent ? 'Fill transparent parts' : 'Widen'}
      </Button>
      <h3 className="text-[12px] font-semibold text-ink-2">Level</h3>
      <ToolButton tool="level" icon={<span aria-hidden>∕</span>} disabled={busy || cut}>
        Draw along the horizon
      </ToolButton>
      <p className="text-[12px] text-ink-2">
        {cut
          ? 'Level a picture before anything is cut out of it; bring it in again to do so now.'
          : 'The picture turns until your line lies level, or upright along a mast; its corners are continued.'}
      </p>
    </>
  );
}

function BehindTools({
  document,
  picture,
  busy,
  onBehind,
  step,
}: PanelProps & { step: Extract<PlateStep, { kind: 'behind' }> | null }) {
  const { guides, set } = useBackgroundTools();
  if (!step)
    return (
      <p className="text-[12px] text-ink-2">Lift a piece out of this picture; what was behind it is rebuilt then.</p>
    );
  const photos = document.pictures.filter((p) => p.id !== picture.id);
  return (
    <>
      <label className="flex items-start gap-2 text-[13px]">
        <input
          type="checkbox"
          className="mt-0.5 accent-pine"
          checked={step.onlySeen}
          disabled={busy}
          onChange={(event) => onBehind({ onlySeen: event.target.checked })}
        />
        <span>
          Only what will be seen
          <span className="block text-[12px] text-ink-2">
            Rebuilds in full what the shot uncovers; faster for large pieces.
          </span>
        </span>
      </label>
      <label className="text-[13px]">
        From
        <select
          aria-label="Where the background comes from"
          className="mt-1 w-full rounded-md border border-line bg-white px-2 py-1 text-[13px]"
          value={step.photo ?? ''}
          disabled={busy}
          onChange={(event) => onBehind({ photo: event.target.value || null })}
        >
          <option value="">its surroundings</option>
          {photos.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}, laid over it
            </option>
          ))}
        </select>
      </label>
      {!step.photo && (
        <>
          <GuideTools />
          <div className="grid grid-cols-2 gap-1.5">
            <Button disabled={busy} title="Rebuild with these guides (M)" onClick={() => onBehind({ guides })}>
              Rebuild
            </Button>
            <Button disabled={busy} onClick={() => set({ guides: emptyGuides })}>
              Clear guides
            </Button>
          </div>
        </>
      )}
      {photos.length === 0 && (
        <p className="text-[12px] text-ink-2">
          A second photo of the place without the subject can be used: bring it into this project.
        </p>
      )}
    </>
  );
}
