import { useEffect, useRef } from 'react';

/** Size of a tile in CSS pixels; its pictures have twice as many. */
export const tileSize = [138, 86] as const;
/** From one picture of a moving tile to the next, milliseconds. */
const step = 90;

/** A small picture, or several that play for ever; with reduced motion the one in the middle. */
export function Tile({ pictures, scale }: { pictures: readonly ImageBitmap[] | undefined; scale: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [width, height] = tileSize;
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    const show = (picture: ImageBitmap | undefined): void => {
      context.clearRect(0, 0, 2 * width, 2 * height);
      if (picture) context.drawImage(picture, 0, 0);
    };
    const count = pictures?.length ?? 0;
    const quiet = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
    show(pictures?.[quiet ? Math.floor(count / 2) : 0]);
    if (count < 2 || quiet) return;
    const timer = setInterval(() => show(pictures![Math.floor(performance.now() / step) % count]), step);
    return () => clearInterval(timer);
  }, [pictures, width, height]);
  return (
    <canvas
      ref={canvas}
      width={2 * width}
      height={2 * height}
      data-ready={pictures !== undefined}
      className="block bg-field"
      style={{ width: width * scale, height: height * scale }}
      aria-hidden
    />
  );
}
