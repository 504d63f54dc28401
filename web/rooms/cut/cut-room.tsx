import { withStroke } from '../../../core/document/recipe-steps.ts';
import { Layers2 } from 'lucide-react';
import { useEffect, useEffectEvent, useState } from 'react';
import { Link, useLocation, useNavigate, useParams } from 'react-router';
import type { Path } from '../../../core/path/path.ts';
import { plainShape } from '../../../core/path/shapes.ts';
import { changedSinceLift } from '../../../core/document/cut-name.ts';
import type { Picture, Piece } from '../../../core/document/document.ts';
import { setCare } from '../../../core/edits/project-edits.ts';
import type { SubjectRecipe } from '../../../core/document/recipe.ts';
import { newId, useDocument, useProject } from '../../data/project.ts';
import type { BrushStroke } from '../../parts/brush.tsx';
import { Button } from '../../parts/button.tsx';
import { isControl, useKeys } from '../../parts/keys.ts';
import { Slider, steppedRadius } from '../../parts/slider.tsx';
import { WorkingOver } from '../../parts/working.tsx';
import { MainAction } from '../main-action.tsx';
import { BlackWays } from './black-ways.tsx';
import { BackgroundBench } from './background/background-bench.tsx';
import { CutPanel } from './cut-panel.tsx';
import { useCutSession, type CutSessionState } from './cut-session.ts';
import {
  emptyRecipe,
  isEdgeBrush,
  isOutlineTool,
  type CutPanelProps,
  type CutTool,
  type EdgeBrush,
  type OutlineState,
} from './cut-tools.ts';
import { CutView } from './cut-view.tsx';
import { LookBar } from './look-bar.tsx';
import { useLineDraft } from './line-draft.ts';
import { looks, useLook, type LookOptions } from './looks.ts';
import { PieceList } from './piece-list.tsx';
import { PieceRetouchBench } from './piece-retouch-bench.tsx';
import { useScene } from './scene.ts';
import { ShadowBench } from './shadow-bench.tsx';
import { ShapeView } from './shapes/shape-view.tsx';
import { useRecipe } from './use-recipe.ts';
import { useSubject } from './use-subject.ts';
import { useWay } from './use-way.ts';

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
  const { document, dispatch } = useProject();
  const open = useRecipe(picture, pieces, piece);
  const { step, begin, change, shapes, changeShapes } = open;
  const recipe = step?.recipe ?? null;
  const session = useCutSession(picture, piece, step?.id ?? null);
  const subjects = useSubject(open, picture, session.clipFrame);
  const { subject, changeSubject, beginSubject } = subjects;
  const [tool, setTool] = useState<CutTool>(null);
  const [toolOf, setToolOf] = useState(piece?.id ?? null);
  if (toolOf !== (piece?.id ?? null)) {
    setToolOf(piece?.id ?? null);
    // An outline tool belongs to the piece it was taken for; only where that piece begins with it, it stays.
    if (toolOf !== null && isOutlineTool(tool)) setTool(null);
  }
  const [radius, setRadius] = useState(14);
  const [withinEdges, setWithinEdges] = useState(true);
  const [followLines, setFollowLines] = useState(false);
  const [outline, setOutlineState] = useState(firstOutline);
  const options = useLook();
  const [focus, setFocus] = useState<Parameters<CutPanelProps['goTo']>[0] | null>(null);
  const [comparing, setComparing] = useState(false);
  const scene = useScene(document!, piece, comparing || options.look === 'scene');
  const show = (part: Partial<LookOptions>): void => useLook.setState(part);
  const setOutline = (part: Partial<OutlineState>): void => setOutlineState((before) => ({ ...before, ...part }));

  const stroke = (drawn: BrushStroke): void => {
    if (!piece) return;
    if (isEdgeBrush(tool)) {
      const marks = [...piece.marks, { kind: tool, stroke: drawn, soft: tool === 'refine' ? 0 : 0.4 }];
      dispatch(setCare(markNames[tool], piece.id, { marks }));
    } else if (tool === 'screen' && recipe?.kind === 'chroma' && session.pixels) {
      const colours = [...recipe.colours, sampleAt(session.pixels.picture, drawn.points[0]!)].slice(-12);
      change({ ...recipe, colours }, 'Sample screen');
    } else if (tool === 'keep' || tool === 'drop') teach(tool, withinEdges ? { ...drawn, withinEdges } : drawn);
  };
  const teach = (kind: 'keep' | 'drop', drawn: SubjectRecipe['keep'][number]): void => {
    if (subject) changeSubject(withStroke(subject, kind, drawn, picture), strokeNames[kind]);
  };
  /** What a line is drawn for: a piece, and in a clip the frame that is shown. */
  const taught = piece && subject ? [piece.id, step?.id, session.clipFrame].join(' ') : null;
  const lines = useLineDraft({
    drawing: followLines && taught && (tool === 'keep' || tool === 'drop') ? { kind: tool, of: taught } : null,
    picture,
    find: session.line,
    // When a line is found, another piece or frame may be open: it was not drawn for that.
    onLine: ({ kind, stroke: found, of }) => {
      if (taught === of) teach(kind, found);
    },
  });
  const box = (drawn: NonNullable<SubjectRecipe['box']>): void => {
    beginSubject({ ...(subject ?? emptyRecipe), box: drawn }, 'Box');
    setTool(null);
  };
  const pointAt = (at: [number, number]): void => {
    beginSubject({ ...(subject ?? emptyRecipe), at }, 'Point at the subject');
    setTool(null);
  };
  const addPath = (path: Path): void => {
    const shape = { ...plainShape, id: newId('shape'), path };
    changeShapes([...shapes, shape], 'Draw outline');
    setOutline({ shape: shape.id, points: new Set() });
    setTool('points');
  };
  /** Wanted while the cut was still computing: it waits its turn. */
  const [liftNext, setLiftNext] = useState(false);
  const { state: wanted, pathname } = useLocation() as { state: { lift?: boolean } | null; pathname: string };
  const navigate = useNavigate();
  const liftOnce = useEffectEvent(() => {
    setLiftNext(true);
    // A reload of the page must not lift it once more.
    void navigate(pathname, { replace: true, state: null });
  });
  useEffect(() => {
    if (wanted?.lift) liftOnce();
  }, [wanted]);
  const liftNow = useEffectEvent(() => {
    setLiftNext(false);
    if (piece) session.lift();
  });
  const idle = !session.activity;
  useEffect(() => {
    if (liftNext && idle) liftNow();
  }, [liftNext, idle]);

  useKeys((event) => {
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    const key = event.key.toLowerCase();
    const held: Record<string, [CutTool, boolean]> = {
      k: ['keep', !!subject],
      d: ['drop', !!subject],
      b: ['box', true],
      i: ['point', true],
      o: ['outline', tool !== 'pen'],
      p: ['pen', tool !== 'outline'],
      a: ['points', shapes.length > 0],
      s: ['screen', recipe?.kind === 'chroma'],
      r: ['restore', !!piece],
      x: ['wipe', !!piece],
      e: ['soften', !!piece],
      h: ['refine', !!piece],
    };
    const teaching = tool === 'keep' || tool === 'drop';
    if (held[key]) {
      // Pressed again it stays: a hand that repeats itself means the tool, and Escape lays it down.
      if (held[key][1]) setTool(held[key][0]);
    } else if (key === 'f' && !piece) beginSubject(emptyRecipe, 'Find subject');
    else if (key === '[' || key === ']') setRadius(steppedRadius(key, radius)!);
    else if (key === 't' && teaching) setFollowLines(!followLines);
    else if (key === 'g') show({ ghost: !options.ghost });
    else if (key === 'v') show({ look: looks[(looks.findIndex((l) => l.id === options.look) + 1) % looks.length]!.id });
    else if (key === 'l' && piece) setLiftNext(true);
    else if (key === 'escape' && !isControl(event)) setTool(null);
  });

  const panel: CutPanelProps = {
    ...{
      piece,
      session,
      step,
      recipe,
      tool,
      setTool,
      radius,
      setRadius,
      withinEdges,
      setWithinEdges,
      followLines,
      setFollowLines,
      begin,
      change,
      ...subjects,
      shapes,
      changeShapes,
    },
    moving: picture.clip !== null,
    compareBlack: () => setComparing(true),
    ...{ outline, setOutline, goTo: (place) => setFocus({ ...place }) },
  };
  const way = useWay(piece, open, tool);
  const usable = tool === 'box' || tool === 'point' || isOutlineTool(tool) || piece ? tool : null;
  // Before there is a piece no tool has to be taken to say what is meant.
  const pressFinds = !piece && way.way === 'subject';
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
          {liftNext ? 'Lifts out next' : piece && changedSinceLift(piece) ? 'Lift again' : 'Lift out'}
        </Button>
      </MainAction>
      <CutPanel
        {...panel}
        open={open}
        way={way}
        others={pieces.filter((other) => other.cutout && other.id !== piece?.id)}
      />
      <section className="flex min-w-0 flex-col" aria-label="Picture">
        <div className="relative min-h-0 flex-1">
          {session.pixels ? (
            <CutView
              pixels={session.pixels}
              version={session.version}
              options={piece ? options : { ...options, look: 'picture' }}
              tool={usable}
              radius={radius}
              scene={scene}
              recipe={subject}
              lines={lines}
              onStroke={stroke}
              onBox={box}
              onPoint={usable === 'point' || (usable === null && pressFinds) ? pointAt : null}
              onWipe={(wipe) => show({ wipe })}
              focus={focus}
              over={(zoom) =>
                isOutlineTool(tool) && (
                  <ShapeView
                    {...{ zoom, tool, size: picture, shapes, outline, setOutline, wire: session.wire }}
                    onShapes={changeShapes}
                    onPath={addPath}
                  />
                )
              }
            />
          ) : (
            <div className="h-full bg-field" />
          )}
          {comparing && session.pixels && scene && (
            <BlackWays
              picture={session.pixels.picture}
              scene={scene}
              recipe={recipe}
              onChoose={(chosen, name) => {
                begin(chosen, name);
                setComparing(false);
                show({ look: 'scene' });
              }}
              onClose={() => setComparing(false)}
            />
          )}
          <WorkingOver activity={session.activity} />
        </div>
        {picture.clip && <ClipFrames clip={picture.clip} session={session} />}
        <LookBar options={options} show={show} disabled={!piece} />
      </section>
      <PieceList document={document!} picture={picture} pieces={pieces} piece={piece} />
    </div>
  );
}

/** Which frame of a clip is looked at. */
function ClipFrames({ clip, session }: { clip: NonNullable<Picture['clip']>; session: CutSessionState }) {
  const { clipFrame, showClipFrame } = session;
  return (
    <div className="border-t border-line px-3 py-1.5">
      <Slider
        label="Frame"
        name="Frame of the clip"
        min={0}
        max={clip.frames - 1}
        value={clipFrame}
        shown={`${(clipFrame / clip.rate).toFixed(2)} s`}
        onChange={showClipFrame}
      />
    </div>
  );
}

const firstOutline: OutlineState = { mode: 'cling', strength: 0.8, sides: 6, shape: null, points: new Set() };

const strokeNames = { keep: 'Keep stroke', drop: 'Drop stroke' } as const;

const markNames: Record<EdgeBrush, string> = {
  restore: 'Restore',
  wipe: 'Wipe away',
  soften: 'Soften part of the edge',
  refine: 'Find hair',
};

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
