import { CopyPlus, Download, Trash2, Ungroup } from 'lucide-react';
import { Link } from 'react-router';
import { changedSinceLift } from '../../../../core/document/cut-name.ts';
import { duplicateLayers, ungroup } from '../../../../core/edits/arrange-edits.ts';
import { removeLayer, setLayer } from '../../../../core/edits/layer-edits.ts';
import { newId, useProject } from '../../../data/project.ts';
import { Button } from '../../../parts/button.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import { ArriveSection } from '../arrive/arrive-section.tsx';
import { FinishSection } from '../finish/finish-section.tsx';
import { PropSection } from '../props/prop-section.tsx';
import { useStage } from '../stage-state.ts';
import { ChosenKeys } from './chosen-keys.tsx';
import { CopyToShot } from './copy-to-shot.tsx';
import { FollowedPoints } from './followed-points.tsx';
import { LookSection } from './look.tsx';
import { MaskSection } from './masks.tsx';
import { MotionSection } from './motion.tsx';
import { PlaceSection, type LayerPart } from './place.tsx';
import { RepeatSection } from './repeat.tsx';
import { ReliefSection } from './relief.tsx';
import { Section } from './section.tsx';
import { AlignButtons } from './several-card.tsx';
import { StripsSection } from './strips.tsx';
import { SwaySection } from './sway.tsx';
import { TextSection } from './text.tsx';
import { canWriteSvg, svgOfLayer } from '../../../../core/formats/svg/layer-drawing.ts';
import { download } from '../../../parts/download.ts';
import { DrawingSection } from '../drawing/drawing-section.tsx';
import { ShapeSection } from '../shapes/shape-section.tsx';
import { TiesSection } from './ties.tsx';
import { TimeSection } from './time.tsx';

/** Everything about one layer. */
export function LayerCard(part: LayerPart) {
  const { shot, layer } = part;
  const { dispatch } = useProject();
  const { select, selectLayer } = useStage();
  const kind = layer.source.kind;
  const duplicate = (): void => {
    const id = newId('layer');
    dispatch(duplicateLayers(shot.id, [{ of: layer.id, id }]));
    selectLayer(id);
  };
  return (
    <>
      <h2 className="mb-1 truncate font-semibold" title={layer.name}>
        {layer.name}
      </h2>
      <ChangedPiece {...part} />
      <ChosenKeys shot={shot} layers={[layer]} />
      {kind === 'text' && <TextSection key={layer.id} {...part} />}
      {kind === 'prop' && <PropSection {...part} />}
      {kind === 'drawing' && <DrawingSection {...part} />}
      {layer.source.kind === 'shape' && layer.source.made && <ShapeSection {...part} made={layer.source.made} />}
      <PlaceSection {...part} />
      {kind !== 'carrier' && <LookSection {...part} />}
      {kind !== 'carrier' && <FinishSection {...part} />}
      {kind !== 'carrier' && <ArriveSection {...part} />}
      <MotionSection {...part} />
      {kind !== 'carrier' && kind !== 'colour' && kind !== 'grade' && <RepeatSection {...part} />}
      <TiesSection {...part} />
      <SwaySection {...part} />
      <ReliefSection {...part} />
      {kind !== 'carrier' && <MaskSection {...part} />}
      {['piece', 'picture', 'background', 'shape', 'prop', 'drawing'].includes(kind) && <StripsSection {...part} />}
      <TimeSection {...part} />
      <FollowedPoints {...part} />
      <Section name="Layer">
        <SwitchRow
          label="Solo"
          hint="While any layer is solo, only those are seen (S)"
          on={layer.solo}
          onChange={(solo) => dispatch(setLayer('Solo', shot.id, layer.id, { solo }))}
        />
        {kind !== 'carrier' && kind !== 'colour' && kind !== 'grade' && (
          <AlignButtons shot={shot} ids={[layer.id]} frame={part.frame} />
        )}
        <Button icon={<CopyPlus size={14} />} title="Duplicate (Ctrl D)" onClick={duplicate}>
          Duplicate
        </Button>
        <CopyToShot document={part.document} shot={shot} ids={[layer.id]} />
        {canWriteSvg(layer) && (
          <Button
            icon={<Download size={14} />}
            title="As an SVG file, in the colours it has now"
            onClick={() => {
              const svg = svgOfLayer(layer, part.frame);
              if (svg) download(new Blob([svg], { type: 'image/svg+xml' }), `${layer.name}.svg`);
            }}
          >
            Export SVG
          </Button>
        )}
        {kind === 'group' && (
          <Button
            icon={<Ungroup size={14} />}
            onClick={() => {
              dispatch(ungroup(shot.id, layer.id));
              select(null);
            }}
          >
            Ungroup
          </Button>
        )}
        <Button
          look="danger"
          icon={<Trash2 size={14} />}
          onClick={() => {
            dispatch(removeLayer(shot.id, layer.id));
            select(null);
          }}
        >
          Delete layer
        </Button>
      </Section>
    </>
  );
}

/** Says where a layer shows a piece as it was lifted out before it was changed. */
function ChangedPiece({ document, layer: { source } }: LayerPart) {
  const { id } = useProject();
  const piece = source.kind === 'piece' ? document.pieces.find((one) => one.id === source.piece) : undefined;
  if (!piece || !changedSinceLift(piece)) return null;
  return (
    <p className="mb-2 rounded-md border border-saffron bg-white px-2 py-1.5 text-[12px]">
      {piece.name} was changed since it was lifted out.{' '}
      <Link
        className="text-dusk underline"
        to={`/project/${id}/cut/${piece.picture}/${piece.id}`}
        state={{ lift: true }}
      >
        Lift again
      </Link>
    </p>
  );
}
