import { useEffect, useRef, useState, type ComponentProps, type PointerEvent, type ReactNode } from 'react';
import { valueAt } from '../../../core/motion/property.ts';
import type { DrawnPoint } from '../../../core/motion/keys.ts';
import { seenBox } from '../../../core/scene/seen-box.ts';
import type { Document } from '../../../core/document/document.ts';
import { setDrawnPath } from '../../../core/edits/key-edits.ts';
import { setProperty } from '../../../core/edits/layer-edits.ts';
import type { Layer } from '../../../core/document/layer.ts';
import { invert, transform } from '../../../core/scene/matrix.ts';
import { positionMovedBy } from '../../../core/scene/move.ts';
import { cameraAt, farToNear, layerMatrix } from '../../../core/scene/place.ts';
import type { Shot } from '../../../core/document/shot.ts';
import { frameLines, snap } from '../../../core/scene/snap.ts';
import { barOf, boxOf } from '../../../core/scene/source-pixels.ts';
import { useProject } from '../../data/project.ts';
import { isTyping } from '../../parts/keys.ts';
import { PaintedCanvas } from '../../parts/painted-canvas.tsx';
import { drag, useZoom } from '../../parts/zoom.ts';
import { FramingHandles } from './framing-handles.tsx';
import { MarkBrush, paintedSetting } from './props/mark-brush.tsx';
import { PropPlaces } from './props/prop-places.tsx';
import { frameNow, selectedLayers, useFrameNow, useStage, type Tool } from './stage-state.ts';
import { ColourPicker } from './view/colour-picker.tsx';
import { CutLines } from './view/cut-lines.tsx';
import { DepthBrush } from './view/depth-brush.tsx';
import { FollowedPoint, PointMarker } from './view/followed-point.tsx';
import { Guides } from './view/guides.tsx';
import { LayerHandles } from './view/layer-handles.tsx';
import { MotionPath } from './view/motion-path.tsx';
import { Overlays } from './view/overlays.tsx';
import { ShapeNumbers } from './shapes/shape-numbers.tsx';
import { ShapePoints } from './view/shape-points.tsx';
import { RegionHandles } from './view/region-handles.tsx';
import { useFacesOf } from './words/use-faces.ts';
import { BubbleTail } from './words/bubble-tail.tsx';
import { WriteInView } from './words/write-in-view.tsx';

type Camera = ReturnType<typeof cameraAt>;
const atRest: Camera = { x: 0, y: 0, z: 0 };
const nothingCaught = { x: null, y: null };
/** CSS pixels within which a dragged layer catches a line. */
const snapReach = 6;

