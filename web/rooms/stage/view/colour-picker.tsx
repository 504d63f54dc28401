import { useEffect, type PointerEvent } from 'react';
import { useStage } from '../stage-state.ts';

/**
 * Lies over the view while a colour is taken from it; Escape leaves it. Meanwhile selected layers are seen without their
 * finishes, as a colour to be changed is one of the picture, not of what was made of it.
 */
export function ColourPicker({ onPick }: { onPick(colour: [number, number, number]): void }) {
  useEffect(() => {
    useStage.setState({ unfinished: true });
    const leave = (event: KeyboardEvent): void => {
      if (event.key === 'Escape') useStage.setState({ pick: null });
    };
    window.addEventListener('keydown', leave);
    return () => {
      useStage.setState({ unfinished: false });
      window.removeEventListener('keydown', leave);
    };
  }, []);
  const take = (event: PointerEvent<HTMLDivElement>): void => {
    event.stopPropagation();
    useStage.setState({ pick: null });
    const canvas = event.currentTarget.parentElement!.querySelector<HTMLCanvasElement>('[data-testid=painted] canvas')!;
    const box = canvas.getBoundingClientRect();
    const x = ((event.clientX - box.left) / box.width) * canvas.width;
    const y = ((event.clientY - box.top) / box.height) * canvas.height;
    const one = new OffscreenCanvas(1, 1).getContext('2d')!;
    one.drawImage(canvas, Math.floor(x), Math.floor(y), 1, 1, 0, 0, 1, 1);
    const [red, green, blue] = one.getImageData(0, 0, 1, 1).data;
    onPick([red!, green!, blue!]);
  };
  return (
    <div className="absolute inset-0 cursor-crosshair" data-testid="pick-colour" onPointerDown={take}>
      <p className="pointer-events-none absolute inset-x-0 bottom-3 text-center text-[13px] text-white">
        Press where the colour is (Escape leaves)
      </p>
    </div>
  );
}
