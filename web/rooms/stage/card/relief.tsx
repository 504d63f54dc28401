import { Download, FileInput, Layers, PaintRoller, Trash2, WandSparkles } from 'lucide-react';
import { useState } from 'react';
import { fillBehind } from '../../../../core/edits/depth-edits.ts';
import { setLayer } from '../../../../core/edits/layer-edits.ts';
import type { Relief } from '../../../../core/document/layer.ts';
import { hangSlices } from '../../../../core/edits/slice-edit.ts';
import { behindOf } from '../../../../core/scene/warps.ts';
import { pixelsOf } from '../../../../core/scene/source-pixels.ts';
import { fileUrl, uploadPixels } from '../../../data/api.ts';
import { storedSlices } from '../../../data/stored-plate.ts';
import { notify, notifyError } from '../../../data/notices.ts';
import { useProject } from '../../../data/project.ts';
import { Button } from '../../../parts/button.tsx';
import { ChoiceBar } from '../../../parts/choices.tsx';
import { download } from '../../../parts/download.ts';
import { FileButton } from '../../../parts/file-button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { BrushSize } from '../../../parts/slider.tsx';
import { Working, type Activity } from '../../../parts/working.tsx';
import { guessDepth, readDepth, rebuildBehind, sliceDepth } from '../../../workers/depth-client.ts';
import { useStage } from '../stage-state.ts';
import type { LayerPart } from './place.tsx';
import { Section } from './section.tsx';

const flat: Relief = { file: null, near: 0.7, far: 2, strokes: [], behind: null };

/** A picture that is not cut: its depth is drawn, or comes from elsewhere, and it moves pixel by pixel or in slices. */
export function ReliefSection(part: LayerPart) {
  const { document, shot, layer } = part;
  const { dispatch } = useProject();
  const { tool, setTool, closeness, depthBrush } = useStage();
  const { source, relief, locked } = layer;
  const [guessing, setGuessing] = useState(false);
  if (source.kind !== 'picture' && source.kind !== 'background') return null;
  if (document.pictures.find((p) => p.id === source.picture)?.clip) return null;
  const set = (change: Partial<Relief>): void =>
    dispatch(setLayer('Change depth map', shot.id, layer.id, { relief: { ...(relief ?? flat), ...change } }));
  const takeIn = async (file: File): Promise<void> => {
    const map = await readDepth(await file.arrayBuffer()).answer;
    if (map) set({ file: await uploadPixels(map.map), strokes: [] });
  };
  const guess = async (): Promise<void> => {
    const file = pixelsOf(document, source)?.file;
    if (!file) return;
    setGuessing(true);
    try {
      const map = await guessDepth(file).answer;
      if (map) set({ file: await uploadPixels(map.map), strokes: [] });
    } finally {
      setGuessing(false);
    }
  };
  const takeOut = async (): Promise<void> => {
    const answer = await fetch(fileUrl(relief!.file!));
    download(await answer.blob(), `${layer.name} depth.png`);
  };
  return (
    <Section name="Depth map" note={relief?.file ? 'drawn' : null}>
      <Button
        aria-pressed={tool === 'depth'}
        disabled={locked}
        className={tool === 'depth' ? '!border-pine !bg-white !text-pine' : ''}
        title="Paint a few strokes over what is near and what is far; the rest is found between them"
        onClick={() => setTool(tool === 'depth' ? 'move' : 'depth')}
      >
        Paint near and far
      </Button>
      <Button
        icon={<WandSparkles size={14} />}
        disabled={locked || guessing}
        title="Found from the picture alone: its ground, its haze, what is sharp, and what stands in front"
        onClick={() => void guess().catch((error: unknown) => notifyError(error))}
      >
        {guessing ? 'Looking at the picture' : 'Guess near and far'}
      </Button>
      {tool === 'depth' && (
        <>
          <ChoiceBar
            label="Strokes say"
            hint="what the next stroke says"
            choices={[
              { id: '1', name: 'Near' },
              { id: '0.5', name: 'Middle' },
              { id: '0', name: 'Far' },
            ]}
            chosen={String(closeness)}
            onChoose={(value) => useStage.setState({ closeness: Number(value) })}
          />
          <BrushSize
            name="Depth brush size"
            radius={depthBrush}
            onChange={(radius) => useStage.setState({ depthBrush: radius })}
          />
          {(relief?.strokes.length ?? 0) > 0 && (
            <p className="text-[12px] text-ink-2">
              {relief!.strokes.length === 1 ? 'One stroke' : `${relief!.strokes.length} strokes`}. Ctrl Z takes the last
              one back.
            </p>
          )}
        </>
      )}
      {relief && (
        <>
          <NumberField
            label="Nearest at"
            unit="%"
            min={5}
            max={100}
            value={relief.near * 100}
            disabled={locked}
            onChange={(v) => set({ near: v / 100 })}
          />
          <NumberField
            label="Farthest at"
            unit="%"
            min={100}
            max={5000}
            value={relief.far * 100}
            disabled={locked}
            onChange={(v) => set({ far: v / 100 })}
          />
        </>
      )}
      <div className="flex gap-1">
        <FileButton
          label="Depth map from a file"
          accept="image/png"
          icon={<FileInput size={14} />}
          className="flex-1"
          disabled={locked}
          onFile={takeIn}
        >
          Import
        </FileButton>
        <Button
          className="flex-1"
          icon={<Download size={14} />}
          disabled={!relief?.file}
          title="A 16-bit grey PNG, white nearest"
          onClick={() => void takeOut().catch((error: unknown) => notifyError(error))}
        >
          Export
        </Button>
        <Button
          look="danger"
          className="!px-2"
          aria-label="Delete depth map"
          disabled={!relief || locked}
          onClick={() => dispatch(setLayer('Delete depth map', shot.id, layer.id, { relief: null }))}
        >
          <Trash2 size={14} />
        </Button>
      </div>
      {relief?.file && <FillOpens {...part} />}
      {relief?.file && <Slices {...part} />}
    </Section>
  );
}

