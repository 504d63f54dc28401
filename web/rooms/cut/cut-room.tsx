import { Layers2 } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import {
  untouched,
  type CutRecipe,
  type Picture,
  type Piece,
  type SubjectRecipe,
} from '../../../core/scene/document.ts';
import { addPiece, setCare, setRecipe } from '../../../core/scene/project-edits.ts';
import { newId, useDocument, useProject } from '../../data/project.ts';
import type { BrushStroke } from '../../parts/brush.tsx';
import { Button } from '../../parts/button.tsx';
import { isControl, useKeys } from '../../parts/keys.ts';
import { steppedRadius } from '../../parts/slider.tsx';
import { WorkingOver } from '../../parts/working.tsx';
import { MainAction } from '../project-frame.tsx';
import { BackgroundBench } from './background/background-bench.tsx';
import { CutPanel } from './cut-panel.tsx';
import { useCutSession } from './cut-session.ts';
import { emptyRecipe, type CutPanelProps, type CutTool } from './cut-tools.ts';
import { CutView } from './cut-view.tsx';
import { LookBar } from './look-bar.tsx';
import { looks, type LookOptions } from './looks.ts';
import { PieceList } from './piece-list.tsx';
import { PieceRetouchBench } from './piece-retouch-bench.tsx';
import { ShadowBench } from './shadow-bench.tsx';

export function CutRoom() {
  const document = useDocument();
  const { pictureId, pieceId } = useParams();
  const picture = document.pictures.find((p) => p.id === pictureId) ?? document.pictures[0] ?? null;
  if (!picture) return <NoPicture />;
  const pieces = document.pieces.filter((p) => p.picture === picture.id);
  if (pieceId === 'background')
    return <BackgroundBench key={picture.id} document={document} picture={picture} pieces={pieces} />;
  const wanted = pieceId === 'new' ? null : (pieces.find((p) => p.id === pieceId) ?? null);
  const ownerId = wanted?.recipe.kind === 'shadow' ? wanted.recipe.of : /^shadow~(.+)$/.exec(pieceId ?? '')?.[1];
  const owner = pieces.find((p) => p.id === ownerId);
  if (owner) {
    const shadow = pieces.find((p) => p.recipe.kind === 'shadow' && p.recipe.of === owner.id) ?? null;
    return <ShadowBench key={owner.id} {...{ document, picture, pieces, owner, shadow }} />;
  }
  const touched = pieces.find((p) => `touch~${p.id}` === pieceId);
  if (touched?.cutout) return <PieceRetouchBench key={touched.id} {...{ document, picture, pieces, piece: touched }} />;
  const first = pieces.find((p) => p.recipe.kind !== 'shadow') ?? null;
  const piece = pieceId === 'new' ? null : (wanted ?? first);
  return <Workbench key={picture.id} picture={picture} pieces={pieces} piece={piece} />;
}

function NoPicture() {
  const { id } = useProject();
  return (
    <p className="flex h-full items-center justify-center text-ink-2">
      <Link className="text-dusk underline" to={`/project/${id}/pictures`}>
        Bring in a picture
      </Link>
      &nbsp;to cut something out of it.
    </p>
  );
}

interface WorkbenchProps {
  picture: Picture;
  pieces: Piece[];
  piece: Piece | null;
}

