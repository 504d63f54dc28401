import { Scissors } from 'lucide-react';
import { useNavigate } from 'react-router';
import { setBlend, setLayer } from '../../../../core/edits/layer-edits.ts';
import { shapeToPoints } from '../../../../core/edits/shape-edits.ts';
import { layerValue } from '../../../../core/scene/values.ts';
import { useProject } from '../../../data/project.ts';
import { Button } from '../../../parts/button.tsx';
import { NumberField } from '../../../parts/number-field.tsx';
import { plainOptions, SmallSelect } from '../../../parts/small-select.tsx';
import { SwitchRow } from '../../../parts/switch-row.tsx';
import { ColourField } from './colour-field.tsx';
import { LayerField } from './layer-field.tsx';
import { KeyToggle } from './property-field.tsx';
import type { LayerPart } from './place.tsx';
import { blendOptions } from './blend-options.ts';
import { Section } from './section.tsx';
import { ToolRow } from './tool-row.tsx';

/** How a layer is laid over what is behind it, and the way back to its cut. */
export function LookSection(part: LayerPart) {
  const { document, shot, layer, frame } = part;
  const { id, dispatch } = useProject();
  const navigate = useNavigate();
  const { source, locked } = layer;
  const piece = source.kind === 'piece' ? document.pieces.find((p) => p.id === source.piece) : undefined;
  return (
    <Section name="Look">
      <LayerField {...part} property="opacity" />
      <LayerField {...part} property="blur" />
      <SmallSelect
        label="Blend mode"
        value={layer.blend}
        options={blendOptions}
        disabled={locked}
        onChange={(mode) => dispatch(setBlend(shot.id, layer.id, mode))}
        after={<span className="size-6" />}
      />
      {shot.motionBlur && (
        <SwitchRow
          label="Motion blur"
          on={layer.motionBlur}
          disabled={locked}
          onChange={(motionBlur) => dispatch(setLayer('Change motion blur', shot.id, layer.id, { motionBlur }))}
        />
      )}
      {layer.colour && <LayerField {...part} property="colour" />}
      {source.kind === 'shape' && (
        <>
          {source.made ? (
            <Button
              className="mt-1 w-full"
              title="Its outline is moved point by point from then on, no more by its numbers"
              disabled={locked}
              onClick={() => dispatch(shapeToPoints(shot.id, layer.id, frame))}
            >
              Turn into points
            </Button>
          ) : (
            <ToolRow
              label="Outline"
              tool="points"
              name="Move points"
              disabled={locked}
              after={<KeyToggle shot={shot} layer={layer} property="points" frame={frame} />}
            />
          )}
          <NumberField
            label="Stroke"
            unit="px"
            digits={1}
            min={0}
            max={500}
            value={source.stroke?.width ?? 0}
            disabled={locked}
            onChange={(width) => {
              const stroke = width > 0 ? { width, colour: source.stroke?.colour ?? ink } : null;
              dispatch(setLayer('Change stroke', shot.id, layer.id, { source: { ...source, stroke } }));
            }}
            after={<span className="size-6" />}
          />
          {source.stroke && (
            <ColourField
              label="Stroke colour"
              value={source.stroke.colour}
              disabled={locked}
              onChange={(colour, gesture) => {
                const stroke = { ...source.stroke!, colour: colour as [number, number, number, number] };
                const change = { source: { ...source, stroke } };
                dispatch(setLayer('Change stroke', shot.id, layer.id, change), `stroke ${layer.id} ${gesture}`);
              }}
              after={<span className="size-6" />}
            />
          )}
          <SmallSelect
            label="Fill"
            value={!source.filled ? 'none' : (source.gradient?.kind ?? 'plain')}
            options={plainOptions(['plain', 'linear', 'radial', 'none'] as const)}
            disabled={locked}
            onChange={(fill) => {
              const colour = layerValue(shot, layer, 'colour', frame) as [number, number, number, number];
              const gradient =
                fill === 'linear' || fill === 'radial'
                  ? {
                      kind: fill,
                      angle: source.gradient?.angle ?? 90,
                      stops: source.gradient?.stops ?? [
                        { at: 0, colour },
                        { at: 1, colour: [colour[0], colour[1], colour[2], 0] as typeof colour },
                      ],
                    }
                  : null;
              const change = { source: { ...source, filled: fill !== 'none', gradient } };
              dispatch(setLayer('Change fill', shot.id, layer.id, change));
            }}
            after={<span className="size-6" />}
          />
          {source.gradient?.kind === 'linear' && (
            <NumberField
              label="Direction"
              unit="°"
              value={source.gradient.angle}
              disabled={locked}
              onChange={(angle) => {
                const change = { source: { ...source, gradient: { ...source.gradient!, angle } } };
                dispatch(setLayer('Change gradient', shot.id, layer.id, change));
              }}
              after={<span className="size-6" />}
            />
          )}
          {source.gradient?.stops.map((stop, k) => (
            <ColourField
              key={k}
              label={k === 0 ? 'From' : 'To'}
              value={stop.colour}
              disabled={locked}
              onChange={(colour, gesture) => {
                const stops = source.gradient!.stops.map((s, n) =>
                  n === k ? { ...s, colour: colour as typeof s.colour } : s,
                );
                const change = { source: { ...source, gradient: { ...source.gradient!, stops } } };
                dispatch(setLayer('Change gradient', shot.id, layer.id, change), `stop ${layer.id} ${gesture}`);
              }}
              after={<span className="size-6" />}
            />
          ))}
        </>
      )}
      {piece && (
        <Button
          className="mt-1 w-full"
          icon={<Scissors size={14} />}
          onClick={() => void navigate(`/project/${id}/cut/${piece.picture}/${piece.id}`)}
        >
          Open its cut
        </Button>
      )}
    </Section>
  );
}

const ink: [number, number, number, number] = [28, 42, 48, 1];