/** The shot through the lens; with the lens selected, the scene at rest with its two Framings. */
export function StageView({ document, shot }: { document: Document; shot: Shot }) {
  const container = useRef<HTMLDivElement>(null);
  const {
    frame,
    selection,
    select,
    selectLayer,
    setPlaying,
    playing,
    tool,
    overlays,
    light,
    unfinished,
    pick,
    writing,
  } = useStage();
  const [caught, setCaught] = useState<{ x: number | null; y: number | null }>(nothingCaught);
  const framing = selection?.kind === 'camera';
  // Framings and depth are drawn on the scene at rest.
  const resting = framing || tool === 'depth';
  const zoom = useZoom(container, document.frame, framing ? 56 : 20, () => setPlaying(!playing));
  const { dispatch } = useProject();
  const lensAt = (at: number): Camera => (resting ? atRest : cameraAt(shot, at));
  const selected = selectedLayers(shot, selection);
  useComparison();
  // Where letters stand decides where what follows them has its handles.
  useFacesOf(document);
  const shown = unfinished ? withoutFinishes(document, shot.id, selected) : document;

  const moveLayers = (event: PointerEvent, grabbed: Layer, along: Layer[], frame: number): void => {
    const from = zoom.toThing(event.clientX, event.clientY);
    const movable = along.filter((layer) => !layer.locked);
    // All positions are taken from where they were, so that nothing adds up.
    const still = { shot, camera: lensAt(frame) };
    const gesture = `move ${grabbed.id} ${Date.now()}`;
    const box = seenBox(document, shot, grabbed, frame);
    const lines = overlays.snap ? linesToCatch(document, shot, movable, frame) : null;
    drag(
      event,
      (move) => {
        const to = zoom.toThing(move.clientX, move.clientY);
        let [dx, dy] = [to[0] - from[0], to[1] - from[1]];
        // Shift holds the move straight.
        if (move.shiftKey) [dx, dy] = Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy];
        else if (lines && box && !move.altKey && Math.hypot(dx, dy) > snapReach / zoom.view.scale) {
          const there = { left: box.left + dx, right: box.right + dx, top: box.top + dy, bottom: box.bottom + dy };
          const found = snap(there, lines, snapReach / zoom.view.scale);
          [dx, dy] = [dx + found.dx, dy + found.dy];
          setCaught(found);
        }
        for (const layer of movable) {
          const place = positionMovedBy(document, still.shot, layer, still.camera, frame, [dx, dy]);
          if (place) dispatch(setProperty(shot.id, layer.id, 'position', frame, place), gesture);
        }
      },
      () => setCaught(nothingCaught),
    );
  };

  /** While the shot plays, the hand draws where the layer goes. */
  const drawPath = (event: PointerEvent, layer: Layer, start: number): void => {
    const from = zoom.toThing(event.clientX, event.clientY);
    const began = performance.now();
    const drawn: DrawnPoint[] = [{ frame: start, at: valueAt(layer.position, start) }];
    const gesture = `draw ${layer.id} ${Date.now()}`;
    const { rate } = document.frame;
    const still = { ...shot };
    drag(
      event,
      (move) => {
        const to = zoom.toThing(move.clientX, move.clientY);
        let [dx, dy] = [to[0] - from[0], to[1] - from[1]];
        if (move.shiftKey) [dx, dy] = Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy];
        const now = Math.min(shot.length - 1, start + Math.floor(((performance.now() - began) / 1000) * rate));
        const place = positionMovedBy(document, still, layer, cameraAt(still, now), start, [dx, dy]);
        if (!place) return;
        const last = drawn.at(-1)!;
        if (now === last.frame) last.at = place;
        else drawn.push({ frame: now, at: place });
        useStage.getState().setFrame(now);
        // Shown as it is drawn; smoothed once it is done.
        dispatch(setDrawnPath(shot.id, layer.id, drawn, 1), gesture);
      },
      () => {
        dispatch(setDrawnPath(shot.id, layer.id, drawn, useStage.getState().smoothing), gesture);
        useStage.setState({ tool: 'move' });
        useStage.getState().setFrame(start);
      },
    );
  };

  const press = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    setPlaying(false);
    // Where it was stopped.
    const now = frameNow();
    const camera = lensAt(now);
    if (zoom.panning || framing) return zoom.startPan(event);
    const [x, y] = zoom.toThing(event.clientX, event.clientY);
    if (tool === 'path' && selected.length === 1) return drawPath(event, selected[0]!, now);
    // The selected layer keeps the pointer while it is under it, so that it can be moved below nearer ones.
    const under =
      selected.find((layer) => !event.shiftKey && contains(document, shot, layer, camera, now, x, y)) ??
      layerAt(document, shot, camera, now, x, y);
    if (!under) {
      if (!event.shiftKey) select(null);
      return;
    }
    if (event.shiftKey) return selectLayer(under.id, true);
    const within = selected.includes(under);
    if (!within) selectLayer(under.id);
    moveLayers(event, under, within ? selected : [under], now);
  };
  return (
    <section
      ref={container}
      data-testid="stage-view"
      data-view={`${zoom.view.scale},${zoom.view.x},${zoom.view.y}`}
      className={`relative min-w-0 touch-none overflow-hidden bg-field ${zoom.panning ? 'cursor-grab' : tool === 'path' ? 'cursor-crosshair' : ''}`}
      aria-label="View"
      onPointerDown={press}
      onDoubleClick={(event) => {
        const [x, y] = zoom.toThing(event.clientX, event.clientY);
        const under = layerAt(document, shot, lensAt(frame), frame, x, y);
        if (under?.source.kind !== 'text' || under.locked) return;
        selectLayer(under.id);
        useStage.setState({ writing: under.id });
      }}
    >
      <PlayedCanvas
        document={shown}
        shot={shot.id}
        view={zoom.view}
        size={zoom.size}
        atRest={resting}
        playing={playing}
        light={light}
        onion={overlays.onion && !playing ? selected.map((layer) => layer.id) : []}
        label="The shot at the playhead"
      />
      <svg className="pointer-events-none absolute inset-0 size-full">
        <Overlays document={document} zoom={zoom} caught={caught} />
        {!framing && <Guides document={document} shot={shot} zoom={zoom} />}
        {framing ? (
          <FramingHandles document={document} shot={shot} zoom={zoom} />
        ) : selected[0] && isMarking(tool, selected) ? (
          <AtPlayhead>
            {(frame) => {
              const props = { document, shot, layer: selected[0]!, zoom, frame };
              if (tool === 'depth') return <DepthBrush {...props} />;
              if (tool === 'marks') return <MarkBrush {...props} />;
              return tool === 'cut' ? <CutLines {...props} /> : <PointMarker {...props} />;
            }}
          </AtPlayhead>
        ) : (
          !playing &&
          selected.map((layer) => {
            const props = { document, shot, layer, zoom, frame };
            if (writing === layer.id && layer.source.kind === 'text') return <WriteInView key={layer.id} {...props} />;
            return (
              <g key={layer.id}>
                {selected.length === 1 && <MotionPath {...props} />}
                {layer.source.kind !== 'colour' && layer.source.kind !== 'grade' && (
                  <LayerHandles {...props} alone={selected.length === 1} />
                )}
                {selected.length === 1 && <RegionHandles {...props} />}
                {selected.length === 1 && layer.source.kind === 'prop' && <PropPlaces {...props} />}
                {selected.length === 1 && layer.source.kind === 'shape' && layer.source.made && (
                  <ShapeNumbers {...props} made={layer.source.made} />
                )}
                {selected.length === 1 && <FollowedPoint {...props} />}
                {selected.length === 1 && <BubbleTail {...props} />}
                {selected.length === 1 && tool === 'points' && layer.points && <ShapePoints {...props} />}
              </g>
            );
          })
        )}
      </svg>
      {pick && <ColourPicker onPick={pick} />}
      {tool === 'follow' && (
        <p className="pointer-events-none absolute inset-x-0 bottom-3 text-center text-[13px] text-white">
          Press on what is to be followed: a corner, a spot, something that looks the same from frame to frame.
        </p>
      )}
      {tool === 'path' && (
        <p className="pointer-events-none absolute inset-x-0 bottom-3 text-center text-[13px] text-white">
          Press on the view and lead the layer; the shot plays while you draw. Shift keeps the way straight.
        </p>
      )}
    </section>
  );
}

