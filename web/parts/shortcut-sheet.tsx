import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import { useState } from 'react';
import { Button } from './button.tsx';
import { useKeys } from './keys.ts';

const groups: { title: string; keys: [string, string][] }[] = [
  {
    title: 'Everywhere',
    keys: [
      ['Ctrl Z', 'Undo'],
      ['Ctrl Shift Z', 'Redo'],
      ['Alt 1 … 4', 'Go to a room'],
      ['?', 'This sheet'],
    ],
  },
  {
    title: 'Looking',
    keys: [
      ['Wheel', 'Zoom at the pointer'],
      ['Space + drag', 'Move the view'],
      ['0', 'Fit'],
      ['1, 2, 4', '100, 200, 400 %'],
    ],
  },
  {
    title: 'Cut',
    keys: [
      ['F', 'Find subject'],
      ['K', 'Keep strokes'],
      ['D', 'Drop strokes'],
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

export function ShortcutSheet() {
  const [open, setOpen] = useState(false);
  useKeys((event) => {
    if (event.key === '?') setOpen(true);
  });
  return (
    <Dialog open={open} onClose={setOpen} className="relative z-50">
      <div className="fixed inset-0 bg-ink/30" aria-hidden />
      <div className="fixed inset-0 flex items-center justify-center p-6">
        <DialogPanel className="max-h-full w-[720px] overflow-auto rounded-xl bg-paper p-6 shadow-2xl">
          <DialogTitle className="mb-4 text-lg font-semibold">Shortcuts</DialogTitle>
          <div className="grid grid-cols-2 gap-x-10 gap-y-5">
            {groups.map((group) => (
              <section key={group.title}>
                <h3 className="mb-1 text-[13px] font-semibold text-pine">{group.title}</h3>
                <dl>
                  {group.keys.map(([key, meaning]) => (
                    <div key={key} className="flex gap-3 border-b border-line py-1 text-[13px]">
                      <dt className="w-28 shrink-0 font-mono text-[12px]">{key}</dt>
                      <dd className="text-ink-2">{meaning}</dd>
                    </div>
                  ))}
                </dl>
              </section>
            ))}
          </div>
          <div className="mt-5 flex justify-end">
            <Button onClick={() => setOpen(false)}>Close</Button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
