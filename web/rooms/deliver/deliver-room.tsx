import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import type { Document } from '../../../core/document/document.ts';
import { loopLength, type FrameRange } from '../../../core/scene/loop.ts';
import { projectLength } from '../../../core/scene/sequence.ts';
import { exportFormatIds, exportFormats, type ExportFormat } from '../../../core/formats/exports.ts';
import { queueExport, timeLeft, useExports } from '../../data/exports.ts';
import { useDocument, useProject } from '../../data/project.ts';
import { useMix } from '../../sound/use-mix.ts';
import { Button } from '../../parts/button.tsx';
import { ChoiceCards } from '../../parts/choices.tsx';
import { sizeOf } from '../../parts/file-size.ts';
import { NumberField } from '../../parts/number-field.tsx';
import { PaintedCanvas } from '../../parts/painted-canvas.tsx';
import { RadioButton, Radios } from '../../parts/radios.tsx';
import { SwitchRow } from '../../parts/switch-row.tsx';
import { Working } from '../../parts/working.tsx';
import { useZoom } from '../../parts/zoom.ts';
import { MainAction } from '../main-action.tsx';
import { usePlayback } from '../stage/playback.ts';
import { useFrameNow, useStage } from '../stage/stage-state.ts';
import { sizesFor } from './formats.ts';
import { useEstimate, type Estimate } from './use-estimate.ts';
import { Outputs, Waiting } from './outputs.tsx';
import { SeamView } from './seam-view.tsx';

/** The clip in its loop, what it can become, and what was made before. */
export function DeliverRoom() {
  const document = useDocument();
  const length = projectLength(document);
  // With several shots a work area belongs to one of them; the clip is all of them.
  const area = document.shots.length === 1 ? document.shots[0]!.workArea : null;
  const [onlyArea, setOnlyArea] = useState(true);
  const range = area && onlyArea ? { first: area.first, end: Math.min(length, area.end) } : { first: 0, end: length };
  const clipLength = loopLength(document, range);
  const { id } = useProject();
  const [format, setFormat] = useState<ExportFormat>('mp4');
  const [edge, setEdge] = useState<number | null>(null);
  const [poster, setPoster] = useState(0);
  const { running } = useExports();
  const { still, mostRate, fits, clearable, name: formatName } = exportFormats[format];
  const [limited, setLimited] = useState(false);
  const [clear, setClear] = useState(false);
  const [withSound, setWithSound] = useState(true);
  const heard = document.sounds.some(({ muted }) => !muted) && exportFormats[format].sound;
  const [atMost, setAtMost] = useState(500);

  const sizes = sizesFor(document, format);
  const size = sizes.find((s) => s.edge === edge) ?? sizes[0]!;
  const only = still ? Math.min(poster, clipLength - 1) : null;
  const rate = Math.min(mostRate ?? document.frame.rate, document.frame.rate);
  const limit = fits && limited ? atMost * 1000 : null;
  const { width, height } = size;
  const order = { document, ...range, format, width, height, rate, only, limit, clear, sound: withSound };
  const make = (): void => {
    const name = only === null ? document.name : `${document.name} frame ${only}`;
    // The loop would take half of what the export needs.
    useStage.getState().setPlaying(false);
    queueExport(id!, name, order);
  };
  const empty = document.shots.every((shot) => shot.layers.length === 0);
  const estimate = useEstimate(
    empty || running ? null : order,
    [range.first, range.end, format, width, height, rate, only, clear, withSound].join(' '),
  );
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_340px]">
      <MainAction>
        <Button look="primary" disabled={empty} onClick={make}>
          Export {formatName}
        </Button>
      </MainAction>
      <section className="relative flex min-h-0 flex-col" aria-label="Clip">
        <LoopingClip document={document} range={range} still={still ? poster : null} heard={heard && withSound} />
        {empty && (
          <p className="absolute inset-x-0 top-1/2 text-center text-[13px] text-white">
            Nothing hangs on the{' '}
            <Link to="../stage" className="underline">
              Stage
            </Link>{' '}
            yet, so there is nothing to export.
          </p>
        )}
        {running && (
          <div className="absolute inset-x-0 bottom-4 flex justify-center">
            <Working
              doing={`Making ${exportFormats[running.wanted.format].name}${running.project === id ? '' : ` of ${running.name}`}`}
              share={running.done / running.total}
              detail={timeLeft(running)}
              onCancel={running.cancel}
            />
          </div>
        )}
      </section>
      <aside className="flex min-h-0 flex-col gap-4 overflow-auto border-l border-line p-4" aria-label="Export">
        <div>
          <h2 className="mb-1.5 font-semibold">What is it for?</h2>
          <ChoiceCards<ExportFormat>
            label="What for"
            many
            choices={exportFormatIds.map((id) => ({
              id,
              name: exportFormats[id].purpose,
              hint: exportFormats[id].hint,
              mark: exportFormats[id].name,
            }))}
            chosen={format}
            onChoose={setFormat}
          />
        </div>
        <div>
          <h2 className="mb-1 font-semibold">Size</h2>
          <Radios label="Size" chosen={size.edge} onChoose={setEdge} className="flex flex-wrap gap-1.5">
            {sizes.map((s) => (
              <RadioButton
                key={s.edge}
                value={s.edge}
                className={`rounded-md border px-2 py-1 font-mono text-[12px] ${s.edge === size.edge ? 'border-pine bg-white text-pine' : 'border-line hover:bg-paper-2'}`}
              >
                {s.width} × {s.height}
              </RadioButton>
            ))}
          </Radios>
          <SizeSaid estimate={estimate} limit={limit} />
          {still && (
            <div className="mt-2">
              <NumberField
                label="Frame"
                value={poster}
                min={0}
                max={clipLength - 1}
                onChange={(v) => setPoster(Math.round(v))}
              />
            </div>
          )}
        </div>
        {fits && (
          <div>
            <SwitchRow
              label="Limit the file size"
              hint="Gives up quality first, then frames per second, then pixels, and says so"
              on={limited}
              onChange={setLimited}
            />
            {limited && (
              <>
                <NumberField label="At most" unit="KB" min={20} max={500_000} value={atMost} onChange={setAtMost} />
                <input
                  type="range"
                  aria-label="At most, by eye"
                  className="w-full"
                  min={0}
                  max={100}
                  value={Math.round((100 * Math.log10(atMost / 50)) / 3)}
                  onChange={(event) => setAtMost(roundSize(50 * 10 ** ((3 * Number(event.target.value)) / 100)))}
                />
              </>
            )}
          </div>
        )}
        {clearable && (
          <SwitchRow
            label="See-through ground"
            hint="Where no layer is, what lies behind shows; each pixel is there or not, so soft edges become hard"
            on={clear}
            onChange={setClear}
          />
        )}
        {heard && (
          <SwitchRow label="Sound" hint="What is heard under the shots" on={withSound} onChange={setWithSound} />
        )}
        {!still && !empty && (
          <div>
            <h2 className="mb-1 font-semibold">Seam</h2>
            <SeamView document={document} range={range} />
          </div>
        )}
        {area && (
          <SwitchRow
            label="Only the work area"
            hint="Plays and exports the frames between the marks on the ruler of the Stage"
            on={onlyArea}
            onChange={setOnlyArea}
          />
        )}
        <Waiting />
        <Outputs project={id!} />
      </aside>
    </div>
  );
}

