import { useEffect, useRef } from 'react';
import { keyed } from '../../../core/make/cut-piece.ts';
import type { BlendMode } from '../../../core/document/blend.ts';
import type { SingleRecipe } from '../../../core/document/recipe.ts';
import { useKeys } from '../../parts/keys.ts';
import { firstLuma, firstUnveil } from './key-panel.tsx';
import { drawOnScene, fitFrame, type Scene } from './scene.ts';

interface Way {
  name: string;
  hint: string;
  recipe: Extract<SingleRecipe, { kind: 'whole' | 'luma' | 'unveil' }>;
}

/** The ways to be rid of a black ground. */
const ways: Way[] = [
  { name: 'Screen', hint: 'Light is added, never darker', recipe: { kind: 'whole', blend: 'screen' } },
  { name: 'Lighten', hint: 'The lighter of both shows', recipe: { kind: 'whole', blend: 'lighten' } },
  { name: 'Brightness key', hint: 'Dark parts are cut away', recipe: firstLuma },
  { name: 'Unveil', hint: 'Light as colour and alpha', recipe: firstUnveil },
];

interface BlackWaysProps {
  picture: ImageBitmap;
  scene: Scene;
  /** The recipe of the open step; its own settings are shown for its way. */
  recipe: SingleRecipe | null;
  onChoose(recipe: Way['recipe'], name: string): void;
  onClose(): void;
}

const sameWay = (a: SingleRecipe | null, b: Way['recipe']): boolean =>
  a?.kind === b.kind && (a.kind !== 'whole' || b.kind !== 'whole' || a.blend === b.blend);

/** Four ways to drop a black ground, side by side on the real scene; one is chosen. */
export function BlackWays({ picture, scene, recipe, onChoose, onClose }: BlackWaysProps) {
  useKeys((event) => {
    if (event.key === 'Escape') onClose();
  });
  return (
    <div
      className="absolute inset-0 grid grid-cols-2 grid-rows-2 gap-2 bg-field p-2"
      role="radiogroup"
      aria-label="Ways to drop black"
    >
      {ways.map((way) => {
        const chosen = sameWay(recipe, way.recipe);
        return (
          <button
            key={way.name}
            type="button"
            role="radio"
            aria-checked={chosen}
            className={`relative min-h-0 overflow-hidden rounded-md border-2 ${chosen ? 'border-saffron' : 'border-transparent hover:border-paper'}`}
            onClick={() => onChoose(chosen ? (recipe as Way['recipe']) : way.recipe, way.name)}
          >
            <WayView picture={picture} scene={scene} recipe={chosen ? (recipe as Way['recipe']) : way.recipe} />
            <span className="absolute inset-x-0 bottom-0 bg-paper/90 px-2 py-1 text-left">
              <span className="text-[13px] font-medium">{way.name}</span>
              <span className="ml-2 text-[12px] text-ink-2">{way.hint}</span>
            </span>
          </button>
        );
      })}
    </div>
  );
}

function WayView({ picture, scene, recipe }: { picture: ImageBitmap; scene: Scene; recipe: Way['recipe'] }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current!;
    const ratio = window.devicePixelRatio;
    element.width = Math.max(1, Math.round(element.clientWidth * ratio));
    element.height = Math.max(1, Math.round(element.clientHeight * ratio));
    const context = element.getContext('2d')!;
    const place = fitFrame(scene, element, { width: picture.width, height: picture.height });
    const blend: BlendMode = recipe.kind === 'whole' ? recipe.blend : 'normal';
    drawOnScene(context, scene, pieceBy(picture, recipe, place.scale), place, blend);
  }, [picture, scene, recipe]);
  return <canvas ref={canvas} className="size-full" />;
}

/** The piece a way gives, at about the size it is shown at. */
function pieceBy(picture: ImageBitmap, recipe: Way['recipe'], scale: number): OffscreenCanvas {
  const size = [
    Math.max(1, Math.round(picture.width * scale)),
    Math.max(1, Math.round(picture.height * scale)),
  ] as const;
  const canvas = new OffscreenCanvas(...size);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(picture, 0, 0, ...size);
  const { data } = context.getImageData(0, 0, ...size);
  const { colours } = keyed({ width: size[0], height: size[1], data }, recipe);
  context.putImageData(new ImageData(colours.data as Uint8ClampedArray<ArrayBuffer>, ...size), 0, 0);
  return canvas;
}
