import type { PointerEvent } from 'react';

/** Takes every press on the view while a brush or a pen is in the hand. */
export const ViewCatcher = ({ name, onPress }: { name: string; onPress(event: PointerEvent): void }) => (
  <rect
    width="100%"
    height="100%"
    fill="transparent"
    className="pointer-events-auto cursor-crosshair"
    data-testid={name}
    onPointerDown={onPress}
  />
);
