/** Which keys do what, by the room in which they do it. */
export interface ShortcutGroup {
  title: string;
  /** Rooms it belongs to, by the last part of their address; null for all. */
  rooms: readonly string[] | null;
  keys: readonly (readonly [string, string])[];
}

export const shortcuts: readonly ShortcutGroup[] = [
  {
    title: 'Everywhere',
    rooms: null,
    keys: [
      ['Ctrl Z', 'Undo'],
      ['Ctrl Shift Z', 'Redo'],
      ['Alt 1 … 4', 'Go to a room'],
      ['?', 'Guide and shortcuts'],
    ],
  },
  {
    title: 'Looking',
    rooms: ['cut', 'stage', 'deliver'],
    keys: [
      ['Wheel', 'Zoom at the pointer'],
      ['Space + drag', 'Move the view'],
      ['0', 'Fit'],
      ['1, 2, 4', '100, 200, 400 %'],
    ],
  },
  {
    title: 'Cut',
    rooms: ['cut'],
    keys: [
      ['F', 'Find subject'],
      ['K', 'Keep strokes'],
      ['D', 'Drop strokes'],
      ['T', 'Follow thin lines'],
      ['B', 'Box around it'],
      ['S', 'Sample the screen'],
      ['R, X, E, H', 'Restore, wipe away, soften, hair'],
      ['O, P, A', 'Outline, path, change points'],
      ['Enter, Backspace', 'Close the outline, take a point back'],
      ['[ and ]', 'Thinner, thicker'],
      ['V', 'Next way to look'],
      ['G', 'Ghost'],
      ['Enter', 'Stroke at the crosshair (arrow keys move it)'],
      ['L', 'Lift out, or lift the shadow'],
    ],
  },
  {
    title: 'Background',
    rooms: ['cut'],
    keys: [
      ['R', 'Paint a region to rebuild'],
      ['G', 'Line that runs through'],
      ['M', 'Make it: rebuild or widen'],
      ['B, C, H', 'Brush away, clone, heal'],
      ['Alt + press', 'Source for clone and heal'],
      ['W', 'Widen and level'],
    ],
  },
  {
    title: 'Stage',
    rooms: ['stage'],
    keys: [
      ['Space', 'Play or stop'],
      ['Hold U', 'Selected layers without their finishes'],
      [', and .', 'One frame back, forward; with Shift a keyframe'],
      ['Home, End', 'First, last frame'],
      ['Arrows', 'Nudge by 1, with Shift by 10'],
      ['Arrows on a keyframe', 'Move it by a frame, with Shift by 10'],
      ['Ctrl wheel over the timeline', 'More or less time at the pointer'],
      ['P, D', 'Keyframe for position, draw the path'],
      ['S', 'Solo'],
      ['M', 'Marker'],
      ['B, E', 'Selected layers begin, end here, also while playing'],
      ['I, O, X', 'Work area begins, ends, is all again'],
      ['Ctrl C, Ctrl V', 'Copy, paste keyframes'],
      ['Ctrl D', 'Duplicate'],
      ['Ctrl G, Ctrl Shift G', 'Group, ungroup'],
      ['Ctrl A', 'Select all layers'],
      ['Delete', 'Delete keyframes or layers'],
    ],
  },
];
