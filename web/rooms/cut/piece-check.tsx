import { Check, CheckCheck, ScanSearch, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { Piece } from '../../../core/document/document.ts';
import { setCare } from '../../../core/edits/project-edits.ts';
import { notifyError } from '../../data/notices.ts';
import { useProject } from '../../data/project.ts';
import { Button, IconButton } from '../../parts/button.tsx';
import { NumberField } from '../../parts/number-field.tsx';
import type { CutFinding } from '../../workers/cut-client.ts';
import type { CutPixels } from './cut-session.ts';
import type { CutPanelProps } from './cut-tools.ts';

const names: Record<CutFinding['kind'], string> = {
  hole: 'Hole',
  speck: 'Speck',
  frame: 'Leftover at the frame',
  fringe: 'Fringe',
};

/** Finds holes, specks, leftovers and fringes before they are seen moving; each is mended or left, one by one or all at once. */
export function PieceCheck({ piece, session, goTo }: CutPanelProps & { piece: Piece }) {
  const { dispatch } = useProject();
  const [found, setFound] = useState<CutFinding[] | null>(null);
  const [smallest, setSmallest] = useState(6);
  const look = (): void => {
    session
      .check()
      .then(setFound)
      .catch((error: unknown) => notifyError(error));
  };
  const shown = found?.filter((finding) => finding.size >= smallest) ?? null;
  const without = (gone: readonly CutFinding[]): void =>
    setFound((before) => before?.filter((finding) => !gone.includes(finding)) ?? null);
  const mend = (wanted: readonly CutFinding[], name: string): void => {
    const marks = [...piece.marks, ...wanted.flatMap((finding) => finding.marks)];
    dispatch(setCare(name, piece.id, { marks }));
    without(wanted);
  };
  return (
    <>
      <Button icon={<ScanSearch size={14} />} disabled={session.activity !== null} onClick={look}>
        Check the piece
      </Button>
      {shown?.length === 0 && (
        <p className="text-[12px] text-ink-2">
          No holes, specks, leftovers or fringes {found!.length > 0 ? 'of that size ' : ''}are left.
        </p>
      )}
      {found && found.length > 0 && (
        <NumberField label="Smallest size" unit="px" min={6} max={1e6} value={smallest} onChange={setSmallest} />
      )}
      {shown && shown.length > 1 && (
        <Button icon={<CheckCheck size={14} />} onClick={() => mend(shown, `Fix ${shown.length} findings`)}>
          Fix all {shown.length}
        </Button>
      )}
      {shown && shown.length > 0 && (
        <ul className="flex max-h-56 flex-col gap-1 overflow-auto" aria-label="Findings">
          {shown.map((finding, k) => (
            <li
              key={`${finding.bounds.x}-${finding.bounds.y}-${finding.size}`}
              className="flex items-center gap-1.5 rounded-md border border-line bg-white"
            >
              <button
                type="button"
                className="flex min-w-0 flex-1 items-center gap-1.5 p-1 text-left"
                title="Go there"
                onClick={() => goTo(finding.bounds)}
              >
                {session.pixels && <Thumbnail pixels={session.pixels} bounds={finding.bounds} />}
                <span className="min-w-0 text-[12px]">
                  <span className="block truncate">{names[finding.kind]}</span>
                  <span className="block font-mono text-[11px] text-ink-2">{finding.size} px</span>
                </span>
              </button>
              <IconButton
                label={`Fix finding ${k + 1}`}
                onClick={() => mend([finding], `Fix ${names[finding.kind].toLowerCase()}`)}
              >
                <Check size={14} className="text-pine" />
              </IconButton>
              <IconButton label={`Leave finding ${k + 1} as it is`} onClick={() => without([finding])}>
                <X size={14} />
              </IconButton>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

/** The place on a strong colour, which is where a hole shows. */
function Thumbnail({ pixels, bounds }: { pixels: CutPixels; bounds: CutFinding['bounds'] }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current!;
    const context = element.getContext('2d')!;
    const side = Math.max(bounds.width, bounds.height) * 2 + 12;
    const [x, y] = [bounds.x + bounds.width / 2 - side / 2, bounds.y + bounds.height / 2 - side / 2];
    context.fillStyle = '#d8249a';
    context.fillRect(0, 0, element.width, element.height);
    context.drawImage(pixels.cutout, x, y, side, side, 0, 0, element.width, element.height);
  }, [pixels, bounds]);
  return <canvas ref={canvas} width={36} height={36} className="size-9 shrink-0 rounded" aria-hidden />;
}