/** Something long that is being computed, how far it is, and an end of it that is told. */
function useWork() {
  const [work, setWork] = useState<Activity | null>(null);
  return {
    work,
    begin: (doing: string, cancel: () => void) => setWork({ doing, share: 0, cancel }),
    follow: (doing: string, share: number) => setWork((before) => before && { ...before, doing, share }),
    run: (job: () => Promise<void>) =>
      void job()
        .catch(notifyError)
        .finally(() => setWork(null)),
  };
}

/** What comes to light behind things as the lens moves: rebuilt, or as long as it is not, stretched over. */
function FillOpens({ document, shot, layer }: LayerPart) {
  const { dispatch } = useProject();
  const { work, follow, begin, run } = useWork();
  const pixels = pixelsOf(document, layer.source);
  const { behind, file } = layer.relief!;
  const filled = pixels && behindOf(layer.relief!, pixels.file) !== null;
  const fill = async (): Promise<void> => {
    const of = { picture: pixels!.file, map: file! };
    const job = rebuildBehind(of.picture, of.map, follow);
    begin('Looking for what opens', job.cancel);
    const made = await job.answer;
    if (!made) return;
    if (!made.behind) return notify('done', 'Nothing opens: by this depth map nothing stands before anything else.');
    const [picture, depth] = await Promise.all([made.behind.picture, made.behind.depth].map(uploadPixels));
    dispatch(fillBehind(shot.id, layer.id, { picture: picture!, depth: depth!, of }));
  };
  return (
    <>
      {behind && (
        <p className="text-[12px] text-ink-2">
          {filled ? 'What opens behind things is filled.' : 'The depth map was changed since what opens was filled.'}
        </p>
      )}
      {work ? (
        <Working doing={work.doing} share={work.share} onCancel={work.cancel} />
      ) : filled ? (
        <Button
          disabled={layer.locked}
          title="Shows the picture drawn out over what opens, as before"
          onClick={() =>
            dispatch(setLayer('Stretch what opens', shot.id, layer.id, { relief: { ...layer.relief!, behind: null } }))
          }
        >
          Stretch what opens
        </Button>
      ) : (
        <Button
          icon={<PaintRoller size={14} />}
          disabled={layer.locked || pixels?.x !== 0 || pixels.y !== 0}
          title="Rebuilds what comes to light behind things as the lens moves; until then the picture is stretched over it"
          onClick={() => run(fill)}
        >
          Fill what opens
        </Button>
      )}
    </>
  );
}

/** Cuts the picture into layers by its depth map, each whole behind those before it. */
function Slices({ document, shot, layer }: LayerPart) {
  const { dispatch } = useProject();
  const { select } = useStage();
  const [count, setCount] = useState(3);
  const { work, follow, begin, run } = useWork();
  const pixels = pixelsOf(document, layer.source);
  const slice = async (): Promise<void> => {
    const job = sliceDepth(pixels!.file, layer.relief!.file!, count, false, follow);
    begin('Slicing', job.cancel);
    const made = await job.answer;
    if (!made) return;
    const { slices, background } = await storedSlices(made);
    dispatch(hangSlices(shot.id, layer.id, slices, background));
    select({ kind: 'layers', ids: slices.map((s) => s.layer) });
  };
  return (
    <>
      <NumberField label="Layers" min={2} max={8} value={count} onChange={(v) => setCount(Math.round(v))} />
      {work ? (
        <Working doing={work.doing} share={work.share} onCancel={work.cancel} />
      ) : (
        <Button
          icon={<Layers size={14} />}
          disabled={layer.locked || pixels?.x !== 0 || pixels.y !== 0}
          title="A layer for each band of distance, with what is behind it rebuilt; this one is hidden"
          onClick={() => run(slice)}
        >
          Slice into layers
        </Button>
      )}
    </>
  );
}
