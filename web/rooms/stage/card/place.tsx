import { FlipHorizontal2, FlipVertical2 } from 'lucide-react';
import { flipLayers } from '../../../../core/edits/arrange-edits.ts';
import type { Document } from '../../../../core/document/document.ts';
import { setLayer } from '../../../../core/edits/layer-edits.ts';
import type { Layer } from '../../../../core/document/layer.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { IconButton } from '../../../parts/button.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import { LayerField } from './layer-field.tsx';
import { KeyToggle } from './property-field.tsx';
import { Section } from './section.tsx';
import { ToolRow } from './tool-row.tsx';

export interface LayerPart {
  document: Document;
  shot: Shot;
  layer: Layer;
  frame: number;
}

/** Where a layer is: distance, place, size, turn, the point it turns about. */
export function PlaceSection(part: LayerPart) {
  const { shot, layer, frame } = part;
  const { dispatch } = useProject();
  const { locked } = layer;
  const flat = layer.source.kind === 'colour' || layer.source.kind === 'grade';
  const hasPivot = !flat && layer.source.kind !== 'carrier';
  const corners = <KeyToggle shot={shot} layer={layer} property="corners" frame={frame} />;
  return (
    <Section name="Place">
      {(flat ? (['depth'] as const) : (['depth', 'position', 'scale', 'rotation'] as const)).map((property) => (
        <LayerField key={property} {...part} property={property} />
      ))}
      {hasPivot && (
        <>
          <LayerField {...part} property="pivot" />
          <SwitchRow
            label="Turns with its path"
            on={layer.oriented}
            disabled={locked}
            onChange={(oriented) => dispatch(setLayer('Orient along path', shot.id, layer.id, { oriented }))}
          />
          <div className="flex h-8 items-center gap-1 text-[13px] text-ink-2">
            <span className="flex-1">Flip</span>
            <IconButton
              label="Flip horizontally"
              pressed={layer.flip.sideways}
              disabled={locked}
              onClick={() => dispatch(flipLayers(shot.id, [layer.id], 'sideways'))}
            >
              <FlipHorizontal2 size={15} />
            </IconButton>
            <IconButton
              label="Flip vertically"
              pressed={layer.flip.upright}
              disabled={locked}
              onClick={() => dispatch(flipLayers(shot.id, [layer.id], 'upright'))}
            >
              <FlipVertical2 size={15} />
            </IconButton>
            <span className="size-6" />
          </div>
          {'piece picture background'.includes(layer.source.kind) && (
            <ToolRow label="Four corners" tool="corners" name="Pin corners" disabled={locked} after={corners} />
          )}
        </>
      )}
    </Section>
  );
}