/** How large the file will be. */
function SizeSaid({ estimate, limit }: { estimate: Estimate; limit: number | null }) {
  const problem = estimate && typeof estimate === 'object' && 'problem' in estimate;
  return (
    <p className={`mt-1.5 min-h-5 text-[13px] ${problem ? 'text-brick' : 'text-ink-2'}`} data-testid="estimate">
      {sizeInWords(estimate, limit)}
    </p>
  );
}

function sizeInWords(estimate: Estimate, limit: number | null): string {
  if (estimate && typeof estimate === 'object' && 'problem' in estimate) return estimate.problem;
  const most = limit === null ? '' : `At most ${sizeOf(limit)}`;
  if (estimate === 'measuring') return most || 'Measuring how large it will be';
  if (!estimate) return most;
  const about = `bout ${sizeOf(Number(estimate.bytes.toPrecision(2)))}`;
  if (limit === null) return `A${about}`;
  return estimate.bytes <= limit ? `A${about}, within the limit` : `${most}, instead of a${about}`;
}

/** Two figures are enough for a size. */
const roundSize = (kilobytes: number): number => Number(kilobytes.toPrecision(2));

interface LoopingClipProps {
  document: Document;
  range: FrameRange;
  still: number | null;
  /** Whether what would be exported is heard. */
  heard: boolean;
}

function LoopingClip({ document, range, still, heard }: LoopingClipProps) {
  const mix = useMix(document, range);
  const container = useRef<HTMLDivElement>(null);
  const frame = useFrameNow();
  const { playing, setPlaying } = useStage();
  const zoom = useZoom(container, document.frame, 36, () => setPlaying(!playing));
  usePlayback(document, { length: loopLength(document, range), workArea: null }, heard ? mix : null);
  useEffect(() => {
    const quiet = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
    useStage.setState({ frame: 0, playing: still === null && !quiet, loop: true });
    return () => useStage.setState({ playing: false, frame: 0 });
  }, [still]);
  return (
    <div ref={container} className="relative min-h-0 flex-1 overflow-hidden bg-field">
      <PaintedCanvas
        document={document}
        shot={document.shots[0]!.id}
        loop={range}
        playing={playing}
        frame={still ?? frame}
        view={zoom.view}
        size={zoom.size}
        label="The clip in its loop"
      />
    </div>
  );
}
