import { expect } from 'chai';
import { apply, cameraOfFraming, viewOfPlane } from './camera.ts';

describe('multiplane camera', () => {
  it('at rest moves nothing, whatever the depth', () => {
    for (const depth of [0.5, 1, 3, 40])
      expect(apply(viewOfPlane({ x: 0, y: 0, z: 0 }, depth)!, [120, -35])).to.deep.equal([120, -35]);
  });

  it('agrees with a pinhole: the world point p*d seen from (c, cz)', () => {
    const camera = { x: 40, y: -10, z: 0.8 };
    const [px, py, depth] = [200, 90, 3];
    const [x, y] = apply(viewOfPlane(camera, depth)!, [px, py]);
    expect(x).to.be.closeTo((px * depth - camera.x) / (depth - camera.z), 1e-9);
    expect(y).to.be.closeTo((py * depth - camera.y) / (depth - camera.z), 1e-9);
  });

  it('a push makes the near layer grow more than the far one', () => {
    const camera = { x: 0, y: 0, z: 0.5 };
    expect(viewOfPlane(camera, 2)!.scale).to.be.greaterThan(viewOfPlane(camera, 8)!.scale);
  });

  it('sees exactly its framing on the framed plane, and nothing behind the lens', () => {
    const camera = cameraOfFraming({ x: 100, y: -50, size: 0.8 }, 3);
    const corner = apply(viewOfPlane(camera, 3)!, [100 + 960 * 0.8, -50 + 540 * 0.8]);
    expect(corner[0]).to.be.closeTo(960, 1e-9);
    expect(corner[1]).to.be.closeTo(540, 1e-9);
    expect(viewOfPlane({ x: 0, y: 0, z: 4 }, 3)).to.equal(null);
  });
});
