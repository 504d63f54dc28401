import { NumberField } from './number-field.tsx';
import type { Zoom } from './zoom.ts';

/** How large the picture is seen, in a corner of the view; another size can be typed. */
export function ZoomField({ zoom }: { zoom: Zoom }) {
  return (
    <div
      className="absolute right-2 bottom-2 w-40 cursor-default rounded-md bg-paper/90 px-2 py-0.5"
      onPointerDown={(event) => event.stopPropagation()}
    >
      <NumberField
        label="Zoom"
        unit="%"
        min={1}
        max={1600}
        step={10}
        value={zoom.share * 100}
        onChange={(percent) => zoom.magnify(percent / 100)}
      />
    </div>
  );
}
