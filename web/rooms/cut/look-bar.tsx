import { Eye } from 'lucide-react';
import { IconButton } from '../../parts/button.tsx';
import { ChoiceBar } from '../../parts/choices.tsx';
import { looks, type LookOptions } from './looks.ts';

/** Colours to judge an edge on: the extremes, and strong ones that show a fringe at once. */
const judgingColours = ['#ffffff', '#000000', '#0e5b50', '#d8249a', '#d99a00', '#44648a'];

/** The ways to look at a cut, and the colours to judge its edge on. */
export function LookBar({
  options,
  show,
  disabled,
}: {
  options: LookOptions;
  show(change: Partial<LookOptions>): void;
  disabled: boolean;
}) {
  const onColour = options.look === 'colour' || options.look === 'wipe';
  return (
    <div className="flex h-11 shrink-0 items-center gap-3 border-t border-line px-3">
      <ChoiceBar
        label="How to look at it"
        choices={looks}
        chosen={options.look}
        disabled={disabled}
        hint="V for the next"
        onChoose={(look) => show({ look })}
      />
      {onColour && !disabled && (
        <>
          <div className="flex gap-1">
            {judgingColours.map((colour) => (
              <button
                key={colour}
                type="button"
                aria-label={`On ${colour}`}
                aria-pressed={options.colour === colour}
                onClick={() => show({ colour })}
                className={`size-5 rounded-full border ${options.colour === colour ? 'border-ink ring-2 ring-saffron' : 'border-line'}`}
                style={{ background: colour }}
              />
            ))}
            <input
              type="color"
              aria-label="Any colour"
              title="Any colour"
              className="size-5 cursor-pointer rounded border border-line bg-transparent"
              value={options.colour}
              onChange={(event) => show({ colour: event.target.value })}
            />
          </div>
          <IconButton
            label="Ghost of the picture"
            shortcut="G"
            pressed={options.ghost}
            onClick={() => show({ ghost: !options.ghost })}
          >
            <Eye size={15} />
          </IconButton>
        </>
      )}
      <span className="ml-auto truncate text-[12px] text-ink-2">Wheel zooms, 0 fits, 1, 2, 4 are 100, 200, 400 %</span>
    </div>
  );
}
