import { tinted } from './field.ts';
import { cloudAt, cloudLattices, noiseAt, passedCells } from './noise.ts';
import { defineProp, set } from './prop.ts';

export const mist = defineProp({
  id: 'mist',
  name: 'Mist and cloud',
  family: 'weather',
  purpose: 'Billowing veils that drift; thin as haze or thick as cloud.',
  settings: {
    density: set.percent('Density', 0.45),
    contrast: set.percent('Contrast', 0.5),
    size: set.pixels('Size', 340, 4000, 20),
    drift: set.pixels('Drift', 1.6, 100, -100),
    billow: set.percent('Billow', 0.3, 4),
    top: set.percent('Fades at the top', 0.5),
    bottom: set.percent('Fades at the bottom', 0.25),
    colour: set.colour('Colour', 226, 230, 236, 0.85),
    seed: set.seed,
  },
  blend: 'normal',
  moves: ({ drift, billow }) => drift !== 0 || billow > 0,
  make({ density, contrast, size, drift, billow, top, bottom, colour, seed }, moment) {
    const { width, height, loop, frame } = moment;
    // So many cells across that the picture repeats where it ends.
    const [nx, ny] = [Math.max(2, Math.round(width / size)), Math.max(2, Math.round(height / size))];
    const along = passedCells(frame, (Math.abs(drift) / width) * nx, loop);
    const rounds =
      loop === null ? along.at : drift === 0 ? 0 : (frame / loop) * nx * Math.max(1, Math.round(along.cells / nx));
    const time = passedCells(frame, billow / 30, loop);
    const lattices = cloudLattices(seed, nx, ny, time.cells, 4);
    const z = billow === 0 ? 0 : time.at;
    const shift = -Math.sign(drift) * rounds;
    const gain = 1 + 4 * contrast;
    const level = 0.62 - 0.34 * density;
    const field = tinted(moment, Math.max(4, size / 44), colour, (x, y) => {
      const u = (x / width) * nx + shift;
      const v0 = (y / height) * ny;
      // Bent by itself, or the cells it is made of would be seen.
      const bend = noiseAt(lattices[0]!, u + 2.7, v0 + 1.3, z) - 0.5;
      const cloud = cloudAt(lattices, u + 0.9 * bend, v0 + 0.6 * bend, z);
      const seen = Math.max(0, Math.min(1, 0.5 + (cloud - level) * gain));
      const v = y / height;
      const fade = (1 - top * (1 - Math.min(1, v / 0.5))) * (1 - bottom * (1 - Math.min(1, (1 - v) / 0.5)));
      // Also where it is thick it is not even.
      const body = 0.55 + 0.9 * (cloud - 0.3);
      return Math.min(1, body) * seen * seen * (3 - 2 * seen) * Math.max(0, fade) * Math.min(1, density * 2.2);
    });
    return [field];
  },
});