function Workbench({ picture, pieces, piece }: WorkbenchProps) {
  const { id, document, dispatch } = useProject();
  const navigate = useNavigate();
  const recipe = piece?.recipe.kind === 'subject' ? piece.recipe : null;
  const session = useCutSession(picture, piece);
  const [tool, setTool] = useState<CutTool>(null);
  const [radius, setRadius] = useState(14);
  const [options, setOptions] = useState<LookOptions>({ look: 'hatch', colour: '#d8249a', ghost: false, wipe: 0.5 });
  const [focus, setFocus] = useState<Parameters<CutPanelProps['goTo']>[0] | null>(null);
  const show = (change: Partial<LookOptions>): void => setOptions((before) => ({ ...before, ...change }));

  const begin = (next: CutRecipe, step: string): void => {
    if (piece) return dispatch(setRecipe(step, piece.id, next));
    const made = { ...untouched, id: newId('piece'), picture: picture.id, name: freePieceName(pieces), recipe: next };
    dispatch(addPiece(made));
    void navigate(`/project/${id}/cut/${picture.id}/${made.id}`, { replace: true });
  };
  const stroke = (drawn: BrushStroke): void => {
    if (!piece) return;
    if (tool === 'restore' || tool === 'wipe') {
      const marks = [...piece.marks, { kind: tool, stroke: drawn, soft: 0.4 }];
      dispatch(setCare(tool === 'restore' ? 'Restore' : 'Wipe away', piece.id, { marks }));
    } else if (tool === 'screen' && piece.recipe.kind === 'chroma' && session.pixels) {
      const colours = [...piece.recipe.colours, sampleAt(session.pixels.picture, drawn.points[0]!)].slice(-12);
      dispatch(setRecipe('Sample screen', piece.id, { ...piece.recipe, colours }));
    } else if (recipe && (tool === 'keep' || tool === 'drop')) {
      const next = { ...recipe, [tool]: [...recipe[tool], drawn] };
      dispatch(setRecipe(tool === 'keep' ? 'Keep stroke' : 'Drop stroke', piece.id, next));
    }
  };
  const box = (drawn: NonNullable<SubjectRecipe['box']>): void => {
    begin({ ...(recipe ?? emptyRecipe), box: drawn }, 'Box');
    setTool(null);
  };
  const hold = (next: CutTool): void => setTool(tool === next ? null : next);

  useKeys((event) => {
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    const key = event.key.toLowerCase();
    if (key === 'f' && !piece) begin(emptyRecipe, 'Find subject');
    else if (key === 'k' && recipe) hold('keep');
    else if (key === 'd' && recipe) hold('drop');
    else if (key === 'b') hold('box');
    else if (key === 's' && piece?.recipe.kind === 'chroma') hold('screen');
    else if (key === 'r' && piece) hold('restore');
    else if (key === 'x' && piece) hold('wipe');
    else if (key === '[' || key === ']') setRadius(steppedRadius(key, radius)!);
    else if (key === 'g') show({ ghost: !options.ghost });
    else if (key === 'v') show({ look: looks[(looks.findIndex((l) => l.id === options.look) + 1) % looks.length]!.id });
    else if (key === 'l' && piece && !session.activity) session.lift();
    else if (key === 'escape' && !isControl(event)) setTool(null);
  });

  return (
    <div className="grid h-full grid-cols-[232px_1fr_224px]">
      <MainAction>
        <Button
          look="primary"
          icon={<Layers2 size={15} />}
          disabled={!piece || session.activity !== null}
          title="Lift out (L)"
          onClick={() => session.lift()}
        >
          Lift out
        </Button>
      </MainAction>
      <CutPanel
        {...{ piece, session, tool, setTool, radius, setRadius, begin, goTo: (place) => setFocus({ ...place }) }}
      />
      <section className="flex min-w-0 flex-col" aria-label="Picture">
        <div className="relative min-h-0 flex-1">
          {session.pixels ? (
            <CutView
              pixels={session.pixels}
              version={session.version}
              options={piece ? options : { ...options, look: 'picture' }}
              tool={piece || tool === 'box' ? tool : null}
              radius={radius}
              recipe={recipe}
              onStroke={stroke}
              onBox={box}
              onWipe={(wipe) => show({ wipe })}
              focus={focus}
            />
          ) : (
            <div className="h-full bg-field" />
          )}
          <WorkingOver activity={session.activity} />
        </div>
        <LookBar options={options} show={show} disabled={!piece} />
      </section>
      <PieceList document={document!} picture={picture} pieces={pieces} piece={piece} />
    </div>
  );
}

/** Mean colour of a few pixels of the picture around a point. */
function sampleAt(picture: ImageBitmap, [x, y]: readonly [number, number]): [number, number, number] {
  const size = 5;
  const canvas = new OffscreenCanvas(size, size);
  const context = canvas.getContext('2d')!;
  context.drawImage(picture, -Math.round(x) + 2, -Math.round(y) + 2);
  const { data } = context.getImageData(0, 0, size, size);
  const sum = [0, 0, 0];
  for (let i = 0; i < data.length; i += 4) for (let c = 0; c < 3; c++) sum[c]! += data[i + c]! / (size * size);
  return [Math.round(sum[0]!), Math.round(sum[1]!), Math.round(sum[2]!)];
}

function freePieceName(pieces: Piece[]): string {
  const taken = new Set(pieces.map((p) => p.name));
  for (let n = pieces.length + 1; ; n++) if (!taken.has(`Piece ${n}`)) return `Piece ${n}`;
}
