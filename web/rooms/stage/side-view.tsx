import { scaleLinear } from 'd3-scale';
import type { Camera } from '../../../core/depth/camera.ts';
import { cameraAt } from '../../../core/scene/place.ts';
import { slabOf } from '../../../core/scene/slab.ts';
import type { Shot } from '../../../core/document/shot.ts';
import type { RackEntry } from './rack-order.ts';

const width = 232;
const height = 64;
/** Distances are drawn by their closeness, so that the horizon has room too. */
const share = (distance: number): number => distance / (distance + 4);

interface SideViewProps {
  shot: Shot;
  camera: Camera;
  entries: RackEntry[];
  chosen: ReadonlySet<string>;
  frame: number;
}

/** The scene from its side: the lens with what it sees, the way it travels, every plane at its distance, and the focus. */
export function SideView({ shot, camera, entries, chosen, frame }: SideViewProps) {
  const zs = [0, shot.length - 1].map((frame) => cameraAt(shot, frame).z);
  const near = Math.min(0, camera.z, ...zs);
  const across = scaleLinear([share(0), share(40)], [26, width - 8]);
  const x = (z: number): number => (z >= 0 ? across(share(z)) : 26 + z * 4 * (near < -4 ? 4 / -near : 1));
  const middle = height / 2;
  const half = (z: number): number =>
    Math.max(1, Math.min(middle - 4, ((x(z) - x(camera.z)) / (width - 34)) * (middle - 4)));
  const focus = camera.focus;
  const far = x(40);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="mx-2 mb-1 shrink-0 rounded-md bg-paper-2"
      role="img"
      aria-label={`Side view: the lens at ${camera.z.toFixed(1)}, ${entries.length} planes`}
    >
      <path
        d={`M${x(camera.z)} ${middle}L${far} ${middle - half(40)}V${middle + half(40)}Z`}
        fill="#f5f2eb"
        stroke="#d3ccbd"
      />
      {entries.map(({ layer }) => {
        const slab = slabOf(layer, frame);
        if (!slab) return null;
        const [a, b] = [x(slab.near), x(slab.far)];
        return (
          <path
            key={`slab ${layer.id}`}
            d={`M${a} ${middle - half(slab.near)}L${b} ${middle - half(slab.far)}V${middle + half(slab.far)}L${a} ${middle + half(slab.near)}Z`}
            fill={chosen.has(layer.id) ? '#0e5b50' : '#5b6a70'}
            fillOpacity={0.22}
          >
            <title>{layer.name}</title>
          </path>
        );
      })}
      {entries.map(({ layer, depth }) => (
        <line
          key={layer.id}
          x1={x(depth)}
          x2={x(depth)}
          y1={middle - half(depth) - 3}
          y2={middle + half(depth) + 3}
          stroke={chosen.has(layer.id) ? '#0e5b50' : '#5b6a70'}
          strokeWidth={chosen.has(layer.id) ? 3 : 1.5}
          strokeDasharray={layer.hidden ? '3 3' : undefined}
        />
      ))}
      {focus && (
        <line x1={x(focus.depth)} x2={x(focus.depth)} y1={2} y2={height - 2} stroke="#d99a00" strokeDasharray="4 3" />
      )}
      <line x1={x(zs[0]!)} x2={x(zs[1]!)} y1={middle} y2={middle} stroke="#d99a00" strokeWidth={2} />
      <path d={`M${x(camera.z) - 9} ${middle - 6}h9l4 -3v18l-4 -3h-9Z`} fill="#1c2a30" />
    </svg>
  );
}
