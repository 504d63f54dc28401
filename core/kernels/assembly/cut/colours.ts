/* The loops over all samples of core/cut/colour-model.ts. Samples are three f32 each, labels a byte each. */

/** Numbers (f64) that are summed for a cluster, and that describe a component. */
const EACH: i32 = 10;

/** Sums of each of so many clusters: weight, three colours, six products. */
export function sumClusters(colours: usize, weights: usize, labels: usize, count: i32, sums: usize, clusters: i32): void {
  memory.fill(sums, 0, <usize>(clusters * EACH) << 3);
  for (let i = 0; i < count; i++) {
    const at = sums + (<usize>(<i32>load<u8>(labels + i) * EACH) << 3);
    const k = <f64>load<f32>(weights + (<usize>i << 2));
    const p = colours + <usize>i * 12;
    const x = <f64>load<f32>(p);
    const y = <f64>load<f32>(p, 4);
    const z = <f64>load<f32>(p, 8);
    const kx = k * x;
    const ky = k * y;
    const kz = k * z;
    store<f64>(at, load<f64>(at) + k);
    store<f64>(at, load<f64>(at, 8) + kx, 8);
    store<f64>(at, load<f64>(at, 16) + ky, 16);
    store<f64>(at, load<f64>(at, 24) + kz, 24);
    store<f64>(at, load<f64>(at, 32) + kx * x, 32);
    store<f64>(at, load<f64>(at, 40) + kx * y, 40);
    store<f64>(at, load<f64>(at, 48) + kx * z, 48);
    store<f64>(at, load<f64>(at, 56) + ky * y, 56);
    store<f64>(at, load<f64>(at, 64) + ky * z, 64);
    store<f64>(at, load<f64>(at, 72) + kz * z, 72);
  }
}

/** Of the samples of one cluster those beyond a plane become another's. @param plane a point of it and its direction, six f64 */
export function splitCluster(colours: usize, labels: usize, count: i32, from: i32, to: i32, plane: usize): void {
  const mx = load<f64>(plane);
  const my = load<f64>(plane, 8);
  const mz = load<f64>(plane, 16);
  const ax = load<f64>(plane, 24);
  const ay = load<f64>(plane, 32);
  const az = load<f64>(plane, 40);
  for (let i = 0; i < count; i++) {
    if (<i32>load<u8>(labels + i) != from) continue;
    const p = colours + <usize>i * 12;
    const x = <f64>load<f32>(p) - mx;
    const y = <f64>load<f32>(p, 4) - my;
    const z = <f64>load<f32>(p, 8) - mz;
    if (x * ax + y * ay + z * az > 0) store<u8>(labels + i, to);
  }
}

/** Each sample goes to the component that it is likeliest of. */
export function assignSamples(colours: usize, labels: usize, count: i32, parameters: usize, components: i32): void {
  for (let i = 0; i < count; i++) {
    const p = colours + <usize>i * 12;
    const r = <f64>load<f32>(p);
    const g = <f64>load<f32>(p, 4);
    const b = <f64>load<f32>(p, 8);
    let best = -Infinity;
    let label = 0;
    for (let k = 0; k < components; k++) {
      const at = parameters + (<usize>(k * EACH) << 3);
      const x = r - load<f64>(at);
      const y = g - load<f64>(at, 8);
      const z = b - load<f64>(at, 16);
      const v =
        load<f64>(at, 72) -
        0.5 *
          (x * (load<f64>(at, 24) * x + 2 * (load<f64>(at, 32) * y + load<f64>(at, 40) * z)) +
            y * (load<f64>(at, 48) * y + 2 * load<f64>(at, 56) * z) +
            z * z * load<f64>(at, 64));
      if (v > best) {
        best = v;
        label = k;
      }
    }
    store<u8>(labels + i, label);
  }
}
