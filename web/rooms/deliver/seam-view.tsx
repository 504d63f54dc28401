import equal from 'fast-deep-equal';
import { ArrowLeftRight } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { endings, type Document, type Ending } from '../../../core/document/document.ts';
import { setEnds } from '../../../core/edits/project-edits.ts';
import { differencePicture, seamOf, type Seam } from '../../../core/scene/seam.ts';
import { loopFrame, loopLength, type FrameRange } from '../../../core/scene/loop.ts';
import { placedShots } from '../../../core/scene/sequence.ts';
import { setCamera } from '../../../core/edits/camera-edits.ts';
import { notifyError } from '../../data/notices.ts';
import { useProject } from '../../data/project.ts';
import { Button } from '../../parts/button.tsx';
import { SecondsField } from '../../parts/seconds-field.tsx';
import { SmallSelect } from '../../parts/small-select.tsx';
import { StillClient } from '../../workers/still-client.ts';

interface SeamViewProps {
  document: Document;
  range: FrameRange;
}

/** The longer side of the pictures, CSS pixels; they are painted in twice as many. */
const edge = 96;

interface Found {
  seam: Seam;
  pictures: ImageData[];
}

/** The first and the last frame of the loop beside each other, where they differ, and whether that is seen. */
export function SeamView({ document, range }: SeamViewProps) {
  const [found, setFound] = useState<Found | null>(null);
  const { first, end } = range;
  useEffect(() => {
    let wanted = true;
    const client = new StillClient();
    lookAt(client, document, { first, end })
      .then((next) => wanted && setFound(next))
      .catch(notifyError);
    return () => {
      wanted = false;
      client.close();
    };
  }, [document, first, end]);
  if (!found) return <p className="text-[13px] text-ink-2">Looking at the seam</p>;
  const { seam, pictures } = found;
  return (
    <div data-testid="seam" data-seen={seam.seen}>
      <div className="flex gap-2">
        {(['Last', 'First', 'Difference'] as const).map((label, k) => (
          <figure key={label} className="min-w-0">
            <Still picture={pictures[k]!} label={`${label} of the loop`} />
            <figcaption className="text-[11px] text-ink-2">{label}</figcaption>
          </figure>
        ))}
      </div>
      <Verdict {...seam} />
      {seam.seen && <Cure document={document} />}
      <Ends document={document} range={range} />
    </div>
  );
}

function Verdict({ seen, jump }: Seam) {
  const share = (jump * 100).toFixed(jump < 0.1 ? 1 : 0);
  return (
    <p className={`mt-1 text-[13px] ${seen ? 'text-brick' : 'text-ink-2'}`}>
      {seen
        ? `Jumps where it begins again: ${share} % changes at once. Let the moves end as they began, and props loop with the shot.`
        : 'No jump is seen where it begins again.'}
    </p>
  );
}

/** The one move that can be made to return in a press: that of the camera. */
function Cure({ document }: { document: Document }) {
  const { dispatch } = useProject();
  const [shot, ...more] = document.shots;
  const { first, last, returns } = shot!.camera;
  if (more.length > 0 || returns || equal(first, last)) return null;
  return (
    <Button
      className="mt-1 w-full"
      icon={<ArrowLeftRight size={14} />}
      title="The camera is at its last Framing in the middle of the shot, and goes back from there"
      onClick={() => dispatch(setCamera('Change camera return', shot!.id, { returns: true }))}
    >
      Let the camera go there and back
    </Button>
  );
}

const endNames: Record<Ending, string> = {
  'as-is': 'as they are',
  crossfade: 'crossfaded',
  'back-again': 'there and back',
};

/** What is done to the ends of the clip, and what that changes. */
function Ends({ document, range }: { document: Document; range: FrameRange }) {
  const { dispatch } = useProject();
  const { rate } = document.frame;
  const { kind, frames } = document.ends;
  const seconds = (n: number): string => `${Number((n / rate).toFixed(2))} s`;
  const whole = range.end - range.first;
  const length = loopLength(document, range);
  const says: Record<Ending, string> = {
    'as-is': `${seconds(whole)}, from its first frame to its last.`,
    crossfade: `${seconds(length)} instead of ${seconds(whole)}: the last ${seconds(whole - length)} go over into the first.`,
    'back-again': `${seconds(length)} instead of ${seconds(whole)}: it plays to its end, and backwards to its beginning.`,
  };
  return (
    <div className="mt-1">
      <SmallSelect
        label="Ends"
        value={kind}
        options={endings.map((value) => ({ value, name: endNames[value] }))}
        onChange={(next) => dispatch(setEnds({ kind: next }))}
      />
      {kind === 'crossfade' && (
        <SecondsField
          label="Crossfade"
          frames={frames}
          rate={rate}
          most={20}
          onChange={(next) => dispatch(setEnds({ frames: next }))}
        />
      )}
      <p className="text-[12px] text-ink-2">{says[kind]}</p>
    </div>
  );
}

async function lookAt(client: StillClient, document: Document, range: FrameRange): Promise<Found | null> {
  const length = loopLength(document, range);
  const frames = [length - 1, 0, Math.min(1, length - 1)].map((k) => loopFrame(document, range, k).frame);
  const painted = await Promise.all(frames.map((frame) => stillOf(client, document, frame)));
  const [last, begin, second] = painted;
  if (!last || !begin || !second) return null;
  const { width, height } = begin;
  const difference = new ImageData(
    differencePicture(last.data, begin.data) as Uint8ClampedArray<ArrayBuffer>,
    width,
    height,
  );
  return { seam: seamOf(begin.data, second.data, last.data), pictures: [last, begin, difference] };
}

/** A frame of the whole project, small. */
async function stillOf(client: StillClient, document: Document, frame: number): Promise<ImageData | null> {
  const placed = placedShots(document);
  const there = placed.findLast((one) => one.first <= frame) ?? placed[0]!;
  const { width: w, height: h } = document.frame;
  const scale = (2 * edge) / Math.max(w, h);
  const [width, height] = [Math.max(1, Math.round(w * scale)), Math.max(1, Math.round(h * scale))];
  const order = { document, shot: there.shot.id, frame: frame - there.first, width, height, scale, x: 0, y: 0 };
  const bitmap = await client.paint(order);
  if (!bitmap) return null;
  const context = new OffscreenCanvas(width, height).getContext('2d')!;
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  return context.getImageData(0, 0, width, height);
}

function Still({ picture, label }: { picture: ImageData; label: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => canvas.current?.getContext('2d')?.putImageData(picture, 0, 0), [picture]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={label}
      width={picture.width}
      height={picture.height}
      className="rounded-sm border border-line"
      style={{ width: picture.width / 2, height: picture.height / 2 }}
    />
  );
}
