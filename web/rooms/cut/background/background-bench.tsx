import { Scissors } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { pictureOfBackground } from '../../../../core/edits/plate-edits.ts';
import type { Document, Picture, Piece } from '../../../../core/document/document.ts';
import { type PlateOrder, type PlateStep } from '../../../../core/document/plate.ts';
import { levellingAngle, noPad } from '../../../../core/rebuild/widen.ts';
import { newId, useProject } from '../../../data/project.ts';
import { Button } from '../../../parts/button.tsx';
import { SignedStrokes, WideStroke, type BrushStroke } from '../../../parts/brush.tsx';
import { ChoiceBar } from '../../../parts/choices.tsx';
import { steppedRadius } from '../../../parts/slider.tsx';
import { isControl, useKeys } from '../../../parts/keys.ts';
import { WorkingOver } from '../../../parts/working.tsx';
import { placedPlate, useImages } from '../use-images.ts';
import { PieceList } from '../piece-list.tsx';
import { BackgroundPanel } from './background-panel.tsx';
import { brushes, touchNames, touchOf, useBackgroundTools, type BackgroundTool } from './background-tools.ts';
import { usePlateSession } from './plate-session.ts';
import { GuideMark, PlateView, type PlateLook } from './plate-view.tsx';
import { StepList } from './step-list.tsx';
import { TakeStrip } from './take-strip.tsx';

const looks: { id: PlateLook; name: string }[] = [
  { id: 'background', name: 'Background' },
  { id: 'picture', name: 'Picture' },
  { id: 'wipe', name: 'Wipe' },
];

interface BenchProps {
  document: Document;
  picture: Picture;
  pieces: Piece[];
}

/** Where a picture's background is made: rebuilt, widened, retouched. */
export function BackgroundBench({ document, picture, pieces }: BenchProps) {
  const tools = useBackgroundTools();
  const session = usePlateSession(picture);
  const [look, setLook] = useState<PlateLook>('background');
  const steps = picture.background?.steps ?? [];
  const bitmaps = useImages(placedPlate(picture), picture.file);
  const transparent = useMemo(() => bitmaps !== null && hasTransparency(bitmaps.plate), [bitmaps]);
  const busy = session.activity !== null;
  const open = steps.find((s) => s.id === tools.step) ?? null;
  const shownStep = open ?? (session.live ? null : (steps.at(-1) ?? null));

  // Marks and an open step belong to the picture they were made on.
  const { clear } = tools;
  useEffect(() => clear, [picture.id, clear]);

  const actions = useActions(steps, open, session, transparent);
  useToolKeys(actions.make, setLook, look);

  const brush = tools.tool && brushes[tools.tool];
  // Further takes come in below; the view keeps what is chosen until another one is.
  const first = session.live && !steps.some((s) => s.id === session.live!.step) ? session.live.takes[0] : undefined;
  const preview = first?.preview ?? null;
  const showsPad = tools.chapter === 'widen' && Object.values(tools.pad).some((v) => v > 0) && !open;
  return (
    <div className="grid h-full grid-cols-[232px_1fr_224px]">
      <BackgroundPanel
        document={document}
        picture={picture}
        busy={busy}
        transparent={transparent}
        onMake={actions.make}
        onBehind={actions.behind}
      />
      <section className="flex min-w-0 flex-col" aria-label="Background">
        <div className="relative min-h-0 flex-1">
          {bitmaps ? (
            <PlateView
              plate={bitmaps.plate}
              bounds={bitmaps.bounds}
              picture={bitmaps.picture}
              look={look}
              pad={tools.chapter === 'widen' && !open ? tools.pad : null}
              onPad={(pad) => tools.set({ pad })}
              preview={tools.chapter === 'widen' && !showsPad ? null : preview}
              tool={
                busy || look === 'picture'
                  ? null
                  : brush
                    ? { kind: 'brush', ...brush }
                    : tools.tool
                      ? { kind: 'line' }
                      : null
              }
              radius={tools.radius}
              onStroke={actions.stroke}
              onLine={actions.line}
              onSource={(source) => tools.set({ source, offset: null })}
            >
              {(scale) => <Marks scale={scale} />}
            </PlateView>
          ) : (
            <div className="h-full bg-field" />
          )}
          <WorkingOver activity={session.activity} />
        </div>
        <TakeStrip
          step={shownStep?.kind === 'retouch' ? null : (shownStep ?? null)}
          live={session.live?.takes ?? []}
          busy={busy}
          onChoose={(seed) => shownStep && actions.choose(shownStep, seed)}
          onMore={() => shownStep && session.more(shownStep)}
          mixing={tools.mixing}
          onMix={(seed) => tools.set({ mixing: seed, tool: seed === null ? null : 'mix', step: shownStep?.id ?? null })}
        />
        <LookRow look={look} setLook={setLook} />
      </section>
      <PieceList document={document} picture={picture} pieces={pieces} piece={null} background>
        <StepList steps={steps} open={open?.id ?? null} busy={busy} onOpen={actions.open} onRemove={actions.remove} />
        {steps.length > 0 && <CutFromThis picture={picture} busy={busy} />}
      </PieceList>
    </div>
  );
}

