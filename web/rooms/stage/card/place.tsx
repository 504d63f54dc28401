import { FlipHorizontal2, FlipVertical2 } from 'lucide-react';
import { flipLayers } from '../../../../core/edits/arrange-edits.ts';
import type { Document } from '../../../../core/document/document.ts';
import { movePivot, setDepth, setLayer, setProperty } from '../../../../core/edits/layer-edits.ts';
import type { Animated, Layer } from '../../../../core/document/layer.ts';
import type { ValueAt } from '../../../../core/document/properties.ts';
import { layerValue } from '../../../../core/scene/values.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { IconButton } from '../../../parts/button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import { useStage } from '../stage-state.ts';
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
export function PlaceSection({ document, shot, layer, frame }: LayerPart) {
  const { dispatch } = useProject();
  const keepLook = useStage((state) => state.keepLook);
  const fit = Math.max(document.frame.width, document.frame.height);
  const value = <P extends Animated>(property: P): ValueAt<P> => layerValue(shot, layer, property, frame);
  const set = <P extends Animated>(property: P, next: ValueAt<P>): void =>
    dispatch(setProperty(shot.id, layer.id, property, frame, next));
  const mark = (property: Animated) => <KeyToggle shot={shot} layer={layer} property={property} frame={frame} />;
  const [x, y] = value('position');
  const [px, py] = value('pivot');
  const { locked } = layer;
  const noMark = <span className="size-6" />;
  const far = { min: -20 * fit, max: 20 * fit, disabled: locked, digits: 1, unit: 'px' };
  const flat = layer.source.kind === 'colour' || layer.source.kind === 'grade';
  const hasPivot = !flat && layer.source.kind !== 'carrier';
  return (
    <Section name="Place">
      <NumberField
        label="Depth"
        digits={2}
        step={0.1}
        min={0.2}
        max={100}
        value={value('depth')}
        disabled={locked}
        onChange={(v) => dispatch(setDepth(shot.id, layer.id, v, frame, !keepLook))}
        after={mark('depth')}
      />
      {!flat && (
        <>
          <NumberField
            {...far}
            label="X"
            value={x}
            onChange={(v) => set('position', [v, y])}
            after={mark('position')}
          />
          <NumberField {...far} label="Y" value={y} onChange={(v) => set('position', [x, v])} after={noMark} />
          <NumberField
            label="Scale"
            unit="%"
            digits={1}
            min={-2000}
            max={2000}
            value={value('scale') * 100}
            disabled={locked}
            onChange={(v) => set('scale', v / 100)}
            after={mark('scale')}
          />
          <NumberField
            label="Rotation"
            unit="°"
            digits={1}
            value={value('rotation')}
            disabled={locked}
            onChange={(v) => set('rotation', v)}
            after={mark('rotation')}
          />
        </>
      )}
      {hasPivot && (
        <>
          <NumberField
            {...far}
            label="Pivot X"
            value={px}
            onChange={(v) => dispatch(movePivot(shot.id, layer.id, [v, py], frame))}
            after={mark('pivot')}
          />
          <NumberField
            {...far}
            label="Pivot Y"
            value={py}
            onChange={(v) => dispatch(movePivot(shot.id, layer.id, [px, v], frame))}
            after={noMark}
          />
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
            {noMark}
          </div>
          {'piece picture background'.includes(layer.source.kind) && (
            <ToolRow label="Four corners" tool="corners" name="Pin corners" disabled={locked} after={mark('corners')} />
          )}
        </>
      )}
    </Section>
  );
}
