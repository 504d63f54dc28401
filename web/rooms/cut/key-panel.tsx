import { Grid2x2, Pipette, X } from 'lucide-react';
import type { SingleRecipe } from '../../../core/document/recipe.ts';
import { defaultDifference } from '../../../core/key/difference.ts';
import { notifyError } from '../../data/notices.ts';
import { Button } from '../../parts/button.tsx';
import { ChoiceCards } from '../../parts/choices.tsx';
import { Slider } from '../../parts/slider.tsx';
import type { CutPanelProps } from './cut-tools.ts';
import { KeyHistogram } from './key-histogram.tsx';

type Chroma = Extract<SingleRecipe, { kind: 'chroma' }>;
type Luma = Extract<SingleRecipe, { kind: 'luma' }>;
type Unveil = Extract<SingleRecipe, { kind: 'unveil' }>;

export const firstChroma: Chroma = { kind: 'chroma', colours: [], core: 10, edge: 34, spill: 1 };
export const firstLuma: Luma = { kind: 'luma', drop: 'dark', low: 24, high: 96 };
export const firstUnveil: Unveil = { kind: 'unveil', black: 8 };

const css = (c: readonly number[]): string => `rgb(${c.map(Math.round).join(' ')})`;

/** By colour: a screen measured from the picture, thresholds on its histogram, spill. */
export function ColourControls(props: CutPanelProps) {
  const { session, tool, setTool, begin } = props;
  const recipe = props.recipe?.kind === 'chroma' ? props.recipe : null;
  if (!recipe) {
    return (
      <>
        <Button look="primary" disabled={!session.pixels} onClick={() => begin(firstChroma, 'Cut by colour')}>
          Remove screen
        </Button>
        {props.moving && <DifferenceControls {...props} />}
      </>
    );
  }
  const change = (part: Partial<Chroma>, gesture?: string): void =>
    props.change({ ...recipe, ...part }, 'Change colour key', gesture);
  const shown = recipe.colours.length > 0 ? recipe.colours : session.screen ? [session.screen] : [];
  return (
    <>
      <div className="flex items-center gap-1.5">
        {shown.map((colour, k) => (
          <button
            key={k}
            type="button"
            title={recipe.colours.length > 0 ? 'Remove this sample' : 'Found along the borders'}
            aria-label={recipe.colours.length > 0 ? `Remove sample ${k + 1}` : 'Screen colour, found by itself'}
            disabled={recipe.colours.length === 0}
            onClick={() => change({ colours: recipe.colours.filter((_, i) => i !== k) })}
            className="flex size-7 items-center justify-center rounded-md border border-line"
            style={{ background: css(colour) }}
          >
            {recipe.colours.length > 0 && <X size={12} className="text-white mix-blend-difference" />}
          </button>
        ))}
        <Button
          icon={<Pipette size={14} />}
          aria-pressed={tool === 'screen'}
          className={`ml-auto ${tool === 'screen' ? 'border-pine text-pine' : ''}`}
          title="Click on the screen in the picture (S)"
          onClick={() => setTool(tool === 'screen' ? null : 'screen')}
        >
          Sample
        </Button>
      </div>
      {session.histogram && (
        <KeyHistogram
          histogram={session.histogram}
          low={recipe.core}
          high={recipe.edge}
          names={['All screen up to', 'All subject from']}
          onChange={(core, edge) => change({ core, edge: Math.max(1, edge) }, 'colour-thresholds')}
        />
      )}
      <p className="text-[12px] text-ink-2">Left: screen. Right: subject. Between the handles the edge is mixed.</p>
      <Slider
        label="Spill"
        name="Spill taken away"
        min={0}
        max={100}
        value={Math.round(recipe.spill * 100)}
        shown={`${Math.round(recipe.spill * 100)} %`}
        onChange={(v) => change({ spill: v / 100 }, 'spill')}
      />
    </>
  );
}

const firstDifference = { kind: 'difference', ...defaultDifference } as const;

/** For clips without a screen: what differs from their still ground. */
function DifferenceControls(props: CutPanelProps) {
  const { session, begin, change } = props;
  const recipe = props.recipe?.kind === 'difference' ? props.recipe : null;
  const find = (from: 'median' | 'frame'): void => {
    session
      .findGround(from)
      .then((ground) => {
        if (ground) begin({ ...(recipe ?? firstDifference), ground }, 'Difference to the ground');
      })
      .catch((error: unknown) => notifyError(error));
  };
  const limit = (label: string, key: 'low' | 'high', most: number) =>
    recipe && (
      <Slider
        label={label}
        name={key === 'low' ? 'All ground up to' : 'All subject from'}
        max={most}
        value={recipe[key]}
        shown={String(recipe[key])}
        onChange={(v) => {
          const next = { ...recipe, [key]: v };
          change({ ...next, high: Math.max(next.high, next.low + 1) }, 'Change difference', 'difference');
        }}
      />
    );
  return (
    <>
      <Button
        disabled={!session.pixels}
        title="The ground is what stays still in the clip"
        onClick={() => find('median')}
      >
        Keep what moves
      </Button>
      <Button disabled={!session.pixels} title="The ground is what this frame shows" onClick={() => find('frame')}>
        This frame is empty
      </Button>
      {limit('Ground', 'low', 100)}
      {limit('Subject', 'high', 160)}
    </>
  );
}

const ways: { id: 'dark' | 'light' | 'unveil'; name: string; hint: string; recipe: Luma | Unveil }[] = [
  { id: 'dark', name: 'Dark goes', hint: 'A dark ground is dropped', recipe: firstLuma },
  {
    id: 'light',
    name: 'Light goes',
    hint: 'A light ground is dropped',
    recipe: { ...firstLuma, drop: 'light', low: 150, high: 235 },
  },
  { id: 'unveil', name: 'Unveil', hint: 'Light on black: sparks, smoke, glows', recipe: firstUnveil },
];

/** By brightness: the dark or the light side goes, or light is unveiled from black. */
export function BrightnessControls(props: CutPanelProps) {
  const { piece, session, begin, compareBlack } = props;
  const recipe = props.recipe?.kind === 'luma' || props.recipe?.kind === 'unveil' ? props.recipe : null;
  const chosen = recipe?.kind === 'luma' ? recipe.drop : (recipe?.kind ?? null);
  const change = (next: Luma | Unveil): void => props.change(next, 'Change brightness key', 'brightness');
  return (
    <>
      <ChoiceCards
        label="By brightness"
        choices={ways}
        chosen={chosen}
        disabled={!session.pixels}
        onChoose={(id) =>
          begin(ways.find((way) => way.id === id)!.recipe, id === 'unveil' ? 'Unveil' : 'Cut by brightness')
        }
      />
      <Button
        icon={<Grid2x2 size={14} />}
        disabled={!piece || !session.pixels}
        title="Screen, lighten, brightness key and Unveil on the scene itself"
        onClick={compareBlack}
      >
        Compare on the scene
      </Button>
      {session.histogram && recipe?.kind === 'luma' && (
        <KeyHistogram
          histogram={session.histogram}
          low={recipe.low}
          high={recipe.high}
          names={['Dark end', 'Light end']}
          onChange={(low, high) => change({ ...recipe, low: Math.min(255, low), high: Math.min(255, high) })}
        />
      )}
      {recipe?.kind === 'unveil' && (
        <Slider
          label="Black"
          name="What counts as black"
          min={0}
          max={64}
          value={recipe.black}
          shown={String(recipe.black)}
          onChange={(black) => change({ ...recipe, black })}
        />
      )}
    </>
  );
}
