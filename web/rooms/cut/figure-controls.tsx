import { Film, Layers, StepForward, Trash2 } from 'lucide-react';
import { keyAt, withoutKeyAt } from '../../../core/document/figure.ts';
import type { FigureRecipe } from '../../../core/document/recipe.ts';
import { troubleFrames } from '../../../core/film/trouble.ts';
import { startCarrying, startGround, useFigures } from '../../data/figures.ts';
import { useProject } from '../../data/project.ts';
import { Button, IconButton } from '../../parts/button.tsx';

interface FigureControlsProps {
  piece: string;
  step: string;
  recipe: FigureRecipe;
  /** The frame of the clip that is shown. */
  frame: number;
  showFrame(frame: number): void;
  change(recipe: FigureRecipe, name: string): void;
}

/** A figure that was found in one frame is cut through the whole clip, and put right where it went astray. */
export function FigureControls({ piece, step, recipe, frame, showFrame, change }: FigureControlsProps) {
  const { id: project, latest } = useProject();
  const running = useFigures((state) => state.running[piece]);
  const cut = recipe.mattes.filter((matte) => matte !== null).length;
  const due = recipe.due ? recipe.due[1] - recipe.due[0] : 0;
  const key = keyAt(recipe, frame);
  return (
    <div className="flex flex-col gap-1.5 border-t border-line pt-2" aria-label="Through the clip">
      {running ? (
        <div className="flex flex-col gap-1 text-[12px] text-ink-2">
          <progress className="h-1.5 w-full accent-pine" max={1} value={running.share} aria-label={running.doing} />
          <div className="flex items-center justify-between">
            <span>{running.doing}</span>
            <Button className="!h-7 !px-2 text-[12px]" onClick={running.cancel}>
              Stop
            </Button>
          </div>
        </div>
      ) : (
        due > 0 && (
          <Button
            look="primary"
            icon={<Film size={15} />}
            title={
              cut === 0
                ? 'The figure is followed from here through every frame'
                : `${due} frames are cut again, up to the nearest ones that were put right`
            }
            onClick={() => project && startCarrying(project, latest(), piece, step)}
          >
            {cut === 0 ? 'Cut through the clip' : `Cut ${due} frames again`}
          </Button>
        )
      )}
      <p className="text-[12px] text-ink-2" data-testid="figure-state">
        {cut === 0 ? 'Only this frame is cut so far.' : `${cut} of ${recipe.mattes.length} frames cut`}
        {recipe.keys.length > 1 && `, ${recipe.keys.length - 1} put right`}
      </p>
      {!running && cut === recipe.mattes.length && (
        <Button
          icon={<Layers size={14} />}
          title="What is behind the figure, from the frames in which it is seen"
          onClick={() => project && startGround(project, latest(), piece, recipe.mattes)}
        >
          Rebuild background
        </Button>
      )}
      <Troubles recipe={recipe} frame={frame} showFrame={showFrame} />
      {key?.base && (
        <Button
          icon={<Trash2 size={14} />}
          onClick={() => change(withoutKeyAt(recipe, frame), 'Take corrections back')}
        >
          Take corrections back
        </Button>
      )}
    </div>
  );
}

function Troubles({ recipe, frame, showFrame }: Pick<FigureControlsProps, 'recipe' | 'frame' | 'showFrame'>) {
  const found = troubleFrames(recipe.changed).filter((one) => !keyAt(recipe, one));
  if (found.length === 0) return null;
  const next = found.find((one) => one > frame) ?? found[0]!;
  return (
    <div className="flex items-center justify-between text-[12px] text-brick">
      <span>{found.length === 1 ? '1 frame to look at' : `${found.length} frames to look at`}</span>
      <IconButton label="Next frame to look at" className="!size-7" onClick={() => showFrame(next)}>
        <StepForward size={14} />
      </IconButton>
    </div>
  );
}
