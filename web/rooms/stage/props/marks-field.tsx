import { Eraser } from 'lucide-react';
import { changeProp, type PropSource } from '../../../../core/edits/prop-edits.ts';
import type { BrushStroke, Setting } from '../../../../core/settings/setting.ts';
import { useProject } from '../../../data/project.ts';
import { IconButton } from '../../../parts/button.tsx';
import { BrushSize } from '../../../parts/slider.tsx';
import type { LayerPart } from '../card/place.tsx';
import { ToolRow } from '../card/tool-row.tsx';
import { useStage } from '../stage-state.ts';

/** Takes up the brush that paints a setting, and clears what it painted. */
export function MarksField({ shot, layer, name, setting }: LayerPart & { name: string; setting: Setting }) {
  const { dispatch } = useProject();
  const { tool, depthBrush } = useStage();
  const marks = (layer.source as PropSource).made.settings[name] as BrushStroke[];
  return (
    <>
      <ToolRow
        label={setting.name}
        tool="marks"
        name="Paint"
        disabled={layer.locked}
        after={
          <IconButton
            label={`Clear ${setting.name.toLowerCase()}`}
            className="!size-6"
            disabled={layer.locked || marks.length === 0}
            onClick={() => dispatch(changeProp(shot.id, layer.id, {}, { [name]: [] }))}
          >
            <Eraser size={13} />
          </IconButton>
        }
      />
      {tool === 'marks' && (
        <>
          <BrushSize
            name="Brush size"
            radius={depthBrush}
            onChange={(radius) => useStage.setState({ depthBrush: radius })}
          />
          <p className="text-[12px] text-ink-2">Paint in the view; with Alt a stroke takes away.</p>
        </>
      )}
    </>
  );
}