/** The canvas, which follows the playhead while it plays. */
function PlayedCanvas(props: Omit<ComponentProps<typeof PaintedCanvas>, 'frame'>) {
  return <PaintedCanvas {...props} frame={useFrameNow()} />;
}

/** What lies over the picture while it plays too. */
function AtPlayhead({ children }: { children: (frame: number) => ReactNode }) {
  return children(useFrameNow());
}

/** Whether the tool in the hand marks something on the layers that are selected. */
function isMarking(tool: Tool, selected: readonly Layer[]): boolean {
  if (tool === 'depth') return true;
  const [layer] = selected;
  if (tool === 'marks') return layer?.source.kind === 'prop' && !!paintedSetting(layer.source);
  return (tool === 'cut' || tool === 'follow') && selected.length === 1;
}

/** What a dragged layer may catch: the frame's own lines, and edges and middles of the layers that stay. */
function linesToCatch(document: Document, shot: Shot, moved: Layer[], frame: number) {
  const { width, height } = document.frame;
  const lines = frameLines(width, height);
  lines.x.push(...shot.guides.x);
  lines.y.push(...shot.guides.y);
  for (const layer of shot.layers) {
    if (layer.hidden || moved.includes(layer) || layer.source.kind === 'background') continue;
    const box = seenBox(document, shot, layer, frame);
    if (!box) continue;
    lines.x.push(box.left, (box.left + box.right) / 2, box.right);
    lines.y.push(box.top, (box.top + box.bottom) / 2, box.bottom);
  }
  return lines;
}

function contains(
  document: Document,
  shot: Shot,
  layer: Layer,
  camera: Camera,
  frame: number,
  x: number,
  y: number,
): boolean {
  if (layer.source.kind === 'group')
    return shot.layers.some((l) => l.group === layer.id && contains(document, shot, l, camera, frame, x, y));
  const box = boxOf(document, layer, frame);
  const matrix = layerMatrix(document, shot, layer, camera, frame);
  const { first, end } = barOf(shot, layer);
  if (!box || !matrix || layer.hidden || frame < first || frame >= end) return false;
  const [u, v] = transform(invert(matrix), x, y);
  return u >= box.x && v >= box.y && u <= box.x + box.width && v <= box.y + box.height;
}

/** The nearest layer under a point; of a folded group the group itself. */
function layerAt(
  document: Document,
  shot: Shot,
  camera: Camera,
  frame: number,
  x: number,
  y: number,
): Layer | undefined {
  const found = farToNear(shot.layers, frame)
    .reverse()
    .find(
      (layer) => !layer.locked && layer.source.kind !== 'group' && contains(document, shot, layer, camera, frame, x, y),
    );
  const group = found?.group && shot.layers.find((l) => l.id === found.group);
  return group && group.source.kind === 'group' && !group.source.open ? group : found;
}

/** While U is held, selected layers are seen without their finishes. */
function useComparison(): void {
  useEffect(() => {
    const set = (event: KeyboardEvent, unfinished: boolean): void => {
      if (event.key.toLowerCase() === 'u' && !event.ctrlKey && !event.metaKey && !isTyping(event))
        useStage.setState({ unfinished });
    };
    const down = (event: KeyboardEvent): void => set(event, true);
    const up = (event: KeyboardEvent): void => set(event, false);
    const leave = (): void => useStage.setState({ unfinished: false });
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    window.addEventListener('blur', leave);
    return () => {
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      window.removeEventListener('blur', leave);
      leave();
    };
  }, []);
}

/** The same document with the finishes of some layers left out, to compare. */
function withoutFinishes(document: Document, shot: string, layers: readonly Layer[]): Document {
  const ids = new Set(layers.map((layer) => layer.id));
  const plain = (layer: Layer): Layer => (ids.has(layer.id) ? { ...layer, finishes: [] } : layer);
  const shots = document.shots.map((s) => (s.id === shot ? { ...s, layers: s.layers.map(plain) } : s));
  return { ...document, shots };
}