/** A background that was made whole is a picture to cut things out of. */
function CutFromThis({ picture, busy }: { picture: Picture; busy: boolean }) {
  const { id, dispatch } = useProject();
  const navigate = useNavigate();
  const cut = (): void => {
    const made = newId('picture');
    dispatch(pictureOfBackground(picture.id, made));
    void navigate(`/project/${id}/cut/${made}`);
  };
  return (
    <div className="p-3">
      <Button
        className="w-full"
        icon={<Scissors size={14} />}
        disabled={busy}
        title="Makes a picture of the background as it is now"
        onClick={cut}
      >
        Cut from this background
      </Button>
    </div>
  );
}

/** Looks at a small copy: borders left by turning or by another program are wider than a few pixels. */
function hasTransparency(bitmap: ImageBitmap): boolean {
  const canvas = new OffscreenCanvas(Math.min(400, bitmap.width), Math.min(400, bitmap.height));
  const context = canvas.getContext('2d')!;
  context.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
  for (let i = 3; i < data.length; i += 4) if (data[i]! < 250) return true;
  return false;
}

function useActions(
  steps: PlateStep[],
  open: PlateStep | null,
  session: ReturnType<typeof usePlateSession>,
  transparent: boolean,
) {
  const tools = useBackgroundTools();
  const { region, guides, pad, tool, mixing } = tools;
  const replace = (name: string, changed: PlateStep): void =>
    session.change(
      name,
      steps.map((s) => (s.id === changed.id ? changed : s)),
      steps.findIndex((s) => s.id === changed.id),
    );

  const make = (): void => {
    if (session.activity) return;
    if (tools.chapter === 'rebuild' && region.length > 0) {
      if (open?.kind === 'rebuild') return replace('Rebuild again', { ...open, region, guides, takes: [], mix: [] });
      const order: PlateOrder = { kind: 'rebuild', id: newId('step'), seed: 1, mix: [], region, guides };
      session.make(order, 'Rebuild');
      tools.set({ step: order.id, tool: null });
    } else if (tools.chapter === 'behind' && open?.kind === 'behind') {
      replace('Rebuild with guides', { ...open, guides, takes: [], mix: [] });
    } else if (tools.chapter === 'widen') {
      // Without a border this fills what is transparent; a whole plate is left as it is.
      if (Object.values(pad).every((v) => v === 0) && !transparent) return;
      if (open?.kind === 'widen') return replace('Widen again', { ...open, pad, takes: [], mix: [] });
      const order: PlateOrder = { kind: 'widen', id: newId('step'), seed: 1, mix: [], pad };
      session.make(order, 'Widen');
      // The borders are added; the next ones are counted from the new plate.
      tools.set({ tool: null, pad: noPad });
    }
  };

  const stroke = (drawn: BrushStroke): void => {
    if (tool === 'region') tools.set({ region: [...region, drawn] });
    else if (tool === 'from' || tool === 'never')
      tools.set({ guides: { ...guides, [tool]: [...guides[tool], drawn] } });
    else if (tool === 'mix') paintTakeIn(drawn);
    else {
      const touch = touchOf(tools, drawn);
      if (!touch) return;
      session.make({ kind: 'retouch', id: newId('step'), touches: [touch] }, touchNames[touch.kind]);
      // A kept hand on the brush is the point of it: the next stroke needs no other press.
      tools.set({ step: null });
    }
  };
  const paintTakeIn = (drawn: BrushStroke): void => {
    if (!open || !('mix' in open) || mixing === null) return;
    const last = open.mix.at(-1);
    const mix =
      last?.seed === mixing
        ? [...open.mix.slice(0, -1), { seed: mixing, strokes: [...last.strokes, drawn] }]
        : [...open.mix, { seed: mixing, strokes: [drawn] }];
    replace('Paint take in', { ...open, mix });
  };

  return {
    make,
    stroke,
    line: (from: [number, number], to: [number, number]): void => {
      if (tool === 'line') tools.set({ guides: { ...guides, lines: [...guides.lines, { from, to }] } });
      else if (tool === 'level') {
        tools.set({ tool: null });
        session.level(levellingAngle(from, to));
      }
    },
    choose: (step: PlateStep, seed: number): void => {
      if ('takes' in step && step.seed !== seed) replace('Choose take', { ...step, seed, mix: [] });
    },
    behind: (change: Partial<Extract<PlateStep, { kind: 'behind' }>>): void => {
      const step = steps.find((s) => s.kind === 'behind');
      if (step) replace('Change what is behind', { ...step, ...change, takes: [], mix: [] });
    },
    remove: (id: string): void => {
      const index = steps.findIndex((s) => s.id === id);
      session.change(
        'Delete step',
        steps.filter((s) => s.id !== id),
        index,
      );
      if (tools.step === id) tools.clear();
    },
    open: (id: string): void => {
      const step = steps.find((s) => s.id === id)!;
      if (tools.step === id) return tools.clear();
      if (step.kind === 'rebuild')
        tools.set({ step: id, chapter: 'rebuild', tool: 'region', region: step.region, guides: step.guides });
      else if (step.kind === 'widen') tools.set({ step: id, chapter: 'widen', tool: null, pad: step.pad });
      else if (step.kind === 'behind') tools.set({ step: id, chapter: 'behind', tool: null, guides: step.guides });
      else tools.set({ step: id, chapter: 'retouch', tool: 'gone' });
    },
  };
}

