import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { changeText } from '../../../../core/edits/layer-edits.ts';
import { cameraAt, layerMatrix } from '../../../../core/scene/place.ts';
import { invert, transform } from '../../../../core/scene/matrix.ts';
import { caretAt, caretLine, letterBoxes, nearestPlace, placeInLine } from '../../../../core/text/caret.ts';
import { lettersOf } from '../../../../core/text/lettering.ts';
import { useProject } from '../../../data/project.ts';
import { drag } from '../../../parts/zoom.ts';
import { measuredNow } from '../../../workers/faces.ts';
import type { Text } from '../card/text.tsx';
import { useStage } from '../stage-state.ts';
import { onScreen } from '../view/on-screen.ts';
import type { HandlesProps } from '../view/layer-handles.tsx';

/**
 * Typing on the words themselves: a field without a look of its own takes the keys, and caret and selection are drawn
 * where the letters really stand, whatever they run along.
 */
export function WriteInView({ document, shot, layer, zoom, frame }: HandlesProps) {
  const { dispatch, undo, redo } = useProject();
  const field = useRef<HTMLTextAreaElement>(null);
  const begun = useRef(false);
  const text = layer.source as Text;
  const [selected, setSelected] = useState({ from: text.text.length, to: text.text.length, at: text.text.length });
  const gesture = useRef(`write ${layer.id} ${Date.now()}`);
  const matrix = layerMatrix(document, shot, layer, cameraAt(shot, frame), frame);
  const set = lettersOf(text);

  useEffect(() => () => useStage.setState({ letters: null }), []);
  /** Typing begins once the words are there, with all of them selected. */
  const begin = (area: HTMLTextAreaElement | null): void => {
    field.current = area;
    if (!area || begun.current) return;
    begun.current = true;
    area.focus();
    area.setSelectionRange(0, area.value.length);
  };
  const read = (): void => {
    const area = field.current;
    if (!area) return;
    const [from, to] = [area.selectionStart, area.selectionEnd];
    setSelected({ from, to, at: area.selectionDirection === 'backward' ? from : to });
    useStage.setState({ letters: { from, to } });
  };
  useEffect(() => {
    window.document.addEventListener('selectionchange', read);
    return () => window.document.removeEventListener('selectionchange', read);
  });
  const choose = (from: number, to: number): void => {
    const [a, b] = [Math.min(from, to), Math.max(from, to)];
    field.current!.setSelectionRange(a, b, to < from ? 'backward' : 'forward');
    read();
  };
  if (!matrix || !set) return null;
  const inText = (event: { clientX: number; clientY: number }): [number, number] =>
    transform(invert(matrix), ...zoom.toThing(event.clientX, event.clientY));
  const press = (event: PointerEvent): void => {
    event.stopPropagation();
    event.preventDefault();
    field.current!.focus();
    const from = nearestPlace(set, text.text, inText(event));
    const start = event.shiftKey ? selected.from : from;
    choose(start, from);
    drag(event, (move) => choose(start, nearestPlace(set, text.text, inText(move))));
  };
  const pullSide = (event: PointerEvent): void => {
    event.stopPropagation();
    const pull = `wrap ${layer.id} ${Date.now()}`;
    drag(event, (move) => {
      const wrap = Math.max(text.size, Math.round(inText(move)[0]));
      dispatch(changeText(shot.id, layer.id, { wrap }, measuredNow), pull);
    });
  };
  const poly = (corners: readonly (readonly [number, number])[]): string =>
    corners.map(([x, y]) => onScreen(zoom, matrix, x, y).join()).join(' ');
  const caret = caretLine(caretAt(set, text.text, selected.at, text.size)).map(([x, y]) =>
    onScreen(zoom, matrix, x, y),
  );
  const { width, height } = text.box;
  const frameOfBox: [number, number][] = [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ];
  const side = onScreen(zoom, matrix, width, height / 2);
  const [fx, fy] = onScreen(zoom, matrix, 0, height);
  return (
    <g className="pointer-events-auto" data-testid="write-in-view">
      <polygon points={poly(frameOfBox)} className="cursor-text fill-white/5 stroke-saffron" onPointerDown={press} />
      {letterBoxes(set, selected.from, selected.to).map((corners, k) => (
        <polygon key={k} points={poly(corners)} className="pointer-events-none fill-dusk/45" />
      ))}
      <line
        data-testid="caret"
        x1={caret[0]![0]}
        y1={caret[0]![1]}
        x2={caret[1]![0]}
        y2={caret[1]![1]}
        className="pointer-events-none animate-pulse stroke-saffron motion-reduce:animate-none"
        strokeWidth={2}
      />
      {!text.along && (
        <rect
          x={side[0] - 4}
          y={side[1] - 11}
          width={8}
          height={22}
          rx={3}
          className="cursor-ew-resize fill-paper stroke-saffron"
          strokeWidth={2}
          onPointerDown={pullSide}
        >
          <title>Width of the box</title>
        </rect>
      )}
      <foreignObject x={fx} y={fy + 6} width={1} height={1}>
        <textarea
          ref={begin}
          aria-label="Type the words"
          dir="auto"
          maxLength={2000}
          className="size-px resize-none opacity-0"
          value={text.text}
          onChange={(event) =>
            dispatch(changeText(shot.id, layer.id, { text: event.target.value }, measuredNow), gesture.current)
          }
          onSelect={read}
          onBlur={({ relatedTarget: next }) => {
            // Whoever goes to another control has finished typing, but for what is marked as there for it.
            if (next && !next.closest('[data-while-typing]')) useStage.setState({ writing: null });
          }}
          onKeyDown={(event) => {
            event.stopPropagation();
            if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
              // The project's own steps, not those the field remembers.
              event.preventDefault();
              if (event.shiftKey) redo();
              else undo();
            } else if (event.key === 'Escape') useStage.setState({ writing: null });
            else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
              const next = placeInLine(set, text.text, selected.at, event.key === 'ArrowUp' ? -1 : 1);
              event.preventDefault();
              choose(event.shiftKey ? (selected.at === selected.to ? selected.from : selected.to) : next, next);
            }
          }}
        />
      </foreignObject>
    </g>
  );
}
