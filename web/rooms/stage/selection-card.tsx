import { ArrowLeftRight, Scissors, Trash2 } from 'lucide-react';
import { useNavigate } from 'react-router';
import { easingNames, type Easing } from '../../../core/motion/easing.ts';
import { valueAt, type Point, type Property } from '../../../core/motion/property.ts';
import {
  blendModes,
  type BlendMode,
  type Document,
  type Framing,
  type Layer,
  type Shot,
} from '../../../core/scene/document.ts';
import {
  addKey,
  removeKey,
  removeLayer,
  setBlend,
  setCameraEasing,
  setDepth,
  setFraming,
  setKeyEasing,
  setProperty,
  swapFramings,
  propertyNames,
  type Animated,
} from '../../../core/scene/layer-edits.ts';
import { setFrameRate, setShotLength } from '../../../core/scene/project-edits.ts';
import { useProject } from '../../data/project.ts';
import { Button, IconButton } from '../../parts/button.tsx';
import { NumberField } from '../../parts/number-field.tsx';
import { Fastening } from './fastening.tsx';
import { useStage } from './stage-state.ts';

/** One card about what is selected. */
export function SelectionCard({ document, shot }: { document: Document; shot: Shot }) {
  const selection = useStage((state) => state.selection);
  const layer = selection?.kind === 'layer' ? shot.layers.find((l) => l.id === selection.id) : undefined;
  return (
    <aside className="overflow-auto border-l border-line p-3" aria-label="Selection">
      {layer ? (
        <LayerCard document={document} shot={shot} layer={layer} />
      ) : selection?.kind === 'camera' ? (
        <CameraCard shot={shot} />
      ) : (
        <ShotCard document={document} shot={shot} />
      )}
    </aside>
  );
}

function ShotCard({ document, shot }: { document: Document; shot: Shot }) {
  const { dispatch } = useProject();
  const { rate } = document.frame;
  return (
    <>
      <h2 className="mb-2 font-semibold">{shot.name}</h2>
      <NumberField
        label="Length"
        unit="s"
        digits={2}
        step={0.5}
        min={1 / rate}
        max={120}
        value={shot.length / rate}
        onChange={(v) => dispatch(setShotLength(shot.id, v * rate))}
      />
      <NumberField
        label="Frames a second"
        digits={2}
        min={1}
        max={120}
        value={rate}
        onChange={(v) => dispatch(setFrameRate(v))}
      />
      <p className="mt-3 text-[12px] text-ink-2">
        Select a layer on the rack or in the view to place it, or the lens to frame the move.
      </p>
    </>
  );
}

function CameraCard({ shot }: { shot: Shot }) {
  const { dispatch } = useProject();
  const { first, last, easing } = shot.camera;
  const fields = (which: 'first' | 'last', framing: Framing) => {
    const change = (part: Partial<Framing>): void => dispatch(setFraming(shot.id, which, { ...framing, ...part }));
    return (
      <section className="mb-3">
        <h3 className="text-[13px] font-semibold text-pine">{which === 'first' ? 'First frame' : 'Last frame'}</h3>
        <NumberField label="X" unit="px" value={framing.x} onChange={(x) => change({ x })} />
        <NumberField label="Y" unit="px" value={framing.y} onChange={(y) => change({ y })} />
        <NumberField
          label="Size"
          unit="%"
          digits={1}
          value={framing.size * 100}
          min={5}
          max={400}
          onChange={(v) => change({ size: v / 100 })}
        />
      </section>
    );
  };
  return (
    <>
      <h2 className="mb-2 font-semibold">Lens</h2>
      {fields('first', first)}
      {fields('last', last)}
      <EasingChoice value={easing} onChange={(next) => dispatch(setCameraEasing(shot.id, next))} />
      <Button
        className="mt-3 w-full"
        icon={<ArrowLeftRight size={14} />}
        onClick={() => dispatch(swapFramings(shot.id))}
      >
        Swap first and last
      </Button>
    </>
  );
}

