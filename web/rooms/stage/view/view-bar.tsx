import {
  Grid3x3,
  Layers2,
  Magnet,
  Rabbit,
  RectangleHorizontal,
  SeparatorHorizontal,
  SeparatorVertical,
} from 'lucide-react';
import type { Document } from '../../../../core/document/document.ts';
import { setGuides } from '../../../../core/edits/shot-edits.ts';
import type { Shot } from '../../../../core/document/shot.ts';
import { useProject } from '../../../data/project.ts';
import { IconButton } from '../../../parts/button.tsx';
import { useStage } from '../stage-state.ts';

/** How the view is looked at: what lies over it, and whether heavy effects wait. */
export function ViewBar({ document, shot }: { document: Document; shot: Shot }) {
  const { dispatch } = useProject();
  const { x, y } = shot.guides;
  const { overlays, toggleOverlay, light } = useStage();
  const toggles = [
    ['safe', 'Safe area', <RectangleHorizontal key="s" size={15} />],
    ['thirds', 'Thirds', <Grid3x3 key="t" size={15} />],
    ['onion', 'Onion skin', <Layers2 key="o" size={15} />],
    ['snap', 'Snap to frame and layers', <Magnet key="m" size={15} />],
  ] as const;
  return (
    <div className="flex shrink-0 gap-0.5" role="toolbar" aria-label="How the view is looked at">
      {toggles.map(([which, label, icon]) => (
        <IconButton key={which} label={label} pressed={overlays[which]} onClick={() => toggleOverlay(which)}>
          {icon}
        </IconButton>
      ))}
      <IconButton
        label="New vertical guide"
        onClick={() => dispatch(setGuides(shot.id, { x: [...x, document.frame.width / 2], y }))}
      >
        <SeparatorVertical size={15} />
      </IconButton>
      <IconButton
        label="New horizontal guide"
        onClick={() => dispatch(setGuides(shot.id, { x, y: [...y, document.frame.height / 2] }))}
      >
        <SeparatorHorizontal size={15} />
      </IconButton>
      <IconButton
        label="Leave out heavy effects while working"
        pressed={light}
        onClick={() => useStage.setState({ light: !light })}
      >
        <Rabbit size={15} />
      </IconButton>
    </div>
  );
}