function useToolKeys(make: () => void, setLook: (look: PlateLook) => void, look: PlateLook): void {
  const { radius, chapter, set } = useBackgroundTools();
  const hold = (chapter: 'rebuild' | 'retouch', tool: BackgroundTool): void => set({ chapter, tool, mixing: null });
  useKeys((event) => {
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    const key = event.key.toLowerCase();
    if (key === 'r') hold('rebuild', 'region');
    else if (key === 'g') set({ chapter: chapter === 'behind' ? 'behind' : 'rebuild', tool: 'line', mixing: null });
    else if (key === 'b') hold('retouch', 'gone');
    else if (key === 'c') hold('retouch', 'clone');
    else if (key === 'h') hold('retouch', 'heal');
    else if (key === 'w') set({ chapter: 'widen', tool: null });
    else if (key === 'm') make();
    else if (key === 'v') setLook(looks[(looks.findIndex((l) => l.id === look) + 1) % looks.length]!.id);
    else if (key === '[' || key === ']') set({ radius: steppedRadius(key, radius)! });
    else if (key === 'escape' && !isControl(event)) set({ tool: null, mixing: null });
  });
}

/** The painted region hatched by its strokes, guides and the copying source. */
function Marks({ scale }: { scale: number }) {
  const { chapter, region, guides, source, offset, tool } = useBackgroundTools();
  // Once something was made of it, the region would hide what came out.
  const painting = tool === 'region' || tool === 'from' || tool === 'never' || tool === 'line';
  return (
    <>
      {(chapter === 'rebuild' || chapter === 'behind') && (
        <>
          {painting && region.map((s, k) => <WideStroke key={k} stroke={s} colour="#44648a" opacity={0.45} />)}
          {[...guides.from, ...guides.never].map((s, k) => (
            <WideStroke key={k} stroke={s} colour="#44648a" opacity={0.2} />
          ))}
          <SignedStrokes strokes={guides.from} sign="plus" scale={scale} />
          <SignedStrokes strokes={guides.never} sign="minus" scale={scale} />
          {guides.lines.map((l, k) => (
            <GuideMark key={k} from={l.from} to={l.to} scale={scale} />
          ))}
        </>
      )}
      {(tool === 'clone' || tool === 'heal') && source && (
        <path
          d={`M${source[0] - 9 / scale} ${source[1]}h${18 / scale}M${source[0]} ${source[1] - 9 / scale}v${18 / scale}`}
          stroke={offset ? '#d99a00' : '#f5f2eb'}
          strokeWidth={2 / scale}
        />
      )}
    </>
  );
}

function LookRow({ look, setLook }: { look: PlateLook; setLook(look: PlateLook): void }) {
  return (
    <div className="flex h-11 shrink-0 items-center gap-3 border-t border-line px-3">
      <ChoiceBar label="How to look at it" choices={looks} chosen={look} hint="V for the next" onChoose={setLook} />
      <span className="ml-auto truncate text-[12px] text-ink-2">Wheel zooms, 0 fits, 1, 2, 4 are 100, 200, 400 %</span>
    </div>
  );
}