function EasingChoice({ value, onChange }: { value: Easing; onChange(easing: Easing): void }) {
  return (
    <label className="flex h-7 items-center gap-2 text-[13px]">
      <span className="flex-1 text-ink-2">Easing</span>
      <select
        className="w-28 rounded-md border border-line bg-white px-1.5 py-0.5 text-[12px]"
        value={typeof value === 'string' ? value : 'own'}
        onChange={(event) => onChange(event.target.value as Easing)}
      >
        {typeof value !== 'string' && <option value="own">own curve</option>}
        {easingNames.map((name) => (
          <option key={name} value={name}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

function LayerCard({ document, shot, layer }: { document: Document; shot: Shot; layer: Layer }) {
  const { id, dispatch } = useProject();
  const { frame, key, select, selectKey } = useStage();
  const navigate = useNavigate();
  const [x, y] = valueAt(layer.position, frame);
  const fit = Math.max(document.frame.width, document.frame.height);
  const set = <P extends Animated>(property: P, value: P extends 'position' ? Point : number): void =>
    dispatch(setProperty(shot.id, layer.id, property, frame, value));
  const piece =
    layer.source.kind === 'piece'
      ? document.pieces.find((p) => layer.source.kind === 'piece' && p.id === layer.source.piece)
      : undefined;
  const mark = (property: Animated) => <KeyToggle shot={shot} layer={layer} property={property} frame={frame} />;
  const chosenKey =
    key && 'keys' in layer[key.property]
      ? (layer[key.property] as { keys: { frame: number; easing: Easing }[] }).keys.find((k) => k.frame === key.frame)
      : undefined;
  return (
    <>
      <h2 className="mb-2 truncate font-semibold" title={layer.name}>
        {layer.name}
      </h2>
      <h3 className="text-[13px] font-semibold text-pine">Place</h3>
      <NumberField
        label="Depth"
        digits={2}
        step={0.1}
        min={0.2}
        max={100}
        value={layer.depth}
        disabled={layer.locked}
        onChange={(v) => dispatch(setDepth(shot.id, layer.id, v))}
        after={<span className="size-6" />}
      />
      <NumberField
        label="X"
        unit="px"
        digits={1}
        min={-20 * fit}
        max={20 * fit}
        value={x}
        disabled={layer.locked}
        onChange={(v) => set('position', [v, y])}
        after={mark('position')}
      />
      <NumberField
        label="Y"
        unit="px"
        digits={1}
        min={-20 * fit}
        max={20 * fit}
        value={y}
        disabled={layer.locked}
        onChange={(v) => set('position', [x, v])}
        after={<span className="size-6" />}
      />
      <NumberField
        label="Scale"
        unit="%"
        digits={1}
        min={0.5}
        max={2000}
        value={valueAt(layer.scale, frame) * 100}
        disabled={layer.locked}
        onChange={(v) => set('scale', v / 100)}
        after={mark('scale')}
      />
      <NumberField
        label="Rotation"
        unit="°"
        digits={1}
        value={valueAt(layer.rotation, frame)}
        disabled={layer.locked}
        onChange={(v) => set('rotation', v)}
        after={mark('rotation')}
      />
      <Fastening shot={shot} layer={layer} frame={frame} />
      <h3 className="mt-3 text-[13px] font-semibold text-pine">Look</h3>
      <NumberField
        label="Opacity"
        unit="%"
        min={0}
        max={100}
        value={valueAt(layer.opacity, frame) * 100}
        disabled={layer.locked}
        onChange={(v) => set('opacity', v / 100)}
        after={mark('opacity')}
      />
      <BlendChoice shot={shot} layer={layer} />
      {key && chosenKey && (
        <section className="mt-3">
          <h3 className="text-[13px] font-semibold text-pine">
            {propertyNames[key.property]} keyframe at {key.frame}
          </h3>
          <EasingChoice
            value={chosenKey.easing}
            onChange={(next) => dispatch(setKeyEasing(shot.id, layer.id, key.property, key.frame, next))}
          />
          <Button
            className="mt-1 w-full"
            onClick={() => {
              dispatch(removeKey(shot.id, layer.id, key.property, key.frame));
              selectKey(null);
            }}
          >
            Delete keyframe
          </Button>
        </section>
      )}
      {piece && (
        <>
          <h3 className="mt-3 text-[13px] font-semibold text-pine">Edge</h3>
          <Button
            className="mt-1 w-full"
            icon={<Scissors size={14} />}
            onClick={() => void navigate(`/project/${id}/cut/${piece.picture}/${piece.id}`)}
          >
            Open its cut
          </Button>
        </>
      )}
      <Button
        look="danger"
        className="mt-4 w-full"
        icon={<Trash2 size={14} />}
        onClick={() => {
          dispatch(removeLayer(shot.id, layer.id));
          select(null);
        }}
      >
        Delete layer
      </Button>
    </>
  );
}

/** How the layer is mixed with what lies behind it, by the names of W3C Compositing and Blending. */
function BlendChoice({ shot, layer }: { shot: Shot; layer: Layer }) {
  const { dispatch } = useProject();
  return (
    <label className="flex h-7 items-center gap-2 text-[13px]">
      <span className="flex-1 text-ink-2">Blend mode</span>
      <select
        className="w-28 rounded-md border border-line bg-white px-1.5 py-0.5 text-[12px]"
        value={layer.blend}
        disabled={layer.locked}
        onChange={(event) => dispatch(setBlend(shot.id, layer.id, event.target.value as BlendMode))}
      >
        {blendModes.map((mode) => (
          <option key={mode} value={mode}>
            {mode}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Sets or removes a keyframe for a property at the playhead. */
function KeyToggle({ shot, layer, property, frame }: { shot: Shot; layer: Layer; property: Animated; frame: number }) {
  const { dispatch } = useProject();
  const current = layer[property] as Property<number> | Property<Point>;
  const there = 'keys' in current && current.keys.some((key) => key.frame === frame);
  const name = propertyNames[property];
  return (
    <IconButton
      label={there ? `Delete ${name} keyframe here` : `${name} keyframe here`}
      pressed={there}
      disabled={layer.locked}
      className="!size-6"
      onClick={() =>
        dispatch(
          there
            ? removeKey(shot.id, layer.id, property, frame)
            : addKey(shot.id, layer.id, property, frame, valueAt(current as Property<number>, frame) as never),
        )
      }
    >
      <KeyTab filled={there} animated={'keys' in current} />
    </IconButton>
  );
}

/** A small upright tab: filled where there is a keyframe, outlined where the property has keyframes elsewhere. */
function KeyTab({ filled, animated }: { filled: boolean; animated: boolean }) {
  return (
    <svg width={9} height={14} aria-hidden>
      <path
        d="M1.5 4.5 4.5 1.5 7.5 4.5V12.5H1.5Z"
        fill={filled ? '#0e5b50' : 'none'}
        stroke={filled || animated ? '#0e5b50' : '#5b6a70'}
        strokeWidth={1.4}
      />
    </svg>
  );
}
