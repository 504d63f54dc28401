import {
  useEffect,
  useEffectEvent,
  useLayoutEffect,
  useRef,
  useState,
  type PointerEvent as ReactPointerEvent,
  type RefObject,
} from 'react';
import { takeSpace, useKeys } from './keys.ts';

/** How a thing of some size lies in a view: view = thing * scale + (x, y), in CSS pixels. */
export interface ViewTransform {
  scale: number;
  x: number;
  y: number;
}

export interface Zoom {
  view: ViewTransform;
  size: { width: number; height: number };
  /** Whether Space is held: drags move the view. */
  panning: boolean;
  fit(): void;
  /** Pixels of the screen a pixel of the thing, about the middle of the view: 1 is 100 %. */
  magnify(share: number): void;
  /** What `magnify` was last told, or what fits. */
  share: number;
  /** Brings a part of the thing into the middle, as large as it is useful. */
  show(part: { x: number; y: number; width: number; height: number }): void;
  toThing(clientX: number, clientY: number): [number, number];
  startPan(event: ReactPointerEvent): void;
}

/**
 * Zoom at the pointer with the wheel, Space with drag pans, 0 fits, 1, 2 and 4 are 100, 200 and 400 %.
 * @param thing size of what is looked at  @param margin free space around it when it fits, CSS pixels
 */
export function useZoom(
  container: RefObject<HTMLElement | null>,
  thing: { width: number; height: number },
  margin = 24,
  spaceTapped?: () => void,
): Zoom {
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [chosen, setChosen] = useState<ViewTransform | null>(null);
  const [panning, setPanning] = useState(false);
  const dragged = useRef(false);

  useLayoutEffect(() => {
    const element = container.current!;
    const measure = (): void => setSize({ width: element.clientWidth, height: element.clientHeight });
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    measure();
    return () => observer.disconnect();
  }, [container]);

  const fitted = fitView(size, thing, margin);
  const view = chosen ?? fitted;

  const zoomAt = useEffectEvent((factor: number, clientX: number, clientY: number) => {
    const box = container.current!.getBoundingClientRect();
    const px = clientX - box.left;
    const py = clientY - box.top;
    const scale = Math.max(fitted.scale * 0.4, Math.min(16, view.scale * factor));
    const k = scale / view.scale;
    setChosen({ scale, x: px - (px - view.x) * k, y: py - (py - view.y) * k });
  });
  useEffect(() => {
    const element = container.current!;
    const onWheel = (event: WheelEvent): void => {
      event.preventDefault();
      zoomAt(Math.exp(-event.deltaY * 0.0016), event.clientX, event.clientY);
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [container]);

  const magnify = (share: number): void => {
    const scale = Math.max(fitted.scale * 0.4, Math.min(16, share / window.devicePixelRatio));
    const k = scale / view.scale;
    const [x, y] = [size.width / 2, size.height / 2];
    setChosen({ scale, x: x - (x - view.x) * k, y: y - (y - view.y) * k });
  };
  useKeys((event) => {
    if (event.key === '0' && !event.ctrlKey && !event.altKey) setChosen(null);
    else if (/^[124]$/.test(event.key) && !event.ctrlKey && !event.altKey) magnify(Number(event.key));
    else if (event.key === ' ' && takeSpace(event)) {
      event.preventDefault();
      if (!event.repeat) {
        dragged.current = false;
        setPanning(true);
      }
    }
  });
  const onKeyUp = useEffectEvent((event: KeyboardEvent) => {
    if (event.key !== ' ' || !panning) return;
    setPanning(false);
    if (!dragged.current) spaceTapped?.();
  });
  useEffect(() => {
    const listener = (event: KeyboardEvent): void => onKeyUp(event);
    window.addEventListener('keyup', listener);
    return () => window.removeEventListener('keyup', listener);
  }, []);

  return {
    view,
    size,
    panning,
    fit: () => setChosen(null),
    magnify,
    share: view.scale * window.devicePixelRatio,
    show: (part) => {
      const room = Math.min(size.width / (part.width + 60), size.height / (part.height + 60));
      const scale = Math.max(fitted.scale, Math.min(4, room));
      const [x, y] = [part.x + part.width / 2, part.y + part.height / 2];
      setChosen({ scale, x: size.width / 2 - x * scale, y: size.height / 2 - y * scale });
    },
    toThing: (clientX, clientY) => {
      const box = container.current!.getBoundingClientRect();
      return [(clientX - box.left - view.x) / view.scale, (clientY - box.top - view.y) / view.scale];
    },
    startPan: (event) => {
      dragged.current = true;
      const from = { x: event.clientX, y: event.clientY };
      drag(event, (move) =>
        setChosen({ ...view, x: view.x + move.clientX - from.x, y: view.y + move.clientY - from.y }),
      );
    },
  };
}

function fitView(
  size: { width: number; height: number },
  thing: { width: number; height: number },
  margin: number,
): ViewTransform {
  const scale = Math.max(
    0.01,
    Math.min((size.width - 2 * margin) / thing.width, (size.height - 2 * margin) / thing.height),
  );
  return { scale, x: (size.width - thing.width * scale) / 2, y: (size.height - thing.height * scale) / 2 };
}

/**
 * Follows a pointer from its press until it is released. The window listens, not what was pressed: that may be replaced
 * under the pointer, as a keyframe is once it has moved by a frame.
 */
export function drag(
  event: ReactPointerEvent,
  move: (event: PointerEvent) => void,
  end?: (event: PointerEvent) => void,
): void {
  const { pointerId } = event;
  event.currentTarget.setPointerCapture(pointerId);
  const onMove = (e: PointerEvent): void => {
    if (e.pointerId === pointerId) move(e);
  };
  const stop = (e: PointerEvent): void => {
    if (e.pointerId !== pointerId) return;
    window.removeEventListener('pointermove', onMove, true);
    window.removeEventListener('pointerup', stop, true);
    window.removeEventListener('pointercancel', stop, true);
    end?.(e);
  };
  window.addEventListener('pointermove', onMove, true);
  window.addEventListener('pointerup', stop, true);
  window.addEventListener('pointercancel', stop, true);
}
