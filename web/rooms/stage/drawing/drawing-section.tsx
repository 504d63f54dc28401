import { RotateCcw, Ungroup } from 'lucide-react';
import { boundsOfNode, coloursOf, partAt, partsOf, type Drawing } from '../../../../core/formats/svg/drawing.ts';
import { recolourDrawing, takeDrawingApart, type DrawingSource } from '../../../../core/edits/drawing-edits.ts';
import { useProject } from '../../../data/project.ts';
import { Button, IconButton } from '../../../parts/button.tsx';
import { ColourField, hexOf } from '../card/colour-field.tsx';
import type { LayerPart } from '../card/place.tsx';
import { Section } from '../card/section.tsx';
import { useDrawing } from './use-drawing.ts';

/** More colours than these are not listed: they are shades of a gradient, not colours somebody chose. */
const mostColours = 16;

/** The colours of a drawing, and its parts as layers. */
export function DrawingSection(part: LayerPart) {
  const source = part.layer.source as DrawingSource;
  const drawing = useDrawing(source.file);
  if (!drawing) return null;
  return (
    <Section name="Drawing">
      <Colours {...part} drawing={drawing} source={source} />
      <Apart {...part} drawing={drawing} source={source} />
    </Section>
  );
}

interface DrawingPart extends LayerPart {
  drawing: Drawing;
  source: DrawingSource;
}

function Colours({ shot, layer, drawing, source }: DrawingPart) {
  const { dispatch } = useProject();
  const node = partAt(drawing, source.part);
  const colours = node ? coloursOf(node).slice(0, mostColours) : [];
  return colours.map((from) => {
    const changed = source.recolours.find((one) => one.from.every((v, k) => v === from[k]));
    return (
      <ColourField
        key={from.join()}
        label={hexOf(from)}
        value={changed?.to ?? from}
        disabled={layer.locked}
        onChange={(to, gesture) =>
          dispatch(recolourDrawing(shot.id, layer.id, from, to), `recolour ${layer.id} ${from.join()} ${gesture}`)
        }
        after={
          changed ? (
            <IconButton
              label={`Reset ${hexOf(from)}`}
              className="!size-6"
              disabled={layer.locked}
              onClick={() => dispatch(recolourDrawing(shot.id, layer.id, from, null))}
            >
              <RotateCcw size={12} />
            </IconButton>
          ) : (
            <span className="size-6" />
          )
        }
      />
    );
  });
}

function Apart({ shot, layer, drawing, source }: DrawingPart) {
  const { dispatch } = useProject();
  const parts = partsOf(drawing, source.part).flatMap((path) => {
    const node = partAt(drawing, path)!;
    const box = boundsOfNode(node);
    return box ? [{ part: [...path], name: node.name, box }] : [];
  });
  return (
    <Button
      className="mt-1 w-full"
      icon={<Ungroup size={14} />}
      disabled={layer.locked || parts.length < 2 || parts.length > 200}
      title={parts.length < 2 ? 'It has one part only' : 'Every part becomes a layer of its own, where it lies now'}
      onClick={() => dispatch(takeDrawingApart(shot.id, layer.id, parts))}
    >
      {parts.length < 2 ? 'Take apart' : `Take apart into ${parts.length} layers`}
    </Button>
  );
}
